//! "Blocks, Statements, and Patterns".

use super::expression::expression;
use super::{Front, ahead, at_word, declaration, jump, leave_out, modifiers, switch, variable};
use crate::parse::Parsed;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `Block: { [BlockStatements] }`
pub(super) fn block(parser: &mut Front, role: Role) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        let open = parser.token_span(parser.position());
        parser.expect(TokenKind::BraceOpen)?;
        super::in_brackets(parser, |parser| {
            statements(parser);
            Ok(())
        })?;
        if !parser.eat(TokenKind::BraceClose) {
            parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
        }
        parser.close(mark, Kind::Block);
        Ok(())
    })?;
    parser.role(role);
    Ok(())
}

/// `BlockStatements`, up to what ends the block or the case.
pub(super) fn statements(parser: &mut Front) {
    while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile | TokenKind::Case)
        && !switch::at_default(parser)
    {
        let (before, mark) = (parser.fault_count(), parser.open());
        let outcome = block_statement(parser);
        parser.role_since(mark, Role::Statement);
        if outcome.is_err() {
            leave_out(parser, before, mark, false);
        }
    }
}

/// `BlockStatement: LocalClassOrInterfaceDeclaration | LocalVariableDeclarationStatement | Statement`
fn block_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let has_modifiers = match parser.kind() {
        TokenKind::Modifier => !is_synchronized_statement(parser),
        TokenKind::StaticWord | TokenKind::At => true,
        TokenKind::Name => modifiers::begins_sealing(parser),
        _ => false,
    };
    if has_modifiers {
        modifiers::modifiers(parser)?;
    }
    if declaration::begins(parser) {
        return declaration::declaration(parser, mark);
    }
    let is_variable = has_modifiers
        || match parser.kind() {
            TokenKind::PrimitiveType => begins_primitive_variable(parser),
            TokenKind::Name => !is_yield(parser) && ahead::begins_variable(parser),
            _ => false,
        };
    if is_variable {
        variable::declaration(parser, mark)?;
        return parser.expect(TokenKind::Semicolon);
    }
    statement(parser)
}

/// `synchronized (`
fn is_synchronized_statement(parser: &mut Front) -> bool {
    parser.text() == "synchronized" && parser.next_kind() == TokenKind::ParenOpen
}

/// A primitive type begins a variable unless its class or a function of it is asked for.
fn begins_primitive_variable(parser: &mut Front) -> bool {
    let here = parser.current();
    let behind = ahead::behind_type(parser, here);
    !matches!(behind, Some((_, TokenKind::Dot | TokenKind::ColonColon)))
}

/// `yield` gives the value of a choice where an operand follows that makes it no name.
fn is_yield(parser: &mut Front) -> bool {
    if !at_word(parser, "yield") {
        return false;
    }
    let (next, kind) = parser.next_token();
    match kind {
        TokenKind::Assign | TokenKind::Dot | TokenKind::BracketOpen | TokenKind::ColonColon | TokenKind::Arrow => false,
        TokenKind::PlusPlus | TokenKind::MinusMinus => parser.token_after(next).1 != TokenKind::Semicolon,
        // The method of this name needed no object before Java 14.
        TokenKind::ParenOpen => parser.token_after(next).1 != TokenKind::ParenClose,
        _ => !kind.is_compound_assignment(),
    }
}

/// `Statement`
pub(super) fn statement(parser: &mut Front) -> Parsed {
    parser.nested(|parser| match parser.kind() {
        TokenKind::BraceOpen => block(parser, Role::Part),
        TokenKind::Semicolon => {
            parser.leaf(Kind::Pass, Role::Part);
            Ok(())
        }
        TokenKind::If => jump::if_statement(parser),
        TokenKind::While => jump::while_statement(parser),
        TokenKind::Do => jump::do_statement(parser),
        TokenKind::For => jump::for_statement(parser),
        TokenKind::Try => jump::try_statement(parser),
        // One in the place of a statement ends with its brace.
        TokenKind::Switch => switch::switch(parser),
        TokenKind::Modifier if is_synchronized_statement(parser) => jump::synchronized(parser),
        TokenKind::Return => jump::leaving(parser, Kind::Return),
        TokenKind::Throw => jump::throw(parser),
        TokenKind::Break => jump::labeled_jump(parser, Kind::Break),
        TokenKind::Continue => jump::labeled_jump(parser, Kind::Continue),
        TokenKind::Assert => jump::assert(parser),
        TokenKind::Name if parser.next_kind() == TokenKind::Colon => labeled(parser),
        TokenKind::Name if is_yield(parser) => jump::leaving(parser, Kind::Yield),
        _ => expression_statement(parser),
    })
}

/// `LabeledStatement: Identifier : Statement`
fn labeled(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.leaf(Kind::Name, Role::Label);
    parser.bump();
    statement(parser)?;
    parser.role(Role::Body);
    parser.close(mark, Kind::Labeled);
    Ok(())
}

/// `ExpressionStatement: StatementExpression ;`
fn expression_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    statement_expression(parser)?;
    parser.expect(TokenKind::Semicolon)?;
    if parser.last_since(mark).is_some_and(|node| !node.kind().is_statement()) {
        parser.role(Role::Value);
        parser.close(mark, Kind::ExpressionStatement);
    }
    Ok(())
}

/// `StatementExpression`: one that does something.
pub(super) fn statement_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    expression(parser, Role::Value)?;
    let ends_with = parser.taken_kind();
    let does_something = parser.last_since(mark).is_some_and(|node| {
        matches!(node.kind(), Kind::Assignment | Kind::CompoundAssignment | Kind::Update | Kind::Call | Kind::New)
    });
    let is_array =
        ends_with == TokenKind::BracketClose && parser.last_since(mark).is_some_and(|node| node.kind() == Kind::New);
    if !does_something || is_array {
        parser.fault_since(mark, Problem::Rule("this is no statement"));
        return Err(crate::parse::Stop);
    }
    Ok(())
}
