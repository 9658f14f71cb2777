//! "Annotations", and the modifiers of declarations.

use super::{Front, creation, expression, qualified_name, separated};
use crate::parse::Parsed;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `{ClassModifier}` and its like: annotations and words, in any order.
pub(super) fn modifiers(parser: &mut Front) -> Parsed {
    let mut words = Vec::new();
    loop {
        if matches!(parser.kind(), TokenKind::Modifier | TokenKind::StaticWord) {
            if words.contains(&parser.text()) {
                return parser.stop(Problem::Rule("this modifier is there already"));
            }
            words.push(parser.text());
        }
        match parser.kind() {
            TokenKind::At if parser.next_kind() != TokenKind::InterfaceWord => annotation(parser)?,
            TokenKind::Modifier if matches!(parser.text(), "public" | "protected" | "private") => {
                parser.leaf(Kind::Visibility, Role::Part);
            }
            TokenKind::Modifier | TokenKind::StaticWord => parser.bump(),
            // In an interface; behind `switch` it is a case.
            TokenKind::Default if !matches!(parser.next_kind(), TokenKind::Colon | TokenKind::Arrow) => parser.bump(),
            TokenKind::Name if begins_sealing(parser) => take_sealing(parser),
            _ => return Ok(()),
        }
    }
}

/// `VariableModifier: Annotation | final`, as often as there are.
pub(super) fn of_variable(parser: &mut Front) -> Parsed {
    let first = parser.position();
    modifiers(parser)?;
    let is_other = |token: u32| match parser.kind_of(token) {
        TokenKind::StaticWord | TokenKind::Default => true,
        TokenKind::Modifier => parser.token_text(token) != "final",
        _ => false,
    };
    if (first..parser.position()).any(is_other) {
        return parser.stop(Problem::Rule("a parameter has no modifier but 'final'"));
    }
    Ok(())
}

/// `sealed` or `non-sealed` before a class or an interface.
pub(super) fn begins_sealing(parser: &mut Front) -> bool {
    match parser.text() {
        "sealed" => {
            let (_, kind) = parser.next_token();
            matches!(
                kind,
                TokenKind::Class
                    | TokenKind::InterfaceWord
                    | TokenKind::Modifier
                    | TokenKind::StaticWord
                    | TokenKind::At
            )
        }
        "non" => {
            let (minus, kind) = parser.next_token();
            let (word, word_kind) = parser.token_after(minus);
            kind == TokenKind::Minus
                && word_kind == TokenKind::Name
                && parser.token_text(word) == "sealed"
                && matches!(
                    parser.token_after(word).1,
                    TokenKind::Class | TokenKind::InterfaceWord | TokenKind::Modifier | TokenKind::StaticWord
                )
        }
        _ => false,
    }
}

fn take_sealing(parser: &mut Front) {
    if parser.text() == "non" {
        parser.bump();
        parser.bump();
    }
    parser.bump();
}

/// Annotations alone, before a type or a parameter.
pub(super) fn annotations(parser: &mut Front) -> Parsed {
    while parser.at(TokenKind::At) && parser.next_kind() != TokenKind::InterfaceWord {
        annotation(parser)?;
    }
    Ok(())
}

/// `Annotation: NormalAnnotation | MarkerAnnotation | SingleElementAnnotation`
fn annotation(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.bump();
        qualified_name(parser)?;
        parser.role(Role::Value);
        if parser.at(TokenKind::ParenOpen) {
            arguments(parser)?;
        }
        parser.close(mark, Kind::Decorator);
        Ok(())
    })?;
    parser.role(Role::Decorator);
    Ok(())
}

fn arguments(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !parser.at(TokenKind::ParenClose) {
        separated(parser, argument)?;
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(mark, Kind::Arguments, Role::Arguments);
    Ok(())
}

/// `ElementValuePair: Identifier = ElementValue`, or the value alone.
fn argument(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::Name) && parser.next_kind() == TokenKind::Assign {
        parser.leaf(Kind::Name, Role::Name);
        parser.bump();
        element_value(parser, Role::Value)?;
        parser.close(mark, Kind::KeywordArgument);
    } else {
        element_value(parser, Role::Argument)?;
    }
    parser.role(Role::Argument);
    Ok(())
}

/// `ElementValue: ConditionalExpression | ElementValueArrayInitializer | Annotation`
pub(super) fn element_value(parser: &mut Front, role: Role) -> Parsed {
    parser.nested(|parser| match parser.kind() {
        TokenKind::At => annotation(parser),
        TokenKind::BraceOpen => creation::array_values(parser, |parser| element_value(parser, Role::Element)),
        _ => expression::without_assignment(parser),
    })?;
    parser.role(role);
    Ok(())
}
