//! Modifiers of declarations, the words among them that are reserved only there included.

use super::Front;
use crate::parse::Parsed;
use crate::tree::{Kind, Problem, Role, TokenId, TokenKind};

/// Words before a declaration, in any order.
pub(super) fn modifiers(parser: &mut Front) -> Parsed {
    let mut words = Vec::new();
    while is_modifier(parser, parser.position(), parser.kind()) {
        let word = parser.text();
        if words.contains(&word) {
            return parser.stop(Problem::Rule("this modifier is there already"));
        }
        words.push(word);
        if matches!(word, "public" | "protected" | "private" | "internal") {
            parser.leaf(Kind::Visibility, Role::Part);
        } else {
            parser.bump();
        }
    }
    Ok(())
}

/// The first token behind modifiers that begin at a token.
pub(super) fn behind(parser: &mut Front, from: (TokenId, TokenKind)) -> (TokenId, TokenKind) {
    let mut token = from;
    while is_modifier(parser, token.0, token.1) {
        token = parser.token_after(token.0);
    }
    token
}

fn is_modifier(parser: &mut Front, token: TokenId, kind: TokenKind) -> bool {
    match kind {
        TokenKind::Modifier | TokenKind::StaticWord | TokenKind::Extern | TokenKind::Unsafe | TokenKind::New => true,
        TokenKind::Fixed => parser.token_after(token).1 != TokenKind::ParenOpen,
        TokenKind::Ref => matches!(parser.token_after(token).1, TokenKind::Struct) || is_before_partial(parser, token),
        TokenKind::Name => is_word(parser, token),
        _ => false,
    }
}

/// `ref partial struct`
fn is_before_partial(parser: &mut Front, token: TokenId) -> bool {
    let (word, kind) = parser.token_after(token);
    kind == TokenKind::Name && parser.token_text(word) == "partial" && parser.token_after(word).1 == TokenKind::Struct
}

/// Whether a name is a modifier: what it modifies is behind it.
fn is_word(parser: &mut Front, token: TokenId) -> bool {
    let word = parser.token_text(token);
    if !matches!(word, "async" | "partial" | "required" | "file") {
        return false;
    }
    let (next, kind) = parser.token_after(token);
    match kind {
        // A type that has such a name, with the name of what is declared.
        TokenKind::Name => {
            !matches!(
                parser.token_after(next).1,
                TokenKind::Semicolon
                    | TokenKind::Assign
                    | TokenKind::Comma
                    | TokenKind::BraceOpen
                    | TokenKind::FatArrow
                    | TokenKind::In
            ) && (word == "partial" || parser.token_after(next).1 != TokenKind::ParenOpen)
        }
        TokenKind::PrimitiveType
        | TokenKind::Void
        | TokenKind::Modifier
        | TokenKind::StaticWord
        | TokenKind::Extern
        | TokenKind::Unsafe
        | TokenKind::New
        | TokenKind::Ref
        | TokenKind::Class
        | TokenKind::Struct
        | TokenKind::InterfaceWord
        | TokenKind::Enum
        | TokenKind::Delegate
        | TokenKind::Event
        | TokenKind::Fixed => true,
        TokenKind::ParenOpen => {
            let behind = super::ahead::behind_type(parser, (next, kind));
            behind.is_some_and(|behind| behind.1 == TokenKind::Name)
        }
        _ => false,
    }
}
