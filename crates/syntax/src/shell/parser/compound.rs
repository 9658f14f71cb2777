//! Compound commands.

use super::{block, command, condition, lines, statements, word};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Role, TokenKind};

pub(super) fn begins(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::BraceOpen
            | TokenKind::ParenOpen
            | TokenKind::ParensOpen
            | TokenKind::ConditionOpen
            | TokenKind::If
            | TokenKind::While
            | TokenKind::Until
            | TokenKind::For
            | TokenKind::Select
            | TokenKind::Case
            | TokenKind::FunctionWord
            | TokenKind::Coproc
    )
}

/// `compound_command: brace_group | subshell | for_clause | case_clause | if_clause | while_clause | until_clause`, and those of
/// bash: `select`, `[[ … ]]`, `(( … ))`, `coproc`, `function`.
pub(super) fn on_compound(parser: &mut Parser) -> Parsed {
    match parser.kind() {
        TokenKind::BraceOpen => group(parser),
        TokenKind::ParenOpen => subshell(parser),
        TokenKind::ParensOpen => word::arithmetic_expansion(parser, Role::Part),
        TokenKind::ConditionOpen => condition::on_condition(parser),
        TokenKind::If => on_if(parser),
        TokenKind::While | TokenKind::Until => on_while(parser),
        TokenKind::For | TokenKind::Select => on_for(parser),
        TokenKind::Case => on_case(parser),
        TokenKind::Coproc => on_coproc(parser),
        _ => command::on_function_word(parser),
    }
}

/// The body of a function: a group is its block, and any other compound command represents itself.
pub(super) fn body(parser: &mut Parser) -> Parsed {
    if !begins(parser.kind()) || matches!(parser.kind(), TokenKind::FunctionWord | TokenKind::Coproc) {
        return parser.stop_expecting("the body of the function");
    }
    if !parser.at(TokenKind::BraceOpen) {
        on_compound(parser)?;
        parser.role(Role::Body);
        return Ok(());
    }
    parser.bump();
    block(parser, Role::Body)?;
    parser.expect(TokenKind::BraceClose)
}

/// `brace_group: Lbrace compound_list Rbrace`
fn group(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    block(parser, Role::Body)?;
    parser.expect(TokenKind::BraceClose)?;
    parser.close(mark, Kind::CommandGroup);
    Ok(())
}

/// `subshell: '(' compound_list ')'`
fn subshell(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    block(parser, Role::Body)?;
    parser.expect(TokenKind::ParenClose)?;
    parser.close(mark, Kind::Subshell);
    Ok(())
}

/// `if_clause: If compound_list Then compound_list [else_part] Fi`,
/// `else_part: Elif compound_list Then compound_list [else_part] | Else compound_list`
fn on_if(parser: &mut Parser) -> Parsed {
    // Each further condition is an `if` of its own within the one before; one `fi` ends them all.
    let mut open = Vec::new();
    while open.is_empty() || parser.at(TokenKind::Elif) {
        open.push(parser.open());
        parser.bump();
        block(parser, Role::Condition)?;
        parser.expect(TokenKind::Then)?;
        block(parser, Role::Body)?;
    }
    if parser.eat(TokenKind::Else) {
        block(parser, Role::Else)?;
    }
    parser.expect(TokenKind::Fi)?;
    while let Some(mark) = open.pop() {
        parser.close(mark, Kind::If);
        if !open.is_empty() {
            parser.role(Role::Else);
        }
    }
    Ok(())
}

/// `while_clause: While compound_list do_group`, `until_clause: Until compound_list do_group`
fn on_while(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    block(parser, Role::Condition)?;
    do_group(parser)?;
    parser.close(mark, Kind::While);
    Ok(())
}

/// `do_group: Do compound_list Done`
fn do_group(parser: &mut Parser) -> Parsed {
    parser.expect(TokenKind::Do)?;
    block(parser, Role::Body)?;
    parser.expect(TokenKind::Done)
}

/// `for_clause: For name [[linebreak In [wordlist]] sequential_sep] linebreak do_group`; in bash also `for ((…;…;…))`, `select`, and
/// a group in place of `do … done`.
fn on_for(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::ParensOpen) {
        word::arithmetic_expansion(parser, Role::Iterable)?;
    } else {
        if !parser.at(TokenKind::ShellText) {
            return parser.stop_expecting("a name");
        }
        parser.leaf(Kind::Name, Role::Target);
        lines(parser)?;
        if parser.eat(TokenKind::In) {
            while word::at_word(parser) {
                word::word(parser, Role::Iterable)?;
            }
            if !matches!(parser.kind(), TokenKind::Semicolon | TokenKind::Newline) {
                return parser.stop_expecting("';' or the end of the line");
            }
        }
    }
    parser.eat(TokenKind::Semicolon);
    lines(parser)?;
    if parser.eat(TokenKind::BraceOpen) {
        block(parser, Role::Body)?;
        parser.expect(TokenKind::BraceClose)?;
    } else {
        do_group(parser)?;
    }
    parser.close(mark, Kind::For);
    Ok(())
}

/// `case_clause: Case WORD linebreak In linebreak [case_list] Esac`
fn on_case(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    word::word(parser, Role::Subject)?;
    lines(parser)?;
    parser.expect(TokenKind::In)?;
    lines(parser)?;
    while !parser.at(TokenKind::Esac) {
        case_item(parser)?;
        lines(parser)?;
    }
    parser.bump();
    parser.close(mark, Kind::Match);
    Ok(())
}

/// `case_item: ['('] pattern_list ')' (linebreak | compound_list) DSEMI linebreak`; the last one may do without its end.
fn case_item(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.eat(TokenKind::ParenOpen);
    word::word(parser, Role::Pattern)?;
    while parser.eat(TokenKind::Bar) {
        word::word(parser, Role::Pattern)?;
    }
    parser.expect(TokenKind::ParenClose)?;
    lines(parser)?;
    let body = parser.open();
    let first = parser.position();
    statements(parser)?;
    if parser.position() > first {
        parser.close_as(body, Kind::Block, Role::Body);
    }
    if !parser.at(TokenKind::Esac) {
        parser.expect(TokenKind::CaseEnd)?;
    }
    parser.close_as(mark, Kind::Case, Role::Case);
    Ok(())
}

/// bash: `coproc [name] command`
fn on_coproc(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    command::command(parser)?;
    if begins(parser.kind()) {
        parser.role(Role::Name);
        command::command(parser)?;
    }
    parser.role(Role::Body);
    parser.close(mark, Kind::Coprocess);
    Ok(())
}
