//! The words of all house rules, found in one look at a file.

use aho_corasick::{AhoCorasick, AhoCorasickKind, MatchKind};
use memchr::memmem::Finder;
use rustc_hash::FxHashMap;

use crate::query::{Query, Wanted};

/// The fastest search takes memory for each word, in a table: for more words than this a smaller one is made.
const MOST_IN_TABLE: usize = 500;

/// So few words are faster sought one after the other.
const FEW: usize = 8;

/// Finds the words of some queries.
#[derive(Debug, Default)]
pub(super) struct Words {
    /// Nothing where there are none, or too many to be compiled: then each query is asked of all nodes.
    search: Option<Search>,
    /// For each query and each of its terms, its words.
    wanted: Vec<Vec<Vec<Wanted>>>,
}

impl Words {
    pub(super) fn of<'q>(queries: impl Iterator<Item = &'q Query>) -> Words {
        let mut words: Vec<&str> = Vec::new();
        let mut indices: FxHashMap<&str, usize> = FxHashMap::default();
        let mut wanted = Vec::new();
        for query in queries {
            let mut terms = Vec::new();
            for literals in query.literals() {
                let own = literals.iter().map(|literal| {
                    let word = *indices.entry(&literal.text).or_insert_with(|| {
                        words.push(&literal.text);
                        words.len() - 1
                    });
                    Wanted { word, is_referred: literal.is_referred }
                });
                terms.push(own.collect());
            }
            wanted.push(terms);
        }
        Words { search: Search::of(&words), wanted }
    }

    /// The words of a query, term by term.
    pub(super) fn wanted(&self, query: usize) -> &[Vec<Wanted>] {
        &self.wanted[query]
    }

    /// The offsets at which each word begins in a text, sorted; nothing where they are not looked for.
    pub(super) fn places(&self, source: &str) -> Option<Vec<Vec<u32>>> {
        self.search.as_ref().map(|search| search.places(source))
    }
}

#[derive(Debug)]
enum Search {
    Few(Vec<Finder<'static>>),
    Many(AhoCorasick),
}

impl Search {
    fn of(words: &[&str]) -> Option<Search> {
        // A word that overlaps with itself is only found everywhere by the other search.
        if words.len() <= FEW && !words.iter().any(|word| overlaps_itself(word.as_bytes())) {
            let finders = words.iter().map(|word| Finder::new(word).into_owned());
            return (!words.is_empty()).then(|| Search::Few(finders.collect()));
        }
        let kind = (words.len() <= MOST_IN_TABLE).then_some(AhoCorasickKind::DFA);
        // Words begin with all kinds of letters: looking for their first ones only gets in the way.
        let mut builder = AhoCorasick::builder();
        builder.match_kind(MatchKind::Standard).kind(kind).prefilter(false).build(words).ok().map(Search::Many)
    }

    fn places(&self, source: &str) -> Vec<Vec<u32>> {
        match self {
            Search::Few(finders) => {
                let all = |finder: &Finder<'_>| finder.find_iter(source.as_bytes()).map(|at| at as u32).collect();
                finders.iter().map(all).collect()
            }
            Search::Many(search) => {
                let mut places = vec![Vec::new(); search.patterns_len()];
                for found in search.find_overlapping_iter(source) {
                    places[found.pattern().as_usize()].push(found.start() as u32);
                }
                places
            }
        }
    }
}

/// Whether a word begins as it ends, like `moorm`: then it may begin again before it ends.
fn overlaps_itself(word: &[u8]) -> bool {
    (1..word.len()).any(|length| word.starts_with(&word[word.len() - length..]))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn places(words: &[&str], source: &str) -> Vec<Vec<u32>> {
        Search::of(words).expect("there are words").places(source)
    }

    #[test]
    fn few_words_and_many_are_found_at_the_same_places() {
        let few = ["tide", "low", "((", "abab"];
        let more = ["quay", "boat", "pier", "mast", "sail"];
        let many = [&few[..], &more[..]].concat();
        let source = "lowtide(((tide) ababab + slow";
        for words in [&few[..], &few[..2]] {
            assert_eq!(places(words, source), places(&many, source)[..words.len()]);
        }
        assert_eq!(places(&few, source), [vec![3, 10], vec![0, 26], vec![7, 8], vec![16, 18]]);
        assert!(Search::of(&[]).is_none());
    }
}
