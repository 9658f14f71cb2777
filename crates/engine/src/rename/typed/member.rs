//! Renames a member of a type with what overrides it, and every use of it.

use sieve_meaning::names::{BindingId, Namespace};
use sieve_rules::traits_of;
use sieve_syntax::tree::{NodeId, Role};

use super::target::{not_a_component, target};
use super::types::{Known, Types};
use crate::rename::audit::{self, put_together, refused, unknown_member};
use crate::rename::source::View;
use crate::rename::spread::by_text;
use crate::rename::traits::rename_traits_of;
use crate::rename::{Edits, RenameRequest, Renamed, packaged, replace_all};

/// Renames the member that a binding is.
pub(in crate::rename) fn member<'v>(
    views: &'v [View<'v>],
    declared: (usize, BindingId),
    asked: &'v RenameRequest<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    rename(Types::new(views), declared, asked, edits)
}

fn rename<'v>(
    types: Types<'v>,
    (home, id): (usize, BindingId),
    asked: &'v RenameRequest<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    let views = types.views;
    let view = &views[home];
    let binding = view.names.binding(id);
    let old = view.names.text(binding.name);
    let namespace = view.names.namespace(binding.name);
    let is_private = packaged::is_private(view, id);
    let language = view.file.language;
    // Methods are looked for by their names; of fields only those that have a purpose.
    let is_looked_for = namespace == Namespace::Functions
        || rename_traits_of(language).opens_namespaces && !is_private
        || traits_of(language).special_members.contains(&old);
    audit::special(language, old, asked.new, is_looked_for)?;
    not_a_component(view, id)?;
    let node = view.file.tree.node(view.names.scope(binding.scope).node);
    let Some(start) = types.number(home, node) else {
        return refused("members of a type without a name are not followed".into(), view, view.first_place(id));
    };
    let related = match (is_private, asked.family) {
        // Nothing overrides it.
        (true, _) => vec![start],
        (false, true) => types.family(start),
        (false, false) => types.lineage(start),
    };
    let target = target(types, namespace, related, (old, asked.new), asked.family)?;
    target.check_bases()?;
    target.check_new_name()?;
    target.check_nameless()?;
    if let Some((file, span)) = by_text(views, old, false) {
        return refused(format!("\"{old}\" is looked up by name in a string"), &views[file], span);
    }
    put_together(views, old)?;
    target.declarations(edits)?;
    let uses = target.uses()?;
    replace_all(&uses.known, target.new, edits);
    if uses.unknown.is_empty() {
        return Ok(());
    }
    let other = target.other_declaration();
    match other {
        None if asked.all_members => {
            replace_all(&uses.unknown, target.new, edits);
            Ok(())
        }
        _ => Err(unknown_member(views, old, other, &uses.unknown)),
    }
}

/// Renames the member that a use behind a dot is of.
pub(in crate::rename) fn at_use<'v>(
    views: &'v [View<'v>],
    home: usize,
    at: NodeId,
    asked: &'v RenameRequest<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    let view = &views[home];
    let name = view.file.tree.node(at);
    let types = Types::new(views);
    let object = name.parent().and_then(|member| member.child(Role::Object));
    let found = object.and_then(|object| match types.object(home, object) {
        Known::Of(of) => types.above(of).into_iter().find_map(|of| {
            let declares = |namespace: &Namespace| types.declares(of, *namespace, view.file.slice(name));
            let is_called = name.parent().is_some_and(|member| member.role() == Role::Callee);
            let order = [Namespace::Functions, Namespace::Values];
            let found = if is_called { order.iter().find_map(declares) } else { order.iter().rev().find_map(declares) };
            Some((types.all[of].file, found?))
        }),
        Known::Foreign | Known::Unknown => None,
    });
    match found {
        Some(declared) => rename(types, declared, asked, edits),
        None => {
            refused(format!("it is not known whose member \"{}\" is here", view.file.slice(name)), view, name.span())
        }
    }
}
