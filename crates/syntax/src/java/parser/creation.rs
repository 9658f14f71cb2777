//! "Class Instance Creation Expressions", "Array Creation and Access Expressions", "Array Initializers".

use super::types::{self, Diamond};
use super::{Front, declaration, expression, modifiers};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `new`, what is made, and what it is made of.
pub(super) fn creation(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::Less) {
        types::arguments(parser)?;
    }
    let made = parser.kind();
    types::element(parser, Diamond::Allowed)?;
    let at_bracket = parser.at(TokenKind::BracketOpen)
        || parser.at(TokenKind::At) && {
            let here = parser.current();
            super::ahead::annotations_from(parser, here).is_some_and(|behind| behind.1 == TokenKind::BracketOpen)
        };
    if at_bracket {
        parser.role(Role::Type);
        let last = parser.taken_end() - 1;
        if parser.kind_of(last) == TokenKind::Greater && parser.kind_of(last - 1) == TokenKind::Less {
            return parser.stop(Problem::Rule("the type of an array has all its arguments"));
        }
        return array(parser, mark);
    }
    if made == TokenKind::PrimitiveType {
        return parser.stop_expecting("'['");
    }
    parser.role(Role::Callee);
    object(parser, mark)
}

/// `. new Identifier (…)` of an object that began at `mark`.
pub(super) fn inner_creation(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    if parser.at(TokenKind::Less) {
        types::arguments(parser)?;
    }
    types::element(parser, Diamond::Allowed)?;
    parser.role(Role::Callee);
    object(parser, mark)
}

/// `( [ArgumentList] ) [ClassBody]`
fn object(parser: &mut Front, mark: Mark) -> Parsed {
    if !parser.at(TokenKind::ParenOpen) {
        return parser.stop_expecting("'(' or '['");
    }
    arguments(parser)?;
    if parser.at(TokenKind::BraceOpen) {
        declaration::nameless_body(parser)?;
    }
    parser.close(mark, Kind::New);
    Ok(())
}

/// `DimExprs [Dims]`, or `Dims ArrayInitializer`
fn array(parser: &mut Front, mark: Mark) -> Parsed {
    let mut is_sized = false;
    let mut is_open = false;
    loop {
        let is_annotated = parser.at(TokenKind::At);
        modifiers::annotations(parser)?;
        if is_annotated && !parser.at(TokenKind::BracketOpen) {
            return parser.expect(TokenKind::BracketOpen);
        }
        if !parser.at(TokenKind::BracketOpen) || is_sized && is_open && parser.next_kind() != TokenKind::BracketClose {
            break;
        }
        parser.bump();
        if parser.at(TokenKind::BracketClose) {
            is_open = true;
        } else if is_open {
            return parser.expect(TokenKind::BracketClose);
        } else {
            expression::expression(parser, Role::Index)?;
            is_sized = true;
        }
        parser.expect(TokenKind::BracketClose)?;
    }
    if !is_sized {
        if !parser.at(TokenKind::BraceOpen) {
            return parser.stop_expecting("the values of the array");
        }
        array_values(parser, |parser| value_or_array(parser, Role::Element))?;
        parser.role(Role::Value);
    }
    parser.close(mark, Kind::New);
    Ok(())
}

/// `VariableInitializer: Expression | ArrayInitializer`
pub(super) fn value_or_array(parser: &mut Front, role: Role) -> Parsed {
    if parser.at(TokenKind::BraceOpen) {
        parser.nested(|parser| array_values(parser, |parser| value_or_array(parser, Role::Element)))?;
        parser.role(role);
        return Ok(());
    }
    expression::expression(parser, role)
}

/// Values in braces, perhaps with a comma behind the last.
pub(super) fn array_values(parser: &mut Front, value: impl Fn(&mut Front) -> Parsed) -> Parsed {
    let mark = parser.open();
    parser.expect(TokenKind::BraceOpen)?;
    // A comma may stand alone.
    if !parser.eat(TokenKind::Comma) {
        while !parser.at(TokenKind::BraceClose) {
            value(parser)?;
            if !parser.eat(TokenKind::Comma) {
                break;
            }
        }
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close(mark, Kind::List);
    Ok(())
}

/// `( [ArgumentList] )`
pub(super) fn arguments(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !parser.at(TokenKind::ParenClose) {
        super::in_brackets(parser, |parser| {
            super::separated(parser, |parser| expression::expression(parser, Role::Argument))
        })?;
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(mark, Kind::Arguments, Role::Arguments);
    Ok(())
}
