//! Styles of names, shared by settings, the naming rules, and whoever looks for the habits of a code base.

use std::fmt;

/// How the words of a name are joined.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum NameStyle {
    /// `tide_table`
    LowerSnake,
    /// `TIDE_TABLE`
    UpperSnake,
    /// `tideTable`
    LowerCamel,
    /// `TideTable`
    UpperCamel,
    /// `tide-table`
    LowerKebab,
}

/// The sorts of names that settings give a style to, in the order of the alphabet.
pub const NAMED_SORTS: &[&str] = &["constant", "file", "function", "member", "parameter", "type", "variable"];

impl NameStyle {
    /// Every style.
    pub const ALL: &'static [NameStyle] = &[
        NameStyle::LowerSnake,
        NameStyle::UpperSnake,
        NameStyle::LowerCamel,
        NameStyle::UpperCamel,
        NameStyle::LowerKebab,
    ];

    /// The word for it in settings, which is an example of itself.
    pub fn word(self) -> &'static str {
        match self {
            NameStyle::LowerSnake => "lower_snake",
            NameStyle::UpperSnake => "UPPER_SNAKE",
            NameStyle::LowerCamel => "lowerCamel",
            NameStyle::UpperCamel => "UpperCamel",
            NameStyle::LowerKebab => "lower-kebab",
        }
    }

    /// Whether a name has this style. Underscores around a name do not count; one word may have several styles.
    pub fn fits(self, name: &str) -> bool {
        let name = name.trim_matches('_');
        let Some(first) = name.chars().next() else { return true };
        let no_mark = !name.contains(['_', '-']);
        let lower = !name.chars().any(char::is_uppercase);
        let upper = !name.chars().any(char::is_lowercase);
        match self {
            NameStyle::LowerSnake => lower && !name.contains('-'),
            NameStyle::UpperSnake => upper && !name.contains('-'),
            NameStyle::LowerKebab => lower && !name.contains('_'),
            NameStyle::LowerCamel => no_mark && !first.is_uppercase(),
            NameStyle::UpperCamel => no_mark && !first.is_lowercase() && (name.chars().count() == 1 || !upper),
        }
    }
}

impl fmt::Display for NameStyle {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.pad(self.word())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_of_styles_are_examples_of_themselves() {
        for style in NameStyle::ALL {
            let fitting: Vec<&NameStyle> = NameStyle::ALL.iter().filter(|other| other.fits(style.word())).collect();
            assert_eq!(fitting, [style], "{style}");
        }
    }

    #[test]
    fn single_words_and_underscores_around_names_are_free() {
        assert!(NameStyle::LowerSnake.fits("tide") && NameStyle::LowerCamel.fits("tide"));
        assert!(NameStyle::LowerSnake.fits("__init__") && NameStyle::UpperCamel.fits("_Boat"));
        assert!(!NameStyle::UpperCamel.fits("MAX") && NameStyle::UpperCamel.fits("T"));
    }
}
