//! Rules of the concern `portable`.

pub(super) mod dialect_feature;
pub(super) mod letter_case_clash;
pub(super) mod version_feature;
