//! Names of scripts that are no modules: all scripts of a page share them.

use std::collections::BTreeSet;

use sieve_meaning::names::{BindingId, Resolution, ScopeId};
use sieve_syntax::tree::Kind;

use super::audit::refused;
use super::source::View;
use super::undeclared;
use super::{Edits, Renamed};

/// Where a name is declared that nothing in a script does: in another script of a page that it is in, if that is one alone.
pub(super) fn origin(views: &[View<'_>], home: usize, name: &str) -> Option<(usize, BindingId)> {
    let pages = pages_of(views, home);
    let is_together =
        |view: &View<'_>| pages.contains(&*view.file.module) || pages.iter().any(|page| loads(views, page, view));
    let others = views.iter().enumerate().filter(|(_, view)| is_together(view) && !is_module(view));
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
    let pages: BTreeSet<&str> = pages_of(views, home);
    for (index, view) in views.iter().enumerate().filter(|(index, _)| *index != home) {
        let is_together = pages.contains(&*view.file.module) || pages.iter().any(|page| loads(views, page, view));
        if is_together {
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

/// The pages that a script is in, or that load it.
fn pages_of<'v>(views: &'v [View<'_>], home: usize) -> BTreeSet<&'v str> {
    let own = &views[home].file;
    let is_of = |view: &&View<'_>| {
        let page = view.file.page.as_ref();
        page.is_some_and(|page| view.file.path == own.path || page.loads.contains(&own.module))
    };
    views.iter().filter(is_of).map(|view| view.file.module.as_str()).collect()
}

fn loads(views: &[View<'_>], page: &str, script: &View<'_>) -> bool {
    let mut own = views.iter().filter(|view| view.file.module == page).filter_map(|view| view.file.page.as_ref());
    own.any(|page| page.loads.contains(&script.file.module))
}

/// Where a script uses a name that nothing in it declares.
fn open_use(view: &View<'_>, name: &str) -> Option<sieve_syntax::text::Span> {
    let mut open = view.names.references().filter(|one| !matches!(one.resolution, Resolution::Binding(_)));
    open.find(|one| view.names.text(one.name) == name).map(|one| one.span)
}
