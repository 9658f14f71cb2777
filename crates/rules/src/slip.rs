//! Names that differ by a slip of the fingers.

/// Whether two names differ by one letter, or by the order of two; not by the first one, nor by a digit that only one has, which makes
/// another name.
pub(crate) fn is_slip(name: &str, other: &str) -> bool {
    let digits = |text: &str| text.bytes().filter(u8::is_ascii_digit).count();
    // What is cheap to see comes first: names are compared with many others.
    name.len().abs_diff(other.len()) <= 1
        && name.as_bytes().first() == other.as_bytes().first()
        && digits(name) == digits(other)
        && strsim::damerau_levenshtein(name, other) == 1
}

/// The one of some names that differs least from a wrong one, where that is so little that it was probably meant.
pub(crate) fn nearest<'n>(wrong: &str, names: impl Iterator<Item = &'n str>) -> Option<&'n str> {
    let most = if wrong.chars().count() < 5 { 1 } else { 2 };
    let near = names.filter(|name| name.len().abs_diff(wrong.len()) <= most);
    let with_distance = near.map(|name| (strsim::damerau_levenshtein(wrong, name), name));
    with_distance.filter(|(distance, _)| *distance <= most).min().map(|(_, name)| name)
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
    use super::*;

    #[test]
    fn slips_are_near_and_digits_make_other_names() {
        for (name, other) in [("lenght", "length"), ("quay", "quays"), ("depht", "depth")] {
            assert!(is_slip(name, other), "{name}");
        }
        for (name, other) in [("quay1", "quays"), ("boat", "coat"), ("tide", "tide"), ("low", "lowest")] {
            assert!(!is_slip(name, other), "{name}");
        }
        assert_eq!(nearest("nroth", ["north", "south"].into_iter()), Some("north"));
        assert_eq!(nearest("west", ["north", "south"].into_iter()), None);
        assert_eq!(only_double(["a"].into_iter()), Some("a"));
        assert_eq!(only_double(["a", "b"].into_iter()), None);
    }
}
