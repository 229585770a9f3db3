# A flat folder becomes src/ and include/; then a part of it gets a folder, and a file another name.
builds
clean
does move tidectl.c level.c radio.c crc.c crc_table.inc src/
builds "sources in src/"
does move level.h radio.h crc.h include/
builds "headers in include/"
does move test_level.c tests/
builds "the test in tests/"
does move src/radio.c src/net/link.c
does move include/radio.h include/net/radio.h
builds "the radio in a folder of its own"
has README.md "(src/crc.c)"
clean
does undo
does undo
does undo
does undo
taken_back
