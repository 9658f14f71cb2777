//! "Patterns".

use super::{Front, attribute, expression, literal, macros, name, path, separated, split, statement};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `Pattern : |? PatternNoTopAlt ( | PatternNoTopAlt )*`
pub(super) fn pattern(parser: &mut Front, role: Role) -> Parsed {
    let mark = parser.open();
    parser.eat(TokenKind::Bar);
    single(parser, Role::Pattern)?;
    if parser.at(TokenKind::Bar) {
        while parser.eat(TokenKind::Bar) {
            single(parser, Role::Pattern)?;
        }
        parser.close(mark, Kind::OrPattern);
    }
    parser.role(role);
    Ok(())
}

/// `PatternNoTopAlt`
pub(super) fn single(parser: &mut Front, role: Role) -> Parsed {
    parser.nested(|parser| match parser.kind() {
        TokenKind::Underscore => {
            parser.leaf(Kind::WildcardPattern, Role::Part);
            Ok(())
        }
        TokenKind::Ampersand | TokenKind::AndAnd => reference(parser),
        TokenKind::ParenOpen => parenthesized(parser),
        TokenKind::BracketOpen => slice(parser),
        TokenKind::DotDot | TokenKind::RangeInclusive => rest_or_range(parser),
        TokenKind::Ref | TokenKind::Mut => binding(parser),
        TokenKind::Minus => bounded(parser),
        TokenKind::Const => constant(parser),
        kind if literal::is_literal(kind) => bounded(parser),
        TokenKind::Less | TokenKind::ShiftLeft => path_pattern(parser),
        kind if path::begins(kind) => begun_by_name(parser),
        _ => parser.stop_expecting("a pattern"),
    })?;
    parser.role(role);
    Ok(())
}

/// `ReferencePattern : ( & | && ) mut? PatternWithoutRange`
fn reference(parser: &mut Front) -> Parsed {
    split(parser, TokenKind::AndAnd);
    let mark = parser.open();
    parser.bump();
    parser.eat(TokenKind::Mut);
    single(parser, Role::Pattern)?;
    parser.close(mark, Kind::ReferencePattern);
    Ok(())
}

/// `GroupedPattern | TuplePattern`
fn parenthesized(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let (mut count, mut comma, mut is_rest) = (0, false, false);
    while !parser.at(TokenKind::ParenClose) {
        let inner = parser.open();
        pattern(parser, Role::Pattern)?;
        is_rest = parser.last_since(inner).is_some_and(|node| node.kind() == Kind::StarPattern);
        count += 1;
        comma = parser.eat(TokenKind::Comma);
        if !comma {
            break;
        }
    }
    parser.expect(TokenKind::ParenClose)?;
    let is_group = count == 1 && !comma && !is_rest;
    parser.close(mark, if is_group { Kind::GroupPattern } else { Kind::SequencePattern });
    Ok(())
}

/// `SlicePattern : [ SlicePatternItems? ]`
fn slice(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    separated(parser, TokenKind::BracketClose, |parser| pattern(parser, Role::Pattern))?;
    parser.close(mark, Kind::SequencePattern);
    Ok(())
}

/// `RestPattern : ..`, `RangeToExclusivePattern`, `RangeToInclusivePattern`
fn rest_or_range(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let needs_end = parser.at(TokenKind::RangeInclusive);
    parser.bump();
    if begins_bound(parser.kind()) {
        range_bound(parser, Role::Upper)?;
        parser.close(mark, Kind::Range);
    } else if needs_end {
        return parser.stop_expecting("a value");
    } else {
        parser.close(mark, Kind::StarPattern);
    }
    Ok(())
}

/// Whether an end of a range may begin with a token.
fn begins_bound(kind: TokenKind) -> bool {
    literal::is_literal(kind)
        || path::begins(kind)
        || matches!(kind, TokenKind::Minus | TokenKind::Less | TokenKind::Const)
}

/// `RangePatternBound : LiteralPattern | PathExpression`
fn range_bound(parser: &mut Front, role: Role) -> Parsed {
    match parser.kind() {
        TokenKind::Minus => expression::negative_literal(parser, role)?,
        TokenKind::Const => block_of_constant(parser)?,
        kind if literal::is_literal(kind) => literal::literal(parser, role),
        _ => path::in_expression(parser)?,
    }
    parser.role(role);
    Ok(())
}

/// `LiteralPattern | RangePattern`
fn bounded(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    range_bound(parser, Role::Value)?;
    if at_range(parser) {
        return range(parser, mark);
    }
    parser.close(mark, Kind::LiteralPattern);
    Ok(())
}

fn at_range(parser: &Front) -> bool {
    matches!(parser.kind(), TokenKind::DotDot | TokenKind::RangeInclusive | TokenKind::Ellipsis)
}

/// `RangeFromPattern | RangeExclusivePattern | RangeInclusivePattern`, whose first end began at `mark`.
fn range(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Lower);
    let needs_end = !parser.at(TokenKind::DotDot);
    parser.bump();
    if needs_end || begins_bound(parser.kind()) {
        if !begins_bound(parser.kind()) {
            return parser.stop_expecting("a value");
        }
        range_bound(parser, Role::Upper)?;
    }
    parser.close(mark, Kind::Range);
    Ok(())
}

fn constant(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    block_of_constant(parser)?;
    if at_range(parser) {
        return range(parser, mark);
    }
    parser.role(Role::Value);
    parser.close(mark, Kind::ValuePattern);
    Ok(())
}

fn block_of_constant(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    statement::block(parser, Role::Body)?;
    parser.close(mark, Kind::BlockExpression);
    Ok(())
}

/// `IdentifierPattern : ref? mut? IDENTIFIER ( @ PatternNoTopAlt )?`, with a word before its name.
fn binding(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.eat(TokenKind::Ref);
    parser.eat(TokenKind::Mut);
    if parser.at(TokenKind::SelfWord) {
        parser.leaf(Kind::Name, Role::Name);
    } else {
        name(parser, Role::Name)?;
    }
    if parser.eat(TokenKind::At) {
        single(parser, Role::Pattern)?;
    }
    parser.close(mark, Kind::CapturePattern);
    Ok(())
}

/// A name alone, which is bound or compared with, or a path.
fn begun_by_name(parser: &mut Front) -> Parsed {
    let is_alone = parser.at(TokenKind::Name)
        && !matches!(
            parser.next_kind(),
            TokenKind::ColonColon
                | TokenKind::ParenOpen
                | TokenKind::BraceOpen
                | TokenKind::Exclamation
                | TokenKind::DotDot
                | TokenKind::RangeInclusive
                | TokenKind::Ellipsis
        );
    if !is_alone {
        return path_pattern(parser);
    }
    let mark = parser.open();
    parser.leaf(Kind::Name, Role::Name);
    if parser.eat(TokenKind::At) {
        single(parser, Role::Pattern)?;
        parser.close(mark, Kind::CapturePattern);
    }
    Ok(())
}

/// `PathPattern | TupleStructPattern | StructPattern | MacroInvocation`, and ranges that a path begins.
fn path_pattern(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let takes_apart = matches!(parser.next_kind(), TokenKind::ParenOpen | TokenKind::BraceOpen);
    if parser.at(TokenKind::SelfWord) && takes_apart {
        return parser.stop_expecting("a pattern");
    }
    path::in_expression(parser)?;
    match parser.kind() {
        TokenKind::ParenOpen => {
            parser.role(Role::Callee);
            parser.bump();
            separated(parser, TokenKind::ParenClose, |parser| pattern(parser, Role::Pattern))?;
            parser.close(mark, Kind::ClassPattern);
        }
        TokenKind::BraceOpen => {
            parser.role(Role::Callee);
            fields(parser)?;
            parser.close(mark, Kind::ClassPattern);
        }
        TokenKind::Exclamation if macros::follows_path(parser) => {
            macros::call(parser, mark)?;
        }
        _ if at_range(parser) => return range(parser, mark),
        _ => {
            parser.role(Role::Value);
            parser.close(mark, Kind::ValuePattern);
        }
    }
    Ok(())
}

/// `StructPatternElements` in braces.
fn fields(parser: &mut Front) -> Parsed {
    parser.bump();
    while !parser.at(TokenKind::BraceClose) {
        let mark = parser.open();
        attribute::outer_attributes(parser)?;
        if parser.at(TokenKind::DotDot) {
            parser.bump();
            parser.close_as(mark, Kind::StarPattern, Role::Pattern);
            break;
        }
        field(parser)?;
        parser.close_as(mark, Kind::KeywordPattern, Role::Pattern);
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.expect(TokenKind::BraceClose)
}

/// `StructPatternField : TUPLE_INDEX : Pattern | IDENTIFIER : Pattern | ref? mut? IDENTIFIER`
fn field(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::Number => parser.leaf(Kind::Number, Role::Name),
        TokenKind::Name if parser.next_kind() == TokenKind::Colon => parser.leaf(Kind::Name, Role::Name),
        _ => {
            let is_plain = parser.at(TokenKind::Name);
            if is_plain {
                parser.leaf(Kind::Name, Role::Name);
            } else {
                binding(parser)?;
                parser.role(Role::Pattern);
            }
            return Ok(());
        }
    }
    parser.expect(TokenKind::Colon)?;
    pattern(parser, Role::Pattern)
}
