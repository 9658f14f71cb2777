//! "Destructuring Binding Patterns".

use super::{Front, expression, name};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// `BindingIdentifier` in the role of a name, or `BindingPattern` in that of a pattern.
pub(super) fn name_or_pattern(parser: &mut Front) -> Parsed {
    if matches!(parser.kind(), TokenKind::BracketOpen | TokenKind::BraceOpen) {
        binding_pattern(parser)?;
        parser.role(Role::Pattern);
        return Ok(());
    }
    name::binding_identifier(parser, Role::Name)
}

/// `BindingPattern : ObjectBindingPattern | ArrayBindingPattern`
pub(super) fn binding_pattern(parser: &mut Front) -> Parsed {
    let object = parser.at(TokenKind::BraceOpen);
    let inside = |context: &mut super::Context| context.no_in = false;
    parser.within(inside, |parser| {
        parser.nested(|parser| if object { object_pattern(parser) } else { array_pattern(parser) })
    })
}

/// `ObjectBindingPattern : { BindingPropertyList? }`
fn object_pattern(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    while !parser.at(TokenKind::BraceClose) {
        if parser.at(TokenKind::Ellipsis) {
            rest(parser)?;
        } else {
            property(parser)?;
        }
        parser.role(Role::Element);
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close(mark, Kind::MappingPattern);
    Ok(())
}

/// `BindingProperty : SingleNameBinding | PropertyName : BindingElement`
fn property(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if name::is_identifier(parser.kind()) && parser.next_kind() != TokenKind::Colon {
        return element(parser);
    }
    name::property_name(parser, Kind::PropertyName, Role::Key)?;
    parser.expect(TokenKind::Colon)?;
    element(parser)?;
    parser.role(Role::Pattern);
    parser.close(mark, Kind::PairPattern);
    Ok(())
}

/// `ArrayBindingPattern : [ BindingElementList? ]`; elements may be left out.
fn array_pattern(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    while !parser.at(TokenKind::BracketClose) {
        if parser.eat(TokenKind::Comma) {
            continue;
        }
        if parser.at(TokenKind::Ellipsis) {
            rest(parser)?;
        } else {
            element(parser)?;
        }
        parser.role(Role::Pattern);
        if !parser.at(TokenKind::BracketClose) {
            parser.expect(TokenKind::Comma)?;
        }
    }
    parser.bump();
    parser.close(mark, Kind::SequencePattern);
    Ok(())
}

/// `BindingElement : SingleNameBinding | BindingPattern Initializer?`
fn element(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if matches!(parser.kind(), TokenKind::BracketOpen | TokenKind::BraceOpen) {
        binding_pattern(parser)?;
    } else {
        name::binding_identifier(parser, Role::Name)?;
        parser.close(mark, Kind::CapturePattern);
    }
    if parser.eat(TokenKind::Assign) {
        parser.role(Role::Pattern);
        expression::assignment_expression(parser)?;
        parser.role(Role::Default);
        parser.close(mark, Kind::DefaultPattern);
    }
    Ok(())
}

/// `BindingRestElement : ... BindingIdentifier | ... BindingPattern`
fn rest(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    name_or_pattern(parser)?;
    parser.close(mark, Kind::StarPattern);
    Ok(())
}
