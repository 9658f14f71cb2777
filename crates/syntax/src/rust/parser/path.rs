//! "Paths".

use super::{Front, arguments, bound, split, types};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Mark, Role, TokenKind};

/// Where arguments of types may stand in a path.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Generics {
    /// Nowhere.
    None,
    /// Behind `::`, since `<` compares.
    Turbofish,
    /// Behind a name.
    Direct,
}

/// Whether a path may begin with a token.
pub(super) fn begins(kind: TokenKind) -> bool {
    is_segment(kind) || matches!(kind, TokenKind::ColonColon)
}

/// Whether a token may be a part of a path.
pub(super) fn is_segment(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::Name
            | TokenKind::SelfWord
            | TokenKind::SelfType
            | TokenKind::Super
            | TokenKind::Crate
            | TokenKind::Try
    )
}

/// `SimplePath`, as attributes, macros and visibilities have it.
pub(super) fn simple_path(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    path(parser, mark, Generics::None)
}

/// `PathInExpression | QualifiedPathInExpression`
pub(super) fn in_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if at_qualified(parser) {
        return qualified(parser, mark, Generics::Turbofish);
    }
    path(parser, mark, Generics::Turbofish)
}

/// `TypePath | QualifiedPathInType`, as a type with a name.
pub(super) fn in_type(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if at_qualified(parser) {
        qualified(parser, mark, Generics::Direct)?;
    } else {
        path(parser, mark, Generics::Direct)?;
    }
    Ok(())
}

/// Whether `<` or `<<` begins a path.
pub(super) fn at_qualified(parser: &Front) -> bool {
    matches!(parser.kind(), TokenKind::Less | TokenKind::ShiftLeft)
}

/// A path from its first sign on. A type is closed as one.
fn path(parser: &mut Front, mark: Mark, generics: Generics) -> Parsed {
    parser.eat(TokenKind::ColonColon);
    let needs_more = generics != Generics::None && parser.at(TokenKind::Crate);
    segment_name(parser)?;
    if needs_more && !parser.at(TokenKind::ColonColon) {
        return parser.stop_expecting("'::'");
    }
    segments(parser, mark, generics)
}

fn segment_name(parser: &mut Front) -> Parsed {
    if !is_segment(parser.kind()) {
        return parser.stop_expecting("a name");
    }
    parser.leaf(Kind::Name, Role::Name);
    Ok(())
}

/// `QualifiedPathType : < Type (as TypePath)? >`, and the segments behind it.
fn qualified(parser: &mut Front, mark: Mark, generics: Generics) -> Parsed {
    parser.nested(|parser| {
        split(parser, TokenKind::ShiftLeft);
        parser.bump();
        types::type_of(parser, Role::Type)?;
        if parser.eat(TokenKind::As) {
            in_type(parser)?;
            parser.role(Role::Bound);
        }
        parser.expect(TokenKind::Greater)?;
        parser.close(mark, Kind::QualifiedType);
        Ok(())
    })?;
    if !parser.at(TokenKind::ColonColon) {
        return parser.stop_expecting("'::'");
    }
    next_segment(parser, mark)?;
    segments(parser, mark, generics)
}

/// `:: PathIdentSegment`, behind what began at `mark`.
fn next_segment(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Object);
    parser.bump();
    segment_name(parser)?;
    parser.close(mark, Kind::Path);
    Ok(())
}

/// What is behind the first segment: arguments, and further segments.
fn segments(parser: &mut Front, mark: Mark, generics: Generics) -> Parsed {
    loop {
        let has_arguments = segment_arguments(parser, generics)?;
        let goes_on = parser.at(TokenKind::ColonColon) && {
            let next = parser.next_kind();
            is_segment(next) || generics != Generics::None && !matches!(next, TokenKind::BraceOpen | TokenKind::Star)
        };
        if !goes_on {
            return close(parser, mark, generics, has_arguments);
        }
        if has_arguments {
            parser.close(mark, Kind::Instantiation);
        }
        next_segment(parser, mark)?;
    }
}

/// The path is complete: with arguments it is an instance of something, and a type has a name.
fn close(parser: &mut Front, mark: Mark, generics: Generics, has_arguments: bool) -> Parsed {
    if generics == Generics::Direct {
        if !has_arguments {
            parser.role(Role::Name);
        }
        parser.close(mark, Kind::NamedType);
    } else if has_arguments {
        parser.close(mark, Kind::Instantiation);
    }
    Ok(())
}

/// `GenericArgs` or `TypePathFn` behind a segment, if there are any.
fn segment_arguments(parser: &mut Front, generics: Generics) -> Result<bool, Stop> {
    let segment = parser.taken_kind();
    let takes_none = matches!(segment, TokenKind::SelfWord | TokenKind::Super | TokenKind::Crate);
    if generics == Generics::None || takes_none {
        return Ok(false);
    }
    let behind_colons = parser.at(TokenKind::ColonColon)
        && match parser.next_kind() {
            TokenKind::Less | TokenKind::ShiftLeft => true,
            TokenKind::ParenOpen => generics == Generics::Direct,
            _ => false,
        };
    let directly = generics == Generics::Direct
        && matches!(parser.kind(), TokenKind::Less | TokenKind::ShiftLeft | TokenKind::ParenOpen);
    if !behind_colons && !directly {
        return Ok(false);
    }
    parser.role(if generics == Generics::Direct { Role::Name } else { Role::Value });
    if behind_colons {
        parser.bump();
    }
    if parser.at(TokenKind::ParenOpen) {
        bound::function_arguments(parser)?;
    } else {
        arguments::type_arguments(parser)?;
    }
    Ok(true)
}
