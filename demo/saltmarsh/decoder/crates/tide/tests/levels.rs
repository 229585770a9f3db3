use saltmarsh_tide::level::{read, Level};

const FRAMES: &str = include_str!("frames.txt");

#[test]
fn levels() {
    let levels: Vec<Level> = FRAMES.lines().filter_map(read).collect();
    assert_eq!(levels, [Level(12), Level(40)]);
}
