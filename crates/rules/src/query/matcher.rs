//! Finds what a query matches in a file: each term is asked of the nodes of its kind once, and what it matches is then looked up.

use std::borrow::Cow;
use std::cell::{Cell, OnceCell};

use sieve_meaning::doc_comment::doc_comment;
use sieve_syntax::tree::{Kind, NodeId, NodeRef};

use super::around::{Around, downwards};
use super::kinds::Kinds;
use super::plan::{Attribute, Compare, Condition, Path, Plan, Relation, Shape, Slot, Step, TermId, Test};
use super::refers::refers;
use super::steps;
use super::syntax::{Function, Operator, Way};
use super::tri::Tri;
use super::words::{Reach, WordPlaces, nodes_around};
use crate::described::is_public;
use crate::interface::File;
use crate::same::same_code;

/// What a query matches in a file, in the order of the text.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Matches {
    /// The nodes that match.
    pub found: Vec<NodeId>,
    /// Those of which that cannot be known.
    pub unsure: Vec<NodeId>,
}

impl Matches {
    /// Whether one of the nodes in a range matches.
    fn any_in(&self, range: std::ops::Range<NodeId>) -> Tri {
        Tri::of(has_in(&self.found, &range), || has_in(&self.unsure, &range))
    }
}

/// Whether something sorted has anything in a range.
fn has_in<T: Ord>(sorted: &[T], range: &std::ops::Range<T>) -> bool {
    let first = sorted.partition_point(|one| *one < range.start);
    sorted.get(first).is_some_and(|one| *one < range.end)
}

/// Captured nodes are compared with so many others for each node of a file, and so many more: of what is left then it is not known.
const ENOUGH_PER_NODE: u64 = 10;
const ENOUGH: u64 = 200_000;

/// Deeper code than anybody writes: chains of conditions or sums are as deep as they are long.
const DEEPEST: u32 = 300;

/// How many nodes are asked on one side of a node, where what they match depends on it.
const NEAREST: u32 = 4_000;

/// A query and a file that it is asked of.
pub(crate) struct Matcher<'m> {
    plan: &'m Plan,
    file: File<'m>,
    shared: &'m Shared<'m>,
    /// Where its words are, if they were looked for.
    words: Option<WordPlaces<'m>>,
    /// How often terms that ask of captured nodes may still be asked: each node may have to ask many others.
    left: Cell<u64>,
    /// How many steps nodes climbed to look what is around them.
    climbed: Cell<usize>,
    /// What the free terms match.
    matched: Vec<OnceCell<Matches>>,
    /// The same by the innermost function around each node: after and before stay in one function.
    matched_in: Vec<OnceCell<InFunctions>>,
    /// Whether something around a node matches, for each node.
    matched_around: Vec<OnceCell<Vec<Tri>>>,
}

/// Nodes that match, and those that may, each after the function that it is in.
type InFunctions = (Vec<(NodeId, NodeId)>, Vec<(NodeId, NodeId)>);

/// The captured nodes.
pub(super) type Slots = Vec<Option<NodeId>>;

/// What is done at the end of a path, at a node or an attribute of it; whether that is enough.
type End<'v, 'm> = dyn FnMut(NodeRef<'m>, Option<Attribute>) -> bool + 'v;

/// What all queries that are asked of a file share.
pub(crate) struct Shared<'a> {
    file: File<'a>,
    around: Around<'a>,
    kinds: OnceCell<Kinds>,
}

impl<'a> Shared<'a> {
    pub(crate) fn new(file: File<'a>) -> Shared<'a> {
        Shared { file, around: Around::new(file), kinds: OnceCell::new() }
    }

    /// The nodes of a kind.
    fn of_kind(&self, kind: Kind) -> &[NodeId] {
        self.kinds.get_or_init(|| Kinds::of(self.file.tree)).all(kind)
    }
}

impl<'m> Matcher<'m> {
    pub(super) fn new(plan: &'m Plan, shared: &'m Shared<'m>, words: Option<WordPlaces<'m>>) -> Matcher<'m> {
        let (cells, file) = (plan.terms.len(), shared.file);
        Matcher {
            plan,
            file,
            shared,
            words,
            left: Cell::new(ENOUGH + ENOUGH_PER_NODE * file.tree.nodes().len() as u64),
            climbed: Cell::new(0),
            matched: (0..cells).map(|_| OnceCell::new()).collect(),
            matched_in: (0..cells).map(|_| OnceCell::new()).collect(),
            matched_around: (0..cells).map(|_| OnceCell::new()).collect(),
        }
    }

    /// What a term matches.
    pub(super) fn matches(&self, id: TermId) -> Matches {
        let mut matches = Matches::default();
        let mut slots: Slots = vec![None; self.plan.captures.len()];
        for node in self.candidates(id).iter().copied() {
            match self.term(id, self.node(node), &mut slots) {
                Tri::Yes => matches.found.push(node),
                Tri::Unknown => matches.unsure.push(node),
                Tri::No => {}
            }
        }
        matches
    }

    /// The nodes that a term can match, in the order of the text: those of its kind around its words, or what its alternatives match.
    fn candidates(&self, id: TermId) -> Cow<'_, [NodeId]> {
        let kind = match &self.plan.terms[id].shape {
            Shape::Node { kind, .. } => *kind,
            Shape::Either(options) => {
                let mut all: Vec<NodeId> = options.iter().flat_map(|option| self.possible(*option)).collect();
                all.sort_unstable();
                all.dedup();
                return all.into();
            }
        };
        let nodes = || -> Cow<'_, [NodeId]> {
            let all = || self.file.tree.nodes().map(NodeRef::id).collect();
            kind.map_or_else(all, |kind| self.shared.of_kind(kind).into())
        };
        match self.words.as_ref().map_or(Reach::Anywhere, |words| words.reach(id)) {
            Reach::Anywhere => nodes(),
            Reach::Nowhere => Cow::Borrowed(&[]),
            Reach::Around(offsets) => nodes_around(self.file.tree, kind, &nodes(), offsets).into(),
        }
    }

    /// The nodes that an alternative matches or may match, in any order.
    fn possible(&self, option: TermId) -> Vec<NodeId> {
        if !self.plan.terms[option].is_free {
            return self.candidates(option).into_owned();
        }
        let known = self.known(option);
        known.found.iter().chain(&known.unsure).copied().collect()
    }

    pub(super) fn file(&self) -> File<'m> {
        self.file
    }

    pub(super) fn node(&self, node: NodeId) -> NodeRef<'m> {
        self.file.tree.node(node)
    }

    /// The code of a node.
    pub(super) fn code(&self, node: NodeId) -> &'m str {
        self.file.node_text(self.node(node))
    }

    /// The nodes that are captured where the query matches.
    pub(super) fn captured(&self, node: NodeRef<'m>) -> Slots {
        let mut slots: Slots = vec![None; self.plan.captures.len()];
        self.term(0, node, &mut slots);
        slots
    }

    /// What a path leads to first, as it is written, or as an attribute says it.
    pub(super) fn written(&self, path: &Path, node: NodeRef<'m>) -> Option<Cow<'m, str>> {
        let mut found = None;
        self.each_end(&path.steps, node, &mut |part, attribute| {
            found = match attribute {
                Some(attribute) => self.attribute(part, attribute),
                None => Some(self.file.node_text(part).into()),
            };
            found.is_some()
        });
        found
    }

    /// The node that a path leads to first.
    pub(super) fn part(&self, path: &Path, node: NodeRef<'m>) -> Option<NodeRef<'m>> {
        self.nodes(path, node).into_iter().next()
    }

    fn known(&self, id: TermId) -> &Matches {
        self.matched[id].get_or_init(|| self.matches(id))
    }

    /// Whether a term holds for a node.
    fn term(&self, id: TermId, node: NodeRef<'m>, slots: &mut Slots) -> Tri {
        let term = &self.plan.terms[id];
        let shape = match &term.shape {
            Shape::Either(options) => Tri::any(options.iter().map(|option| self.of(*option, node, slots))),
            Shape::Node { kind, .. } if kind.is_some_and(|kind| kind != node.kind()) => Tri::No,
            Shape::Node { capture, conditions, .. } => {
                if let Some(slot) = capture {
                    slots[*slot] = Some(node.id());
                }
                Tri::all(conditions.iter().map(|condition| self.condition(condition, node, slots)))
            }
        };
        if shape == Tri::No {
            return Tri::No;
        }
        shape.min(Tri::all(term.relations.iter().map(|relation| self.relation(relation, node, slots))))
    }

    /// The same, looked up where it does not depend on captured nodes.
    fn of(&self, id: TermId, node: NodeRef<'m>, slots: &mut Slots) -> Tri {
        if self.plan.terms[id].is_free {
            return self.known(id).any_in(node.id()..NodeId(node.id().0 + 1));
        }
        match self.left.get().checked_sub(1) {
            None => return Tri::Unknown,
            Some(left) => self.left.set(left),
        }
        self.term(id, node, slots)
    }

    fn condition(&self, condition: &Condition, node: NodeRef<'m>, slots: &mut Slots) -> Tri {
        let holds = match &condition.test {
            Test::Compare(path, compare) => self.compare(path, compare, node),
            Test::Same(path, slot) => self.same(path, *slot, node, slots),
            Test::Function(function, path, compared) => Tri::from(self.function(*function, path, *compared, node)),
            Test::Exists(path) => self.any_end(path, node, |part, attribute| Tri::from(self.is_there(part, attribute))),
            Test::Capture(path, slot) => {
                let first = self.nodes(path, node).into_iter().next();
                slots[*slot] = first.map(NodeRef::id);
                Tri::from(first.is_some())
            }
            Test::Relation(path, relation) => {
                Tri::any(self.nodes(path, node).into_iter().map(|part| self.relation(relation, part, slots)))
            }
            Test::Either(conditions) => Tri::any(conditions.iter().map(|one| self.condition(one, node, slots))),
        };
        holds.negated_if(condition.negated)
    }

    fn relation(&self, relation: &Relation, node: NodeRef<'m>, slots: &mut Slots) -> Tri {
        let term = relation.term;
        let is_free = self.plan.terms[term].is_free;
        let holds = match relation.way {
            _ if !is_free && self.left.get() == 0 => Tri::Unknown,
            Way::Inside if is_free => self.any_around(term, node),
            Way::Inside => self.any_inside(term, node, slots),
            Way::DirectlyInside => Tri::any(directly_around(node).map(|around| self.of(term, around, slots))),
            Way::Holding if is_free => self.known(term).any_in(NodeId(node.id().0 + 1)..node.end()),
            // Of code this deep all that is in it would be asked at each level.
            Way::Holding if self.shared.around.level(node.id()) > DEEPEST => Tri::Unknown,
            Way::Holding => Tri::any(node.descendants().map(|inner| self.of(term, inner, slots))),
            Way::DirectlyHolding => Tri::any(directly_in(node).map(|inner| self.of(term, inner, slots))),
            Way::After | Way::Before => match self.beside(node, relation.way) {
                None => Tri::No,
                Some((owner, range)) if is_free => self.any_in_function(term, owner, range),
                Some((owner, range)) => self.nearest(relation, owner, range, slots),
            },
        };
        holds.negated_if(relation.negated)
    }

    /// Whether a free term matches something around a node.
    fn any_around(&self, term: TermId, node: NodeRef<'m>) -> Tri {
        let cell = &self.matched_around[term];
        if cell.get().is_none() && self.climbed.get() < self.file.tree.nodes().len() {
            return self.climb(term, node);
        }
        let around = || {
            let tree = self.file.tree;
            let mut here = vec![Tri::No; tree.nodes().len()];
            let known = self.known(term);
            known.unsure.iter().for_each(|node| here[node.index()] = Tri::Unknown);
            known.found.iter().for_each(|node| here[node.index()] = Tri::Yes);
            downwards(tree, Tri::No, |_, parent, above: Tri| above.max(here[parent.id().index()]))
        };
        cell.get_or_init(around)[node.id().index()]
    }

    /// The same for one node, which looks for itself: where nodes are many, or deep, all are decided at once instead.
    fn climb(&self, term: TermId, node: NodeRef<'m>) -> Tri {
        let known = self.known(term);
        let mut steps = 0;
        let found = Tri::any(node.ancestors().map(|around| {
            steps += 1;
            known.any_in(around.id()..NodeId(around.id().0 + 1))
        }));
        self.climbed.set(self.climbed.get() + steps);
        found
    }

    /// Whether a term that asks of captured nodes matches something around a node; in very deep code only the nearest are asked.
    fn any_inside(&self, term: TermId, node: NodeRef<'m>, slots: &mut Slots) -> Tri {
        let near = node.ancestors().take(DEEPEST as usize);
        let found = Tri::any(near.map(|around| self.of(term, around, slots)));
        if self.shared.around.level(node.id()) > DEEPEST { found.max(Tri::Unknown) } else { found }
    }

    /// The statements of the same block that come before the one that a node is in, or after it, and the function that they are in.
    fn beside(&self, node: NodeRef<'m>, way: Way) -> Option<(NodeId, std::ops::Range<NodeId>)> {
        let statement = self.file.tree.node(self.shared.around.statement(node.id())?);
        let block = statement.parent()?;
        let range = match way {
            Way::After => NodeId(block.id().0 + 1)..statement.id(),
            _ => statement.end()..block.end(),
        };
        Some((self.shared.around.function(statement.id()), range))
    }

    /// Whether a free term matches a node in a range that is in a function, and in none within it.
    fn any_in_function(&self, term: TermId, owner: NodeId, range: std::ops::Range<NodeId>) -> Tri {
        let (found, unsure) = self.matched_in[term].get_or_init(|| {
            let sorted = |nodes: &[NodeId]| {
                let mut pairs: Vec<_> = nodes.iter().map(|node| (self.shared.around.function(*node), *node)).collect();
                pairs.sort_unstable();
                pairs
            };
            let known = self.known(term);
            (sorted(&known.found), sorted(&known.unsure))
        });
        let range = (owner, range.start)..(owner, range.end);
        Tri::of(has_in(found, &range), || has_in(unsure, &range))
    }

    /// Whether a term that asks of captured nodes matches a node in a range that is in a function: of very many only the nearest are
    /// asked, and of the others it is not known.
    fn nearest(&self, relation: &Relation, owner: NodeId, range: std::ops::Range<NodeId>, slots: &mut Slots) -> Tri {
        let count = range.end.0.saturating_sub(range.start.0);
        let near = |step: u32| match relation.way {
            Way::After => range.end.0 - 1 - step,
            _ => range.start.0 + step,
        };
        let nodes = (0..count.min(NEAREST)).map(|step| NodeId(near(step)));
        let in_function = nodes.filter(|node| self.shared.around.function(*node) == owner);
        let found = Tri::any(in_function.map(|node| self.of(relation.term, self.file.tree.node(node), slots)));
        if count > NEAREST { found.max(Tri::Unknown) } else { found }
    }

    /// Visits where a path leads, nodes or nodes whose attribute the last step is, until one is enough.
    fn each_end(&self, steps: &[Step], node: NodeRef<'m>, visit: &mut End<'_, 'm>) -> bool {
        let Some((step, rest)) = steps.split_first() else { return visit(node, None) };
        let mut any = false;
        let is_enough = steps::each_part(node, step, &mut |part| {
            any = true;
            if rest.is_empty() { visit(part, None) } else { self.each_end(rest, part, visit) }
        });
        if !any && rest.is_empty() && step.attribute.is_some() { visit(node, step.attribute) } else { is_enough }
    }

    /// The best answer of all that a path leads to.
    fn any_end(
        &self,
        path: &Path,
        node: NodeRef<'m>,
        mut ask: impl FnMut(NodeRef<'m>, Option<Attribute>) -> Tri,
    ) -> Tri {
        let mut best = Tri::No;
        self.each_end(&path.steps, node, &mut |part, attribute| {
            best = best.max(ask(part, attribute));
            best == Tri::Yes
        });
        best
    }

    /// The nodes that a path leads to.
    fn nodes(&self, path: &Path, node: NodeRef<'m>) -> Vec<NodeRef<'m>> {
        let mut nodes = Vec::new();
        self.each_end(&path.steps, node, &mut |part, attribute| {
            nodes.extend(attribute.is_none().then_some(part));
            false
        });
        nodes
    }

    fn is_there(&self, node: NodeRef<'m>, attribute: Option<Attribute>) -> bool {
        attribute.is_none_or(|attribute| self.attribute(node, attribute).is_some())
    }

    /// An attribute as a string; nothing where the node has none.
    fn attribute(&self, node: NodeRef<'m>, attribute: Attribute) -> Option<Cow<'m, str>> {
        let file = self.file;
        Some(match attribute {
            Attribute::Kind => node.kind().name().into(),
            Attribute::Text => file.node_text(node).into(),
            Attribute::Value => return self.value(node),
            Attribute::Path => file.path.into(),
            Attribute::Language => file.language.name().into(),
            Attribute::Lines => self.lines(node).to_string().into(),
            Attribute::Depth => self.shared.around.depth(node.id()).to_string().into(),
            Attribute::Exported => return is_public(file, node).then_some("exported".into()),
            Attribute::Doc => file.text.slice(doc_comment(file.language, file.text, node)?).into(),
        })
    }

    /// How many lines a node is on.
    fn lines(&self, node: NodeRef<'m>) -> u32 {
        let (lines, span) = (self.file.text.lines(), node.span());
        lines.line_of(span.end.max(span.start + 1) - 1) - lines.line_of(span.start) + 1
    }

    /// The value of a literal.
    fn value(&self, node: NodeRef<'m>) -> Option<Cow<'m, str>> {
        let text = self.file.node_text(node);
        match node.kind() {
            Kind::String => self.file.language.string_value(text).map(Cow::Owned),
            Kind::Number => {
                let value = self.file.language.number_value(text).and_then(|value| value.as_real());
                Some(value.map_or(text.into(), |value| value.to_string().into()))
            }
            Kind::Boolean | Kind::Null => Some(text.into()),
            Kind::Word => Some(text.into()),
            _ => None,
        }
    }

    fn compare(&self, path: &Path, compare: &Compare, node: NodeRef<'m>) -> Tri {
        self.any_end(path, node, |part, attribute| match (compare, attribute) {
            (Compare::Refers(wanted), _) => refers(self.file, part, wanted),
            (_, None) => fits(compare, self.file.node_text(part)),
            (_, Some(attribute)) => self.attribute(part, attribute).map_or(Tri::No, |text| fits(compare, &text)),
        })
    }

    fn same(&self, path: &Path, slot: Slot, node: NodeRef<'m>, slots: &Slots) -> Tri {
        let Some(captured) = slots[slot].map(|id| self.file.tree.node(id)) else { return Tri::No };
        let is_same = |part: NodeRef<'m>| same_code(self.file, part, captured);
        Tri::from(self.nodes(path, node).into_iter().any(is_same))
    }

    fn function(&self, function: Function, path: &Path, compared: Option<(Operator, f64)>, node: NodeRef<'m>) -> bool {
        let nodes = self.nodes(path, node);
        let number = match function {
            Function::Count => nodes.len(),
            Function::Repeated => {
                let mut texts: Vec<&str> = names_in(&nodes).map(|node| self.file.node_text(node)).collect();
                let all = texts.len();
                texts.sort_unstable();
                texts.dedup();
                all - texts.len()
            }
            Function::Lines => nodes.iter().map(|node| self.lines(*node) as usize).sum(),
            Function::Complexity => nodes.iter().map(|node| 1 + self.shared.around.decisions(node.id()) as usize).sum(),
        };
        match compared {
            None => number > 0,
            Some((operator, other)) => numbers_fit(operator, number as f64, other),
        }
    }
}

/// What is bound or given by some nodes: the names in a pattern, or the nodes themselves.
fn names_in<'t>(nodes: &[NodeRef<'t>]) -> impl Iterator<Item = NodeRef<'t>> {
    nodes.iter().flat_map(|node| {
        let is_many = matches!(node.kind(), Kind::Tuple | Kind::List | Kind::SequencePattern | Kind::MappingPattern);
        let parts: Vec<NodeRef<'t>> = if is_many { node.children().collect() } else { vec![*node] };
        parts
    })
}

/// Longer text is not looked through for a pattern, in bytes: of code that holds code that holds code, all of it would be again and again.
const LONGEST_TEXT: usize = 20_000;

fn fits(compare: &Compare, text: &str) -> Tri {
    let is_pattern = matches!(compare, Compare::Like(_) | Compare::LikeOneOf(_) | Compare::Matches(_));
    if is_pattern && text.len() > LONGEST_TEXT {
        return Tri::Unknown;
    }
    Tri::from(match compare {
        Compare::OneOf(texts) => texts.iter().any(|one| one == text),
        Compare::Like(glob) => glob.is_match(text),
        Compare::LikeOneOf(globs) => globs.is_match(text),
        Compare::Matches(pattern) => pattern.is_match(text),
        Compare::Starts(start) => text.starts_with(start.as_str()),
        Compare::Ends(end) => text.ends_with(end.as_str()),
        Compare::Refers(_) => false,
        // No number is as long as that.
        Compare::Number(operator, other) => {
            text.len() < 400 && text.parse().is_ok_and(|number: f64| numbers_fit(*operator, number, *other))
        }
    })
}

fn numbers_fit(operator: Operator, number: f64, other: f64) -> bool {
    match operator {
        Operator::Less => number < other,
        Operator::Greater => number > other,
        Operator::AtMost => number <= other,
        Operator::AtLeast => number >= other,
        _ => number == other,
    }
}

/// What is directly around a node: its parent, and what a parent that only holds parts together belongs to.
fn directly_around<'t>(node: NodeRef<'t>) -> impl Iterator<Item = NodeRef<'t>> {
    let mut next = node.parent();
    std::iter::from_fn(move || {
        let around = next?;
        next = around.parent().filter(|_| steps::is_container(around));
        Some(around)
    })
}

/// What is directly in a node: its children, and those of children that only hold parts together.
fn directly_in<'t>(node: NodeRef<'t>) -> impl Iterator<Item = NodeRef<'t>> {
    node.children().flat_map(|child| {
        let inner = steps::is_container(child).then(|| child.children()).into_iter().flatten();
        std::iter::once(child).chain(inner)
    })
}
