//! "Field Declarations", "Method Declarations", "Constructor Declarations", "Initializers".

use super::{Front, declaration, modifiers, name, separated, statement, types, variable, variable_name};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `ClassBodyDeclaration`
pub(super) fn member(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::Semicolon) {
        parser.leaf(Kind::Pass, Role::Statement);
        return Ok(());
    }
    modifiers::modifiers(parser)?;
    if parser.at(TokenKind::BraceOpen) {
        let is_plain = (mark.token()..parser.position())
            .all(|token| parser.kind_of(token).is_trivia() || parser.kind_of(token) == TokenKind::StaticWord);
        if !is_plain {
            return parser.stop_expecting("a member");
        }
        statement::block(parser, Role::Body)?;
        parser.close(mark, Kind::StaticBlock);
        return Ok(());
    }
    if declaration::begins(parser) {
        return declaration::declaration(parser, mark);
    }
    types::opt_parameters(parser)?;
    modifiers::annotations(parser)?;
    if parser.at(TokenKind::Name) {
        match parser.next_kind() {
            TokenKind::ParenOpen => {
                constructor_name(parser)?;
                return method(parser, mark);
            }
            // The constructor of a record, whose parameters are those of the record.
            TokenKind::BraceOpen => {
                constructor_name(parser)?;
                parser.leaf(Kind::Name, Role::Name);
                statement::block(parser, Role::Body)?;
                parser.close(mark, Kind::Function);
                return Ok(());
            }
            _ => {}
        }
    }
    types::result(parser)?;
    if parser.at(TokenKind::Name) && parser.next_kind() == TokenKind::ParenOpen {
        return method(parser, mark);
    }
    if parser.taken_kind() == TokenKind::Void {
        return parser.stop_expecting("the name of a method");
    }
    parser.role(Role::Type);
    variable::declarators(parser)?;
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, Kind::Field);
    Ok(())
}

/// A constructor has the name of its type; any other name is that of a method.
fn constructor_name(parser: &mut Front) -> Parsed {
    if parser.own.state.types.last().is_none_or(|own| *own == parser.text()) {
        return Ok(());
    }
    parser.stop(Problem::Rule("the type of what the method gives is missing"))
}

/// `MethodDeclarator [Throws] MethodBody`, from the name on.
fn method(parser: &mut Front, mark: Mark) -> Parsed {
    let gives_nothing = parser.taken_kind() == TokenKind::Void;
    name(parser, Role::Name)?;
    parameters(parser)?;
    if !gives_nothing {
        super::dimensions(parser);
    }
    if parser.eat(TokenKind::Throws) {
        separated(parser, |parser| {
            if parser.at(TokenKind::PrimitiveType) {
                return parser.stop_expecting("the type of an exception");
            }
            types::element(parser, types::Diamond::Refused)?;
            parser.role(Role::Exception);
            Ok(())
        })?;
    }
    if parser.eat(TokenKind::Default) {
        modifiers::element_value(parser, Role::Default)?;
    }
    if !parser.eat(TokenKind::Semicolon) {
        statement::block(parser, Role::Body)?;
    }
    parser.close(mark, Kind::Function);
    Ok(())
}

/// `( [ReceiverParameter ,] [FormalParameterList] )`
pub(super) fn parameters(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.expect(TokenKind::ParenOpen)?;
    if !parser.at(TokenKind::ParenClose) {
        separated(parser, parameter)?;
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(mark, Kind::Parameters, Role::Parameters);
    Ok(())
}

/// `FormalParameter: {VariableModifier} Type VariableDeclaratorId | VariableArityParameter`, `ReceiverParameter`
pub(super) fn parameter(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    modifiers::of_variable(parser)?;
    types::type_of(parser, Role::Type)?;
    modifiers::annotations(parser)?;
    let is_variadic = parser.eat(TokenKind::Ellipsis);
    while parser.at(TokenKind::Name) && parser.next_kind() == TokenKind::Dot {
        parser.bump();
        parser.bump();
    }
    if parser.at(TokenKind::This) {
        let before = (0..mark.token()).rev().map(|token| parser.kind_of(token)).find(|kind| !kind.is_trivia());
        if before != Some(TokenKind::ParenOpen) {
            return parser.stop(Problem::Rule("the object is the first parameter"));
        }
        parser.leaf(Kind::This, Role::Name);
    } else {
        variable_name(parser, Role::Name)?;
        super::dimensions(parser);
    }
    if is_variadic && parser.at(TokenKind::Comma) {
        return parser.stop(Problem::Rule("a parameter for any number of values is the last one"));
    }
    parser.close_as(mark, Kind::Parameter, Role::Parameter);
    Ok(())
}
