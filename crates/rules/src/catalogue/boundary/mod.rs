//! Rules of the concern `boundary`.

pub(super) mod banned_call;
pub(super) mod banned_import;
pub(super) mod banned_member;
pub(super) mod local_import;
pub(super) mod wildcard_import;
