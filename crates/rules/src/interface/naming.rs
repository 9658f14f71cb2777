//! Styles of names, shared by settings, the naming rules, and whoever looks for the habits of a code base.

use std::fmt;
use std::sync::LazyLock;

use regex::Regex;
use sieve_syntax::language::Language;

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

/// The kinds of names that settings give a form to, in the order of the alphabet.
pub const NAMED_KINDS: &[&str] =
    &["constant", "file", "function", "member", "method", "module", "parameter", "private-member", "type", "variable"];

/// The kinds of names that a language has.
pub fn kinds_of(language: Language) -> &'static [&'static str] {
    match language {
        Language::Python => NAMED_KINDS,
        Language::Shell => &["constant", "file", "function", "variable"],
        // Files are named in imports by their whole names.
        _ => &["constant", "file", "function", "member", "method", "parameter", "private-member", "type", "variable"],
    }
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

/// What names of a sort look like.
#[derive(Debug, Clone, Default)]
pub struct NameForm {
    /// The styles of which one is to fit what is between prefix and suffix; any if there are none.
    pub styles: Vec<NameStyle>,
    /// What names begin with.
    pub prefix: String,
    /// What names end with.
    pub suffix: String,
    /// A regular expression that the whole name fits.
    pub pattern: Option<Regex>,
    /// Names that are right whatever they look like.
    pub always: Vec<String>,
    /// Names that are never right.
    pub never: Vec<String>,
}

impl NameForm {
    /// Names of these styles.
    pub fn of(styles: &[NameStyle]) -> NameForm {
        NameForm { styles: styles.to_vec(), ..NameForm::default() }
    }

    /// Whether every name is right.
    pub fn takes_any(&self) -> bool {
        *self == NameForm::default()
    }

    /// What is wrong with a name, in words that follow the name.
    pub fn complaint(&self, name: &str) -> Option<String> {
        let is = |list: &[String]| list.iter().any(|known| known == name);
        if is(&self.always) {
            return None;
        }
        if is(&self.never) {
            return Some("is a name that is never wanted".to_string());
        }
        let inner = name.trim_start_matches('_');
        let Some(inner) = inner.strip_prefix(&*self.prefix) else {
            return Some(format!("does not begin with \"{}\"", self.prefix));
        };
        let Some(inner) = inner.strip_suffix(&*self.suffix) else {
            return Some(format!("does not end with \"{}\"", self.suffix));
        };
        if !self.styles.is_empty() && !self.styles.iter().any(|style| style.fits(inner)) {
            let styles: Vec<&str> = self.styles.iter().map(|style| style.word()).collect();
            return Some(format!("is not {}", styles.join(" or ")));
        }
        let pattern = self.pattern.as_ref().filter(|pattern| !pattern.is_match(name))?;
        Some(format!("does not fit \"{pattern}\""))
    }

    /// The name in the form, if that can be known.
    pub fn proposal(&self, name: &str) -> Option<String> {
        let style = self.styles.first()?;
        let core = name.trim_start_matches('_');
        let marks = &name[..name.len() - core.len()];
        let core = core.strip_prefix(&*self.prefix).unwrap_or(core);
        let core = core.strip_suffix(&*self.suffix).unwrap_or(core);
        let proposal = format!("{marks}{}{}{}", self.prefix, style.write(core), self.suffix);
        (proposal != name && self.complaint(&proposal).is_none()).then_some(proposal)
    }
}

impl PartialEq for NameForm {
    fn eq(&self, other: &NameForm) -> bool {
        let pattern = |form: &NameForm| form.pattern.as_ref().map(|pattern| pattern.as_str().to_string());
        (&self.styles, &self.prefix, &self.suffix, &self.always, &self.never, pattern(self))
            == (&other.styles, &other.prefix, &other.suffix, &other.always, &other.never, pattern(other))
    }
}

impl fmt::Display for NameForm {
    /// As it is written in settings.
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        let quoted = |words: &[String]| words.iter().map(|word| format!("{word:?}")).collect::<Vec<_>>().join(", ");
        let styles: Vec<String> = self.styles.iter().map(|style| style.word().to_string()).collect();
        let mut parts = Vec::new();
        let style = match styles.as_slice() {
            [] => None,
            [one] => Some(format!("{one:?}")),
            several => Some(format!("[{}]", quoted(several))),
        };
        let text = |name: &str, value: &str| (!value.is_empty()).then(|| format!("{name} = {value:?}"));
        parts.extend(text("prefix", &self.prefix));
        parts.extend(text("suffix", &self.suffix));
        parts.extend(self.pattern.as_ref().map(|pattern| format!("pattern = {:?}", pattern.as_str())));
        parts.extend((!self.always.is_empty()).then(|| format!("always = [{}]", quoted(&self.always))));
        parts.extend((!self.never.is_empty()).then(|| format!("never = [{}]", quoted(&self.never))));
        match (style, parts.is_empty()) {
            (Some(style), true) => out.write_str(&style),
            (None, true) => out.write_str("\"any\""),
            (style, false) => {
                parts.splice(0..0, style.map(|style| format!("style = {style}")));
                write!(out, "{{ {} }}", parts.join(", "))
            }
        }
    }
}

/// What a form of names is for: a kind of names, in one language or in all.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct NamingKey {
    /// The language; all if nothing.
    pub language: Option<Language>,
    /// The sort's place among [`NAMED_SORTS`].
    pub kind: usize,
}

impl fmt::Display for NamingKey {
    /// As settings name it, below `naming`.
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.language {
            Some(language) => write!(out, "{}.{}", language.name(), NAMED_KINDS[self.kind]),
            None => out.write_str(NAMED_KINDS[self.kind]),
        }
    }
}

/// The forms in force.
#[derive(Debug, Clone, Default)]
pub struct Naming {
    /// Forms that settings give.
    pub forms: Vec<(NamingKey, NameForm)>,
}

impl Naming {
    /// The form of a kind of names in a language: what settings say of the language, what they say of all, or the default.
    pub fn form(&self, language: Language, kind: &str) -> &NameForm {
        let set = |wanted: Option<Language>| {
            let is_it = |key: &NamingKey| key.language == wanted && NAMED_KINDS[key.kind] == kind;
            self.forms.iter().find(|(key, _)| is_it(key)).map(|(_, form)| form)
        };
        let of_language = set(Some(language));
        // Files with tags in them are written by the same people.
        let of_kin = || if language == Language::Tsx { set(Some(Language::TypeScript)) } else { None };
        let chosen = of_language.or_else(of_kin).or_else(|| set(None));
        if chosen.is_none() && kind == "module" {
            // What is said of files holds for modules too.
            return self.form(language, "file");
        }
        chosen.unwrap_or_else(|| default_form(language, kind))
    }
}

/// The form of a sort where settings say nothing; made once for each language.
fn default_form(language: Language, kind: &str) -> &'static NameForm {
    static FORMS: LazyLock<Vec<Vec<NameForm>>> = LazyLock::new(|| {
        let forms = |language: &Language| {
            let of_sort = |kind: &&str| NameForm::of(default_styles(*language, kind));
            NAMED_KINDS.iter().map(of_sort).collect()
        };
        Language::ALL.iter().map(forms).collect()
    });
    let kind = NAMED_KINDS.iter().position(|known| *known == kind).expect("rules ask for sorts there are");
    &FORMS[language as usize][kind]
}

/// The styles that names have where settings say nothing: after PEP 8 for Python, and the usual forms elsewhere.
pub fn default_styles(language: Language, kind: &str) -> &'static [NameStyle] {
    use NameStyle::{LowerCamel, LowerKebab, LowerSnake, UpperCamel, UpperSnake};
    match (language, kind) {
        (Language::Python, "constant") => &[UpperSnake, LowerSnake],
        (_, "type") => &[UpperCamel],
        (Language::Python, "variable") => &[LowerSnake, UpperSnake],
        (Language::Python, "member" | "private-member") => &[LowerSnake, UpperSnake],
        (Language::Python, _) => &[LowerSnake],
        (Language::Shell, "function") => &[LowerSnake, LowerKebab],
        (Language::Shell, "constant") => &[UpperSnake, LowerSnake],
        (Language::Shell, "variable") => &[LowerSnake, UpperSnake],
        (Language::Shell, _) | (_, "file") => &[],
        (_, "constant" | "variable") => &[LowerCamel, UpperSnake, UpperCamel],
        (_, "function") => &[LowerCamel, UpperCamel],
        (_, "parameter" | "method") => &[LowerCamel, UpperCamel, UpperSnake],
        (_, "member" | "private-member") => &[LowerCamel, UpperSnake],
        _ => &[LowerCamel],
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
        assert!(!NameStyle::UpperCamel.fits("MAXIMUM") && NameStyle::UpperCamel.fits("T"));
        assert!(NameStyle::UpperCamel.fits("JSON") && NameStyle::UpperCamel.fits("HTTPServer"));
    }

    #[test]
    fn numbers_symbols_and_warnings_are_written_as_people_do() {
        for name in ["fromDraft2020_12", "unstable_readTide", "v2026_07_28"] {
            assert!(NameStyle::LowerCamel.fits(name), "{name}");
        }
        for name in ["X_train", "det_A", "tides_X1_low"] {
            assert!(NameStyle::LowerSnake.fits(name), "{name}");
        }
        for name in ["read_Tide", "unstable_read_tide", "sha1_hex", "F_X", "degG"] {
            assert!(!NameStyle::LowerSnake.fits(name) || !NameStyle::LowerCamel.fits(name), "{name}");
        }
        assert!(!NameStyle::LowerSnake.fits("degG") && !NameStyle::LowerSnake.fits("read_Tide"));
        assert!(!NameStyle::LowerCamel.fits("sha1_hex"));
    }

    #[test]
    fn names_are_written_in_other_styles_word_by_word() {
        let cases = [
            (NameStyle::LowerSnake, "HTTPServer2", "http_server2"),
            (NameStyle::UpperCamel, "tide_table", "TideTable"),
            (NameStyle::LowerCamel, "_tide_table", "_tideTable"),
            (NameStyle::UpperSnake, "maxFare", "MAX_FARE"),
            (NameStyle::LowerKebab, "TideTable", "tide-table"),
        ];
        for (style, name, wanted) in cases {
            assert_eq!(style.write(name), wanted);
        }
    }

    #[test]
    fn forms_say_what_is_wrong_and_how_it_would_be_right() {
        let form = NameForm { prefix: "I".into(), ..NameForm::of(&[NameStyle::UpperCamel]) };
        assert_eq!(form.complaint("quay").as_deref(), Some("does not begin with \"I\""));
        assert_eq!(form.proposal("tide_table").as_deref(), Some("ITideTable"));
        let named = NameForm { never: vec!["data".into()], always: vec!["setUp".into()], ..NameForm::default() };
        assert!(named.complaint("data").is_some() && named.complaint("setUp").is_none());
        let naming = |kind: &str| Naming {
            forms: vec![(
                NamingKey { language: None, kind: NAMED_KINDS.iter().position(|known| *known == kind).unwrap() },
                NameForm::of(&[NameStyle::UpperCamel]),
            )],
        };
        let complains = |set: &str, asked: &str| naming(set).form(Language::Python, asked).complaint("Tide").is_some();
        assert!(!complains("file", "module") && !complains("module", "module") && complains("module", "file"));
        assert_eq!(named.to_string(), "{ always = [\"setUp\"], never = [\"data\"] }");
    }
}
