//! "Primary Expression", and `new`, `super` and `import` where they begin a value.

use super::super::lexer::Goal;
use super::{Front, arguments, chain, class, expression, function, name, object, template, types};
use crate::parse::Parsed;
use crate::text::Span;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// What members, elements and calls are read after.
pub(super) fn member_base(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::New => new_expression(parser),
        TokenKind::Super => super_base(parser),
        TokenKind::Import => import_base(parser),
        _ => primary_expression(parser),
    }
}

fn primary_expression(parser: &mut Front) -> Parsed {
    let leaf = |parser: &mut Front, kind| {
        parser.leaf(kind, Role::Part);
        Ok(())
    };
    match parser.kind() {
        TokenKind::Name if parser.text() == "async" && function::follows_async(parser) => {
            function::function_expression(parser)
        }
        TokenKind::Name => {
            if parser.own.is_module {
                name::refuse_strict_word(parser);
            }
            leaf(parser, Kind::Name)
        }
        TokenKind::Number => leaf(parser, Kind::Number),
        TokenKind::String => leaf(parser, Kind::String),
        TokenKind::TrueWord | TokenKind::FalseWord => leaf(parser, Kind::Boolean),
        TokenKind::NullWord => leaf(parser, Kind::Null),
        TokenKind::This => leaf(parser, Kind::This),
        TokenKind::ParenOpen => group(parser),
        TokenKind::BracketOpen => object::array_literal(parser),
        TokenKind::BraceOpen => object::object_literal(parser),
        TokenKind::FunctionWord => function::function_expression(parser),
        TokenKind::Class | TokenKind::At => class::class_expression(parser),
        TokenKind::FormatStart => template::template(parser),
        TokenKind::Slash | TokenKind::SlashAssign => {
            parser.read_again(Goal::RegularExpression);
            let flags = parser.text().rsplit('/').next().unwrap_or_default();
            if let Some(problem) = flag_problem(flags) {
                let end = parser.token_span(parser.position()).end;
                parser.early_fault(Span::new(end - flags.len() as u32, end), problem);
            }
            leaf(parser, Kind::RegularExpression)
        }
        _ => parser.stop_expecting("an expression"),
    }
}

/// What is wrong with the flags of a regular expression: each is once, and `u` and `v` exclude each other.
fn flag_problem(flags: &str) -> Option<Problem> {
    let unknown = flags.contains(|flag: char| !"dgimsuvy".contains(flag));
    let twice = flags.char_indices().any(|(at, flag)| flags[..at].contains(flag));
    let both = flags.contains('u') && flags.contains('v');
    (unknown || twice || both).then_some(Problem::Rule("these flags cannot follow a regular expression"))
}

/// `ParenthesizedExpression : ( Expression )`
fn group(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.within_brackets(expression::expression)?;
    parser.role(Role::Value);
    parser.expect(TokenKind::ParenClose)?;
    parser.close(mark, Kind::Group);
    Ok(())
}

/// `new MemberExpression Arguments`, `new NewExpression`, `new . target`
fn new_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.eat(TokenKind::Dot) {
        if !parser.eat_word("target") {
            return parser.stop_expecting("'target'");
        }
        parser.close(mark, Kind::MetaProperty);
        return Ok(());
    }
    if parser.at(TokenKind::Import) {
        return parser.stop(Problem::Rule("an import call cannot follow 'new'"));
    }
    parser.nested(chain::member_expression)?;
    if parser.last_since(mark).is_some_and(|last| last.kind() != Kind::TypeArguments) {
        parser.role(Role::Callee);
    }
    if parser.at(TokenKind::QuestionDot) {
        return parser.stop(Problem::Rule("'?.' cannot follow 'new'"));
    }
    if parser.at(TokenKind::ParenOpen) {
        arguments::arguments(parser)?;
    }
    parser.close(mark, Kind::New);
    Ok(())
}

/// `super . name`, `super [ … ]`, `super ( … )`
fn super_base(parser: &mut Front) -> Parsed {
    parser.leaf(Kind::Super, Role::Part);
    if parser.has_types() && parser.at(TokenKind::Less) {
        // Told by the compiler of the types later.
        types::arguments::opt_type_arguments_in_expression(parser, false);
    }
    let context = parser.context();
    let span = parser.token_span(parser.taken_end() - 1);
    match parser.kind() {
        TokenKind::ParenOpen => {
            if !context.in_constructor {
                parser.early_fault(
                    span,
                    Problem::Rule("'super' is called only in the constructor of a class that extends another"),
                );
            }
            return Ok(());
        }
        TokenKind::Dot | TokenKind::BracketOpen => {
            if !context.in_method {
                parser.early_fault(span, Problem::Rule("'super' has a meaning only in methods"));
            }
            return Ok(());
        }
        _ => {}
    }
    parser.stop_expecting("'(', '.' or '['")
}

/// `import ( … )`, `import . meta`
fn import_base(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.eat(TokenKind::Dot) {
        let deferred = matches!(parser.text(), "defer" | "source") && parser.at(TokenKind::Name);
        if !parser.has_types() && !deferred && !parser.at_word("meta") {
            return parser.stop_expecting("'meta'");
        }
        if !name::is_word(parser.kind()) {
            return parser.stop_expecting("'meta'");
        }
        parser.bump();
        if !(deferred && parser.at(TokenKind::ParenOpen)) {
            parser.close(mark, Kind::MetaProperty);
            return Ok(());
        }
    }
    if !parser.at(TokenKind::ParenOpen) {
        return parser.stop_expecting("'(' or '.'");
    }
    if parser.next_kind() == TokenKind::ParenClose && !parser.has_types() {
        return parser.stop(Problem::Rule("an import call needs the name of a module"));
    }
    parser.within(|context| context.no_in = false, arguments::arguments)?;
    parser.close(mark, Kind::ImportCall);
    Ok(())
}
