//! Rules of the concern `portable`.

pub(super) mod dialect_feature;
