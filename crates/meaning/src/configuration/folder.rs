//! A module: what the files of its folder say together.

use std::collections::{BTreeMap, BTreeSet};

use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{NodeId, Tree};

use super::{Configuration, Used};

/// What a file says of itself to others.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub struct FileDeclarations {
    /// The addresses that it declares, and whether a value must be given.
    declared: Vec<(String, bool)>,
    /// The folders of the modules that it calls, by what it calls them; nothing for what is elsewhere.
    calls: Vec<(String, Option<String>)>,
    /// What it declares takes the place of what others declare.
    overrides: bool,
    /// The addresses that it refers to, each once.
    used: BTreeSet<String>,
    /// It has syntax faults: it may say more than is known.
    is_broken: bool,
}

impl FileDeclarations {
    /// What a file says of itself; nothing where its folder is no module.
    pub fn of(language: Language, path: &str, text: &Text, tree: &Tree) -> Option<FileDeclarations> {
        let file = Configuration::of(language, path, text, tree)?;
        let places: FxHashMap<NodeId, &str> =
            file.declared.iter().map(|one| (one.node, one.address.as_str())).collect();
        // What refers to itself, as conditions of a variable do, is not used by that.
        let own = |used: &&Used| {
            tree.node(used.node).ancestors().any(|around| places.get(&around.id()) == Some(&used.address.as_str()))
        };
        let used = file.used.iter().filter(|used| !own(used));
        Some(FileDeclarations {
            used: used.map(|one| one.address.clone()).collect(),
            declared: file.declared.iter().map(|one| (one.address.clone(), one.is_required)).collect(),
            calls: file.calls.iter().map(|call| (call.address.clone(), call.folder().map(str::to_string))).collect(),
            overrides: overrides(path),
            is_broken: !tree.faults().is_empty(),
        })
    }
}

/// What a file asks of its own module, or of one that it calls.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub enum ModuleQuestion {
    /// Whether the module lacks an address: the folder, from that of the file, and the address. The answer is what may be meant.
    Lacks {
        /// The folder, from that of the file; empty for its own.
        folder: String,
        /// The address.
        address: String,
    },
    /// Whether nothing in the file's own module refers to an address.
    Unused(String),
    /// Whether a module that the file's own one calls lacks an output. The answer is what may be meant.
    GivesNot {
        /// What its own module calls it.
        call: String,
        /// The name of the output.
        output: String,
    },
    /// Whether the file's own module declares an address more than once.
    Repeated(String),
    /// Whether something is not given that a module needs. The answer is the names.
    NotGiven {
        /// The folder, from that of the file.
        folder: String,
        /// The names of what it is given.
        given: Vec<String>,
    },
}

impl ModuleQuestion {
    /// The folder of the module, from that of the file; empty for its own.
    pub fn folder(&self) -> &str {
        match self {
            ModuleQuestion::Lacks { folder, .. } | ModuleQuestion::NotGiven { folder, .. } => folder,
            ModuleQuestion::Unused(_) | ModuleQuestion::Repeated(_) | ModuleQuestion::GivesNot { .. } => "",
        }
    }
}

/// A module, all files of which are known.
#[derive(Debug, Default)]
pub struct FolderModule {
    declared: BTreeMap<String, bool>,
    repeated: BTreeSet<String>,
    calls: BTreeMap<String, Option<String>>,
    used: BTreeSet<String>,
}

impl FolderModule {
    /// The module that some files are; nothing where it may have more in it than they show, or is none.
    pub fn of<'f>(files: impl IntoIterator<Item = &'f FileDeclarations>) -> Option<FolderModule> {
        let mut module = FolderModule::default();
        let mut count = 0;
        for file in files {
            if file.is_broken {
                return None;
            }
            count += 1;
            module.declare(file);
            module.calls.extend(file.calls.iter().cloned());
            module.used.extend(file.used.iter().cloned());
        }
        (count > 0).then_some(module)
    }

    fn declare(&mut self, file: &FileDeclarations) {
        for (address, is_required) in &file.declared {
            let is_new = self.declared.insert(address.clone(), *is_required).is_none();
            if !is_new && !file.overrides {
                self.repeated.insert(address.clone());
            }
        }
    }

    /// The folder of a module that this one calls, if that is in the project.
    pub(crate) fn called(&self, call: &str) -> Option<&str> {
        self.calls.get(call)?.as_deref()
    }

    /// What is wrong, by a question: nothing where all is well, or cannot be known.
    pub fn complaint(&self, question: &ModuleQuestion) -> Option<Vec<String>> {
        match question {
            ModuleQuestion::Lacks { folder, address } => self.meant_instead(address, folder.is_empty()),
            // Another module answers.
            ModuleQuestion::GivesNot { .. } => None,
            ModuleQuestion::Repeated(address) => self.repeated.contains(address).then(Vec::new),
            ModuleQuestion::Unused(address) => (!self.used.contains(address)).then(Vec::new),
            ModuleQuestion::NotGiven { given, .. } => {
                let needed = self.declared.iter().filter(|(_, is_required)| **is_required);
                let names = needed.filter_map(|(address, _)| address.strip_prefix("var."));
                let lacking: Vec<String> =
                    names.filter(|name| !given.iter().any(|own| own == name)).map(str::to_string).collect();
                (!lacking.is_empty()).then_some(lacking)
            }
        }
    }

    /// What a module has that may be meant by an address that it lacks. A module of which a part is elsewhere, as it declares nothing of a kind
    /// that it refers to, is not whole.
    fn meant_instead(&self, address: &str, is_own: bool) -> Option<Vec<String>> {
        if self.declared.contains_key(address) {
            return None;
        }
        let kind = kind_of(address);
        let mut alike = self.declared.keys().filter(|other| kind_of(other) == kind).peekable();
        if is_own && alike.peek().is_none() {
            return None;
        }
        Some(alike.take(MOST_COMPARED).filter(|other| is_near(other, address)).take(MOST_NEAR).cloned().collect())
    }
}

/// Whether what a file declares takes the place of what others of its folder declare.
fn overrides(path: &str) -> bool {
    let name = path.rsplit('/').next().unwrap_or(path);
    let stem = name.split('.').next().unwrap_or(name);
    stem == "override" || stem.ends_with("_override")
}

/// What sort of thing an address is of: all resources are of one.
fn kind_of(address: &str) -> &str {
    let first = address.split('.').next().unwrap_or_default();
    if matches!(first, "var" | "local" | "output" | "data" | "ephemeral" | "module") { first } else { "" }
}

/// With so many addresses a wrong one is compared.
const MOST_COMPARED: usize = 4096;

/// At most so many addresses that may be meant are returned.
const MOST_NEAR: usize = 16;

/// Whether two addresses differ by two letters at most, whatever their order.
fn is_near(one: &str, other: &str) -> bool {
    if one.len().abs_diff(other.len()) > 2 {
        return false;
    }
    let mut counts = [0i32; 256];
    one.bytes().for_each(|byte| counts[usize::from(byte)] += 1);
    other.bytes().for_each(|byte| counts[usize::from(byte)] -= 1);
    let sum = |sign: i32| counts.iter().map(|count| (count * sign).max(0)).sum::<i32>();
    sum(1).max(sum(-1)) <= 2
}
