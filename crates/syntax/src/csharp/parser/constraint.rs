//! "Type parameter constraints".

use super::{Front, at_word, name, separated, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// `type_parameter_constraints_clause*`
pub(super) fn clauses(parser: &mut Front) -> Parsed {
    while at_word(parser, "where") {
        let mark = parser.open();
        parser.bump();
        name(parser, Role::Name)?;
        parser.expect(TokenKind::Colon)?;
        separated(parser, constraint)?;
        parser.close_as(mark, Kind::WhereClause, Role::Condition);
    }
    Ok(())
}

/// A type, or a word for a sort of types.
fn constraint(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    match parser.kind() {
        TokenKind::Class | TokenKind::Struct => {
            parser.bump();
            parser.eat(TokenKind::Question);
        }
        TokenKind::Default => parser.bump(),
        TokenKind::New => {
            parser.bump();
            parser.expect(TokenKind::ParenOpen)?;
            parser.expect(TokenKind::ParenClose)?;
        }
        TokenKind::Name if parser.text() == "allows" && parser.next_kind() == TokenKind::Ref => {
            parser.bump();
            parser.bump();
            parser.expect(TokenKind::Struct)?;
        }
        _ => return types::type_of(parser, Role::Bound),
    }
    parser.close_as(mark, Kind::PredefinedType, Role::Bound);
    Ok(())
}
