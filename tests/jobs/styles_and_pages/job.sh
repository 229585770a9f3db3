# Pictures under one roof, styles beside them, the pages into a folder, a partial made a folder.
builds
clean
does move images assets/images
builds "pictures under assets"
has scss/site.scss 'url("../assets/images/wave.svg")'
has scss/parts/_header.scss 'url("../assets/images/icon.svg")'
does move scss assets/scss
builds "styles under assets"
has package.json "assets/scss/site.scss css/site.css"
does move assets/scss/parts/_header.scss assets/scss/parts/header/_index.scss
builds "a partial made a folder"
does move index.html pages site/
builds "pages in a folder"
has site/index.html 'href="#levels"'
has site/index.html 'href="../css/site.css"'
clean
does undo
does undo
does undo
taken_back
