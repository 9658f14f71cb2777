//! What may be bound, assigned to or deleted: "Assignment targets" of the grammar.
//!
//! Targets are parsed as expressions, since only what follows tells that they are targets, and are checked then.

use crate::parse::{Parsed, Parser, Stop};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind, Unfinished};

/// A name, as a leaf in a role.
pub(super) fn name(parser: &mut Parser, role: Role) -> Parsed {
    if !parser.at(TokenKind::Name) {
        return parser.stop_expecting("a name");
    }
    parser.leaf(Kind::Name, role);
    Ok(())
}

/// What is done with a target.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Use {
    /// `star_targets`: may be a list of targets, and take the rest with a star.
    Assign,
    /// `single_target`: a name, member or element, perhaps in parentheses.
    AssignOne,
    /// As for one, with a type.
    Annotate,
    /// `del_targets`
    Delete,
}

impl Use {
    fn doing(self) -> &'static str {
        match self {
            Use::Assign | Use::AssignOne => "assigned to",
            Use::Annotate => "given a type",
            Use::Delete => "deleted",
        }
    }

    fn takes_lists(self) -> bool {
        matches!(self, Use::Assign | Use::Delete)
    }
}

/// Checks the expression finished last, which began at `mark`, as a target.
pub(super) fn check_target(parser: &mut Parser, mark: Mark, purpose: Use) -> Parsed {
    let Some(whole) = parser.last_since(mark) else { return Ok(()) };
    let Some(wrong) = first_that_is_no_target(whole, purpose) else { return Ok(()) };
    let what = describe(wrong.kind());
    let start = parser.token_span(wrong.first_token());
    let end = parser.token_span(wrong.end_token().max(wrong.first_token() + 1) - 1);
    parser.fault(start.join(end), Problem::NotATarget { doing: purpose.doing(), what });
    Err(Stop)
}

fn first_that_is_no_target(whole: Unfinished<'_>, purpose: Use) -> Option<Unfinished<'_>> {
    let mut waiting = vec![(whole, true)];
    while let Some((node, may_be_rest)) = waiting.pop() {
        match node.kind() {
            Kind::Name | Kind::Member | Kind::Subscript => {}
            Kind::Tuple | Kind::List if purpose.takes_lists() => {
                waiting.extend(node.children_backwards().map(|child| (child, true)));
            }
            Kind::Spread if purpose == Use::Assign && may_be_rest => {
                waiting.extend(node.children_backwards().map(|child| (child, false)));
            }
            Kind::Group => waiting.extend(node.children_backwards().map(|child| (child, false))),
            _ => return Some(node),
        }
    }
    None
}

fn describe(kind: Kind) -> &'static str {
    match kind {
        Kind::Call => "a call",
        Kind::Number | Kind::String | Kind::Bytes | Kind::Concatenation => "a literal",
        Kind::FormatString | Kind::TemplateString => "a format string",
        Kind::Boolean | Kind::Null | Kind::EllipsisLiteral => "a constant of the language",
        Kind::Comparison => "a comparison",
        Kind::Lambda => "a lambda",
        Kind::Conditional => "a conditional expression",
        Kind::Comprehension => "a comprehension",
        Kind::Dictionary => "a dictionary",
        Kind::Set => "a set",
        Kind::NamedExpression => "a named expression",
        Kind::Tuple | Kind::List => "a list of targets",
        Kind::Spread => "a starred expression",
        Kind::Await => "an await expression",
        Kind::Yield | Kind::YieldFrom => "a yield expression",
        _ => "an expression",
    }
}
