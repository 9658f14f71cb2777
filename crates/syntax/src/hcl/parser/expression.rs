//! Expressions ("Expressions", HCL native syntax), one function a rule.

use super::is_name;
use super::template::{here_document, quoted};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `Expression = ExprTerm | Operation | Conditional`
pub(super) fn expression(parser: &mut Parser, role: Role) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        operation(parser, 0)?;
        if parser.at(TokenKind::Question) {
            parser.role(Role::Condition);
            parser.bump();
            expression(parser, Role::Value)?;
            parser.expect(TokenKind::Colon)?;
            expression(parser, Role::Else)?;
            parser.close(mark, Kind::Conditional);
        }
        Ok(())
    })?;
    parser.role(role);
    Ok(())
}

/// How tightly an operator binds its operands, loosest first; nothing for what is none.
fn level_of(kind: TokenKind) -> Option<usize> {
    Some(match kind {
        TokenKind::BarBar => 0,
        TokenKind::AndAnd => 1,
        TokenKind::Equal | TokenKind::NotEqual => 2,
        TokenKind::Less | TokenKind::LessEqual | TokenKind::Greater | TokenKind::GreaterEqual => 3,
        TokenKind::Plus | TokenKind::Minus => 4,
        TokenKind::Star | TokenKind::Slash | TokenKind::Percent => 5,
        _ => return None,
    })
}

/// `BinaryOp = ExprTerm binaryOperator ExprTerm`, by how tightly the operators bind.
fn operation(parser: &mut Parser, least: usize) -> Parsed {
    let mark = parser.open();
    unary(parser)?;
    while let Some(level) = level_of(parser.kind()).filter(|level| *level >= least) {
        let operator = parser.kind();
        let kind = match level {
            0 | 1 => Kind::Logical,
            2 | 3 => Kind::Comparison,
            _ => Kind::Binary,
        };
        let (left, right) =
            if kind == Kind::Binary { (Role::Left, Role::Right) } else { (Role::Operand, Role::Operand) };
        parser.role(left);
        parser.bump();
        operation(parser, level + 1)?;
        parser.role(right);
        // Operands that are joined by the same word are operands of one.
        while kind == Kind::Logical && parser.at(operator) {
            parser.bump();
            operation(parser, level + 1)?;
            parser.role(right);
        }
        parser.close(mark, kind);
    }
    Ok(())
}

/// `UnaryOp = ("-" | "!") ExprTerm`
fn unary(parser: &mut Parser) -> Parsed {
    if !matches!(parser.kind(), TokenKind::Minus | TokenKind::Exclamation) {
        return term(parser);
    }
    let mark = parser.open();
    parser.bump();
    parser.nested(unary)?;
    parser.role(Role::Operand);
    parser.close(mark, Kind::Unary);
    Ok(())
}

/// `ExprTerm`, with what follows it: `.name`, `[index]`, `.*`, `[*]`.
fn term(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    primary(parser)?;
    loop {
        match parser.kind() {
            TokenKind::Dot => member(parser, mark)?,
            TokenKind::BracketOpen => index(parser, mark)?,
            _ => return Ok(()),
        }
    }
}

/// `GetAttr = "." Identifier`, an index behind a dot, `attrSplat = "." "*"`
fn member(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.role(Role::Object);
    parser.bump();
    match parser.kind() {
        TokenKind::Star => {
            parser.bump();
            parser.close(mark, Kind::Splat);
        }
        TokenKind::Number => {
            parser.leaf(Kind::Number, Role::Index);
            parser.close(mark, Kind::Subscript);
        }
        kind if is_name(kind) => {
            parser.leaf(Kind::Name, Role::Name);
            parser.close(mark, Kind::Member);
        }
        _ => return parser.stop_expecting("a name"),
    }
    Ok(())
}

/// `Index = "[" Expression "]"`, `fullSplat = "[" "*" "]"`
fn index(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.role(Role::Object);
    parser.bump();
    if parser.at(TokenKind::Star) && parser.following() == TokenKind::BracketClose {
        parser.bump();
        parser.bump();
        parser.close(mark, Kind::Splat);
        return Ok(());
    }
    expression(parser, Role::Index)?;
    parser.expect(TokenKind::BracketClose)?;
    parser.close(mark, Kind::Subscript);
    Ok(())
}

fn primary(parser: &mut Parser) -> Parsed {
    match parser.kind() {
        TokenKind::Number => leaf(parser, Kind::Number),
        TokenKind::String => leaf(parser, Kind::String),
        TokenKind::TrueWord | TokenKind::FalseWord => leaf(parser, Kind::Boolean),
        TokenKind::NullWord => leaf(parser, Kind::Null),
        TokenKind::Name => variable_or_call(parser),
        TokenKind::FormatStart => quoted(parser),
        TokenKind::HereOperator => here_document(parser),
        TokenKind::ParenOpen => group(parser),
        TokenKind::BracketOpen => tuple(parser),
        TokenKind::BraceOpen => object(parser),
        _ => parser.stop_expecting("a value"),
    }
}

fn leaf(parser: &mut Parser, kind: Kind) -> Parsed {
    parser.leaf(kind, Role::Part);
    Ok(())
}

/// `VariableExpr = Identifier`, `FunctionCall = Identifier "(" arguments ")"`; the name of a function may be in namespaces: `a::b::c()`.
fn variable_or_call(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    while parser.at(TokenKind::Colon) && parser.is_adjacent() && parser.following() == TokenKind::Colon {
        parser.bump();
        parser.bump();
        parser.expect(TokenKind::Name)?;
    }
    parser.close(mark, Kind::Name);
    if !parser.at(TokenKind::ParenOpen) {
        return Ok(());
    }
    parser.role(Role::Callee);
    let arguments = parser.open();
    parser.bump();
    while !parser.at(TokenKind::ParenClose) {
        expression(parser, Role::Argument)?;
        if parser.eat(TokenKind::Ellipsis) || !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(arguments, Kind::Arguments, Role::Arguments);
    parser.close(mark, Kind::Call);
    Ok(())
}

fn group(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    expression(parser, Role::Value)?;
    parser.expect(TokenKind::ParenClose)?;
    parser.close(mark, Kind::Group);
    Ok(())
}

/// `tuple = "[" ((Expression (("," ) Expression)* ","?)?) "]"`, `forTupleExpr`
fn tuple(parser: &mut Parser) -> Parsed {
    let (mark, open) = (parser.open(), parser.token_span(parser.position()));
    parser.bump();
    if is_word(parser, "for") && is_name(parser.following()) {
        for_clause(parser)?;
        expression(parser, Role::Element)?;
        for_condition(parser)?;
        parser.expect(TokenKind::BracketClose)?;
        parser.close(mark, Kind::Comprehension);
        return Ok(());
    }
    while !parser.at(TokenKind::BracketClose) {
        if matches!(parser.kind(), TokenKind::Newline | TokenKind::EndOfFile | TokenKind::BraceClose) {
            return unclosed(parser, open, TokenKind::BracketOpen);
        }
        expression(parser, Role::Element)?;
        if !parser.eat(TokenKind::Comma) && !parser.at(TokenKind::BracketClose) {
            let ends = matches!(parser.kind(), TokenKind::Newline | TokenKind::EndOfFile | TokenKind::BraceClose);
            return if ends { unclosed(parser, open, TokenKind::BracketOpen) } else { parser.stop_expecting("','") };
        }
    }
    parser.bump();
    parser.close(mark, Kind::List);
    Ok(())
}

/// A bracket that is open at the end of its entry.
fn unclosed(parser: &mut Parser, open: crate::text::Span, bracket: TokenKind) -> Parsed {
    parser.fault(open, Problem::Unclosed(bracket));
    Err(crate::parse::Stop)
}

/// `object = "{" ((objectelem (("," | Newline) objectelem)* ("," | Newline)?)?) "}"`, `forObjectExpr`
fn object(parser: &mut Parser) -> Parsed {
    let (mark, open) = (parser.open(), parser.token_span(parser.position()));
    parser.bump();
    if is_word(parser, "for") && is_name(parser.following()) {
        for_clause(parser)?;
        let pair = parser.open();
        expression(parser, Role::Key)?;
        parser.expect(TokenKind::FatArrow)?;
        expression(parser, Role::Value)?;
        parser.eat(TokenKind::Ellipsis);
        parser.close_as(pair, Kind::Pair, Role::Element);
        for_condition(parser)?;
        parser.expect(TokenKind::BraceClose)?;
        parser.close(mark, Kind::Comprehension);
        return Ok(());
    }
    if let Err(stop) = object_elements(parser, open) {
        // The brace that closes it belongs to it all the same.
        skip_to_brace(parser);
        return Err(stop);
    }
    parser.bump();
    parser.close(mark, Kind::Dictionary);
    Ok(())
}

/// The elements of an object, up to the brace that closes it.
fn object_elements(parser: &mut Parser, open: crate::text::Span) -> Parsed {
    loop {
        while parser.eat(TokenKind::Newline) {}
        if parser.at(TokenKind::BraceClose) {
            return Ok(());
        }
        if parser.at(TokenKind::EndOfFile) {
            return unclosed(parser, open, TokenKind::BraceOpen);
        }
        let pair = parser.open();
        expression(parser, Role::Key)?;
        if !parser.eat(TokenKind::Assign) && !parser.eat(TokenKind::Colon) {
            return parser.stop_expecting("'='");
        }
        expression(parser, Role::Value)?;
        parser.close_as(pair, Kind::Pair, Role::Element);
        if !matches!(parser.kind(), TokenKind::Comma | TokenKind::Newline | TokenKind::BraceClose) {
            return parser.stop_expecting("',' or the end of the line");
        }
        parser.eat(TokenKind::Comma);
    }
}

/// Leaves out the rest of a line, with the brace that closes on it.
fn skip_to_brace(parser: &mut Parser) {
    while !matches!(parser.kind(), TokenKind::Newline | TokenKind::EndOfFile | TokenKind::BraceClose) {
        parser.bump();
    }
    parser.eat(TokenKind::BraceClose);
}

fn is_word(parser: &Parser, word: &str) -> bool {
    parser.at(TokenKind::Name) && parser.text() == word
}

/// `forIntro = "for" Identifier ("," Identifier)? "in" Expression ":"`
fn for_clause(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    targets(parser)?;
    expression(parser, Role::Iterable)?;
    parser.expect(TokenKind::Colon)?;
    parser.close_as(mark, Kind::ComprehensionClause, Role::Clause);
    Ok(())
}

/// `Identifier ("," Identifier)? "in"`
pub(super) fn targets(parser: &mut Parser) -> Parsed {
    loop {
        if !is_name(parser.kind()) {
            return parser.stop_expecting("a name");
        }
        parser.leaf(Kind::Name, Role::Target);
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    if !is_word(parser, "in") {
        return parser.stop_expecting("'in'");
    }
    parser.bump();
    Ok(())
}

/// `forCond = "if" Expression`
fn for_condition(parser: &mut Parser) -> Parsed {
    if !is_word(parser, "if") {
        return Ok(());
    }
    let mark = parser.open();
    parser.bump();
    expression(parser, Role::Condition)?;
    parser.close_as(mark, Kind::ComprehensionClause, Role::Clause);
    Ok(())
}
