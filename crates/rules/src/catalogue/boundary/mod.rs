//! Rules of the concern `boundary`.

pub(super) mod banned_call;
pub(super) mod banned_import;
pub(super) mod banned_member;
pub(super) mod local_import;
pub(super) mod wildcard_import;

use std::borrow::Cow;

/// A path as settings write it, with dots between its names.
fn dotted(path: &str) -> Cow<'_, str> {
    if path.contains("::") { Cow::Owned(path.replace("::", ".")) } else { Cow::Borrowed(path) }
}
