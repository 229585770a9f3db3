# A folder gets a script of its own, then goes elsewhere as a whole, and what it gave away is taken back.
builds
clean
does carve radio
builds "radio with a script of its own"
has meson.build "subdir('radio')"
does move radio parts/radio
builds "radio in parts/"
has meson.build "subdir('parts/radio')"
does move common parts/common
builds "common in parts/"
clean
does undo
does undo
does carve --fold radio
builds "folded back"
