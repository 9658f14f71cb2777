//! Names of a package that is a folder: its files use them without importing anything, others through the name of the package.

use sieve_meaning::folder_module::FolderForm;
use sieve_meaning::names::{BindingId, Resolution, ScopeId};
use sieve_meaning::renaming::places;
use sieve_rules::Edit;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::audit::refused;
use super::source::{Sources, View};
use super::structural;
use super::undeclared;
use super::{CannotRename, Edits, Renamed};

/// A name of a package, and the one that it is given.
pub(super) struct PackageName<'p, 's> {
    pub(super) sources: &'p Sources,
    pub(super) views: &'p [View<'s>],
    pub(super) home: usize,
    pub(super) id: BindingId,
    pub(super) old: &'p str,
    pub(super) new: &'p str,
}

impl PackageName<'_, '_> {
    /// Renames it in all other files of its package, and where other packages use it.
    pub(super) fn spread(&self, edits: &mut Edits) -> Renamed<()> {
        self.nothing_else_uses_it()?;
        structural::embedded_fields(self.sources, self.views, (self.home, self.id), (self.old, self.new), edits)?;
        let mut outside = None;
        let own_path = if is_public(self.old) { self.sources.import_path(self.home) } else { None };
        for (index, view) in self.views.iter().enumerate() {
            if index == self.home {
                continue;
            }
            if self.is_sibling(view) {
                self.in_sibling(view, &mut edits[index])?;
            } else if is_public(self.old) {
                let before = edits[index].len();
                self.in_other_package(view, own_path.as_deref(), &mut edits[index])?;
                outside = outside.or(edits[index].get(before).map(|edit| view.file.place(edit.span)));
            }
        }
        match outside.filter(|_| !is_public(self.new)) {
            Some(place) => Err(CannotRename::Refused(would_be_hidden(self.old, self.new), vec![place])),
            None => Ok(()),
        }
    }

    fn home(&self) -> &View<'_> {
        &self.views[self.home]
    }

    /// Whether a file is in the same folder and says that it belongs to the same package.
    fn is_sibling(&self, view: &View<'_>) -> bool {
        view.file.folder() == self.home().file.folder() && package_of(view) == package_of(self.home())
    }

    /// What comments for a compiler or files of an assembler do with a name is not followed.
    fn nothing_else_uses_it(&self) -> Renamed<()> {
        let form = FolderForm::of(self.home().file.language);
        if let Some(other) = form.and_then(|form| self.sources.beside(self.home, |name| form.may_have(name))) {
            let message = format!("\"{}\" may be used in {other}, which is not read", self.old);
            return Err(CannotRename::Refused(message, Vec::new()));
        }
        for view in self.views.iter().filter(|view| self.is_sibling(view)) {
            if let Some(span) = form.and_then(|form| form.directive_with(view.file.text.source(), self.old)) {
                return refused(format!("a comment for the compiler mentions \"{}\"", self.old), view, span);
            }
        }
        Ok(())
    }

    fn in_sibling(&self, view: &View<'_>, edits: &mut Vec<Edit>) -> Renamed<()> {
        let names = &view.names;
        if let Some(taken) = names.lookup(ScopeId::FILE, self.new) {
            return refused(format!("\"{}\" is taken in the package", self.new), view, view.first_place(taken));
        }
        // Files for other systems declare it too.
        let Some(id) = names.lookup(ScopeId::FILE, self.old) else {
            edits.extend(undeclared::uses(view, self.old, self.new, |_| true)?);
            return Ok(());
        };
        let span = view.first_place(id);
        if view.is_import(id) {
            return refused(format!("\"{}\" is the name of an import here", self.old), view, span);
        }
        undeclared::may_become_here(view, id, self.old, self.new, span)?;
        edits.extend(places(&view.file.tree, names, id).into_iter().map(|place| Edit::replace(place.span, self.new)));
        Ok(())
    }

    /// `quay.Depth` in a file that imports the package.
    fn in_other_package(&self, view: &View<'_>, own_path: Option<&str>, edits: &mut Vec<Edit>) -> Renamed<()> {
        for item in view.import_items() {
            let path = item.child(Role::Module).map_or("", |path| view.file.slice(path).trim_matches(['"', '`']));
            let Some(folder) = self.home().file.folder().rsplit('/').next().filter(|folder| path.ends_with(folder))
            else {
                continue;
            };
            match own_path {
                Some(own) if own != path => continue,
                Some(_) => {}
                None => {
                    let message = format!(
                        "it is not known whether {path} is the package in {folder}: no go.mod says what it is called"
                    );
                    return refused(message, view, item.span());
                }
            }
            let alias = item.child(Role::Alias);
            if alias.is_some_and(|alias| alias.kind() == Kind::ImportAll) {
                return refused(
                    "everything of the package is imported here without its name".into(),
                    view,
                    item.span(),
                );
            }
            let name = alias.map_or(package_of(self.home()), |alias| Some(view.file.slice(alias)));
            if let Some(name) = name {
                edits.extend(self.through(view, name, item));
            }
        }
        Ok(())
    }

    /// The uses through the name of the package, where that is not the name of something else.
    fn through(&self, view: &View<'_>, package: &str, item: NodeRef<'_>) -> Vec<Edit> {
        let import = view.names.declared_at(item.id());
        let is_package = |object: NodeRef<'_>| {
            view.file.slice(object) == package
                && match view.names.resolution_at(object.id()) {
                    Some(Resolution::Binding(id)) => Some(id) == import,
                    _ => true,
                }
        };
        let members = view.file.tree.nodes_of(Kind::Member);
        let used = members.filter_map(|member| {
            let object = member.child(Role::Object).filter(|object| object.kind() == Kind::Name)?;
            member.child(Role::Name).filter(|name| is_package(object) && view.file.slice(*name) == self.old)
        });
        used.map(|name| Edit::replace(name.span(), self.new)).collect()
    }
}

/// Whether other packages see a name.
pub(super) fn is_public(name: &str) -> bool {
    name.starts_with(char::is_uppercase)
}

/// What is said where other packages use a name that they would not see.
pub(super) fn would_be_hidden(old: &str, new: &str) -> String {
    format!("other packages would not see \"{new}\", and use \"{old}\"")
}

/// The package that a file says it belongs to.
fn package_of<'v>(view: &'v View<'_>) -> Option<&'v str> {
    view.package().map(|name| view.file.slice(name))
}
