//! The uses of an item in all files of its crates.

use std::collections::{BTreeMap, BTreeSet};

use rustc_hash::FxHashMap;
use sieve_meaning::names::{BindingId, Reference};
use sieve_meaning::renaming::{Clash, Form, may_become, places};
use sieve_rules::Edit;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::lookup::{Lookup, Meaning, is_type};
use super::mention::Mention;
use super::modules::Modules;
use crate::rename::audit::refused;
use crate::rename::source::{Sources, View};
use crate::rename::undeclared::{is_bound_around, is_taken};
use crate::rename::{Edits, Renamed, elsewhere};

/// Renames an item wherever it is named, where its own file has been seen to.
pub(in crate::rename) fn spread(
    sources: &Sources,
    views: &[View<'_>],
    (home, id): (usize, BindingId),
    (old, new): (&str, &str),
    edits: &mut Edits,
) -> Renamed<()> {
    let view = &views[home];
    if let Some(span) = found_otherwise(view, id) {
        return refused(format!("others than Rust find \"{old}\" by its name"), view, span);
    }
    if !is_item(view, id) {
        return elsewhere::nothing_means_it(views, home, id, old);
    }
    let modules = modules_around(sources, views, home);
    if modules.is_adrift(home) {
        return elsewhere::nothing_means_it(views, home, id, old);
    }
    let lookup = Lookup::new(views, &modules);
    let own = edits[home].drain(..).map(|edit| (edit.span.start, edit)).collect();
    let mut spreading =
        Spreading { lookup: &lookup, item: (home, id), old, new, holders: BTreeSet::new(), placed: BTreeMap::new() };
    spreading.placed.insert(home, own);
    spreading.homes()?;
    for file in 0..views.len() {
        spreading.imports(file)?;
    }
    for file in 0..views.len() {
        spreading.mentions(file)?;
    }
    spreading.is_free()?;
    for (file, placed) in spreading.placed {
        edits[file].extend(placed.into_values());
    }
    Ok(())
}

/// All modules; of the files that no crate has, those of the package of a file may be included somewhere.
fn modules_around(sources: &Sources, views: &[View<'_>], home: usize) -> Modules {
    let mut modules = Modules::of(views, |file| sources.crate_name(file));
    let package = sources.package_folder(home);
    modules.keep_adrift(|file| sources.package_folder(file) == package);
    modules
}

/// The item that a name in a file means, if that is one of another file or module.
pub(in crate::rename) fn origin(
    sources: &Sources,
    views: &[View<'_>],
    home: usize,
    name: Span,
) -> Option<(usize, BindingId)> {
    let view = &views[home];
    let bound = view.binding_of(view.file.tree.covering(name), name);
    if bound.is_some_and(|id| !view.is_import(id)) {
        return None;
    }
    let modules = modules_around(sources, views, home);
    let lookup = Lookup::new(views, &modules);
    let tokens = view.significant_tokens();
    let place = tokens.iter().position(|(_, span)| *span == name)?;
    let mention = Mention { view, file: home, tokens: &tokens, place };
    let reference = view.names.references().find(|one| one.span == name);
    let found = match bound {
        Some(id) => imported(&lookup, home, id),
        None => mention.meanings(&lookup, reference)?.0,
    };
    match found.as_slice() {
        [Meaning::Item(file, id)] if is_item(&views[*file], *id) => Some((*file, *id)),
        _ => None,
    }
}

/// Whether a binding is an item of a module that paths can name: no module, macro or variant.
fn is_item(view: &View<'_>, id: BindingId) -> bool {
    let binding = view.names.binding(id);
    let of_module = view.file.tree.node(view.names.scope(binding.scope).node).kind();
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
    let declared = binding.declarations.iter().map(|one| view.file.tree.node(one.node));
    matches!(of_module, Kind::File | Kind::Namespace)
        && declared.into_iter().all(|name| name.parent().is_some_and(|holder| is_kind(holder.kind())))
}

/// An attribute by which something else than paths finds an item, or the block of those that are made in another language.
fn found_otherwise(view: &View<'_>, id: BindingId) -> Option<Span> {
    let says = |attribute: &NodeRef<'_>| {
        let said = view.file.slice(*attribute);
        ["no_mangle", "proc_macro", "wasm_bindgen", "pymodule", "pyfunction"].iter().any(|word| said.contains(word))
    };
    let mut declared = view.names.binding(id).declarations.iter().map(|one| view.file.tree.node(one.node));
    declared.find_map(|name| {
        let foreign = name.ancestors().take(3).find(|around| around.kind() == Kind::ExternBlock);
        let attribute = name.parent().and_then(|holder| holder.children_in(Role::Decorator).find(says));
        foreign.map(|_| name).or(attribute).map(NodeRef::span)
    })
}

/// What an import binds.
fn imported(lookup: &Lookup<'_, '_>, file: usize, id: BindingId) -> Vec<Meaning> {
    let view = &lookup.views[file];
    let mut found = Vec::new();
    for declaration in &view.names.binding(id).declarations {
        let item = view.file.tree.node(declaration.node);
        for module in lookup.modules.around(file, item) {
            let imports = &lookup.modules.all[*module].imports;
            match imports.iter().find(|import| import.item == item.id()) {
                Some(import) => found.extend(lookup.path(*module, &import.path)),
                None => found.push(Meaning::Unknown),
            }
        }
    }
    found.dedup();
    found
}

struct Spreading<'p, 's> {
    lookup: &'p Lookup<'p, 's>,
    /// The file of the item, and its binding there.
    item: (usize, BindingId),
    old: &'p str,
    new: &'p str,
    /// The modules in which the name means the item.
    holders: BTreeSet<usize>,
    /// The edits of each file, by their places.
    placed: BTreeMap<usize, BTreeMap<u32, Edit>>,
}

impl<'p, 's> Spreading<'p, 's> {
    fn is_it(&self, meaning: &Meaning) -> bool {
        *meaning == Meaning::Item(self.item.0, self.item.1)
    }

    fn view(&self, file: usize) -> &'p View<'s> {
        &self.lookup.views[file]
    }

    /// Puts another word in a place. What is derived by a name is a macro of that name, and a trait that has the name besides.
    fn put(&mut self, file: usize, span: Span, text: String) -> Renamed<()> {
        let view = self.view(file);
        let derives = |around: NodeRef<'_>| {
            around.kind() == Kind::Decorator
                && around.child(Role::Value).is_some_and(|name| view.file.slice(name) == "derive")
        };
        if view.file.tree.covering(span).ancestors().take(3).any(derives) {
            return self.unknown(file, span);
        }
        self.placed.entry(file).or_default().insert(span.start, Edit::replace(span, text));
        Ok(())
    }

    fn unknown<T>(&self, file: usize, span: Span) -> Renamed<T> {
        refused(format!("it is not known whether \"{}\" is meant here", self.old), self.view(file), span)
    }

    /// The modules that declare the item. Nothing else in them may have its name.
    fn homes(&mut self) -> Renamed<()> {
        let (home, id) = self.item;
        let view = self.view(home);
        let declared = view.names.binding(id).declarations.first().map(|one| view.file.tree.node(one.node));
        let Some(holder) = declared.and_then(NodeRef::parent) else { return Ok(()) };
        for module in self.lookup.modules.around(home, holder) {
            if self.lookup.declared(*module, self.old).len() > 1 {
                return refused(format!("two things are called \"{}\"", self.old), view, view.first_place(id));
            }
            self.holders.insert(*module);
        }
        Ok(())
    }

    /// The imports of a file that bring the item under its name, and what uses them.
    fn imports(&mut self, file: usize) -> Renamed<()> {
        let view = self.view(file);
        let called = view.names.bindings_with_ids().filter(|(_, binding)| view.names.text(binding.name) == self.old);
        let imports: Vec<BindingId> = called.map(|(id, _)| id).filter(|id| view.is_import(*id)).collect();
        for id in imports {
            let found = imported(self.lookup, file, id);
            if !found.iter().any(|one| self.is_it(one)) {
                continue;
            }
            if !found.iter().all(|one| self.is_it(one)) {
                return self.unknown(file, view.first_place(id));
            }
            self.may_become(file, id)?;
            for declaration in &view.names.binding(id).declarations {
                let item = view.file.tree.node(declaration.node);
                self.holders.extend(self.lookup.modules.around(file, item));
            }
            for place in places(&view.file.tree, &view.names, id) {
                let text = match place.form {
                    Form::Key => format!("{}: {}", self.old, self.new),
                    Form::KeyBefore => format!("{}: ", self.old),
                    _ => self.new.to_string(),
                };
                self.put(file, place.span, text)?;
            }
        }
        Ok(())
    }

    /// Refuses where an import cannot be called otherwise.
    fn may_become(&self, file: usize, id: BindingId) -> Renamed<()> {
        let view = self.view(file);
        let span = match may_become(&view.names, id, self.new) {
            Ok(()) => return Ok(()),
            Err(Clash::Taken(other)) => view.first_place(other),
            Err(Clash::Hides(used)) => used,
            Err(Clash::Unclear | Clash::Doubtful | Clash::Accessed) => return self.unknown(file, view.first_place(id)),
        };
        refused(is_taken(self.old, self.new), view, span)
    }

    /// The words of a file that mean the item otherwise.
    fn mentions(&mut self, file: usize) -> Renamed<()> {
        let view = self.view(file);
        if memchr::memmem::find(view.file.text.source().as_bytes(), self.old.as_bytes()).is_none() {
            return Ok(());
        }
        let tokens = view.significant_tokens();
        let used = view.names.references().filter(|one| view.names.text(one.name) == self.old);
        let references: FxHashMap<u32, &Reference> = used.map(|one| (one.span.start, one)).collect();
        for place in 0..tokens.len() {
            let (kind, span) = tokens[place];
            let is_known = self.placed.get(&file).is_some_and(|placed| placed.contains_key(&span.start));
            let is_brought = is_known && self.is_brought(file, span);
            if kind != TokenKind::Name || view.file.text.slice(span) != self.old || is_known && !is_brought {
                continue;
            }
            let mention = Mention { view, file, tokens: &tokens, place };
            let reference = references.get(&span.start).copied();
            let Some((found, is_last)) = mention.meanings(self.lookup, reference) else { continue };
            if self
                .means_it(&found, is_last, mention.import().is_some())
                .map_or_else(|| self.unknown(file, span), Ok)?
            {
                self.mention(file, span, reference.filter(|_| mention.kind(-1) != Some(TokenKind::ColonColon)))?;
            }
        }
        Ok(())
    }

    /// Whether the item's own file says at a place that an import keeps the old name.
    fn is_brought(&self, file: usize, span: Span) -> bool {
        let edit = self.placed.get(&file).and_then(|placed| placed.get(&span.start));
        edit.is_some_and(|edit| edit.text.contains(" as "))
    }

    /// Whether a word is the item's name; nothing where that is not known.
    fn means_it(&self, found: &[Meaning], is_last: bool, is_import: bool) -> Option<bool> {
        let has_it = found.iter().any(|one| self.is_it(one));
        let has_module = found.iter().any(|one| matches!(one, Meaning::Module(_)));
        let has_other = found.iter().any(|one| !self.is_it(one) && !matches!(one, Meaning::Module(_)));
        if !has_it {
            return (!found.contains(&Meaning::Unknown)).then_some(false);
        }
        match (has_module, has_other) {
            (false, false) => Some(true),
            (_, true) => None,
            // A `use` brings both; before colons it is the module, unless the item is a type.
            (true, false) if is_import && is_last => None,
            (true, false) if is_last => Some(true),
            (true, false) => (!is_type(self.view(self.item.0), self.item.1)).then_some(false),
        }
    }

    fn mention(&mut self, file: usize, span: Span, bare: Option<&Reference>) -> Renamed<()> {
        let view = self.view(file);
        let node = view.file.tree.covering(span);
        if let Some(reference) = bare {
            if is_bound_around(view, reference, self.new) {
                return refused(is_taken(self.old, self.new), view, span);
            }
            self.holders.extend(self.lookup.modules.around(file, node));
        }
        let is_key = node.parent().is_some_and(|holder| holder.kind() == Kind::ShorthandPair);
        let text = if is_key { format!("{}: {}", self.old, self.new) } else { self.new.to_string() };
        self.put(file, span, text)
    }

    /// Refuses where the new name means something in a module in which the old one means the item.
    fn is_free(&self) -> Renamed<()> {
        for module in &self.holders {
            let found = self.lookup.name(*module, self.new);
            let Some(taken) = found.into_iter().find(|one| *one != Meaning::Unknown) else { continue };
            let (file, id) = match taken {
                Meaning::Item(file, id) => (file, Some(id)),
                _ => (self.lookup.modules.all[*module].file, None),
            };
            let view = self.view(file);
            let called = |id: &BindingId| view.names.text(view.names.binding(*id).name) == self.new;
            let id = id.or_else(|| view.names.bindings_with_ids().map(|(id, _)| id).find(called));
            let span = id.map_or(Span::new(0, 0), |id| view.first_place(id));
            return refused(is_taken(self.old, self.new), view, span);
        }
        Ok(())
    }
}
