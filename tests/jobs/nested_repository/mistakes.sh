# It went by mv alone, and git still looks for it at its old place.
mkdir third_party
mv crclib third_party/crc
breaks
finds dangling Makefile
finds dangling README.md
SAID=$(yc check 2>&1) || true
says "third_party/crc"

# A clone that was not filled is complete but for one command.
as_before
git clone -q . ../clone
cd ../clone
SAID=$(yc check 2>&1) || true
says "git submodule update --init"
cd ../tree
