/// What salt adds to a level.
pub struct Salt(pub i32);
