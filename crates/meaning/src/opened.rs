//! Namespaces that files open to know their types by their names alone: what files declare in them, and what a file says at all.
//!
//! After "Namespaces" and "Using directives" of the C# Language Specification (ECMA-334, 7th edition). Names are kept as numbers: whoever
//! asks wants to know whether any of some names is among others.

use std::hash::{Hash, Hasher};

use rustc_hash::{FxHashMap, FxHashSet, FxHasher};
use serde::{Deserialize, Serialize};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind, Tree};

use crate::declared::is_extension;
use crate::table::meaning_of;

/// What one file declares in a namespace for those who open it.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub struct Opened {
    /// The namespace, with dots.
    pub name: String,
    /// The names of its types, and of functions that are called on objects, as [`number_of`] gives them.
    pub names: Vec<u32>,
    /// Something in it may be used without its name, or was not understood.
    pub is_open: bool,
}

/// The namespaces that a file opens, and what it says.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub struct OpeningQuestion {
    /// The namespaces, in the order of the text.
    pub namespaces: Vec<String>,
    /// Every name in the file, as [`number_of`] gives them, in order.
    pub names: Vec<u32>,
}

impl OpeningQuestion {
    /// Those of the namespaces that somebody declares something in, and of which the file names nothing. `declared` is what files declare
    /// in one.
    pub fn in_vain<'o, D: Iterator<Item = &'o Opened>>(&self, declared: impl Fn(&str) -> D) -> Vec<String> {
        let in_vain = |namespace: &&String| {
            let mut declared = declared(namespace).peekable();
            declared.peek().is_some() && declared.all(|one| self.names_nothing_of(one))
        };
        self.namespaces.iter().filter(in_vain).cloned().collect()
    }

    fn names_nothing_of(&self, declared: &Opened) -> bool {
        !declared.is_open && declared.names.iter().all(|name| self.names.binary_search(name).is_err())
    }
}

/// A name as a number: two names seldom have the same.
pub fn number_of(name: &str) -> u32 {
    let name = name.strip_prefix('@').unwrap_or(name);
    let mut hasher = FxHasher::default();
    name.hash(&mut hasher);
    (hasher.finish() >> 32) as u32
}

/// Functions that are called on objects where no name of theirs is written: by `await`, `foreach`, initializers, taking apart, and
/// queries.
const CALLED_WITHOUT_NAME: &[&str] = &[
    "GetAwaiter",
    "GetEnumerator",
    "GetAsyncEnumerator",
    "GetPinnableReference",
    "Add",
    "Deconstruct",
    "Dispose",
    "DisposeAsync",
    "Cast",
    "Select",
    "SelectMany",
    "Where",
    "OrderBy",
    "OrderByDescending",
    "ThenBy",
    "ThenByDescending",
    "GroupBy",
    "Join",
    "GroupJoin",
];

/// Whether files of a language know the types of namespaces by their names alone once they have opened them.
pub fn opens_namespaces(language: Language) -> bool {
    meaning_of(language).opens_namespaces
}

/// What declares a type.
const TYPES: &[Kind] = &[Kind::Class, Kind::Interface, Kind::Enum, Kind::Delegate];

/// What a file declares in namespaces; nothing in languages that do not open them.
pub fn opened_by(language: Language, text: &Text, tree: &Tree) -> Option<Vec<Opened>> {
    if !opens_namespaces(language) {
        return None;
    }
    let of_file = tree.root().children().find(|one| one.kind() == Kind::PackageClause);
    let of_file = of_file.and_then(|clause| clause.child(Role::Name));
    let mut places: FxHashMap<String, usize> = FxHashMap::default();
    let mut found: Vec<Opened> = Vec::new();
    for node in tree.nodes_of_any(&[Kind::Class, Kind::Interface, Kind::Enum, Kind::Delegate, Kind::Function]) {
        let Some(name) = node.child(Role::Name) else { continue };
        let is_function = node.kind() == Kind::Function;
        if is_function && !is_extension(node) || !is_function && is_inside_type(node) {
            continue;
        }
        let namespace = namespace_at(text, node, of_file);
        let place = *places.entry(namespace).or_insert_with_key(|namespace| {
            found.push(Opened { name: namespace.clone(), names: Vec::new(), is_open: false });
            found.len() - 1
        });
        let name = text.slice(name.span());
        let opened = &mut found[place];
        opened.names.push(number_of(name));
        // An attribute is named without the end of its type's name.
        opened.names.extend(name.strip_suffix("Attribute").map(number_of));
        opened.is_open |= is_function && CALLED_WITHOUT_NAME.contains(&name);
    }
    let hidden: Vec<&str> = if tree.faults().is_empty() { left_out(text, tree).collect() } else { vec![text.source()] };
    if !hidden.is_empty() {
        // Any of them may have more.
        found.iter_mut().for_each(|opened| opened.is_open = true);
        found.extend(hidden.into_iter().flat_map(not_understood));
    }
    // What is in no namespace needs none to be opened.
    found.retain(|opened| !opened.name.is_empty());
    for opened in &mut found {
        opened.names.sort_unstable();
        opened.names.dedup();
    }
    Some(found)
}

/// The code between lines for the preprocessor that is in no tree.
fn left_out<'t>(text: &'t Text, tree: &'t Tree) -> impl Iterator<Item = &'t str> {
    let tokens = tree.tokens_with_spans(0..tree.tokens().len() as TokenId);
    tokens.filter(|(_, kind, _)| *kind == TokenKind::LeftOut).map(|(.., span)| text.slice(span))
}

/// The namespaces that code says it adds to, where it is not understood what.
pub fn not_understood(code: &str) -> impl Iterator<Item = Opened> {
    code.split("namespace").skip(1).map(|rest| {
        let is_part = |character: &char| character.is_alphanumeric() || matches!(character, '_' | '.' | '@');
        Opened { name: rest.trim_start().chars().take_while(is_part).collect(), names: Vec::new(), is_open: true }
    })
}

/// Every name that a file writes outside of imports, strings and plain comments, and where it does not declare a type, as numbers in
/// order.
pub fn names_in(text: &Text, tree: &Tree) -> Vec<u32> {
    let mut names = FxHashSet::default();
    let types = tree.nodes_of_any(TYPES).into_iter().filter_map(|one| one.child(Role::Name));
    let declared: FxHashSet<TokenId> = types.map(|name| name.token_range().start).collect();
    let mut imports = tree.nodes_of_any(&[Kind::Import]).into_iter().map(NodeRef::token_range).peekable();
    for (token, kind, span) in tree.tokens_with_spans(0..tree.tokens().len() as TokenId) {
        while imports.next_if(|import| import.end <= token).is_some() {}
        if declared.contains(&token) || imports.peek().is_some_and(|import| import.contains(&token)) {
            continue;
        }
        let written = text.slice(span);
        match kind {
            TokenKind::String | TokenKind::FormatText => {}
            // Comments for documentation refer to types.
            TokenKind::Comment if !written.starts_with("///") && !written.starts_with("/**") => {}
            TokenKind::Name => drop(names.insert(number_of(written))),
            _ => names.extend(words_of(written).map(number_of)),
        }
    }
    let mut names: Vec<u32> = names.into_iter().collect();
    names.sort_unstable();
    names
}

fn words_of(written: &str) -> impl Iterator<Item = &str> {
    let words = written.split(|character: char| !character.is_alphanumeric() && character != '_');
    words.filter(|word| word.starts_with(|first: char| first.is_alphabetic() || first == '_'))
}

fn is_inside_type(node: NodeRef<'_>) -> bool {
    node.ancestors().any(|around| matches!(around.kind(), Kind::Class | Kind::Interface))
}

/// The namespace that a node is, or is in, with dots; empty outside of all. `of_file` is the name of that of the whole file, if it has one.
pub fn namespace_at<'t>(text: &Text, node: NodeRef<'t>, of_file: Option<NodeRef<'t>>) -> String {
    let around = std::iter::once(node).chain(node.ancestors()).filter(|around| around.kind() == Kind::Namespace);
    let names =
        around.filter_map(|holder| holder.child(Role::Name)).chain(of_file.filter(|name| name.id() < node.id()));
    let mut parts: Vec<String> = names.map(|name| text.slice(name.span()).split_whitespace().collect()).collect();
    parts.reverse();
    parts.join(".")
}
