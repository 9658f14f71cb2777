//! The grammar of the shell, after "Shell Grammar" (POSIX.1-2024, 2.10) and the grammar of bash 5.2, one function a rule.

mod arithmetic;
mod command;
mod compound;
mod condition;
mod word;

use crate::parse::{Parsed, Parser};
use crate::tree::{Fault, Kind, Mark, Role, Token, TokenKind, Tree};

/// `program: linebreak complete_commands linebreak | linebreak`
pub(super) fn script(source: &str, tokens: Vec<Token>, faults: Vec<Fault>) -> Tree {
    let mut parser = Parser::new(source, tokens, faults);
    let mark = parser.open_file();
    let mut read_to = source.len() as u32;
    while !parser.at(TokenKind::EndOfFile) {
        let before = parser.position();
        let statement = parser.open();
        if complete_command(&mut parser).is_err() {
            leave_out_line(&mut parser, before);
            parser.close_as(statement, Kind::Error, Role::Statement);
        } else if ends_script(&parser, statement) {
            read_to = read_to.min(parser.token_span(parser.position()).start);
        }
    }
    let mut parsing = parser.finish(mark);
    let faults = &mut parsing.faults;
    // A shell reads line by line: what is after its end may be data, or a program in another language.
    faults.retain(|fault| fault.span.start <= read_to);
    // What follows the first mistake is most often its consequence: a shell, too, reads no further.
    faults.sort_by_key(|fault| fault.span);
    faults.truncate(1);
    parsing.into_tree()
}

/// `complete_command: list [separator_op]`, one command of it, with the empty lines before it.
fn complete_command(parser: &mut Parser) -> Parsed {
    lines(parser)?;
    if parser.at(TokenKind::EndOfFile) {
        return Ok(());
    }
    if ends_list(parser) {
        return parser.stop_expecting("a command");
    }
    and_or(parser)?;
    parser.role(Role::Statement);
    separator(parser)
}

/// Whether the command read last is an `exit`, or an `exec` that puts another program in the place of the shell.
fn ends_script(parser: &Parser, since: Mark) -> bool {
    let Some(command) = parser.last_since(since).filter(|last| last.kind() == Kind::Command) else { return false };
    let words = command.children_backwards().filter(|child| child.kind() == Kind::Word).count();
    match parser.token_text(command.first_token()) {
        "exit" => true,
        "exec" => words > 1,
        _ => false,
    }
}

/// Leaves out the rest of the line, and at least one token.
fn leave_out_line(parser: &mut Parser, before: u32) {
    while !matches!(parser.kind(), TokenKind::Newline | TokenKind::EndOfFile) {
        parser.bump();
    }
    if parser.position() == before {
        parser.bump();
    }
}

/// Whether a token ends a list of commands.
fn ends_list(parser: &Parser) -> bool {
    if parser.at(TokenKind::Backquote) {
        return parser.in_backquotes();
    }
    matches!(
        parser.kind(),
        TokenKind::Then
            | TokenKind::Do
            | TokenKind::Done
            | TokenKind::Fi
            | TokenKind::Elif
            | TokenKind::Else
            | TokenKind::Esac
            | TokenKind::BraceClose
            | TokenKind::ParenClose
            | TokenKind::CaseEnd
            | TokenKind::EndOfFile
    )
}

/// `compound_list: linebreak term | linebreak term separator`, or nothing.
fn statements(parser: &mut Parser) -> Parsed {
    loop {
        lines(parser)?;
        if ends_list(parser) {
            return Ok(());
        }
        and_or(parser)?;
        parser.role(Role::Statement);
        separator(parser)?;
    }
}

/// `separator_op: '&' | ';'`, or the end of the line or list.
fn separator(parser: &mut Parser) -> Parsed {
    match parser.kind() {
        TokenKind::Semicolon | TokenKind::Ampersand => parser.bump(),
        TokenKind::Newline => {}
        _ if ends_list(parser) => {}
        _ => return parser.stop_expecting("the end of the command"),
    }
    Ok(())
}

/// A list with at least one command, as the body of a compound command.
fn block(parser: &mut Parser, role: Role) -> Parsed {
    lines(parser)?;
    let mark = parser.open();
    let first = parser.position();
    statements(parser)?;
    if parser.position() == first {
        return parser.stop_expecting("a command");
    }
    parser.close_as(mark, Kind::Block, role);
    Ok(())
}

/// `linebreak: newline_list | /* empty */`, with the here-documents that begin on the next lines.
fn lines(parser: &mut Parser) -> Parsed {
    loop {
        match parser.kind() {
            TokenKind::Newline => parser.bump(),
            TokenKind::HereText => word::here_document(parser)?,
            _ => return Ok(()),
        }
    }
}

/// `and_or: pipeline | and_or AND_IF linebreak pipeline | and_or OR_IF linebreak pipeline`
fn and_or(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    pipeline(parser)?;
    if !matches!(parser.kind(), TokenKind::AndAnd | TokenKind::BarBar) {
        return Ok(());
    }
    parser.role(Role::Operand);
    while parser.eat(TokenKind::AndAnd) || parser.eat(TokenKind::BarBar) {
        lines(parser)?;
        pipeline(parser)?;
        parser.role(Role::Operand);
    }
    parser.close(mark, Kind::Logical);
    Ok(())
}

/// `pipeline: pipe_sequence | Bang pipe_sequence`, `pipe_sequence: command | pipe_sequence '|' linebreak command`
fn pipeline(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let mut marked = false;
    loop {
        match parser.kind() {
            TokenKind::Exclamation => parser.bump(),
            TokenKind::Time => {
                parser.bump();
                while parser.at(TokenKind::ShellText) && matches!(parser.text(), "-p" | "--") {
                    parser.bump();
                }
            }
            _ => break,
        }
        marked = true;
    }
    let is_bare = marked && (matches!(parser.kind(), TokenKind::Newline | TokenKind::Semicolon) || ends_list(parser));
    if is_bare {
        parser.close(mark, Kind::Pipeline);
        return Ok(());
    }
    command::command(parser)?;
    if !marked && !parser.at(TokenKind::Bar) {
        return Ok(());
    }
    parser.role(Role::Element);
    while parser.eat(TokenKind::Bar) {
        lines(parser)?;
        command::command(parser)?;
        parser.role(Role::Element);
    }
    parser.close(mark, Kind::Pipeline);
    Ok(())
}
