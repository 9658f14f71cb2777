//! Packages: their names in imports, what a file is in its own, and what the language itself gives.

use std::collections::BTreeSet;
use std::sync::LazyLock;

use rustc_hash::FxHashSet;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, Tree};

use crate::names::{Binding, Collector, Declaration, DeclarationKind, Names, Resolution, ScopeId, Unknown};

/// "Predeclared identifiers".
static PREDECLARED: LazyLock<FxHashSet<&'static str>> = LazyLock::new(|| {
    let types = "any bool byte comparable complex64 complex128 error float32 float64 int int8 int16 int32 int64 rune string uint \
                 uint8 uint16 uint32 uint64 uintptr";
    let values = "true false iota nil";
    let functions =
        "append cap clear close complex copy delete imag len make max min new panic print println real recover";
    [types, values, functions].into_iter().flat_map(str::split_whitespace).collect()
});

/// Whether the language gives a name.
pub(crate) fn is_predeclared(name: &str) -> bool {
    PREDECLARED.contains(name)
}

/// Whether a package belongs to the library: the first part of its path is no name of a host ("cmd/go: Import path syntax").
pub(crate) fn is_of_library(path: &str) -> bool {
    !path.is_empty() && !path.starts_with('.') && !path.split('/').next().unwrap_or_default().contains('.')
}

/// `import "path"`, `import name "path"`, `import . "path"`
pub(super) fn on_import<'t>(collector: &mut Collector<'t>, item: NodeRef<'t>) {
    match item.child(Role::Alias) {
        Some(all) if all.kind() == Kind::ImportAll => {
            collector.mark_may_bind(ScopeId::FILE, Unknown::StarImport);
        }
        Some(alias) => {
            let name = collector.node_text(alias);
            if name != "_" {
                collector.bind(ScopeId::FILE, name, item, DeclarationKind::Import);
            }
        }
        None => {
            let path = item.child(Role::Module).map_or("", |path| collector.node_text(path));
            if let Some(name) = package_name(path.trim_matches(['"', '`'])) {
                collector.bind(ScopeId::FILE, name, item, DeclarationKind::Import);
            }
        }
    }
}

/// The name that a package probably has by its path: the last part, without one that is a version. Nothing where that is no name.
fn package_name(path: &str) -> Option<&str> {
    let is_version = |part: &str| {
        part.strip_prefix('v')
            .is_some_and(|digits| !digits.is_empty() && digits.bytes().all(|byte| byte.is_ascii_digit()))
    };
    let mut parts = path.rsplit('/');
    let last = parts.next()?;
    let name = if is_version(last) { parts.next()? } else { last };
    let is_name = |name: &str| {
        name.starts_with(|first: char| first.is_alphabetic() || first == '_')
            && name.chars().all(|letter| letter.is_alphanumeric() || letter == '_')
    };
    Some(name).filter(|name| is_name(name))
}

/// Whether a file is a part of the package of its folder, by its name ("cmd/go: Package lists and patterns").
pub(crate) fn is_of_package(name: &str) -> bool {
    name.ends_with(".go") && !name.starts_with(['_', '.'])
}

/// Whether a file beside those of a package may use what it declares: one of an assembler.
pub(crate) fn may_belong_to_package(name: &str) -> bool {
    name.ends_with(".s") || name.ends_with(".S")
}

/// What one file is in its package.
#[derive(Debug)]
pub(crate) struct PackagePart<'n> {
    /// The names that it declares for all files.
    pub(crate) declared: Vec<&'n str>,
    /// The functions among them whose last result is an error.
    pub(crate) fallible: Vec<&'n str>,
    /// The names of the package that it uses, or may use.
    pub(crate) used: BTreeSet<&'n str>,
    /// Whether the package may have more in it than its files show: some are made by programs, or are in another language.
    pub(crate) is_unclear: bool,
}

impl<'n> PackagePart<'n> {
    pub(crate) fn of(text: &'n Text, tree: &'n Tree, names: &'n Names<'_>) -> PackagePart<'n> {
        let of_file = |binding: &&Binding| binding.scope == ScopeId::FILE;
        let is_import = |one: &Declaration| one.kind == DeclarationKind::Import;
        let declared = names.bindings().filter(of_file).filter(|binding| !binding.declarations.iter().any(is_import));
        let mut used: BTreeSet<&str> = names
            .references()
            .filter(|reference| match reference.resolution {
                Resolution::Binding(id) => {
                    let binding = names.binding(id);
                    binding.scope == ScopeId::FILE && !is_within(tree, binding, reference.node)
                }
                // What the language gives, a package may declare otherwise.
                Resolution::Builtin | Resolution::Unknown(_) | Resolution::Undefined => true,
            })
            .map(|reference| names.text(reference.name))
            .collect();
        used.extend(directives(text.source()).flat_map(|(_, line)| line.split_whitespace().skip(1)));
        let is_made = memchr::memmem::find(text.source().as_bytes(), b"//go:generate").is_some();
        let functions = tree.root().children().filter(|node| node.kind() == Kind::Function);
        let fallible = functions.filter(|node| node.child(Role::Receiver).is_none() && returns_error(text, *node));
        PackagePart {
            fallible: fallible.filter_map(|node| Some(text.slice(node.child(Role::Name)?.span()))).collect(),
            declared: declared.map(|binding| names.text(binding.name)).collect(),
            used,
            is_unclear: is_made || !tree.faults().is_empty() || imports_c(text, tree),
        }
    }
}

/// Whether the last result of a function is an error.
fn returns_error(text: &Text, function: NodeRef<'_>) -> bool {
    let results = function.child(Role::Returns);
    let last = results.and_then(|results| match results.kind() {
        Kind::Parameters => results.children_in(Role::Parameter).last()?.child(Role::Type),
        _ => Some(results),
    });
    last.is_some_and(|last| text.slice(last.span()) == "error")
}

/// Whether a place is in the function or the type that a binding names: what refers to itself is not used by that.
fn is_within(tree: &Tree, binding: &Binding, place: NodeId) -> bool {
    binding.declarations.iter().any(|declaration| {
        let holder = tree.node(declaration.node).parent();
        holder.is_some_and(|holder| {
            let is_one = matches!(holder.kind(), Kind::Function | Kind::TypeDefinition | Kind::TypeAlias);
            is_one && holder.id() <= place && place < holder.end()
        })
    })
}

/// Comments for the compiler, which may mention names, each with its place in bytes: `//go:linkname now time.now`, `//export now`.
pub(crate) fn directives(source: &str) -> impl Iterator<Item = (usize, &str)> {
    let mut next = 0;
    source.split_inclusive('\n').filter_map(move |line| {
        let start = next;
        next += line.len();
        let is_one = line.starts_with("//go:") || line.starts_with("//export ");
        is_one.then(|| (start, line.trim_end()))
    })
}

/// `import "C"`: code in another language is compiled with it.
fn imports_c(text: &Text, tree: &Tree) -> bool {
    let imports = tree.root().children().filter(|node| node.kind() == Kind::Import);
    let mut paths =
        imports.flat_map(|import| import.children_in(Role::Item)).filter_map(|item| item.child(Role::Module));
    paths.any(|path| text.slice(path.span()).trim_matches(['"', '`']) == "C")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn packages_have_the_name_that_their_path_ends_with() {
        for (path, name) in
            [("fmt", Some("fmt")), ("math/rand/v2", Some("rand")), ("saltmarsh.example/go-tides", None), ("v2", None)]
        {
            assert_eq!(package_name(path), name, "{path}");
        }
        assert!(is_of_library("net/http") && !is_of_library("saltmarsh.example/tides") && !is_of_library("./tides"));
        assert!(is_predeclared("error") && is_predeclared("append") && !is_predeclared("tide"));
    }
}
