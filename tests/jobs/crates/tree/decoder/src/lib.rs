//! Packets of the tide gauges.
pub mod level;
pub mod radio;

pub const TABLE: &str = include_str!("../data/stations.csv");
