//! "Left-Hand-Side Expressions": members, elements, calls and templates after a value.

use super::{Front, arguments, expression, markup, name, primary, template, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `LeftHandSideExpression : NewExpression | CallExpression | OptionalExpression`
pub(super) fn left_hand_side(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::Less) && parser.own.dialect.markup {
        return markup::element(parser);
    }
    primary::member_base(parser)?;
    rest_of_chain(parser, mark, true)
}

/// `MemberExpression`: without calls, as `new` takes it.
pub(super) fn member_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    primary::member_base(parser)?;
    rest_of_chain(parser, mark, false)
}

/// Members, elements, calls and tagged templates after a value.
fn rest_of_chain(parser: &mut Front, mark: Mark, calls: bool) -> Parsed {
    let mut optional = false;
    loop {
        match parser.kind() {
            TokenKind::Dot => {
                let object = parser.last_since(mark).map(|object| object.kind());
                if object == Some(Kind::Instantiation) {
                    return parser.stop(Problem::Rule("a member cannot directly follow type arguments"));
                }
                parser.role(Role::Object);
                parser.bump();
                member_name(parser)?;
                parser.close(mark, Kind::Member);
            }
            TokenKind::QuestionDot if calls => {
                optional = true;
                optional_link(parser, mark)?;
            }
            TokenKind::BracketOpen => element(parser, mark)?,
            TokenKind::ParenOpen if calls => {
                parser.role(Role::Callee);
                arguments::arguments(parser)?;
                parser.close(mark, Kind::Call);
            }
            TokenKind::FormatStart => {
                if optional {
                    return parser.stop(Problem::Rule("a template cannot follow '?.'"));
                }
                tagged_template(parser, mark)?;
            }
            TokenKind::Exclamation if parser.has_types() && !parser.at_new_line() => {
                parser.role(Role::Value);
                parser.bump();
                parser.close(mark, Kind::NonNull);
            }
            TokenKind::Less | TokenKind::ShiftLeft if parser.has_types() => {
                if !types::arguments::opt_type_arguments_in_expression(parser, !calls) {
                    return Ok(());
                }
                if !calls && !parser.at(TokenKind::FormatStart) {
                    // They belong to `new`.
                    return Ok(());
                }
                behind_type_arguments(parser, mark)?;
            }
            _ => return Ok(()),
        }
    }
}

/// A call, a template or nothing after type arguments, which are the node finished last.
fn behind_type_arguments(parser: &mut Front, mark: Mark) -> Parsed {
    match parser.kind() {
        TokenKind::ParenOpen => {
            arguments::arguments(parser)?;
            parser.close(mark, Kind::Call);
        }
        TokenKind::FormatStart => {
            template::template(parser)?;
            parser.role(Role::Value);
            parser.close(mark, Kind::TaggedTemplate);
        }
        _ => parser.close(mark, Kind::Instantiation),
    }
    Ok(())
}

/// `. IdentifierName`, `. PrivateIdentifier`, after the dot.
fn member_name(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::PrivateName) {
        if !parser.context().in_class {
            let span = parser.token_span(parser.position());
            parser.early_fault(span, Problem::Rule("private names are seen only in the class that has them"));
        }
        parser.leaf(Kind::PrivateName, Role::Name);
        return Ok(());
    }
    name::any_word(parser, Kind::Name, Role::Name)
}

/// `[ Expression ]`
fn element(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Object);
    parser.bump();
    parser.within(|context| context.no_in = false, expression::expression)?;
    parser.role(Role::Index);
    parser.expect(TokenKind::BracketClose)?;
    parser.close(mark, Kind::Subscript);
    Ok(())
}

/// `OptionalChain`, one link of it.
fn optional_link(parser: &mut Front, mark: Mark) -> Parsed {
    match parser.next_kind() {
        TokenKind::ParenOpen => {
            parser.role(Role::Callee);
            parser.bump();
            arguments::arguments(parser)?;
            parser.close(mark, Kind::Call);
            Ok(())
        }
        TokenKind::BracketOpen => {
            parser.bump();
            element(parser, mark)
        }
        TokenKind::Less if parser.has_types() => {
            parser.role(Role::Callee);
            parser.bump();
            types::arguments::type_arguments(parser)?;
            arguments::arguments(parser)?;
            parser.close(mark, Kind::Call);
            Ok(())
        }
        _ => {
            parser.role(Role::Object);
            parser.bump();
            if parser.at(TokenKind::PrivateName) && parser.has_types() {
                return parser.stop(Problem::Rule("a private name cannot follow '?.'"));
            }
            member_name(parser)?;
            parser.close(mark, Kind::Member);
            Ok(())
        }
    }
}

fn tagged_template(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Callee);
    template::tagged(parser)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::TaggedTemplate);
    Ok(())
}
