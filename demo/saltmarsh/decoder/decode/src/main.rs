//! Prints the levels of the frames that it is given.

fn main() {
    for frame in std::env::args().skip(1) {
        match saltmarsh_tide::level::read(&frame) {
            Some(level) => println!("{:.2} m", level.in_metres()),
            None => println!("not a frame"),
        }
    }
}
