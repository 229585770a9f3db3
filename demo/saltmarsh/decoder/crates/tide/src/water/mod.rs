pub mod salt;

pub const CENTIMETRES: f64 = 100.0;
