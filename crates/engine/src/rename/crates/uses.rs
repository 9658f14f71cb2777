//! The uses of an item in all files of its crates.

use std::collections::{BTreeMap, BTreeSet};

use rustc_hash::FxHashMap;
use sieve_meaning::names::{BindingId, Reference};
use sieve_meaning::renaming::{Clash, Form, may_become, places};
use sieve_rules::Edit;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::lookup::{Lookup, Meaning, declared, is_type, names_in_block};
use super::mention::Mention;
use super::modules::Modules;
use super::target::{Target, is_variant, may_be_found_otherwise};
use crate::rename::audit::refused;
use crate::rename::source::{Sources, View};
use crate::rename::undeclared::{is_bound_around, is_taken};
use crate::rename::{Edits, RenameRequest, Renamed, elsewhere};

/// Renames what paths can name wherever they do, where its own file has been seen to.
pub(in crate::rename) fn spread(
    sources: &Sources,
    views: &[View<'_>],
    (home, id): (usize, BindingId),
    old: &str,
    asked: &RenameRequest<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    may_be_found_otherwise(&views[home], id, old, asked.all_members)?;
    let modules = modules_around(sources, views, home);
    let lookup = Lookup::new(views, &modules);
    let target = Target::of(&lookup, home, id, old).filter(|_| !modules.is_adrift(home));
    let Some(target) = target else { return elsewhere::nothing_means_it(views, home, id, old) };
    let own = edits[home].drain(..).map(|edit| (edit.span.start, edit)).collect();
    let mut spreading =
        Spreading { lookup: &lookup, target, old, new: asked.new, holders: BTreeSet::new(), placed: BTreeMap::new() };
    spreading.placed.insert(home, own);
    spreading.homes()?;
    spreading.no_function_hides_it()?;
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
pub(super) fn modules_around(sources: &Sources, views: &[View<'_>], home: usize) -> Modules {
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
        [Meaning::Item(file, id)] => Some((*file, *id)),
        [Meaning::Module(module)] => declaration_of(&lookup, *module, view.file.text.slice(name)),
        _ => None,
    }
}

/// Where a module of a name is declared.
fn declaration_of(lookup: &Lookup<'_, '_>, module: usize, name: &str) -> Option<(usize, BindingId)> {
    let outer = lookup.modules.all[module].outer?;
    let file = lookup.modules.all[outer].file;
    let declared = lookup.modules.declarations(lookup.views, outer, name).next()?.child(Role::Name)?;
    Some((file, lookup.views[file].names.declared_at(declared.id())?))
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
    target: Target,
    old: &'p str,
    new: &'p str,
    /// The modules in which the name means the item.
    holders: BTreeSet<usize>,
    /// The edits of each file, by their places.
    placed: BTreeMap<usize, BTreeMap<u32, Edit>>,
}

impl<'p, 's> Spreading<'p, 's> {
    fn view(&self, file: usize) -> &'p View<'s> {
        &self.lookup.views[file]
    }

    /// Puts another word in a place. What is derived by a name is a macro of that name, and a trait that has the name besides.
    fn put(&mut self, file: usize, span: Span, text: String) -> Renamed<()> {
        let view = self.view(file);
        let derives =
            |around: NodeRef<'_>| around.kind() == Kind::Decorator && view.file.slice(around).contains("derive(");
        if view.file.tree.covering(span).ancestors().take(3).any(derives) {
            return self.unknown(file, span);
        }
        self.placed.entry(file).or_default().insert(span.start, Edit::replace(span, text));
        Ok(())
    }

    fn unknown<T>(&self, file: usize, span: Span) -> Renamed<T> {
        refused(format!("it is not known whether \"{}\" is meant here", self.old), self.view(file), span)
    }

    /// The modules that declare it. Nothing else in them may have its name.
    fn homes(&mut self) -> Renamed<()> {
        match &self.target {
            Target::Modules(modules) => {
                let outer: BTreeSet<usize> =
                    modules.iter().filter_map(|module| self.lookup.modules.all[*module].outer).collect();
                outer.into_iter().try_for_each(|outer| self.declared_in(outer))
            }
            Target::Item(home, id) if is_variant(self.view(*home), *id) => self.is_only_variant(*home, *id),
            Target::Item(home, id) => self.home_of_item(*home, *id),
        }
    }

    fn home_of_item(&mut self, home: usize, id: BindingId) -> Renamed<()> {
        let view = self.view(home);
        let Some(holder) = declared(view, id).next().and_then(NodeRef::parent) else { return Ok(()) };
        for module in self.lookup.modules.around(home, holder) {
            if self.lookup.declared(*module, self.old).len() > 1 {
                return refused(self.are_two(), view, view.first_place(id));
            }
            self.holders.insert(*module);
        }
        Ok(())
    }

    fn are_two(&self) -> String {
        format!("two things are called \"{}\"", self.old)
    }

    /// Renames the declarations of modules in a module, and what its file has of them.
    fn declared_in(&mut self, outer: usize) -> Renamed<()> {
        let file = self.lookup.modules.all[outer].file;
        let view = self.view(file);
        for declaration in self.lookup.modules.declarations(self.lookup.views, outer, self.old) {
            let Some(name) = declaration.child(Role::Name) else { continue };
            if !self.lookup.declared(outer, self.old).is_empty() {
                return refused(self.are_two(), view, name.span());
            }
            if let Some(id) = view.names.declared_at(name.id()) {
                self.may_become(file, id)?;
                self.put_all(file, id)?;
            }
            self.put(file, name.span(), self.new.to_string())?;
        }
        self.holders.insert(outer);
        Ok(())
    }

    /// Refuses where attributes choose one of several types that have a variant of the name, or the type has something of the new name.
    fn is_only_variant(&self, home: usize, id: BindingId) -> Renamed<()> {
        let view = self.view(home);
        let variant = declared(view, id).next().and_then(NodeRef::parent);
        let name = variant.and_then(|one| one.parent()?.parent()?.child(Role::Name));
        let Some(name) = name else { return Ok(()) };
        let Some(of) = view.names.declared_at(name.id()) else { return Ok(()) };
        if self.lookup.variant(home, of, self.old).len() > 1 {
            return refused(self.are_two(), view, view.first_place(id));
        }
        let called = view.file.slice(name);
        for (file, view) in self.lookup.views.iter().enumerate() {
            if let Some(taken) = associated(view, called, self.new) {
                return refused(is_taken(self.old, self.new), self.view(file), taken);
            }
        }
        Ok(())
    }

    /// Renames all places of a binding.
    fn put_all(&mut self, file: usize, id: BindingId) -> Renamed<()> {
        let view = self.view(file);
        for place in places(&view.file.tree, &view.names, id) {
            let text = match place.form {
                Form::Key => format!("{}: {}", self.old, self.new),
                Form::KeyBefore => format!("{}: ", self.old),
                // `use quay::{self}`
                _ if view.file.text.slice(place.span) != self.old => continue,
                _ => self.new.to_string(),
            };
            self.put(file, place.span, text)?;
        }
        Ok(())
    }

    /// Refuses where an import of all names in a function brings something else than the name means around it, and one of both is renamed.
    fn no_function_hides_it(&self) -> Renamed<()> {
        for (module, of) in self.lookup.modules.all.iter().enumerate() {
            for (item, brought) in self.lookup.brought_within(module, self.old) {
                let around = self.lookup.name(module, self.old);
                let concerns = self.target.is(&brought) || around.iter().any(|one| self.target.is(one));
                if concerns && around.iter().any(|one| *one != brought) {
                    return self.unknown(of.file, self.view(of.file).file.tree.node(item).span());
                }
            }
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
            if !found.iter().any(|one| self.target.is(one)) {
                continue;
            }
            if !found.iter().all(|one| self.target.is(one)) {
                return self.unknown(file, view.first_place(id));
            }
            self.may_become(file, id)?;
            for declaration in &view.names.binding(id).declarations {
                let item = view.file.tree.node(declaration.node);
                self.holders.extend(self.lookup.modules.around(file, item));
            }
            self.put_all(file, id)?;
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

    /// Whether a word is the name of the target; nothing where that is not known.
    fn means_it(&self, found: &[Meaning], is_last: bool, is_import: bool) -> Option<bool> {
        let has_it = found.iter().any(|one| self.target.is(one));
        let is_module = |one: &Meaning| matches!(one, Meaning::Module(_));
        let mut others = found.iter().filter(|one| !self.target.is(one)).peekable();
        if !has_it {
            return (!found.contains(&Meaning::Unknown)).then_some(false);
        }
        if others.peek().is_none() {
            return Some(true);
        }
        // An item and a module of one name. A `use` brings both; before colons it is the module, unless the item is a type.
        let item = match self.target {
            Target::Item(file, id) if others.all(is_module) => (file, id),
            Target::Modules(_) => match (others.next(), others.next()) {
                (Some(Meaning::Item(file, id)), None) => (*file, *id),
                _ => return None,
            },
            Target::Item(..) => return None,
        };
        let is_item = match (is_last, is_import) {
            (true, true) => return None,
            (true, false) => true,
            (false, _) if is_type(self.view(item.0), item.1) => return None,
            (false, _) => false,
        };
        Some(is_item == matches!(self.target, Target::Item(..)))
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

/// Where a type, by its name, gets something that is called so.
fn associated(view: &View<'_>, of: &str, called: &str) -> Option<Span> {
    let is_of_type = |block: &NodeRef<'_>| {
        let written = block.child(Role::Type).and_then(|written| written.child(Role::Name));
        written.is_some_and(|name| view.file.slice(name).rsplit("::").next() == Some(of))
    };
    let implementations = view.file.tree.nodes_of(Kind::Implementation).filter(is_of_type);
    let mut names = implementations.flat_map(names_in_block);
    names.find(|name| view.file.slice(*name) == called).map(NodeRef::span)
}
