//! Rules of the concern `syntax`.

pub(super) mod broken_syntax;
pub(super) mod nested_too_deep;
pub(super) mod stray_end_tag;
pub(super) mod unclosed_element;
