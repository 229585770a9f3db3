pub struct Frame {
    pub bytes: [u8; 2],
}
