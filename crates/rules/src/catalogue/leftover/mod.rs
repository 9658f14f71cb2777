//! Rules of the concern `leftover`.

pub(super) mod empty_attribute;
pub(super) mod empty_block;
pub(super) mod empty_rule;
mod import_removal;
pub(super) mod obsolete_element;
pub(super) mod pointless_import;
mod private_binding;
pub(super) mod repeated_import;
pub(super) mod unreachable_code;
pub(super) mod unused_anchor;
pub(super) mod unused_declaration;
pub(super) mod unused_export;
pub(super) mod unused_function;
pub(super) mod unused_import;
pub(super) mod unused_member;
pub(super) mod unused_namespace;
pub(super) mod unused_variable;
