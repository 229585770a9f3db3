# A source went by hand.
mkdir phone/App/Views
mv phone/App/tide_view.c phone/App/tide_view.h phone/App/Views/
breaks
finds dangling phone/Gauges.xcodeproj/project.pbxproj
does catch-up
builds
clean

# A source was added and never listed.
as_before
echo "int one;" >phone/App/one.c
finds unlisted phone/Gauges.xcodeproj/project.pbxproj
does check --mend unlisted
has phone/Gauges.xcodeproj/project.pbxproj "one.c in Sources"

# The settings file went, and only the project's settings name it.
as_before
mkdir phone/App/Support
mv phone/App/Info.plist phone/App/Support/
finds dangling phone/Gauges.xcodeproj/project.pbxproj
does catch-up
has phone/Gauges.xcodeproj/project.pbxproj "Support/Info.plist"
clean

# The list names a file that lies outside of the tree.
as_before
sed -i 's|path = ../firmware/packet.h|path = ../../elsewhere/packet.h|' phone/Gauges.xcodeproj/project.pbxproj
finds outside-root phone/Gauges.xcodeproj/project.pbxproj
