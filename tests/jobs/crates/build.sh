rm -f Cargo.lock
cargo build --offline --workspace
cargo run --offline -q -p replay
