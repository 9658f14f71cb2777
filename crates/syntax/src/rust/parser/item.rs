//! "Items".

use super::{
    Front, attribute, bound, expression, function, implementation, import, macros, name_or_underscore, path, structure,
    types,
};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `Item : OuterAttribute* ( VisItem | MacroItem )`, also in a trait, an implementation or an external block.
pub(super) fn item(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        attribute::outer_attributes(parser)?;
        behind_attributes(parser, mark)
    })
}

/// An item that began with its attributes at `mark`.
pub(super) fn behind_attributes(parser: &mut Front, mark: Mark) -> Parsed {
    if macros::begins_definition(parser) {
        return macros::definition(parser, mark);
    }
    opt_visibility(parser)?;
    if parser.at(TokenKind::Name) && parser.text() == "default" && parser.next_kind() != TokenKind::Exclamation {
        parser.bump();
    }
    declaration(parser, mark)
}

/// `VisItem` behind its visibility, or a macro that gives items.
fn declaration(parser: &mut Front, mark: Mark) -> Parsed {
    match parser.kind() {
        TokenKind::Fn => function::function(parser, mark),
        TokenKind::Struct => structure::definition(parser, mark),
        TokenKind::Enum => structure::enumeration(parser, mark),
        TokenKind::Impl => implementation::implementation(parser, mark),
        TokenKind::Trait => implementation::interface(parser, mark),
        TokenKind::Mod => implementation::module(parser, mark),
        TokenKind::Use => import::declaration(parser, mark),
        TokenKind::TypeWord => type_alias(parser, mark),
        TokenKind::Const if !function::begins(parser) => constant(parser, mark),
        TokenKind::StaticWord => constant(parser, mark),
        TokenKind::Const | TokenKind::Async => function::function(parser, mark),
        TokenKind::Extern => external(parser, mark),
        TokenKind::Unsafe => behind_unsafe(parser, mark),
        TokenKind::Reserved if parser.text() == "macro" => macros::later_definition(parser, mark),
        TokenKind::Name => begun_by_name(parser, mark),
        kind if path::begins(kind) && kind != TokenKind::SelfType => macro_item(parser, mark),
        _ => parser.stop_expecting("an item"),
    }
}

fn external(parser: &mut Front, mark: Mark) -> Parsed {
    if parser.next_kind() == TokenKind::Crate {
        import::extern_crate(parser, mark)
    } else if function::begins(parser) {
        function::function(parser, mark)
    } else {
        implementation::external(parser, mark)
    }
}

fn behind_unsafe(parser: &mut Front, mark: Mark) -> Parsed {
    if function::begins(parser) {
        return function::function(parser, mark);
    }
    parser.bump();
    match parser.kind() {
        TokenKind::Impl => implementation::implementation(parser, mark),
        TokenKind::Trait => implementation::interface(parser, mark),
        TokenKind::Extern => implementation::external(parser, mark),
        TokenKind::Mod => implementation::module(parser, mark),
        TokenKind::StaticWord => constant(parser, mark),
        TokenKind::Name if parser.text() == "auto" => begun_by_name(parser, mark),
        _ => parser.stop_expecting("an item"),
    }
}

/// Words that are reserved only in places, and macros.
fn begun_by_name(parser: &mut Front, mark: Mark) -> Parsed {
    let next = parser.next_kind();
    match (parser.text(), next) {
        ("union", TokenKind::Name) => structure::definition(parser, mark),
        ("auto", TokenKind::Trait) => {
            parser.bump();
            implementation::interface(parser, mark)
        }
        ("safe", TokenKind::StaticWord) => {
            parser.bump();
            constant(parser, mark)
        }
        _ if function::begins(parser) => function::function(parser, mark),
        _ => macro_item(parser, mark),
    }
}

/// `MacroInvocationSemi`
fn macro_item(parser: &mut Front, mark: Mark) -> Parsed {
    let inner = parser.open();
    path::simple_path(parser)?;
    if !macros::follows_path(parser) {
        return parser.stop_expecting("'!' and what the macro is given");
    }
    if !macros::call(parser, inner)? {
        parser.expect(TokenKind::Semicolon)?;
    }
    parser.role(Role::Value);
    parser.close(mark, Kind::ExpressionStatement);
    Ok(())
}

/// Whether an item begins here, and not an expression.
pub(super) fn begins(parser: &mut Front) -> bool {
    match parser.kind() {
        TokenKind::Fn
        | TokenKind::Struct
        | TokenKind::Enum
        | TokenKind::Impl
        | TokenKind::Trait
        | TokenKind::Mod
        | TokenKind::Use
        | TokenKind::TypeWord
        | TokenKind::Pub
        | TokenKind::Extern => true,
        TokenKind::Const => !matches!(parser.next_kind(), TokenKind::BraceOpen | TokenKind::Bar | TokenKind::BarBar),
        TokenKind::StaticWord => {
            !matches!(parser.next_kind(), TokenKind::Bar | TokenKind::BarBar | TokenKind::Move | TokenKind::Async)
        }
        TokenKind::Unsafe => parser.next_kind() != TokenKind::BraceOpen,
        TokenKind::Async => function::begins(parser),
        TokenKind::Reserved => parser.text() == "macro",
        TokenKind::Name => match (parser.text(), parser.next_kind()) {
            ("union", TokenKind::Name) | ("auto", TokenKind::Trait) | ("safe", TokenKind::StaticWord) => true,
            _ => macros::begins_definition(parser) || function::begins(parser),
        },
        _ => false,
    }
}

/// `Visibility : pub ( ( crate | self | super | in SimplePath ) )?`, if there is one.
pub(super) fn opt_visibility(parser: &mut Front) -> Parsed {
    if !parser.at(TokenKind::Pub) {
        return Ok(());
    }
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::ParenOpen) {
        let (inner, kind) = parser.next_token();
        let is_place = match kind {
            TokenKind::In => true,
            TokenKind::Crate | TokenKind::SelfWord | TokenKind::Super => {
                parser.token_after(inner).1 == TokenKind::ParenClose
            }
            _ => false,
        };
        if is_place {
            parser.bump();
            parser.eat(TokenKind::In);
            path::simple_path(parser)?;
            parser.role(Role::Module);
            parser.expect(TokenKind::ParenClose)?;
        }
    }
    parser.close_as(mark, Kind::Visibility, Role::Part);
    Ok(())
}

/// `TypeAlias : type IDENTIFIER GenericParams? ( : TypeParamBounds )? WhereClause? ( = Type WhereClause? )? ;`
fn type_alias(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    super::name(parser, Role::Name)?;
    bound::opt_parameters(parser)?;
    if parser.eat(TokenKind::Colon) {
        bound::bounds(parser)?;
    }
    bound::opt_where(parser)?;
    if parser.eat(TokenKind::Assign) {
        types::type_of(parser, Role::Value)?;
    }
    bound::opt_where(parser)?;
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, Kind::TypeAlias);
    Ok(())
}

/// `ConstantItem : const ( IDENTIFIER | _ ) : Type ( = Expression )? ;`, `StaticItem : static mut? IDENTIFIER : Type ( = Expression )? ;`
fn constant(parser: &mut Front, mark: Mark) -> Parsed {
    let is_static = parser.at(TokenKind::StaticWord);
    parser.bump();
    if is_static {
        parser.eat(TokenKind::Mut);
    }
    let inner = parser.open();
    if is_static {
        super::name(parser, Role::Target)?;
    } else {
        name_or_underscore(parser, Role::Target)?;
    }
    bound::opt_parameters(parser)?;
    parser.expect(TokenKind::Colon)?;
    types::type_of(parser, Role::Type)?;
    if parser.eat(TokenKind::Assign) {
        expression::expression(parser, Role::Value)?;
    }
    bound::opt_where(parser)?;
    parser.close_as(inner, Kind::AnnotatedAssignment, Role::Item);
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, Kind::Declaration);
    Ok(())
}
