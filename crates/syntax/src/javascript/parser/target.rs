//! What can be assigned to ("Static Semantics: AssignmentTargetType", "Destructuring Assignment").

use super::Front;
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, TokenKind, Unfinished};

/// What is done with a target.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Use {
    /// It gets a value, which may be destructured.
    Assign,
    /// Its value is changed.
    Update,
}

/// Refuses what was read since `mark` if it is no target.
pub(super) fn check(parser: &mut Front, mark: Mark, purpose: Use) -> Parsed {
    let wrong = parser.last_since(mark).and_then(|last| {
        let wrong = find_wrong(parser, last, purpose == Use::Assign)?;
        Some((wrong.kind(), wrong.first_token(), wrong.end_token()))
    });
    if let Some((kind, first, end)) = wrong {
        let doing = if purpose == Use::Assign { "assigned to" } else { "changed" };
        let span = parser.token_span(first).join(parser.token_span(end.max(first + 1) - 1));
        parser.early_fault(span, Problem::NotATarget { doing, what: describe(kind) });
    }
    Ok(())
}

fn find_wrong<'b>(parser: &Front, node: Unfinished<'b>, may_take_apart: bool) -> Option<Unfinished<'b>> {
    let inner = |kinds: fn(Kind) -> bool| {
        node.children_backwards().filter(|child| !kinds(child.kind())).find_map(|child| find_wrong(parser, child, true))
    };
    match node.kind() {
        Kind::Name => None,
        Kind::Member | Kind::Subscript => {
            // A chain with `?.` may end before there is anything to assign to.
            (node.first_token()..node.end_token())
                .any(|token| parser.kind_of(token) == TokenKind::QuestionDot)
                .then_some(node)
                .filter(|_| is_optional(parser, node))
        }
        Kind::Group => node.children_backwards().next().and_then(|value| find_wrong(parser, value, false)),
        // In sloppy scripts a call fails only when it runs.
        Kind::Call => None,
        Kind::List if may_take_apart => inner(|_| false),
        Kind::Dictionary if may_take_apart => inner(|kind| kind == Kind::ShorthandPair),
        Kind::Pair => node.children_backwards().next().and_then(|value| find_wrong(parser, value, true)),
        Kind::Spread => node.children_backwards().next().and_then(|value| find_wrong(parser, value, true)),
        // A target with a default.
        Kind::Assignment if may_take_apart => None,
        Kind::Opaque => None,
        _ => Some(node),
    }
}

/// Whether a chain itself, not something within its brackets, has a `?.`.
fn is_optional(parser: &Front, node: Unfinished<'_>) -> bool {
    let mut link = node;
    loop {
        let Some(object) = link.children_backwards().last().filter(|object| object.first_token() == link.first_token())
        else {
            return false;
        };
        let mut between = object.end_token()..link.end_token();
        if between.find(|token| !parser.kind_of(*token).is_trivia()).map(|token| parser.kind_of(token))
            == Some(TokenKind::QuestionDot)
        {
            return true;
        }
        if !matches!(object.kind(), Kind::Member | Kind::Subscript | Kind::Call) {
            return false;
        }
        link = object;
    }
}

fn describe(kind: Kind) -> &'static str {
    match kind {
        Kind::Number | Kind::String | Kind::Boolean | Kind::Null | Kind::RegularExpression => "a literal",
        Kind::FormatString => "a template",
        Kind::This => "'this'",
        Kind::List | Kind::Dictionary => "a literal",
        Kind::Lambda | Kind::Function => "a function",
        Kind::Member | Kind::Subscript => "a chain with '?.'",
        _ => "this expression",
    }
}
