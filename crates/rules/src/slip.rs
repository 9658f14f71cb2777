//! Names that differ by a slip of the fingers.

use std::collections::BTreeMap;

/// Whether two names differ by one letter, or by the order of two; not by the first one, nor by a digit that only one has, which makes
/// another name.
pub(crate) fn is_slip(name: &str, other: &str) -> bool {
    let digits = |text: &str| text.bytes().filter(u8::is_ascii_digit).count();
    // What is cheap to see comes first: names are compared with many others.
    name.as_bytes().first() == other.as_bytes().first() && digits(name) == digits(other) && is_one_apart(name, other)
}

/// The one of some names that differs least from a wrong one, where that is so little that it was probably meant.
pub(crate) fn nearest<'n>(wrong: &str, names: impl Iterator<Item = &'n str>) -> Option<&'n str> {
    let most = most_apart(wrong);
    let near = names.filter(|name| may_be_near(wrong, name, most));
    let with_distance = near.map(|name| (strsim::damerau_levenshtein(wrong, name), name));
    with_distance.filter(|(distance, _)| *distance <= most).min().map(|(_, name)| name)
}

/// Which letters are in a name, one bit for each of several; nothing where some letter takes several bytes.
#[derive(Debug, Clone, Copy)]
struct Letters(Option<u64>);

impl Letters {
    fn of(name: &str) -> Letters {
        Letters(name.is_ascii().then(|| name.bytes().fold(0, |letters, byte| letters | 1 << (byte & 63))))
    }

    /// Whether names of these letters may differ by so few: each letter that is replaced by another one may change two bits.
    fn may_be_near(self, other: Letters, most: usize) -> bool {
        self.0.zip(other.0).is_none_or(|(one, other)| (one ^ other).count_ones() as usize <= 2 * most)
    }
}

/// Whether two names may differ by so few letters: it is seen at once of most that they do not.
fn may_be_near(name: &str, other: &str, most: usize) -> bool {
    name.len().abs_diff(other.len()) <= most && Letters::of(name).may_be_near(Letters::of(other), most)
}

/// Whether two names differ by one letter, or by the order of two.
pub(crate) fn is_one_apart(name: &str, other: &str) -> bool {
    may_be_near(name, other, 1) && strsim::damerau_levenshtein(name, other) == 1
}

/// By how many letters a name may differ from the one that was probably meant.
pub(crate) fn most_apart(wrong: &str) -> usize {
    if wrong.chars().count() < 5 { 1 } else { 2 }
}

/// Names of which the near ones are asked for again and again, by their lengths: what is much longer or shorter is not looked at.
#[derive(Debug, Default)]
pub(crate) struct NamesByLength<T>(BTreeMap<usize, Vec<(Letters, T)>>);

/// So many names of one length are kept, the first ones.
const MOST_KEPT: usize = 2048;

/// So many names are given that may be near.
const MOST_NEAR: usize = 64;

impl<T: Copy> NamesByLength<T> {
    /// The names, each with what belongs to it.
    pub(crate) fn of<'n>(names: impl Iterator<Item = (&'n str, T)>) -> NamesByLength<T> {
        let mut lengths: BTreeMap<usize, Vec<(Letters, T)>> = BTreeMap::new();
        for (name, one) in names {
            let same = lengths.entry(name.len()).or_default();
            if same.len() < MOST_KEPT {
                same.push((Letters::of(name), one));
            }
        }
        NamesByLength(lengths)
    }

    /// What belongs to the names that may differ from one by at most so many letters.
    pub(crate) fn near(&self, name: &str, most: usize) -> impl Iterator<Item = T> {
        let letters = Letters::of(name);
        let lengths = name.len().saturating_sub(most)..=name.len() + most;
        let same = self.0.range(lengths).flat_map(|(_, same)| same.iter());
        same.filter(move |(other, _)| letters.may_be_near(*other, most)).map(|(_, one)| *one).take(MOST_NEAR)
    }
}

/// What to do about a name that there is not: the one that was probably meant, or something else.
pub(crate) fn did_you_mean(meant: Option<&str>, otherwise: &str) -> String {
    meant.map_or_else(|| otherwise.to_string(), |meant| format!("did you mean {meant}?"))
}

/// The same for a word out of a list: the one that was probably meant, or the first of the list.
pub(crate) fn meant_or_listed<'n>(meant: Option<&str>, list: impl Iterator<Item = &'n str>) -> String {
    let mut list = list.peekable();
    let shown: Vec<&str> = list.by_ref().take(MOST_LISTED).collect();
    let more = if list.peek().is_some() { " …" } else { "" };
    did_you_mean(meant, &format!("it takes: {}{more}", shown.join(", ")))
}

/// So many words of a list are shown.
const MOST_LISTED: usize = 8;

/// The only one of some names that a name is a slip of.
pub(crate) fn only_double<'n>(mut doubles: impl Iterator<Item = &'n str>) -> Option<&'n str> {
    doubles.next().filter(|_| doubles.next().is_none())
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    /// Names of few letters, which are often near each other.
    fn names() -> impl Strategy<Value = Vec<String>> {
        prop::collection::vec("[abß1]{1,6}", 1..20)
    }

    proptest! {
        #[test]
        fn what_is_seen_at_once_never_hides_a_near_name(names in names(), wrong in "[abß1]{1,6}") {
            for most in 1..3 {
                let apart = |name: &&String| strsim::damerau_levenshtein(name, &wrong) <= most;
                let near_in_bytes = |name: &&String| name.len().abs_diff(wrong.len()) <= most;
                let by_length = NamesByLength::of(names.iter().map(|name| (name.as_str(), name)));
                let found: Vec<&String> = by_length.near(&wrong, most).collect();
                let missed = names.iter().filter(apart).filter(near_in_bytes).find(|name| !found.contains(name));
                prop_assert_eq!(missed, None, "of {:?}", found);
            }
            let others = || names.iter().map(String::as_str);
            let one_apart = |name: &&str| strsim::damerau_levenshtein(name, &wrong) == 1 && name.len().abs_diff(wrong.len()) <= 1;
            prop_assert_eq!(
                others().filter(|name| is_one_apart(name, &wrong)).collect::<Vec<_>>(),
                others().filter(one_apart).collect::<Vec<_>>()
            );
        }
    }

    #[test]
    fn of_very_many_names_the_first_that_may_be_near_are_compared() {
        let names: Vec<String> = (0..10_000).map(|index| format!("quay{index:04}")).collect();
        let by_length = NamesByLength::of(names.iter().map(|name| (name.as_str(), name.as_str())));
        assert!(by_length.near("quay0001", 2).count() <= MOST_NEAR);
        assert!(by_length.near("quay0001", 2).any(|name| name == "quay0001"));
        assert_eq!(by_length.near("lighthouse", 2).count(), 0);
    }

    #[test]
    fn slips_are_near_and_digits_make_other_names() {
        for (name, other) in [("lenght", "length"), ("quay", "quays"), ("depht", "depth")] {
            assert!(is_slip(name, other), "{name}");
        }
        for (name, other) in [("quay1", "quays"), ("boat", "coat"), ("tide", "tide"), ("low", "lowest")] {
            assert!(!is_slip(name, other), "{name}");
        }
        assert_eq!(nearest("nroth", ["north", "south"].into_iter()), Some("north"));
        assert_eq!(nearest("flüße", ["flüsse"].into_iter()), Some("flüsse"));
        assert_eq!(nearest("west", ["north", "south"].into_iter()), None);
        let names = NamesByLength::of(["north", "south", "sea"].into_iter().map(|name| (name, name)));
        assert_eq!(names.near("nroth", 1).collect::<Vec<_>>(), ["north"]);
        assert_eq!(names.near("seat", 1).collect::<Vec<_>>(), ["sea"]);
        assert_eq!(only_double(["a"].into_iter()), Some("a"));
        assert_eq!(only_double(["a", "b"].into_iter()), None);
    }
}
