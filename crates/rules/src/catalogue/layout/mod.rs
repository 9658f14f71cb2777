//! Rules of the concern `layout`.

pub(super) mod final_newline;
pub(super) mod long_line;
pub(super) mod stacked_statements;
pub(super) mod trailing_space;
