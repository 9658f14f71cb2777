//! Joins uses to bindings, by the rules of visibility that scopes of each sort have.

use rustc_hash::FxHashSet;

use super::alike::Meant;
use super::members::Member;
use super::symbol::{Namespace, Symbol};
use super::{
    BindingId, Collector, Declaration, DeclarationKind, Names, Reach, Reference, Resolution, Scope, ScopeId, ScopeKind,
    Unknown,
};
use sieve_syntax::tree::{Kind, NodeId};

/// `is_builtin`: the language brings the name. `may_be_brought`: something that the code does not show may bring it.
pub(crate) fn resolve(
    mut collector: Collector<'_>,
    is_builtin: fn(&str) -> bool,
    may_be_brought: fn(&str) -> bool,
) -> Names<'_> {
    let mut references = std::mem::take(&mut collector.references);
    collector.link_bases();
    // A list of exports is met before its strings are: bring its uses to their places.
    references.sort_by_key(|reference| reference.node);
    let mut resolver = Resolver::new(&collector, &references, is_builtin, may_be_brought);
    references.iter_mut().for_each(|reference| resolver.resolve(reference));
    let Resolver { mut counts, doubted, .. } = resolver;
    collector.members.accessed.extend(doubted);
    add_uses_of_members(&mut collector, &mut references, &mut counts);
    let mut bindings = collector.bindings;
    for (binding, (uses, writes)) in bindings.iter_mut().zip(counts) {
        (binding.uses, binding.writes) = (uses, writes);
    }
    let by_node = places_by_node(&references);
    Names {
        scopes: collector.scopes,
        bindings,
        references,
        by_node,
        table: collector.table,
        symbols: collector.symbols,
        exports: collector.exports,
        accessed: collector.members.accessed,
        expanded: collector.expanded,
        holders: collector.holders,
    }
}

/// The place of the first of some uses at each node, from 1; they are in the order of their nodes.
fn places_by_node(references: &[Reference]) -> Vec<u32> {
    let mut places = vec![0; references.last().map_or(0, |last| last.node.index() + 1)];
    for (index, reference) in references.iter().enumerate().rev() {
        places[reference.node.index()] = index as u32 + 1;
    }
    places
}

/// Adds the uses of members that are known by the types of what they are of.
fn add_uses_of_members(collector: &mut Collector<'_>, references: &mut Vec<Reference>, counts: &mut [(u32, u32)]) {
    let of_members = collector.member_uses(references);
    if of_members.is_empty() {
        return;
    }
    for reference in &of_members {
        if let Resolution::Binding(id) = reference.resolution {
            counts[id.0 as usize].0 += 1;
        }
    }
    references.extend(of_members);
    references.sort_by_key(|reference| reference.node);
}

/// Finds what uses mean, one after another in the order of the text.
struct Resolver<'c, 't> {
    collector: &'c Collector<'t>,
    is_builtin: fn(&str) -> bool,
    may_be_brought: fn(&str) -> bool,
    /// What may be missing in one place of the file is handled in the others too, in ways that take flow to see.
    handled: FxHashSet<Symbol>,
    /// Which names the language brings: asked once for each, however often it is used.
    builtin: Vec<Option<bool>>,
    /// Most names that would be looked for in vain, such as builtins, are bound nowhere at all.
    is_bound: Vec<bool>,
    /// How often each binding is used, and how often it only gets a value.
    counts: Vec<(u32, u32)>,
    /// The names of uses that may be of a member of something which is not known.
    doubted: FxHashSet<Symbol>,
    /// What the use before means, where a path goes on.
    before: Option<BindingId>,
}

impl<'c, 't> Resolver<'c, 't> {
    fn new(
        collector: &'c Collector<'t>,
        references: &[Reference],
        is_builtin: fn(&str) -> bool,
        may_be_brought: fn(&str) -> bool,
    ) -> Resolver<'c, 't> {
        let handled = references.iter().filter(|reference| reference.excuse == Some(Unknown::Handled));
        let mut is_bound = vec![false; collector.symbols.count()];
        collector.table.keys().for_each(|(_, name)| is_bound[name.index()] = true);
        Resolver {
            collector,
            is_builtin,
            may_be_brought,
            handled: handled.map(|reference| reference.name).collect(),
            builtin: vec![None; collector.symbols.count()],
            is_bound,
            counts: vec![(0, 0); collector.bindings.len()],
            doubted: FxHashSet::default(),
            before: None,
        }
    }

    fn resolve(&mut self, reference: &mut Reference) {
        if reference.reach == Reach::Path {
            let Some(scope) = self.before.and_then(|before| self.collector.inside(before)) else {
                (reference.resolution, self.before) = (Resolution::Unknown(Unknown::OtherFile), None);
                return;
            };
            reference.scope = scope;
        }
        let found = self.look_for(reference);
        self.before = found.binding;
        if found.is_doubtful {
            reference.is_doubtful |= found.binding.is_some();
            self.doubted.insert(reference.name);
        }
        reference.resolution = match found.binding {
            Some(binding) => {
                self.count(reference, binding);
                Resolution::Binding(binding)
            }
            None => self.without_binding(reference),
        };
    }

    /// What a use sees; its name becomes that of the namespace in which something is found.
    fn look_for(&mut self, reference: &mut Reference) -> Found {
        let mut found = Found::default();
        if self.is_bound[reference.name.index()] {
            found = find(self.collector, reference, self.is_builtin);
        }
        for namespace in others(reference.reach) {
            if found.binding.is_some() && reference.reach != Reach::NearestValueOrType {
                break;
            }
            let text = self.collector.symbols.text(reference.name);
            let Some(name) = self.collector.symbols.find(text, *namespace) else { continue };
            let other = find(self.collector, &Reference { name, ..*reference }, self.is_builtin);
            if self.is_type_meant(&mut found, &other, reference.node) {
                found = Found { is_doubtful: found.is_doubtful || other.is_doubtful, ..other };
                reference.name = if found.binding.is_some() { name } else { reference.name };
            }
        }
        found
    }

    /// Whether a use means the type that it sees, and not the value. Where that is not known, it is taken for a use of both.
    fn is_type_meant(&mut self, value: &mut Found, of_type: &Found, node: NodeId) -> bool {
        let (Some(of_value), Some(id)) = (value.binding, of_type.binding) else { return value.binding.is_none() };
        match self.collector.meant(of_value, id, node) {
            Meant::Nearer => of_type.distance < value.distance,
            Meant::Type => true,
            Meant::Value => false,
            Meant::Unknown => {
                for one in [of_value, id] {
                    self.counts[one.0 as usize].0 += 1;
                    self.doubted.insert(self.collector.bindings[one.0 as usize].name);
                }
                value.is_doubtful = true;
                of_type.distance < value.distance
            }
        }
    }

    fn count(&mut self, reference: &Reference, binding: BindingId) {
        let (uses, writes) = &mut self.counts[binding.0 as usize];
        *(if reference.writes { writes } else { uses }) += 1;
        let outer = [behind_class, of_another_type].map(|find| find(self.collector, reference, binding));
        outer.into_iter().flatten().for_each(|outer| self.counts[outer.0 as usize].0 += 1);
        let mut inner = Some(binding);
        while let Some(outer) = inner.and_then(|inner| of_another_sort(self.collector, reference, inner)) {
            self.counts[outer.0 as usize].0 += 1;
            inner = Some(outer);
        }
    }

    /// What a use means that nothing in the file binds.
    fn without_binding(&mut self, reference: &Reference) -> Resolution {
        let text = self.collector.symbols.text(reference.name);
        if *self.builtin[reference.name.index()].get_or_insert_with(|| (self.is_builtin)(text)) {
            return Resolution::Builtin;
        }
        if self.handled.contains(&reference.name) {
            return Resolution::Unknown(Unknown::Handled);
        }
        match self.collector.excused_names.get(&reference.name) {
            Some(reason) => Resolution::Unknown(*reason),
            None if (self.may_be_brought)(text) => Resolution::Unknown(Unknown::OtherFile),
            None => unresolved(&self.collector.scopes, reference),
        }
    }
}

/// The binding that a use directly in a class sees as long as the class has not bound the name yet.
fn behind_class(collector: &Collector<'_>, reference: &Reference, found: BindingId) -> Option<BindingId> {
    let scope = collector.bindings[found.0 as usize].scope;
    let class = collector.scope(scope);
    let parent = class.parent.filter(|_| class.kind == ScopeKind::Class)?;
    find_from(collector, reference, parent, |_| false).binding
}

/// The binding further out that a use may mean where it may not be of the nearest one, such as a type with another number of parameters.
fn of_another_type(collector: &Collector<'_>, reference: &Reference, found: BindingId) -> Option<BindingId> {
    let scope = collector.bindings[found.0 as usize].scope;
    let parent = collector.scope(scope).parent.filter(|_| reference.is_doubtful)?;
    find_from(collector, reference, parent, |_| false).binding
}

/// The binding further out that a use may mean where types and values have names of their own: a type does not hide a value or a
/// namespace, nor a value a type.
fn of_another_sort(collector: &Collector<'_>, reference: &Reference, found: BindingId) -> Option<BindingId> {
    if collector.symbols.namespace(reference.name) != Namespace::Values {
        return None;
    }
    let binding = &collector.bindings[found.0 as usize];
    let is_type = |declaration: &Declaration| {
        matches!(declaration.kind, DeclarationKind::TypeParameter | DeclarationKind::TypeAlias)
    };
    let parent = collector.scope(binding.scope).parent?;
    let for_type = || {
        let node = collector.tree.node(reference.node);
        node.ancestors().find(|node| node.kind() != Kind::Member).is_some_and(|node| node.kind() == Kind::NamedType)
    };
    let may_mean_another = binding.declarations.iter().all(is_type) || for_type();
    may_mean_another.then(|| find_from(collector, reference, parent, |_| false)).and_then(|found| found.binding)
}

/// The namespaces in which a name is looked for where it means nothing in its own.
fn others(reach: Reach) -> &'static [Namespace] {
    match reach {
        Reach::Scopes | Reach::Members => &[],
        Reach::ValueOrType | Reach::NearestValueOrType => &[Namespace::Types],
        Reach::Anything | Reach::Path | Reach::Scope => &[Namespace::Values, Namespace::Types, Namespace::Macros],
    }
}

/// The binding that a use sees.
#[derive(Debug, Clone, Copy, Default)]
struct Found {
    binding: Option<BindingId>,
    /// Whether it may mean something else, which a type has from another file.
    is_doubtful: bool,
    /// How many scopes it is further out than the use.
    distance: u32,
}

fn find(collector: &Collector<'_>, reference: &Reference, is_builtin: fn(&str) -> bool) -> Found {
    match reference.reach {
        Reach::Members => {}
        Reach::Path | Reach::Scope => {
            let binding = collector.table.get(&(reference.scope, reference.name)).copied();
            return Found { binding, ..Found::default() };
        }
        _ => return find_from(collector, reference, reference.scope, is_builtin),
    }
    match collector.member(reference.scope, reference.name, None) {
        Member::Found { binding, is_sure } => Found { binding: Some(binding), is_doubtful: !is_sure, distance: 0 },
        Member::None => Found::default(),
        Member::Unknown => Found { is_doubtful: true, ..Found::default() },
    }
}

/// In its own scope, then outwards. Names of a class are seen only directly in it, and in the type parameters that are directly in it.
fn find_from(collector: &Collector<'_>, reference: &Reference, from: ScopeId, is_builtin: fn(&str) -> bool) -> Found {
    let mut next = Some(from);
    let mut sees_class = true;
    let mut sees_locals = true;
    let mut is_doubtful = false;
    let mut distance = 0;
    while let Some(scope) = next {
        let scope = collector.elsewhere.get(&(scope, reference.name)).copied().unwrap_or(scope);
        let Scope { kind, parent, sees_locals: sees_beyond, .. } = *collector.scope(scope);
        if kind == ScopeKind::Members {
            match collector.member(scope, reference.name, None) {
                Member::Found { binding, is_sure } => {
                    return Found { binding: Some(binding), is_doubtful: is_doubtful || !is_sure, distance };
                }
                // Every type has the functions that the language gives.
                _ if is_function_of_all(collector, reference.name, is_builtin) => break,
                Member::Unknown => is_doubtful = true,
                Member::None => {}
            }
        } else {
            let seen = kind != ScopeKind::Class || sees_class;
            let is_seen = |binding: &BindingId| {
                let from = collector.bindings[binding.0 as usize].seen_from;
                seen && from <= reference.node && (sees_locals || from == NodeId::ROOT)
            };
            if let Some(binding) = collector.table.get(&(scope, reference.name)).copied().filter(is_seen) {
                return Found { binding: Some(binding), is_doubtful, distance };
            }
        }
        sees_class &= kind == ScopeKind::TypeParameters;
        sees_locals &= sees_beyond;
        next = parent;
        distance += 1;
    }
    Found { binding: None, is_doubtful, distance }
}

fn is_function_of_all(collector: &Collector<'_>, name: Symbol, is_builtin: fn(&str) -> bool) -> bool {
    collector.symbols.namespace(name) == Namespace::Functions && is_builtin(collector.symbols.text(name))
}

/// A name that nothing binds is undefined, unless something around it may bind names without showing.
fn unresolved(scopes: &[Scope], reference: &Reference) -> Resolution {
    let around = std::iter::successors(Some(reference.scope), |id| scopes[id.0 as usize].parent);
    let reason = reference.excuse.or_else(|| around.into_iter().find_map(|id| scopes[id.0 as usize].may_bind));
    reason.map_or(Resolution::Undefined, Resolution::Unknown)
}
