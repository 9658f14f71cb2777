//! What a language says while it walks a tree: scopes, bindings and uses, not yet joined.

use std::ops::Range;

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::text::Text;
use sieve_syntax::tree::{NodeId, NodeRef, Tree};

use super::members::Members;
use super::symbol::{Namespace, Symbol, Symbols};
use super::{Binding, BindingId, Declaration, DeclarationKind, Exports, Reference, Scope, ScopeId, ScopeKind, Unknown};

/// Gathers the scopes, bindings and references of one file in one walk over its nodes in pre-order.
#[derive(Debug)]
pub(crate) struct Collector<'t> {
    pub(crate) text: &'t Text,
    pub(crate) tree: &'t Tree,
    pub(super) scopes: Vec<Scope>,
    pub(super) bindings: Vec<Binding>,
    pub(super) references: Vec<Reference>,
    pub(super) table: FxHashMap<(ScopeId, Symbol), BindingId>,
    /// Names that a scope has declared to live in another one.
    pub(super) elsewhere: FxHashMap<(ScopeId, Symbol), ScopeId>,
    pub(super) symbols: Symbols<'t>,
    pub(super) exports: Exports,
    /// The members that types have, and what they inherit them from.
    pub(super) members: Members,
    /// The words of macros that the file defines.
    pub(super) expanded: FxHashSet<Symbol>,
    /// The scopes of modules, and of the members of types, by their nodes.
    pub(super) holders: FxHashMap<NodeId, ScopeId>,
    /// Parts of the tree that belong to a scope, by their ends; the innermost last.
    regions: Vec<(NodeId, ScopeId)>,
    /// Parts further on that belong to another scope; the next one last.
    pending: Vec<(Range<NodeId>, ScopeId)>,
    /// Uses before this node are excused.
    pub(super) excused: Option<(NodeId, Unknown)>,
    /// Names that need not be bound, wherever they are used.
    pub(super) excused_names: FxHashMap<Symbol, Unknown>,
}

impl<'t> Collector<'t> {
    pub(crate) fn new(text: &'t Text, tree: &'t Tree) -> Collector<'t> {
        let broken = (!tree.faults().is_empty()).then_some(Unknown::BrokenSyntax);
        let file = Scope {
            kind: ScopeKind::File,
            node: NodeId::ROOT,
            parent: None,
            may_bind: broken,
            may_use: broken,
            sees_locals: true,
        };
        Collector {
            text,
            tree,
            scopes: vec![file],
            bindings: Vec::new(),
            references: Vec::with_capacity(tree.nodes().len() / 4),
            table: FxHashMap::default(),
            elsewhere: FxHashMap::default(),
            symbols: Symbols::default(),
            exports: Exports::Unlisted,
            members: Members::default(),
            expanded: FxHashSet::default(),
            holders: FxHashMap::default(),
            regions: vec![(tree.root().end(), ScopeId::FILE)],
            pending: Vec::new(),
            excused: None,
            excused_names: FxHashMap::default(),
        }
    }

    // The walk.

    /// Comes to the next node of the walk: leaves the scopes that ended before it and enters one that begins with it.
    #[inline]
    pub(crate) fn arrive(&mut self, node: NodeRef<'t>) {
        while self.regions.len() > 1 && self.regions[self.regions.len() - 1].0 <= node.id() {
            self.regions.pop();
        }
        while let Some((part, scope)) = self.pending.pop_if(|(part, _)| part.start <= node.id()) {
            if part.start == node.id() {
                self.regions.push((part.end, scope));
            }
        }
    }

    /// From here to the node's end, names belong to `scope`.
    pub(crate) fn enter(&mut self, node: NodeRef<'t>, scope: ScopeId) {
        self.regions.push((node.end(), scope));
    }

    /// When the walk comes to `node`, names in it belong to `scope`.
    pub(crate) fn enter_at(&mut self, node: NodeRef<'t>, scope: ScopeId) {
        self.enter_within(node.id()..node.end(), scope);
    }

    /// When the walk comes to the first of these nodes, names belong to `scope`, up to their end. A scope that was said to begin there
    /// before is around it.
    pub(crate) fn enter_within(&mut self, part: Range<NodeId>, scope: ScopeId) {
        let sooner = self.pending.iter().rev().take_while(|(other, _)| other.start <= part.start).count();
        self.pending.insert(self.pending.len() - sooner, (part, scope));
    }

    /// From here to a node further on, names belong to `scope`.
    pub(crate) fn enter_until(&mut self, end: NodeId, scope: ScopeId) {
        self.regions.push((end, scope));
    }

    /// Opens a scope for a node, in that of the walk, and enters it.
    pub(crate) fn open(&mut self, kind: ScopeKind, node: NodeRef<'t>) -> ScopeId {
        let scope = self.open_scope(kind, node, self.current());
        self.enter(node, scope);
        scope
    }

    /// The scope of the node that the walk is at.
    pub(crate) fn current(&self) -> ScopeId {
        self.regions.last().map_or(ScopeId::FILE, |(_, scope)| *scope)
    }

    /// Uses up to the end of `node` may be of names that do not exist.
    pub(crate) fn excuse(&mut self, node: NodeRef<'t>, reason: Unknown) {
        let end = self.excused.map_or(node.end(), |(end, _)| end.max(node.end()));
        self.excused = Some((end, reason));
    }

    /// These names may come from elsewhere.
    pub(crate) fn excuse_names(&mut self, names: impl IntoIterator<Item = &'t str>, reason: Unknown) {
        for name in names {
            let symbol = self.symbols.intern(name, Namespace::Values);
            self.excused_names.insert(symbol, reason);
        }
    }

    // Scopes.

    pub(crate) fn open_scope(&mut self, kind: ScopeKind, node: NodeRef<'t>, parent: ScopeId) -> ScopeId {
        self.scopes.push(Scope {
            kind,
            node: node.id(),
            parent: Some(parent),
            may_bind: None,
            may_use: None,
            sees_locals: true,
        });
        let scope = ScopeId(self.scopes.len() as u32 - 1);
        if matches!(kind, ScopeKind::Module | ScopeKind::Members) {
            self.holders.insert(node.id(), scope);
        }
        scope
    }

    /// What is in a scope sees no local variables from around it.
    pub(crate) fn hide_locals(&mut self, scope: ScopeId) {
        self.scopes[scope.0 as usize].sees_locals = false;
    }

    /// A scope sees nothing of what is around it.
    pub(crate) fn cut_off(&mut self, scope: ScopeId) {
        self.scopes[scope.0 as usize].parent = None;
    }

    pub(crate) fn scope(&self, id: ScopeId) -> &Scope {
        &self.scopes[id.0 as usize]
    }

    /// Every scope so far.
    pub(crate) fn scope_ids(&self) -> impl Iterator<Item = ScopeId> + use<> {
        (0..self.scopes.len() as u32).map(ScopeId)
    }

    /// Names may exist in this scope that no code binds.
    pub(crate) fn mark_may_bind(&mut self, scope: ScopeId, reason: Unknown) {
        self.scopes[scope.0 as usize].may_bind.get_or_insert(reason);
    }

    /// Names of this scope may be used although no code shows it.
    pub(crate) fn mark_may_use(&mut self, scope: ScopeId, reason: Unknown) {
        self.scopes[scope.0 as usize].may_use.get_or_insert(reason);
    }

    /// A part of what the walk is in could not be understood: names may be used there.
    pub(crate) fn mark_broken(&mut self) {
        for scope in self.outwards(self.current()) {
            self.mark_may_use(scope, Unknown::BrokenSyntax);
        }
    }

    /// How many scopes are around a scope, up to a thousand.
    pub(crate) fn depth(&self, scope: ScopeId) -> usize {
        std::iter::successors(self.scope(scope).parent, |id| self.scope(*id).parent).take(1000).count()
    }

    /// The scope of the module that a node opens.
    pub(crate) fn module_at(&self, node: NodeId) -> Option<ScopeId> {
        self.holders.get(&node).copied()
    }

    /// The scope that each node opens, the innermost where it opens several.
    pub(crate) fn scopes_by_node(&self) -> FxHashMap<NodeId, ScopeId> {
        self.scope_ids().map(|id| (self.scope(id).node, id)).collect()
    }

    /// A scope and those around it, outwards.
    pub(crate) fn outwards(&self, scope: ScopeId) -> Vec<ScopeId> {
        std::iter::successors(Some(scope), |id| self.scope(*id).parent).collect()
    }

    /// Whether a scope binds a name, as far as the walk has come.
    pub(crate) fn binds(&mut self, scope: ScopeId, name: &'t str) -> bool {
        let symbol = self.symbols.intern(name, Namespace::Values);
        self.table.contains_key(&(scope, symbol))
    }

    /// Whether a name is bound or used anywhere, as far as the walk has come.
    pub(crate) fn is_met(&self, name: &str) -> bool {
        self.symbols.find(name, Namespace::Values).is_some()
    }

    /// Whether a name is used anywhere, as far as the walk has come.
    pub(crate) fn uses(&self, name: &str) -> bool {
        let symbol = self.symbols.find(name, Namespace::Values);
        symbol.is_some_and(|symbol| self.references.iter().any(|reference| reference.name == symbol))
    }

    /// Whether some scope binds a name, as far as the walk has come.
    pub(crate) fn is_bound_anywhere(&self, name: &str) -> bool {
        let symbol = self.symbols.find(name, Namespace::Values);
        symbol.is_some_and(|symbol| self.bindings.iter().any(|binding| binding.name == symbol))
    }

    /// The nearest scope from `scope` outwards that is of a sort.
    pub(crate) fn nearest(&self, scope: ScopeId, wanted: impl Fn(ScopeKind) -> bool) -> Option<ScopeId> {
        let mut next = Some(scope);
        while let Some(id) = next {
            if wanted(self.scope(id).kind) {
                return Some(id);
            }
            next = self.scope(id).parent;
        }
        None
    }

    /// From now on, `name` in `scope` means the name in `other`.
    pub(crate) fn declare_elsewhere(&mut self, scope: ScopeId, name: &'t str, other: ScopeId) {
        let symbol = self.symbols.intern(name, Namespace::Values);
        self.elsewhere.insert((scope, symbol), other);
    }

    // Names.

    /// The text of a node.
    pub(crate) fn node_text(&self, node: NodeRef<'t>) -> &'t str {
        self.text.slice(node.span())
    }

    pub(crate) fn bind(&mut self, scope: ScopeId, name: &'t str, node: NodeRef<'t>, kind: DeclarationKind) {
        self.bind_in(Namespace::Values, scope, name, node, kind);
    }

    /// Binds a name of a namespace.
    pub(crate) fn bind_in(
        &mut self,
        namespace: Namespace,
        scope: ScopeId,
        name: &'t str,
        node: NodeRef<'t>,
        kind: DeclarationKind,
    ) -> BindingId {
        let symbol = self.symbols.intern(name, namespace);
        let scope = self.elsewhere.get(&(scope, symbol)).copied().unwrap_or(scope);
        let next = BindingId(self.bindings.len() as u32);
        let binding = *self.table.entry((scope, symbol)).or_insert(next);
        if binding == next {
            self.bindings.push(Binding {
                name: symbol,
                scope,
                declarations: Vec::new(),
                uses: 0,
                writes: 0,
                seen_from: NodeId::ROOT,
            });
        }
        self.bindings[binding.0 as usize].declarations.push(Declaration { node: node.id(), kind });
        binding
    }

    /// The name of a binding means it in another namespace too, where nothing else does.
    pub(crate) fn bind_too(&mut self, namespace: Namespace, binding: BindingId, name: &'t str) {
        let symbol = self.symbols.intern(name, namespace);
        let scope = self.bindings[binding.0 as usize].scope;
        self.table.entry((scope, symbol)).or_insert(binding);
    }

    /// Binds a name that is not seen before a node further on.
    pub(crate) fn bind_from(&mut self, scope: ScopeId, node: NodeRef<'t>, kind: DeclarationKind, from: NodeId) {
        self.bind_in_from(Namespace::Values, scope, (self.node_text(node), node), kind, from);
    }

    /// Binds a name of a namespace that is not seen before a node further on.
    pub(crate) fn bind_in_from(
        &mut self,
        namespace: Namespace,
        scope: ScopeId,
        (name, node): (&'t str, NodeRef<'t>),
        kind: DeclarationKind,
        from: NodeId,
    ) -> BindingId {
        let known = self.bindings.len();
        let binding = self.bind_in(namespace, scope, name, node, kind);
        if let Some(new) = self.bindings.get_mut(known) {
            new.seen_from = from;
        }
        binding
    }

    pub(crate) fn set_exports(&mut self, exports: Exports) {
        if self.exports != Exports::Unknown {
            self.exports = exports;
        }
    }
}
