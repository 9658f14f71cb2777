//! Why a member is not renamed.

use sieve_meaning::names::BindingId;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::lookup::{Access, Owner, World};
use super::member::Target;
use super::types::Type;
use super::uses::{self, Uses, place_of};
use crate::rename::audit::{refused, unknown_member};
use crate::rename::crates::lookup::field_names;
use crate::rename::crates::target::nothing_is_derived;
use crate::rename::undeclared::is_taken;
use crate::rename::{RenameRequest, Renamed};

/// Refuses what something else than the code finds by its name.
pub(super) fn may_be_renamed(
    world: &World<'_, '_>,
    target: &Target,
    old: &str,
    asked: &RenameRequest<'_>,
) -> Renamed<()> {
    if asked.all_members {
        return Ok(());
    }
    for (file, name) in target.members.iter().map(|member| (member.0, world.node(*member))) {
        let view = &world.views()[file];
        for around in name.ancestors() {
            let is_item = matches!(
                around.kind(),
                Kind::Function
                    | Kind::Implementation
                    | Kind::Interface
                    | Kind::TypeDefinition
                    | Kind::Enum
                    | Kind::Field
            );
            if !is_item {
                continue;
            }
            nothing_is_derived(view, around, old)?;
            let is_unknown = |one: &NodeRef<'_>| {
                let called = one.child(Role::Value).map_or("", |name| view.file.slice(name));
                !KNOWN_ATTRIBUTES.contains(&called)
            };
            if let Some(attribute) = around.children_in(Role::Decorator).find(is_unknown) {
                let message = format!(
                    "what reads this attribute may use the name \"{old}\"; --all-members takes it that nothing does"
                );
                return refused(message, view, attribute.span());
            }
        }
    }
    Ok(())
}

/// Attributes of the language ("Built-in attributes index", The Rust Reference); what is derived is looked at by itself.
const KNOWN_ATTRIBUTES: &[&str] = &[
    "allow",
    "cfg",
    "cfg_attr",
    "cold",
    "default",
    "deny",
    "deprecated",
    "derive",
    "doc",
    "expect",
    "forbid",
    "ignore",
    "inline",
    "must_use",
    "non_exhaustive",
    "repr",
    "should_panic",
    "target_feature",
    "test",
    "track_caller",
    "warn",
];

/// Refuses where it is not known whose member is used.
pub(super) fn are_known(
    world: &World<'_, '_>,
    target: &Target,
    uses: &Uses,
    old: &str,
    asked: &RenameRequest<'_>,
) -> Renamed<()> {
    let unknown: Vec<(usize, Span)> = uses.unknown(target).map(|one| (one.file, one.span)).collect();
    if unknown.is_empty() {
        return Ok(());
    }
    let is_other = |one: &&uses::Use| one.is_declared && one.access == target.access && !target.has(one.owner);
    let other = uses.0.iter().find(is_other).map(|one| (one.file, one.span));
    if asked.all_members && other.is_none() {
        return Ok(());
    }
    Err(unknown_member(world.views(), old, other.filter(|_| asked.all_members), &unknown))
}

/// Refuses where the new name means something already in what has the member.
pub(super) fn is_free(world: &World<'_, '_>, target: &Target, old: &str, new: &str) -> Renamed<()> {
    let uses = uses::all(world, target, new);
    for member in &target.members {
        let name = world.node(*member);
        let view = &world.views()[member.0];
        let around = name.ancestors().find(|one| {
            matches!(one.kind(), Kind::Implementation | Kind::Interface | Kind::TypeDefinition | Kind::EnumMember)
        });
        let Some(around) = around else { continue };
        let of = match around.kind() {
            Kind::Implementation => around.child(Role::Type).map(|written| world.written(member.0, written)),
            Kind::EnumMember => None,
            _ => around
                .child(Role::Name)
                .and_then(|name| Some(Type::Own(member.0, view.names.declared_at(name.id())?, Vec::new()))),
        };
        let taken = match of {
            Some(of) => match world.owner(&of, new, target.access) {
                Owner::Own(taken) => Some(place_of(world, taken)),
                Owner::Unknown => Some(place_of(world, *member)),
                Owner::Other => used_as_other(world, &uses, &of, target.access),
            },
            None => {
                let beside = field_names(around).find(|one| view.file.slice(*one) == new);
                beside.map(|one| (member.0, one.span()))
            }
        };
        if let Some((file, span)) = taken {
            return refused(is_taken(old, new), &world.views()[file], span);
        }
    }
    Ok(())
}

/// Where a type has something of a name from elsewhere: it would mean the member from then on.
fn used_as_other(world: &World<'_, '_>, uses: &Uses, of: &Type, access: Access) -> Option<(usize, Span)> {
    let Type::Own(file, id, arguments) = of else { return None };
    // What is behind a type, or a trait from elsewhere, may have it too.
    let may_have = world.behind((*file, *id), arguments).is_some();
    let unknown = uses.0.iter().filter(|one| may_have && one.access == access && one.owner == Owner::Unknown);
    let foreign = uses.0.iter().filter(|one| one.access == access && one.owner == Owner::Other);
    let is_of_it = |one: &&uses::Use| world.is_of(one, (*file, *id));
    foreign.filter(is_of_it).chain(unknown).map(|one| (one.file, one.span)).next()
}

impl World<'_, '_> {
    /// Whether what is used before the dot is of a type.
    fn is_of(&self, one: &uses::Use, of: (usize, BindingId)) -> bool {
        let node = self.views()[one.file].file.tree.covering(one.span);
        let object = node.parent().filter(|parent| parent.kind() == Kind::Member).and_then(|of| of.child(Role::Object));
        match object.map(|object| self.type_of(one.file, object)) {
            Some(Type::Own(file, id, _)) => (file, id) == of,
            _ => false,
        }
    }
}
