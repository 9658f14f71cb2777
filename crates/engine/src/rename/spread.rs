//! From a binding to every file that uses it: imports, modules, and what is re-exported.

use std::collections::{BTreeSet, VecDeque};

use sieve_meaning::folder_module::FolderForm;
use sieve_meaning::names::{BindingId, Resolution, ScopeId, Unknown};
use sieve_meaning::renaming::{Clash, Form, may_become, places};
use sieve_rules::{Edit, traits_of};
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::audit::{Audit, LOOK_UP, is_of_file, put_together};
use super::crates;
use super::import::{module_named, modules_of, name_of, origin};
use super::namespaced;
use super::package::PackageName;
use super::packaged::{self, TypeName};
use super::script;
use super::source::{Sources, View};
use super::traits::rename_traits_of;
use super::undeclared::{is_taken, means_another};
use super::{CannotRename, Edits, RenameRequest, Renamed, is_parameter, parameter};

/// Renames a binding with all of its uses.
pub(super) fn binding(
    sources: &Sources,
    views: &[View<'_>],
    (home, id): (usize, BindingId),
    asked: &RenameRequest<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    let new = asked.new;
    let old = name_of(&views[home], id);
    let mut spreading = UsePropagation {
        sources,
        views,
        home: (home, id),
        old: &old,
        new,
        edits,
        // Only names of a whole file can be reached through an object.
        looked_up: if is_of_file(&views[home], id) { by_text(views, &old, true) } else { None },
        done: BTreeSet::new(),
        waiting: VecDeque::new(),
    };
    spreading.rename(home, id)?;
    if is_parameter(&views[home], id) {
        parameter::documented((home, id), views, &old, new, spreading.edits);
        if rename_traits_of(views[home].file.language).opens_namespaces {
            namespaced::parameter(views, (home, id), &old, new, spreading.edits)?;
        } else if traits_of(views[home].file.language).arguments_by_name {
            parameter::keywords(sources, views, (home, id), &old, new, spreading.edits)?;
        }
    }
    while let Some(file) = spreading.waiting.pop_front() {
        for other in 0..views.len() {
            spreading.follow(other, file)?;
        }
        spreading.stub_of(file)?;
    }
    let modules: BTreeSet<usize> = spreading.done.iter().map(|(file, _)| *file).collect();
    by_other_ways(sources, views, (home, id), (&old, asked), &modules, edits)
}

/// Renames what uses the name in a way of the language that no import shows, and refuses where that cannot be known.
fn by_other_ways(
    sources: &Sources,
    views: &[View<'_>],
    (home, id): (usize, BindingId),
    (old, asked): (&str, &RenameRequest<'_>),
    modules: &BTreeSet<usize>,
    edits: &mut Edits,
) -> Renamed<()> {
    let new = asked.new;
    let traits = rename_traits_of(views[home].file.language);
    if traits.has_unfollowed_paths {
        return crates::spread(sources, views, (home, id), old, asked, edits);
    }
    if traits.opens_namespaces {
        namespaced::not_in_other_part(views, home, id)?;
        if namespaced::is_type(&views[home], id) {
            TypeName { views, home: (home, id), old, new }.spread_in_namespaces(edits)?;
        }
        return Ok(());
    }
    if traits.names_package {
        if packaged::is_type(&views[home], id) {
            TypeName { views, home: (home, id), old, new }.spread(edits)?;
        }
        return Ok(());
    }
    if FolderForm::of(views[home].file.language).is_some() {
        let binding = views[home].names.binding(id);
        // What an import is called is seen in its file alone.
        if binding.scope == ScopeId::FILE && !views[home].is_import(id) {
            PackageName { sources, views, home, id, old, new }.spread(edits)?;
        }
        return Ok(());
    }
    if is_of_file(&views[home], id) {
        put_together(views, old)?;
        Audit { sources, views, modules, old }.check(home, id)?;
        if traits.is_in_pages {
            script::spread(views, home, (old, new), edits)?;
        }
    }
    Ok(())
}

struct UsePropagation<'p, 's> {
    sources: &'p Sources,
    views: &'p [View<'s>],
    /// Where the name is made.
    home: (usize, BindingId),
    old: &'p str,
    new: &'p str,
    edits: &'p mut Edits,
    /// Where the name is looked up by name in a string.
    looked_up: Option<(usize, Span)>,
    /// The bindings and the re-export that were renamed.
    done: BTreeSet<(usize, Option<BindingId>)>,
    /// Files whose name of the whole file changed, which others may import.
    waiting: VecDeque<usize>,
}

impl UsePropagation<'_, '_> {
    fn rename(&mut self, file: usize, id: BindingId) -> Renamed<()> {
        if !self.done.insert((file, Some(id))) {
            return Ok(());
        }
        let view = &self.views[file];
        may_become(&view.names, id, self.new).map_err(|clash| self.clash(file, id, clash))?;
        self.no_access_by_text(file)?;
        for place in places(&view.file.tree, &view.names, id) {
            if place.form != Form::KeyBefore && view.file.text.slice(place.span) != self.old {
                let message = format!("\"{}\" is the first part of a longer name here", self.old);
                return Err(CannotRename::Refused(message, vec![view.file.place(place.span)]));
            }
            let text = match place.form {
                Form::Plain | Form::Exported => self.new.to_string(),
                Form::Key => format!("{}: {}", self.old, self.new),
                Form::KeyBefore => format!("{}: ", self.old),
                Form::Imported if self.brings_renamed(file, place.span) => self.new.to_string(),
                Form::Imported => format!("{} as {}", self.old, self.new),
                Form::Brought => format!("{} as {}", self.new, self.old),
            };
            self.edits[file].push(Edit::replace(place.span, text));
        }
        if view.names.binding(id).scope == ScopeId::FILE && is_seen(view, self.old, id) {
            self.waiting.push_back(file);
        }
        Ok(())
    }

    /// The stub beside a module declares what the module makes.
    fn stub_of(&mut self, file: usize) -> Renamed<()> {
        let stub = format!("{}i", self.sources.files[file].module);
        let found = self.sources.files.iter().position(|other| other.module == stub && stub.ends_with(".pyi"));
        let Some(stub) = found else { return Ok(()) };
        match self.views[stub].names.lookup(ScopeId::FILE, self.old) {
            Some(id) => self.rename(stub, id),
            None => Ok(()),
        }
    }

    fn clash(&self, file: usize, id: BindingId, clash: Clash) -> CannotRename {
        let view = &self.views[file];
        let (message, spans) = match clash {
            Clash::Taken(other) => (is_taken(self.old, self.new), vec![Some(view.first_place(other))]),
            Clash::Hides(used) => (means_another(self.old, self.new), vec![Some(used)]),
            Clash::Unclear | Clash::Doubtful | Clash::Accessed => {
                let message = format!("\"{}\" may be used in ways that the code does not show", self.old);
                (message, vec![Some(view.first_place(id)), unclear_code(view)])
            }
        };
        CannotRename::Refused(message, spans.into_iter().flatten().map(|span| view.file.place(span)).collect())
    }

    /// Whether the import item at a place brings a name that was renamed where it comes from.
    fn brings_renamed(&self, file: usize, span: Span) -> bool {
        let view = &self.views[file];
        let name = view.file.tree.covering(span);
        let statement = name.ancestors().find(|around| around.kind() == Kind::Import);
        let module = statement.and_then(|statement| module_named(view, statement));
        let from = module.and_then(|module| self.sources.module(file, &module));
        from.is_some_and(|from| self.done.iter().any(|(done, _)| *done == from))
    }

    /// What a file does with the name that another one exports under its new name.
    fn follow(&mut self, file: usize, from: usize) -> Renamed<()> {
        let view = &self.views[file];
        if memchr::memmem::find(view.file.text.source().as_bytes(), self.old.as_bytes()).is_none() && !has_stars(view) {
            return Ok(());
        }
        for statement in view.file.tree.nodes().filter(|node| matches!(node.kind(), Kind::Import | Kind::Export)) {
            let is_it =
                module_named(view, statement).and_then(|module| self.sources.module(file, &module)) == Some(from);
            if is_it {
                self.statement(file, statement)?;
            }
        }
        for member in view.file.tree.nodes_of(Kind::Member) {
            let Some((object, name)) = member.child(Role::Object).zip(member.child(Role::Name)) else { continue };
            if view.file.slice(name) == self.old && self.is_through(file, from, object)? {
                self.edits[file].push(Edit::replace(name.span(), self.new));
            }
        }
        Ok(())
    }

    /// Whether an expression represents a module that hands the name out. Refuses where it may represent another one, too.
    fn is_through(&self, file: usize, from: usize, object: NodeRef<'_>) -> Renamed<bool> {
        let modules = modules_of(self.sources, self.views, file, object);
        if !modules.contains(&from) {
            return Ok(false);
        }
        let is_other = |module: usize| {
            let id = self.views[module].names.lookup(ScopeId::FILE, self.old);
            id.is_some_and(|id| origin(self.sources, self.views, module, id).unwrap_or((module, id)) != self.home)
        };
        if modules.iter().any(|module| is_other(*module)) {
            let message = format!("it is not known which module's \"{}\" this is", self.old);
            return Err(CannotRename::Refused(message, vec![self.views[file].file.place(object.span())]));
        }
        Ok(true)
    }

    /// An import from the file, or a re-export of what it exports.
    fn statement(&mut self, file: usize, statement: NodeRef<'_>) -> Renamed<()> {
        let view = &self.views[file];
        for item in statement.children_in(Role::Item) {
            match item.kind() {
                Kind::ImportAll | Kind::ExportAll if item.child(Role::Alias).is_none() => self.star(file, item)?,
                Kind::ImportItem | Kind::ExportItem => {
                    let Some(name) = item.child(Role::Name).filter(|name| view.file.slice(*name) == self.old) else {
                        continue;
                    };
                    let is_export = item.kind() == Kind::ExportItem;
                    self.edits[file].push(Edit::replace(name.span(), self.new));
                    match (item.child(Role::Alias), is_export) {
                        (Some(_), _) => {}
                        (None, true) => self.hand_on(file),
                        (None, false) => {
                            if let Some(id) = view.binding_at(name) {
                                self.rename(file, id)?;
                            }
                        }
                    }
                }
                _ => {}
            }
        }
        Ok(())
    }

    fn hand_on(&mut self, file: usize) {
        if self.done.insert((file, None)) {
            self.waiting.push_back(file);
        }
    }

    /// A star takes every name: what uses this one through it must be seen.
    fn star(&mut self, file: usize, star: NodeRef<'_>) -> Renamed<()> {
        let view = &self.views[file];
        let through_star = |reference: &&sieve_meaning::names::Reference| {
            let name = view.names.text(reference.name);
            reference.resolution == Resolution::Unknown(Unknown::StarImport) && (name == self.old || name == self.new)
        };
        if let Some(used) = view.names.references().find(through_star) {
            let message = format!("\"{}\" may be used through a star import", self.old);
            return Err(CannotRename::Refused(message, vec![view.file.place(star.span()), view.file.place(used.span)]));
        }
        self.hand_on(file);
        Ok(())
    }

    /// Names of a file that are looked up by text may be this one.
    fn no_access_by_text(&self, file: usize) -> Renamed<()> {
        match self.looked_up {
            Some((at, span)) if at == file || self.views[at].file.language.spec().exports_everything => {
                let message = format!("\"{}\" is looked up by name in a string", self.old);
                Err(CannotRename::Refused(message, vec![self.views[at].file.place(span)]))
            }
            _ => Ok(()),
        }
    }
}

/// The first place at which names are made or looked for at run time, or that was not understood.
fn unclear_code(view: &View<'_>) -> Option<Span> {
    let calls = view.file.tree.nodes_of(Kind::Call);
    let runs = |call: &NodeRef<'_>| {
        let callee = call.child(Role::Callee).map_or("", |callee| view.file.slice(callee));
        matches!(callee, "exec" | "eval" | "globals" | "locals" | "vars" | "dir")
    };
    let call = calls.into_iter().find(runs).map(|call| call.span());
    call.or_else(|| view.file.tree.faults().first().map(|fault| fault.span))
}

fn has_stars(view: &View<'_>) -> bool {
    view.file.tree.nodes().any(|node| matches!(node.kind(), Kind::ImportAll | Kind::ExportAll))
}

/// Whether others may import a name of the whole file under this name.
fn is_seen(view: &View<'_>, old: &str, id: BindingId) -> bool {
    if view.file.language.spec().exports_everything {
        return true;
    }
    let declared = view.names.binding(id).declarations.iter().map(|declaration| view.file.tree.node(declaration.node));
    let is_exported = |node: NodeRef<'_>| node.ancestors().take(4).any(|around| around.kind() == Kind::Export);
    let listed =
        view.file.tree.nodes().filter(|node| node.kind() == Kind::ExportItem && node.child(Role::Alias).is_none());
    declared.into_iter().any(is_exported)
        || listed.into_iter().any(|item| item.child(Role::Name).is_some_and(|name| view.file.slice(name) == old))
}

/// A place where a name is looked up by name in a string: as an argument of such a function, or as the key of all names of a file.
pub(super) fn by_text(views: &[View<'_>], name: &str, of_module: bool) -> Option<(usize, Span)> {
    views.iter().enumerate().find_map(|(index, view)| {
        let strings = view.file.tree.nodes_of(Kind::String);
        let mut same =
            strings.filter(|node| view.file.language.string_value(view.file.slice(*node)).as_deref() == Some(name));
        let found = same.find(|string| {
            let Some(holder) = string.parent() else { return false };
            match holder.kind() {
                Kind::Arguments => {
                    let callee = holder.parent().and_then(|call| call.child(Role::Callee));
                    // What somebody asks another object for is none of a module's names.
                    let first = holder.children().next().map_or("", |first| view.file.slice(first));
                    if of_module
                        && !["sys.modules", "import", "globals", "vars"].iter().any(|word| first.contains(word))
                    {
                        return false;
                    }
                    callee.is_some_and(|callee| {
                        LOOK_UP.contains(&view.file.slice(callee).rsplit('.').next().unwrap_or_default())
                    })
                }
                Kind::Subscript => {
                    let object = holder.child(Role::Object).map_or("", |object| view.file.slice(object));
                    object.starts_with("globals")
                        || object.starts_with("vars(")
                        || object.ends_with("__dict__")
                        || is_namespace(view, holder)
                }
                _ => false,
            }
        });
        found.map(|string| (index, string.span()))
    })
}

/// Whether a subscript looks into all names of another module.
fn is_namespace(view: &View<'_>, subscript: NodeRef<'_>) -> bool {
    let Some(object) = subscript.child(Role::Object) else { return false };
    let Some(Resolution::Binding(id)) = view.names.resolution_at(object.id()) else { return false };
    view.names.binding(id).declarations.iter().any(|declaration| {
        let node = view.file.tree.node(declaration.node);
        node.kind() == Kind::ImportAll || node.parent().is_some_and(|parent| parent.kind() == Kind::ImportAll)
    })
}
