//! Words that terms are written with, and where they are in a file: what is matched holds each of them.

use sieve_syntax::tree::{Kind, NodeId, NodeRef, Tree};

use super::plan::{Condition, Literal, Plan, Shape, Term, TermId, Test};
use crate::interface::File;

/// A literal of a term, by its index among the words of all queries.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Wanted {
    pub(crate) word: usize,
    pub(crate) is_referred: bool,
}

/// Where the words of a query are in a file.
pub(crate) struct WordPlaces<'a> {
    /// For each word of all queries, the offsets in the file where it begins, sorted.
    pub(crate) places: &'a [Vec<u32>],
    /// For each term of the query, its words.
    pub(crate) wanted: &'a [Vec<Wanted>],
    pub(crate) file: File<'a>,
}

/// Where the nodes are that a term can match.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Reach<'a> {
    Nowhere,
    Anywhere,
    /// Around one of these offsets, which are sorted.
    Around(&'a [u32]),
}

impl WordPlaces<'_> {
    /// Whether all words of a term are in the file.
    pub(super) fn are_there(&self, term: TermId) -> bool {
        self.wanted[term].iter().all(|one| !self.places[one.word].is_empty())
    }

    pub(super) fn reach(&self, term: TermId) -> Reach<'_> {
        if !self.are_there(term) {
            return Reach::Nowhere;
        }
        let written = self.wanted[term].iter().filter(|one| !one.is_referred || !self.file.renames_imports());
        let rarest = written.map(|one| self.places[one.word].as_slice()).min_by_key(|places| places.len());
        rarest.map_or(Reach::Anywhere, Reach::Around)
    }
}

/// The nodes of a kind, or of any, that are around offsets: all of them are given, and all is sorted.
///
/// What is around an offset is around the last node that begins before it, or that node. Of what is around it, all is known that is around
/// the one before: each node is visited once, and most are not visited at all.
pub(super) fn nodes_around(tree: &Tree, kind: Option<Kind>, nodes: &[NodeId], offsets: &[u32]) -> Vec<NodeId> {
    let mut found = Vec::new();
    let mut before: Option<NodeId> = None;
    for offset in offsets {
        let count = nodes.partition_point(|node| tree.node(*node).span().start <= *offset);
        let Some(last) = nodes[..count].last().copied() else { continue };
        let is_new = |node: &NodeRef<'_>| !before.is_some_and(|before| node.id() <= before && before < node.end());
        let up = std::iter::successors(Some(tree.node(last)), |node| node.parent()).take_while(is_new);
        let is_one = |node: &NodeRef<'_>| node.span().end > *offset && kind.is_none_or(|kind| node.kind() == kind);
        let first = found.len();
        found.extend(up.filter(is_one).map(NodeRef::id));
        found[first..].reverse();
        before = Some(last);
    }
    found
}

impl Plan {
    /// The words of each term without which a query matches nothing, or an alternative of it does not. Those of all others are left out:
    /// of something that must not be there, a file may speak by another name.
    pub(super) fn literals(&self) -> Vec<&[Literal]> {
        let mut literals: Vec<&[Literal]> = vec![&[]; self.terms.len()];
        let mut rest = vec![0];
        while let Some(term) = rest.pop() {
            let term_of = &self.terms[term];
            literals[term] = &term_of.literals;
            rest.extend(term_of.related());
            rest.extend(term_of.alternatives());
        }
        literals
    }

    /// Whether a term can match where the words of only some terms are.
    pub(super) fn may_match(&self, term: TermId, is_written: &impl Fn(TermId) -> bool) -> bool {
        let may = |term: TermId| self.may_match(term, is_written);
        let term_of = &self.terms[term];
        let alternatives = term_of.alternatives();
        is_written(term)
            && term_of.related().all(may)
            && (alternatives.is_empty() || alternatives.iter().copied().any(may))
    }
}

impl Term {
    /// The terms that match something if this one does.
    fn related(&self) -> impl Iterator<Item = TermId> {
        let conditions: &[Condition] = match &self.shape {
            Shape::Node { conditions, .. } => conditions,
            Shape::Either(_) => &[],
        };
        let in_conditions = conditions.iter().filter_map(|one| match &one.test {
            Test::Relation(_, relation) if !one.negated => Some(relation),
            _ => None,
        });
        self.relations.iter().chain(in_conditions).filter(|relation| !relation.negated).map(|relation| relation.term)
    }

    fn alternatives(&self) -> &[TermId] {
        if let Shape::Either(options) = &self.shape { options } else { &[] }
    }
}

#[cfg(test)]
mod tests {
    use sieve_syntax::language::Language;
    use sieve_syntax::text::Text;
    use sieve_syntax::tree::Kind;

    use super::nodes_around;

    #[test]
    fn nodes_around_offsets_are_those_that_hold_one() {
        let sources = [
            ("py", "sail(moor(low), (tide))\n@moor\nclass A(tide(low)):\n    x = moor(tide)\n"),
            ("sh", "moor <<END | sail $(tide)\nlow $(tide) tide\nEND\nmoor tide; (tide)\n"),
            ("tsx", "const a = <Tide low={moor(low)}>tide {sail(`low ${tide}`)}</Tide>;\n"),
        ];
        for (extension, source) in sources {
            let language = Language::of_extension(extension).expect("a language");
            let tree = language.parse(&Text::new(source.to_string()));
            for kind in Kind::ALL.iter().copied().map(Some).chain([None]) {
                let is_one = |one: &sieve_syntax::tree::NodeRef<'_>| kind.is_none_or(|kind| one.kind() == kind);
                let nodes: Vec<_> = tree.nodes().filter(is_one).map(|node| node.id()).collect();
                for word in ["tide", "low", "moor", "sail", "(", "A"] {
                    let offsets: Vec<u32> = source.match_indices(word).map(|(at, _)| at as u32).collect();
                    let holds = |node: &&_| {
                        let span = tree.node(**node).span();
                        offsets.iter().any(|at| span.start <= *at && *at < span.end)
                    };
                    let expected: Vec<_> = nodes.iter().filter(holds).copied().collect();
                    assert_eq!(
                        nodes_around(&tree, kind, &nodes, &offsets),
                        expected,
                        "{extension}, {kind:?} around {word}"
                    );
                }
            }
        }
    }
}
