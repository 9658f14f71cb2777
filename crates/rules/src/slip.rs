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
        assert_eq!(only_double(["a"].into_iter()), Some("a"));
        assert_eq!(only_double(["a", "b"].into_iter()), None);
    }
}
