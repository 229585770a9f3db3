use super::water::salt::Salt;
use crate::water;

#[derive(Debug, PartialEq)]
pub struct Level(pub i32);

impl Level {
    pub fn in_metres(&self) -> f64 {
        f64::from(self.0) / water::CENTIMETRES
    }

    pub(super) fn with(self, salt: Salt) -> Self {
        Level(self.0 + salt.0)
    }
}

pub fn read(frame: &str) -> Option<Level> {
    frame::number(frame).map(|number| Level(number).with(Salt(0)))
}
