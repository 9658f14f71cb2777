//! `import` and `from … import`.

use super::target;
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Role, TokenKind};

/// `import_name: 'import' dotted_as_names`
pub(super) fn on_import(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    loop {
        let item = parser.open();
        dotted_name(parser, Role::Module)?;
        opt_alias(parser)?;
        parser.close_as(item, Kind::ImportItem, Role::Item);
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.close(mark, Kind::Import);
    Ok(())
}

/// `import_from: 'from' ('.' | '...')* dotted_name 'import' import_from_targets | 'from' ('.' | '...')+ 'import' import_from_targets`
pub(super) fn on_from(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let module = parser.open();
    let mut dots = false;
    while parser.eat(TokenKind::Dot) || parser.eat(TokenKind::Ellipsis) {
        dots = true;
    }
    if dots && parser.at(TokenKind::Import) {
        parser.close_as(module, Kind::ModuleName, Role::Module);
    } else {
        dotted_parts(parser)?;
        parser.close_as(module, Kind::ModuleName, Role::Module);
    }
    parser.expect(TokenKind::Import)?;
    from_targets(parser)?;
    parser.close(mark, Kind::Import);
    Ok(())
}

/// `import_from_targets: '(' import_from_as_names [','] ')' | import_from_as_names | '*'`
fn from_targets(parser: &mut Parser) -> Parsed {
    if parser.at(TokenKind::Star) {
        parser.leaf(Kind::ImportAll, Role::Item);
        return Ok(());
    }
    let bracketed = parser.eat(TokenKind::ParenOpen);
    loop {
        let item = parser.open();
        target::name(parser, Role::Name)?;
        opt_alias(parser)?;
        parser.close_as(item, Kind::ImportItem, Role::Item);
        if !parser.eat(TokenKind::Comma) || (bracketed && parser.at(TokenKind::ParenClose)) {
            break;
        }
    }
    if bracketed { parser.expect(TokenKind::ParenClose) } else { Ok(()) }
}

fn opt_alias(parser: &mut Parser) -> Parsed {
    if parser.eat(TokenKind::As) { target::name(parser, Role::Alias) } else { Ok(()) }
}

/// `dotted_name: dotted_name '.' NAME | NAME`
fn dotted_name(parser: &mut Parser, role: Role) -> Parsed {
    let mark = parser.open();
    dotted_parts(parser)?;
    parser.close_as(mark, Kind::ModuleName, role);
    Ok(())
}

fn dotted_parts(parser: &mut Parser) -> Parsed {
    parser.expect(TokenKind::Name)?;
    while parser.eat(TokenKind::Dot) {
        parser.expect(TokenKind::Name)?;
    }
    Ok(())
}
