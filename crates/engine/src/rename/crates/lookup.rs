//! What names and paths mean in a module.

use std::cell::{Cell, RefCell};
use std::collections::BTreeSet;

use sieve_meaning::names::{BindingId, DeclarationKind, Namespace};
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::modules::{Import, Modules, words_of};
use crate::rename::source::View;

/// What a name may mean.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Meaning {
    /// An item or a variant: its file and its binding.
    Item(usize, BindingId),
    Module(usize),
    /// Something in a type, or in a crate that is not in the project.
    Elsewhere,
    /// Nothing that is known.
    Unknown,
}

/// Looks for names in modules.
pub(super) struct Lookup<'p, 's> {
    pub(super) views: &'p [View<'s>],
    pub(super) modules: &'p Modules,
    /// The names that are being looked for, each in a module: imports may go round in a circle.
    busy: RefCell<BTreeSet<(usize, String)>>,
    /// How many names were looked for on behalf of one.
    steps: Cell<u32>,
}

/// So many names are looked for on behalf of one: imports of all names may lead to each other in many ways.
const MOST_STEPS: u32 = 10_000;

/// Crates that are always there ("Preludes", The Rust Reference).
const LIBRARIES: &[&str] = &["alloc", "core", "std"];

/// Imports of imports are followed so deep.
const DEEPEST: usize = 200;

impl<'p, 's> Lookup<'p, 's> {
    pub(super) fn new(views: &'p [View<'s>], modules: &'p Modules) -> Lookup<'p, 's> {
        Lookup { views, modules, busy: RefCell::default(), steps: Cell::new(0) }
    }

    /// What a name means in a module: what that declares, or imports by name, or else what its imports of all names bring.
    pub(super) fn name(&self, module: usize, name: &str) -> Vec<Meaning> {
        self.steps.set(0);
        self.name_within(module, name)
    }

    /// What a path means that is written in a module.
    pub(super) fn path(&self, module: usize, path: &[String]) -> Vec<Meaning> {
        self.steps.set(0);
        self.path_within(module, path)
    }

    fn name_within(&self, module: usize, name: &str) -> Vec<Meaning> {
        self.steps.set(self.steps.get() + 1);
        if self.steps.get() > MOST_STEPS || self.busy.borrow().len() > DEEPEST {
            return vec![Meaning::Unknown];
        }
        if !self.busy.borrow_mut().insert((module, name.to_string())) {
            return Vec::new();
        }
        let found = self.all_of_name(module, name);
        self.busy.borrow_mut().remove(&(module, name.to_string()));
        found
    }

    fn all_of_name(&self, module: usize, name: &str) -> Vec<Meaning> {
        let here = &self.modules.all[module];
        let mut found = self.own(module, name);
        for import in here.imports.iter().filter(|import| import.bound.as_deref() == Some(name)) {
            found.extend(self.path_within(module, &import.path));
        }
        if found.is_empty() {
            let all = here.imports.iter().filter(|import| import.bound.is_none());
            found.extend(all.flat_map(|import| self.brought(module, import, name)));
        }
        let mut different: Vec<Meaning> = Vec::new();
        for one in found {
            if !different.contains(&one) {
                different.push(one);
            }
        }
        different
    }

    /// What an import of all names brings by one.
    fn brought(&self, module: usize, import: &Import, name: &str) -> Vec<Meaning> {
        let step = |from| match from {
            Meaning::Module(from) => self.name_within(from, name),
            Meaning::Item(file, id) => {
                let mut within = self.in_type((file, id), name, true);
                within.retain(|one| *one != Meaning::Elsewhere);
                within
            }
            Meaning::Unknown => vec![Meaning::Unknown],
            Meaning::Elsewhere => Vec::new(),
        };
        self.path_within(module, &import.path).into_iter().flat_map(step).collect()
    }

    /// What imports of all names within the functions of a module bring by one, each with the part of the `use` that says so.
    pub(super) fn brought_within(&self, module: usize, name: &str) -> Vec<(NodeId, Meaning)> {
        self.steps.set(0);
        let inner = self.modules.all[module].imports.iter().filter(|import| import.is_inner && import.bound.is_none());
        inner.flat_map(|import| self.brought(module, import, name).into_iter().map(|one| (import.item, one))).collect()
    }

    /// The modules and items of a name that a module declares itself.
    fn own(&self, module: usize, name: &str) -> Vec<Meaning> {
        let here = &self.modules.all[module];
        let children = here.children.iter().filter(|(child, _)| child == name);
        let modules = children.map(|(_, child)| Meaning::Module(*child));
        let items = self.declared(module, name).into_iter().map(|id| Meaning::Item(here.file, id));
        modules.chain(items).collect()
    }

    /// The items and types of a name that a module declares itself, modules left aside.
    pub(super) fn declared(&self, module: usize, name: &str) -> Vec<BindingId> {
        let view = &self.views[self.modules.all[module].file];
        let Some(scope) = self.modules.scope(self.views, module) else { return Vec::new() };
        let mut found: Vec<BindingId> =
            Namespace::ALL.iter().filter_map(|one| view.names.lookup_in(*one, scope, name)).collect();
        found.dedup();
        found.retain(|id| {
            let declared = view.names.binding(*id).declarations.iter();
            let mut nodes = declared.map(|one| (one.kind, view.file.tree.node(one.node)));
            nodes.all(|(kind, node)| {
                let is_module = node.parent().is_some_and(|holder| holder.kind() == Kind::Namespace);
                kind != DeclarationKind::Import && !is_module
            })
        });
        found
    }

    /// The variants of a name that a type has itself: more than one where attributes choose one of several types.
    pub(super) fn variant(&self, file: usize, id: BindingId, name: &str) -> Vec<Meaning> {
        let view = &self.views[file];
        let holders = declared(view, id).filter_map(NodeRef::parent).filter(|holder| holder.kind() == Kind::Enum);
        let scopes = holders.filter_map(|holder| view.names.module_scope(holder.id()));
        let found = scopes.filter_map(|scope| view.names.lookup_in(Namespace::Types, scope, name));
        found.map(|variant| Meaning::Item(file, variant)).collect()
    }

    /// What a name means in a type. Another name of a type is followed to that once.
    fn in_type(&self, (file, id): (usize, BindingId), word: &str, may_follow: bool) -> Vec<Meaning> {
        let found = self.variant(file, id, word);
        let alias = declared(&self.views[file], id)
            .filter_map(NodeRef::parent)
            .find_map(|holder| holder.child_of(Kind::TypeAlias, Role::Value));
        match alias.and_then(|written| self.words_of_type(file, written)) {
            _ if !found.is_empty() => found,
            None => vec![Meaning::Elsewhere],
            // `type Tide = Tide::Low` leads back to itself.
            Some((module, _)) if !may_follow || !self.busy.borrow_mut().insert((module, of_alias(file, id, word))) => {
                vec![Meaning::Unknown]
            }
            Some((module, path)) => {
                let meant = self.path_within(module, &path).into_iter();
                self.busy.borrow_mut().remove(&(module, of_alias(file, id, word)));
                let step = |one| match one {
                    Meaning::Item(file, id) if is_type(&self.views[file], id) => self.in_type((file, id), word, false),
                    Meaning::Unknown => vec![Meaning::Unknown],
                    Meaning::Item(..) | Meaning::Module(_) | Meaning::Elsewhere => vec![Meaning::Elsewhere],
                };
                meant.flat_map(step).collect()
            }
        }
    }

    /// The words of the path that a type is written as, with a module in which it is; nothing for a type of another form.
    fn words_of_type(&self, file: usize, written: NodeRef<'_>) -> Option<(usize, Vec<String>)> {
        let module = *self.modules.around(file, written).first()?;
        let name = written.child_of(Kind::NamedType, Role::Name)?;
        Some((module, words_of(self.views[file].file.slice(name))))
    }

    fn path_within(&self, module: usize, path: &[String]) -> Vec<Meaning> {
        let (mut meanings, rest) = self.beginning(module, path);
        for word in rest {
            let mut next = Vec::new();
            for meaning in meanings {
                match meaning {
                    Meaning::Module(inner) => next.extend(self.step(inner, word)),
                    Meaning::Item(file, id) if is_type(&self.views[file], id) => {
                        next.extend(self.in_type((file, id), word, true));
                    }
                    // Nothing is in a function or a constant: it is something else of that name that the path goes through.
                    Meaning::Item(..) => {}
                    Meaning::Elsewhere => next.push(Meaning::Elsewhere),
                    Meaning::Unknown => next.push(Meaning::Unknown),
                }
            }
            meanings = next;
        }
        meanings
    }

    fn step(&self, module: usize, word: &str) -> Vec<Meaning> {
        match word {
            "self" => vec![Meaning::Module(module)],
            "super" => vec![self.modules.all[module].outer.map_or(Meaning::Unknown, Meaning::Module)],
            word => {
                let found = self.name_within(module, word);
                let may_have = found.is_empty() && self.modules.all[module].is_open;
                if may_have { vec![Meaning::Unknown] } else { found }
            }
        }
    }

    /// What the first word of a path means, or the first two; and what is left.
    fn beginning<'w>(&self, module: usize, path: &'w [String]) -> (Vec<Meaning>, &'w [String]) {
        let Some((first, rest)) = path.split_first() else { return (vec![Meaning::Module(module)], path) };
        let of_crate = |name: &str| self.modules.library(name).map_or(Meaning::Elsewhere, Meaning::Module);
        match (first.as_str(), rest) {
            ("", [name, rest @ ..]) => {
                // Before the edition of 2018 such a path begins at the first module of the crate.
                let found = of_crate(name);
                let root = self.modules.all[module].root;
                let own = if found == Meaning::Elsewhere { self.name_within(root, name) } else { Vec::new() };
                (if own.is_empty() { vec![found] } else { own }, rest)
            }
            ("crate" | "$crate", rest) => (vec![Meaning::Module(self.modules.all[module].root)], rest),
            ("self" | "super", rest) => (self.step(module, first), rest),
            ("Self", rest) => (vec![Meaning::Elsewhere], rest),
            (name, rest) if name.chars().all(|letter| letter == '_' || letter.is_alphanumeric()) => {
                let is_own = self.busy.borrow().contains(&(module, name.to_string()));
                // `use low::low`: what it imports is not what its path begins with.
                let mut found = if is_own { self.own(module, name) } else { self.name_within(module, name) };
                let is_library = LIBRARIES.contains(&name) || self.modules.library(name).is_some();
                if found.is_empty() && self.modules.all[module].is_open && !is_library {
                    found.push(Meaning::Unknown);
                } else if found.is_empty() {
                    found.push(of_crate(name));
                    // Before the edition of 2018 a `use` begins at the first module of the crate.
                    let root = self.modules.all[module].root;
                    let in_root = self.modules.all[root].children.iter().find(|(child, _)| child == name);
                    if let (Meaning::Elsewhere, Some((_, child))) = (found[0], in_root) {
                        found[0] = Meaning::Module(*child);
                    }
                }
                (found, rest)
            }
            _ => (vec![Meaning::Elsewhere], rest),
        }
    }
}

/// The mark of a name that is looked for in another name of a type: no word of a path is written so.
fn of_alias(file: usize, id: BindingId, word: &str) -> String {
    format!("{file} {id:?} {word}")
}

/// Whether a binding is that of a type, a trait or another name of one: paths may go through it.
pub(super) fn is_type(view: &View<'_>, id: BindingId) -> bool {
    let is_value = |holder: NodeRef<'_>| {
        matches!(holder.kind(), Kind::Function | Kind::Assignment | Kind::AnnotatedAssignment | Kind::EnumMember)
    };
    declared(view, id).filter_map(NodeRef::parent).any(|holder| !is_value(holder))
}

/// The names of the fields of a structure or a variant.
pub(super) fn field_names(holder: NodeRef<'_>) -> impl Iterator<Item = NodeRef<'_>> {
    let fields = holder.child(Role::Type).into_iter().flat_map(NodeRef::children);
    fields.filter_map(|field| field.child_of(Kind::Field, Role::Name))
}

/// The names of what an implementation or a trait declares: functions, constants and types.
pub(super) fn names_in_block(holder: NodeRef<'_>) -> impl Iterator<Item = NodeRef<'_>> {
    let items = holder.child(Role::Body).into_iter().flat_map(NodeRef::children);
    items.filter_map(|item| match item.child(Role::Name) {
        Some(name) => Some(name),
        None => item.child(Role::Item)?.child(Role::Target),
    })
}

/// The names where a binding is declared.
pub(super) fn declared<'v>(view: &'v View<'_>, id: BindingId) -> impl Iterator<Item = NodeRef<'v>> {
    view.names.binding(id).declarations.iter().map(|one| view.file.tree.node(one.node))
}
