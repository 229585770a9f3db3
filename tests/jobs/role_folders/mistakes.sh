# The folder went, the role did not.
mkdir assets
mv pictures assets/
breaks
finds dangling config.rb
does catch-up
builds
clean

# A picture went from its role's folder.
as_before
mkdir other
mv pictures/icons/wave.svg other/
breaks
finds dangling styles/site.scss
