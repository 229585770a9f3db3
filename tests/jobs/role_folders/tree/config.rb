# Where the style compiler finds what.
css_dir = "public/css"
sass_dir = "styles"
images_dir = "pictures"
fonts_dir = "fonts"
relative_assets = true
