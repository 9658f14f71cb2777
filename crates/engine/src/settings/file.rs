//! Reads one settings file. Whatever it does not know is refused with its place.

use std::collections::BTreeMap;
use std::ops::Range;
use std::path::{Path, PathBuf};

use globset::{Glob, GlobSet, GlobSetBuilder};
use jiff::civil::Date;
use sieve_rules::{Concern, Level, Mesh, OptionDefault, OptionValue, RuleId, catalogue};
use sieve_syntax::language::Language;
use sieve_syntax::text::{Place, Text};
use toml::Spanned;
use toml::de::{DeTable, DeValue};

use super::error::nearest;
use super::{RELEASE, SettingsError};

/// The longest pattern that is taken: deep nesting in longer ones could exhaust the stack of the pattern compiler.
const LONGEST_PATTERN: usize = 400;

/// One settings file as it stands.
#[derive(Debug)]
pub(super) struct SettingsFile {
    pub(super) path: PathBuf,
    pub(super) top: bool,
    pub(super) mesh: Option<Placed<Mesh>>,
    pub(super) fail_on: Option<Placed<Level>>,
    pub(super) skip: Option<Placed<Patterns>>,
    pub(super) generated: Option<Placed<Patterns>>,
    pub(super) languages: Option<Placed<Vec<(Patterns, Language)>>>,
    pub(super) largest: Option<Placed<u64>>,
    pub(super) rules: BTreeMap<RuleId, RuleEntry>,
    pub(super) scopes: Vec<ScopeEntry>,
    pub(super) waives: Vec<WaiveEntry>,
}

/// A part of the settings that holds for some paths only.
#[derive(Debug)]
pub(super) struct ScopeEntry {
    pub(super) patterns: Patterns,
    pub(super) because: Option<String>,
    pub(super) rules: BTreeMap<RuleId, RuleEntry>,
}

/// A waiver for some paths.
#[derive(Debug)]
pub(super) struct WaiveEntry {
    pub(super) patterns: Patterns,
    pub(super) rules: Vec<RuleId>,
    pub(super) because: String,
    pub(super) until: Option<Date>,
    pub(super) line: u32,
}

/// A value with the line that sets it.
#[derive(Debug, Clone)]
pub(super) struct Placed<T> {
    pub(super) value: T,
    pub(super) line: u32,
}

/// What a file says of a rule.
#[derive(Debug, Default, Clone)]
pub(super) struct RuleEntry {
    pub(super) level: Option<Placed<Level>>,
    /// By the option's index in the rule's facts.
    pub(super) options: BTreeMap<usize, Placed<OptionValue>>,
}

/// Patterns for paths below the folder of the settings file.
#[derive(Debug, Clone)]
pub struct Patterns {
    pub(super) texts: Vec<String>,
    set: GlobSet,
}

impl Patterns {
    /// Whether a path relative to the settings file's folder fits one of them.
    pub fn fit(&self, relative: &str) -> bool {
        self.set.is_match(relative)
    }
}

type Read<T> = Result<T, SettingsError>;

/// Turns places in the text into errors.
struct Reader<'s> {
    path: &'s Path,
    text: Text,
}

impl SettingsFile {
    pub(super) fn read(path: &Path, source: &str) -> Read<SettingsFile> {
        let reader = Reader { path, text: Text::new(source.to_string()) };
        let table = DeTable::parse(source).map_err(|error| reader.syntax_error(&error))?;
        reader.file(table.get_ref())
    }
}

impl Reader<'_> {
    fn syntax_error(&self, error: &toml::de::Error) -> SettingsError {
        let message = format!("this is not TOML: {}", error.message().replace('\n', ", "));
        self.error(error.span().unwrap_or(0..0), message)
    }

    fn error(&self, span: Range<usize>, message: String) -> SettingsError {
        SettingsError { path: self.path.to_path_buf(), place: Some(self.place(&span)), message }
    }

    fn place(&self, span: &Range<usize>) -> Place {
        self.text.place(span.start as u32)
    }

    fn placed<T>(&self, key: &Spanned<impl Sized>, value: T) -> Placed<T> {
        Placed { value, line: self.place(&key.span()).line }
    }

    fn file(&self, table: &DeTable<'_>) -> Read<SettingsFile> {
        let mut file = SettingsFile {
            path: self.path.to_path_buf(),
            top: false,
            mesh: None,
            fail_on: None,
            skip: None,
            generated: None,
            languages: None,
            largest: None,
            rules: BTreeMap::new(),
            scopes: Vec::new(),
            waives: Vec::new(),
        };
        for (key, value) in table {
            match key.get_ref().as_ref() {
                "defaults" => self.check_release(value)?,
                "mesh" => file.mesh = Some(self.placed(key, self.word(value, "a mesh", Mesh::ALL, Mesh::word)?)),
                "fail-on" => {
                    file.fail_on = Some(self.placed(key, self.word(value, "a level", Level::ALL, Level::word)?))
                }
                "top" => file.top = self.flag(value)?,
                "files" => self.files(&mut file, self.table(value, "files")?)?,
                "rules" => file.rules = self.rules(self.table(value, "rules")?)?,
                "scope" => file.scopes = self.each(value, "scope", |table| self.scope(table))?,
                "waive" => file.waives = self.each(value, "waive", |table| self.waive(table))?,
                unknown => {
                    let names = ["defaults", "fail-on", "files", "mesh", "rules", "scope", "top", "waive"];
                    let hint = nearest(unknown, names.into_iter());
                    return Err(self.error(key.span(), format!("there is no setting \"{unknown}\"{hint}")));
                }
            }
        }
        Ok(file)
    }

    fn files(&self, file: &mut SettingsFile, table: &DeTable<'_>) -> Read<()> {
        for (key, value) in table {
            match key.get_ref().as_ref() {
                "skip" => file.skip = Some(self.placed(key, self.patterns(value)?)),
                "generated" => file.generated = Some(self.placed(key, self.patterns(value)?)),
                "languages" => file.languages = Some(self.placed(key, self.languages(value)?)),
                "largest" => file.largest = Some(self.placed(key, self.count(value)?)),
                unknown => {
                    let hint = nearest(unknown, ["generated", "languages", "largest", "skip"].into_iter());
                    return Err(self.error(key.span(), format!("there is no setting \"files.{unknown}\"{hint}")));
                }
            }
        }
        Ok(())
    }

    /// The tables of a list such as `[[scope]]`.
    fn each<T>(
        &self,
        value: &Spanned<DeValue<'_>>,
        name: &str,
        read: impl Fn(&Spanned<DeValue<'_>>) -> Read<T>,
    ) -> Read<Vec<T>> {
        self.array(value, &format!("a list of tables, each headed [[{name}]],"))?.iter().map(read).collect()
    }

    fn scope(&self, entry: &Spanned<DeValue<'_>>) -> Read<ScopeEntry> {
        let (mut patterns, mut because, mut rules) = (None, None, None);
        for (key, value) in self.table(entry, "scope")? {
            match key.get_ref().as_ref() {
                "paths" => patterns = Some(self.patterns(value)?),
                "because" => because = Some(self.string(value)?.to_string()),
                "rules" => rules = Some(self.rules(self.table(value, "rules")?)?),
                unknown => {
                    let hint = nearest(unknown, ["because", "paths", "rules"].into_iter());
                    return Err(self.error(key.span(), format!("a scope has no \"{unknown}\"{hint}")));
                }
            }
        }
        let (Some(patterns), Some(rules)) = (patterns, rules) else {
            return Err(self.error(entry.span(), "a scope names its paths and its rules".to_string()));
        };
        Ok(ScopeEntry { patterns, because, rules })
    }

    fn waive(&self, entry: &Spanned<DeValue<'_>>) -> Read<WaiveEntry> {
        let (mut patterns, mut because, mut rules, mut until) = (None, None, None, None);
        for (key, value) in self.table(entry, "waive")? {
            match key.get_ref().as_ref() {
                "paths" => patterns = Some(self.patterns(value)?),
                "because" => because = Some(self.string(value)?.to_string()),
                "rules" => rules = Some(self.rules_or_concerns(value)?),
                "until" => until = Some(self.date(value)?),
                unknown => {
                    let hint = nearest(unknown, ["because", "paths", "rules", "until"].into_iter());
                    return Err(self.error(key.span(), format!("a waiver has no \"{unknown}\"{hint}")));
                }
            }
        }
        let (Some(patterns), Some(because), Some(rules)) = (patterns, because, rules) else {
            let message = "a waiver names its paths, its rules, and says because of what".to_string();
            return Err(self.error(entry.span(), message));
        };
        let line = self.place(&entry.span()).line;
        Ok(WaiveEntry { patterns, rules, because, until, line })
    }

    fn rules_or_concerns(&self, value: &Spanned<DeValue<'_>>) -> Read<Vec<RuleId>> {
        let mut rules = Vec::new();
        for item in self.array(value, "a list of rules and concerns")? {
            let name = self.string(item)?;
            let named = rules_named(name);
            if named.is_empty() {
                let words = Concern::ALL.iter().map(|concern| concern.word());
                let hint = nearest(name, catalogue::rules().map(|(_, rule)| rule.name).chain(words));
                return Err(self.error(item.span(), format!("there is no rule or concern \"{name}\"{hint}")));
            }
            rules.extend(named);
        }
        Ok(rules)
    }

    fn date(&self, value: &Spanned<DeValue<'_>>) -> Read<Date> {
        let text = match value.get_ref() {
            DeValue::Datetime(date) => date.to_string(),
            DeValue::String(text) => text.to_string(),
            _ => String::new(),
        };
        text.parse().map_err(|_| self.wrong(value, "a day such as 2027-06-30"))
    }

    fn languages(&self, value: &Spanned<DeValue<'_>>) -> Read<Vec<(Patterns, Language)>> {
        let mut languages = Vec::new();
        for (pattern, value) in self.table(value, "files.languages")? {
            let compiled = self.compile(&[(pattern.get_ref().to_string(), pattern.span())])?;
            languages.push((compiled, self.word(value, "a language", Language::ALL, Language::name)?));
        }
        Ok(languages)
    }

    fn rules(&self, table: &DeTable<'_>) -> Read<BTreeMap<RuleId, RuleEntry>> {
        let mut rules = BTreeMap::new();
        for (key, value) in table {
            let name = key.get_ref().as_ref();
            let Some(rule) = catalogue::named(name) else {
                let hint = nearest(name, catalogue::rules().map(|(_, rule)| rule.name));
                return Err(self.error(key.span(), format!("there is no rule \"{name}\"{hint}")));
            };
            rules.insert(rule, self.rule(rule, key, value)?);
        }
        Ok(rules)
    }

    /// `rule = "level"` or `rule = { level = "level", option = value }`.
    fn rule(&self, rule: RuleId, key: &Spanned<impl Sized>, value: &Spanned<DeValue<'_>>) -> Read<RuleEntry> {
        let mut entry = RuleEntry::default();
        let DeValue::Table(table) = value.get_ref() else {
            entry.level = Some(self.placed(key, self.word(value, "a level", Level::ALL, Level::word)?));
            return Ok(entry);
        };
        let facts = catalogue::rule(rule);
        for (key, value) in table {
            let name = key.get_ref().as_ref();
            if name == "level" {
                entry.level = Some(self.placed(key, self.word(value, "a level", Level::ALL, Level::word)?));
                continue;
            }
            let Some(index) = facts.options.iter().position(|option| option.name == name) else {
                let names = facts.options.iter().map(|option| option.name).chain(["level"]);
                let hint = nearest(name, names);
                return Err(self.error(key.span(), format!("{} has no option \"{name}\"{hint}", facts.name)));
            };
            let option = self.option(facts.options[index].default, facts.options[index].sort(), value)?;
            entry.options.insert(index, self.placed(key, option));
        }
        Ok(entry)
    }

    fn option(&self, default: OptionDefault, sort: &str, value: &Spanned<DeValue<'_>>) -> Read<OptionValue> {
        match default {
            OptionDefault::Flag(_) => Ok(OptionValue::Flag(self.flag(value)?)),
            OptionDefault::Count(_) => {
                let count = u32::try_from(self.count(value)?);
                count.map(OptionValue::Count).map_err(|_| self.wrong(value, sort))
            }
            OptionDefault::Numbers(_) => {
                let numbers = self.array(value, sort)?.iter().map(|item| self.number(item));
                Ok(OptionValue::Numbers(numbers.collect::<Read<_>>()?))
            }
            OptionDefault::Words(_) => {
                let words = self.array(value, sort)?.iter().map(|item| self.string(item).map(str::to_owned));
                Ok(OptionValue::Words(words.collect::<Read<_>>()?))
            }
            OptionDefault::Choices(_, all) => {
                let choose = |item| self.word(item, "one of its words", all, |word| word).map(str::to_owned);
                let words = self.array(value, sort)?.iter().map(choose);
                Ok(OptionValue::Words(words.collect::<Read<_>>()?))
            }
        }
    }

    // Values of each sort.

    fn wrong(&self, value: &Spanned<DeValue<'_>>, wanted: &str) -> SettingsError {
        let found = match value.get_ref() {
            DeValue::String(text) => format!("the string {text:?}"),
            DeValue::Integer(number) => format!("the number {}", number.as_str()),
            DeValue::Float(number) => format!("the number {}", number.as_str()),
            DeValue::Boolean(flag) => flag.to_string(),
            DeValue::Datetime(date) => format!("the date {date}"),
            DeValue::Array(_) => "a list".to_string(),
            DeValue::Table(_) => "a table".to_string(),
        };
        self.error(value.span(), format!("{wanted} is wanted here, not {found}"))
    }

    fn table<'v, 'd>(&self, value: &'v Spanned<DeValue<'d>>, name: &str) -> Read<&'v DeTable<'d>> {
        match value.get_ref() {
            DeValue::Table(table) => Ok(table),
            _ => Err(self.wrong(value, &format!("\"{name}\" is a table, and one"))),
        }
    }

    fn array<'v, 'd>(&self, value: &'v Spanned<DeValue<'d>>, sort: &str) -> Read<&'v [Spanned<DeValue<'d>>]> {
        match value.get_ref() {
            DeValue::Array(array) => Ok(array),
            _ => Err(self.wrong(value, sort)),
        }
    }

    fn string<'v>(&self, value: &'v Spanned<DeValue<'_>>) -> Read<&'v str> {
        match value.get_ref() {
            DeValue::String(text) => Ok(text),
            _ => Err(self.wrong(value, "a string")),
        }
    }

    fn flag(&self, value: &Spanned<DeValue<'_>>) -> Read<bool> {
        match value.get_ref() {
            DeValue::Boolean(flag) => Ok(*flag),
            _ => Err(self.wrong(value, "true or false")),
        }
    }

    fn count(&self, value: &Spanned<DeValue<'_>>) -> Read<u64> {
        match value.get_ref() {
            DeValue::Integer(number) => u64::from_str_radix(number.as_str(), number.radix()).ok(),
            _ => None,
        }
        .ok_or_else(|| self.wrong(value, "a whole number of at least zero"))
    }

    fn number(&self, value: &Spanned<DeValue<'_>>) -> Read<f64> {
        match value.get_ref() {
            DeValue::Integer(number) => {
                i64::from_str_radix(number.as_str(), number.radix()).ok().map(|number| number as f64)
            }
            DeValue::Float(number) => number.as_str().parse().ok().filter(|number: &f64| number.is_finite()),
            _ => None,
        }
        .ok_or_else(|| self.wrong(value, "a number"))
    }

    /// One of the words of a scale.
    fn word<T: Copy>(
        &self,
        value: &Spanned<DeValue<'_>>,
        what: &str,
        all: &[T],
        word: fn(T) -> &'static str,
    ) -> Read<T> {
        let text = self.string(value).map_err(|_| self.wrong(value, what))?;
        all.iter().copied().find(|candidate| word(*candidate) == text).ok_or_else(|| {
            let hint = nearest(text, all.iter().map(|candidate| word(*candidate)));
            self.error(value.span(), format!("\"{text}\" is not {what}{hint}"))
        })
    }

    fn patterns(&self, value: &Spanned<DeValue<'_>>) -> Read<Patterns> {
        let mut texts = Vec::new();
        for item in self.array(value, "a list of patterns")? {
            texts.push((self.string(item)?.to_string(), item.span()));
        }
        self.compile(&texts)
    }

    fn compile(&self, patterns: &[(String, Range<usize>)]) -> Read<Patterns> {
        let mut builder = GlobSetBuilder::new();
        for (text, span) in patterns {
            if text.len() > LONGEST_PATTERN {
                let message = format!("this pattern is longer than {LONGEST_PATTERN} bytes");
                return Err(self.error(span.clone(), message));
            }
            let glob = Glob::new(text)
                .map_err(|error| self.error(span.clone(), format!("\"{text}\" is no pattern: {}", error.kind())))?;
            builder.add(glob);
        }
        let set =
            builder.build().map_err(|error| self.error(0..0, format!("these patterns do not compile: {error}")))?;
        Ok(Patterns { texts: patterns.iter().map(|(text, _)| text.clone()).collect(), set })
    }

    fn check_release(&self, value: &Spanned<DeValue<'_>>) -> Read<()> {
        let release = self.string(value)?;
        if release == RELEASE {
            return Ok(());
        }
        let message = format!("this version knows the defaults of {RELEASE}, not of \"{release}\"");
        Err(self.error(value.span(), message))
    }
}

/// The rules that a name of a rule or a concern stands for; none if there is neither.
pub fn rules_named(name: &str) -> Vec<RuleId> {
    if let Some(rule) = catalogue::named(name) {
        return vec![rule];
    }
    let Some(concern) = Concern::named(name) else { return Vec::new() };
    catalogue::rules().filter(|(_, rule)| rule.concern == concern).map(|(id, _)| id).collect()
}
