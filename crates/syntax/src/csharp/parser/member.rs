//! Members of types: "Constants", "Fields", "Methods", "Properties", "Events", "Indexers", "Operators", "Constructors", "Finalizers".

use super::accessor::Sort;
use super::{
    Front, accessor, argument, attribute, constraint, declaration, function_body, modifiers, name, parameter, types,
    variable,
};
use crate::csharp::lexer::Goal;
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `class_member_declaration`
pub(super) fn member(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    attribute::sections(parser)?;
    modifiers::modifiers(parser)?;
    if declaration::begins(parser) {
        return declaration::declaration(parser, mark);
    }
    match parser.kind() {
        TokenKind::Const => {
            parser.bump();
            field(parser, mark)
        }
        TokenKind::Event => event(parser, mark),
        TokenKind::ConversionWord => conversion(parser, mark),
        TokenKind::Tilde => {
            parser.bump();
            name(parser, Role::Name)?;
            method(parser, mark)
        }
        TokenKind::Name if parser.next_kind() == TokenKind::ParenOpen => constructor(parser, mark),
        _ => typed(parser, mark),
    }
}

/// A member that begins with a type.
fn typed(parser: &mut Front, mark: Mark) -> Parsed {
    types::returned(parser)?;
    let is_void = parser.taken_kind() == TokenKind::Void;
    if parser.at(TokenKind::OperatorWord) {
        return operator(parser, mark);
    }
    let is_explicit = opt_interface(parser)?;
    match parser.kind() {
        TokenKind::OperatorWord => return operator(parser, mark),
        TokenKind::This => return indexer(parser, mark),
        TokenKind::Name => {}
        _ => return parser.stop_expecting("the name of a member"),
    }
    match parser.next_kind() {
        TokenKind::ParenOpen | TokenKind::Less => {
            name(parser, Role::Name)?;
            method(parser, mark)
        }
        _ if is_void => {
            parser.bump();
            parser.expect(TokenKind::ParenOpen)
        }
        TokenKind::BraceOpen | TokenKind::FatArrow => {
            name(parser, Role::Name)?;
            accessor::property(parser, mark, Sort::Property)
        }
        _ if is_explicit => {
            parser.bump();
            parser.stop_expecting("'(' or '{'")
        }
        _ => {
            // What a member gives is the type of a field.
            let names = parser.open();
            parser.role_before(names, Role::Type);
            declarators_of_field(parser, mark)
        }
    }
}

/// `type declarators ;`, from the type on.
fn field(parser: &mut Front, mark: Mark) -> Parsed {
    types::type_of(parser, Role::Type)?;
    declarators_of_field(parser, mark)
}

fn declarators_of_field(parser: &mut Front, mark: Mark) -> Parsed {
    let is_buffer = (mark.token()..parser.position()).any(|token| parser.kind_of(token) == TokenKind::Fixed);
    variable::declarators(parser, is_buffer)?;
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, Kind::Field)
}

/// The interface whose member is defined, with the dot behind it, if there is one. Gives whether there is.
fn opt_interface(parser: &mut Front) -> Result<bool, crate::parse::Stop> {
    if !parser.at(TokenKind::Name) || !goes_on_behind_name(parser) {
        return Ok(false);
    }
    types::named_while(parser, is_before_interface_name)?;
    parser.role(Role::Receiver);
    parser.expect(TokenKind::Dot)?;
    Ok(true)
}

/// Whether the name behind the dot here is one of the interface: that behind the last dot is the member's.
fn is_before_interface_name(parser: &mut Front) -> bool {
    let (token, kind) = parser.next_token();
    let behind = parser.token_after(token);
    kind == TokenKind::Name
        && match behind.1 {
            TokenKind::Dot => true,
            TokenKind::Less => {
                super::ahead::behind_arguments(parser, behind).is_some_and(|behind| behind.1 == TokenKind::Dot)
            }
            _ => false,
        }
}

/// Whether a dot is behind the name here and its type arguments.
fn goes_on_behind_name(parser: &mut Front) -> bool {
    let next = parser.next_token();
    match next.1 {
        TokenKind::Dot | TokenKind::ColonColon => true,
        TokenKind::Less => {
            super::ahead::behind_arguments(parser, next).is_some_and(|behind| behind.1 == TokenKind::Dot)
        }
        _ => false,
    }
}

/// A method from behind its name on.
pub(super) fn method(parser: &mut Front, mark: Mark) -> Parsed {
    types::opt_parameters(parser)?;
    parameter::parameters(parser)?;
    constraint::clauses(parser)?;
    function_body(parser)?;
    super::done(parser, mark, Kind::Function)
}

/// `constructor_declaration`, with the other constructor that it runs first.
fn constructor(parser: &mut Front, mark: Mark) -> Parsed {
    name(parser, Role::Name)?;
    parameter::parameters(parser)?;
    if parser.eat(TokenKind::Colon) {
        let call = parser.open();
        match parser.kind() {
            TokenKind::Super => parser.leaf(Kind::Super, Role::Callee),
            TokenKind::This => parser.leaf(Kind::This, Role::Callee),
            _ => return parser.stop_expecting("'base' or 'this'"),
        }
        if !parser.at(TokenKind::ParenOpen) {
            return parser.expect(TokenKind::ParenOpen);
        }
        argument::arguments(parser)?;
        parser.close_as(call, Kind::Call, Role::Part);
    }
    function_body(parser)?;
    super::done(parser, mark, Kind::Function)
}

/// `operator_declaration`, behind the type of what it gives.
fn operator(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    parser.eat(TokenKind::Checked);
    parser.join_greater(Goal::Greater);
    let is_operator = matches!(
        parser.kind(),
        TokenKind::Plus
            | TokenKind::Minus
            | TokenKind::Exclamation
            | TokenKind::Tilde
            | TokenKind::PlusPlus
            | TokenKind::MinusMinus
            | TokenKind::TrueWord
            | TokenKind::FalseWord
            | TokenKind::Star
            | TokenKind::Slash
            | TokenKind::Percent
            | TokenKind::Ampersand
            | TokenKind::Bar
            | TokenKind::Caret
            | TokenKind::ShiftLeft
            | TokenKind::ShiftRight
            | TokenKind::ShiftRightZero
            | TokenKind::Equal
            | TokenKind::NotEqual
            | TokenKind::Less
            | TokenKind::Greater
            | TokenKind::LessEqual
            | TokenKind::GreaterEqual
    ) || parser.kind().is_compound_assignment();
    if !is_operator {
        return parser.stop_expecting("an operator");
    }
    parser.leaf(Kind::Name, Role::Name);
    operator_rest(parser, mark)
}

fn operator_rest(parser: &mut Front, mark: Mark) -> Parsed {
    parameter::parameters(parser)?;
    function_body(parser)?;
    super::done(parser, mark, Kind::Function)
}

/// `conversion_operator_declarator: ('implicit' | 'explicit') 'operator' type '(' … ')'`
fn conversion(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    opt_interface(parser)?;
    parser.expect(TokenKind::OperatorWord)?;
    parser.eat(TokenKind::Checked);
    types::type_of(parser, Role::Returns)?;
    operator_rest(parser, mark)
}

/// `indexer_declaration`, at its `this`.
fn indexer(parser: &mut Front, mark: Mark) -> Parsed {
    parser.leaf(Kind::This, Role::Name);
    parameter::bracketed(parser, TokenKind::BracketOpen, TokenKind::BracketClose)?;
    accessor::property(parser, mark, Sort::Property)
}

/// `event_declaration`: one or more as fields are, or one with what is done.
fn event(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    types::type_of(parser, Role::Type)?;
    let is_explicit = opt_interface(parser)?;
    if is_explicit || parser.at(TokenKind::Name) && parser.next_kind() == TokenKind::BraceOpen {
        name(parser, Role::Name)?;
        return accessor::property(parser, mark, Sort::Event);
    }
    declarators_of_field(parser, mark)
}
