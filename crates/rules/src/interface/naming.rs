//! Styles of names, shared by settings, the naming rules, and whoever looks for the habits of a code base.

use std::fmt;
use std::sync::LazyLock;

use regex::Regex;
use sieve_syntax::language::Language;

use super::name_style::NameStyle;
use super::styles::{NAMED_KINDS, default_styles};
use super::traits::traits_of;

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

    /// Whether a name is right.
    pub fn allows(&self, name: &str) -> bool {
        self.oddity(name).is_none()
    }

    /// What is wrong with a name, in words that follow the name.
    pub fn complaint(&self, name: &str) -> Option<String> {
        Some(match self.oddity(name)? {
            Oddity::Never => "is a name that is never wanted".to_string(),
            Oddity::Prefix => format!("does not begin with \"{}\"", self.prefix),
            Oddity::Suffix => format!("does not end with \"{}\"", self.suffix),
            Oddity::Style => {
                let styles: Vec<&str> = self.styles.iter().map(|style| style.word()).collect();
                format!("is not {}", styles.join(" or "))
            }
            Oddity::Pattern(pattern) => format!("does not fit \"{pattern}\""),
        })
    }

    /// What is odd about a name. Most have the form: the lists are read for the others alone.
    fn oddity(&self, name: &str) -> Option<Oddity<'_>> {
        let is = |list: &[String]| list.iter().any(|known| known == name);
        let odd = if is(&self.never) { Some(Oddity::Never) } else { self.oddity_of_form(name) };
        odd.filter(|_| !is(&self.always))
    }

    fn oddity_of_form(&self, name: &str) -> Option<Oddity<'_>> {
        let mut inner = name.trim_start_matches('_');
        // Few forms have these, and every name of a run comes by here.
        if !self.prefix.is_empty() {
            let Some(rest) = inner.strip_prefix(&*self.prefix) else { return Some(Oddity::Prefix) };
            inner = rest;
        }
        if !self.suffix.is_empty() {
            let Some(rest) = inner.strip_suffix(&*self.suffix) else { return Some(Oddity::Suffix) };
            inner = rest;
        }
        if !self.styles.is_empty() && !self.styles.iter().any(|style| style.fits(inner)) {
            return Some(Oddity::Style);
        }
        self.pattern.as_ref().filter(|pattern| !pattern.is_match(name)).map(Oddity::Pattern)
    }

    /// The name in the form, if that can be known.
    pub fn proposal(&self, name: &str) -> Option<String> {
        let style = self.styles.first()?;
        let core = name.trim_start_matches('_');
        let marks = &name[..name.len() - core.len()];
        let core = core.strip_prefix(&*self.prefix).unwrap_or(core);
        let core = core.strip_suffix(&*self.suffix).unwrap_or(core);
        let proposal = format!("{marks}{}{}{}", self.prefix, style.write(core), self.suffix);
        (proposal != name && self.allows(&proposal)).then_some(proposal)
    }
}

/// In what a name does not have a form.
enum Oddity<'f> {
    Never,
    Prefix,
    Suffix,
    Style,
    Pattern(&'f Regex),
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
    /// The place of the kind among [`NAMED_KINDS`].
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
        self.chosen(language, kind).unwrap_or_else(|| default_form(language, kind))
    }

    /// What settings say of a kind of names in a language, if anything.
    pub fn chosen(&self, language: Language, kind: &str) -> Option<&NameForm> {
        if self.forms.is_empty() {
            return None;
        }
        let set = |wanted: Option<Language>| {
            let is_it = |key: &NamingKey| key.language == wanted && NAMED_KINDS[key.kind] == kind;
            self.forms.iter().find(|(key, _)| is_it(key)).map(|(_, form)| form)
        };
        let of_language = set(Some(language));
        // Files with tags in them are written by the same people.
        let of_kin = || set(Some(traits_of(language).kin?));
        let chosen = of_language.or_else(of_kin).or_else(|| set(None));
        if chosen.is_none() && kind == "module" {
            // What is said of files holds for modules too.
            return self.chosen(language, "file");
        }
        chosen
    }
}

/// The form of a sort where settings say nothing; made once for each language.
fn default_form(language: Language, kind: &str) -> &'static NameForm {
    static FORMS: LazyLock<Vec<Vec<NameForm>>> = LazyLock::new(|| {
        let forms = |language: &Language| {
            let of_kind = |kind: &&str| NameForm::of(default_styles(*language, kind));
            NAMED_KINDS.iter().map(of_kind).collect()
        };
        Language::ALL.iter().map(forms).collect()
    });
    // Nearly always both are the same literal.
    let same = NAMED_KINDS.iter().position(|known| std::ptr::eq(*known, kind));
    let kind = same.or_else(|| NAMED_KINDS.iter().position(|known| *known == kind));
    let kind = kind.expect("rules ask for sorts there are");
    &FORMS[language as usize][kind]
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
