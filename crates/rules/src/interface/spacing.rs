//! The kinds of whitespace that rules own.

/// Which rule a token belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum SpacingKind {
    /// Operators.
    Operator,
    /// Commas and semicolons.
    Comma,
    /// Colons.
    Colon,
    /// Brackets.
    Bracket,
    /// Words of the language.
    Keyword,
}
