//! Rules of the concern `leftover`.

pub(super) mod unreachable_code;
pub(super) mod unused_import;
pub(super) mod unused_variable;
