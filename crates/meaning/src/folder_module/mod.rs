//! Folders whose files are one module: what one of them declares is known in all, with nothing that imports it.
//!
//! In infrastructure files a module is what one folder configures; in Go it is a package.

mod declarations;

use std::collections::{BTreeMap, BTreeSet};

use serde::{Deserialize, Serialize};
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;

use crate::configuration;
use crate::go;

pub use declarations::FileDeclarations;

/// What sort of module a folder is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FolderForm {
    /// One of infrastructure files.
    Configuration,
    /// A package of Go.
    Package,
}

impl FolderForm {
    /// How many there are.
    pub const COUNT: usize = 2;

    /// The sort of module that a file in a language is a part of, whatever its folder.
    pub fn of(language: Language) -> Option<FolderForm> {
        match language {
            Language::Hcl => Some(FolderForm::Configuration),
            Language::Go => Some(FolderForm::Package),
            _ => None,
        }
    }

    /// The sort of module that a file is a part of; nothing where it is none of its parts.
    pub fn of_file(language: Language, path: &str) -> Option<FolderForm> {
        let name = path.rsplit('/').next().unwrap_or(path);
        let in_json = (language.is_data() && configuration::is_in_json(name)).then_some(FolderForm::Configuration);
        in_json.or_else(|| FolderForm::of(language).filter(|form| form.has_part(name)))
    }

    /// Whether a file is a part of the module, by its name.
    pub fn has_part(self, name: &str) -> bool {
        match self {
            FolderForm::Configuration => configuration::is_of_module(name),
            FolderForm::Package => go::is_of_package(name),
        }
    }

    /// Whether a file beside the parts of a module may declare or use something in it, though it is none of them.
    pub fn may_have(self, name: &str) -> bool {
        match self {
            FolderForm::Configuration => configuration::may_belong_to_module(name),
            FolderForm::Package => go::may_belong_to_package(name),
        }
    }

    /// Where comments for a compiler mention a name, from the beginning of the line to its end, in bytes.
    pub fn directive_with(self, source: &str, name: &str) -> Option<Span> {
        let mut all = match self {
            FolderForm::Configuration => None,
            FolderForm::Package => Some(go::directives(source)),
        };
        let (start, line) = all.as_mut()?.find(|(_, line)| line.split_whitespace().skip(1).any(|word| word == name))?;
        Some(Span::new(start as u32, (start + line.len()) as u32))
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
    /// What plain value an address has in the file's own module, where nothing else gives it one. The answer is the value.
    Value(String),
    /// Whether a function that the file's own package declares may return an error.
    MayFail(String),
    /// The file of the module whose name begins with a word and a dot. The answer is its name.
    FileNamed(String),
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
            ModuleQuestion::Unused(_)
            | ModuleQuestion::Repeated(_)
            | ModuleQuestion::Value(_)
            | ModuleQuestion::FileNamed(_)
            | ModuleQuestion::MayFail(_)
            | ModuleQuestion::GivesNot { .. } => "",
        }
    }
}

/// A module, all files of which are known.
#[derive(Debug, Default)]
pub struct FolderModule {
    /// The names of its files.
    files: BTreeSet<String>,
    declared: BTreeMap<String, bool>,
    repeated: BTreeSet<String>,
    values: BTreeMap<String, String>,
    fallible: BTreeSet<String>,
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
            module.fallible.extend(file.fallible.iter().cloned());
            module.files.insert(file.name.clone());
            module.note_values(file);
            module.calls.extend(file.calls.iter().cloned());
            module.used.extend(file.used.iter().cloned());
        }
        (count > 0).then_some(module)
    }

    fn note_values(&mut self, file: &FileDeclarations) {
        for (address, value) in &file.values {
            let known = self.values.entry(address.clone()).or_insert_with(|| value.clone());
            if file.overrides {
                known.clone_from(value);
            }
        }
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
            ModuleQuestion::Value(address) => Some(vec![self.values.get(address)?.clone()]),
            ModuleQuestion::MayFail(name) => self.fallible.contains(name).then(Vec::new),
            ModuleQuestion::FileNamed(word) => {
                let is_it = |name: &&String| name.strip_prefix(word.as_str()).is_some_and(|rest| rest.starts_with('.'));
                Some(vec![self.files.iter().find(is_it)?.clone()])
            }
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
