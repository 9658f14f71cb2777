//! "Attributes".

use super::{Front, argument, listed, name, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// `attributes: attribute_section*`
pub(super) fn sections(parser: &mut Front) -> Parsed {
    while parser.at(TokenKind::BracketOpen) {
        section(parser)?;
        parser.role(Role::Decorator);
    }
    Ok(())
}

/// Whether a section here says something of the whole file: `[assembly: …]`.
pub(super) fn is_for_file(parser: &mut Front) -> bool {
    let (word, kind) = parser.next_token();
    kind == TokenKind::Name
        && matches!(parser.token_text(word), "assembly" | "module")
        && parser.token_after(word).1 == TokenKind::Colon
}

/// `attribute_section: '[' (attribute_target ':')? attribute_list ','? ']'`
pub(super) fn section(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.bump();
        if parser.next_kind() == TokenKind::Colon {
            if !matches!(parser.kind(), TokenKind::Name | TokenKind::Return | TokenKind::Event) {
                return parser.stop_expecting("what the attribute is said of");
            }
            parser.leaf(Kind::Name, Role::Label);
            parser.bump();
        }
        if parser.at(TokenKind::BracketClose) {
            return parser.stop_expecting("an attribute");
        }
        listed(parser, TokenKind::BracketClose, attribute)?;
        super::done(parser, mark, Kind::AttributeSection)
    })
}

/// `attribute: attribute_name attribute_arguments?`
fn attribute(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    types::named(parser)?;
    parser.role(Role::Value);
    if parser.at(TokenKind::ParenOpen) {
        let arguments = parser.open();
        parser.bump();
        listed(parser, TokenKind::ParenClose, one)?;
        parser.close_as(arguments, Kind::Arguments, Role::Arguments);
    }
    parser.close_as(mark, Kind::Decorator, Role::Decorator);
    Ok(())
}

/// `named_argument: identifier '=' attribute_argument_expression`, or an argument as others are.
fn one(parser: &mut Front) -> Parsed {
    if !parser.at(TokenKind::Name) || parser.next_kind() != TokenKind::Assign {
        return argument::argument(parser);
    }
    let mark = parser.open();
    name(parser, Role::Name)?;
    parser.bump();
    super::expression::expression(parser, Role::Value)?;
    parser.close_as(mark, Kind::KeywordArgument, Role::Argument);
    Ok(())
}
