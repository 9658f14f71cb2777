//! Tables of TOML, which are put together from headers and keys with dots all over a file ("Table", "Array of Tables", TOML 1.0).

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::build::Builder;
use super::{Content, Key, Origin, PartId};

impl<'t> Builder<'t> {
    /// A value as it is written is complete: no header adds to it.
    pub(super) fn settle(&mut self, part: PartId) {
        self.outline.parts[part.0 as usize].origin = Origin::Value;
    }

    /// The object that holds the last name of a key, and that name. Nothing where another value is in the way, which is noted.
    pub(super) fn holder_of(&mut self, object: PartId, key: NodeRef<'t>) -> Option<(PartId, NodeRef<'t>)> {
        if key.kind() != Kind::DottedKey {
            return Some((object, key));
        }
        let section = self.section_of(key);
        let names: Vec<NodeRef<'t>> = key.children().collect();
        let (last, through) = names.split_last()?;
        let mut object = object;
        for name in through {
            object = self.step(object, *name, Origin::Dotted(section))?;
        }
        Some((object, *last))
    }

    /// Which header a key is below, by the place of its table.
    fn section_of(&self, key: NodeRef<'t>) -> u32 {
        let table = key.ancestors().find(|around| matches!(around.kind(), Kind::Table));
        table.map_or(u32::MAX, |table| table.span().start)
    }

    /// The object that a name leads to, made if it is not there yet.
    fn step(&mut self, object: PartId, name: NodeRef<'t>, origin: Origin) -> Option<PartId> {
        let known = self.known(object, &self.name_of(name));
        let Some(found) = known else { return Some(self.make(object, name, origin, Content::Object(Vec::new()))) };
        let part = &self.outline.parts[found.0 as usize];
        let is_open = match (part.origin, origin) {
            (Origin::Value, _) => false,
            // What has a header of its own, or other keys with dots, is complete for keys with dots.
            (Origin::Header, Origin::Dotted(_)) => false,
            (Origin::Dotted(first), Origin::Dotted(second)) => first == second,
            _ => true,
        };
        let inner = match &part.content {
            Content::Object(_) => Some(found),
            // A header leads into the last element of an array of tables.
            Content::List(elements) if origin == Origin::Implied => elements.last().copied(),
            _ => None,
        };
        if !is_open || inner.is_none() {
            self.repeated(name.id(), found);
            return None;
        }
        if part.origin == Origin::Implied {
            self.outline.parts[found.0 as usize].origin = origin;
        }
        inner
    }

    fn make(&mut self, object: PartId, name: NodeRef<'t>, origin: Origin, content: Content) -> PartId {
        let key_name = self.name_of(name);
        let key = Key { name: key_name.name.clone(), node: name.id() };
        let holder = name.parent().filter(|parent| parent.kind() != Kind::DottedKey).unwrap_or(name);
        let part = self.add(holder.id(), Some(object), Some(key), content);
        self.outline.parts[part.0 as usize].origin = origin;
        self.know(object, key_name, part);
        self.hold(object, part);
        part
    }

    /// A header and the entries below it.
    pub(super) fn table(&mut self, root: PartId, table: NodeRef<'t>) {
        let Some(object) = self.headed(root, table) else { return };
        for entry in table.children_in(Role::Element).filter(|entry| entry.kind() == Kind::Pair) {
            self.entry(object, entry);
        }
    }

    /// The object that a header names.
    fn headed(&mut self, root: PartId, table: NodeRef<'t>) -> Option<PartId> {
        let key = table.child(Role::Key)?;
        let names: Vec<NodeRef<'t>> = if key.kind() == Kind::DottedKey { key.children().collect() } else { vec![key] };
        let (last, through) = names.split_last()?;
        let mut object = root;
        for name in through {
            object = self.step(object, *name, Origin::Implied)?;
        }
        let is_array = self.tree.token_kind(table.token_range().start + 1) == TokenKind::BracketOpen;
        if is_array { self.element(object, *last, table) } else { self.standard(object, *last) }
    }

    /// `[name]`: a table is given its header once.
    fn standard(&mut self, object: PartId, name: NodeRef<'t>) -> Option<PartId> {
        let Some(found) = self.known(object, &self.name_of(name)) else {
            return Some(self.make(object, name, Origin::Header, Content::Object(Vec::new())));
        };
        let part = &mut self.outline.parts[found.0 as usize];
        let is_open = part.origin == Origin::Implied && matches!(part.content, Content::Object(_));
        if is_open {
            part.origin = Origin::Header;
        } else {
            self.repeated(name.id(), found);
        }
        // What is below a header that is given twice is looked at all the same.
        matches!(self.outline.parts[found.0 as usize].content, Content::Object(_)).then_some(found)
    }

    /// `[[name]]`: one more element of an array.
    fn element(&mut self, object: PartId, name: NodeRef<'t>, table: NodeRef<'t>) -> Option<PartId> {
        let list = match self.known(object, &self.name_of(name)) {
            None => self.make(object, name, Origin::Header, Content::List(Vec::new())),
            Some(found) => {
                let part = &self.outline.parts[found.0 as usize];
                if part.origin == Origin::Value || !matches!(part.content, Content::List(_)) {
                    self.repeated(name.id(), found);
                    return None;
                }
                found
            }
        };
        let element = self.add(table.id(), Some(list), None, Content::Object(Vec::new()));
        self.outline.parts[element.0 as usize].origin = Origin::Header;
        self.hold(list, element);
        Some(element)
    }
}
