//! Reads values from a tree, whatever its language.

use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, Tree};

use super::{Anchor, Content, Key, KeyName, Origin, Outline, Part, PartId, Repeat, scalar};

pub(super) fn outline(language: Language, text: &Text, tree: &Tree) -> Outline {
    let mut builder = Builder { language, text, tree, outline: Outline::default(), named: FxHashMap::default() };
    let mut documents = tree.root().children().filter(|child| child.kind() == Kind::Document).peekable();
    if documents.peek().is_some() {
        documents.for_each(|document| builder.document(document));
    } else {
        builder.document(tree.root());
    }
    builder.outline.repeats.sort_by_key(|repeat| repeat.key);
    builder.outline.anchors.sort_by_key(|anchor| anchor.node);
    builder.outline
}

/// What the values are made with.
pub(super) struct Builder<'t> {
    language: Language,
    text: &'t Text,
    pub(super) tree: &'t Tree,
    pub(super) outline: Outline,
    /// The values with anchors that were met so far, and the places of these among the anchors.
    named: FxHashMap<&'t str, (PartId, usize)>,
}

/// What is written before a value.
#[derive(Debug, Clone, Copy, Default)]
struct Properties<'t> {
    tag: Option<NodeId>,
    anchor: Option<NodeRef<'t>>,
}

impl<'t> Builder<'t> {
    fn document(&mut self, holder: NodeRef<'t>) {
        self.named.clear();
        for (node, properties) in with_properties(holder) {
            if node.role() == Role::Value {
                let part = self.value(node, properties, None, None);
                self.outline.documents.push(part);
            }
        }
    }

    /// Adds a part; its content follows.
    pub(super) fn add(&mut self, node: NodeId, parent: Option<PartId>, key: Option<Key>, content: Content) -> PartId {
        let id = PartId(self.outline.parts.len() as u32);
        self.outline.parts.push(Part { content, node, parent, key, tag: None, origin: Origin::default() });
        id
    }

    fn value(
        &mut self,
        node: NodeRef<'t>,
        properties: Properties<'t>,
        parent: Option<PartId>,
        key: Option<Key>,
    ) -> PartId {
        let id = self.add(node.id(), parent, key, Content::Scalar);
        self.outline.parts[id.0 as usize].tag = properties.tag;
        // An alias within the value does not stand for it: it is no tree then.
        match node.kind() {
            Kind::Dictionary => self.object(id, node),
            Kind::List => self.list(id, node),
            Kind::Alias => self.alias(id, node),
            Kind::String | Kind::Number | Kind::Boolean | Kind::Null | Kind::DateTime => {}
            _ => self.set(id, Content::Unknown),
        }
        if let Some(anchor) = properties.anchor {
            let name = self.text.slice(anchor.span()).trim_start_matches('&');
            self.named.insert(name, (id, self.outline.anchors.len()));
            self.outline.anchors.push(Anchor { node: anchor.id(), aliases: 0 });
        }
        id
    }

    pub(super) fn set(&mut self, id: PartId, content: Content) {
        self.outline.parts[id.0 as usize].content = content;
    }

    fn alias(&mut self, id: PartId, node: NodeRef<'t>) {
        let name = self.text.slice(node.span()).trim_start_matches('*');
        match self.named.get(name).copied() {
            Some((target, anchor)) => {
                self.outline.anchors[anchor].aliases += 1;
                self.set(id, Content::Alias(target));
            }
            None => {
                self.outline.unknown_aliases.push(node.id());
                self.set(id, Content::Unknown);
            }
        }
    }

    fn list(&mut self, id: PartId, node: NodeRef<'t>) {
        let mut elements = Vec::new();
        for (element, properties) in with_properties(node) {
            if element.role() == Role::Element {
                elements.push(self.value(element, properties, Some(id), None));
            }
        }
        self.set(id, Content::List(elements));
    }

    /// An object, or the root of a file of tables.
    fn object(&mut self, id: PartId, node: NodeRef<'t>) {
        self.set(id, Content::Object(Vec::new()));
        for entry in node.children() {
            match entry.kind() {
                Kind::Pair => self.entry(id, entry),
                Kind::Table => self.table(id, entry),
                _ => {}
            }
        }
    }

    /// An entry of an object, whose key may lead through others.
    pub(super) fn entry(&mut self, object: PartId, pair: NodeRef<'t>) {
        let mut parts = with_properties(pair);
        let Some((key, _)) = parts.find(|(node, _)| node.role() == Role::Key) else { return };
        let Some((value, properties)) = parts.find(|(node, _)| node.role() == Role::Value) else { return };
        let Some((object, last)) = self.holder_of(object, key) else { return };
        let name = self.name_of(last);
        let key = Key { name: name.name.clone(), node: last.id() };
        let part = self.value(value, properties, Some(object), Some(key));
        self.settle(part);
        if let Some(first) = self.outline.keys.insert((object, name), part) {
            self.repeated(last.id(), first);
        }
        self.hold(object, part);
    }

    /// Notes that a key is there already.
    pub(super) fn repeated(&mut self, key: NodeId, first: PartId) {
        let first = &self.outline.parts[first.0 as usize];
        let first = first.key.as_ref().map_or(first.node, |key| key.node);
        self.outline.repeats.push(Repeat { key, first });
    }

    /// Puts a value into an object or list.
    pub(super) fn hold(&mut self, holder: PartId, part: PartId) {
        if let Content::Object(children) | Content::List(children) = &mut self.outline.parts[holder.0 as usize].content
        {
            children.push(part);
        }
    }

    /// The value that an object has for a key.
    pub(super) fn known(&self, object: PartId, name: &KeyName) -> Option<PartId> {
        self.outline.keys.get(&(object, name.clone())).copied()
    }

    /// Notes a value by its key.
    pub(super) fn know(&mut self, object: PartId, name: KeyName, part: PartId) {
        self.outline.keys.insert((object, name), part);
    }

    /// The name of a key: a string as it is meant, anything else as it is written.
    pub(super) fn name_of(&self, key: NodeRef<'t>) -> KeyName {
        let written = self.text.slice(key.span());
        match key.kind() {
            Kind::String => {
                let value = scalar::string_of(self.language, self.text, key);
                KeyName { name: value.unwrap_or_else(|| written.to_string()), is_string: true }
            }
            // A key without quotes is a string too where strings alone are keys.
            Kind::Name => KeyName { name: written.to_string(), is_string: true },
            Kind::Null => KeyName { name: "null".to_string(), is_string: false },
            _ => KeyName { name: written.to_string(), is_string: false },
        }
    }
}

/// The parts of a node, each with the tag and the anchor before it.
fn with_properties<'t>(holder: NodeRef<'t>) -> impl Iterator<Item = (NodeRef<'t>, Properties<'t>)> {
    let mut before = Properties::default();
    holder.children().filter_map(move |child| {
        match child.kind() {
            Kind::Tag => before.tag = Some(child.id()),
            Kind::Anchor => before.anchor = Some(child),
            _ => return Some((child, std::mem::take(&mut before))),
        }
        None
    })
}
