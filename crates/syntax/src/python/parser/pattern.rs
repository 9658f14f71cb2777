//! The match statement and its patterns: "Match statement" of the grammar, PEP 634.

use super::compound::case_block;
use super::expression::{named_expression, star_named_expression};
use super::statement::{indented, recover};
use super::{string, target};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Problem, Role, TokenKind};

/// Whether the name `match` here begins a match statement: its line ends in a colon and the block below begins with `case`.
pub(super) fn is_match_statement(parser: &Parser) -> bool {
    let mut tokens = parser.ahead();
    let mut before = TokenKind::Name;
    let mut first = None;
    for (_, kind) in tokens.by_ref() {
        if matches!(kind, TokenKind::Newline | TokenKind::EndOfFile) {
            break;
        }
        first.get_or_insert(kind);
        before = kind;
    }
    let could_be_subject = !matches!(first, None | Some(TokenKind::Colon | TokenKind::Assign | TokenKind::Dot));
    before == TokenKind::Colon
        && could_be_subject
        && tokens.next().is_some_and(|(_, kind)| kind == TokenKind::Indent)
        && tokens.next().is_some_and(|(id, kind)| kind == TokenKind::Name && parser.token_text(id) == "case")
}

/// `match_stmt: "match" subject_expr ':' NEWLINE INDENT case_block+ DEDENT`
pub(super) fn on_match(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    subject(parser)?;
    parser.role(Role::Subject);
    parser.expect(TokenKind::Colon)?;
    parser.expect(TokenKind::Newline)?;
    parser.expect(TokenKind::Indent)?;
    indented(parser, case);
    parser.close(mark, Kind::Match);
    parser.eat(TokenKind::Dedent);
    Ok(())
}

/// `subject_expr: star_named_expression ',' [star_named_expressions] | named_expression`
fn subject(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let starred = parser.at(TokenKind::Star);
    star_named_expression(parser)?;
    if !parser.at(TokenKind::Comma) {
        return if starred { parser.stop_expecting("','") } else { Ok(()) };
    }
    parser.role(Role::Element);
    while parser.eat(TokenKind::Comma) && !parser.at(TokenKind::Colon) {
        star_named_expression(parser)?;
        parser.role(Role::Element);
    }
    parser.close(mark, Kind::Tuple);
    Ok(())
}

/// One case, or what is in its place.
fn case(parser: &mut Parser) {
    let mark = parser.open();
    let before = parser.fault_count();
    if on_case(parser).is_err() {
        recover(parser, mark, before);
    }
    parser.role(Role::Case);
}

/// `case_block: "case" patterns ['if' named_expression] ':' block`
fn on_case(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    if !parser.at(TokenKind::Name) || parser.text() != "case" {
        return parser.stop_expecting("'case'");
    }
    parser.bump();
    patterns(parser)?;
    parser.role(Role::Pattern);
    if parser.eat(TokenKind::If) {
        named_expression(parser)?;
        parser.role(Role::Guard);
    }
    case_block(parser)?;
    parser.close(mark, Kind::Case);
    Ok(())
}

/// `patterns: open_sequence_pattern | pattern`
fn patterns(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let starred = parser.at(TokenKind::Star);
    maybe_star_pattern(parser)?;
    if !parser.at(TokenKind::Comma) {
        return if starred { parser.stop_expecting("','") } else { Ok(()) };
    }
    parser.role(Role::Pattern);
    rest_of_sequence(parser, |kind| matches!(kind, TokenKind::Colon | TokenKind::If))?;
    parser.close(mark, Kind::SequencePattern);
    Ok(())
}

/// At a comma: the further patterns of a sequence.
fn rest_of_sequence(parser: &mut Parser, ends: fn(TokenKind) -> bool) -> Parsed {
    while parser.eat(TokenKind::Comma) && !ends(parser.kind()) {
        maybe_star_pattern(parser)?;
        parser.role(Role::Pattern);
    }
    Ok(())
}

/// `maybe_star_pattern: '*' NAME | pattern`
fn maybe_star_pattern(parser: &mut Parser) -> Parsed {
    if !parser.at(TokenKind::Star) {
        return pattern(parser);
    }
    let mark = parser.open();
    parser.bump();
    target::name(parser, Role::Name)?;
    parser.close(mark, Kind::StarPattern);
    Ok(())
}

/// `pattern: or_pattern 'as' NAME | or_pattern`
fn pattern(parser: &mut Parser) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        or_pattern(parser)?;
        if !parser.at(TokenKind::As) {
            return Ok(());
        }
        parser.role(Role::Pattern);
        parser.bump();
        if parser.at(TokenKind::Name) && parser.text() == "_" {
            return parser.stop(Problem::Rule("'_' takes anything and cannot be a name for it"));
        }
        target::name(parser, Role::Name)?;
        parser.close(mark, Kind::AsPattern);
        Ok(())
    })
}

/// `or_pattern: '|'.closed_pattern+`
fn or_pattern(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    closed_pattern(parser)?;
    if !parser.at(TokenKind::Bar) {
        return Ok(());
    }
    parser.role(Role::Pattern);
    while parser.eat(TokenKind::Bar) {
        closed_pattern(parser)?;
        parser.role(Role::Pattern);
    }
    parser.close(mark, Kind::OrPattern);
    Ok(())
}

/// `closed_pattern`
fn closed_pattern(parser: &mut Parser) -> Parsed {
    match parser.kind() {
        TokenKind::Name => named_pattern(parser),
        TokenKind::Number | TokenKind::Minus => number_pattern(parser),
        TokenKind::String | TokenKind::FormatStart => literal(parser, string::strings),
        TokenKind::None => literal(parser, |parser| leaf(parser, Kind::Null)),
        TokenKind::True | TokenKind::False => literal(parser, |parser| leaf(parser, Kind::Boolean)),
        TokenKind::ParenOpen => group_or_sequence(parser),
        TokenKind::BracketOpen => sequence(parser),
        TokenKind::BraceOpen => mapping(parser),
        _ => parser.stop_expecting("a pattern"),
    }
}

fn leaf(parser: &mut Parser, kind: Kind) -> Parsed {
    parser.leaf(kind, Role::Value);
    Ok(())
}

fn literal(parser: &mut Parser, value: fn(&mut Parser) -> Parsed) -> Parsed {
    let mark = parser.open();
    value(parser)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::LiteralPattern);
    Ok(())
}

/// `capture_pattern`, `wildcard_pattern`, `value_pattern: NAME ('.' NAME)+` or `class_pattern: name_or_attr '(' … ')'`
fn named_pattern(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let wildcard = parser.text() == "_";
    let dotted = name_or_attribute(parser)?;
    if parser.at(TokenKind::ParenOpen) {
        parser.role(Role::Callee);
        class_arguments(parser)?;
        parser.close(mark, Kind::ClassPattern);
    } else if dotted {
        parser.role(Role::Value);
        parser.close(mark, Kind::ValuePattern);
    } else if wildcard {
        parser.role(Role::Name);
        parser.close(mark, Kind::WildcardPattern);
    } else {
        parser.role(Role::Name);
        parser.close(mark, Kind::CapturePattern);
    }
    Ok(())
}

/// `name_or_attr: NAME ('.' NAME)*`; tells whether it had a dot.
fn name_or_attribute(parser: &mut Parser) -> Result<bool, crate::parse::Stop> {
    let mark = parser.open();
    target::name(parser, Role::Part)?;
    let dotted = parser.at(TokenKind::Dot);
    while parser.at(TokenKind::Dot) {
        parser.role(Role::Object);
        parser.bump();
        target::name(parser, Role::Name)?;
        parser.close(mark, Kind::Member);
    }
    Ok(dotted)
}

/// `signed_number | complex_number: signed_real_number ('+' | '-') imaginary_number`
fn number_pattern(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    number_value(parser)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::LiteralPattern);
    Ok(())
}

fn number_value(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let real = signed_number(parser)?;
    if !matches!(parser.kind(), TokenKind::Plus | TokenKind::Minus) {
        return Ok(());
    }
    parser.role(Role::Left);
    parser.bump();
    let imaginary = parser.at(TokenKind::Number) && is_imaginary(parser.text());
    if !real || !imaginary {
        return parser.stop(Problem::Rule("a complex number in a pattern is a real and then an imaginary number"));
    }
    parser.leaf(Kind::Number, Role::Right);
    parser.close(mark, Kind::Binary);
    Ok(())
}

/// `['-'] NUMBER`; tells whether the number is real.
fn signed_number(parser: &mut Parser) -> Result<bool, crate::parse::Stop> {
    let mark = parser.open();
    let negative = parser.eat(TokenKind::Minus);
    if !parser.at(TokenKind::Number) {
        parser.stop_expecting("a number")?;
    }
    let real = !is_imaginary(parser.text());
    parser.leaf(Kind::Number, Role::Operand);
    if negative {
        parser.close(mark, Kind::Unary);
    }
    Ok(real)
}

fn is_imaginary(number: &str) -> bool {
    number.ends_with(['j', 'J'])
}

/// `group_pattern: '(' pattern ')'`, `sequence_pattern: '(' [open_sequence_pattern] ')'`
fn group_or_sequence(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.eat(TokenKind::ParenClose) {
        parser.close(mark, Kind::SequencePattern);
        return Ok(());
    }
    let starred = parser.at(TokenKind::Star);
    maybe_star_pattern(parser)?;
    parser.role(Role::Pattern);
    let comma = parser.at(TokenKind::Comma);
    rest_of_sequence(parser, |kind| kind == TokenKind::ParenClose)?;
    if starred && !comma {
        return parser.stop_expecting("','");
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close(mark, if comma { Kind::SequencePattern } else { Kind::GroupPattern });
    Ok(())
}

/// `sequence_pattern: '[' [maybe_sequence_pattern] ']'`
fn sequence(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !parser.at(TokenKind::BracketClose) {
        maybe_star_pattern(parser)?;
        parser.role(Role::Pattern);
        rest_of_sequence(parser, |kind| kind == TokenKind::BracketClose)?;
    }
    parser.expect(TokenKind::BracketClose)?;
    parser.close(mark, Kind::SequencePattern);
    Ok(())
}

/// `mapping_pattern: '{' [items_pattern [',' double_star_pattern]] [','] '}'`
fn mapping(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    while !parser.at(TokenKind::BraceClose) {
        let rest = parser.at(TokenKind::StarStar);
        if rest {
            mapping_rest(parser)?
        } else {
            key_value_pattern(parser)?
        }
        parser.role(Role::Element);
        let comma = parser.eat(TokenKind::Comma);
        if rest || !comma {
            break;
        }
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close(mark, Kind::MappingPattern);
    Ok(())
}

/// `double_star_pattern: '**' pattern_capture_target`
fn mapping_rest(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::Name) && parser.text() == "_" {
        return parser.stop(Problem::Rule("'**_' has no meaning: a mapping pattern lets further entries be"));
    }
    target::name(parser, Role::Name)?;
    parser.close(mark, Kind::StarPattern);
    Ok(())
}

/// `key_value_pattern: (literal_expr | attr) ':' pattern`
fn key_value_pattern(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    match parser.kind() {
        TokenKind::Name => {
            if !name_or_attribute(parser)? {
                return parser.stop(Problem::Rule("a key in a pattern is a literal or a dotted name"));
            }
        }
        TokenKind::Number | TokenKind::Minus => number_value(parser)?,
        TokenKind::String | TokenKind::FormatStart => string::strings(parser)?,
        TokenKind::None => leaf(parser, Kind::Null)?,
        TokenKind::True | TokenKind::False => leaf(parser, Kind::Boolean)?,
        _ => return parser.stop_expecting("a key"),
    }
    parser.role(Role::Key);
    parser.expect(TokenKind::Colon)?;
    pattern(parser)?;
    parser.role(Role::Pattern);
    parser.close(mark, Kind::PairPattern);
    Ok(())
}

/// `'(' [positional_patterns] [keyword_patterns] [','] ')'`
fn class_arguments(parser: &mut Parser) -> Parsed {
    parser.bump();
    let mut named = false;
    while !parser.at(TokenKind::ParenClose) {
        let mark = parser.open();
        if parser.at(TokenKind::Name) && parser.next_kind() == TokenKind::Assign {
            named = true;
            parser.leaf(Kind::Name, Role::Name);
            parser.bump();
            pattern(parser)?;
            parser.role(Role::Pattern);
            parser.close(mark, Kind::KeywordPattern);
        } else if named {
            return parser.stop(Problem::Rule("a positional pattern follows one given by name"));
        } else {
            pattern(parser)?;
        }
        parser.role(Role::Pattern);
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.expect(TokenKind::ParenClose)
}
