//! Which files of the project its imports mean.
//!
//! What a file exports is known from its own visit where a run has made one; else the file is summarised the first time that another one
//! asks for it.

mod commented;
mod file;
mod folder;
mod javascript;
mod known;
mod listings;
mod opened;
mod package;
mod python;

use std::cell::RefCell;
use std::collections::{HashMap, HashSet};
use std::path::{Path, PathBuf};
use std::rc::Rc;
use std::sync::{Arc, Mutex, PoisonError};

use rustc_hash::FxHashMap;
use sieve_meaning::folder_module::{FileDeclarations, FolderForm, FolderModule};
use sieve_meaning::names_of;
use sieve_meaning::opened::{Opened, OpeningQuestion};
use sieve_meaning::project::{Module, Modules, Summary};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use folder::FolderIndex;
use known::{Known, KnownModules};
use listings::{Listing, Listings};
use opened::OpenedIndex;

use crate::files::{EntryKind, Files};
use crate::project::{Project, absolute, relative};
use crate::workspace::discover::{is_code, of_name};
use crate::workspace::once::OncePerFile;
use crate::workspace::walk::{Hidden, walk};

/// Larger files are not looked into for the sake of others.
const LARGEST: u64 = 4 << 20;

/// The summaries of the files that were asked for, each made once.
#[derive(Debug, Default)]
pub(crate) struct ModuleIndex {
    modules: OncePerFile<Arc<Module>>,
    /// What is known from the visits of files, until somebody asks: the paths from the root, and summaries.
    packed: Mutex<HashMap<PathBuf, (String, Box<[u8]>)>>,
    /// Roots of projects without links in them.
    roots: Mutex<HashMap<PathBuf, Option<PathBuf>>>,
    /// Settings of compilers and packages, read once.
    settings: Mutex<HashMap<PathBuf, Option<Arc<serde_json::Value>>>>,
    /// The names, without endings, of the files of the project that are in no language of ours, once somebody asks.
    others: Mutex<Option<HashSet<String>>>,
    /// Folders that are modules.
    folders: FolderIndex,
    /// What files declare in namespaces.
    opened: OpenedIndex,
    /// What is in the folders in which modules are looked for.
    listings: Listings,
    /// Where imports lead.
    known: Mutex<KnownModules>,
}

impl ModuleIndex {
    /// Notes what a file exports: its path from the root, and its summary as bytes.
    pub(crate) fn know(&self, path: PathBuf, rooted: String, summary: Box<[u8]>) {
        let mut packed = self.packed.lock().unwrap_or_else(PoisonError::into_inner);
        packed.insert(path, (rooted, summary));
    }

    /// Notes what a file declares for the module that its folder is.
    pub(crate) fn know_declarations(&self, path: &Path, declarations: FileDeclarations) {
        self.folders.know(path, declarations);
    }

    /// Notes what a file declares in namespaces.
    pub(crate) fn know_opened(&self, path: &Path, opened: Vec<Opened>) {
        self.opened.know(path, opened);
    }

    /// Drops what is known of a file, as a module and as settings.
    pub(crate) fn forget(&self, path: &Path) {
        self.modules.forget(path);
        self.known.lock().unwrap_or_else(PoisonError::into_inner).forget(path.to_path_buf());
        self.folders.forget(path);
        self.listings.forget(path);
        self.opened.forget(path);
        self.packed.lock().unwrap_or_else(PoisonError::into_inner).remove(path);
        self.settings.lock().unwrap_or_else(PoisonError::into_inner).remove(path);
        if !is_code(path) {
            self.others.lock().unwrap_or_else(PoisonError::into_inner).take();
        }
    }

    /// Whether a file of the project that is in no language of ours has a name: a module of Python may be compiled from it.
    fn may_be_compiled(&self, project: &Project, name: &str) -> bool {
        let mut others = self.others.lock().unwrap_or_else(PoisonError::into_inner);
        let find = || {
            let files = walk(&*project.files, &project.root, &project.root, Hidden::Skip).files;
            let is_other = |path: &&PathBuf| !is_code(path);
            let stem = |path: &PathBuf| path.file_name()?.to_str()?.split('.').next().map(str::to_string);
            files.iter().filter(is_other).filter_map(stem).collect()
        };
        others.get_or_insert_with(find).contains(name)
    }

    /// A file as a module; nothing for one that lies elsewhere.
    fn module(&self, path: &Path, project: &Project) -> Option<Arc<Module>> {
        self.modules.of(path, || {
            let is_own = self.lies_below(path, project);
            let module = is_own.then(|| self.unpack(path).or_else(|| summarise(path, project))).flatten();
            module.map(Arc::new)
        })
    }

    fn unpack(&self, path: &Path) -> Option<Module> {
        let (path, summary) = self.packed.lock().unwrap_or_else(PoisonError::into_inner).remove(path)?;
        Some(Module { path: path.into(), summary: postcard::from_bytes(&summary).ok()? })
    }

    /// Whether a file truly lies below a root, whatever links lead to it.
    fn lies_below(&self, path: &Path, project: &Project) -> bool {
        if self.listings.lies_below(&*project.files, &project.root, path) {
            return true;
        }
        let mut roots = self.roots.lock().unwrap_or_else(PoisonError::into_inner);
        let real = roots.entry(project.root.clone()).or_insert_with(|| project.files.real(&project.root).ok());
        real.as_ref().zip(project.files.real(path).ok()).is_some_and(|(root, path)| path.starts_with(root))
    }

    /// A file of settings in the form of JSON with comments.
    fn settings(&self, project: &Project, path: &Path) -> Option<Arc<serde_json::Value>> {
        let mut settings = self.settings.lock().unwrap_or_else(PoisonError::into_inner);
        settings.entry(path.to_path_buf()).or_insert_with(|| commented::read(project, path).map(Arc::new)).clone()
    }
}

/// A file that no run has visited, where it is in a wanted language and can be read.
fn read(project: &Project, path: &Path, is_wanted: impl FnOnce(Language) -> bool) -> Option<(Language, Text, Tree)> {
    let language = of_name(path).filter(|language| is_wanted(*language))?;
    let text = language.decode(project.files.read(path, LARGEST).ok()?).ok()?;
    let tree = language.parse(&text);
    Some((language, text, tree))
}

fn summarise(path: &Path, project: &Project) -> Option<Module> {
    let (language, text, tree) = read(project, path, Language::is_code)?;
    let names = names_of(language, &text, &tree);
    let summary = Summary::of(language, &text, &tree, &names);
    Some(Module { path: relative(&project.root, path)?.into(), summary })
}

/// The other files, as one file sees them.
#[derive(Debug)]
pub(crate) struct ModulesOf<'m> {
    index: &'m ModuleIndex,
    project: &'m Project,
    language: Language,
    /// What was found, by the file that asked and the name it used: a file names each of its modules many times.
    found: RefCell<FxHashMap<String, FxHashMap<String, Option<Arc<Module>>>>>,
    /// The folders in which the absolute names in the files of a folder are looked for.
    roots: RefCell<HashMap<PathBuf, Rc<[PathBuf]>>>,
}

impl<'m> ModulesOf<'m> {
    pub(crate) fn new(index: &'m ModuleIndex, project: &'m Project, language: Language) -> ModulesOf<'m> {
        ModulesOf { index, project, language, found: RefCell::default(), roots: RefCell::default() }
    }

    fn root(&self) -> &'m Path {
        &self.project.root
    }

    fn files(&self) -> &'m dyn Files {
        &*self.project.files
    }

    /// Whether a file is there. Links are not followed out of the project: what they lead to is not known.
    fn is_file(&self, path: &Path) -> bool {
        self.index.listings.kind(self.files(), self.root(), path) == Some(EntryKind::File)
    }

    fn settings(&self, path: &Path) -> Option<Arc<serde_json::Value>> {
        // Settings may name others anywhere; what lies outside is none of the code base's.
        if path.starts_with(self.root()) { self.index.settings(self.project, path) } else { None }
    }

    /// What is in a folder of the project.
    fn listing(&self, folder: &Path) -> Option<Arc<Listing>> {
        self.index.listings.of(self.files(), self.root(), folder)
    }

    /// Whether a folder of the project is there, and nothing in it has a name, with whatever ending.
    fn has_nothing_at(&self, place: &Path) -> bool {
        let Some((folder, name)) = place.parent().zip(place.file_name().and_then(|name| name.to_str())) else {
            return false;
        };
        // An ending may be that of what the file is compiled to.
        let stem =
            name.rsplit_once('.').filter(|(_, ending)| Language::of_extension(ending).is_some_and(Language::is_code));
        let stem = stem.map_or(name, |(stem, _)| stem);
        let has_name = |entry: &str| {
            [name, stem]
                .iter()
                .any(|name| entry.strip_prefix(name).is_some_and(|rest| rest.is_empty() || rest.starts_with('.')))
        };
        self.listing(folder).is_some_and(|listing| !listing.may_have(has_name))
    }

    /// The folders from one upwards to the root of the project.
    fn upwards<'p>(&self, folder: &'p Path) -> impl Iterator<Item = &'p Path> + use<'p, 'm> {
        let root = self.root();
        folder.ancestors().take_while(move |folder| folder.starts_with(root))
    }
}

impl Modules for ModulesOf<'_> {
    fn find(&self, from: &str, module: &str) -> Option<Arc<Module>> {
        if let Some(known) = self.found.borrow().get(from).and_then(|found| found.get(module)) {
            return known.clone();
        }
        let found = self.look_for(from, module);
        let mut all = self.found.borrow_mut();
        all.entry(from.to_string()).or_default().insert(module.to_string(), found.clone());
        found
    }

    fn is_missing(&self, from: &str, module: &str) -> bool {
        // Most are there, and known.
        if self.find(from, module).is_some() {
            return false;
        }
        self.kept(from, module, |known| &mut known.is_missing, || self.lies_nowhere(from, module))
    }

    fn folder(&self, from: &str, folder: &str) -> Option<Arc<FolderModule>> {
        let place = folder::place(self.root(), from, folder)?;
        let form = FolderForm::of_file(self.language, from).filter(|_| self.index.lies_below(&place, self.project))?;
        self.index.folders.of(self.project, &place, form)
    }

    fn opened_in_vain(&self, question: &OpeningQuestion, own: &[Opened]) -> Vec<String> {
        self.index.opened.in_vain(self.project, question, own)
    }
}

impl ModulesOf<'_> {
    fn look_for(&self, from: &str, module: &str) -> Option<Arc<Module>> {
        let path = self.kept(from, module, |known| &mut known.path, || self.path_of(from, module));
        self.index.module(&path?, self.project)
    }

    /// One thing that is known of a module; found out, and kept, where it is not.
    fn kept<T: Clone>(
        &self,
        from: &str,
        module: &str,
        of: fn(&mut Known) -> &mut Option<T>,
        find: impl FnOnce() -> T,
    ) -> T {
        let all = || self.index.known.lock().unwrap_or_else(PoisonError::into_inner);
        let mut before = all().get(self, from, module);
        if let Some(known) = of(&mut before).take() {
            return known;
        }
        let found = find();
        all().note(from, module, |known| *of(known) = Some(found.clone()));
        found
    }

    /// The file that an import means.
    fn path_of(&self, from: &str, module: &str) -> Option<PathBuf> {
        let from = absolute(self.root(), Path::new(from));
        (lookup_of(self.language)?.find)(self, &from, module)
    }

    /// Whether a module is named by its place, and nothing is there that it could be.
    fn lies_nowhere(&self, from: &str, module: &str) -> bool {
        let from = absolute(self.root(), Path::new(from));
        let Some(lookup) = lookup_of(self.language) else { return false };
        let place = (lookup.place)(&from, module);
        let may_be_compiled = |place: &Path| {
            let name = place.file_name().and_then(|name| name.to_str());
            lookup.may_be_compiled && name.is_some_and(|name| self.index.may_be_compiled(self.project, name))
        };
        place.is_some_and(|place| self.has_nothing_at(&place) && !may_be_compiled(&place))
    }
}

/// How imports of a language name files.
struct Lookup {
    /// The file that an import means: the file it is in, and the name that it uses.
    find: fn(&ModulesOf<'_>, &Path, &str) -> Option<PathBuf>,
    /// Where a file must be that an import names by its place.
    place: fn(&Path, &str) -> Option<PathBuf>,
    /// Modules may be compiled from files of other languages.
    may_be_compiled: bool,
}

/// How the imports of a language name files, where that is followed.
fn lookup_of(language: Language) -> Option<&'static Lookup> {
    static PYTHON: Lookup = Lookup { find: python::find, place: python::place, may_be_compiled: true };
    static JAVASCRIPT: Lookup = Lookup { find: javascript::find, place: javascript::place, may_be_compiled: false };
    match language {
        Language::Python => Some(&PYTHON),
        Language::JavaScript | Language::TypeScript | Language::Tsx => Some(&JAVASCRIPT),
        Language::Shell
        | Language::Json
        | Language::Jsonc
        | Language::Toml
        | Language::Yaml
        | Language::Css
        | Language::Html
        | Language::Hcl
        | Language::Go
        | Language::Rust
        | Language::Java
        | Language::CSharp => None,
    }
}
