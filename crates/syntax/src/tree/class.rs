//! What tokens are to the eye.

use super::TokenKind;

/// A kind of token, as editors and other views distinguish them by colour.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum TokenClass {
    /// A comment.
    Comment,
    /// A string, a part of one, or what is read like one.
    String,
    /// A number.
    Number,
    /// A word that the language keeps for itself.
    Keyword,
    /// Anything else: names, operators, whitespace.
    Plain,
}

impl TokenKind {
    /// What it is to the eye.
    pub fn class(self) -> TokenClass {
        match self {
            TokenKind::Comment => TokenClass::Comment,
            TokenKind::String
            | TokenKind::FormatStart
            | TokenKind::FormatText
            | TokenKind::FormatEnd
            | TokenKind::HereText
            | TokenKind::RegularExpression => TokenClass::String,
            TokenKind::Number | TokenKind::Dimension | TokenKind::Percentage => TokenClass::Number,
            TokenKind::AtWord => TokenClass::Keyword,
            // A kind that is described by its own letters is a keyword.
            _ if is_word(self.describe()) => TokenClass::Keyword,
            _ => TokenClass::Plain,
        }
    }
}

fn is_word(description: &str) -> bool {
    description.strip_prefix('\'').is_some_and(|own| own.starts_with(|first: char| first.is_ascii_alphabetic()))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn keywords_are_known_by_their_letters() {
        let classes = [TokenKind::Def, TokenKind::Esac, TokenKind::Name, TokenKind::Arrow, TokenKind::Newline];
        let expected =
            [TokenClass::Keyword, TokenClass::Keyword, TokenClass::Plain, TokenClass::Plain, TokenClass::Plain];
        assert_eq!(classes.map(TokenKind::class), expected);
    }
}
