//! Rules of the concern `clarity`.

pub(super) mod branch_count;
pub(super) mod compare_with_boolean;
pub(super) mod deep_nesting;
pub(super) mod equality_chain;
pub(super) mod few_methods;
pub(super) mod file_placement;
pub(super) mod float_layout;
pub(super) mod id_selector;
pub(super) mod important_flag;
mod known_number;
pub(super) mod long_file;
pub(super) mod long_function;
pub(super) mod magic_number;
pub(super) mod many_parameters;
pub(super) mod many_returns;
pub(super) mod many_types_in_file;
pub(super) mod missing_type;
pub(super) mod mixed_colour_case;
pub(super) mod needless_lambda;
pub(super) mod needless_template;
pub(super) mod negated_condition;
pub(super) mod nested_conditional;
pub(super) mod nested_rules;
pub(super) mod repeated_block;
pub(super) mod repeated_selector;
pub(super) mod too_specific;
pub(super) mod zero_unit;
