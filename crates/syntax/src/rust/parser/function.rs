//! "Functions".

use super::{Front, attribute, bound, name, path, pattern, separated, statement, types};
use crate::parse::{Parsed, Stop};
use crate::text::Span;
use crate::tree::{Kind, Mark, Problem, Role, TokenId, TokenKind};

/// `Function : FunctionQualifiers fn IDENTIFIER GenericParams? ( FunctionParameters? ) FunctionReturnType? WhereClause? ( BlockExpression | ; )`
pub(super) fn function(parser: &mut Front, mark: Mark) -> Parsed {
    qualifiers(parser);
    parser.expect(TokenKind::Fn)?;
    name(parser, Role::Name)?;
    bound::opt_parameters(parser)?;
    let parameters = parser.open();
    parser.expect(TokenKind::ParenOpen)?;
    let first = parser.position();
    let mut nameless = None;
    separated(parser, TokenKind::ParenClose, |parser| {
        let is_first = parser.position() == first;
        if let Some(span) = parameter(parser, is_first)? {
            nameless = nameless.or(Some(span));
        }
        Ok(())
    })?;
    parser.close_as(parameters, Kind::Parameters, Role::Parameters);
    if parser.eat(TokenKind::Arrow) {
        types::type_of(parser, Role::Returns)?;
    }
    bound::opt_where(parser)?;
    if !parser.eat(TokenKind::Semicolon) {
        if let Some(span) = nameless {
            parser.fault(span, Problem::Rule("a parameter has a name and a type where the function has a body"));
        }
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

/// `FunctionParam : OuterAttribute* ( FunctionParamPattern | ... | Type )`, `SelfParam`. Gives the type of one that has no name, as
/// functions that a trait declares could have in the first edition.
fn parameter(parser: &mut Front, is_first: bool) -> Result<Option<Span>, Stop> {
    let mark = parser.open();
    attribute::outer_attributes(parser)?;
    let mut nameless = None;
    if parser.at(TokenKind::Ellipsis) {
        variadic(parser)?;
    } else if at_receiver(parser) {
        if !is_first {
            parser.stop(Problem::Rule("'self' is the first parameter"))?;
        }
        receiver(parser)?;
    } else if at_bare_type(parser) {
        let start = parser.token_span(parser.position());
        types::type_of(parser, Role::Type)?;
        nameless = Some(start);
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
    Ok(nameless)
}

/// Whether a parameter is a type alone: it begins as no pattern does.
fn at_bare_type(parser: &mut Front) -> bool {
    let mut token = parser.current();
    while matches!(token.1, TokenKind::Ampersand | TokenKind::AndAnd) {
        token = parser.token_after(token.0);
        if token.1 == TokenKind::Lifetime {
            return true;
        }
        if token.1 == TokenKind::Mut {
            token = parser.token_after(token.0);
        }
    }
    let behind = match token.1 {
        TokenKind::Star | TokenKind::Fn | TokenKind::Impl | TokenKind::Dyn => return true,
        TokenKind::ParenOpen | TokenKind::BracketOpen => brackets_end(parser, token),
        kind if path::begins(kind) => path_end(parser, token),
        _ => return false,
    };
    matches!(behind, TokenKind::Comma | TokenKind::ParenClose | TokenKind::Less)
}

/// The kind of the token behind brackets; a brace where one is in them, so that nothing is looked through again and again.
fn brackets_end(parser: &mut Front, mut token: (TokenId, TokenKind)) -> TokenKind {
    let mut depth = 0_u32;
    loop {
        match token.1 {
            TokenKind::ParenOpen | TokenKind::BracketOpen => depth += 1,
            TokenKind::ParenClose | TokenKind::BracketClose => depth -= 1,
            TokenKind::BraceOpen | TokenKind::BraceClose | TokenKind::EndOfFile => return token.1,
            _ => {}
        }
        token = parser.token_after(token.0);
        if depth == 0 {
            return token.1;
        }
    }
}

/// The kind of the token behind the names of a path.
fn path_end(parser: &mut Front, mut token: (TokenId, TokenKind)) -> TokenKind {
    loop {
        let next = parser.token_after(token.0);
        if token.1 != TokenKind::ColonColon && next.1 != TokenKind::ColonColon {
            return next.1;
        }
        token = next;
    }
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
