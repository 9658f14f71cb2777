//! "Statements".

use super::expression::expression;
use super::{
    Front, ahead, attribute, braced, control, jump, member, modifiers, name, resource, switch, types, variable,
};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `block: '{' statement_list? '}'`
pub(super) fn block(parser: &mut Front, role: Role) -> Parsed {
    braced(parser, statement)?;
    parser.role(role);
    Ok(())
}

/// A statement in the place of a body.
pub(super) fn embedded(parser: &mut Front, role: Role) -> Parsed {
    let mark = parser.open();
    parser.nested(statement)?;
    parser.role(role);
    let declares = |kind: Kind| matches!(kind, Kind::Declaration | Kind::Function | Kind::Labeled);
    if parser.last_since(mark).is_some_and(|node| declares(node.kind())) {
        parser.fault_since(mark, Problem::Rule("a declaration or a label needs a block around it"));
    }
    Ok(())
}

/// `statement: labeled_statement | declaration_statement | embedded_statement`
pub(super) fn statement(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::BraceOpen => block(parser, Role::Part),
        TokenKind::Semicolon => {
            parser.leaf(Kind::Pass, Role::Part);
            Ok(())
        }
        TokenKind::If => control::if_statement(parser),
        TokenKind::While => control::while_statement(parser),
        TokenKind::Do => control::do_statement(parser),
        TokenKind::For => control::for_statement(parser),
        TokenKind::Foreach => control::foreach_statement(parser),
        TokenKind::Try => jump::try_statement(parser),
        TokenKind::Switch => switch::statement(parser),
        TokenKind::Lock => resource::lock(parser),
        TokenKind::Using => resource::using(parser),
        TokenKind::Fixed => resource::fixed(parser),
        TokenKind::Checked | TokenKind::Unsafe if parser.next_kind() == TokenKind::BraceOpen => worded_block(parser),
        TokenKind::Return => jump::leaving(parser, Kind::Return),
        TokenKind::Throw => jump::throw(parser),
        TokenKind::Break => jump::plain(parser, Kind::Break),
        TokenKind::Continue => jump::plain(parser, Kind::Continue),
        TokenKind::Goto => jump::goto(parser),
        TokenKind::Const => declare_variables(parser),
        TokenKind::Name => named(parser),
        _ => declaration_or_expression(parser),
    }
}

/// A statement that begins with a name, which may be a word of its own.
fn named(parser: &mut Front) -> Parsed {
    let (next, kind) = parser.next_token();
    match (parser.text(), kind) {
        (_, TokenKind::Colon) => labeled(parser),
        ("yield", TokenKind::Return) => jump::yields(parser),
        ("yield", TokenKind::Break) => jump::stops_yielding(parser),
        ("await", TokenKind::Foreach) => control::foreach_statement(parser),
        ("await", TokenKind::Using) => resource::using(parser),
        ("await", kind) if ahead::begins_operand(kind) && parser.token_after(next).1 != TokenKind::Assign => {
            expression_statement(parser)
        }
        ("scoped", _) if variable::scopes(parser) => declare_variables(parser),
        _ => declaration_or_expression(parser),
    }
}

/// `labeled_statement: identifier ':' statement`
fn labeled(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.leaf(Kind::Name, Role::Label);
    parser.bump();
    parser.nested(statement)?;
    parser.role(Role::Body);
    super::done(parser, mark, Kind::Labeled)
}

/// `'checked' block`, `'unchecked' block`, `'unsafe' block`
fn worded_block(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let inner = parser.open();
    parser.bump();
    block(parser, Role::Body)?;
    parser.close_as(inner, Kind::BlockExpression, Role::Value);
    super::done(parser, mark, Kind::ExpressionStatement)
}

/// `declaration_statement: 'const'? type declarators ';'`
fn declare_variables(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.eat(TokenKind::Const);
    variable::statement(parser, mark)
}

fn declaration_or_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if begins_function(parser) {
        attribute::sections(parser)?;
        modifiers::modifiers(parser)?;
        types::returned(parser)?;
        name(parser, Role::Name)?;
        return member::method(parser, mark);
    }
    if parser.at(TokenKind::Ref) && is_reference(parser) || ahead::begins_variable(parser) {
        return declare_variables(parser);
    }
    expression_statement(parser)
}

/// `ref int depth = …`
fn is_reference(parser: &mut Front) -> bool {
    let here = parser.current();
    let token = ahead::behind_reference_words(parser, here);
    ahead::behind_type(parser, token).is_some_and(|behind| behind.1 == TokenKind::Name)
}

/// Whether a function is declared here: perhaps attributes and modifiers, a type, a name, and what only a function has behind it.
fn begins_function(parser: &mut Front) -> bool {
    let here = parser.current();
    let may_begin = matches!(
        here.1,
        TokenKind::Name
            | TokenKind::PrimitiveType
            | TokenKind::Void
            | TokenKind::ParenOpen
            | TokenKind::BracketOpen
            | TokenKind::StaticWord
            | TokenKind::Unsafe
            | TokenKind::Extern
            | TokenKind::Modifier
            | TokenKind::Ref
            | TokenKind::Delegate
    );
    if !may_begin {
        return false;
    }
    let Some(token) = ahead::behind_attributes(parser, here) else { return false };
    let token = modifiers::behind(parser, token);
    let token = ahead::behind_reference_words(parser, token);
    let Some(name) = ahead::behind_type(parser, token).filter(|name| name.1 == TokenKind::Name) else { return false };
    match parser.token_after(name.0) {
        (_, TokenKind::ParenOpen) => true,
        less @ (_, TokenKind::Less) => {
            ahead::behind_arguments(parser, less).is_some_and(|behind| behind.1 == TokenKind::ParenOpen)
        }
        _ => false,
    }
}

/// `expression_statement: statement_expression ';'`
fn expression_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    statement_expression(parser)?;
    parser.expect(TokenKind::Semicolon)?;
    parser.role(Role::Value);
    super::done(parser, mark, Kind::ExpressionStatement)
}

/// `statement_expression`: one that does something.
pub(super) fn statement_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    expression(parser, Role::Value)?;
    let does_something = parser.last_since(mark).is_some_and(|node| {
        matches!(
            node.kind(),
            Kind::Assignment
                | Kind::CompoundAssignment
                | Kind::Update
                | Kind::Call
                | Kind::New
                | Kind::Await
                | Kind::Opaque
        )
    });
    if does_something {
        return Ok(());
    }
    parser.fault_since(mark, Problem::Rule("this is no statement"));
    Err(Stop)
}
