//! The values of a data file: what a reader of JSON, YAML or TOML makes of it, with the node behind each value.
//!
//! A value is an object, a list or a scalar, whatever its language calls it. Each knows where it is written, so that a JSON Pointer
//! (RFC 6901) leads to a place in the text, and a place to a pointer. Aliases of YAML are followed by reference, never copied.
//!
//! ```
//! use sieve_meaning::data::Data;
//! use sieve_syntax::{language::Language, text::Text};
//!
//! let text = Text::new("quay:\n  depth: 3\n".into());
//! let tree = Language::Yaml.parse(&text);
//! let data = Data::of(Language::Yaml, &text, &tree);
//! let depth = data.at("/quay/depth").expect("there is one");
//! assert_eq!((text.place(depth.span().start).line, depth.pointer().as_str()), (2, "/quay/depth"));
//! ```

mod build;
mod json;
pub mod path;
mod pointer;
mod reference;
mod scalar;
mod steps;
mod table;

use std::sync::Arc;

use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{NodeId, NodeRef, Tree};

pub use json::TooLarge;
pub use reference::REFERENCE;
pub use scalar::Scalar;
pub use steps::Steps;

/// The values of one file.
#[derive(Debug, Clone)]
pub struct Data<'t> {
    language: Language,
    text: &'t Text,
    tree: &'t Tree,
    outline: Arc<Outline>,
}

/// What was read of a file, to be kept beside its text and its tree.
#[derive(Debug, Default)]
pub struct Outline {
    parts: Vec<Part>,
    /// The value of each document; a file that is none has one all the same.
    documents: Vec<PartId>,
    /// The values of objects by their keys: of equal ones the last.
    keys: FxHashMap<(PartId, KeyName), PartId>,
    repeats: Vec<Repeat>,
    anchors: Vec<Anchor>,
    unknown_aliases: Vec<NodeId>,
}

/// A value within a file.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct PartId(u32);

#[derive(Debug)]
struct Part {
    content: Content,
    /// Where it is written: of a table of TOML, its first mention.
    node: NodeId,
    parent: Option<PartId>,
    /// Its key, in an object.
    key: Option<Key>,
    /// The tag before it.
    tag: Option<NodeId>,
    origin: Origin,
}

/// How an object or list came about: what may still be added to it depends on that.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
enum Origin {
    /// It is on the way to another one: a header may still be given to it.
    #[default]
    Implied,
    /// A header is its own.
    Header,
    /// Keys with dots made it, below the header of the same number.
    Dotted(u32),
    /// It is written as a value, and complete.
    Value,
}

/// What makes two keys the same: `1` and `"1"` are two in YAML.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
struct KeyName {
    name: String,
    is_string: bool,
}

#[derive(Debug)]
struct Key {
    name: String,
    node: NodeId,
}

#[derive(Debug, Clone)]
enum Content {
    Object(Vec<PartId>),
    List(Vec<PartId>),
    /// Stands for another value.
    Alias(PartId),
    Scalar,
    /// Code that could not be understood.
    Unknown,
}

/// A key that an object has already.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Repeat {
    /// The key.
    pub key: NodeId,
    /// Where the object has it first.
    pub first: NodeId,
}

/// A name for a value, with how often it is used.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Anchor {
    /// Where it is.
    pub node: NodeId,
    /// How many aliases stand for the value.
    pub aliases: u32,
}

/// What a value is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Shape {
    /// Keys with values.
    Object,
    /// Values in an order.
    List,
    /// A string, a number, a boolean, a date, or null.
    Scalar,
    /// Code that could not be understood.
    Unknown,
}

impl Outline {
    /// Reads a file.
    pub fn of(language: Language, text: &Text, tree: &Tree) -> Outline {
        build::outline(language, text, tree)
    }
}

impl<'t> Data<'t> {
    /// Reads the values of a file. Nothing is wrong with any tree: what is not understood is a value of no known shape.
    pub fn of(language: Language, text: &'t Text, tree: &'t Tree) -> Data<'t> {
        Data::with(Arc::new(Outline::of(language, text, tree)), language, text, tree)
    }

    /// The values of a file of which the outline is known.
    pub fn with(outline: Arc<Outline>, language: Language, text: &'t Text, tree: &'t Tree) -> Data<'t> {
        Data { language, text, tree, outline }
    }

    /// The values of the documents.
    pub fn documents(&self) -> impl ExactSizeIterator<Item = Value<'_, 't>> {
        self.outline.documents.iter().map(|id| self.value(*id))
    }

    /// The value of the first document; nothing in a file without any.
    pub fn root(&self) -> Option<Value<'_, 't>> {
        self.documents().next()
    }

    /// A value by its id.
    pub fn value(&self, id: PartId) -> Value<'_, 't> {
        Value { data: self, id }
    }

    /// Every value, in the order of the text but for tables of TOML.
    pub fn values(&self) -> impl Iterator<Item = Value<'_, 't>> {
        (0..self.outline.parts.len() as u32).map(|id| self.value(PartId(id)))
    }

    /// Keys that their objects have already, in the order of the text.
    pub fn repeats(&self) -> &[Repeat] {
        &self.outline.repeats
    }

    /// The anchors, in the order of the text.
    pub fn anchors(&self) -> &[Anchor] {
        &self.outline.anchors
    }

    /// What is known of an anchor.
    pub fn anchor(&self, node: NodeId) -> Option<&Anchor> {
        let anchors = self.anchors();
        anchors.binary_search_by_key(&node, |anchor| anchor.node).ok().map(|index| &anchors[index])
    }

    /// Aliases without an anchor before them.
    pub fn unknown_aliases(&self) -> &[NodeId] {
        &self.outline.unknown_aliases
    }

    /// The value that a pointer leads to in the first document (RFC 6901).
    pub fn at(&self, pointer: &str) -> Option<Value<'_, 't>> {
        pointer::follow(self.root()?, pointer)
    }

    /// The innermost value that is written around a place, or whose key is.
    pub fn around(&self, offset: u32) -> Option<Value<'_, 't>> {
        let by_node: FxHashMap<NodeId, PartId> = self.node_ids().collect();
        let node = self.tree.covering(Span::new(offset, offset));
        let mut around = std::iter::once(node).chain(node.ancestors());
        around.find_map(|node| by_node.get(&node.id())).map(|id| self.value(*id))
    }

    /// The nodes of values and of their keys. A pair is where its value is.
    fn node_ids(&self) -> impl Iterator<Item = (NodeId, PartId)> {
        self.values().flat_map(|value| {
            let part = value.part();
            let key = part.key.as_ref().map(|key| (key.node, value.id));
            key.into_iter().chain([(part.node, value.id)])
        })
    }

    fn node(&self, id: NodeId) -> NodeRef<'t> {
        self.tree.node(id)
    }
}

/// So few keys are looked through one by one.
const FEW: usize = 8;

/// One value of a file.
#[derive(Debug, Clone, Copy)]
pub struct Value<'d, 't> {
    data: &'d Data<'t>,
    id: PartId,
}

impl PartialEq for Value<'_, '_> {
    fn eq(&self, other: &Self) -> bool {
        std::ptr::eq(self.data, other.data) && self.id == other.id
    }
}

impl<'d, 't> Value<'d, 't> {
    fn part(self) -> &'d Part {
        &self.data.outline.parts[self.id.0 as usize]
    }

    /// Its id in the file.
    pub fn id(self) -> PartId {
        self.id
    }

    /// Another value of the same file.
    pub fn of_same_file(self, id: PartId) -> Value<'d, 't> {
        self.data.value(id)
    }

    /// The node where it is written.
    pub fn node(self) -> NodeRef<'t> {
        self.data.node(self.part().node)
    }

    /// Where it is written. A value that is not written is where its key is.
    pub fn span(self) -> Span {
        let span = self.node().span();
        if span.is_empty() { self.key_span().unwrap_or(span) } else { span }
    }

    /// The name of its key, in an object.
    pub fn key(self) -> Option<&'d str> {
        self.part().key.as_ref().map(|key| key.name.as_str())
    }

    /// The node of its key.
    pub fn key_node(self) -> Option<NodeRef<'t>> {
        self.part().key.as_ref().map(|key| self.data.node(key.node))
    }

    /// Where its key is.
    pub fn key_span(self) -> Option<Span> {
        self.key_node().map(NodeRef::span)
    }

    /// Where its key is, in an object; elsewhere where it is written itself.
    pub fn key_or_own_span(self) -> Span {
        self.key_span().unwrap_or_else(|| self.span())
    }

    /// The object or list that holds it.
    pub fn parent(self) -> Option<Value<'d, 't>> {
        self.part().parent.map(|id| self.data.value(id))
    }

    /// The value that it stands for, if it is an alias; else itself.
    pub fn resolved(self) -> Value<'d, 't> {
        // An alias stands for a value before it: one step after the other ends.
        match self.part().content {
            Content::Alias(target) => self.data.value(target).resolved(),
            _ => self,
        }
    }

    /// Whether it is an alias.
    pub fn is_alias(self) -> bool {
        matches!(self.part().content, Content::Alias(_))
    }

    /// What it is, aliases resolved.
    pub fn shape(self) -> Shape {
        match self.resolved().part().content {
            Content::Object(_) => Shape::Object,
            Content::List(_) => Shape::List,
            Content::Scalar => Shape::Scalar,
            Content::Alias(_) | Content::Unknown => Shape::Unknown,
        }
    }

    /// What is in it, in order: the values of an object or the elements of a list.
    pub fn children(self) -> impl ExactSizeIterator<Item = Value<'d, 't>> + DoubleEndedIterator {
        let children: &'d [PartId] = match &self.resolved().part().content {
            Content::Object(children) | Content::List(children) => children,
            _ => &[],
        };
        children.iter().map(move |id| self.data.value(*id))
    }

    /// The value that an object has for a key: the last one, if it has several.
    pub fn get(self, name: &str) -> Option<Value<'d, 't>> {
        let mut children = self.children();
        if children.len() <= FEW {
            return children.rfind(|child| child.key() == Some(name));
        }
        let object = self.resolved().id;
        let known =
            |is_string| self.data.outline.keys.get(&(object, KeyName { name: name.to_string(), is_string })).copied();
        known(true).max(known(false)).map(|id| self.data.value(id))
    }

    /// An element of a list, counted from 0.
    pub fn index(self, index: usize) -> Option<Value<'d, 't>> {
        match &self.resolved().part().content {
            Content::List(elements) => elements.get(index).map(|id| self.data.value(*id)),
            _ => None,
        }
    }

    /// What a scalar is; nothing for objects and lists.
    pub fn scalar(self) -> Option<Scalar> {
        scalar::scalar_of(self.resolved())
    }

    /// The characters of a string.
    pub fn as_str(self) -> Option<String> {
        match self.scalar()? {
            Scalar::String(value) => Some(value),
            _ => None,
        }
    }

    /// The value that a pointer leads to from it (RFC 6901).
    pub fn at(self, pointer: &str) -> Option<Value<'d, 't>> {
        pointer::follow(self, pointer)
    }

    /// The pointer that leads to it (RFC 6901).
    pub fn pointer(self) -> String {
        pointer::pointer_to(self)
    }

    /// It as JSON as far as so many levels: what is in objects and lists below them is left out. Each value is a step.
    ///
    /// # Errors
    /// When it has more values than there are steps left, once aliases are resolved.
    pub fn to_json_within(self, levels: usize, steps: &Steps) -> Result<serde_json::Value, TooLarge> {
        json::to_json(self, levels, steps)
    }

    /// It as JSON, if it has no more than so many values once aliases are resolved.
    ///
    /// # Errors
    /// When it has more.
    pub fn to_json(self, most: usize) -> Result<serde_json::Value, TooLarge> {
        json::to_json(self, usize::MAX, &Steps::new(most))
    }
}
