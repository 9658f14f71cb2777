//! Rules of the concern `clarity`.

pub(super) mod magic_number;
