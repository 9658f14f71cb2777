//! "Types".

use super::{Front, bound, expression, function, macros, path, separated, split};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `Type : TypeNoBounds | ImplTraitType | TraitObjectType`
pub(super) fn type_of(parser: &mut Front, role: Role) -> Parsed {
    typed(parser, role, true)
}

/// `TypeNoBounds`: `+` behind it belongs to something else.
pub(super) fn type_without_bounds(parser: &mut Front, role: Role) -> Parsed {
    typed(parser, role, false)
}

fn typed(parser: &mut Front, role: Role, with_bounds: bool) -> Parsed {
    parser.nested(|parser| match parser.kind() {
        TokenKind::ParenOpen => parenthesized(parser, with_bounds),
        TokenKind::Exclamation => {
            parser.leaf(Kind::PredefinedType, Role::Part);
            Ok(())
        }
        TokenKind::Underscore => {
            parser.leaf(Kind::InferType, Role::Part);
            Ok(())
        }
        TokenKind::Star => raw_pointer(parser),
        TokenKind::Ampersand | TokenKind::AndAnd => reference(parser),
        TokenKind::BracketOpen => array(parser),
        TokenKind::Fn | TokenKind::Unsafe | TokenKind::Extern => bare_function(parser),
        TokenKind::Impl | TokenKind::Dyn => with_word(parser, with_bounds),
        TokenKind::For => behind_for(parser, with_bounds),
        TokenKind::Lifetime if with_bounds => trait_object(parser),
        _ => named(parser, with_bounds),
    })?;
    parser.role(role);
    Ok(())
}

/// `ParenthesizedType | TupleType`
fn parenthesized(parser: &mut Front, with_bounds: bool) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let mut count = 0;
    let mut comma = false;
    while !parser.at(TokenKind::ParenClose) {
        type_of(parser, Role::Element)?;
        count += 1;
        comma = parser.eat(TokenKind::Comma);
        if !comma {
            break;
        }
    }
    let is_group = count == 1 && !comma;
    if is_group {
        parser.role(Role::Type);
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close(mark, if is_group { Kind::GroupType } else { Kind::TupleType });
    if is_group && with_bounds && parser.at(TokenKind::Plus) {
        parser.role(Role::Bound);
        parser.bump();
        bound::bounds(parser)?;
        parser.close(mark, Kind::TraitType);
    }
    Ok(())
}

/// `RawPointerType : * ( mut | const ) TypeNoBounds`
fn raw_pointer(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !parser.eat(TokenKind::Const) && !parser.eat(TokenKind::Mut) {
        return parser.stop_expecting("'mut' or 'const'");
    }
    type_without_bounds(parser, Role::Element)?;
    parser.close(mark, Kind::PointerType);
    Ok(())
}

/// `ReferenceType : & Lifetime? mut? TypeNoBounds`
fn reference(parser: &mut Front) -> Parsed {
    split(parser, TokenKind::AndAnd);
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::Lifetime) {
        parser.leaf(Kind::Lifetime, Role::Part);
    }
    parser.eat(TokenKind::Mut);
    type_without_bounds(parser, Role::Element)?;
    parser.close(mark, Kind::PointerType);
    Ok(())
}

/// `ArrayType : [ Type ; Expression ]`, `SliceType : [ Type ]`
fn array(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    type_of(parser, Role::Element)?;
    if parser.eat(TokenKind::Semicolon) {
        expression::expression(parser, Role::Index)?;
    }
    parser.expect(TokenKind::BracketClose)?;
    parser.close(mark, Kind::ArrayType);
    Ok(())
}

/// `BareFunctionType : ForLifetimes? FunctionTypeQualifiers fn ( FunctionParametersMaybeNamedVariadic? ) BareFunctionReturnType?`
fn bare_function(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    function_type(parser)?;
    parser.close(mark, Kind::FunctionType);
    Ok(())
}

fn function_type(parser: &mut Front) -> Parsed {
    function::qualifiers(parser);
    parser.expect(TokenKind::Fn)?;
    function::parameters_of_type(parser)?;
    if parser.eat(TokenKind::Arrow) {
        type_without_bounds(parser, Role::Returns)?;
    }
    Ok(())
}

/// `for<…>` before the type of a function, or before traits.
fn behind_for(parser: &mut Front, with_bounds: bool) -> Parsed {
    let mark = parser.open();
    bound::for_lifetimes(parser)?;
    if matches!(parser.kind(), TokenKind::Fn | TokenKind::Unsafe | TokenKind::Extern) {
        function_type(parser)?;
        parser.close(mark, Kind::FunctionType);
        return Ok(());
    }
    path::in_type(parser)?;
    parser.role(Role::Bound);
    if with_bounds && parser.eat(TokenKind::Plus) {
        bound::bounds(parser)?;
    }
    parser.close(mark, Kind::TraitType);
    Ok(())
}

/// `ImplTraitType : impl TypeParamBounds`, `TraitObjectType : dyn TypeParamBounds`
fn with_word(parser: &mut Front, with_bounds: bool) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let has_trait = if with_bounds {
        bound::bounds(parser)?
    } else {
        let has_trait = !parser.at(TokenKind::Lifetime);
        bound::bound(parser)?;
        has_trait
    };
    traits(parser, mark, has_trait)
}

/// Traits without a word before them, as the first editions have them.
fn trait_object(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let has_trait = bound::bounds(parser)?;
    traits(parser, mark, has_trait)
}

fn traits(parser: &mut Front, mark: Mark, has_trait: bool) -> Parsed {
    if !has_trait {
        return parser.stop_expecting("the name of a trait");
    }
    parser.close(mark, Kind::TraitType);
    Ok(())
}

/// `TypePath | MacroInvocation`, with further traits where the first edition has them.
fn named(parser: &mut Front, with_bounds: bool) -> Parsed {
    if !path::begins(parser.kind()) && !path::at_qualified(parser) {
        return parser.stop_expecting("a type");
    }
    let mark = parser.open();
    path::in_type(parser)?;
    let is_plain = || (mark.token()..parser.taken_end()).all(|token| parser.kind_of(token) != TokenKind::Less);
    if is_plain() && macros::follows_path(parser) {
        macros::call(parser, mark)?;
    } else if with_bounds && parser.at(TokenKind::Plus) {
        parser.role(Role::Bound);
        parser.bump();
        bound::bounds(parser)?;
        parser.close(mark, Kind::TraitType);
    }
    Ok(())
}

/// `TupleFields` in parentheses, as a type.
pub(super) fn tuple(parser: &mut Front, element: fn(&mut Front) -> Parsed) -> Parsed {
    let mark = parser.open();
    parser.bump();
    separated(parser, TokenKind::ParenClose, element)?;
    parser.close_as(mark, Kind::TupleType, Role::Type);
    Ok(())
}
