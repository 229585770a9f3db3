use frames::Frame;

pub fn level(frame: &Frame) -> u8 {
    frame.bytes[0]
}
