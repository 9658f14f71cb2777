//! What one file says of itself to the others of its folder.

use std::collections::BTreeSet;

use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Tree};

use super::FolderForm;
use crate::configuration::{Configuration, Used};
use crate::names::Names;
use crate::{go, names_of};

/// What a file says of itself to others.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub struct FileDeclarations {
    /// Its name, without its folder.
    pub(super) name: String,
    /// The addresses that it declares, and whether a value must be given.
    pub(super) declared: Vec<(String, bool)>,
    /// The plain values of what it declares: strings, numbers, and yes or no.
    pub(super) values: Vec<(String, String)>,
    /// The functions that may return an error.
    pub(super) fallible: Vec<String>,
    /// The folders of the modules that it calls, by what it calls them; nothing for what is elsewhere.
    pub(super) calls: Vec<(String, Option<String>)>,
    /// What it declares takes the place of what others declare.
    pub(super) overrides: bool,
    /// The addresses that it refers to, each once.
    pub(super) used: BTreeSet<String>,
    /// It may say more than is known: it has syntax faults, or others are made of it.
    pub(super) is_broken: bool,
}

impl FileDeclarations {
    /// What a file says of itself, from its names where they are known already; nothing where its folder is no module.
    pub fn of(
        language: Language,
        path: &str,
        (text, tree): (&Text, &Tree),
        names: Option<&Names<'_>>,
    ) -> Option<FileDeclarations> {
        match FolderForm::of_file(language, path)? {
            FolderForm::Configuration => FileDeclarations::of_configuration(language, path, text, tree),
            FolderForm::Package => Some(match names {
                Some(names) => FileDeclarations::of_package(path, text, tree, names),
                None => FileDeclarations::of_package(path, text, tree, &names_of(language, text, tree)),
            }),
        }
    }

    /// The part of a package that a file is: the names that it declares for all files of the package, and those that it uses.
    fn of_package(path: &str, text: &Text, tree: &Tree, names: &Names<'_>) -> FileDeclarations {
        let part = go::PackagePart::of(text, tree, names);
        FileDeclarations {
            name: name_of(path).to_string(),
            declared: part.declared.into_iter().map(|name| (name.to_string(), false)).collect(),
            fallible: part.fallible.into_iter().map(str::to_string).collect(),
            used: part.used.into_iter().map(str::to_string).collect(),
            is_broken: part.is_unclear,
            ..FileDeclarations::default()
        }
    }

    fn of_configuration(language: Language, path: &str, text: &Text, tree: &Tree) -> Option<FileDeclarations> {
        let file = Configuration::of(language, path, text, tree)?;
        let places: FxHashMap<NodeId, &str> =
            file.declared.iter().map(|one| (one.node, one.address.as_str())).collect();
        // What refers to itself, as conditions of a variable do, is not used by that.
        let own = |used: &&Used| {
            tree.node(used.node).ancestors().any(|around| places.get(&around.id()) == Some(&used.address.as_str()))
        };
        let used = file.used.iter().filter(|used| !own(used));
        Some(FileDeclarations {
            name: name_of(path).to_string(),
            used: used.map(|one| one.address.clone()).collect(),
            declared: file.declared.iter().map(|one| (one.address.clone(), one.is_required)).collect(),
            values: file
                .declared
                .iter()
                .filter_map(|one| Some((one.address.clone(), plain_value(language, text, tree.node(one.value?))?)))
                .collect(),
            calls: file.calls.iter().map(|call| (call.address.clone(), call.folder().map(str::to_string))).collect(),
            fallible: Vec::new(),
            overrides: overrides(path),
            is_broken: !tree.faults().is_empty(),
        })
    }
}

/// The value of a node that is nothing but a string, a number, or yes or no; nothing of longer ones, which no list holds.
fn plain_value(language: Language, text: &Text, node: NodeRef<'_>) -> Option<String> {
    let source = text.slice(node.span());
    match node.kind() {
        _ if source.len() > LONGEST_VALUE => None,
        Kind::String => language.string_value(source),
        Kind::Number | Kind::Boolean => Some(source.to_string()),
        _ => None,
    }
}

/// The longest value that is noted, in bytes.
const LONGEST_VALUE: usize = 200;

fn name_of(path: &str) -> &str {
    path.rsplit('/').next().unwrap_or(path)
}

/// Whether what a file declares takes the place of what others of its folder declare.
fn overrides(path: &str) -> bool {
    let name = name_of(path);
    let stem = name.split('.').next().unwrap_or(name);
    stem == "override" || stem.ends_with("_override")
}
