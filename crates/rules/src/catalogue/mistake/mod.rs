//! Rules of the concern `mistake`.

pub(super) mod argument_count;
pub(super) mod assigned_condition;
pub(super) mod dropped_comparison;
pub(super) mod forgotten_await;
pub(super) mod identity_of_literal;
pub(super) mod ignored_result;
pub(super) mod list_files_by_glob;
pub(super) mod masked_status;
pub(super) mod maybe_unset;
pub(super) mod mutable_default;
pub(super) mod raw_read;
pub(super) mod repeated_condition;
pub(super) mod repeated_key;
pub(super) mod repeated_parameter;
pub(super) mod same_branches;
pub(super) mod same_operands;
pub(super) mod swallowed_error;
pub(super) mod unchecked_cd;
pub(super) mod undefined_name;
pub(super) mod unknown_keyword;
pub(super) mod unquoted_arguments;
pub(super) mod unquoted_expansion;
