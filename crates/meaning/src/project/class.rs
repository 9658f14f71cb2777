//! What is known of a class: what making an object of it takes.

use serde::{Deserialize, Serialize};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::Function;
use super::function::words_before;
use crate::names::Names;
use crate::refers::outside;
use crate::signature::Signature;

/// A class that others make objects of.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub struct Class {
    /// What its own constructor takes, without the object; nothing if it has none.
    pub constructor: Option<Signature>,
    /// What it is built on.
    pub bases: Vec<Base>,
    /// Whether nothing else decides over what making an object takes: no decorator, no other maker.
    pub is_plain: bool,
    /// The line of its name, from 1.
    pub line: u32,
}

/// What a class is built on.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub enum Base {
    /// A class of the same file, by its name.
    Here(String),
    /// A class of another file: the module, and the names that lead to it.
    ExternalPath(String, Vec<String>),
    /// Something that is made at run time, or that the language brings.
    Unknown,
}

impl Class {
    /// Reads a class.
    pub fn of<'t>(language: Language, text: &'t Text, names: &Names<'t>, node: NodeRef<'t>) -> Class {
        let body = node.child(Role::Body);
        let members = || body.into_iter().flat_map(|body| body.children_in(Role::Statement));
        let maker = if language == Language::Python { "__init__" } else { "constructor" };
        let called = |wanted: &str| {
            let is_called =
                |member: &NodeRef<'t>| member.child(Role::Name).is_some_and(|name| text.slice(name.span()) == wanted);
            members().filter(|member| member.kind() == Kind::Function).filter(is_called).collect::<Vec<_>>()
        };
        let makers = called(maker);
        let constructor = match makers.as_slice() {
            [only] if words_before(text, *only).is_empty() || language == Language::Python => {
                let function = Function::of(language, text, *only);
                let bound = |signature: Signature| {
                    if language == Language::Python { signature.bound() } else { signature }
                };
                function.signature.map(bound)
            }
            _ => None,
        };
        // A class whose constructor is set aside, or which holds others' statements, is made some other way.
        let others = members().any(|member| {
            let is_maker =
                |target: NodeRef<'t>| matches!(text.slice(target.span()), "__init__" | "__new__" | "constructor");
            matches!(member.kind(), Kind::If | Kind::Try) || member.children_in(Role::Target).any(is_maker)
        });
        // `class Boat: ...` leaves out what there is.
        let is_left_out = members().all(|member| text.slice(member.span()) == "...") && members().next().is_some();
        let is_plain = node.child(Role::Decorator).is_none()
            && makers.len() == usize::from(constructor.is_some())
            && called("__new__").is_empty()
            && !others
            && !is_left_out;
        let bases = bases_of(language, text, names, node);
        let starts = node.child(Role::Name).map_or(node.span().start, |name| name.span().start);
        Class { constructor, bases, is_plain, line: text.lines().line_of(starts) }
    }
}

fn bases_of<'t>(language: Language, text: &'t Text, names: &Names<'t>, class: NodeRef<'t>) -> Vec<Base> {
    let mut bases = Vec::new();
    for heritage in class.children_in(Role::Arguments) {
        for part in heritage.children().filter(|part| part.role() != Role::Type) {
            let base = part;
            if base.kind() == Kind::Name && text.slice(base.span()) == "object" && language == Language::Python {
                continue;
            }
            bases.push(match outside(language, text, names, base) {
                Some(found) if !found.module.is_empty() => Base::ExternalPath(
                    found.module.into_owned(),
                    found.path.iter().map(|name| (*name).to_string()).collect(),
                ),
                None if base.kind() == Kind::Name => Base::Here(text.slice(base.span()).to_string()),
                _ => Base::Unknown,
            });
        }
    }
    bases
}
