//! Rules of the concern `naming`.

pub(super) mod async_suffix;
pub(super) mod banned_name;
pub(super) mod constant_name;
pub(super) mod file_name;
mod form;
pub(super) mod function_name;
pub(super) mod member_name;
pub(super) mod parameter_name;
mod script;
pub(super) mod too_short_name;
pub(super) mod type_name;
pub(super) mod variable_name;
