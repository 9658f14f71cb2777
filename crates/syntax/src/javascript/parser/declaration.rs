//! "Declarations and the Variable Statement".

use super::{Front, expression, name, pattern, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// Whether `let` begins a declaration: a name or a pattern follows.
pub(super) fn follows_let(parser: &mut Front) -> bool {
    let (kind, word) = parser.next_word();
    match kind {
        TokenKind::BracketOpen | TokenKind::BraceOpen => true,
        TokenKind::Name => parser.has_types() || !matches!(word, "instanceof"),
        _ => false,
    }
}

/// `using` on one line with a name, which is not `of` in the head of a loop.
pub(super) fn follows_using(parser: &mut Front) -> bool {
    let (kind, _) = parser.next_word();
    kind == TokenKind::Name && !parser.next_is_on_new_line()
}

/// `await using x`
pub(super) fn is_await_using(parser: &mut Front) -> bool {
    let (using, kind) = parser.next_token();
    if kind != TokenKind::Name || parser.token_text(using) != "using" || parser.next_is_on_new_line() {
        return false;
    }
    let (bound, kind) = parser.token_after(using);
    kind == TokenKind::Name && (using + 1..bound).all(|token| parser.kind_of(token) != TokenKind::LineEnd)
}

/// Whether the name at the head of a loop begins a declaration.
pub(super) fn follows_for_head(parser: &mut Front) -> bool {
    match parser.text() {
        // `for (let of x)` is refused by everyone; `for (let in x)` is not a declaration.
        "let" => follows_let(parser),
        "using" => {
            let (using, _) = parser.next_token();
            let of = parser.next_word() == (TokenKind::Name, "of");
            follows_using(parser) && (!of || parser.token_after(using).1 == TokenKind::Assign)
        }
        "await" => is_await_using(parser),
        _ => false,
    }
}

/// `VariableStatement`, `LexicalDeclaration`, and `using` (a declaration of resources).
pub(super) fn variable_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    statement_since(parser, mark)
}

/// The same, `declare` being taken since `mark`.
pub(super) fn statement_since(parser: &mut Front, mark: Mark) -> Parsed {
    declarators(parser)?;
    parser.semicolon()?;
    parser.close(mark, Kind::Declaration);
    Ok(())
}

/// The declarations in the head of a loop.
pub(super) fn for_declarations(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    declarators(parser)?;
    parser.close(mark, Kind::Declaration);
    Ok(())
}

fn declarators(parser: &mut Front) -> Parsed {
    parser.eat_word("await");
    let word = parser.kind();
    parser.bump();
    loop {
        declarator(parser, word)?;
        if !parser.eat(TokenKind::Comma) {
            return Ok(());
        }
    }
}

/// `VariableDeclaration : BindingIdentifier Initializer? | BindingPattern Initializer`
fn declarator(parser: &mut Front, word: TokenKind) -> Parsed {
    let mark = parser.open();
    let (constant, lexical) = (word == TokenKind::Const, word != TokenKind::Var);
    let takes_apart = matches!(parser.kind(), TokenKind::BracketOpen | TokenKind::BraceOpen);
    if takes_apart {
        pattern::binding_pattern(parser)?;
        parser.role(Role::Target);
    } else {
        if lexical && parser.at_word("let") {
            let span = parser.token_span(parser.position());
            parser.early_fault(span, Problem::Rule("'let' cannot be the name that it declares"));
        }
        name::binding_identifier(parser, Role::Target)?;
    }
    if parser.has_types() && parser.at(TokenKind::Exclamation) && !parser.at_new_line() {
        parser.bump();
    }
    let annotated = types::opt_annotation(parser)?;
    if parser.eat(TokenKind::Assign) {
        expression::assignment_expression(parser)?;
        parser.role(Role::Value);
    } else if (takes_apart || constant) && !parser.context().no_in {
        let problem = if constant { "a constant needs a value" } else { "a destructuring pattern needs a value" };
        let span = parser.token_span(mark.token());
        parser.early_fault(span, Problem::Rule(problem));
    }
    parser.close_as(mark, if annotated { Kind::AnnotatedAssignment } else { Kind::Assignment }, Role::Item);
    Ok(())
}
