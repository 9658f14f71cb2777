//! Which address an expression writes.

use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

/// An address in an expression.
pub(super) struct Written<'t> {
    pub(super) address: String,
    pub(super) node: NodeRef<'t>,
    pub(super) output: Option<NodeRef<'t>>,
}

/// First names that are no blocks of a module: what the language gives.
const GIVEN: [&str; 8] = ["each", "count", "self", "path", "terraform", "tofu", "provider", "action"];

/// The address that the innermost member of an expression begins; nothing where it is something else's.
pub(super) fn written<'t>(text: &Text, bound: &Bound<'_>, inner: NodeRef<'t>) -> Option<Written<'t>> {
    let root = inner.child(Role::Object).filter(|object| object.kind() == Kind::Name)?;
    let name = name_of(inner)?;
    let slice = |node: NodeRef<'_>| text.slice(node.span());
    let first = slice(root);
    let address = match first {
        _ if GIVEN.contains(&first) || bound.has(first) => return None,
        // A resource may be written with the word for its block.
        "data" | "ephemeral" | "resource" => {
            let outer = member_around(inner)?;
            let (of, last) = (slice(name), slice(name_of(outer)?));
            let address = if first == "resource" { format!("{of}.{last}") } else { format!("{first}.{of}.{last}") };
            return Some(Written { address, node: outer, output: None });
        }
        _ => format!("{first}.{}", slice(name)),
    };
    let output = if first == "module" { member_around(outermost_element(inner)).and_then(name_of) } else { None };
    Some(Written { address, node: inner, output })
}

/// The name that a member takes out of its object; nothing where that is a number.
fn name_of(member: NodeRef<'_>) -> Option<NodeRef<'_>> {
    member.child(Role::Name).filter(|name| name.kind() == Kind::Name)
}

/// The member that takes something out of a node.
fn member_around(node: NodeRef<'_>) -> Option<NodeRef<'_>> {
    node.parent().filter(|parent| parent.kind() == Kind::Member && node.role() == Role::Object)
}

/// A node, or the elements that are taken out of it: `module.berth["north"]`, `module.berth[*]`.
fn outermost_element(node: NodeRef<'_>) -> NodeRef<'_> {
    let mut outer = node;
    while let Some(parent) = outer
        .parent()
        .filter(|parent| matches!(parent.kind(), Kind::Subscript | Kind::Splat) && outer.role() == Role::Object)
    {
        outer = parent;
    }
    outer
}

/// The names to which the nodes around give a meaning, while nodes are visited in the order of the text.
#[derive(Default)]
pub(super) struct Bound<'t>(Vec<(NodeId, Vec<&'t str>)>);

impl<'t> Bound<'t> {
    /// Comes to the next node.
    pub(super) fn enter(&mut self, text: &'t Text, node: NodeRef<'_>) {
        while self.0.last().is_some_and(|(end, _)| *end <= node.id()) {
            self.0.pop();
        }
        let names: Vec<&'t str> = match node.kind() {
            Kind::Comprehension => {
                let targets = node.children_in(Role::Clause).flat_map(|clause| clause.children_in(Role::Target));
                targets.map(|target| text.slice(target.span())).collect()
            }
            Kind::ConfigBlock => iterator_of(text, node).into_iter().collect(),
            _ => return,
        };
        if !names.is_empty() {
            self.0.push((node.end(), names));
        }
    }

    /// Whether a `for` around, or a block that is made for each of several values, gives a name its meaning.
    fn has(&self, name: &str) -> bool {
        self.0.iter().any(|(_, names)| names.contains(&name))
    }
}

/// What a block that is made for each of several values calls the value: its label, unless it says otherwise.
fn iterator_of<'t>(text: &'t Text, block: NodeRef<'_>) -> Option<&'t str> {
    let is_dynamic = block.child(Role::Name).is_some_and(|name| text.slice(name.span()) == "dynamic");
    let label = block.child(Role::Label).filter(|_| is_dynamic)?;
    let own =
        assignments(text, block).find(|(name, _)| *name == "iterator").and_then(|(_, node)| node.child(Role::Value));
    let named = own.map_or(label, |value| value);
    Some(text.slice(named.span()).trim_matches('"'))
}

/// The assignments directly in a block, by their names.
pub(super) fn assignments<'t, 'n>(text: &'t Text, block: NodeRef<'n>) -> impl Iterator<Item = (&'t str, NodeRef<'n>)> {
    let body = block.child(Role::Body).into_iter();
    body.flat_map(|body| body.children()).filter(|node| node.kind() == Kind::Assignment).filter_map(move |node| {
        let target = node.child(Role::Target)?;
        Some((text.slice(target.span()), node))
    })
}
