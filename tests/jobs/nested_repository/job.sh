# The nested repository goes to where others will stand beside it.
builds
clean
does move crclib third_party/crc
builds "moved"
has .gitmodules "path = third_party/crc"
has Makefile "-Ithird_party/crc"
has README.md "(third_party/crc/crc.h)"
git submodule status | grep -q third_party/crc || fault "git does not know it at its new place"
clean
does move src firmware
builds "what uses it"
does undo
taken_back
git submodule status | grep -q ' crclib' || fault "git does not know it at its old place"
