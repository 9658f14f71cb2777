//! Strings that tell something of a file wherever they are in it, all looked for in one scan.

use std::sync::OnceLock;

use aho_corasick::packed::Searcher;

/// Strings of which one in a text is enough.
#[derive(Debug)]
pub struct Marks {
    strings: &'static [&'static str],
    searcher: OnceLock<Option<Searcher>>,
}

impl Marks {
    /// Prepares nothing before the first question.
    pub const fn new(strings: &'static [&'static str]) -> Marks {
        Marks { strings, searcher: OnceLock::new() }
    }

    /// Whether one of them is in a text.
    pub fn are_in(&self, source: &str) -> bool {
        match self.searcher.get_or_init(|| Searcher::new(self.strings)) {
            Some(searcher) => searcher.find(source).is_some(),
            // The processor cannot compare many bytes at once.
            None => self.strings.iter().any(|string| source.contains(string)),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn one_of_them_is_enough() {
        static MARKS: Marks = Marks::new(&["tide", "quay(", "ferry\n"]);
        assert!(MARKS.are_in("low tide") && MARKS.are_in("a ferry\n"));
        assert!(!MARKS.are_in("") && !MARKS.are_in("quay ferry tid"));
    }
}
