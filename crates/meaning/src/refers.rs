//! What an expression refers to outside of its file: `now` after `from clock import now` is `clock.now`.

use std::borrow::Cow;

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::names::{BindingId, DeclarationKind, Names, Resolution};
use crate::table::meaning_of;

/// A module, as its importer writes it, and the way to a thing in it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ExternalPath<'t> {
    /// The module; empty for what the language provides.
    pub module: Cow<'t, str>,
    /// The names that lead from the module to the thing; empty for the module itself.
    pub path: Vec<&'t str>,
}

impl ExternalPath<'_> {
    /// Module and names, joined by dots.
    pub fn dotted(&self) -> String {
        let mut whole = self.module.to_string();
        for name in &self.path {
            if !whole.is_empty() {
                whole.push('.');
            }
            whole.push_str(name);
        }
        whole
    }
}

/// Paths of more members lead to nothing that anybody asks for; each of their parts is asked.
const LONGEST_PATH: usize = 32;

/// What a name, or a path of members that begins with one, refers to outside of the file; nothing if it is the file's own, or
/// not known.
pub fn outside<'t>(
    language: Language,
    text: &'t Text,
    names: &Names<'t>,
    node: NodeRef<'t>,
) -> Option<ExternalPath<'t>> {
    let opens_namespaces = meaning_of(language).opens_namespaces;
    let mut members = Vec::new();
    let mut object = node;
    let mut is_path = false;
    loop {
        if members.len() > LONGEST_PATH {
            return None;
        }
        match object.kind() {
            Kind::Member | Kind::Path => {
                is_path |= object.kind() == Kind::Path;
                members.push(text.slice(object.child(Role::Name)?.span()));
                object = object.child(Role::Object)?;
            }
            Kind::Group | Kind::NonNull => object = object.child(Role::Value)?,
            _ => break,
        }
    }
    let mut found = match object.kind() {
        Kind::Name => match names.resolution_at(object.id())? {
            Resolution::Builtin => ExternalPath { module: "".into(), path: vec![text.slice(object.span())] },
            Resolution::Binding(binding) => imported(language, text, names, object, binding)?,
            // Another package, by its name: `std::process::exit`. Or a type of a namespace, which the file knows by its name alone.
            Resolution::Unknown(_) if is_path || opens_namespaces && !members.is_empty() => {
                ExternalPath { module: text.slice(object.span()).into(), path: Vec::new() }
            }
            Resolution::Unknown(_) | Resolution::Undefined => return None,
        },
        Kind::Call => ExternalPath { module: required(language, text, names, object)?.into(), path: Vec::new() },
        _ => return None,
    };
    found.path.extend(members.into_iter().rev());
    Some(found)
}

/// What an import gives a name; all places that bind the name must be imports.
fn imported<'t>(
    language: Language,
    text: &'t Text,
    names: &Names<'t>,
    name: NodeRef<'t>,
    binding: BindingId,
) -> Option<ExternalPath<'t>> {
    let tree = name.tree();
    let declarations = &names.binding(binding).declarations;
    let first = tree.node(declarations.first()?.node);
    if declarations.iter().all(|one| one.kind == DeclarationKind::Import) {
        return of_item(language, text, first);
    }
    // `const tides = require("tides")`, `const { now } = require("clock")`
    let [only] = declarations.as_slice() else { return None };
    if names.binding(binding).writes > 0 || language == Language::Python {
        return None;
    }
    let holder = tree.node(only.node).ancestors().find(|node| node.kind() == Kind::Assignment)?;
    let module = required(language, text, names, holder.child_at_end(Role::Value)?)?;
    let mut path = Vec::new();
    match only.kind {
        DeclarationKind::Assignment => {}
        DeclarationKind::Unpacking => {
            let capture = tree.node(only.node).parent()?;
            let pair = capture.parent()?;
            let is_direct =
                |pattern: NodeRef<'_>| pattern.kind() == Kind::MappingPattern && pattern.role() == Role::Target;
            match pair.kind() {
                Kind::MappingPattern if is_direct(pair) => path.push(text.slice(only_name(capture)?.span())),
                Kind::PairPattern if is_direct(pair.parent()?) => path.push(text.slice(pair.child(Role::Key)?.span())),
                _ => return None,
            }
        }
        _ => return None,
    }
    Some(ExternalPath { module: module.into(), path })
}

fn only_name(capture: NodeRef<'_>) -> Option<NodeRef<'_>> {
    capture.child(Role::Name)
}

/// What an import statement's item is.
pub fn of_item<'t>(language: Language, text: &'t Text, item: NodeRef<'t>) -> Option<ExternalPath<'t>> {
    let slice = |node: NodeRef<'_>| text.slice(node.span());
    let import = item.parent()?;
    if language == Language::Python {
        return Some(match import.child_at_end(Role::Module) {
            Some(module) => {
                ExternalPath { module: slice(module).into(), path: vec![text.slice(item.child(Role::Name)?.span())] }
            }
            None => {
                let module = text.slice(item.child(Role::Module).or_else(|| item.child(Role::Name))?.span());
                let named = item.child(Role::Alias).is_some();
                let bound = if named { module } else { module.split('.').next().unwrap_or(module) };
                ExternalPath { module: bound.into(), path: Vec::new() }
            }
        });
    }
    // A type of a package, or a member of one; items in braces have what is before these in common.
    if item.child(Role::Name).is_some() && (item.child(Role::Module).is_some() || import.kind() == Kind::ImportItem) {
        return Some(of_package(text, item));
    }
    // All of a namespace or of a type, or a type under another name.
    let path = |node: &NodeRef<'_>| matches!(node.kind(), Kind::Name | Kind::Member | Kind::Path | Kind::NamedType);
    let opened = || item.child(Role::Module).or_else(|| item.child(Role::Name)).filter(path);
    if let Some(opened) = opened().filter(|_| meaning_of(language).opens_namespaces) {
        let module: String = slice(opened).split_whitespace().collect();
        return Some(ExternalPath { module: module.into(), path: Vec::new() });
    }
    // A package, which has a name of its own in the file.
    if let Some(path) = item.child(Role::Module).filter(|_| import.child_at_end(Role::Module).is_none()) {
        let module = Cow::Owned(language.string_value(text.slice(path.span()))?);
        return Some(ExternalPath { module, path: Vec::new() });
    }
    let module = language.string_value(text.slice(import.child_at_end(Role::Module)?.span()))?;
    let module = Cow::Owned(without_scheme(module));
    let path = match item.kind() {
        Kind::ImportItem => vec![text.slice(item.child(Role::Name)?.span())],
        Kind::ImportDefault => vec!["default"],
        Kind::ImportAll => Vec::new(),
        _ => return None,
    };
    Some(ExternalPath { module, path })
}

/// A thing in a package or a module, whose parts are joined by dots or by two colons.
fn of_package<'t>(text: &'t Text, item: NodeRef<'t>) -> ExternalPath<'t> {
    let mut modules: Vec<String> = Vec::new();
    let mut next = Some(item);
    while let Some(around) = next.filter(|around| around.kind() == Kind::ImportItem) {
        let module = around.child(Role::Module).map(|module| text.slice(module.span()));
        modules.extend(module.map(|module| module.split_whitespace().collect::<String>().replace("::", ".")));
        next = around.parent();
    }
    modules.reverse();
    let name = item.child(Role::Name).map(|name| text.slice(name.span()));
    let path = name.into_iter().filter(|name| *name != "self").collect();
    ExternalPath { module: modules.join(".").into(), path }
}

/// The module that `require("…")` brings.
fn required(language: Language, text: &Text, names: &Names<'_>, call: NodeRef<'_>) -> Option<String> {
    if call.kind() != Kind::Call || language == Language::Python {
        return None;
    }
    let callee = call.child(Role::Callee)?;
    let is_require = callee.kind() == Kind::Name && text.slice(callee.span()) == "require";
    if !is_require || matches!(names.resolution_at(callee.id()), Some(Resolution::Binding(_))) {
        return None;
    }
    let argument = call.child(Role::Arguments)?.children().next()?;
    language.string_value(text.slice(argument.span())).map(without_scheme)
}

/// `node:fs` is the module `fs` that the platform brings.
fn without_scheme(module: String) -> String {
    match module.strip_prefix("node:") {
        Some(rest) => rest.to_string(),
        None => module,
    }
}
