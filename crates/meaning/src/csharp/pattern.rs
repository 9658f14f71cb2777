//! Variables of patterns and of arguments, which are seen in the statement or the block around them ("Scopes").

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::word;
use crate::names::{Collector, DeclarationKind, ScopeKind};

/// Whether a case has variables of its own: it has patterns, or is one of an expression.
pub(super) fn has_own_scope(case: NodeRef<'_>) -> bool {
    is_of_expression(case) || case.children_in(Role::Pattern).any(|pattern| is_pattern(pattern.kind()))
}

/// Whether a case is one of a choice between values.
pub(super) fn is_of_expression(case: NodeRef<'_>) -> bool {
    case.parent().is_some_and(|choice| choice.first_token_kind() != sieve_syntax::tree::TokenKind::Switch)
}

fn is_pattern(kind: Kind) -> bool {
    matches!(
        kind,
        Kind::CapturePattern
            | Kind::ClassPattern
            | Kind::SequencePattern
            | Kind::GroupPattern
            | Kind::StarPattern
            | Kind::KeywordPattern
            | Kind::OrPattern
            | Kind::AndPattern
            | Kind::NotPattern
    )
}

/// `Tide tide`, `var (low, high)`, `{ Low: 3 } tide`
pub(super) fn on_pattern<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(name) = node.child(Role::Name).filter(|name| name.kind() == Kind::Name) else { return };
    if collector.node_text(name) == "_" {
        return;
    }
    let current = collector.current();
    let is_outside = matches!(collector.scope(current).kind, ScopeKind::Members);
    let scope = match node.ancestors().find(|around| matches!(around.kind(), Kind::Field | Kind::Heritage)) {
        // What gives a field its value has variables of its own.
        Some(field) if is_outside => {
            let scope = collector.open_scope(ScopeKind::Block, field, current);
            collector.enter_until(field.end(), scope);
            scope
        }
        _ => current,
    };
    let around = node.ancestors().find(|around| !is_pattern(around.kind()) && around.kind() != Kind::Tuple);
    let takes_apart = around.is_some_and(|around| matches!(around.kind(), Kind::Assignment | Kind::For));
    let kind = if takes_apart { DeclarationKind::Unpacking } else { DeclarationKind::Pattern };
    word::bind_from(collector, scope, name, kind, name.id());
}
