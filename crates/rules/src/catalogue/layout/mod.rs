//! Rules of the concern `layout`.

pub(super) mod aligned_values;
pub(super) mod arrow_parentheses;
pub(super) mod blank_lines;
pub(super) mod brace_line;
pub(super) mod bracket_spacing;
mod break_line;
pub(super) mod colon_spacing;
pub(super) mod comma_spacing;
pub(super) mod comment_marker;
pub(super) mod comment_space;
pub(super) mod entry_indent;
pub(super) mod final_newline;
pub(super) mod import_order;
pub(super) mod indent_width;
pub(super) mod key_order;
pub(super) mod keyword_spacing;
pub(super) mod line_ending;
pub(super) mod long_line;
pub(super) mod operator_spacing;
pub(super) mod quote_style;
pub(super) mod semicolons;
mod spacing_facts;
pub(super) mod stacked_statements;
pub(super) mod tabs;
pub(super) mod trailing_comma;
pub(super) mod trailing_space;
