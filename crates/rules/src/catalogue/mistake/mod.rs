//! Rules of the concern `mistake`.

pub(super) mod identity_of_literal;
pub(super) mod mutable_default;
pub(super) mod repeated_key;
pub(super) mod repeated_parameter;
pub(super) mod swallowed_error;
pub(super) mod undefined_name;
