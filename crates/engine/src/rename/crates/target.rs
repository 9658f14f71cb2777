//! What is renamed in crates, and what else than paths may find it.

use std::collections::BTreeSet;

use sieve_meaning::names::BindingId;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::lookup::{Lookup, Meaning, declared};
use crate::rename::Renamed;
use crate::rename::audit::refused;
use crate::rename::source::View;

/// What is renamed.
#[derive(Debug)]
pub(super) enum Target {
    /// An item of a module, or a variant: its file and its binding.
    Item(usize, BindingId),
    /// A module, once for each crate that has it, and all that take its place where attributes choose one of several.
    Modules(BTreeSet<usize>),
}

impl Target {
    /// What a binding of a file is; nothing where paths cannot name it.
    pub(super) fn of(lookup: &Lookup<'_, '_>, home: usize, id: BindingId, old: &str) -> Option<Target> {
        let view = &lookup.views[home];
        if is_item(view, id) || is_variant(view, id) {
            return Some(Target::Item(home, id));
        }
        let holder = declared(view, id).next()?.parent().filter(|holder| holder.kind() == Kind::Namespace)?;
        let around = lookup.modules.around(home, holder.parent()?);
        let declared = around.iter().flat_map(|outer| lookup.modules.children(*outer, old)).collect();
        Some(Target::Modules(lookup.modules.with_twins(declared, old))).filter(|target| target.is_something())
    }

    fn is_something(&self) -> bool {
        matches!(self, Target::Modules(modules) if !modules.is_empty())
    }

    pub(super) fn is(&self, meaning: &Meaning) -> bool {
        match self {
            Target::Item(file, id) => *meaning == Meaning::Item(*file, *id),
            Target::Modules(modules) => matches!(meaning, Meaning::Module(one) if modules.contains(one)),
        }
    }
}

/// Whether a binding is an item of a module that paths can name: no module, macro or variant.
fn is_item(view: &View<'_>, id: BindingId) -> bool {
    let is_kind = |kind: Kind| {
        matches!(
            kind,
            Kind::Function
                | Kind::TypeDefinition
                | Kind::TypeAlias
                | Kind::Enum
                | Kind::Class
                | Kind::Interface
                | Kind::Assignment
                | Kind::AnnotatedAssignment
        )
    };
    let of_module = view.file.tree.node(view.names.scope(view.names.binding(id).scope).node).kind();
    matches!(of_module, Kind::File | Kind::Namespace)
        && declared(view, id).all(|name| name.parent().is_some_and(|holder| is_kind(holder.kind())))
}

/// Whether a binding is a variant of an enumeration of a module. One that begins with a small letter may be taken for a variable.
pub(super) fn is_variant(view: &View<'_>, id: BindingId) -> bool {
    let is_seen = |name: NodeRef<'_>| {
        let holder = name.parent().filter(|holder| holder.kind() == Kind::EnumMember).and_then(enumeration);
        let around = holder.and_then(NodeRef::parent);
        let is_of_module = |around: NodeRef<'_>| {
            around.kind() == Kind::File || around.parent().is_some_and(|holder| holder.kind() == Kind::Namespace)
        };
        view.file.slice(name).starts_with(char::is_uppercase) && around.is_some_and(is_of_module)
    };
    declared(view, id).all(is_seen)
}

/// The enumeration that a variant is one of.
fn enumeration(variant: NodeRef<'_>) -> Option<NodeRef<'_>> {
    variant.parent()?.parent().filter(|holder| holder.kind() == Kind::Enum)
}

/// Refuses where something else than paths finds what is renamed: what is made in another language, and what attributes name.
pub(super) fn may_be_found_otherwise(view: &View<'_>, id: BindingId, old: &str, all_members: bool) -> Renamed<()> {
    let says = |attribute: &NodeRef<'_>| {
        let said = view.file.slice(*attribute);
        ["no_mangle", "proc_macro", "wasm_bindgen", "pymodule", "pyfunction"].iter().any(|word| said.contains(word))
    };
    let found = declared(view, id).find_map(|name| {
        let foreign = name.ancestors().take(3).find(|around| around.kind() == Kind::ExternBlock);
        let attribute = name.parent().and_then(|holder| holder.children_in(Role::Decorator).find(says));
        foreign.map(|_| name).or(attribute).map(NodeRef::span)
    });
    if let Some(span) = found {
        return refused(format!("others than Rust find \"{old}\" by its name"), view, span);
    }
    let holder = declared(view, id).find_map(|name| enumeration(name.parent()?));
    holder.filter(|_| !all_members).map_or(Ok(()), |holder| nothing_is_derived(view, holder, old))
}

/// Refuses where a type derives something that may use the names in it.
pub(super) fn nothing_is_derived(view: &View<'_>, holder: NodeRef<'_>, old: &str) -> Renamed<()> {
    let Some((name, span)) = derived_from_elsewhere(view, holder) else { return Ok(()) };
    let message =
        format!("what derives \"{name}\" may use the name \"{old}\"; --all-members takes it that nothing does");
    refused(message, view, span)
}

/// What a type derives that is not of the library, and may make something of the names in the type.
fn derived_from_elsewhere<'v>(view: &'v View<'_>, holder: NodeRef<'v>) -> Option<(&'v str, Span)> {
    holder.children_in(Role::Decorator).find_map(|attribute| {
        let derived = view.file.slice(attribute).split("derive(").skip(1);
        let names = derived.flat_map(|said| said.split(')').next().unwrap_or_default().split(','));
        let mut last = names.map(|name| name.rsplit("::").next().unwrap_or_default().trim());
        last.find(|name| !name.is_empty() && !DERIVED.contains(name)).map(|name| (name, attribute.span()))
    })
}

/// What the library derives ("Derivable Traits", The Rust Programming Language).
const DERIVED: &[&str] = &["Clone", "Copy", "Debug", "Default", "Eq", "Hash", "Ord", "PartialEq", "PartialOrd"];
