//! The uses of names that a language reports.

use rustc_hash::FxHashSet;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{NodeId, NodeRef};

use super::symbol::Namespace;
use super::{Collector, Reach, Reference, Resolution, ScopeId, Unknown};

impl<'t> Collector<'t> {
    /// A use of a name at its own node, in the scope of the walk.
    #[inline]
    pub(crate) fn use_name(&mut self, node: NodeRef<'t>) {
        self.use_in(Namespace::Values, node);
    }

    /// A place that gives a name a new value, in the scope of the walk: it must be there, but is not used by that.
    pub(crate) fn write_name(&mut self, node: NodeRef<'t>) {
        self.use_name(node);
        self.last_writes();
    }

    /// A use of a name that may be one, or may be the name of something else of this spelling.
    pub(crate) fn use_doubtfully(&mut self, node: NodeRef<'t>) {
        self.use_text(self.current(), self.node_text(node), node, node.span(), Some(Unknown::OtherFile));
        self.doubt_last();
    }

    /// A use of a name of a namespace at its own node, in the scope of the walk.
    #[inline]
    pub(crate) fn use_in(&mut self, namespace: Namespace, node: NodeRef<'t>) {
        self.use_by(namespace, Reach::Scopes, self.current(), node);
    }

    /// A use of a name of a namespace that is found by the way of `reach`.
    #[inline]
    pub(crate) fn use_by(&mut self, namespace: Namespace, reach: Reach, scope: ScopeId, node: NodeRef<'t>) {
        self.add_use((namespace, reach), scope, self.node_text(node), node, node.span());
    }

    /// A use of a name of a namespace by a stretch within a node.
    pub(crate) fn use_within(&mut self, way: (Namespace, Reach), scope: ScopeId, node: NodeRef<'t>, span: Span) {
        self.add_use(way, scope, self.text.slice(span), node, span);
    }

    /// A use of a name by text within a node.
    pub(crate) fn use_text(
        &mut self,
        scope: ScopeId,
        name: &'t str,
        node: NodeRef<'t>,
        span: Span,
        excuse: Option<Unknown>,
    ) {
        self.add_use((Namespace::Values, Reach::Scopes), scope, name, node, span);
        if let Some(last) = self.references.last_mut() {
            last.excuse = excuse.or(last.excuse);
        }
    }

    fn add_use(
        &mut self,
        (namespace, reach): (Namespace, Reach),
        scope: ScopeId,
        name: &'t str,
        node: NodeRef<'t>,
        span: Span,
    ) {
        let excuse = self.excused.filter(|(end, _)| node.id() < *end).map(|(_, reason)| reason);
        self.references.push(Reference {
            name: self.symbols.intern(name, namespace),
            scope,
            node: node.id(),
            span,
            resolution: Resolution::Undefined,
            excuse,
            writes: false,
            is_doubtful: false,
            reach,
        });
    }

    /// The last use need not be of a name that is bound.
    pub(crate) fn excuse_last(&mut self, reason: Unknown) {
        if let Some(last) = self.references.last_mut() {
            last.excuse.get_or_insert(reason);
        }
    }

    /// The last use may be of something else.
    pub(crate) fn doubt_last(&mut self) {
        if let Some(last) = self.references.last_mut() {
            last.is_doubtful = true;
        }
    }

    /// The uses at these nodes may be of something else.
    pub(crate) fn doubt_uses_at(&mut self, nodes: &FxHashSet<NodeId>) {
        for reference in self.references.iter_mut().filter(|reference| nodes.contains(&reference.node)) {
            reference.is_doubtful = true;
        }
    }

    /// The last use only gives the name a value.
    pub(crate) fn last_writes(&mut self) {
        if let Some(last) = self.references.last_mut() {
            last.writes = true;
        }
    }

    /// Wherever a macro is used, this word may mean what has its name there: variables alone are not seen by macros.
    pub(crate) fn expand(&mut self, word: &'t str) {
        for namespace in [Namespace::Values, Namespace::Types] {
            let symbol = self.symbols.intern(word, namespace);
            self.expanded.insert(symbol);
        }
    }
}
