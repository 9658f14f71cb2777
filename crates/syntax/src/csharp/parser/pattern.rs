//! "Patterns".

use super::operator::{self, level};
use super::types;
use super::{Front, ahead, at_word, listed, name};
use crate::csharp::lexer::Goal;
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenId, TokenKind};

/// A pattern behind `case`, or of a case of a choice.
pub(super) fn label(parser: &mut Front) -> Parsed {
    pattern(parser, level::OR)?;
    parser.role(Role::Pattern);
    Ok(())
}

/// A pattern behind `is`.
pub(super) fn tested(parser: &mut Front) -> Parsed {
    pattern(parser, level::SHIFT)?;
    parser.role(Role::Operand);
    Ok(())
}

/// `disjunctive_pattern: conjunctive_pattern ('or' conjunctive_pattern)*`; constants in it may have operators of this level.
fn pattern(parser: &mut Front, least: u8) -> Parsed {
    joined(parser, "or", Kind::OrPattern, &|parser| {
        joined(parser, "and", Kind::AndPattern, &|parser| negated(parser, least))
    })
}

/// Patterns with a word between them, or one alone.
fn joined(parser: &mut Front, word: &str, kind: Kind, part: &dyn Fn(&mut Front) -> Parsed) -> Parsed {
    let mark = parser.open();
    part(parser)?;
    if !at_word(parser, word) {
        return Ok(());
    }
    parser.role(Role::Pattern);
    while at_word(parser, word) {
        parser.bump();
        part(parser)?;
        parser.role(Role::Pattern);
    }
    super::done(parser, mark, kind)
}

/// `negated_pattern: 'not' negated_pattern | primary_pattern`
fn negated(parser: &mut Front, least: u8) -> Parsed {
    if !at_word(parser, "not") || is_name_here(parser) {
        return parser.nested(|parser| primary(parser, least));
    }
    let mark = parser.open();
    parser.bump();
    parser.nested(|parser| negated(parser, least))?;
    parser.role(Role::Pattern);
    super::done(parser, mark, Kind::NotPattern)
}

/// Whether the word here is the name of a constant or a type, by what is behind it.
fn is_name_here(parser: &mut Front) -> bool {
    matches!(
        parser.next_kind(),
        TokenKind::ParenClose
            | TokenKind::Comma
            | TokenKind::Semicolon
            | TokenKind::Dot
            | TokenKind::Colon
            | TokenKind::FatArrow
            | TokenKind::AndAnd
            | TokenKind::BarBar
    )
}

fn primary(parser: &mut Front, least: u8) -> Parsed {
    let mark = parser.open();
    parser.join_greater(Goal::Greater);
    match parser.kind() {
        TokenKind::Less | TokenKind::LessEqual | TokenKind::Greater | TokenKind::GreaterEqual => {
            parser.bump();
            operator::operands(parser, level::SHIFT)?;
            parser.role(Role::Value);
            return super::done(parser, mark, Kind::RelationalPattern);
        }
        TokenKind::BracketOpen => return sequence(parser, mark),
        TokenKind::DotDot => return rest(parser, mark, least),
        TokenKind::BraceOpen => return parts_of_type(parser, mark),
        TokenKind::ParenOpen if !operator::begins_cast(parser) => return parenthesized(parser, mark, least),
        _ => {}
    }
    if begins_parts(parser) {
        parser.bump();
        return parts(parser);
    }
    if at_word(parser, "_") && !matches!(parser.next_kind(), TokenKind::Dot | TokenKind::BraceOpen) {
        parser.leaf(Kind::WildcardPattern, Role::Pattern);
        return Ok(());
    }
    typed_or_constant(parser, mark, least)
}

/// A type with what is asked of its values, a type alone, or a constant.
fn typed_or_constant(parser: &mut Front, mark: Mark, least: u8) -> Parsed {
    match behind_asked_type(parser) {
        BehindType::Parts => {
            types::asked_for(parser, Role::Callee)?;
            parts_of_type(parser, mark)
        }
        BehindType::Name => {
            types::asked_for(parser, Role::Type)?;
            name(parser, Role::Name)?;
            super::done(parser, mark, Kind::CapturePattern)
        }
        BehindType::End => types::asked_for(parser, Role::Part),
        BehindType::Other => constant(parser, least),
    }
}

/// What is behind a type in the place of a pattern.
enum BehindType {
    /// What is asked of the parts of a value.
    Parts,
    /// A name for the value.
    Name,
    /// Something else, behind what can be nothing but a type.
    End,
    /// Something else; or there is no type.
    Other,
}

/// What is behind a type in the place of a pattern, where a question mark may ask.
fn behind_asked_type(parser: &mut Front) -> BehindType {
    let first = parser.kind();
    let is_open = matches!(first, TokenKind::PrimitiveType | TokenKind::Void | TokenKind::Delegate);
    if !is_open && !matches!(first, TokenKind::Name | TokenKind::ParenOpen) || at_word(parser, "nameof") {
        return BehindType::Other;
    }
    let checkpoint = parser.checkpoint();
    let fits = types::asked_for(parser, Role::Part).is_ok() && !parser.faulty_since(&checkpoint);
    let behind = parser.current();
    let is_type = is_open && behind.1 != TokenKind::Dot
        || matches!(
            parser.taken_kind(),
            TokenKind::Greater
                | TokenKind::BracketClose
                | TokenKind::Question
                | TokenKind::Star
                | TokenKind::ParenClose
        );
    let found = match behind.1 {
        _ if !fits => BehindType::Other,
        TokenKind::BraceOpen | TokenKind::ParenOpen => BehindType::Parts,
        TokenKind::Name if is_designation(parser, behind.0) => BehindType::Name,
        _ if is_type => BehindType::End,
        _ => BehindType::Other,
    };
    parser.rewind(&checkpoint);
    found
}

/// Whether the name at a token is that of a variable, and no word between patterns or clauses.
fn is_designation(parser: &mut Front, token: TokenId) -> bool {
    !operator::is_word_of_query(parser, token) && !operator::joins(parser, token)
}

/// `constant_pattern`
fn constant(parser: &mut Front, least: u8) -> Parsed {
    if least > level::OR {
        return operator::operands(parser, least);
    }
    super::before_arrow(parser, super::expression::without_assignment)
}

/// `list_pattern: '[' patterns ']' designation?`
fn sequence(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    listed(parser, TokenKind::BracketClose, label)?;
    opt_designation(parser)?;
    super::done(parser, mark, Kind::SequencePattern)
}

/// `slice_pattern: '..' pattern?`
fn rest(parser: &mut Front, mark: Mark, least: u8) -> Parsed {
    parser.bump();
    if !matches!(parser.kind(), TokenKind::Comma | TokenKind::BracketClose) {
        parser.nested(|parser| pattern(parser, least))?;
        parser.role(Role::Pattern);
    }
    super::done(parser, mark, Kind::StarPattern)
}

/// A pattern in parentheses, or patterns for the parts of a value.
fn parenthesized(parser: &mut Front, mark: Mark, least: u8) -> Parsed {
    let here = parser.current();
    let is_alone = holds_one(parser);
    let behind = ahead::behind_brackets(parser, here);
    let names = behind.1 == TokenKind::Name && is_designation(parser, behind.0);
    if !is_alone || names || behind.1 == TokenKind::BraceOpen && parser.own.state.before_arrow {
        return parts_of_type(parser, mark);
    }
    if is_operator(behind.1) {
        return constant(parser, least);
    }
    parser.bump();
    super::in_brackets(parser, |parser| pattern(parser, level::OR))?;
    parser.role(Role::Pattern);
    parser.expect(TokenKind::ParenClose)?;
    super::done(parser, mark, Kind::GroupPattern)
}

/// Whether a value in parentheses goes on behind them.
fn is_operator(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::Plus
            | TokenKind::Minus
            | TokenKind::Star
            | TokenKind::Slash
            | TokenKind::Percent
            | TokenKind::ShiftLeft
            | TokenKind::Dot
            | TokenKind::Bar
            | TokenKind::Caret
            | TokenKind::Ampersand
    )
}

/// Whether the parentheses here hold one pattern, without a name for the part it is of.
fn holds_one(parser: &mut Front) -> bool {
    let (first, kind) = parser.next_token();
    let is_named = kind == TokenKind::Name && parser.token_after(first).1 == TokenKind::Colon;
    kind != TokenKind::ParenClose && !is_named && !ahead::holds_several(parser)
}

/// `'(' subpatterns ')'`, `'{' subpatterns '}'`, or both, and perhaps a name, behind a type or without one.
fn parts_of_type(parser: &mut Front, mark: Mark) -> Parsed {
    if parser.eat(TokenKind::ParenOpen) {
        listed(parser, TokenKind::ParenClose, part)?;
    }
    if parser.eat(TokenKind::BraceOpen) {
        listed(parser, TokenKind::BraceClose, part)?;
    }
    opt_designation(parser)?;
    super::done(parser, mark, Kind::ClassPattern)
}

/// `subpattern: (identifier ('.' identifier)* ':')? pattern`
fn part(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::Name) && names_part(parser) {
        types::qualified_name(parser)?;
        parser.role(Role::Name);
        parser.expect(TokenKind::Colon)?;
        pattern(parser, level::OR)?;
        parser.role(Role::Pattern);
        parser.close(mark, Kind::KeywordPattern);
    } else {
        pattern(parser, level::OR)?;
    }
    parser.role(Role::Pattern);
    Ok(())
}

/// Whether names with dots between them are before a colon.
fn names_part(parser: &mut Front) -> bool {
    let mut token = parser.next_token();
    while token.1 == TokenKind::Dot {
        let name = parser.token_after(token.0);
        if name.1 != TokenKind::Name {
            return false;
        }
        token = parser.token_after(name.0);
    }
    token.1 == TokenKind::Colon
}

/// The name that a value has which fits.
fn opt_designation(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Name) && is_designation(parser, parser.position()) {
        parser.leaf(Kind::Name, Role::Name);
    }
    Ok(())
}

/// `var` with names in parentheses.
pub(super) fn begins_parts(parser: &mut Front) -> bool {
    if !at_word(parser, "var") {
        return false;
    }
    let (open, kind) = parser.next_token();
    kind == TokenKind::ParenOpen && {
        let behind = ahead::behind_brackets(parser, (open, kind));
        matches!(
            behind.1,
            TokenKind::Assign
                | TokenKind::In
                | TokenKind::Colon
                | TokenKind::FatArrow
                | TokenKind::ParenClose
                | TokenKind::Comma
                | TokenKind::Name
                | TokenKind::AndAnd
                | TokenKind::BarBar
                | TokenKind::Question
                | TokenKind::BraceClose
                | TokenKind::BracketClose
                | TokenKind::Semicolon
        ) && holds_names(parser, open)
    }
}

/// Whether parentheses hold nothing but names and parentheses with commas between them.
fn holds_names(parser: &mut Front, open: TokenId) -> bool {
    let mut token = parser.token_after(open);
    let (mut depth, mut count) = (1u32, 0u32);
    loop {
        match token.1 {
            TokenKind::Name => {}
            TokenKind::Comma => count += 1,
            TokenKind::ParenOpen => depth += 1,
            TokenKind::ParenClose if depth == 1 => return count > 0,
            TokenKind::ParenClose => depth -= 1,
            _ => return false,
        }
        token = parser.token_after(token.0);
    }
}

/// `parenthesized_variable_designation: '(' designation (',' designation)* ')'`
pub(super) fn parts(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.expect(TokenKind::ParenOpen)?;
        listed(parser, TokenKind::ParenClose, |parser| {
            if parser.at(TokenKind::ParenOpen) {
                parts(parser)?;
            } else if at_word(parser, "_") {
                parser.leaf(Kind::WildcardPattern, Role::Pattern);
            } else {
                let mark = parser.open();
                name(parser, Role::Name)?;
                parser.close(mark, Kind::CapturePattern);
            }
            parser.role(Role::Pattern);
            Ok(())
        })?;
        super::done(parser, mark, Kind::SequencePattern)
    })
}
