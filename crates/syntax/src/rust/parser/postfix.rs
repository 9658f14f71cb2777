//! "Call expressions", "Method call expressions", "Field access expressions", "Index expressions", "Await expressions", "The try propagation expression".

use super::{Front, arguments, expression, separated};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// What is behind an operand that began at `mark`.
pub(super) fn suffixes(parser: &mut Front, mark: Mark) -> Parsed {
    loop {
        match parser.kind() {
            TokenKind::Dot => member(parser, mark)?,
            TokenKind::ParenOpen => call(parser, mark)?,
            TokenKind::BracketOpen => {
                parser.role(Role::Object);
                parser.bump();
                expression::expression(parser, Role::Index)?;
                parser.expect(TokenKind::BracketClose)?;
                parser.close(mark, Kind::Subscript);
            }
            TokenKind::Question => {
                parser.role(Role::Value);
                parser.bump();
                parser.close(mark, Kind::Propagation);
            }
            _ => return Ok(()),
        }
    }
}

/// `. await`, `. IDENTIFIER`, `. TUPLE_INDEX`, or a method that is called.
fn member(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Object);
    parser.bump();
    match parser.kind() {
        TokenKind::Await => {
            parser.role(Role::Value);
            parser.bump();
            parser.close(mark, Kind::Await);
            return Ok(());
        }
        TokenKind::Number if is_index(parser.text()) => {
            parser.leaf(Kind::Number, Role::Name);
            parser.close(mark, Kind::Member);
            return Ok(());
        }
        _ => super::name(parser, Role::Name)?,
    }
    parser.close(mark, Kind::Member);
    if parser.at(TokenKind::ColonColon) {
        parser.role(Role::Callee);
        parser.bump();
        arguments::type_arguments(parser)?;
        if !parser.at(TokenKind::ParenOpen) {
            return parser.expect(TokenKind::ParenOpen);
        }
        call_arguments(parser)?;
        parser.close(mark, Kind::Call);
    }
    Ok(())
}

/// Whether a number is one of a part of a tuple.
pub(super) fn is_index(number: &str) -> bool {
    number.bytes().all(|byte| byte.is_ascii_digit())
}

fn call(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Callee);
    call_arguments(parser)?;
    parser.close(mark, Kind::Call);
    Ok(())
}

/// `CallParams : Expression ( , Expression )* ,?`, in parentheses.
fn call_arguments(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    separated(parser, TokenKind::ParenClose, |parser| expression::expression(parser, Role::Argument))?;
    parser.close_as(mark, Kind::Arguments, Role::Arguments);
    Ok(())
}
