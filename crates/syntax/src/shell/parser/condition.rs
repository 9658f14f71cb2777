//! bash: `[[ … ]]`.

use super::word;
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Role, TokenKind};

pub(super) fn on_condition(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    any(parser)?;
    parser.role(Role::Condition);
    parser.expect(TokenKind::ConditionClose)?;
    parser.close(mark, Kind::ShellTest);
    Ok(())
}

/// `any: all ('||' all)*`
fn any(parser: &mut Parser) -> Parsed {
    joined(parser, TokenKind::BarBar, all)
}

/// `all: negated ('&&' negated)*`
fn all(parser: &mut Parser) -> Parsed {
    joined(parser, TokenKind::AndAnd, negated)
}

fn joined(parser: &mut Parser, by: TokenKind, operand: fn(&mut Parser) -> Parsed) -> Parsed {
    let mark = parser.open();
    operand(parser)?;
    if !parser.at(by) {
        return Ok(());
    }
    parser.role(Role::Operand);
    while parser.eat(by) {
        operand(parser)?;
        parser.role(Role::Operand);
    }
    parser.close(mark, Kind::Logical);
    Ok(())
}

/// `negated: '!' negated | '(' any ')' | test`
fn negated(parser: &mut Parser) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        if is_word(parser, "!") {
            parser.bump();
            negated(parser)?;
            parser.role(Role::Operand);
            parser.close(mark, Kind::Unary);
            return Ok(());
        }
        if parser.eat(TokenKind::ParenOpen) {
            any(parser)?;
            parser.role(Role::Value);
            parser.expect(TokenKind::ParenClose)?;
            parser.close(mark, Kind::Group);
            return Ok(());
        }
        test(parser)
    })
}

/// `test: operator word | word [operator word]`
fn test(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    if is_unary(parser) {
        parser.bump();
        word::word(parser, Role::Operand)?;
        parser.close(mark, Kind::Unary);
        return Ok(());
    }
    word::word(parser, Role::Operand)?;
    if parser.at(TokenKind::Less) || is_binary(parser) {
        parser.bump();
        word::word(parser, Role::Operand)?;
        parser.close(mark, Kind::Comparison);
    }
    Ok(())
}

fn is_word(parser: &Parser, text: &str) -> bool {
    parser.at(TokenKind::ShellText) && parser.text() == text
}

/// `-f` and its like, if a word follows that is not an operator between two words.
fn is_unary(parser: &Parser) -> bool {
    let text = parser.text().as_bytes();
    let is_operator = parser.at(TokenKind::ShellText) && matches!(text, [b'-', letter] if letter.is_ascii_alphabetic());
    is_operator && word::begins(parser.following())
}

fn is_binary(parser: &Parser) -> bool {
    let named = ["=", "==", "!=", "=~", "-eq", "-ne", "-lt", "-le", "-gt", "-ge", "-nt", "-ot", "-ef"];
    parser.at(TokenKind::ShellText) && named.contains(&parser.text())
}
