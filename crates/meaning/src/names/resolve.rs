//! Joins uses to bindings, by the rules of visibility that scopes of each sort have.

use rustc_hash::FxHashSet;

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
    let handled: FxHashSet<Symbol> = references
        .iter()
        .filter(|reference| reference.excuse == Some(Unknown::Handled))
        .map(|reference| reference.name)
        .collect();
    // Asked once for each name, however often it is used.
    let mut builtin: Vec<Option<bool>> = vec![None; collector.symbols.count()];
    let mut uses = vec![0u32; collector.bindings.len()];
    let mut writes = uses.clone();
    // Most names that would be looked for in vain, such as builtins, are bound nowhere at all.
    let mut is_bound = vec![false; collector.symbols.count()];
    collector.table.keys().for_each(|(_, name)| is_bound[name.index()] = true);
    // What the use before means, where a path goes on.
    let mut before: Option<BindingId> = None;
    for reference in &mut references {
        if reference.reach == Reach::Path {
            match before.and_then(|before| collector.inside(before)) {
                Some(scope) => reference.scope = scope,
                None => {
                    (reference.resolution, before) = (Resolution::Unknown(Unknown::OtherFile), None);
                    continue;
                }
            }
        }
        let mut found = Found::default();
        if is_bound[reference.name.index()] {
            found = find(&collector, reference, is_builtin);
        }
        for namespace in others(reference.reach) {
            if found.binding.is_some() {
                break;
            }
            let text = collector.symbols.text(reference.name);
            let Some(name) = collector.symbols.find(text, *namespace) else { continue };
            found = find(&collector, &Reference { name, ..*reference }, is_builtin);
            reference.name = if found.binding.is_some() { name } else { reference.name };
        }
        before = found.binding;
        reference.is_doubtful |= found.is_doubtful && found.binding.is_some();
        if found.is_doubtful {
            collector.members.accessed.insert(reference.name);
        }
        let found = found.binding;
        reference.resolution = match found {
            Some(binding) => {
                uses[binding.0 as usize] += u32::from(!reference.writes);
                writes[binding.0 as usize] += u32::from(reference.writes);
                if let Some(outer) = behind_class(&collector, reference, binding) {
                    uses[outer.0 as usize] += 1;
                }
                let mut inner = Some(binding);
                while let Some(outer) = inner.and_then(|inner| of_another_sort(&collector, reference, inner)) {
                    uses[outer.0 as usize] += 1;
                    inner = Some(outer);
                }
                Resolution::Binding(binding)
            }
            None if *builtin[reference.name.index()]
                .get_or_insert_with(|| is_builtin(collector.symbols.text(reference.name))) =>
            {
                Resolution::Builtin
            }
            // What may be missing in one place of the file is handled in the others too, in ways that take flow to see.
            None if handled.contains(&reference.name) => Resolution::Unknown(Unknown::Handled),
            None => match collector.excused_names.get(&reference.name) {
                Some(reason) => Resolution::Unknown(*reason),
                None if may_be_brought(collector.symbols.text(reference.name)) => {
                    Resolution::Unknown(Unknown::OtherFile)
                }
                None => unresolved(&collector.scopes, reference),
            },
        };
    }
    let of_members = collector.member_uses(&references);
    if !of_members.is_empty() {
        for reference in &of_members {
            if let Resolution::Binding(id) = reference.resolution {
                uses[id.0 as usize] += 1;
            }
        }
        references.extend(of_members);
        references.sort_by_key(|reference| reference.node);
    }
    let mut bindings = collector.bindings;
    for (binding, (uses, writes)) in bindings.iter_mut().zip(uses.into_iter().zip(writes)) {
        (binding.uses, binding.writes) = (uses, writes);
    }
    let scopes = collector.scopes.iter().enumerate().filter(|(_, scope)| scope.kind == ScopeKind::Members);
    let with_members = scopes.map(|(index, scope)| (scope.node, ScopeId(index as u32))).collect();
    Names {
        scopes: collector.scopes,
        bindings,
        references,
        table: collector.table,
        symbols: collector.symbols,
        exports: collector.exports,
        accessed: collector.members.accessed,
        expanded: collector.expanded,
        members: with_members,
    }
}

/// The binding that a use directly in a class sees as long as the class has not bound the name yet.
fn behind_class(collector: &Collector<'_>, reference: &Reference, found: BindingId) -> Option<BindingId> {
    let scope = collector.bindings[found.0 as usize].scope;
    let class = collector.scope(scope);
    let parent = class.parent.filter(|_| class.kind == ScopeKind::Class)?;
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
        Reach::ValueOrType => &[Namespace::Types],
        Reach::Anything | Reach::Path | Reach::Scope => &[Namespace::Values, Namespace::Types, Namespace::Macros],
    }
}

/// The binding that a use sees.
#[derive(Debug, Clone, Copy, Default)]
struct Found {
    binding: Option<BindingId>,
    /// Whether it may mean something else, which a type has from another file.
    is_doubtful: bool,
}

fn find(collector: &Collector<'_>, reference: &Reference, is_builtin: fn(&str) -> bool) -> Found {
    match reference.reach {
        Reach::Members => {}
        Reach::Path | Reach::Scope => {
            let binding = collector.table.get(&(reference.scope, reference.name)).copied();
            return Found { binding, is_doubtful: false };
        }
        _ => return find_from(collector, reference, reference.scope, is_builtin),
    }
    match collector.member(reference.scope, reference.name) {
        Member::Found { binding, is_sure } => Found { binding: Some(binding), is_doubtful: !is_sure },
        Member::None => Found::default(),
        Member::Unknown => Found { binding: None, is_doubtful: true },
    }
}

/// In its own scope, then outwards. Names of a class are seen only directly in it, and in the type parameters that are directly in it.
fn find_from(collector: &Collector<'_>, reference: &Reference, from: ScopeId, is_builtin: fn(&str) -> bool) -> Found {
    let mut next = Some(from);
    let mut sees_class = true;
    let mut sees_locals = true;
    let mut is_doubtful = false;
    while let Some(scope) = next {
        let scope = collector.elsewhere.get(&(scope, reference.name)).copied().unwrap_or(scope);
        let Scope { kind, parent, sees_locals: sees_beyond, .. } = *collector.scope(scope);
        if kind == ScopeKind::Members {
            match collector.member(scope, reference.name) {
                Member::Found { binding, is_sure } => {
                    return Found { binding: Some(binding), is_doubtful: is_doubtful || !is_sure };
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
                return Found { binding: Some(binding), is_doubtful };
            }
        }
        sees_class &= kind == ScopeKind::TypeParameters;
        sees_locals &= sees_beyond;
        next = parent;
    }
    Found { binding: None, is_doubtful }
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
