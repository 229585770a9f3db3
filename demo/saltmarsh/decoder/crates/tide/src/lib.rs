//! Water levels from packets.
//!
//! ```
//! use saltmarsh_tide::level;
//! assert_eq!(level::read("12*3"), Some(level::Level(12)));
//! ```

/// What a gauge read, in centimetres.
pub mod level;
pub mod water;

pub use level::Level;
