//! Steps of paths: from a node to its parts.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::plan::{Attribute, Step};

/// Kinds that only hold parts together: their parts are also those of what they belong to.
const CONTAINERS: &[Kind] =
    &[Kind::Arguments, Kind::Parameters, Kind::TypeParameters, Kind::Heritage, Kind::Block, Kind::StartTag];

/// The roles in which containers belong to what they hold together.
const CONTAINER_ROLES: &[(Role, &[Kind])] = &[
    (Role::Arguments, &[Kind::Arguments, Kind::Heritage]),
    (Role::Parameters, &[Kind::Parameters]),
    (Role::TypeParameters, &[Kind::TypeParameters]),
    (Role::Body, &[Kind::Block]),
    (Role::Start, &[Kind::StartTag]),
];

/// Short words for what has a long name or is far away.
const SHORT: &[(&str, &[Step])] = &[
    ("keyword", &[Step { role: None, kind: Some(Kind::KeywordArgument), attribute: None, position: None }]),
    (
        "tag",
        &[
            Step { role: Some(Role::Start), kind: None, attribute: None, position: None },
            Step { role: Some(Role::Name), kind: None, attribute: None, position: None },
        ],
    ),
];

/// Whether a node only holds parts together.
pub(super) fn is_container(node: NodeRef<'_>) -> bool {
    CONTAINERS.contains(&node.kind())
}

/// The steps that a word means from nodes of a kind; none if they have nothing of that name.
pub(super) fn of_word(word: &str, from: Option<Kind>, is_last: bool) -> Vec<Step> {
    let role = Role::ALL.iter().copied().find(|role| role.name() == word);
    let role = role.filter(|role| from.is_none_or(|kind| roles_of(kind).contains(role)));
    let attribute = Attribute::named(word).filter(|_| is_last);
    let step = Step { role, kind: Kind::named(word), attribute, position: None };
    if step != Step::default() {
        return vec![step];
    }
    SHORT.iter().find(|(short, _)| *short == word).map_or(Vec::new(), |(_, steps)| steps.to_vec())
}

/// The roles of the parts of a kind, those in its containers included.
pub(super) fn roles_of(kind: Kind) -> Vec<Role> {
    let mut roles = kind.roles().to_vec();
    for (role, containers) in CONTAINER_ROLES {
        if kind.roles().contains(role) {
            roles.extend(containers.iter().flat_map(|container| container.roles()));
        }
    }
    roles
}

/// The parts of a node that a step leads to: those in the role, or else those of the kind.
pub(super) fn parts<'t>(node: NodeRef<'t>, step: &Step) -> Vec<NodeRef<'t>> {
    let parts = all_parts(node, step);
    match step.position {
        Some(position) => parts.get(position - 1).copied().into_iter().collect(),
        None => parts,
    }
}

fn all_parts<'t>(node: NodeRef<'t>, step: &Step) -> Vec<NodeRef<'t>> {
    // The name of a plain name is itself: `callee.name` is the last word of what is called, however it is written.
    if node.kind() == Kind::Name && step.role == Some(Role::Name) {
        return vec![node];
    }
    let in_role = |role: Role| select(node, move |part| part.role() == role);
    let of_kind = |kind: Kind| select(node, move |part| part.kind() == kind);
    let found = step.role.map(in_role).unwrap_or_default();
    if found.is_empty() { step.kind.map(of_kind).unwrap_or_default() } else { found }
}

/// Children that fit; where there are none, those of the containers among the children.
fn select<'t>(node: NodeRef<'t>, fits: impl Fn(NodeRef<'t>) -> bool) -> Vec<NodeRef<'t>> {
    let own: Vec<NodeRef<'t>> = node.children().filter(|part| fits(*part)).collect();
    if !own.is_empty() {
        return own;
    }
    let containers = node.children().filter(|part| is_container(*part));
    containers.flat_map(|container| container.children()).filter(|part| fits(*part)).collect()
}
