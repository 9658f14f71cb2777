//! "Implementations", "Traits", "External blocks", "Modules": items that hold others.

use super::{Front, attribute, bound, item, leave_out, leaves_block, name, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `Implementation : unsafe? impl GenericParams? ( !? TypePath for )? Type WhereClause? { InnerAttribute* AssociatedItem* }`
pub(super) fn implementation(parser: &mut Front, mark: Mark) -> Parsed {
    if parser.last_since(mark).is_some_and(|node| node.kind() == Kind::Visibility) {
        return parser.stop(Problem::Rule("an implementation has no visibility of its own"));
    }
    parser.bump();
    if parser.at(TokenKind::Less) && begins_parameters(parser) {
        bound::opt_parameters(parser)?;
    }
    parser.eat(TokenKind::Const);
    // `!` is also the type of what never is.
    let is_negative =
        parser.at(TokenKind::Exclamation) && !matches!(parser.next_kind(), TokenKind::BraceOpen | TokenKind::Where);
    if is_negative {
        parser.bump();
    }
    types::type_of(parser, Role::Type)?;
    if parser.eat(TokenKind::For) {
        parser.role(Role::Bound);
        types::type_of(parser, Role::Type)?;
    } else if is_negative {
        return parser.expect(TokenKind::For);
    }
    bound::opt_where(parser)?;
    body(parser, Holds::Members)?;
    parser.close(mark, Kind::Implementation);
    Ok(())
}

/// Whether `<` behind `impl` begins parameters, and not a path.
fn begins_parameters(parser: &mut Front) -> bool {
    let (first, kind) = parser.next_token();
    match kind {
        TokenKind::Greater | TokenKind::Pound | TokenKind::Const => true,
        TokenKind::Lifetime | TokenKind::Name => matches!(
            parser.token_after(first).1,
            TokenKind::Greater | TokenKind::Comma | TokenKind::Colon | TokenKind::Assign
        ),
        _ => false,
    }
}

/// `Trait : unsafe? trait IDENTIFIER GenericParams? ( : TypeParamBounds? )? WhereClause? { InnerAttribute* AssociatedItem* }`, from its word on.
pub(super) fn interface(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    name(parser, Role::Name)?;
    bound::opt_parameters(parser)?;
    if parser.eat(TokenKind::Colon) {
        bound::bounds(parser)?;
    }
    if parser.eat(TokenKind::Assign) {
        bound::bounds(parser)?;
        bound::opt_where(parser)?;
        parser.expect(TokenKind::Semicolon)?;
    } else {
        bound::opt_where(parser)?;
        body(parser, Holds::Members)?;
    }
    parser.close(mark, Kind::Interface);
    Ok(())
}

/// `ExternBlock : unsafe? extern Abi? { InnerAttribute* ExternalItem* }`
pub(super) fn external(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    if parser.at(TokenKind::String) {
        parser.leaf(Kind::String, Role::Value);
    }
    body(parser, Holds::Items)?;
    parser.close(mark, Kind::ExternBlock);
    Ok(())
}

/// `Module : unsafe? mod IDENTIFIER ( ; | { InnerAttribute* Item* } )`
pub(super) fn module(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    if parser.at(TokenKind::Try) {
        parser.leaf(Kind::Name, Role::Name);
    } else {
        name(parser, Role::Name)?;
    }
    if !parser.eat(TokenKind::Semicolon) {
        body(parser, Holds::Items)?;
    }
    parser.close(mark, Kind::Namespace);
    Ok(())
}

/// What the braces of an item hold.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Holds {
    Items,
    /// `AssociatedItem : MacroInvocationSemi | TypeAlias | ConstantItem | Function`
    Members,
}

/// Items in braces.
fn body(parser: &mut Front, holds: Holds) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        let open = parser.token_span(parser.position());
        parser.expect(TokenKind::BraceOpen)?;
        attribute::inner_attributes(parser, Role::Part);
        while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) && !leaves_block(parser) {
            let (before, inner) = (parser.fault_count(), parser.open());
            let outcome = item::item(parser);
            parser.role_since(inner, Role::Statement);
            if outcome.is_err() {
                leave_out(parser, before, inner, false);
            } else if holds == Holds::Members && !is_member(parser, inner) {
                parser.fault_since(inner, Problem::Rule("only functions, constants and types can be here"));
            }
        }
        if !parser.eat(TokenKind::BraceClose) {
            parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
        }
        parser.close(mark, Kind::Block);
        Ok(())
    })?;
    parser.role(Role::Body);
    Ok(())
}

fn is_member(parser: &Front, mark: Mark) -> bool {
    parser.last_since(mark).is_some_and(|node| {
        matches!(node.kind(), Kind::Function | Kind::Declaration | Kind::TypeAlias | Kind::ExpressionStatement)
    })
}
