//! "Functions and Classes": functions of every sort, their parameters and bodies.

use super::statement::statements;
use super::{Context, Front, class, expression, name, pattern, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// What a function may do that others may not.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(super) struct Sort {
    pub(super) is_async: bool,
    pub(super) is_generator: bool,
    pub(super) is_method: bool,
    /// The constructor of a class that extends another one.
    pub(super) is_derived_constructor: bool,
}

impl Sort {
    /// What its parameters and body allow.
    pub(super) fn enter(self, context: &mut Context) {
        *context = Context {
            in_async: self.is_async,
            in_generator: self.is_generator,
            in_function: true,
            in_method: self.is_method,
            in_constructor: self.is_derived_constructor,
            in_class: context.in_class,
            ..Context::default()
        };
    }
}

/// Whether `async` begins a function: `function` follows on the same line.
pub(super) fn follows_async(parser: &mut Front) -> bool {
    parser.next_kind() == TokenKind::FunctionWord && !parser.next_is_on_new_line()
}

/// `FunctionDeclaration`, `GeneratorDeclaration`, `AsyncFunctionDeclaration`, `AsyncGeneratorDeclaration`.
pub(super) fn declaration(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    declaration_since(parser, mark)
}

/// The same, `declare` being taken since `mark`.
pub(super) fn declaration_since(parser: &mut Front, mark: Mark) -> Parsed {
    declared(parser, mark, false)
}

/// The same where it is exported as the default, without need of a name.
pub(super) fn declaration_without_name(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    declared(parser, mark, true)
}

fn declared(parser: &mut Front, mark: Mark, may_lack_name: bool) -> Parsed {
    let sort = head(parser)?;
    if name::is_identifier(parser.kind()) {
        parser.leaf(Kind::Name, Role::Name);
    } else if !may_lack_name {
        return parser.stop_expecting("a name");
    }
    signature_and_body(parser, sort)?;
    parser.close(mark, Kind::Function);
    Ok(())
}

/// `FunctionExpression` and its kin.
pub(super) fn function_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let sort = head(parser)?;
    let own_name = |parser: &mut Front| {
        if name::is_identifier(parser.kind()) {
            name::binding_identifier(parser, Role::Name)?;
        }
        Ok(())
    };
    parser.within(|context| sort.enter(context), own_name)?;
    signature(parser, sort, true)?;
    parser.close(mark, Kind::Lambda);
    Ok(())
}

/// `async function *`
fn head(parser: &mut Front) -> Result<Sort, crate::parse::Stop> {
    let is_async = parser.eat_word("async");
    parser.expect(TokenKind::FunctionWord)?;
    let is_generator = parser.eat(TokenKind::Star);
    Ok(Sort { is_async, is_generator, ..Sort::default() })
}

/// Type parameters, parameters, the type of the result, and the body; only a signature where types are written.
pub(super) fn signature_and_body(parser: &mut Front, sort: Sort) -> Parsed {
    signature(parser, sort, false)
}

fn signature(parser: &mut Front, sort: Sort, needs_body: bool) -> Parsed {
    types::opt_type_parameters(parser)?;
    parser.within(
        |context| sort.enter(context),
        |parser| {
            parameters(parser)?;
            types::opt_return_type(parser)?;
            if parser.has_types() && !needs_body && !parser.at(TokenKind::BraceOpen) {
                // An overload, or a declaration of what is elsewhere.
                return parser.semicolon();
            }
            body(parser)
        },
    )
}

/// `FunctionBody` in its braces; the caller has entered the function's context.
pub(super) fn body(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.expect(TokenKind::BraceOpen)?;
    statements(parser);
    parser.expect(TokenKind::BraceClose)?;
    parser.close_as(mark, Kind::Block, Role::Body);
    Ok(())
}

/// `( FormalParameters )`
pub(super) fn parameters(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.expect(TokenKind::ParenOpen)?;
    while !parser.at(TokenKind::ParenClose) {
        let rest = parser.at(TokenKind::Ellipsis);
        parameter(parser)?;
        if parser.at(TokenKind::ParenClose) || (rest && !parser.has_types()) {
            break;
        }
        parser.expect(TokenKind::Comma)?;
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(mark, Kind::Parameters, Role::Parameters);
    Ok(())
}

/// `FormalParameter : BindingElement`, `FunctionRestParameter : BindingRestElement`
fn parameter(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    while parser.at(TokenKind::At) {
        class::decorator(parser)?;
    }
    if parser.has_types() {
        class::parameter_modifiers(parser);
    }
    let rest = parser.eat(TokenKind::Ellipsis);
    if parser.has_types() && parser.at(TokenKind::This) {
        parser.leaf(Kind::This, Role::Name);
    } else {
        pattern::name_or_pattern(parser)?;
    }
    if parser.has_types() {
        parser.eat(TokenKind::Question);
    }
    types::opt_annotation(parser)?;
    if (!rest || parser.has_types()) && parser.eat(TokenKind::Assign) {
        expression::assignment_expression(parser)?;
        parser.role(Role::Default);
    }
    parser.close_as(mark, Kind::Parameter, Role::Parameter);
    Ok(())
}
