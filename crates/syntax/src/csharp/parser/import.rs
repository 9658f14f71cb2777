//! "Extern alias directives", "Using directives".

use super::{Front, at_word, name, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// `global using`
pub(super) fn begins_global(parser: &mut Front) -> bool {
    at_word(parser, "global") && parser.next_kind() == TokenKind::Using
}

/// `extern alias name ;`
pub(super) fn begins_alias(parser: &mut Front) -> bool {
    let (word, kind) = parser.next_token();
    kind == TokenKind::Name && parser.token_text(word) == "alias" && parser.token_after(word).1 == TokenKind::Name
}

/// `extern_alias_directive: 'extern' 'alias' identifier ';'`
pub(super) fn extern_alias(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.bump();
    let item = parser.open();
    name(parser, Role::Name)?;
    parser.close_as(item, Kind::ImportItem, Role::Item);
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, Kind::Import)
}

/// `using_directive: 'global'? 'using' ('static' type_name | identifier '=' type | namespace_name) ';'`
pub(super) fn using(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::Name) {
        parser.bump();
    }
    parser.bump();
    let is_static = parser.eat(TokenKind::StaticWord);
    parser.eat(TokenKind::Unsafe);
    let item = parser.open();
    if !is_static && parser.at(TokenKind::Name) && parser.next_kind() == TokenKind::Assign {
        name(parser, Role::Alias)?;
        parser.bump();
        types::type_of(parser, Role::Name)?;
    } else if is_static {
        types::type_of(parser, Role::Name)?;
    } else {
        types::qualified_name(parser)?;
        parser.role(Role::Module);
    }
    parser.close_as(item, Kind::ImportItem, Role::Item);
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, Kind::Import)
}
