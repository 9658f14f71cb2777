//! "Statements and Declarations", and going on after a mistake in one.

use super::{Front, class, control, declaration, expression, function, module, template, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `StatementListItem : Statement | Declaration`. Never stops: what it cannot understand becomes an error node.
pub(super) fn statement_list_item(parser: &mut Front) {
    let mark = parser.open();
    let before = parser.fault_count();
    let covers = parser.own.covers.len();
    let outcome = parser.nested(item);
    if let Some(cover) = parser.own.covers.get(covers).copied() {
        parser.early_fault(cover, Problem::Rule("a default is only allowed in a destructuring pattern"));
        parser.own.covers.truncate(covers);
    }
    if outcome.is_err() || parser.position() == mark.token() {
        recover(parser, mark, before);
    }
    parser.role(Role::Statement);
}

fn item(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::Name => begun_by_word(parser),
        TokenKind::FunctionWord => function::declaration(parser),
        TokenKind::Class => class::declaration(parser),
        TokenKind::At => class::decorated(parser),
        TokenKind::Const if parser.has_types() && parser.next_kind() == TokenKind::Enum => {
            types::declaration::enumeration(parser)
        }
        TokenKind::Var | TokenKind::Const => declaration::variable_statement(parser),
        TokenKind::Enum if parser.has_types() => types::declaration::enumeration(parser),
        TokenKind::Import if !matches!(parser.next_kind(), TokenKind::ParenOpen | TokenKind::Dot) => {
            module::import_declaration(parser)
        }
        TokenKind::Export => module::export_declaration(parser),
        _ => statement(parser),
    }
}

/// `Statement`
pub(super) fn statement(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::BraceOpen => block(parser, Role::Part),
        TokenKind::Semicolon => {
            parser.leaf(Kind::Pass, Role::Part);
            Ok(())
        }
        TokenKind::If => control::if_statement(parser),
        TokenKind::For => control::for_statement(parser),
        TokenKind::While => control::while_statement(parser),
        TokenKind::Do => control::do_while_statement(parser),
        TokenKind::Return => control::return_statement(parser),
        TokenKind::Break => control::jump(parser, Kind::Break),
        TokenKind::Continue => control::jump(parser, Kind::Continue),
        TokenKind::Switch => control::switch_statement(parser),
        TokenKind::Throw => control::throw_statement(parser),
        TokenKind::Try => control::try_statement(parser),
        TokenKind::With => control::with_statement(parser),
        TokenKind::Debugger => {
            let mark = parser.open();
            parser.bump();
            parser.semicolon()?;
            parser.close(mark, Kind::Debugger);
            Ok(())
        }
        TokenKind::Name if parser.next_kind() == TokenKind::Colon => labelled_statement(parser),
        _ => expression_statement(parser),
    }
}

/// The statement that belongs to another one.
pub(super) fn substatement(parser: &mut Front, role: Role) -> Parsed {
    parser.nested(|parser| match parser.kind() {
        // Annex B.3.3 and sloppy code: a function may stand where only a statement should.
        TokenKind::FunctionWord => function::declaration(parser),
        TokenKind::Var => declaration::variable_statement(parser),
        // `import(…)` and `import.meta` are expressions.
        TokenKind::Import if matches!(parser.next_kind(), TokenKind::ParenOpen | TokenKind::Dot) => statement(parser),
        TokenKind::Class | TokenKind::Const | TokenKind::Import | TokenKind::Export if !parser.has_types() => {
            parser.stop_expecting("a statement")
        }
        TokenKind::Class | TokenKind::Const | TokenKind::Enum | TokenKind::Import | TokenKind::Export => item(parser),
        TokenKind::Name => begun_by_word(parser),
        _ => statement(parser),
    })?;
    parser.role(role);
    Ok(())
}

/// Words that are reserved only in places begin declarations if what follows fits.
fn begun_by_word(parser: &mut Front) -> Parsed {
    match parser.text() {
        "let" if declaration::follows_let(parser) => declaration::variable_statement(parser),
        "using" if declaration::follows_using(parser) => declaration::variable_statement(parser),
        "await" if declaration::is_await_using(parser) => declaration::variable_statement(parser),
        "async" if function::follows_async(parser) => function::declaration(parser),
        _ if parser.has_types() && types::declaration::begins(parser) => types::declaration::declaration(parser),
        _ => statement(parser),
    }
}

/// `LabelledStatement : LabelIdentifier : LabelledItem`
fn labelled_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let label = parser.text();
    parser.leaf(Kind::Name, Role::Label);
    parser.bump();
    parser.own.labels.push(label);
    let outcome = substatement(parser, Role::Body);
    parser.own.labels.pop();
    outcome?;
    parser.close(mark, Kind::Labeled);
    Ok(())
}

/// `ExpressionStatement : Expression ;`
fn expression_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    expression::expression(parser)?;
    parser.role(Role::Value);
    parser.semicolon()?;
    parser.close(mark, Kind::ExpressionStatement);
    Ok(())
}

/// `Block : { StatementList? }`
pub(super) fn block(parser: &mut Front, role: Role) -> Parsed {
    let mark = parser.open();
    parser.expect(TokenKind::BraceOpen)?;
    statements(parser);
    parser.expect(TokenKind::BraceClose)?;
    parser.close_as(mark, Kind::Block, role);
    Ok(())
}

/// `StatementList`, up to the brace that closes it.
pub(super) fn statements(parser: &mut Front) {
    while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
        statement_list_item(parser);
    }
}

/// Makes an error node of what is left of the statement, up to a place where another one begins.
pub(super) fn recover(parser: &mut Front, mark: Mark, before: usize) {
    skip_statement(parser, mark.token());
    parser.keep_first_fault(before, mark);
    parser.close(mark, Kind::Error);
}

/// Brackets that are open.
#[derive(Debug, Clone, Copy, Default)]
struct Open {
    braces: u32,
    /// Parentheses and square brackets within the innermost brace.
    others: u32,
}

impl Open {
    fn count(&mut self, kind: TokenKind) {
        match kind {
            TokenKind::BraceOpen | TokenKind::DollarBrace => self.braces += 1,
            TokenKind::BraceClose => {
                self.braces = self.braces.saturating_sub(1);
                self.others = 0;
            }
            kind if kind.opens() => self.others += 1,
            kind if kind.closes() => self.others = self.others.saturating_sub(1),
            _ => {}
        }
    }

    fn none(self) -> bool {
        self.braces == 0 && self.others == 0
    }
}

/// Leaves out tokens up to the end of the statement, and at least one if none was taken since `first`. Blocks on the way are read.
fn skip_statement(parser: &mut Front, first: u32) {
    let mut open = Open::default();
    (first..parser.position()).for_each(|token| open.count(parser.kind_of(token)));
    loop {
        let progress = parser.position() > first;
        let kind = parser.kind();
        match kind {
            TokenKind::EndOfFile => return,
            TokenKind::Semicolon if open.none() => {
                parser.bump();
                return;
            }
            TokenKind::BraceClose if open.braces == 0 && progress => return,
            TokenKind::FormatStart => {
                let _ = template::template(parser);
                continue;
            }
            TokenKind::BraceOpen if progress && open.braces == 0 => {
                stray_block(parser);
                if parser.at_new_line() {
                    return;
                }
                continue;
            }
            _ if progress && parser.at_new_line() && begins_statement(parser, open) => return,
            _ => {}
        }
        open.count(kind);
        parser.bump();
        if kind == TokenKind::BraceClose && open.none() && parser.at_new_line() {
            return;
        }
    }
}

/// A block of a statement that was not understood; its statements are.
fn stray_block(parser: &mut Front) {
    let mark = parser.open();
    parser.bump();
    let _ = parser.nested(|parser| {
        statements(parser);
        Ok(())
    });
    parser.eat(TokenKind::BraceClose);
    parser.close_as(mark, Kind::Block, Role::Body);
}

/// Whether a statement begins with the current token, which is the first of its line: for sure by its word, most likely where no
/// bracket is open. In front of its line it shows that a bracket was forgotten.
fn begins_statement(parser: &Front, open: Open) -> bool {
    let before = parser.trivia_before().last().map(|token| parser.kind_of(token));
    let always = matches!(
        parser.kind(),
        TokenKind::Var
            | TokenKind::Const
            | TokenKind::If
            | TokenKind::For
            | TokenKind::While
            | TokenKind::Return
            | TokenKind::Switch
            | TokenKind::Throw
            | TokenKind::Try
            | TokenKind::Export
            | TokenKind::Break
            | TokenKind::Continue
    );
    let likely = matches!(
        parser.kind(),
        TokenKind::FunctionWord | TokenKind::Class | TokenKind::Import | TokenKind::Do | TokenKind::Name
    );
    let ended = matches!(parser.taken_kind(), TokenKind::Semicolon | TokenKind::BraceClose);
    match open.braces {
        0 => always || (likely && open.others == 0),
        _ => before == Some(TokenKind::LineEnd) && (always || (likely && ended)),
    }
}
