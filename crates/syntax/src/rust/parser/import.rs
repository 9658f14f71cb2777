//! "Use declarations", "Extern crate declarations".

use super::{Front, name, path, separated};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `UseDeclaration : use UseTree ;`
pub(super) fn declaration(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    tree(parser, true)?;
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, Kind::Import);
    Ok(())
}

/// `UseTree : ( SimplePath? :: )? ( * | { ( UseTree , )* UseTree? } ) | SimplePath ( as ( IDENTIFIER | _ ) )?`
fn tree(parser: &mut Front, is_root: bool) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        if is_root {
            parser.eat(TokenKind::ColonColon);
        }
        let prefix = parser.open();
        let mut count = 0;
        loop {
            match parser.kind() {
                TokenKind::Star => {
                    parser.leaf(Kind::ImportAll, Role::Name);
                    break;
                }
                TokenKind::BraceOpen => {
                    parser.bump();
                    separated(parser, TokenKind::BraceClose, |parser| tree(parser, is_root && count == 0))?;
                    break;
                }
                // The edition of 2015 leaves `async` free.
                kind if (path::is_segment(kind) || kind == TokenKind::Async) && kind != TokenKind::SelfType => {
                    let is_last = parser.next_kind() != TokenKind::ColonColon;
                    parser.leaf(Kind::Name, Role::Name);
                    if is_last {
                        alias(parser)?;
                        break;
                    }
                    if count > 0 {
                        parser.close(prefix, Kind::Path);
                    }
                    count += 1;
                    let role = if before_name(parser) { Role::Object } else { Role::Module };
                    parser.role(role);
                    parser.bump();
                }
                _ => return parser.stop_expecting("a name, '{' or '*'"),
            }
        }
        parser.close(mark, Kind::ImportItem);
        Ok(())
    })?;
    parser.role(Role::Item);
    Ok(())
}

/// Whether another part of the module's path is behind the colons, and not what is imported.
fn before_name(parser: &mut Front) -> bool {
    let (segment, kind) = parser.next_token();
    path::is_segment(kind) && parser.token_after(segment).1 == TokenKind::ColonColon
}

fn alias(parser: &mut Front) -> Parsed {
    if parser.eat(TokenKind::As) { super::name_or_underscore(parser, Role::Alias) } else { Ok(()) }
}

/// `ExternCrate : extern crate CrateRef AsClause? ;`, from its first word on.
pub(super) fn extern_crate(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    parser.bump();
    let item = parser.open();
    if parser.at(TokenKind::SelfWord) {
        parser.leaf(Kind::Name, Role::Name);
    } else {
        name(parser, Role::Name)?;
    }
    alias(parser)?;
    parser.close_as(item, Kind::ImportItem, Role::Item);
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, Kind::Import);
    Ok(())
}
