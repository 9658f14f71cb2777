//! "Statements", "Block expressions".

use super::expression::{Braces, expression};
use super::{
    Front, attribute, control, item, leave_out, leaves_block, macros, operator, path, pattern, postfix, types,
};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `BlockExpression : { InnerAttribute* Statements? }`
pub(super) fn block(parser: &mut Front, role: Role) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        let open = parser.token_span(parser.position());
        parser.expect(TokenKind::BraceOpen)?;
        attribute::inner_attributes(parser, Role::Part);
        while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) && !leaves_block(parser) {
            let (before, inner) = (parser.fault_count(), parser.open());
            if parser.at(TokenKind::Semicolon) {
                parser.leaf(Kind::Pass, Role::Statement);
                continue;
            }
            if statement(parser).is_err() {
                leave_out(parser, before, inner, false);
            }
        }
        if !parser.eat(TokenKind::BraceClose) {
            parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
        }
        parser.close(mark, Kind::Block);
        Ok(())
    })?;
    parser.role(role);
    Ok(())
}

/// `Statement : Item | LetStatement | ExpressionStatement | MacroInvocationSemi`, or the value of the block.
fn statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.nested(|parser| {
        attribute::outer_attributes(parser)?;
        if parser.at(TokenKind::Let) {
            return let_statement(parser, mark);
        }
        if item::begins(parser) {
            item::behind_attributes(parser, mark)?;
            parser.role(Role::Statement);
            return Ok(());
        }
        expression_statement(parser, mark)
    })
}

/// `LetStatement : OuterAttribute* let PatternNoTopAlt ( : Type )? ( = Expression ( else BlockExpression )? )? ;`
fn let_statement(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    let inner = parser.open();
    pattern::single(parser, Role::Target)?;
    let has_type = parser.eat(TokenKind::Colon);
    if has_type {
        types::type_of(parser, Role::Type)?;
    }
    let has_value = parser.eat(TokenKind::Assign);
    if has_value {
        expression(parser, Role::Value)?;
    }
    if has_type || has_value {
        parser.close(inner, if has_type { Kind::AnnotatedAssignment } else { Kind::Assignment });
    }
    parser.role(Role::Item);
    if has_value && parser.at(TokenKind::Else) {
        otherwise(parser, mark)?;
    }
    parser.expect(TokenKind::Semicolon)?;
    parser.close_as(mark, Kind::Declaration, Role::Statement);
    Ok(())
}

/// `else BlockExpression` behind the value of a declaration that began at `mark`: the value is told from a condition and its block.
fn otherwise(parser: &mut Front, mark: Mark) -> Parsed {
    let value = parser.last_since(mark).and_then(|item| item.children_backwards().next());
    let is_logical = value.is_some_and(|value| value.kind() == Kind::Logical);
    if is_logical || parser.taken_kind() == TokenKind::BraceClose {
        return parser.stop_expecting("';'");
    }
    parser.bump();
    block(parser, Role::Else)
}

/// `ExpressionStatement : ExpressionWithoutBlock ; | ExpressionWithBlock ;?`, or the value of the block. Its attributes began at `mark`.
fn expression_statement(parser: &mut Front, mark: Mark) -> Parsed {
    let has_attributes = parser.position() != mark.token();
    let is_complete = begun_by_block_or_not(parser)?;
    let stands_alone = has_attributes || !parser.last_since(mark).is_some_and(|node| node.kind().is_statement());
    if has_attributes {
        parser.role(Role::Value);
        parser.close(mark, Kind::Attributed);
    }
    match parser.kind() {
        TokenKind::Semicolon if stands_alone => {
            parser.role(Role::Value);
            parser.bump();
            parser.close(mark, Kind::ExpressionStatement);
            parser.role(Role::Statement);
        }
        TokenKind::Semicolon => {
            parser.role(Role::Statement);
            parser.bump();
        }
        // The value of the block.
        TokenKind::BraceClose => parser.role(Role::Statement),
        _ if is_complete => parser.role(Role::Statement),
        _ => return parser.stop_expecting("';' or '}'"),
    }
    Ok(())
}

/// An expression where a statement may begin. Gives whether it needs no semicolon: with a block at its end it is a statement.
fn begun_by_block_or_not(parser: &mut Front) -> Result<bool, Stop> {
    if let Some(mark) = opt_with_block(parser)? {
        if !goes_on(parser) {
            return Ok(true);
        }
        postfix::suffixes(parser, mark)?;
        operator::behind_operand(parser, mark, Braces::Fields)?;
        return Ok(false);
    }
    expression(parser, Role::Value)?;
    Ok(false)
}

/// Whether what is behind the brace of a statement makes it an operand.
fn goes_on(parser: &Front) -> bool {
    matches!(parser.kind(), TokenKind::Dot | TokenKind::Question)
}

/// `ExpressionWithBlock`, or a macro in braces, if one begins here; with the place where it began.
fn opt_with_block(parser: &mut Front) -> Result<Option<Mark>, Stop> {
    let mark = parser.open();
    let next = parser.next_kind();
    match (parser.kind(), next) {
        (TokenKind::If, _) => control::if_expression(parser)?,
        (TokenKind::MatchWord, _) => control::match_expression(parser)?,
        (TokenKind::Loop | TokenKind::While, _) => control::loop_expression(parser)?,
        (TokenKind::For, _) if !super::closure::begins(parser) => control::loop_expression(parser)?,
        (TokenKind::Lifetime, _) => control::labeled(parser)?,
        (TokenKind::BraceOpen, _) => block(parser, Role::Part)?,
        (TokenKind::Unsafe | TokenKind::Const | TokenKind::Try, TokenKind::BraceOpen) => {
            super::expression::worded_block(parser)?;
        }
        _ => return opt_macro_in_braces(parser, mark),
    }
    Ok(Some(mark))
}

fn opt_macro_in_braces(parser: &mut Front, mark: Mark) -> Result<Option<Mark>, Stop> {
    if !path::begins(parser.kind()) || !is_macro_in_braces(parser) {
        return Ok(None);
    }
    path::simple_path(parser)?;
    macros::call(parser, mark)?;
    Ok(Some(mark))
}

/// Whether a path with `!` and a brace behind it begins here.
fn is_macro_in_braces(parser: &mut Front) -> bool {
    let mut token = parser.current();
    if token.1 == TokenKind::ColonColon {
        token = parser.token_after(token.0);
    }
    while path::is_segment(token.1) {
        token = parser.token_after(token.0);
        if token.1 != TokenKind::ColonColon {
            break;
        }
        token = parser.token_after(token.0);
    }
    token.1 == TokenKind::Exclamation && parser.token_after(token.0).1 == TokenKind::BraceOpen
}

/// What an arm of a match gives. Gives whether a comma must be behind it.
pub(super) fn arm_body(parser: &mut Front) -> Result<bool, Stop> {
    let mark = parser.open();
    let mut is_complete = false;
    parser.nested(|parser| {
        is_complete = begun_by_block_or_not(parser)?;
        Ok(())
    })?;
    parser.role(Role::Body);
    Ok(!is_complete || parser.last_since(mark).is_some_and(|node| node.kind() == Kind::MacroCall))
}
