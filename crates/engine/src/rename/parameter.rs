//! Arguments that are given to a parameter by its name.

use sieve_meaning::names::{BindingId, DeclarationSort, Resolution};
use sieve_rules::Edit;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::import::origin;
use super::source::{Sources, View};
use super::{CannotRename, Edits, Renamed};

/// Renames the keywords with which calls give a parameter. Refuses where it is not known what a call runs.
pub(super) fn keywords(
    sources: &Sources,
    views: &[View<'_>],
    (home, id): (usize, BindingId),
    old: &str,
    new: &str,
    edits: &mut Edits,
) -> Renamed<()> {
    let view = &views[home];
    let node = view.names.binding(id).declarations.first().map(|declaration| view.file.tree.node(declaration.node));
    let function = node.and_then(|node| node.ancestors().find(|around| around.kind().is_function()));
    let Some(function) = function else { return Ok(()) };
    let called = function.child(Role::Name);
    for (file, other) in views.iter().enumerate() {
        for keyword in other.file.tree.nodes().filter(|node| node.kind() == Kind::KeywordArgument) {
            let Some(name) = keyword.child(Role::Name).filter(|name| other.file.slice(*name) == old) else { continue };
            let call = keyword.ancestors().find(|around| around.kind() == Kind::Call);
            let Some(callee) = call.and_then(|call| call.child(Role::Callee)) else { continue };
            match runs(sources, views, file, callee, (home, called)) {
                Some(true) => edits[file].push(Edit::replace(name.span(), new)),
                Some(false) => {}
                None => {
                    let message = format!("it is not known whether this gives the parameter \"{old}\" its value");
                    return Err(CannotRename::Refused(message, vec![other.file.place(keyword.span())]));
                }
            }
        }
    }
    Ok(())
}

/// Whether an expression stands for a function; nothing where that is not known.
fn runs(
    sources: &Sources,
    views: &[View<'_>],
    file: usize,
    callee: NodeRef<'_>,
    (home, called): (usize, Option<NodeRef<'_>>),
) -> Option<bool> {
    let Some(called) = called else { return None };
    let view = &views[file];
    let text = views[home].file.slice(called);
    let is_method = called
        .parent()
        .and_then(NodeRef::parent)
        .and_then(NodeRef::parent)
        .is_some_and(|class| class.kind() == Kind::Class);
    let target = match callee.kind() {
        Kind::Name => match view.names.resolution_at(callee.id())? {
            Resolution::Binding(id) => origin(sources, views, file, id).or(Some((file, id))),
            Resolution::Builtin => return Some(false),
            _ => return None,
        },
        Kind::Member => {
            let name = callee.child(Role::Name)?;
            match super::import::through_module(sources, views, file, name) {
                Some(found) => Some(found),
                // A method of another name is another method.
                None if view.file.slice(name) != text => return Some(false),
                None => return None,
            }
        }
        _ => return None,
    };
    let (at, id) = target?;
    let declarations = &views[at].names.binding(id).declarations;
    let [only] = declarations.as_slice() else { return None };
    match only.sort {
        DeclarationSort::Function => Some(at == home && only.node == called.id()),
        DeclarationSort::Class if !is_method || text != "__init__" => Some(false),
        DeclarationSort::Class => {
            let class = called.ancestors().find(|around| around.kind() == Kind::Class)?;
            let is_it = at == home && class.child(Role::Name).is_some_and(|name| name.id() == only.node);
            if is_it { Some(true) } else { None }
        }
        // What is imported from outside is no function of the project.
        DeclarationSort::Import => Some(false),
        _ => None,
    }
}
