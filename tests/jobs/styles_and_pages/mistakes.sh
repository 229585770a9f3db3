# A picture went by hand.
mkdir pictures
mv images/map.svg pictures/
breaks
finds dangling index.html
finds dangling pages/about.html
does catch-up
builds
clean

# A partial went by hand.
as_before
mkdir scss/base
mv scss/parts/_colours.scss scss/base/
breaks
finds dangling scss/site.scss
finds dangling scss/parts/_header.scss
does catch-up
builds
clean
