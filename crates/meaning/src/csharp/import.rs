//! What `using` brings: all of a namespace, the members of a type, or a type under another name ("Using directives").

use sieve_syntax::tree::{NodeRef, Role};

use super::word;
use crate::names::{Collector, DeclarationKind, Namespace, Unknown};

/// `using Ferries.Tides;`, `using static Ferries.Fares;`, `using Table = Ferries.Tides.Table;`
pub(super) fn on_import<'t>(collector: &mut Collector<'t>, item: NodeRef<'t>) {
    let scope = collector.current();
    let Some(alias) = item.child(Role::Alias) else {
        return collector.mark_may_bind(scope, Unknown::StarImport);
    };
    // One for all files is used in others.
    if item.parent().is_some_and(|import| collector.node_text(import).starts_with("global")) {
        return;
    }
    collector.bind_in(Namespace::Types, scope, word::of(collector, alias), item, DeclarationKind::Import);
}
