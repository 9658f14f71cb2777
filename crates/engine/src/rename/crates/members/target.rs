//! What member is meant at a place, and all that has to be called as it is.

use std::collections::BTreeSet;

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::lookup::{Access, Member, Owner, World};
use super::member::{Target, declares};
use super::types::Type;
use super::uses;
use crate::rename::audit::refused;
use crate::rename::crates::lookup::field_names;
use crate::rename::source::View;
use crate::rename::{CannotRename, RenameRequest, Renamed};

/// Whether a name may be that of a member.
pub(in crate::rename) fn may_be_member(view: &View<'_>, node: NodeRef<'_>, span: Span) -> bool {
    if node.kind() == Kind::TokenTree {
        let tokens = view.significant_tokens();
        let place = tokens.iter().position(|(_, one)| *one == span);
        return place
            .and_then(|place| tokens.get(place.checked_sub(1)?))
            .is_some_and(|(kind, _)| *kind == TokenKind::Dot);
    }
    declares(node).is_some() || uses::is_use(node)
}

/// The member that is declared or used at a node.
pub(super) fn of(
    world: &World<'_, '_>,
    (home, name): (usize, Span),
    old: &str,
    asked: &RenameRequest<'_>,
) -> Renamed<Target> {
    let view = &world.views()[home];
    let node = view.file.tree.covering(name);
    let (access, member) = match declares(node) {
        Some(access) => (access, (home, node.id())),
        None => match uses::owner_of(world, home, name) {
            Some((access, Owner::Own(member))) => (access, member),
            Some((_, Owner::Other)) => {
                return refused(format!("\"{old}\" is declared outside of the project"), view, name);
            }
            Some((_, Owner::Unknown)) | None => {
                return refused(format!("it is not known what \"{old}\" refers to here"), view, name);
            }
        },
    };
    let target = with_all(world, access, member, old)?;
    if target.members.len() > 1 && target.is_of_trait && !asked.family {
        let places = target.members.iter().filter(|one| **one != member);
        let place = |one: &Member| world.views()[one.0].file.place(world.node(*one).span());
        let message = format!("\"{old}\" is declared by a trait and by what has it; --family renames all of them");
        return Err(CannotRename::Refused(message, places.map(place).collect()));
    }
    Ok(target)
}

/// A member with all that are one with it: those of a trait, and those that attributes choose one of.
fn with_all(world: &World<'_, '_>, access: Access, member: Member, old: &str) -> Renamed<Target> {
    let (file, view) = (member.0, &world.views()[member.0]);
    let name = world.node(member);
    let alone = || Target { access, members: BTreeSet::from([member]), is_of_trait: false };
    if access == Access::Field {
        let holder = name.ancestors().find(|one| matches!(one.kind(), Kind::TypeDefinition | Kind::EnumMember));
        let id = holder.and_then(|holder| view.names.declared_at(holder.child(Role::Name)?.id()));
        let mut target = alone();
        for (file, holder) in id.into_iter().flat_map(|id| world.holders((file, id))) {
            let same = field_names(holder).filter(|one| world.views()[file].file.slice(*one) == old);
            target.members.extend(same.map(|one| (file, one.id())));
        }
        return Ok(target);
    }
    let Some(block) = name.ancestors().find(|one| matches!(one.kind(), Kind::Implementation | Kind::Interface)) else {
        return Ok(alone());
    };
    let of_trait = match block.kind() {
        Kind::Interface => {
            view.names.declared_at(block.child(Role::Name).map_or(block.id(), NodeRef::id)).map(|id| (file, id))
        }
        _ => match block.child(Role::Bound).map(|bound| world.written(file, bound)) {
            Some(Type::Own(of, id, _)) => Some((of, id)),
            Some(_) => {
                return refused(format!("\"{old}\" is required by a trait outside of the project"), view, name.span());
            }
            None => None,
        },
    };
    let Some((of_file, id)) = of_trait else {
        let own = match block.child(Role::Type).map(|written| world.written(file, written)) {
            Some(Type::Own(file, id, _)) => (file, id),
            _ => return Ok(alone()),
        };
        let blocks = world.implementations(own).iter().filter(|one| one.of.is_none());
        let members = blocks.flat_map(|one| world.all_in_block((one.file, one.node), old)).collect();
        return Ok(Target { access, members, is_of_trait: false });
    };
    let declared = world.holders((of_file, id)).map(|(file, holder)| (file, holder.id()));
    let blocks = declared.chain(world.all_of_trait((of_file, id)));
    let members = blocks.flat_map(|block| world.all_in_block(block, old)).collect();
    Ok(Target { access, members, is_of_trait: true })
}
