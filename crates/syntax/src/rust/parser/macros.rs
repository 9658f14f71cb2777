//! "Macros": calls, and definitions. What is given to one is not looked into.

use super::Front;
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `DelimTokenTree`: everything in a pair of brackets of any sort, in which brackets are paired.
pub(super) fn token_tree(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let mut open = Vec::new();
    loop {
        let kind = parser.kind();
        match kind {
            TokenKind::EndOfFile => {
                let (sign, span) = open.pop().unwrap_or((kind, parser.token_span(parser.position())));
                parser.fault(span, Problem::Unclosed(sign));
                return Err(Stop);
            }
            kind if kind.opens() => open.push((kind, parser.token_span(parser.position()))),
            kind if kind.closes() => match open.pop() {
                Some((sign, _)) if closing(sign) == kind => {}
                Some((sign, _)) => return parser.stop_expecting(closing(sign).describe()),
                None => return parser.stop_expecting("a bracket"),
            },
            _ if open.is_empty() => return parser.stop_expecting("'(', '[' or '{'"),
            TokenKind::Unknown => return parser.stop_expecting("a token"),
            _ => {}
        }
        parser.bump();
        if open.is_empty() {
            parser.close(mark, Kind::TokenTree);
            return Ok(());
        }
    }
}

/// What closes a bracket.
fn closing(open: TokenKind) -> TokenKind {
    match open {
        TokenKind::ParenOpen => TokenKind::ParenClose,
        TokenKind::BracketOpen => TokenKind::BracketClose,
        _ => TokenKind::BraceClose,
    }
}

/// Whether a macro is called behind a path.
pub(super) fn follows_path(parser: &mut Front) -> bool {
    parser.at(TokenKind::Exclamation) && parser.next_kind().opens()
}

/// `MacroInvocation : SimplePath ! DelimTokenTree`, whose path began at `mark` and was read. Gives whether it is in braces.
pub(super) fn call(parser: &mut Front, mark: Mark) -> Result<bool, Stop> {
    parser.role(Role::Callee);
    parser.bump();
    let in_braces = parser.at(TokenKind::BraceOpen);
    token_tree(parser)?;
    parser.role(Role::Arguments);
    parser.close(mark, Kind::MacroCall);
    Ok(in_braces)
}

/// Whether `macro_rules! name` begins here.
pub(super) fn begins_definition(parser: &mut Front) -> bool {
    if !parser.at(TokenKind::Name) || parser.text() != "macro_rules" {
        return false;
    }
    let (sign, kind) = parser.next_token();
    kind == TokenKind::Exclamation && matches!(parser.token_after(sign).1, TokenKind::Name | TokenKind::Try)
}

/// `MacroRulesDefinition : macro_rules ! IDENTIFIER MacroRulesDef`, behind its attributes.
pub(super) fn definition(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    parser.bump();
    parser.leaf(Kind::Name, Role::Name);
    let in_braces = parser.at(TokenKind::BraceOpen);
    token_tree(parser)?;
    parser.role(Role::Body);
    if !in_braces {
        parser.expect(TokenKind::Semicolon)?;
    }
    parser.close(mark, Kind::MacroDefinition);
    Ok(())
}

/// `macro name(…) { … }`: definitions of a later form.
pub(super) fn later_definition(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    super::name(parser, Role::Name)?;
    if parser.at(TokenKind::ParenOpen) {
        token_tree(parser)?;
        parser.role(Role::Parameters);
    }
    if !parser.at(TokenKind::BraceOpen) {
        return parser.expect(TokenKind::BraceOpen);
    }
    token_tree(parser)?;
    parser.role(Role::Body);
    parser.close(mark, Kind::MacroDefinition);
    Ok(())
}
