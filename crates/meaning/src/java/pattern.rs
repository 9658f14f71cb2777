//! Variables of patterns, which are seen where the pattern is known to fit.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::condition::open_where;
use crate::names::{Collector, DeclarationKind};

/// Scopes within scopes up to here; variables of patterns beyond share the scope around them.
const DEEPEST: usize = 500;

/// Whether a case has patterns that bind names.
pub(super) fn has_patterns(case: NodeRef<'_>) -> bool {
    case.children_in(Role::Pattern).any(|pattern| is_pattern(pattern.kind()))
}

fn is_pattern(kind: Kind) -> bool {
    matches!(kind, Kind::CapturePattern | Kind::ClassPattern)
}

/// A type with a name behind it.
pub(super) fn on_capture<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(name) = node.child(Role::Name).filter(|name| name.kind() == Kind::Name) else { return };
    let Some(whole) = node.ancestors().find(|around| !is_pattern(around.kind())) else { return };
    let around = collector.current();
    if whole.kind() != Kind::Comparison || collector.depth(around) >= DEEPEST {
        collector.bind_from(around, name, DeclarationKind::Pattern, name.id());
        return;
    }
    let scope = open_where(collector, whole);
    collector.bind(scope, collector.node_text(name), name, DeclarationKind::Pattern);
}
