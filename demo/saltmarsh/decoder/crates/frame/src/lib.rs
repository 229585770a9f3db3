//! Takes the frames apart that gauges send.

mod sum;

/// A number that a frame holds, if its check sum is right.
pub fn number(frame: &str) -> Option<i32> {
    let (digits, check) = frame.split_once('*')?;
    let number = digits.parse().ok()?;
    (sum::of(digits) == check.parse::<u32>().ok()?).then_some(number)
}
