//! "Package Declarations", "Import Declarations", "Module Declarations".

use super::{Front, at_word, name, qualified_name, separated};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `PackageDeclaration: {PackageModifier} package Identifier {. Identifier} ;`, behind its modifiers.
pub(super) fn package(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    qualified_name(parser)?;
    parser.role(Role::Name);
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, Kind::PackageClause);
    Ok(())
}

/// `ImportDeclaration`: of a type or of static members, one or all.
pub(super) fn import(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    parser.eat(TokenKind::StaticWord);
    let item = parser.open();
    name(parser, Role::Name)?;
    let mut count = 0;
    while parser.at(TokenKind::Dot) {
        if count > 0 {
            parser.close(item, Kind::Member);
        }
        count += 1;
        let goes_on = is_followed_by_dot(parser);
        parser.role(if goes_on { Role::Object } else { Role::Module });
        parser.bump();
        if parser.at(TokenKind::Star) {
            parser.leaf(Kind::ImportAll, Role::Name);
            break;
        }
        name(parser, Role::Name)?;
    }
    parser.close_as(item, Kind::ImportItem, Role::Item);
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, Kind::Import);
    Ok(())
}

/// Whether another dot is behind the name that follows a dot.
fn is_followed_by_dot(parser: &mut Front) -> bool {
    let (segment, kind) = parser.next_token();
    kind == TokenKind::Name && parser.token_after(segment).1 == TokenKind::Dot
}

/// Whether a module is declared here: `module` and `open` are names elsewhere.
pub(super) fn begins(parser: &mut Front) -> bool {
    if at_word(parser, "open") {
        let (word, kind) = parser.next_token();
        return kind == TokenKind::Name && parser.token_text(word) == "module";
    }
    at_word(parser, "module") && parser.next_kind() == TokenKind::Name
}

/// `ModuleDeclaration: {Annotation} [open] module Identifier {. Identifier} { {ModuleDirective} }`, behind its annotations.
pub(super) fn declaration(parser: &mut Front, mark: Mark) -> Parsed {
    if at_word(parser, "open") {
        parser.bump();
    }
    parser.bump();
    qualified_name(parser)?;
    parser.role(Role::Name);
    let body = parser.open();
    parser.expect(TokenKind::BraceOpen)?;
    while parser.at(TokenKind::Name) {
        directive(parser)?;
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close_as(body, Kind::Block, Role::Body);
    parser.close(mark, Kind::Namespace);
    Ok(())
}

/// `ModuleDirective`
fn directive(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let word = parser.text();
    if !matches!(word, "requires" | "exports" | "opens" | "uses" | "provides") {
        return parser.stop_expecting("'requires', 'exports', 'opens', 'uses' or 'provides'");
    }
    parser.bump();
    if word == "requires" {
        while parser.at(TokenKind::StaticWord)
            || at_word(parser, "transitive") && !matches!(parser.next_kind(), TokenKind::Semicolon | TokenKind::Dot)
        {
            parser.bump();
        }
    }
    qualified_name(parser)?;
    parser.role(Role::Name);
    let joins = matches!((word, parser.at(TokenKind::Name)), ("exports" | "opens" | "provides", true));
    if joins && matches!(parser.text(), "to" | "with") {
        parser.bump();
        separated(parser, |parser| {
            qualified_name(parser)?;
            parser.role(Role::Argument);
            Ok(())
        })?;
    }
    parser.expect(TokenKind::Semicolon)?;
    parser.close_as(mark, Kind::ModuleDirective, Role::Statement);
    Ok(())
}
