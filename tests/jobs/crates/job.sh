# Crates go under one roof, the program apart; then a module gets a folder, and one crate another name of its folder.
builds
clean
does move decoder frames crates/
does move replay tools/replay
builds "crates regrouped"
has Cargo.toml '"crates/decoder"'
has tools/replay/Cargo.toml 'path = "../../crates/decoder"'
does move crates/decoder/src/radio.rs crates/decoder/src/radio/mod.rs
does move crates/decoder/src/level.rs crates/decoder/src/radio/level.rs
builds "a module in a folder"
does move crates/frames crates/wire
builds "another name"
clean
does undo
does undo
does undo
does undo
taken_back
