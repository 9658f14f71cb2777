//! "Functions".

use super::{Front, attribute, bound, name, pattern, separated, statement, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `Function : FunctionQualifiers fn IDENTIFIER GenericParams? ( FunctionParameters? ) FunctionReturnType? WhereClause? ( BlockExpression | ; )`
pub(super) fn function(parser: &mut Front, mark: Mark) -> Parsed {
    qualifiers(parser);
    parser.expect(TokenKind::Fn)?;
    name(parser, Role::Name)?;
    bound::opt_parameters(parser)?;
    let parameters = parser.open();
    parser.expect(TokenKind::ParenOpen)?;
    let first = parser.position();
    separated(parser, TokenKind::ParenClose, |parser| parameter(parser, parser.position() == first))?;
    parser.close_as(parameters, Kind::Parameters, Role::Parameters);
    if parser.eat(TokenKind::Arrow) {
        types::type_of(parser, Role::Returns)?;
    }
    bound::opt_where(parser)?;
    if !parser.eat(TokenKind::Semicolon) {
        statement::block(parser, Role::Body)?;
    }
    parser.close(mark, Kind::Function);
    Ok(())
}

/// `FunctionQualifiers : const? async? ItemSafety? ( extern Abi? )?`
pub(super) fn qualifiers(parser: &mut Front) {
    parser.eat(TokenKind::Const);
    parser.eat(TokenKind::Async);
    if !parser.eat(TokenKind::Unsafe) && parser.at(TokenKind::Name) && parser.text() == "safe" {
        parser.bump();
    }
    if parser.eat(TokenKind::Extern) && parser.at(TokenKind::String) {
        parser.leaf(Kind::String, Role::Part);
    }
}

/// `FunctionParam : OuterAttribute* ( FunctionParamPattern | ... | Type )`, `SelfParam`
fn parameter(parser: &mut Front, is_first: bool) -> Parsed {
    let mark = parser.open();
    attribute::outer_attributes(parser)?;
    if parser.at(TokenKind::Ellipsis) {
        variadic(parser)?;
    } else if at_receiver(parser) {
        if !is_first {
            return parser.stop(Problem::Rule("'self' is the first parameter"));
        }
        receiver(parser)?;
    } else {
        let inner = parser.open();
        pattern::single(parser, Role::Pattern)?;
        if parser.last_since(inner).is_some_and(|node| node.kind() == Kind::Name) {
            parser.role(Role::Name);
        }
        parser.expect(TokenKind::Colon)?;
        if parser.at(TokenKind::Ellipsis) {
            variadic(parser)?;
        } else {
            types::type_of(parser, Role::Type)?;
        }
    }
    parser.close_as(mark, Kind::Parameter, Role::Parameter);
    Ok(())
}

/// `...`, behind which no parameter can be.
fn variadic(parser: &mut Front) -> Parsed {
    parser.bump();
    if parser.at(TokenKind::Comma) && parser.next_kind() != TokenKind::ParenClose {
        return parser.stop(Problem::Rule("'...' is the last parameter"));
    }
    Ok(())
}

/// Whether the object that a method is called on stands here.
fn at_receiver(parser: &mut Front) -> bool {
    let mut token = parser.current();
    if token.1 == TokenKind::Ampersand {
        token = parser.token_after(token.0);
        if token.1 == TokenKind::Lifetime {
            token = parser.token_after(token.0);
        }
    }
    if token.1 == TokenKind::Mut {
        token = parser.token_after(token.0);
    }
    token.1 == TokenKind::SelfWord && parser.token_after(token.0).1 != TokenKind::ColonColon
}

/// `SelfParam : ( & Lifetime? )? mut? self ( : Type )?`
fn receiver(parser: &mut Front) -> Parsed {
    parser.eat(TokenKind::Ampersand);
    if parser.at(TokenKind::Lifetime) {
        parser.leaf(Kind::Lifetime, Role::Part);
    }
    parser.eat(TokenKind::Mut);
    parser.leaf(Kind::Name, Role::Name);
    if parser.eat(TokenKind::Colon) {
        types::type_of(parser, Role::Type)?;
    }
    Ok(())
}

/// `FunctionParametersMaybeNamedVariadic` of the type of a function.
pub(super) fn parameters_of_type(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.expect(TokenKind::ParenOpen)?;
    separated(parser, TokenKind::ParenClose, |parser| {
        let mark = parser.open();
        attribute::outer_attributes(parser)?;
        let is_named = matches!(parser.kind(), TokenKind::Name | TokenKind::Underscore | TokenKind::SelfWord)
            && parser.next_kind() == TokenKind::Colon;
        if is_named {
            let kind = if parser.at(TokenKind::Underscore) { Kind::WildcardPattern } else { Kind::Name };
            parser.leaf(kind, if kind == Kind::Name { Role::Name } else { Role::Pattern });
            parser.bump();
        }
        if !parser.eat(TokenKind::Ellipsis) {
            types::type_of(parser, Role::Type)?;
        }
        parser.close_as(mark, Kind::Parameter, Role::Parameter);
        Ok(())
    })?;
    parser.close_as(mark, Kind::Parameters, Role::Parameters);
    Ok(())
}

/// Whether a function begins here, with the words before it.
pub(super) fn begins(parser: &mut Front) -> bool {
    let mut token = parser.current();
    loop {
        match token.1 {
            TokenKind::Fn => return true,
            TokenKind::Const | TokenKind::Async | TokenKind::Unsafe | TokenKind::Extern | TokenKind::String => {}
            TokenKind::Name if matches!(parser.token_text(token.0), "safe" | "default") => {}
            _ => return false,
        }
        token = parser.token_after(token.0);
    }
}
