//! "Local Variable Declarations".

use super::{Front, creation, modifiers, separated, types, variable_name};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `LocalVariableDeclaration: {VariableModifier} LocalVariableType VariableDeclaratorList`, behind its modifiers, which began at `mark`.
pub(super) fn declaration(parser: &mut Front, mark: Mark) -> Parsed {
    types::type_of(parser, Role::Type)?;
    declarators(parser)?;
    parser.close(mark, Kind::Declaration);
    Ok(())
}

/// `VariableDeclaratorList`
pub(super) fn declarators(parser: &mut Front) -> Parsed {
    separated(parser, |parser| {
        let mark = parser.open();
        variable_name(parser, Role::Target)?;
        let has_dimensions = super::dimensions(parser);
        let has_value = parser.eat(TokenKind::Assign);
        if has_value {
            creation::value_or_array(parser, Role::Value)?;
        }
        if has_dimensions || has_value {
            parser.close(mark, Kind::Assignment);
        }
        parser.role(Role::Item);
        Ok(())
    })
}

/// One variable without a value, as a loop over elements has it: modifiers, a type and a name.
pub(super) fn one(parser: &mut Front, role: Role) -> Parsed {
    let mark = parser.open();
    modifiers::modifiers(parser)?;
    types::type_of(parser, Role::Type)?;
    variable_name(parser, Role::Item)?;
    super::dimensions(parser);
    parser.close_as(mark, Kind::Declaration, role);
    Ok(())
}
