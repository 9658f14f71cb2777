//! `__all__`: the names that a module exports.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::names::{Collector, Exports, ScopeId, Unknown};

const LIST: &str = "__all__";

/// `__all__ = […]`, `__all__ += […]` and the like at the level of the file.
pub(super) fn on_assignment<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let names_list = |target: NodeRef<'t>| target.kind() == Kind::Name && collector.node_text(target) == LIST;
    if collector.current() == ScopeId::FILE && node.children_in(Role::Target).any(names_list) {
        if let Some(value) = node.child(Role::Value) {
            collect_exports(collector, value);
        }
    }
}

/// `from module import __all__`: the list is another module's.
pub(super) fn on_import(collector: &mut Collector<'_>, scope: ScopeId, name: &str) {
    if scope == ScopeId::FILE && name == LIST {
        collector.set_exports(Exports::Unknown);
    }
}

/// `__all__.extend([…])`, `__all__.append("…")` and whatever else is called on the list.
pub(super) fn on_call<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, callee: NodeRef<'t>) {
    if callee.kind() != Kind::Member || collector.current() != ScopeId::FILE {
        return;
    }
    let on_list = callee.child(Role::Object).is_some_and(|object| collector.node_text(object) == LIST);
    if on_list {
        for argument in node.child(Role::Arguments).into_iter().flat_map(|arguments| arguments.children()) {
            collect_exports(collector, argument);
        }
    }
}

/// Every string in the list counts as a use of the name; anything else makes the list unknown.
fn collect_exports<'t>(collector: &mut Collector<'t>, value: NodeRef<'t>) {
    collector.set_exports(Exports::Listed);
    for part in std::iter::once(value).chain(value.descendants()) {
        match part.kind() {
            Kind::String => {
                let span = part.span();
                let content = collector.text.slice(span).trim_matches(['"', '\'']);
                let place = Span::new(span.start + 1, (span.end - 1).max(span.start + 1));
                collector.use_text(ScopeId::FILE, content, part, place, Some(Unknown::InText));
            }
            Kind::List | Kind::Tuple | Kind::Set | Kind::Group | Kind::Binary | Kind::Concatenation => {}
            _ => collector.set_exports(Exports::Unknown),
        }
    }
}
