use crate::level::level;

pub fn read() -> u8 {
    level(&frames::Frame { bytes: [7, 0] })
}
