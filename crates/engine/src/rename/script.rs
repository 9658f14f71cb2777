//! Names of scripts that are no modules: all scripts of a page share them.

use std::collections::BTreeSet;

use sieve_meaning::names::{BindingId, ScopeId};
use sieve_syntax::text::Span;
use sieve_syntax::tree::Kind;

use super::audit::refused;
use super::source::View;
use super::undeclared;
use super::{Edits, Renamed};

/// Where a name is declared that nothing in a script does: in another script of a page that it is in, if that is one alone.
pub(super) fn origin(views: &[View<'_>], home: usize, name: &str) -> Option<(usize, BindingId)> {
    let together = together_with(views, home);
    let is_beside = |view: &View<'_>| together.contains(view.file.module.as_str()) && !is_module(view);
    let others = views.iter().enumerate().filter(|(_, view)| is_beside(view));
    let mut declared = others.filter_map(|(index, view)| Some((index, view.names.lookup(ScopeId::FILE, name)?)));
    declared.next().filter(|_| declared.next().is_none())
}

/// Renames a name of a whole script in the other scripts of the pages that it is in, or that load it.
///
/// # Errors
/// When a script of a page uses such a name, and it is not known whether it is this one.
pub(super) fn spread(views: &[View<'_>], home: usize, (old, new): (&str, &str), edits: &mut Edits) -> Renamed<()> {
    if is_module(&views[home]) {
        return Ok(());
    }
    let together = together_with(views, home);
    for (index, view) in views.iter().enumerate().filter(|(index, _)| *index != home) {
        if together.contains(view.file.module.as_str()) {
            edits[index].extend(undeclared::uses(view, old, new, |_| true)?);
        } else if let Some(use_) = open_use(view, old).filter(|_| view.file.page.is_some()) {
            return refused(format!("it is not known whose name \"{old}\" is in this page"), view, use_);
        }
    }
    Ok(())
}

/// Whether a script has names of its own, which only what it exports shows to others.
fn is_module(view: &View<'_>) -> bool {
    view.file.tree.root().children().any(|statement| matches!(statement.kind(), Kind::Import | Kind::Export))
}

/// The pages that a script is in, or that load it, and all scripts that these load.
fn together_with<'v>(views: &'v [View<'_>], home: usize) -> BTreeSet<&'v str> {
    let own = &views[home].file;
    let pages = views.iter().filter_map(|view| Some((view, view.file.page.as_ref()?)));
    let of_own = pages.filter(|(view, page)| view.file.path == own.path || page.loads.contains(&own.module));
    let all = of_own.flat_map(|(view, page)| page.loads.iter().chain([&view.file.module]));
    all.map(String::as_str).collect()
}

/// Where a script uses a name that nothing in it declares.
fn open_use(view: &View<'_>, name: &str) -> Option<Span> {
    undeclared::open(view).find(|one| view.names.text(one.name) == name).map(|one| one.span)
}
