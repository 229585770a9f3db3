fn main() {
    assert!(decoder::radio::read() == 7 && !decoder::TABLE.is_empty());
}
