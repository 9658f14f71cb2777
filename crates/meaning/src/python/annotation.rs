//! Names in the text of string annotations.

use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::names::{Collector, Unknown};

/// Knows whether the walk is within a type annotation.
#[derive(Debug, Default)]
pub(super) struct Annotations {
    /// The end of the annotation that the walk is in or was in last.
    annotation_end: Option<NodeId>,
    /// The end of a part of it whose strings are no types.
    literal_end: Option<NodeId>,
}

impl Annotations {
    #[inline]
    pub(super) fn arrive(&mut self, node: NodeRef<'_>) {
        if matches!(node.role(), Role::Type | Role::Returns | Role::Bound) {
            self.annotation_end = self.annotation_end.max(Some(node.end()));
        }
    }

    /// A string in an annotation is an expression in quotes, unless it is in `Literal[…]` or after the first
    /// element of `Annotated[…]`.
    pub(super) fn on_string<'t>(&mut self, collector: &mut Collector<'t>, node: NodeRef<'t>) {
        if self.annotation_end.is_none_or(|end| end <= node.id()) || self.literal_end.is_some_and(|end| node.id() < end)
        {
            return;
        }
        if let Some(literal) = holder_of_plain_text(collector, node) {
            self.literal_end = Some(literal);
            return;
        }
        use_names_in(collector, node);
    }
}

/// The end of the nearest subscript of `Literal` or `Annotated` around a string of an annotation.
fn holder_of_plain_text<'t>(collector: &Collector<'t>, node: NodeRef<'t>) -> Option<NodeId> {
    let in_type = |node: &NodeRef<'t>| !matches!(node.role(), Role::Type | Role::Returns | Role::Bound);
    let mut inner = node;
    while let Some(parent) = inner.parent().filter(|_| in_type(&inner)) {
        if parent.kind() == Kind::Subscript && inner.role() == Role::Index {
            let object = parent.child(Role::Object).map_or("", |object| collector.node_text(object));
            let name = object.rsplit('.').next().unwrap_or_default().trim();
            // It may be imported by another name: `Literal as _TypingLiteral`.
            if ["Literal", "Annotated"].iter().any(|known| name.ends_with(known)) {
                return Some(parent.end());
            }
        }
        if parent.kind() == Kind::Call {
            return Some(parent.end());
        }
        inner = parent;
    }
    None
}

fn use_names_in<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let span = node.span();
    let literal = collector.text.slice(span);
    let Some((start, content)) = plain_content(literal) else { return };
    let tree = Language::Python.parse_expression(content);
    // Text that is no expression, or is written with escapes, represents no type that a reader would find.
    let unclear = !tree.faults().is_empty() || content.contains('\\');
    let excuse = unclear.then_some(Unknown::InText);
    for name in tree.nodes_of(Kind::Name).filter(|name| name.role() != Role::Name) {
        let inner = name.span();
        let place = Span::new(span.start + start + inner.start, span.start + start + inner.end);
        let scope = collector.current();
        collector.use_text(scope, &content[inner.range()], node, place, excuse);
    }
}

/// The text between the quotes of a literal without prefix, as it is written, and where it begins.
fn plain_content(literal: &str) -> Option<(u32, &str)> {
    let quotes = ["\"\"\"", "'''", "\"", "'"].into_iter().find(|quotes| literal.starts_with(quotes))?;
    let content = literal.strip_prefix(quotes)?.strip_suffix(quotes)?;
    Some((quotes.len() as u32, content))
}
