# Debian's own, which needs no settings of a home folder.
PATH=/usr/bin:$PATH
rm -f Cargo.lock
cargo build --offline --workspace
cargo run --offline -q -p replay
