//! Where the variables of a pattern in a condition are seen: in what runs only where the pattern fits ("Scope for Pattern Variables in
//! Expressions", "… by Statements", The Java Language Specification; "Scopes", The Rust Reference).

use std::ops::Range;

use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::names::{Collector, ScopeId, ScopeKind};

/// Opens a scope for the variables of a pattern in a condition, which is entered in the parts where the pattern fits.
pub(crate) fn open_where<'t>(collector: &mut Collector<'t>, condition: NodeRef<'t>) -> ScopeId {
    let scope = collector.open_scope(ScopeKind::Block, condition, collector.current());
    for part in parts_where(condition) {
        collector.enter_within(part, scope);
    }
    scope
}

/// The parts of the code that run only where a condition holds, as far as the language says so.
fn parts_where(condition: NodeRef<'_>) -> Vec<Range<NodeId>> {
    let mut parts = Vec::new();
    // What the expression is like where the condition holds.
    let mut holds = true;
    let mut node = condition;
    while let Some(parent) = node.parent() {
        let child = |role: Role| parent.child(role).map(|part| part.id()..part.end());
        match parent.kind() {
            Kind::Group => {}
            Kind::Unary if parent.first_token_kind() == TokenKind::Exclamation => holds = !holds,
            Kind::Logical if is_conjunction(parent) == holds => {
                parts.extend(node.next_sibling().map(|next| next.id()..parent.end()));
            }
            Kind::Conditional if node.role() == Role::Condition => {
                parts.extend(child(if holds { Role::Value } else { Role::Else }));
                break;
            }
            Kind::If if node.role() == Role::Condition => {
                parts.extend(child(if holds { Role::Body } else { Role::Else }));
                let leaves = || parent.child(Role::Body).is_some_and(|body| !completes(body));
                if !holds && parent.child(Role::Else).is_none() && leaves() {
                    parts.extend(behind(parent));
                }
                break;
            }
            Kind::While | Kind::For | Kind::DoWhile if node.role() == Role::Condition => {
                if holds && parent.kind() != Kind::DoWhile {
                    parts.extend(child(Role::Step).into_iter().chain(child(Role::Body)));
                } else if !holds && !parent.child(Role::Body).is_some_and(|body| is_left(body, parent)) {
                    parts.extend(behind(parent));
                }
                break;
            }
            Kind::Case if node.role() == Role::Guard => {
                parts.extend(child(Role::Body).filter(|_| holds));
                break;
            }
            _ => break,
        }
        node = parent;
    }
    parts
}

/// Whether operands are joined by `&&`.
fn is_conjunction(logical: NodeRef<'_>) -> bool {
    logical.children().next().is_some_and(|first| first.kind_behind() == TokenKind::AndAnd)
}

/// The statements behind one, in its block. Labels before it belong to it.
fn behind(statement: NodeRef<'_>) -> Option<Range<NodeId>> {
    let mut whole = statement;
    while let Some(labeled) = whole.parent().filter(|parent| parent.kind() == Kind::Labeled) {
        whole = labeled;
    }
    let block = whole.parent().filter(|block| block.kind() == Kind::Block)?;
    whole.next_sibling().map(|next| next.id()..block.end())
}

/// Whether a statement may come to its end ("Unreachable Statements"), as far as its last statements tell.
fn completes(statement: NodeRef<'_>) -> bool {
    match statement.kind() {
        Kind::Return | Kind::Throw | Kind::Break | Kind::Continue | Kind::Yield => false,
        Kind::Block | Kind::Labeled => statement.last_child().is_none_or(completes),
        Kind::With => statement.child(Role::Body).is_none_or(completes),
        Kind::If => {
            let (body, other) = (statement.child(Role::Body), statement.child(Role::Else));
            other.is_none_or(completes) || body.is_none_or(completes)
        }
        Kind::While | Kind::For => {
            let condition = statement.child(Role::Condition);
            let is_endless = match condition.map(|condition| (condition.kind(), condition.first_token_kind())) {
                Some((kind, first)) => kind == Kind::Boolean && first == TokenKind::TrueWord,
                None => statement.kind() == Kind::For && statement.child(Role::Iterable).is_none(),
            };
            !is_endless || statement.child(Role::Body).is_some_and(|body| is_left(body, statement))
        }
        Kind::Try => {
            if let Some(last) = statement.child(Role::Finally).filter(|last| !completes(*last)) {
                return completes(last);
            }
            let handlers = statement.children_in(Role::Handler).filter_map(|handler| handler.child(Role::Body));
            statement.child(Role::Body).into_iter().chain(handlers).any(completes)
        }
        _ => true,
    }
}

/// Bodies of more nodes are not looked through.
const LARGEST_BODY: u32 = 20_000;

/// Whether a `break` in the body of a loop leaves it, or may.
fn is_left(body: NodeRef<'_>, whole: NodeRef<'_>) -> bool {
    if body.end().0 - body.id().0 > LARGEST_BODY {
        return true;
    }
    let leaves = |node: NodeRef<'_>| {
        let mut around = node.ancestors().take_while(|around| around.id() > whole.id());
        match node.child(Role::Label) {
            // Its label is not looked for: it may be that of the loop.
            Some(_) => true,
            None => !around.any(|around| {
                matches!(
                    around.kind(),
                    Kind::While | Kind::For | Kind::DoWhile | Kind::Match | Kind::Function | Kind::Lambda
                )
            }),
        }
    };
    std::iter::once(body).chain(body.descendants()).any(|node| node.kind() == Kind::Break && leaves(node))
}
