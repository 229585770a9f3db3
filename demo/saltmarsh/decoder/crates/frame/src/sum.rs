/// The sum of all digits.
pub(super) fn of(digits: &str) -> u32 {
    digits.chars().filter_map(|digit| digit.to_digit(10)).sum()
}
