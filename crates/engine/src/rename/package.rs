//! Names of a package that is a folder: its files use them without importing anything, others through the name of the package.

use std::path::Path;

use sieve_meaning::folder_module::FolderForm;
use sieve_meaning::names::{DeclarationKind, Reference, Resolution, ScopeId};
use sieve_meaning::renaming::{Clash, may_become, places};
use sieve_rules::Edit;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::audit::refused;
use super::source::{Sources, View};
use super::{CannotRename, Edits, Renamed};

/// A name of a package, and the one that it is given.
pub(super) struct PackageName<'p, 's> {
    pub(super) sources: &'p Sources,
    pub(super) views: &'p [View<'s>],
    pub(super) home: usize,
    pub(super) old: &'p str,
    pub(super) new: &'p str,
}

impl PackageName<'_, '_> {
    /// Renames it in all other files of its package, and where other packages use it.
    pub(super) fn spread(&self, edits: &mut Edits) -> Renamed<()> {
        self.nothing_else_uses_it()?;
        let mut outside = None;
        let own_path = if self.is_public(self.old) { self.sources.import_path(self.home) } else { None };
        for (index, view) in self.views.iter().enumerate() {
            self.not_embedded(view)?;
            if index == self.home {
                continue;
            }
            if self.is_sibling(view) {
                self.in_sibling(view, &mut edits[index])?;
            } else if self.is_public(self.old) {
                let before = edits[index].len();
                self.in_other_package(view, own_path.as_deref(), &mut edits[index])?;
                outside = outside.or(edits[index].get(before).map(|edit| view.file.place(edit.span)));
            }
        }
        match outside.filter(|_| !self.is_public(self.new)) {
            Some(place) => {
                let message = format!("other packages would not see \"{}\", and use \"{}\"", self.new, self.old);
                Err(CannotRename::Refused(message, vec![place]))
            }
            None => Ok(()),
        }
    }

    fn home(&self) -> &View<'_> {
        &self.views[self.home]
    }

    fn is_public(&self, name: &str) -> bool {
        name.starts_with(char::is_uppercase)
    }

    /// Whether a file is in the same folder and says that it belongs to the same package.
    fn is_sibling(&self, view: &View<'_>) -> bool {
        folder_of(view) == folder_of(self.home()) && package_of(view) == package_of(self.home())
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

    /// A type that is embedded gives a field its name, and fields are not followed.
    fn not_embedded(&self, view: &View<'_>) -> Renamed<()> {
        let fields =
            view.file.tree.nodes().filter(|node| node.kind() == Kind::Field && node.child(Role::Name).is_none());
        for field in fields {
            let of = field
                .child(Role::Type)
                .map(|of| if of.kind() == Kind::PointerType { of.child(Role::Element).unwrap_or(of) } else { of });
            let name = of.and_then(|of| of.child(Role::Name));
            let last =
                name.and_then(|name| if name.kind() == Kind::Member { name.child(Role::Name) } else { Some(name) });
            if let Some(last) = last.filter(|last| view.file.slice(*last) == self.old) {
                return refused("an embedded type gives a field its name".into(), view, last.span());
            }
        }
        Ok(())
    }

    fn in_sibling(&self, view: &View<'_>, edits: &mut Vec<Edit>) -> Renamed<()> {
        let names = &view.names;
        if let Some(taken) = names.lookup(ScopeId::FILE, self.new) {
            let first = places(&view.file.tree, names, taken).first().map(|place| place.span);
            return refused(
                format!("\"{}\" is taken in the package", self.new),
                view,
                first.unwrap_or(Span::new(0, 0)),
            );
        }
        // Files for other systems declare it too.
        if let Some(id) = names.lookup(ScopeId::FILE, self.old) {
            let is_import = names.binding(id).declarations.iter().any(|one| one.kind == DeclarationKind::Import);
            let span = places(&view.file.tree, names, id).first().map_or(Span::new(0, 0), |place| place.span);
            if is_import {
                return refused(format!("\"{}\" is the name of an import here", self.old), view, span);
            }
            may_become(names, id, self.new).map_err(|clash| {
                let span = if let Clash::Hides(used) = clash { used } else { span };
                CannotRename::Refused(
                    format!("\"{}\" is taken where \"{}\" is used", self.new, self.old),
                    vec![view.file.place(span)],
                )
            })?;
            edits.extend(
                places(&view.file.tree, names, id).into_iter().map(|place| Edit::replace(place.span, self.new)),
            );
            return Ok(());
        }
        for reference in names.references().filter(|reference| !matches!(reference.resolution, Resolution::Binding(_)))
        {
            let name = names.text(reference.name);
            if name == self.new {
                return refused(
                    format!("\"{name}\" refers to something else where \"{}\" is seen", self.old),
                    view,
                    reference.span,
                );
            }
            if name == self.old {
                self.check_use(view, reference)?;
                edits.push(Edit::replace(reference.span, self.new));
            }
        }
        Ok(())
    }

    /// Whether a use in a file that does not declare the name stays one of it.
    fn check_use(&self, view: &View<'_>, reference: &Reference) -> Renamed<()> {
        if reference.is_doubtful {
            return refused(format!("\"{}\" may be the name of a field here", self.old), view, reference.span);
        }
        let mut scopes = std::iter::successors(Some(reference.scope), |scope| view.names.scope(*scope).parent);
        match scopes.find_map(|scope| view.names.lookup(scope, self.new)) {
            Some(_) => {
                refused(format!("\"{}\" is taken where \"{}\" is used", self.new, self.old), view, reference.span)
            }
            None => Ok(()),
        }
    }

    /// `quay.Depth` in a file that imports the package.
    fn in_other_package(&self, view: &View<'_>, own_path: Option<&str>, edits: &mut Vec<Edit>) -> Renamed<()> {
        let imports = view.file.tree.root().children().filter(|node| node.kind() == Kind::Import);
        for item in imports.flat_map(|import| import.children_in(Role::Item)) {
            let path = item.child(Role::Module).map_or("", |path| view.file.slice(path).trim_matches(['"', '`']));
            let Some(folder) = folder_of(self.home()).rsplit('/').next().filter(|folder| path.ends_with(folder)) else {
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
        let members = view.file.tree.nodes().filter(|node| node.kind() == Kind::Member);
        let used = members.filter_map(|member| {
            let object = member.child(Role::Object).filter(|object| object.kind() == Kind::Name)?;
            member.child(Role::Name).filter(|name| is_package(object) && view.file.slice(*name) == self.old)
        });
        used.map(|name| Edit::replace(name.span(), self.new)).collect()
    }
}

/// The folder of a file, from the root of the project.
fn folder_of<'v>(view: &'v View<'_>) -> &'v str {
    Path::new(&view.file.module).parent().and_then(Path::to_str).unwrap_or_default()
}

/// The package that a file says it belongs to.
fn package_of<'v>(view: &'v View<'_>) -> Option<&'v str> {
    let clause = view.file.tree.root().children().find(|node| node.kind() == Kind::PackageClause)?;
    clause.child(Role::Name).map(|name| view.file.slice(name))
}
