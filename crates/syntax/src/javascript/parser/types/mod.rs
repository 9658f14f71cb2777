//! Types, in all the places where TypeScript 5 has them. The order is that of how tightly they bind, the loosest first.

pub(super) mod arguments;
pub(super) mod declaration;
pub(super) mod function_type;
pub(super) mod member;
pub(super) mod primary;

use super::{Context, Front, name};
use crate::parse::Parsed;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// A type.
pub(super) fn any_type(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        if function_type::begins(parser) {
            return function_type::function_type(parser);
        }
        union_type(parser)?;
        if parser.context().no_conditional_type || !parser.at(TokenKind::Extends) || parser.at_new_line() {
            return Ok(());
        }
        parser.role(Role::Subject);
        conditional_type(parser, mark)
    })
}

/// `A extends B ? C : D`, from `extends` on; chains are followed in a loop.
fn conditional_type(parser: &mut Front, first: crate::tree::Mark) -> Parsed {
    let mut choices = vec![first];
    loop {
        parser.bump();
        parser.within(|context| context.no_conditional_type = true, any_type)?;
        parser.role(Role::Bound);
        parser.expect(TokenKind::Question)?;
        allowing_conditions(parser, any_type)?;
        parser.role(Role::Value);
        parser.expect(TokenKind::Colon)?;
        let mark = parser.open();
        if function_type::begins(parser) {
            function_type::function_type(parser)?;
            break;
        }
        allowing_conditions(parser, union_type)?;
        if !parser.at(TokenKind::Extends) || parser.at_new_line() {
            break;
        }
        parser.role(Role::Subject);
        choices.push(mark);
    }
    for mark in choices.into_iter().rev() {
        parser.role(Role::Else);
        parser.close(mark, Kind::ConditionalType);
    }
    Ok(())
}

/// Runs a grammar rule in which `extends` may begin a choice again, as within brackets.
fn allowing_conditions(parser: &mut Front, rule: impl FnOnce(&mut Front) -> Parsed) -> Parsed {
    parser.within(|context: &mut Context| context.no_conditional_type = false, rule)
}

/// `| A | B`
fn union_type(parser: &mut Front) -> Parsed {
    joined(parser, TokenKind::Bar, Kind::UnionType, intersection_type)
}

/// `& A & B`
fn intersection_type(parser: &mut Front) -> Parsed {
    joined(parser, TokenKind::Ampersand, Kind::IntersectionType, operator_type)
}

fn joined(parser: &mut Front, operator: TokenKind, kind: Kind, operand: fn(&mut Front) -> Parsed) -> Parsed {
    let mark = parser.open();
    let leading = parser.eat(operator);
    let member = |parser: &mut Front| {
        if !function_type::begins(parser) {
            return operand(parser);
        }
        let mark = parser.open();
        function_type::function_type(parser)?;
        parser.fault_since(mark, Problem::Rule("a function type needs parentheses beside other types"));
        Ok(())
    };
    if leading {
        member(parser)?
    } else {
        operand(parser)?
    }
    if !parser.at(operator) && !leading {
        return Ok(());
    }
    parser.role(Role::Operand);
    while parser.eat(operator) {
        member(parser)?;
        parser.role(Role::Operand);
    }
    parser.close(mark, kind);
    Ok(())
}

/// `keyof T`, `unique symbol`, `readonly T[]`, `infer T`
fn operator_type(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Name) {
        match parser.text() {
            "keyof" | "unique" | "readonly" => {
                let mark = parser.open();
                parser.bump();
                parser.nested(operator_type)?;
                parser.role(Role::Operand);
                parser.close(mark, Kind::TypeOperator);
                return Ok(());
            }
            "infer" => return infer_type(parser),
            _ => {}
        }
    }
    primary::postfix_type(parser)
}

/// `infer T extends U`; the bound is one only if no choice begins with the same `extends`.
fn infer_type(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let parameter = parser.open();
    name::binding_identifier(parser, Role::Name)?;
    if parser.at(TokenKind::Extends) {
        let in_bound = parser.context().no_conditional_type;
        parser.attempt(|parser| {
            parser.bump();
            parser.within(|context| context.no_conditional_type = true, any_type)?;
            parser.role(Role::Bound);
            if !in_bound && parser.at(TokenKind::Question) { Err(crate::parse::Stop) } else { Ok(()) }
        });
    }
    parser.close_as(parameter, Kind::TypeParameter, Role::Parameter);
    parser.close(mark, Kind::InferType);
    Ok(())
}

/// `: T`, where types are written. Whether there was one.
pub(super) fn opt_annotation(parser: &mut Front) -> Result<bool, crate::parse::Stop> {
    if !parser.has_types() || !parser.eat(TokenKind::Colon) {
        return Ok(false);
    }
    allowing_conditions(parser, any_type)?;
    parser.role(Role::Type);
    Ok(true)
}

/// `: T` or `: x is T` after parameters.
pub(super) fn opt_return_type(parser: &mut Front) -> Parsed {
    if parser.has_types() && parser.eat(TokenKind::Colon) {
        allowing_conditions(parser, type_or_predicate)?;
        parser.role(Role::Returns);
    }
    Ok(())
}

/// A type, or `x is T`, `asserts x`, `asserts x is T`.
pub(super) fn type_or_predicate(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Name) {
        let asserts = parser.text() == "asserts"
            && matches!(parser.next_kind(), TokenKind::Name | TokenKind::This)
            && !parser.next_is_on_new_line();
        if asserts {
            return primary::assertion(parser);
        }
        if parser.next_word() == (TokenKind::Name, "is") && !parser.next_is_on_new_line() {
            let mark = parser.open();
            parser.leaf(Kind::Name, Role::Name);
            parser.bump();
            any_type(parser)?;
            parser.role(Role::Type);
            parser.close(mark, Kind::TypePredicate);
            return Ok(());
        }
    }
    any_type(parser)
}

/// A type after `as` and the like, where `const` is one too.
pub(super) fn type_or_const(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Const) {
        parser.leaf(Kind::PredefinedType, Role::Part);
        return Ok(());
    }
    allowing_conditions(parser, any_type)
}

/// `< T, U extends V = W >`, where types are written.
pub(super) fn opt_type_parameters(parser: &mut Front) -> Parsed {
    if !parser.has_types() || !parser.at(TokenKind::Less) {
        return Ok(());
    }
    let mark = parser.open();
    parser.bump();
    parser.list(TokenKind::Greater, type_parameter)?;
    parser.close_as(mark, Kind::TypeParameters, Role::TypeParameters);
    Ok(())
}

/// `const in out T extends U = V`
fn type_parameter(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    loop {
        let modifier = match parser.kind() {
            TokenKind::Const | TokenKind::In => true,
            TokenKind::Name => {
                matches!(parser.text(), "out" | "public" | "private" | "protected" | "readonly")
                    && parser.next_kind() == TokenKind::Name
            }
            _ => false,
        };
        if !modifier {
            break;
        }
        parser.bump();
    }
    name::binding_identifier(parser, Role::Name)?;
    if parser.eat(TokenKind::Extends) {
        allowing_conditions(parser, any_type)?;
        parser.role(Role::Bound);
    }
    if parser.eat(TokenKind::Assign) {
        allowing_conditions(parser, any_type)?;
        parser.role(Role::Default);
    }
    parser.close_as(mark, Kind::TypeParameter, Role::Parameter);
    Ok(())
}

/// `implements A, B<C>`, `extends A, B` of an interface.
pub(super) fn heritage_types(parser: &mut Front) -> Parsed {
    loop {
        heritage_type(parser)?;
        parser.role(Role::Type);
        if !parser.eat(TokenKind::Comma) {
            return Ok(());
        }
    }
}

/// The grammar allows any value here; what is no type by its name is reported by the compiler of the types.
fn heritage_type(parser: &mut Front) -> Parsed {
    if name::is_identifier(parser.kind()) {
        return primary::named_type(parser);
    }
    super::class::base(parser)
}

/// Refuses an empty list of type arguments or the like.
fn refuse_empty(parser: &mut Front) -> Parsed {
    parser.stop(Problem::Rule("this list of types is empty"))
}
