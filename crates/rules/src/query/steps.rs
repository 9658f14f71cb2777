//! Steps of paths: from a node to its parts.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::plan::{Attribute, Step};

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

/// Whether a node only holds parts together: they are also those of what it belongs to.
pub(super) fn is_container(node: NodeRef<'_>) -> bool {
    use Kind::{Arguments, Block, Heritage, Parameters, StartTag, TypeParameters};
    matches!(node.kind(), Arguments | Parameters | TypeParameters | Heritage | Block | StartTag)
}

/// Whether the parts of a node are statements.
pub(super) fn holds_statements(node: NodeRef<'_>) -> bool {
    matches!(node.kind(), Kind::Block | Kind::File | Kind::Case)
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
            let within = containers.iter().flat_map(|container| container.roles());
            let new: Vec<Role> = within.copied().filter(|role| !roles.contains(role)).collect();
            roles.extend(new);
        }
    }
    roles
}

/// What is done with each part; whether that is enough.
pub(super) type Visit<'v, 't> = &'v mut dyn FnMut(NodeRef<'t>) -> bool;

/// Visits the parts of a node that a step leads to, those in the role or else those of the kind, until one is enough.
pub(super) fn each_part<'t>(node: NodeRef<'t>, step: &Step, visit: Visit<'_, 't>) -> bool {
    let Some(position) = step.position else { return each_of_all(node, step, visit).is_enough };
    let (mut left, mut is_enough) = (position, false);
    each_of_all(node, step, &mut |part| {
        left -= 1;
        if left == 0 {
            is_enough = visit(part);
        }
        left == 0
    });
    is_enough
}

/// What came of visiting parts.
#[derive(Default, Clone, Copy)]
struct Visited {
    any: bool,
    is_enough: bool,
}

fn each_of_all<'t>(node: NodeRef<'t>, step: &Step, visit: Visit<'_, 't>) -> Visited {
    // The name of a plain name is itself: `callee.name` is the last word of what is called, however it is written.
    if node.kind() == Kind::Name && step.role == Some(Role::Name) {
        return Visited { any: true, is_enough: visit(node) };
    }
    let in_role = step.role.map(|role| select(node, move |part| part.role() == role, visit)).unwrap_or_default();
    match step.kind {
        Some(kind) if !in_role.any => select(node, move |part| part.kind() == kind, visit),
        _ => in_role,
    }
}

/// Children that fit; where there are none, those of the containers among the children.
fn select<'t>(node: NodeRef<'t>, fits: impl Fn(NodeRef<'t>) -> bool, visit: Visit<'_, 't>) -> Visited {
    let mut has_container = false;
    let own = node.children().inspect(|part| has_container |= is_container(*part));
    let visited = visit_fitting(own, &fits, visit);
    if visited.any || !has_container {
        return visited;
    }
    let containers = node.children().filter(|part| is_container(*part));
    visit_fitting(containers.flat_map(NodeRef::children), &fits, visit)
}

fn visit_fitting<'t>(
    parts: impl Iterator<Item = NodeRef<'t>>,
    fits: impl Fn(NodeRef<'t>) -> bool,
    visit: Visit<'_, 't>,
) -> Visited {
    let mut any = false;
    for part in parts.filter(|part| fits(*part)) {
        any = true;
        if visit(part) {
            return Visited { any, is_enough: true };
        }
    }
    Visited { any, is_enough: false }
}
