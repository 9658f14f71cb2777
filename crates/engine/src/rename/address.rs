//! What infrastructure files declare, by address: in all files of its folder, in the files that give it values, and in the folders that call
//! the module.

use std::collections::BTreeSet;
use std::path::Path;

use sieve_meaning::configuration::{Configuration, ModuleCall, gives_values, is_in_json, is_of_module, move_block};
use sieve_meaning::folder_module::FolderForm;
use sieve_rules::{Edit, path_beside};
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use super::audit::refused;
use super::source::{Sources, View};
use super::{CannotRename, Edits, RenameRequest, Renamed};

/// What is renamed: the folder of its module, from the root of the project, and its address there.
pub(super) struct Address {
    folder: String,
    address: String,
}

impl Address {
    fn name(&self) -> &str {
        self.address.rsplit('.').next().unwrap_or(&self.address)
    }

    /// The address with another name.
    fn called(&self, name: &str) -> String {
        format!("{}{name}", self.address.strip_suffix(self.name()).unwrap_or_default())
    }

    /// The rest of the address of one of some kind: `tide` of `var.tide`.
    fn name_as(&self, kind: &str) -> Option<&str> {
        self.address.strip_prefix(kind)?.strip_prefix('.')
    }
}

/// A file that is a part of a module.
struct Part<'v, 's> {
    index: usize,
    view: &'v View<'s>,
    file: Configuration,
}

fn parts<'v, 's>(views: &'v [View<'s>]) -> Vec<Part<'v, 's>> {
    let part = |(index, view): (usize, &'v View<'s>)| {
        let file = Configuration::of(view.file.language, &view.file.module, &view.file.text, &view.file.tree)?;
        Some(Part { index, view, file })
    };
    views.iter().enumerate().filter_map(part).collect()
}

/// What is at a place of a file, with the node that names it; nothing where the file is no part of a module.
///
/// # Errors
/// When what is there is no name of a module, or is declared elsewhere.
pub(super) fn target(views: &[View<'_>], home: usize, span: Span) -> Renamed<Option<(Address, NodeId)>> {
    let view = &views[home];
    let form = FolderForm::of(view.file.language);
    if form != Some(FolderForm::Configuration) {
        return Ok(None);
    }
    let parts = parts(views);
    let found = match parts.iter().find(|part| part.index == home) {
        Some(part) => at_place(&parts, part, span),
        None if gives_values(&view.file.module) => given_value(view, span),
        None => None,
    };
    let Some((address, node)) = found else {
        let message = "what is renamed here are variables, local values, outputs, resources, data sources and modules";
        return refused(message.into(), view, span);
    };
    if !parts.iter().any(|part| declares(part, &address)) {
        return refused(format!("nothing in the folder declares {}", address.address), view, span);
    }
    Ok(Some((address, node)))
}

/// The declaration, the use or the argument that a place is in.
fn at_place(parts: &[Part<'_, '_>], part: &Part<'_, '_>, span: Span) -> Option<(Address, NodeId)> {
    let tree = &part.view.file.tree;
    let folder = part.view.file.folder().to_string();
    let is_at = |node: NodeId| tree.node(node).span().contains(span);
    let own = |address: &str| Address { folder: folder.clone(), address: address.to_string() };
    if let Some(declared) = part.file.declared.iter().find(|one| is_at(one.name)) {
        return Some((own(&declared.address), declared.name));
    }
    for used in &part.file.used {
        if let Some(output) = used.output.filter(|output| is_at(*output)) {
            // The call may be in any file of the folder.
            let beside = parts.iter().filter(|other| other.view.file.folder() == folder);
            let calls = beside.flat_map(|other| other.file.calls.iter().map(move |call| (other.view, call)));
            let (view, call) = calls.into_iter().find(|(_, call)| call.address == used.address)?;
            let address = format!("output.{}", part.view.file.slice(tree.node(output)));
            return Some((Address { folder: called_folder(view, call)?, address }, output));
        }
        if let Some(name) = tree.node(used.node).child(Role::Name).filter(|name| is_at(name.id())) {
            return Some((own(&used.address), name.id()));
        }
    }
    part.file.calls.iter().find_map(|call| {
        let (name, node) =
            call.given.iter().find(|(_, node)| target_of(tree.node(*node)).is_some_and(|at| is_at(at.id())))?;
        Some((Address { folder: called_folder(part.view, call)?, address: format!("var.{name}") }, *node))
    })
}

/// The variable to which a file gives a value.
fn given_value(view: &View<'_>, span: Span) -> Option<(Address, NodeId)> {
    let name = values(view).find(|name| name.span() == span)?;
    let address = format!("var.{}", view.file.slice(name));
    Some((Address { folder: view.file.folder().to_string(), address }, name.id()))
}

fn declares(part: &Part<'_, '_>, of: &Address) -> bool {
    part.view.file.folder() == of.folder && part.file.declared.iter().any(|one| one.address == of.address)
}

/// Renames what has an address, wherever it is declared and used.
///
/// # Errors
/// When a use cannot be known, or the new name is taken.
pub(super) fn spread(
    sources: &Sources,
    views: &[View<'_>],
    of: &Address,
    asked: &RenameRequest<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    let parts = parts(views);
    all_is_known(sources, &parts, of)?;
    let wanted = of.called(asked.new);
    for part in parts.iter().filter(|part| part.view.file.folder() == of.folder) {
        if let Some(taken) = part.file.declared.iter().find(|one| one.address == wanted) {
            let span = part.view.file.tree.node(taken.name).span();
            return refused(format!("{wanted} is declared already"), part.view, span);
        }
        edits[part.index].extend(in_module(part, of, asked.new));
    }
    let calls = calls_of(&parts, of);
    for part in &parts {
        edits[part.index].extend(in_caller(part, &calls, of, asked.new));
    }
    if let Some(name) = of.name_as("var") {
        in_values(views, &parts, (of, name), asked.new, edits)?;
    }
    keep_what_is_there(&parts, of, &wanted, edits);
    Ok(())
}

/// Refuses where a file of the module cannot be read, or another one may use it in a way that is not followed.
fn all_is_known(sources: &Sources, parts: &[Part<'_, '_>], of: &Address) -> Renamed<()> {
    for part in parts.iter().filter(|part| part.view.file.folder() == of.folder) {
        if let Some(fault) = part.view.file.tree.faults().first() {
            return refused("a file of the module has a syntax fault".into(), part.view, fault.span);
        }
        let form = FolderForm::Configuration;
        if let Some(other) = sources.beside(part.index, |name| form.may_have(name) || is_in_json(name)) {
            let message = format!("{} may be used in {other}, which is not read", of.address);
            return Err(CannotRename::Refused(message, Vec::new()));
        }
    }
    Ok(())
}

/// The declarations and uses in a file of the module.
fn in_module(part: &Part<'_, '_>, of: &Address, new: &str) -> Vec<Edit> {
    let tree = &part.view.file.tree;
    let declared = part.file.declared.iter().filter(|one| one.address == of.address);
    let declared = declared.map(|one| Edit::replace(inside(part.view, tree.node(one.name)), new));
    let used = part.file.used.iter().filter(|used| used.address == of.address && !used.is_of_move);
    let names = used.filter_map(|used| tree.node(used.node).child(Role::Name));
    declared.chain(names.map(|name| Edit::replace(name.span(), new))).collect()
}

/// The calls of the module, by the folders that they are in: what is called in one file is known in all files beside it.
fn calls_of<'v>(parts: &'v [Part<'_, '_>], of: &Address) -> BTreeSet<(&'v str, &'v str)> {
    let all = parts.iter().flat_map(|part| part.file.calls.iter().map(move |call| (part.view, call)));
    let own = all.filter(|(view, call)| called_folder(view, call).as_deref() == Some(&*of.folder));
    own.map(|(view, call)| (view.file.folder(), call.address.as_str())).collect()
}

/// The arguments and outputs in a file of a folder that calls the module.
fn in_caller(part: &Part<'_, '_>, calls: &BTreeSet<(&str, &str)>, of: &Address, new: &str) -> Vec<Edit> {
    let tree = &part.view.file.tree;
    let folder = part.view.file.folder();
    let is_call = |address: &str| calls.contains(&(folder, address));
    let mut found: Vec<Span> = Vec::new();
    if let Some(name) = of.name_as("var") {
        let own = part.file.calls.iter().filter(|call| is_call(&call.address));
        let given = own.flat_map(|call| &call.given).filter(|(own, _)| own == name);
        found.extend(given.filter_map(|(_, node)| target_of(tree.node(*node))).map(NodeRef::span));
    }
    if let Some(name) = of.name_as("output") {
        let used = part.file.used.iter().filter(|used| is_call(&used.address));
        let outputs = used.filter_map(|used| used.output).map(|output| tree.node(output));
        found.extend(outputs.filter(|output| part.view.file.slice(*output) == name).map(NodeRef::span));
    }
    found.into_iter().map(|span| Edit::replace(span, new)).collect()
}

/// The files that give values to variables: those beside the module. Of others it is not known for which module they are.
fn in_values(
    views: &[View<'_>],
    parts: &[Part<'_, '_>],
    (of, name): (&Address, &str),
    new: &str,
    edits: &mut Edits,
) -> Renamed<()> {
    let modules: BTreeSet<&str> = parts.iter().map(|part| part.view.file.folder()).collect();
    for (index, view) in views.iter().enumerate().filter(|(_, view)| !is_of_module(&view.file.module)) {
        let is_of_another = modules.contains(view.file.folder()) && view.file.folder() != of.folder;
        let own: Vec<NodeRef> = values(view).filter(|one| view.file.slice(*one) == name).collect();
        if !gives_values(&view.file.module) {
            // Tests of a module give it values, and use what it declares.
            let is_near = Path::new(&view.file.module).starts_with(&of.folder);
            let mut tokens =
                (0..view.file.tree.tokens().len() as u32).map(|token| (token, view.file.tree.token_span(token)));
            let named = |(token, span): &(u32, Span)| {
                view.file.tree.token_kind(*token) == TokenKind::Name && view.file.text.slice(*span) == name
            };
            if let Some((_, span)) = tokens.find(named).filter(|_| is_near) {
                return refused(format!("\"{name}\" may be the variable here"), view, span);
            }
        } else if view.file.folder() == of.folder {
            edits[index].extend(own.into_iter().map(|name| Edit::replace(name.span(), new)));
        } else if let Some(one) = own.first().filter(|_| !is_of_another) {
            return refused(format!("it is not known which module gets this value of \"{name}\""), view, one.span());
        }
    }
    Ok(())
}

/// What is made under the old address is kept under the new one: a block says that it moved.
fn keep_what_is_there(parts: &[Part<'_, '_>], of: &Address, wanted: &str, edits: &mut Edits) {
    let Some(part) = parts.iter().find(|part| declares(part, of)) else { return };
    let source = part.view.file.text.source();
    let line_end = part.view.file.text.lines().ending(source).as_str();
    let Some(block) = move_block(&of.address, wanted, line_end) else { return };
    let before = if source.ends_with('\n') { "" } else { line_end };
    edits[part.index].push(Edit::insert(source.len() as u32, format!("{before}{line_end}{block}")));
}

/// The names to which a file gives values.
fn values<'v>(view: &'v View<'_>) -> impl Iterator<Item = NodeRef<'v>> {
    let assignments = view.file.tree.root().children().filter(|node| node.kind() == Kind::Assignment);
    assignments.filter_map(target_of)
}

/// What an assignment, or a block in a call, is the value of.
fn target_of(node: NodeRef<'_>) -> Option<NodeRef<'_>> {
    node.child(Role::Target).or_else(|| node.child(Role::Name))
}

/// What is between the quotes of a label; all of it where it has none.
fn inside(view: &View<'_>, label: NodeRef<'_>) -> Span {
    let span = label.span();
    let quote = u32::from(view.file.slice(label).starts_with('"'));
    Span::new(span.start + quote, span.end - quote)
}

/// The folder of a module that a file calls, from the root of the project; nothing for one that is elsewhere.
fn called_folder(view: &View<'_>, call: &ModuleCall) -> Option<String> {
    path_beside(&view.file.module, call.folder()?)
}
