//! The modules of crates: which file or braces each is, and what it imports.

use std::collections::BTreeSet;

use rustc_hash::FxHashMap;
use sieve_meaning::names::ScopeId;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::rename::source::View;

/// A module of a crate. A file that two crates have is a module of each.
#[derive(Debug)]
pub(super) struct Module {
    /// Its file, by its place in the list.
    pub(super) file: usize,
    /// The file itself, or the declaration with the braces.
    pub(super) node: NodeId,
    /// What declares it in the module around it; nothing for the first module of a crate, and for one that is declared by a macro.
    pub(super) declaration: Option<NodeId>,
    /// The module around it.
    pub(super) outer: Option<usize>,
    /// The first module of its crate.
    pub(super) root: usize,
    /// The modules that it declares.
    pub(super) children: Vec<(String, usize)>,
    pub(super) imports: Vec<Import>,
    /// A macro in it may import and declare more.
    pub(super) is_open: bool,
}

/// What a `use` takes from elsewhere.
#[derive(Debug, Clone)]
pub(super) struct Import {
    /// The words of its path. An empty one first is that of a path which begins with the name of a crate.
    pub(super) path: Vec<String>,
    /// The name that it has here; nothing for all names of a module.
    pub(super) bound: Option<String>,
    /// The part of the `use` that says so.
    pub(super) item: NodeId,
    /// Only a part of a function sees it.
    pub(super) is_inner: bool,
}

/// All modules of the crates of a project.
#[derive(Debug, Default)]
pub(super) struct Modules {
    pub(super) all: Vec<Module>,
    /// The modules that a file or a pair of braces is.
    of_node: FxHashMap<(usize, NodeId), Vec<usize>>,
    /// The first modules of libraries, by the names of their crates.
    libraries: Vec<(String, usize)>,
    /// Files that no crate seems to have.
    adrift: BTreeSet<usize>,
}

/// Folders whose files are crates of their own ("Package Layout", The Cargo Book).
const FOLDERS_OF_CRATES: &[&str] = &["benches", "bin", "examples", "tests"];

/// Modules within one another are followed so deep.
const DEEPEST: usize = 100;

impl Modules {
    pub(super) fn of(views: &[View<'_>], crate_name: impl Fn(usize) -> Option<String>) -> Modules {
        let mut modules = Modules::default();
        let places: FxHashMap<&str, usize> =
            views.iter().enumerate().map(|(index, view)| (view.file.module.as_str(), index)).collect();
        let mut builder = Builder {
            views,
            places: &places,
            modules: &mut modules,
            seen: BTreeSet::new(),
            reached: BTreeSet::new(),
            imports: FxHashMap::default(),
        };
        for file in 0..views.len() {
            let (folder, name) = views[file].file.module.rsplit_once('/').unwrap_or(("", &views[file].file.module));
            let is_library = name == "lib.rs";
            let is_root = is_library
                || matches!(name, "main.rs" | "build.rs")
                || FOLDERS_OF_CRATES.contains(&folder.rsplit('/').next().unwrap_or_default());
            if !is_root {
                continue;
            }
            let root = builder.crate_of(file);
            if let Some(name) = crate_name(file).filter(|_| is_library) {
                builder.modules.libraries.push((name, root));
            }
        }
        for file in 0..views.len() {
            if !builder.reached.contains(&file) {
                builder.crate_of(file);
                builder.modules.adrift.insert(file);
            }
        }
        modules
    }

    /// The modules that a place of a file is in: of each crate that has the file the innermost one.
    pub(super) fn around(&self, file: usize, node: NodeRef<'_>) -> &[usize] {
        let found =
            std::iter::once(node).chain(node.ancestors()).find_map(|around| self.of_node.get(&(file, around.id())));
        found.map_or(&[], Vec::as_slice)
    }

    pub(super) fn library(&self, name: &str) -> Option<usize> {
        self.libraries.iter().find(|(library, _)| library == name).map(|(_, root)| *root)
    }

    /// The modules of a name that a module declares.
    pub(super) fn children<'m>(&'m self, outer: usize, name: &'m str) -> impl Iterator<Item = usize> + 'm {
        self.all[outer].children.iter().filter(move |(child, _)| child == name).map(|(_, child)| *child)
    }

    /// Modules of a name with all that share their files or their declarations, in other crates or by attributes that choose.
    pub(super) fn with_twins(&self, found: Vec<usize>, name: &str) -> BTreeSet<usize> {
        let mut waiting = found;
        let mut twins = BTreeSet::new();
        while let Some(module) = waiting.pop() {
            let Some(outer) = self.all[module].outer.filter(|_| twins.insert(module)) else { continue };
            waiting.extend(self.children(outer, name));
            let of_file = &self.of_node[&(self.all[module].file, self.all[module].node)];
            let is_called = |twin: &&usize| {
                self.all[**twin].outer.is_some_and(|outer| self.children(outer, name).any(|child| child == **twin))
            };
            waiting.extend(of_file.iter().filter(is_called));
        }
        twins
    }

    /// The declarations of modules of a name in a module: the node of each.
    pub(super) fn declarations<'v>(
        &self,
        views: &'v [View<'_>],
        outer: usize,
        name: &'v str,
    ) -> impl Iterator<Item = NodeRef<'v>> {
        let Module { file, node, .. } = self.all[outer];
        let view = &views[file];
        let node = view.file.tree.node(node);
        let is_called = move |declaration: &NodeRef<'_>| {
            declaration.child_of(Kind::Namespace, Role::Name).is_some_and(|word| view.file.slice(word) == name)
        };
        node.child(Role::Body).unwrap_or(node).children().filter(is_called)
    }

    /// Leaves out of the files that no crate seems to have those that cannot be a part of a crate after all.
    pub(super) fn keep_adrift(&mut self, may_belong: impl Fn(usize) -> bool) {
        self.adrift.retain(|file| may_belong(*file));
    }

    /// Whether no crate seems to have a file.
    pub(super) fn is_adrift(&self, file: usize) -> bool {
        self.adrift.contains(&file)
    }

    /// The scope of what a module declares.
    pub(super) fn scope(&self, views: &[View<'_>], module: usize) -> Option<ScopeId> {
        let Module { file, node, .. } = self.all[module];
        match views[file].file.tree.node(node).kind() {
            Kind::File => Some(ScopeId::FILE),
            _ => views[file].names.module_scope(node),
        }
    }
}

struct Builder<'b, 's> {
    views: &'b [View<'s>],
    /// The files by their paths from the root of the project.
    places: &'b FxHashMap<&'b str, usize>,
    modules: &'b mut Modules,
    /// Crates with the files that they have already.
    seen: BTreeSet<(usize, usize)>,
    /// Files that some crate has.
    reached: BTreeSet<usize>,
    /// What the modules of each file import, by their nodes.
    imports: FxHashMap<usize, FxHashMap<NodeId, Vec<Import>>>,
}

impl Builder<'_, '_> {
    /// Makes a crate that begins with a file.
    fn crate_of(&mut self, file: usize) -> usize {
        let root = self.modules.all.len();
        let folder = self.views[file].file.folder().to_string();
        self.module(file, self.views[file].file.tree.root(), (None, None), root);
        self.seen.insert((root, file));
        self.declared_in(root, &folder, 0);
        root
    }

    fn module(
        &mut self,
        file: usize,
        node: NodeRef<'_>,
        (outer, declaration): (Option<usize>, Option<NodeId>),
        root: usize,
    ) -> usize {
        let module = self.modules.all.len();
        self.reached.insert(file);
        let views = self.views;
        let of_file = self.imports.entry(file).or_insert_with(|| imports_of(&views[file]));
        let imports = of_file.get(&node.id()).cloned().unwrap_or_default();
        let is_open =
            node.child(Role::Body).unwrap_or(node).children().any(|item| imports_by_macro(&views[file], item));
        self.modules.all.push(Module {
            file,
            node: node.id(),
            declaration,
            outer,
            root,
            children: Vec::new(),
            imports,
            is_open,
        });
        self.modules.of_node.entry((file, node.id())).or_default().push(module);
        module
    }

    /// Goes into the modules that a module declares, of which the files are in a folder.
    fn declared_in(&mut self, module: usize, folder: &str, depth: usize) {
        if depth > DEEPEST {
            return;
        }
        let Module { file, node, root, .. } = self.modules.all[module];
        let views = self.views;
        let view = &views[file];
        let node = view.file.tree.node(node);
        let body = node.child(Role::Body).unwrap_or(node);
        for declaration in body.children() {
            let Some(name) = declaration.child_of(Kind::Namespace, Role::Name) else {
                for name in declared_by_macro(view, declaration) {
                    self.file_module((module, None), &name, place_of(folder, &name), depth);
                }
                continue;
            };
            let name = view.file.slice(name).trim_start_matches("r#").to_string();
            if declaration.child(Role::Body).is_some() {
                let inner = self.module(file, declaration, (Some(module), Some(declaration.id())), root);
                self.modules.all[module].children.push((name.clone(), inner));
                self.declared_in(inner, &joined(folder, &name), depth + 1);
                continue;
            }
            let places = match written_path(view, declaration) {
                Some(path) => [joined(view.file.folder(), &path), String::new()],
                None => place_of(folder, &name),
            };
            self.file_module((module, Some(declaration.id())), &name, places, depth);
        }
    }

    /// `mod quay;`: the module is a file.
    fn file_module(
        &mut self,
        (outer, declaration): (usize, Option<NodeId>),
        name: &str,
        places: [String; 2],
        depth: usize,
    ) {
        let Some(file) = places.iter().find_map(|place| self.places.get(place.as_str()).copied()) else { return };
        let root = self.modules.all[outer].root;
        if !self.seen.insert((root, file)) {
            return;
        }
        let inner = self.module(file, self.views[file].file.tree.root(), (Some(outer), declaration), root);
        self.modules.all[outer].children.push((name.to_string(), inner));
        let own = &self.views[file].file.module;
        let folder = match own.strip_suffix("/mod.rs") {
            Some(folder) => folder,
            None => own.strip_suffix(".rs").unwrap_or(own),
        };
        self.declared_in(inner, &folder.to_string(), depth + 1);
    }
}

fn joined(folder: &str, name: &str) -> String {
    let mut parts: Vec<&str> = folder.split('/').filter(|part| !part.is_empty()).collect();
    for part in name.split('/') {
        match part {
            "." | "" => {}
            ".." => drop(parts.pop()),
            part => parts.push(part),
        }
    }
    parts.join("/")
}

/// Where the file of a module may be.
fn place_of(folder: &str, name: &str) -> [String; 2] {
    [joined(folder, &format!("{name}.rs")), joined(folder, &format!("{name}/mod.rs"))]
}

/// `#[path = "north.rs"]`
pub(super) fn written_path(view: &View<'_>, declaration: NodeRef<'_>) -> Option<String> {
    let attribute = declaration
        .children_in(Role::Decorator)
        .find(|attribute| attribute.child(Role::Value).is_some_and(|name| view.file.slice(name) == "path"))?;
    let path = attribute.child(Role::Argument)?;
    view.file.language.string_value(view.file.slice(path))
}

/// The modules that are declared in what is given to a macro: `cfg_if! { if #[cfg(unix)] { mod north; } }`.
fn declared_by_macro(view: &View<'_>, item: NodeRef<'_>) -> Vec<String> {
    let words = words_of_macro(view, item);
    let declared = words.windows(3).filter(|three| three[0] == "mod" && three[2] == ";");
    declared.map(|three| three[1].to_string()).collect()
}

/// Whether what is given to a macro imports something.
fn imports_by_macro(view: &View<'_>, item: NodeRef<'_>) -> bool {
    words_of_macro(view, item).contains(&"use")
}

/// The words that are given to a macro in the place of an item.
fn words_of_macro<'v>(view: &'v View<'_>, item: NodeRef<'_>) -> Vec<&'v str> {
    let call = item.child(Role::Value).filter(|value| value.kind() == Kind::MacroCall);
    let Some(call) = call.or((item.kind() == Kind::MacroCall).then_some(item)) else { return Vec::new() };
    call.significant_tokens().map(|(token, _)| view.file.text.slice(view.file.tree.token_span(token))).collect()
}

/// What is imported in the modules of a file, by their nodes: in functions too, but not in modules within them.
fn imports_of(view: &View<'_>) -> FxHashMap<NodeId, Vec<Import>> {
    let is_module = |around: &NodeRef<'_>| {
        around.kind() == Kind::File || around.kind() == Kind::Namespace && around.child(Role::Body).is_some()
    };
    let mut found: FxHashMap<NodeId, Vec<Import>> = FxHashMap::default();
    for import in view.file.tree.nodes_of(Kind::Import) {
        let Some(module) = import.ancestors().find(is_module) else { continue };
        let is_crate = view.file.slice(import).split_whitespace().take(3).any(|word| word == "extern");
        for item in import.children_in(Role::Item) {
            let before = if is_crate { vec![String::new()] } else { Vec::new() };
            take(view, item, before, found.entry(module.id()).or_default());
        }
    }
    found
}

/// Adds what an item of a `use` takes, and what those within its braces do.
fn take(view: &View<'_>, item: NodeRef<'_>, before: Vec<String>, found: &mut Vec<Import>) {
    let mut path = before;
    if let Some(module) = item.child(Role::Module) {
        path.extend(words(view, item.span().start, module));
    }
    let within = item.children_in(Role::Item);
    for inner in within {
        take(view, inner, path.clone(), found);
    }
    let Some(name) = item.child(Role::Name) else { return };
    let is_inner = item.ancestors().any(|around| matches!(around.kind(), Kind::Function | Kind::Lambda));
    if name.kind() == Kind::ImportAll {
        found.push(Import { path, bound: None, item: item.id(), is_inner });
        return;
    }
    if path.is_empty() || item.child(Role::Module).is_none() {
        path.extend(leading(view, item.span().start));
    }
    if view.file.slice(name) != "self" {
        path.push(view.file.slice(name).to_string());
    }
    let bound = item.child(Role::Alias).map(|alias| view.file.slice(alias).to_string());
    let bound = bound.or_else(|| path.last().cloned());
    found.push(Import { path, bound, item: item.id(), is_inner });
}

/// An empty word where a path begins with colons.
fn leading(view: &View<'_>, start: u32) -> Option<String> {
    view.file.text.source()[start as usize..].starts_with("::").then(String::new)
}

/// The words of a path as it is written.
pub(super) fn words_of(path: &str) -> Vec<String> {
    path.split("::").map(|word| word.trim().to_string()).collect()
}

/// The words of a path before the name, with an empty one for colons at its start.
fn words(view: &View<'_>, start: u32, path: NodeRef<'_>) -> Vec<String> {
    leading(view, start).into_iter().chain(words_of(view.file.slice(path))).collect()
}

/// The words of the path before a word in an item of a `use`: those around its braces, and those of its own.
pub(super) fn words_before(view: &View<'_>, item: NodeRef<'_>, span: Span) -> Vec<String> {
    let outer = item.parent().filter(|outer| outer.kind() == Kind::ImportItem);
    let mut before = outer.map_or(Vec::new(), |outer| {
        let mut before = words_before(view, outer, span);
        before.extend(outer.child(Role::Module).map_or(Vec::new(), |module| words(view, outer.span().start, module)));
        before
    });
    let Some(module) = item.child(Role::Module).filter(|module| module.span().start < span.start) else {
        return before;
    };
    if span.start < module.span().end {
        let within = view.file.text.slice(Span::new(module.span().start, span.start));
        before.extend(leading(view, item.span().start));
        before.extend(within.split("::").map(|word| word.trim().to_string()).filter(|word| !word.is_empty()));
    } else if item.child(Role::Name).is_some_and(|name| name.span() == span) {
        before.extend(words(view, item.span().start, module));
    }
    before
}
