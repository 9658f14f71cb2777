//! The files of a module that is called otherwise: a module without braces is in a file of its name ("Module Source Filenames", The Rust
//! Reference), and those in it are in a folder of that name.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

use sieve_meaning::names::BindingId;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::lookup::{Lookup, declared};
use super::modules::{Module, Modules, written_path};
use super::target::Target;
use super::uses::modules_around;
use crate::rename::audit::refused;
use crate::rename::source::{Sources, View};
use crate::rename::{CannotRename, Renamed};
use crate::workspace::walk::{Hidden, walk};

/// The files that get other names with what a binding is: from where to where. None where it is no module.
pub(in crate::rename) fn moves(
    sources: &Sources,
    views: &[View<'_>],
    (home, id): (usize, BindingId),
    (old, new): (&str, &str),
) -> Renamed<Vec<(PathBuf, PathBuf)>> {
    let is_module = declared(&views[home], id).any(|name| name.parent().is_some_and(|of| of.kind() == Kind::Namespace));
    if !is_module {
        return Ok(Vec::new());
    }
    let modules = modules_around(sources, views, home);
    let lookup = Lookup::new(views, &modules);
    let Some(Target::Modules(found)) = Target::of(&lookup, home, id, old) else { return Ok(Vec::new()) };
    let moving = Moving { sources, views, modules: &modules, old, new };
    let mut moves = Vec::new();
    for module in found {
        moving.add(module, &mut moves)?;
    }
    moves.sort();
    moves.dedup();
    Ok(moves)
}

struct Moving<'m, 's> {
    sources: &'m Sources,
    views: &'m [View<'s>],
    modules: &'m Modules,
    old: &'m str,
    new: &'m str,
}

impl Moving<'_, '_> {
    /// Adds the files of a module, if they are found by its name.
    fn add(&self, module: usize, moves: &mut Vec<(PathBuf, PathBuf)>) -> Renamed<()> {
        let Module { file, outer, declaration, .. } = self.modules.all[module];
        let (Some(outer), Some(declaration)) = (outer, declaration) else { return Ok(()) };
        let around = &self.views[self.modules.all[outer].file];
        let declaration = around.file.tree.node(declaration);
        if declaration.child(Role::Body).is_some() {
            return match self.files_in(module).into_iter().find(|inner| *inner != file) {
                Some(_) => refused(
                    format!("a folder has the name \"{}\", with modules within its braces", self.old),
                    around,
                    declaration.span(),
                ),
                None => Ok(()),
            };
        }
        if written_path(around, declaration).is_some() {
            return Ok(());
        }
        let path = self.views[file].file.path.clone();
        let is_folder = path.file_name().is_some_and(|name| name == "mod.rs");
        let folder = if is_folder { path.with_file_name("") } else { path.with_extension("") };
        let renamed = folder.with_file_name(self.new.trim_start_matches("r#"));
        self.is_free(&renamed)?;
        self.nothing_names_it(file)?;
        if !is_folder {
            moves.push((path, renamed.with_extension("rs")));
        }
        self.add_folder(module, &folder, &renamed, moves)
    }

    /// The files of a module and of those in it.
    fn files_in(&self, module: usize) -> BTreeSet<usize> {
        let mut found = BTreeSet::new();
        let mut waiting = vec![module];
        while let Some(one) = waiting.pop() {
            found.insert(self.modules.all[one].file);
            waiting.extend(self.modules.all[one].children.iter().map(|(_, child)| *child));
        }
        found
    }

    /// Adds what is in the folder of a module, which has to be all its own.
    fn add_folder(
        &self,
        module: usize,
        folder: &Path,
        renamed: &Path,
        moves: &mut Vec<(PathBuf, PathBuf)>,
    ) -> Renamed<()> {
        let own: BTreeSet<&Path> =
            self.files_in(module).into_iter().map(|file| self.views[file].file.path.as_path()).collect();
        let project = self.sources.project();
        for path in walk(&*project.files, &project.root, folder, Hidden::VisitIgnored).files {
            if !own.contains(path.as_path()) {
                let message = format!("a file is in the folder of \"{}\" and no part of it", self.old);
                return Err(CannotRename::Refused(message, vec![project.shown(&path)]));
            }
            let Ok(inner) = path.strip_prefix(folder) else { continue };
            moves.push((path.clone(), renamed.join(inner)));
        }
        Ok(())
    }

    fn is_free(&self, renamed: &Path) -> Renamed<()> {
        let file = renamed.with_extension("rs");
        match [renamed, &file].into_iter().find(|path| path.exists()) {
            None => Ok(()),
            Some(path) => {
                let message = format!("there is \"{}\" already", self.sources.project().shown(path));
                Err(CannotRename::Refused(message, Vec::new()))
            }
        }
    }

    /// Refuses where an attribute or a macro reads a file by a path that may be that of the module.
    fn nothing_names_it(&self, file: usize) -> Renamed<()> {
        let package = self.sources.package_folder(file);
        let others = self.views.iter().enumerate().filter(|(other, _)| self.sources.package_folder(*other) == package);
        for (_, view) in others {
            let named = view.significant_tokens().into_iter().find(|(kind, span)| {
                *kind == TokenKind::String && self.is_path_of_it(view.file.text.slice(*span)) && {
                    let mut around = view.file.tree.covering(*span).ancestors().take(3);
                    around.any(|one| reads_file(view, one))
                }
            });
            if let Some((_, span)) = named {
                return refused(format!("this may be the path of \"{}\"", self.old), view, span);
            }
        }
        Ok(())
    }

    fn is_path_of_it(&self, text: &str) -> bool {
        let mut parts = text.trim_matches('"').split('/');
        parts.any(|part| part.strip_suffix(".rs").unwrap_or(part) == self.old)
    }
}

/// Whether a node is an attribute, or the call of a macro that reads a file.
fn reads_file(view: &View<'_>, node: NodeRef<'_>) -> bool {
    let is_reader = |called: NodeRef<'_>| view.file.slice(called).starts_with("include");
    node.kind() == Kind::Decorator || node.child_of(Kind::MacroCall, Role::Callee).is_some_and(is_reader)
}
