//! Finds the parts of a document.

use rustc_hash::FxHashSet;
use sieve_meaning::data::{self, PartId, REFERENCE, Value};

use super::{Choice, Condition, Node, NodeId, ROOT, Shape};
use crate::interface::Parts;

impl Shape {
    /// The parts of a document by their names; nothing when it has too many values, aliases resolved.
    pub(in crate::house::data) fn parts(&self, document: Value<'_, '_>, most: usize) -> Option<Parts> {
        let mut walk = Walk { shape: self, document, seen: FxHashSet::default(), parts: Parts::default() };
        let mut waiting = vec![(document, ROOT)];
        while let Some((value, node)) = waiting.pop() {
            walk.look_at(value.resolved(), node, &mut waiting);
            if walk.seen.len() > most {
                return None;
            }
        }
        for places in walk.parts.values_mut() {
            places.sort_unstable();
        }
        Some(walk.parts)
    }
}

struct Walk<'w, 'd, 't> {
    shape: &'w Shape,
    document: Value<'d, 't>,
    seen: FxHashSet<(PartId, NodeId)>,
    parts: Parts,
}

impl<'d, 't> Walk<'_, 'd, 't> {
    fn look_at(&mut self, value: Value<'d, 't>, id: NodeId, waiting: &mut Vec<(Value<'d, 't>, NodeId)>) {
        let node = &self.shape.nodes[id];
        if node.leads_nowhere() || !self.seen.insert((value.id(), id)) {
            return;
        }
        if let Some(name) = &node.name {
            self.parts.entry(name.clone()).or_default().push(value.id());
        }
        waiting.extend(node.also.iter().map(|also| (value, *also)));
        for choice in &node.choices {
            self.choose(value, choice, waiting);
        }
        match value.shape() {
            data::Shape::Object if node.has_keys() => {
                for child in value.children() {
                    node.go_on(child, waiting);
                }
            }
            data::Shape::List => {
                let elements = node.elements.into_iter();
                waiting.extend(elements.flat_map(|inner| value.children().map(move |child| (child, inner))));
            }
            _ => {}
        }
    }

    /// Goes on as the case is. What a reference stands for is what would be there without it.
    fn choose(&self, value: Value<'d, 't>, choice: &Choice, waiting: &mut Vec<(Value<'d, 't>, NodeId)>) {
        let Choice { condition, then, otherwise } = choice;
        let holds = condition.holds(value);
        waiting.extend((if holds { then } else { otherwise }).map(|id| (value, id)));
        if holds && condition.keys.iter().any(|key| key == REFERENCE) {
            let target = value.followed(self.document);
            waiting.extend(target.and_then(|target| Some((target, (*otherwise)?))));
        }
    }
}

impl Node {
    /// Whether nothing is to be found at it or below it.
    fn leads_nowhere(&self) -> bool {
        self.name.is_none()
            && self.also.is_empty()
            && self.choices.is_empty()
            && self.elements.is_none()
            && !self.has_keys()
    }

    fn has_keys(&self) -> bool {
        !self.keys.is_empty() || !self.patterns.is_empty() || self.rest.is_some()
    }

    /// Goes on with the value of a key.
    fn go_on<'d, 't>(&self, child: Value<'d, 't>, waiting: &mut Vec<(Value<'d, 't>, NodeId)>) {
        let key = child.key().unwrap_or_default();
        let before = waiting.len();
        let named = self.keys.get(key).copied();
        let matching = self.patterns.iter().filter(|(pattern, _)| pattern.is_match(key)).map(|(_, id)| *id);
        waiting.extend(named.into_iter().chain(matching).map(|id| (child, id)));
        if waiting.len() == before {
            waiting.extend(self.rest.map(|id| (child, id)));
        }
    }
}

impl Condition {
    fn holds(&self, value: Value<'_, '_>) -> bool {
        self.shape.is_none_or(|shape| value.shape() == shape)
            && self.keys.iter().all(|key| value.get(key).is_some())
            && self.values.iter().all(|(key, allowed)| {
                let found = value.get(key).and_then(|value| value.to_json(1).ok());
                found.is_some_and(|found| allowed.contains(&found))
            })
    }
}
