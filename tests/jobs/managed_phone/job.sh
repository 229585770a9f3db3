# The view gets a folder, which the project's groups mirror; then the whole application goes, and what it shares.
builds
clean
does move phone/App/tide_view.c phone/App/tide_view.h phone/App/Views/
builds "a folder and its group"
has phone/Gauges.xcodeproj/project.pbxproj "path = Views;"
lacks phone/Gauges.xcodeproj/project.pbxproj "Views/tide_view"
clean
does move firmware shared/firmware
builds "what is shared moved"
has phone/Gauges.xcodeproj/project.pbxproj "../shared/firmware/packet.h"
does move phone apps/phone
builds "the application moved"
has apps/phone/Gauges.xcodeproj/project.pbxproj "../../shared/firmware"
clean
does undo
does undo
taken_back
