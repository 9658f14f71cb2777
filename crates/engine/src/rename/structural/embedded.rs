//! A type that is embedded in structs gives a field of each its name: where the type is renamed, the uses of these fields change with it.

use std::collections::BTreeSet;

use sieve_meaning::names::BindingId;
use sieve_syntax::tree::{Kind, NodeRef};

use super::lookup::{Owner, embedded_in, name_of_type};
use super::project::{Known, Project};
use crate::rename::audit::refused;
use crate::rename::source::{Sources, View};
use crate::rename::{Edits, Renamed, replace_all};

/// Renames the uses of fields that have their name from a type which gets another one.
pub(in crate::rename) fn embedded_fields(
    sources: &Sources,
    views: &[View<'_>],
    (home, id): (usize, BindingId),
    (old, new): (&str, &str),
    edits: &mut Edits,
) -> Renamed<()> {
    let is_old = |file: usize, written: NodeRef<'_>| {
        name_of_type(written).is_some_and(|name| views[file].file.slice(name) == old)
    };
    let fields = views.iter().enumerate().flat_map(|(file, view)| {
        let fields = view.file.tree.nodes_of(Kind::Field);
        fields.filter_map(move |field| Some((file, field, embedded_in(field)?)))
    });
    let fields: Vec<(usize, NodeRef<'_>, NodeRef<'_>)> =
        fields.filter(|(file, _, written)| is_old(*file, *written)).collect();
    if fields.is_empty() {
        return Ok(());
    }
    let project = Project::new(sources, views);
    let first = views[home].names.binding(id).declarations.first();
    let definition = first.and_then(|one| views[home].file.tree.node(one.node).parent());
    let of = definition.and_then(|definition| project.declared_by(home, definition));
    let mut owners: BTreeSet<Owner> = BTreeSet::new();
    for (file, field, written) in fields {
        match (project.written(file, written), field.parent()) {
            (Known::Type(found), Some(body)) if Some(found) == of => {
                owners.insert(project.owner(file, body));
            }
            (Known::Type(_) | Known::Foreign, _) if of.is_some() => {}
            _ => {
                return refused("an embedded type gives a field its name".into(), &views[file], written.span());
            }
        }
    }
    if let Some(other) = project.taken(&owners, old, new) {
        let message = format!("a type that embeds it has a member \"{new}\" already");
        return refused(message, &views[other.file], other.name.span());
    }
    let uses = project.uses(&owners, old);
    if let Some((file, span)) = uses.unknown.first() {
        let message = format!("it is not known whether this is the field that the embedded type \"{old}\" makes");
        return refused(message, &views[*file], *span);
    }
    replace_all(&uses.known, new, edits);
    Ok(())
}
