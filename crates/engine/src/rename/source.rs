//! The files of a project whose language can use the name.

use std::cell::OnceCell;
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use rayon::prelude::*;
use rustc_hash::FxHashMap;
use sieve_meaning::names::{BindingId, DeclarationKind, Names, Reference, Resolution};
use sieve_meaning::project::Modules;
use sieve_meaning::renaming::places;
use sieve_meaning::{names_of, python_library};
use sieve_rules::{path_beside, traits_of};
use sieve_syntax::language::{Language, Layer, views};
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind, Tree};

use super::traits::rename_traits_of;
use super::{CannotRename, Renamed};
use crate::check::load::{bytes_of, text_of};
use crate::project::{Project, relative};
use crate::run::{Request, in_pool};
use crate::workspace::discover::{self, Candidate, of_name};
use crate::workspace::modules::{ModuleIndex, ModulesOf};
use crate::workspace::shares::in_shares;
use crate::workspace::walk::{Hidden, walk};

/// A file, read and parsed; of a page, what it holds in one language.
pub(super) struct Source {
    pub(super) path: PathBuf,
    pub(super) shown: Arc<str>,
    /// Its path from the root of the project, with `/`.
    pub(super) module: String,
    pub(super) language: Language,
    pub(super) before: Vec<u8>,
    pub(super) text: Text,
    pub(super) tree: Tree,
    /// Why it is not changed, if it is not: it is made by a program, skipped or ignored.
    pub(super) read_only: Option<&'static str>,
    /// The page that it is a script of; nothing for a file of its own.
    pub(super) page: Option<Page>,
}

/// The page around a script.
#[derive(Debug, Clone)]
pub(super) struct Page {
    /// The language of the page.
    pub(super) language: Language,
    /// The scripts that it loads, from the root of the project.
    pub(super) loads: Vec<String>,
    /// How many faults it has, with those in all that it holds.
    faults: usize,
}

impl Source {
    /// A place in it, as it is shown, with its line.
    pub(super) fn place(&self, span: Span) -> String {
        let place = self.text.place(span.start);
        let line = self.text.slice(self.text.lines().line(self.text.source(), place.line)).trim();
        format!("{}:{}:{}  {line}", self.shown, place.line, place.column)
    }

    pub(super) fn slice(&self, node: NodeRef<'_>) -> &str {
        self.text.slice(node.span())
    }

    /// What a page holds in languages of a family; any other file as it is.
    fn scripts(self, family: &dyn Fn(Language) -> bool) -> Vec<Source> {
        if !traits_of(self.language).is_page {
            return vec![self];
        }
        let layers = self.language.layers(&self.text, &self.tree);
        let faults = all_faults(self.language, &self.tree, &layers);
        let page = Page { language: self.language, loads: loaded_scripts(&self), faults };
        let script = |layer: Layer| Source {
            path: self.path.clone(),
            shown: Arc::clone(&self.shown),
            module: self.module.clone(),
            language: layer.language,
            before: self.before.clone(),
            text: self.text.clone(),
            tree: layer.tree,
            read_only: self.read_only,
            page: Some(page.clone()),
        };
        layers.into_iter().filter(|layer| family(layer.language)).map(script).collect()
    }

    /// Whether a text that takes the place of this one has more faults.
    pub(super) fn is_broken_by(&self, text: &Text) -> bool {
        let (language, before) = match &self.page {
            Some(page) => (page.language, page.faults),
            None => (self.language, self.tree.faults().len()),
        };
        let tree = language.parse(text);
        all_faults(language, &tree, &language.layers(text, &tree)) > before
    }

    /// Its folder, from the root of the project.
    pub(super) fn folder(&self) -> &str {
        self.module.rsplit_once('/').map_or("", |(folder, _)| folder)
    }
}

/// How many faults a file has, with those in all that it holds.
fn all_faults(language: Language, tree: &Tree, layers: &[Layer]) -> usize {
    views(language, tree, layers).map(|(_, tree)| tree.faults().len()).sum()
}

/// The scripts of the project that a page loads by `<script src="…">`.
fn loaded_scripts(page: &Source) -> Vec<String> {
    let attributes = page.tree.nodes_of(Kind::Attribute).filter(|attribute| {
        let tag = attribute.parent().and_then(|tag| tag.child(Role::Name)).map(|name| page.slice(name));
        let name = attribute.child(Role::Name).map(|name| page.slice(name));
        tag.is_some_and(|tag| tag.eq_ignore_ascii_case("script"))
            && name.is_some_and(|name| name.eq_ignore_ascii_case("src"))
    });
    let written = attributes.filter_map(|attribute| attribute.child(Role::Value));
    let place = |value: NodeRef<'_>| {
        let written = page.slice(value).trim_matches(['"', '\'']).split(['?', '#']).next()?;
        let is_elsewhere = written.is_empty() || written.starts_with("//") || written.contains("://");
        match written.strip_prefix('/') {
            _ if is_elsewhere => None,
            Some(from_root) => path_beside("", from_root),
            None => path_beside(&page.module, written),
        }
    };
    written.filter_map(place).collect()
}

/// All files of the project in which names are understood.
pub(super) struct Sources {
    pub(super) files: Vec<Source>,
    index: ModuleIndex,
    project: Project,
}

/// The names of a file.
pub(super) struct View<'s> {
    pub(super) file: &'s Source,
    pub(super) names: Names<'s>,
    /// What the words that are given to macros use, by where they begin.
    in_macros: OnceCell<FxHashMap<u32, BindingId>>,
}

impl Sources {
    /// Reads every file of the project in the language of one, and in those of its kin.
    pub(super) fn read(request: &Request<'_>, path: &Path) -> Renamed<Sources> {
        let root = request.project.root.clone();
        let paths = [root.clone()];
        let whole = Request { paths: &paths, only_changes: None, ..*request };
        let discovery = discover::discover(&whole.search()).map_err(CannotRename::Settings)?;
        let language = discovery.files.iter().find(|file| file.path == path).map(|file| file.language);
        let traits = language.map(rename_traits_of);
        let family = |other: Language| {
            let in_page = traits.is_some_and(|own| own.is_in_pages) && traits_of(other).is_page;
            in_page || traits.is_some_and(|own| own.family.contains(&other))
        };
        let wanted: Vec<&Candidate> = discovery.files.iter().filter(|file| family(file.language)).collect();
        let read: Vec<Option<Source>> = in_pool(request.threads, || {
            in_shares(&wanted).map(|candidate| source(candidate, request.project)).collect::<Renamed<_>>()
        })?;
        let mut files: Vec<Source> = read.into_iter().flatten().collect();
        add_others(&mut files, request, &family);
        let files = files.into_iter().flat_map(|file| file.scripts(&family)).collect();
        Ok(Sources { files, index: ModuleIndex::default(), project: request.project.clone() })
    }

    pub(super) fn project(&self) -> &Project {
        &self.project
    }

    pub(super) fn views(&self) -> Vec<View<'_>> {
        self.files.iter().map(View::of).collect()
    }

    /// The file that another one means by the name of a module.
    pub(super) fn module(&self, from: usize, module: &str) -> Option<usize> {
        let file = &self.files[from];
        let found = ModulesOf::new(&self.index, &self.project, file.language).find(&file.module, module);
        match found {
            Some(found) => self.files.iter().position(|other| other.module == *found.path),
            None if traits_of(file.language).dotted_modules && !module.starts_with('.') => {
                self.below_another_root(module)
            }
            None => None,
        }
    }

    /// The name of a file beside another one that is as is asked for.
    pub(super) fn beside(&self, file: usize, is_wanted: impl Fn(&str) -> bool) -> Option<String> {
        let entries = self.project.files.list(self.files[file].path.parent()?).ok()?;
        let names = entries.into_iter().filter_map(|entry| entry.ok()?.0.into_string().ok());
        names.filter(|name| is_wanted(name)).min()
    }

    /// The folder at or above that of a file which has a file of a name, and what that file holds.
    fn nearest(&self, file: usize, name: &str) -> Option<(&Path, String)> {
        let folder = self.files[file].path.parent()?;
        let root = &self.project.root;
        folder.ancestors().take_while(|around| around.starts_with(root)).find_map(|around| {
            let bytes = self.project.files.read_within(root, &around.join(name), LARGEST_OTHER).ok()?;
            Some((around, String::from_utf8(bytes).ok()?))
        })
    }

    /// How other packages import the folder of a file: the path that the nearest `go.mod` gives its own folder, and the way from there
    /// ("Go Modules Reference", module paths).
    pub(super) fn import_path(&self, file: usize) -> Option<String> {
        let (of, text) = self.nearest(file, "go.mod")?;
        let module = text.lines().find_map(|line| line.trim().strip_prefix("module "))?.trim().trim_matches('"');
        let way = self.files[file].path.parent()?.strip_prefix(of).ok()?.to_str()?.replace('\\', "/");
        Some(if way.is_empty() { module.to_string() } else { format!("{module}/{way}") })
    }

    /// The folder of the package that a file is in ("The Manifest Format", The Cargo Book).
    pub(super) fn package_folder(&self, file: usize) -> Option<&Path> {
        self.nearest(file, "Cargo.toml").map(|(folder, _)| folder)
    }

    /// The name by which other crates know the library that begins with a file: what the nearest manifest calls it, or its package.
    pub(super) fn crate_name(&self, file: usize) -> Option<String> {
        let (_, text) = self.nearest(file, "Cargo.toml")?;
        let mut section = "";
        let mut names: [Option<&str>; 2] = [None, None];
        for line in text.lines().map(str::trim) {
            if line.starts_with('[') {
                section = line;
            } else if let Some(value) = line.strip_prefix("name").and_then(|rest| rest.trim_start().strip_prefix('=')) {
                let name = value.trim().split(['"', '\'']).nth(1);
                match section {
                    "[lib]" => names[0] = name,
                    "[package]" => names[1] = name,
                    _ => {}
                }
            }
        }
        names[0].or(names[1]).map(|name| name.replace('-', "_"))
    }

    /// The only file that a dotted name can mean if modules are also looked for below some folder of the project.
    fn below_another_root(&self, module: &str) -> Option<usize> {
        if python_library::has(module.split('.').next()?) {
            return None;
        }
        let path = module.replace('.', "/");
        let endings = [format!("/{path}.py"), format!("/{path}/__init__.py")];
        let mut fitting = (0..self.files.len()).filter(|index| {
            let whole = format!("/{}", self.files[*index].module);
            endings.iter().any(|ending| whole.ends_with(ending.as_str()))
        });
        fitting.next().filter(|_| fitting.next().is_none())
    }
}

/// Larger files that are not sifted are not looked into.
const LARGEST_OTHER: u64 = 4 << 20;

/// Adds the files that are not sifted: what is generated, skipped or ignored may use a name all the same.
fn add_others(files: &mut Vec<Source>, request: &Request<'_>, family: &dyn Fn(Language) -> bool) {
    let root = &request.project.root;
    let known: BTreeSet<PathBuf> = files.iter().map(|file| file.path.clone()).collect();
    for path in walk(&*request.project.files, root, root, Hidden::VisitIgnored)
        .files
        .into_iter()
        .filter(|path| !known.contains(path))
    {
        let Some(language) = of_name(&path).filter(|other| family(*other)) else { continue };
        let Ok(before) = request.project.files.read(&path, LARGEST_OTHER) else { continue };
        let Ok(text) = language.decode(before.clone()) else { continue };
        let tree = language.parse(&text);
        let module = relative(root, &path).unwrap_or_default();
        let shown = request.project.shown(&path).into();
        files.push(Source {
            path,
            shown,
            module,
            language,
            before,
            text,
            tree,
            read_only: Some("generated, skipped or ignored"),
            page: None,
        });
    }
    files.sort_by(|one, other| one.shown.cmp(&other.shown));
}

fn source(candidate: &Candidate, project: &Project) -> Renamed<Option<Source>> {
    let Ok(before) = bytes_of(candidate, project).map_err(CannotRename::File)? else { return Ok(None) };
    let Ok(text) = text_of(candidate, before.clone()) else { return Ok(None) };
    let tree = candidate.language.parse(&text);
    let module = relative(&project.root, &candidate.path).unwrap_or_default();
    let (path, shown, language) = (candidate.path.clone(), Arc::clone(&candidate.shown), candidate.language);
    Ok(Some(Source { path, shown, module, language, before, text, tree, read_only: None, page: None }))
}

/// The bindings of a name in all files, of those that are wanted.
pub(super) fn bindings_called(
    views: &[View<'_>],
    name: &str,
    is_wanted: impl Fn(&View<'_>, BindingId) -> bool,
) -> Vec<(usize, BindingId)> {
    let mut found = Vec::new();
    for (file, view) in views.iter().enumerate() {
        let called = view.names.bindings_with_ids().filter(|(_, binding)| view.names.text(binding.name) == name);
        found.extend(called.filter(|(id, _)| is_wanted(view, *id)).map(|(id, _)| (file, id)));
    }
    found
}

impl<'s> View<'s> {
    pub(super) fn of(file: &'s Source) -> View<'s> {
        View { file, names: names_of(file.language, &file.text, &file.tree), in_macros: OnceCell::new() }
    }

    /// The first place of a binding.
    pub(super) fn first_place(&self, id: BindingId) -> Span {
        places(&self.file.tree, &self.names, id).first().map_or(Span::new(0, 0), |place| place.span)
    }

    /// Whether an import makes a binding.
    pub(super) fn is_import(&self, id: BindingId) -> bool {
        self.names.binding(id).declarations.iter().any(|declaration| declaration.kind == DeclarationKind::Import)
    }

    /// What the imports at the top of the file name, one by one.
    pub(super) fn import_items(&self) -> impl Iterator<Item = NodeRef<'_>> {
        let imports = self.file.tree.root().children().filter(|node| node.kind() == Kind::Import);
        imports.flat_map(|import| import.children_in(Role::Item))
    }

    /// The name of the package that the file says it belongs to.
    pub(super) fn package(&self) -> Option<NodeRef<'_>> {
        let clause = self.file.tree.root().children().find(|node| node.kind() == Kind::PackageClause)?;
        clause.child(Role::Name)
    }

    /// The tokens of the file that say something, with their kinds and places.
    pub(super) fn significant_tokens(&self) -> Vec<(TokenKind, Span)> {
        let tree = &self.file.tree;
        let tokens = tree.tokens_with_spans(0..tree.tokens().len() as TokenId);
        tokens.filter(|(_, kind, _)| !kind.is_trivia()).map(|(_, kind, span)| (kind, span)).collect()
    }

    /// The binding that a name makes or uses, which may be one of many words that are given to a macro.
    pub(super) fn binding_of(&self, node: NodeRef<'_>, name: Span) -> Option<BindingId> {
        if node.kind() != Kind::TokenTree {
            return self.binding_at(node);
        }
        let used = |one: &Reference| match one.resolution {
            Resolution::Binding(id) => Some((one.span.start, id)),
            _ => None,
        };
        let all = self.in_macros.get_or_init(|| self.names.references().filter_map(used).collect());
        all.get(&name.start).copied()
    }

    /// The binding that a name at a node makes or uses.
    pub(super) fn binding_at(&self, node: NodeRef<'_>) -> Option<BindingId> {
        if let Some(Resolution::Binding(id)) = self.names.resolution_at(node.id()) {
            return Some(id);
        }
        let is_item = |kind: Kind| matches!(kind, Kind::ImportItem | Kind::ImportAll | Kind::ImportDefault);
        let item = node.parent().filter(|item| is_item(item.kind()));
        let is_bound = |item: &NodeRef<'_>| item.child(Role::Alias).unwrap_or(node) == node;
        self.names.declared_at(node.id()).or_else(|| self.names.declared_at(item.filter(is_bound)?.id()))
    }
}
