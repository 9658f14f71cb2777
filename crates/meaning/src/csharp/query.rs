//! Variables of queries, which are seen in the clauses behind that which declares them ("Query expressions").

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::word;
use crate::names::{Collector, DeclarationKind};

/// `from tide in tides`, `let depth = tide.Depth`, `join quay in quays on …`, `into group`
pub(super) fn on_clause<'t>(collector: &mut Collector<'t>, clause: NodeRef<'t>) {
    let Some(name) = clause.child(Role::Name).filter(|name| name.kind() == Kind::Name) else { return };
    let from = clause.child(Role::Right).map_or(clause.end(), NodeRef::id);
    word::bind_from(collector, collector.current(), name, DeclarationKind::LoopTarget, from);
}
