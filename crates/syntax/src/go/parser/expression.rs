//! "Expressions".

use super::composite::literal_value;
use super::parameters::{parameters, result};
use super::{block, name, types};
use crate::parse::{Parsed, Parser, Stop};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// What a brace behind a name begins.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Braces {
    /// The elements of a literal.
    Literal,
    /// The block of the statement around ("Composite literals": between `if`, `for` or `switch` and its block).
    Block,
}

/// `ExpressionList = Expression { "," Expression }`; gives their number.
pub(super) fn expression_list(parser: &mut Parser, role: Role, braces: Braces) -> Result<usize, Stop> {
    expression(parser, role, braces)?;
    let mut count = 1;
    while parser.eat(TokenKind::Comma) {
        expression(parser, role, braces)?;
        count += 1;
    }
    Ok(count)
}

/// `Expression = UnaryExpr | Expression binary_op Expression`
pub(super) fn expression(parser: &mut Parser, role: Role, braces: Braces) -> Parsed {
    let mark = parser.open();
    expression_or_type(parser, role, braces)?;
    value_since(parser, mark)
}

/// The same, or a type where one may stand for a value.
pub(super) fn expression_or_type(parser: &mut Parser, role: Role, braces: Braces) -> Parsed {
    parser.nested(|parser| binary(parser, 1, braces))?;
    parser.role(role);
    Ok(())
}

/// Whether what began at `mark` is no type, as far as its form says.
fn value_since(parser: &mut Parser, mark: Mark) -> Parsed {
    let mut last = parser.last_since(mark);
    while let Some(group) = last.filter(|node| node.kind() == Kind::Group) {
        last = group.children_backwards().next();
    }
    let is_type = last.is_some_and(|node| {
        matches!(
            node.kind(),
            Kind::ArrayType
                | Kind::ObjectType
                | Kind::FunctionType
                | Kind::InterfaceType
                | Kind::MapType
                | Kind::ChannelType
        )
    });
    if is_type {
        parser.fault_since(mark, Problem::Rule("a type is no value"));
    }
    Ok(())
}

/// "Operator precedence"; nothing for what joins no operands.
fn level_of(kind: TokenKind) -> Option<(u8, Kind)> {
    Some(match kind {
        TokenKind::BarBar => (1, Kind::Logical),
        TokenKind::AndAnd => (2, Kind::Logical),
        TokenKind::Equal
        | TokenKind::NotEqual
        | TokenKind::Less
        | TokenKind::LessEqual
        | TokenKind::Greater
        | TokenKind::GreaterEqual => (3, Kind::Comparison),
        TokenKind::Plus | TokenKind::Minus | TokenKind::Bar | TokenKind::Caret => (4, Kind::Binary),
        TokenKind::Star
        | TokenKind::Slash
        | TokenKind::Percent
        | TokenKind::ShiftLeft
        | TokenKind::ShiftRight
        | TokenKind::Ampersand
        | TokenKind::AmpersandCaret => (5, Kind::Binary),
        _ => return None,
    })
}

fn binary(parser: &mut Parser, least: u8, braces: Braces) -> Parsed {
    let mark = parser.open();
    unary(parser, braces)?;
    while let Some((level, kind)) = level_of(parser.kind()).filter(|(level, _)| *level >= least) {
        let operator = parser.kind();
        let (left, right) =
            if kind == Kind::Binary { (Role::Left, Role::Right) } else { (Role::Operand, Role::Operand) };
        value_since(parser, mark)?;
        parser.role(left);
        parser.bump();
        operand_of(parser, level, right, braces)?;
        // Operands that are joined by the same word are operands of one.
        while kind == Kind::Logical && parser.at(operator) {
            parser.bump();
            operand_of(parser, level, right, braces)?;
        }
        parser.close(mark, kind);
    }
    Ok(())
}

/// The operand behind an operator.
fn operand_of(parser: &mut Parser, level: u8, role: Role, braces: Braces) -> Parsed {
    let mark = parser.open();
    binary(parser, level + 1, braces)?;
    parser.role(role);
    value_since(parser, mark)
}

/// `UnaryExpr = PrimaryExpr | unary_op UnaryExpr`
fn unary(parser: &mut Parser, braces: Braces) -> Parsed {
    match parser.kind() {
        TokenKind::Plus
        | TokenKind::Minus
        | TokenKind::Exclamation
        | TokenKind::Caret
        | TokenKind::Star
        | TokenKind::Ampersand => {}
        TokenKind::ChannelArrow if parser.following() != TokenKind::Chan => {}
        _ => return primary(parser, braces),
    }
    let mark = parser.open();
    parser.bump();
    parser.nested(|parser| unary(parser, braces))?;
    parser.role(Role::Operand);
    parser.close(mark, Kind::Unary);
    Ok(())
}

/// `PrimaryExpr = Operand | Conversion | PrimaryExpr ( Selector | Index | Slice | TypeAssertion | Arguments )`
fn primary(parser: &mut Parser, braces: Braces) -> Parsed {
    let mark = parser.open();
    operand(parser)?;
    loop {
        match parser.kind() {
            TokenKind::Dot => selector(parser, mark)?,
            TokenKind::BracketOpen => index(parser, mark)?,
            TokenKind::ParenOpen => call(parser, mark)?,
            TokenKind::BraceOpen if begins_literal(parser, mark, braces) => {
                parser.role(Role::Type);
                literal_value(parser)?;
                parser.close(mark, Kind::Composite);
            }
            _ => return Ok(()),
        }
    }
}

/// Whether a brace behind what began at `mark` begins the elements of a literal.
fn begins_literal(parser: &Parser, mark: Mark, braces: Braces) -> bool {
    match parser.last_since(mark).map(|node| node.kind()) {
        Some(Kind::Name | Kind::Member | Kind::Subscript) => braces == Braces::Literal,
        Some(Kind::ArrayType | Kind::ObjectType | Kind::MapType) => true,
        _ => false,
    }
}

/// `Operand = Literal | OperandName | "(" Expression ")"`
fn operand(parser: &mut Parser) -> Parsed {
    match parser.kind() {
        TokenKind::Name => parser.leaf(Kind::Name, Role::Part),
        TokenKind::Number => parser.leaf(Kind::Number, Role::Part),
        TokenKind::String => parser.leaf(Kind::String, Role::Part),
        TokenKind::Character => parser.leaf(Kind::Character, Role::Part),
        TokenKind::ParenOpen => return group(parser),
        TokenKind::Func => return function(parser),
        TokenKind::BracketOpen => return array(parser),
        TokenKind::MapWord => return types::map(parser),
        TokenKind::Chan | TokenKind::ChannelArrow => return types::channel(parser),
        TokenKind::Struct => return types::structure(parser),
        TokenKind::InterfaceWord => return types::interface(parser),
        _ => return parser.stop_expecting("a value"),
    }
    Ok(())
}

/// The type of an array or a slice. Its length is left open only where its elements follow.
fn array(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let is_open = parser.following() == TokenKind::Ellipsis;
    types::array_of(parser, Role::Part, true)?;
    if is_open && !parser.at(TokenKind::BraceOpen) {
        parser.fault_since(mark, types::OPEN_LENGTH);
    }
    Ok(())
}

fn group(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    expression_or_type(parser, Role::Value, Braces::Literal)?;
    parser.expect(TokenKind::ParenClose)?;
    parser.close(mark, Kind::Group);
    Ok(())
}

/// `FunctionLit = "func" Signature FunctionBody`; without a body it is a type.
fn function(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::BracketOpen) {
        return parser.stop(Problem::Rule("only a function that is declared has type parameters"));
    }
    parameters(parser, Role::Parameters)?;
    result(parser)?;
    if parser.at(TokenKind::BraceOpen) {
        block(parser, Role::Body)?;
        parser.close(mark, Kind::Lambda);
    } else {
        parser.close(mark, Kind::FunctionType);
    }
    Ok(())
}

/// `Selector = "." identifier`, `TypeAssertion = "." "(" Type ")"`, and `.(type)`, which asks for the type itself.
fn selector(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.bump();
    if parser.at(TokenKind::Name) {
        parser.role(Role::Object);
        name(parser, Role::Name)?;
        parser.close(mark, Kind::Member);
        return Ok(());
    }
    if !parser.at(TokenKind::ParenOpen) {
        return parser.stop_expecting("a name");
    }
    parser.role(Role::Value);
    parser.bump();
    let asks = parser.eat(TokenKind::TypeWord);
    if !asks {
        types::type_of(parser, Role::Type)?;
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close(mark, if asks { Kind::TypeGuard } else { Kind::Cast });
    Ok(())
}

/// `Index = "[" Expression [ "," ] "]"`, `Slice`, and the arguments of a type.
fn index(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.role(Role::Object);
    parser.bump();
    let inner = parser.open();
    if !parser.at(TokenKind::Colon) {
        expression_or_type(parser, Role::Index, Braces::Literal)?;
    }
    if parser.at(TokenKind::Colon) {
        slice(parser, inner)?;
    } else {
        while parser.eat(TokenKind::Comma) && !parser.at(TokenKind::BracketClose) {
            expression_or_type(parser, Role::Index, Braces::Literal)?;
        }
    }
    parser.expect(TokenKind::BracketClose)?;
    parser.close(mark, Kind::Subscript);
    Ok(())
}

/// `Slice = [ Expression ] ":" [ Expression ] | [ Expression ] ":" Expression ":" Expression`, whose first part began at `mark`.
fn slice(parser: &mut Parser, mark: Mark) -> Parsed {
    if parser.last_since(mark).is_some() {
        parser.role(Role::Lower);
    }
    parser.bump();
    let has_upper = !matches!(parser.kind(), TokenKind::Colon | TokenKind::BracketClose);
    if has_upper {
        expression(parser, Role::Upper, Braces::Literal)?;
    }
    if parser.at(TokenKind::Colon) {
        if !has_upper {
            return parser.stop_expecting("a value");
        }
        parser.bump();
        expression(parser, Role::Step, Braces::Literal)?;
    }
    parser.close_as(mark, Kind::Slice, Role::Index);
    Ok(())
}

/// `Arguments = "(" [ ( ExpressionList | Type [ "," ExpressionList ] ) [ "..." ] [ "," ] ] ")"`
fn call(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.role(Role::Callee);
    let arguments = parser.open();
    parser.bump();
    while !parser.at(TokenKind::ParenClose) {
        let argument = parser.open();
        expression_or_type(parser, Role::Argument, Braces::Literal)?;
        let is_spread = parser.at(TokenKind::Ellipsis);
        if is_spread {
            parser.role(Role::Value);
            parser.bump();
            parser.close_as(argument, Kind::Spread, Role::Argument);
        }
        if !parser.eat(TokenKind::Comma) || is_spread {
            break;
        }
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(arguments, Kind::Arguments, Role::Arguments);
    parser.close(mark, Kind::Call);
    Ok(())
}
