//! Joins uses to bindings, by the rules of visibility that scopes of each sort have.

use super::{BindingId, Collector, Names, Reference, Resolution, Scope, ScopeSort};

pub(super) fn resolve(mut collector: Collector<'_>, is_builtin: fn(&str) -> bool) -> Names<'_> {
    let mut references = std::mem::take(&mut collector.references);
    // A list of exports is met before its strings are: bring its uses to their places.
    references.sort_by_key(|reference| reference.node);
    let mut uses = vec![0u32; collector.bindings.len()];
    for reference in &mut references {
        reference.resolution = match find(&collector, reference) {
            Some(binding) => {
                uses[binding.0 as usize] += 1;
                Resolution::Binding(binding)
            }
            None if is_builtin(collector.symbols.text(reference.name)) => Resolution::Builtin,
            None => unresolved(&collector.scopes, reference),
        };
    }
    let mut bindings = collector.bindings;
    for (binding, uses) in bindings.iter_mut().zip(uses) {
        binding.uses = uses;
    }
    Names {
        scopes: collector.scopes,
        bindings,
        references,
        table: collector.table,
        symbols: collector.symbols,
        exports: collector.exports,
    }
}

/// The binding that a use sees: in its own scope, then outwards. Names of a class are seen only directly in it, and in
/// the type parameters that stand directly in it.
fn find(collector: &Collector<'_>, reference: &Reference) -> Option<BindingId> {
    let mut scope = reference.scope;
    let mut sees_class = true;
    loop {
        scope = collector.elsewhere.get(&(scope, reference.name)).copied().unwrap_or(scope);
        let Scope { sort, parent, .. } = *collector.scope(scope);
        let seen = sort != ScopeSort::Class || sees_class;
        if let Some(binding) = collector.table.get(&(scope, reference.name)).filter(|_| seen) {
            return Some(*binding);
        }
        sees_class &= sort == ScopeSort::TypeParameters;
        scope = parent?;
    }
}

/// A name that nothing binds is undefined, unless something around it may bind names without showing.
fn unresolved(scopes: &[Scope], reference: &Reference) -> Resolution {
    let around = std::iter::successors(Some(reference.scope), |id| scopes[id.0 as usize].parent);
    let reason = reference.excuse.or_else(|| around.into_iter().find_map(|id| scopes[id.0 as usize].may_bind));
    reason.map_or(Resolution::Undefined, Resolution::Unknown)
}
