//! Styles of names: how their words are joined.

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

impl NameStyle {
    /// Every style.
    pub const ALL: &'static [NameStyle] = &[
        NameStyle::LowerSnake,
        NameStyle::UpperSnake,
        NameStyle::LowerCamel,
        NameStyle::UpperCamel,
        NameStyle::LowerKebab,
    ];

    /// The style of a name that has one alone: a name of one word tells nothing.
    pub fn only_one_of(name: &str) -> Option<NameStyle> {
        let mut fitting = NameStyle::ALL.iter().copied().filter(|style| style.fits(name));
        fitting.next().filter(|_| fitting.next().is_none())
    }

    /// The word for it in settings, which is an example of itself.
    pub fn word(self) -> &'static str {
        match self {
            NameStyle::LowerSnake => "lower_snake",
            NameStyle::UpperSnake => "UPPER_SNAKE",
            NameStyle::LowerCamel => "camelCase",
            NameStyle::UpperCamel => "PascalCase",
            NameStyle::LowerKebab => "kebab-case",
        }
    }

    /// Whether a name has this style. Underscores and dollar signs around a name do not count; one word may have several styles.
    ///
    /// Names are taken as people write them: `JSON` is a word of a type's name, `X_train` a variable in small letters, and an underscore
    /// between two digits, as in `draft2020_12`, is part of a number.
    pub fn fits(self, name: &str) -> bool {
        let is_plain = |byte: &u8| matches!(byte, b'a'..=b'z' | b'0'..=b'9' | b'_');
        if self == NameStyle::LowerSnake && name.as_bytes().iter().all(is_plain) {
            return true;
        }
        let name = name.trim_matches(['_', '$']);
        let (upper, lower) = cases(name);
        match self {
            NameStyle::LowerSnake => (lower || has_symbols(name)) && !name.contains('-'),
            NameStyle::UpperSnake => upper && !name.contains('-'),
            NameStyle::LowerKebab => lower && !name.contains('_'),
            NameStyle::LowerCamel => {
                let inner = without_warning(name);
                is_joined(inner) && !inner.starts_with(char::is_uppercase)
            }
            NameStyle::UpperCamel => {
                let inner = without_warning(name);
                is_joined(inner) && !inner.starts_with(char::is_lowercase) && (name.len() <= ACRONYM || !upper)
            }
        }
    }

    /// The same words in this style. Underscores around the name stay.
    pub fn write(self, name: &str) -> String {
        let inner = name.trim_matches('_');
        let at = name.find(inner).unwrap_or(0);
        let words = words_of(inner);
        let capital = |word: &String| {
            let mut characters = word.chars();
            let first = characters.next().map(|first| first.to_uppercase().to_string()).unwrap_or_default();
            first + characters.as_str()
        };
        let joined = match self {
            NameStyle::LowerSnake => words.join("_"),
            NameStyle::UpperSnake => words.join("_").to_uppercase(),
            NameStyle::LowerKebab => words.join("-"),
            NameStyle::UpperCamel => words.iter().map(capital).collect(),
            NameStyle::LowerCamel => words
                .iter()
                .enumerate()
                .map(|(index, word)| if index == 0 { word.clone() } else { capital(word) })
                .collect(),
        };
        format!("{}{joined}{}", &name[..at], &name[at + inner.len()..])
    }
}

/// Whether a name has no small letters, and whether it has no capitals.
fn cases(name: &str) -> (bool, bool) {
    if name.is_ascii() {
        let has = |is_one: fn(&u8) -> bool| name.as_bytes().iter().any(is_one);
        return (!has(u8::is_ascii_lowercase), !has(u8::is_ascii_uppercase));
    }
    (!name.chars().any(char::is_lowercase), !name.chars().any(char::is_uppercase))
}

/// The most letters of a word of capitals that is read as an acronym and not as a shout.
const ACRONYM: usize = 5;

/// Words before a name that warn of using it.
const WARNINGS: &[&str] = &["unstable_", "experimental_", "unsafe_", "UNSAFE_"];

fn without_warning(name: &str) -> &str {
    WARNINGS.iter().find_map(|warning| name.strip_prefix(warning)).unwrap_or(name)
}

/// Whether no mark is between the words of a name; one between digits is part of a number.
fn is_joined(name: &str) -> bool {
    let bytes = name.as_bytes();
    let marks = |index: &usize| matches!(bytes[*index], b'_' | b'-');
    (0..bytes.len()).filter(marks).all(|at| {
        let is_digit = |other: Option<&u8>| other.is_some_and(u8::is_ascii_digit);
        at > 0 && is_digit(bytes.get(at - 1)) && is_digit(bytes.get(at + 1))
    })
}

/// Whether words in small letters are beside single capitals, which are the symbols of formulas: `X_train`, `det_A`.
fn has_symbols(name: &str) -> bool {
    let is_small = |word: &str| !word.chars().any(char::is_uppercase);
    let is_symbol = |word: &str| word.starts_with(char::is_uppercase) && word[1..].chars().all(|c| c.is_ascii_digit());
    let mut words = name.split('_').filter(|word| !word.is_empty());
    let has_words = words.clone().any(|word| is_small(word) && word.len() > 1);
    has_words && words.all(|word| is_small(word) || word.is_ascii() && is_symbol(word))
}

/// The words of a name, in small letters. A row of capitals is one word, the last of which begins the next one if small letters follow;
/// digits belong to the word before them.
fn words_of(name: &str) -> Vec<String> {
    let characters: Vec<char> = name.chars().collect();
    let mut words: Vec<String> = Vec::new();
    let mut word = String::new();
    for (index, character) in characters.iter().copied().enumerate() {
        let previous = index.checked_sub(1).map(|before| characters[before]);
        let next_is_small = characters.get(index + 1).is_some_and(|next| next.is_lowercase());
        let begins =
            character.is_uppercase() && previous.is_some_and(|previous| !previous.is_uppercase() || next_is_small);
        if (begins || matches!(character, '_' | '-')) && !word.is_empty() {
            words.push(std::mem::take(&mut word));
        }
        if !matches!(character, '_' | '-') {
            word.extend(character.to_lowercase());
        }
    }
    if !word.is_empty() {
        words.push(word);
    }
    words
}

impl fmt::Display for NameStyle {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.pad(self.word())
    }
}
