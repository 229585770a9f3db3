# The folders with roles go under one roof; what the helpers name in them follows the settings and nothing else.
builds
clean
does move pictures fonts assets/
builds "assets"
has config.rb 'images_dir = "assets/pictures"'
has config.rb 'fonts_dir = "assets/fonts"'
has styles/site.scss 'image-url("icons/wave.svg")'
does move styles assets/styles
builds "styles"
has config.rb 'sass_dir = "assets/styles"'
does move assets/pictures/icons/wave.svg assets/pictures/waves/high.svg
builds "a picture renamed"
has assets/styles/site.scss 'image-url("waves/high.svg")'
clean
does undo
does undo
taken_back
