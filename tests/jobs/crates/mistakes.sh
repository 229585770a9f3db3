# A crate went by hand.
mkdir crates
mv decoder crates/decoder
breaks
finds dangling Cargo.toml
finds dangling replay/Cargo.toml
does catch-up
builds
clean

# A new crate was made by copying, and no workspace takes it in.
as_before
cp -r frames wire
sed -i 's/"frames"/"wire"/' wire/Cargo.toml
(cd wire && ! /usr/bin/cargo build --offline 2>/dev/null)
finds outside-workspace wire/Cargo.toml

# A module went, its line did not.
as_before
mkdir decoder/src/radio
mv decoder/src/level.rs decoder/src/radio/level.rs
breaks
finds dangling decoder/src/lib.rs
