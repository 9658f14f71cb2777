//! Uses of a name that other files of the package declare.

use sieve_meaning::names::{BindingId, Namespace, Reference, Resolution, ScopeId};
use sieve_meaning::renaming::{Clash, may_become};
use sieve_rules::Edit;
use sieve_syntax::text::Span;

use super::Renamed;
use super::audit::refused;
use super::source::View;

/// What is said where the new name is bound.
pub(super) fn is_taken(old: &str, new: &str) -> String {
    format!("\"{new}\" is taken where \"{old}\" is used")
}

/// What is said where the new name is used for something from further out.
pub(super) fn means_another(old: &str, new: &str) -> String {
    format!("\"{new}\" refers to something else where \"{old}\" is seen")
}

/// Refuses where a binding of another file than that of the renamed one cannot be called otherwise.
pub(super) fn may_become_here(view: &View<'_>, id: BindingId, old: &str, new: &str, span: Span) -> Renamed<()> {
    may_become(&view.names, id, new).or_else(|clash| {
        let span = if let Clash::Hides(used) = clash { used } else { span };
        refused(is_taken(old, new), view, span)
    })
}

/// The uses of names that nothing in the file declares.
pub(super) fn open<'v>(view: &'v View<'_>) -> impl Iterator<Item = &'v Reference> {
    view.names.references().filter(|one| !matches!(one.resolution, Resolution::Binding(_)))
}

/// Renames the uses of a name that nothing in the file declares, of those that may mean what is renamed.
pub(super) fn uses(view: &View<'_>, old: &str, new: &str, may_mean: impl Fn(&Reference) -> bool) -> Renamed<Vec<Edit>> {
    let mut found = Vec::new();
    for reference in open(view).filter(|one| may_mean(one)) {
        let name = view.names.text(reference.name);
        if name == new {
            return refused(means_another(old, new), view, reference.span);
        }
        if name != old {
            continue;
        }
        if reference.is_doubtful {
            return refused(format!("\"{old}\" may be the name of a field here"), view, reference.span);
        }
        if is_bound_around(view, reference, new) {
            return refused(is_taken(old, new), view, reference.span);
        }
        found.push(Edit::replace(reference.span, new));
    }
    Ok(found)
}

/// Whether a name means something where another one is used.
pub(super) fn is_bound_around(view: &View<'_>, reference: &Reference, name: &str) -> bool {
    let scopes = std::iter::successors(Some(reference.scope), |scope| view.names.scope(*scope).parent);
    let is_bound = |scope: ScopeId| {
        [Namespace::Types, Namespace::Values].iter().any(|one| view.names.lookup_in(*one, scope, name).is_some())
    };
    scopes.into_iter().any(is_bound)
}
