//! Reads one rule of a pack.

use std::collections::BTreeMap;
use std::sync::Arc;

use sieve_rules::house::{Definition, DocumentKind, HouseExample, HouseOption, HouseRule, Part};
use sieve_rules::{Certainty, FixKind, Level, Mesh, OptionValue};
use sieve_syntax::language::Language;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

use super::beside::Beside;
use super::data::{self, DataPlaces};
use crate::settings::reader::{Read, Reader};

/// The keys of a rule.
pub(crate) const KEYS: &[&str] = &[
    "advice",
    "at",
    "certainty",
    "each",
    "find",
    "fits",
    "fix",
    "has",
    "has-no",
    "key-listed-in",
    "languages",
    "level",
    "listed-in",
    "matches-file",
    "mesh",
    "message",
    "must",
    "must-not",
    "name",
    "name-style",
    "options",
    "path-parameters",
    "refers-to",
    "resolves",
    "right",
    "standards",
    "structure",
    "unique",
    "what",
    "when",
    "where",
    "why",
    "wrong",
];

type Value<'v> = Spanned<DeValue<'v>>;

pub(super) struct ReadRule<'r> {
    pub(super) reader: &'r Reader<'r>,
    pub(super) pack: &'r str,
    /// The kinds of documents that the pack describes.
    pub(super) documents: &'r [Arc<DocumentKind>],
    pub(super) beside: Beside<'r>,
}

/// The parts of a rule that errors of its query are in.
#[derive(Default)]
struct Places<'v> {
    find: Option<&'v Value<'v>>,
    message: Option<&'v Value<'v>>,
    advice: Option<&'v Value<'v>>,
    fix: Option<&'v Value<'v>>,
    data: DataPlaces<'v>,
}

impl ReadRule<'_> {
    pub(super) fn rule<'v>(&self, entry: &'v Value<'v>) -> Read<HouseRule> {
        let reader = self.reader;
        let mut definition = Definition::named("", Vec::new());
        let (mut languages, mut examples, mut name) = (None, Vec::new(), None);
        let mut places = Places::default();
        for (key, value) in reader.table(entry, "rule")? {
            match key.get_ref().as_ref() {
                "name" => name = Some(reader.name(value, "a rule")?),
                "languages" => languages = Some(self.languages(value)?),
                "find" => {
                    definition.find = reader.string(value)?.to_string();
                    places.find = Some(value);
                }
                "message" => {
                    definition.message = self.line(value)?;
                    places.message = Some(value);
                }
                "advice" => {
                    definition.advice = Some(self.line(value)?);
                    places.advice = Some(value);
                }
                "what" => definition.what = Some(self.line(value)?),
                "why" => definition.why = reader.string(value)?.to_string(),
                "level" => definition.level = reader.word(value, "a level", Level::ALL, Level::word)?,
                "mesh" => definition.mesh = reader.word(value, "a mesh", Mesh::ALL, Mesh::word)?,
                "certainty" => {
                    definition.certainty = reader.word(value, "a certainty", Certainty::ALL, Certainty::word)?;
                }
                "standards" => definition.standards = self.reader.strings(value, "a list of strings")?,
                "fix" => {
                    let (kind, verb, place) = self.fix(value)?;
                    definition.fix = Some((kind, verb));
                    places.fix = Some(place);
                }
                key if data::is_key(key) => {
                    let data = definition.data.get_or_insert_default();
                    data::read(reader, self.beside, key, value, data)?;
                    places.data.note(key, value);
                }
                "options" => definition.options = self.options(reader.table(value, "options")?)?,
                "wrong" | "right" => {
                    let is_wrong = key.get_ref() == "wrong";
                    let kind = format!("a list of tables, each headed [[rule.{}]],", key.get_ref());
                    examples.extend(reader.array(value, &kind)?.iter().map(|example| (example, is_wrong)));
                }
                _ => return reader.no_key(key, "a rule of a pack has no \"", KEYS),
            }
        }
        let whole = "a rule needs `name`, `find` (or, about data, `at` or `each`) and `message`";
        let (Some(name), Some(find), Some(_)) = (name, places.find.or(places.data.any()), places.message) else {
            return Err(reader.error(entry.span(), whole.to_string()));
        };
        definition.name = format!("{}:{name}", self.pack);
        match &mut definition.data {
            Some(data) => {
                data.documents = self.documents.to_vec();
                data::check(reader, entry, data, &places.data, places.find.or(places.fix))?;
                definition.languages = languages.unwrap_or_else(|| Language::OF_DATA.to_vec());
            }
            None => {
                definition.lists = self.lists(&definition.find, find)?;
                definition.languages = languages.unwrap_or_else(|| languages_of(&definition));
            }
        }
        examples.sort_by_key(|(example, _)| example.span().start);
        for (example, is_wrong) in examples {
            definition.examples.push(self.example(example, is_wrong, &definition.languages)?);
        }
        HouseRule::new(definition).map_err(|error| {
            let value = match error.part {
                Part::Find => places.find,
                Part::Message => places.message,
                Part::Advice => places.advice,
                Part::Fix => places.fix,
                Part::Data(key) => places.data.of(key),
            };
            reader.in_string(value.unwrap_or(find), &error.error)
        })
    }

    /// A string on one line that says something.
    fn line(&self, value: &Value<'_>) -> Read<String> {
        let text = self.reader.string(value)?;
        if text.contains('\n') || text.trim().is_empty() {
            return Err(self.reader.error(value.span(), "this is to be one line that says something".to_string()));
        }
        Ok(text.to_string())
    }

    fn languages(&self, value: &Value<'_>) -> Read<Vec<Language>> {
        let items = self.reader.array(value, "a list of languages")?;
        if items.is_empty() {
            return Err(self.reader.error(value.span(), "a rule is for at least one language".to_string()));
        }
        let one = |item| self.reader.word(item, "a language", Language::ALL, Language::name);
        items.iter().map(one).collect()
    }

    /// `fix = { review = "…" }` or `fix = { exact = "…" }`
    fn fix<'v>(&self, value: &'v Value<'v>) -> Read<(FixKind, String, &'v Value<'v>)> {
        let table = self.reader.table(value, "fix")?;
        let mut fixes = table.iter();
        let (Some((key, verb)), None) = (fixes.next(), fixes.next()) else {
            let message = "a fix is { review = '…' } or { exact = '…' }".to_string();
            return Err(self.reader.error(value.span(), message));
        };
        let kind = match key.get_ref().as_ref() {
            "review" => FixKind::Review,
            "exact" => FixKind::Exact,
            _ => return self.reader.no_key(key, "a fix has no \"", &["exact", "review"]),
        };
        Ok((kind, self.reader.string(verb)?.to_string(), verb))
    }

    fn options(&self, table: &DeTable<'_>) -> Read<Vec<HouseOption>> {
        let mut options = Vec::new();
        for (key, value) in table {
            let name = key.get_ref().to_string();
            if name == "level" {
                let message =
                    "no option can be called \"level\": that is how settings give the rule's level".to_string();
                return Err(self.reader.error(key.span(), message));
            }
            let (mut default, mut about) = (None, None);
            for (key, value) in self.reader.table(value, "option")? {
                match key.get_ref().as_ref() {
                    "default" => default = Some(self.option_value(value)?),
                    "about" => about = Some(self.line(value)?),
                    _ => return self.reader.no_key(key, "an option has no \"", &["about", "default"]),
                }
            }
            let (Some(default), Some(about)) = (default, about) else {
                return Err(self.reader.error(value.span(), "an option needs `default` and `about`".to_string()));
            };
            options.push(HouseOption { name, default, about });
        }
        Ok(options)
    }

    fn option_value(&self, value: &Value<'_>) -> Read<OptionValue> {
        match value.get_ref() {
            DeValue::String(text) => Ok(OptionValue::Word(text.to_string())),
            DeValue::Array(_) => Ok(OptionValue::Words(self.reader.strings(value, "a list of strings")?)),
            DeValue::Integer(_) => {
                let count = u32::try_from(self.reader.count(value)?);
                count.map(OptionValue::Count).map_err(|_| self.reader.wrong(value, "a smaller number"))
            }
            _ => Err(self.reader.wrong(value, "a number, a string or a list of strings")),
        }
    }

    fn example(&self, entry: &Value<'_>, is_wrong: bool, languages: &[Language]) -> Read<HouseExample> {
        let reader = self.reader;
        let (mut code, mut at, mut fixed, mut path, mut language) = (None, Vec::new(), None, None, None);
        for (key, value) in reader.table(entry, "example")? {
            match key.get_ref().as_ref() {
                "code" => code = Some(reader.string(value)?.to_string()),
                "path" => path = Some(reader.string(value)?.to_string()),
                "language" => {
                    language = Some(reader.word(value, "a language", Language::ALL, Language::name)?);
                }
                "at" if is_wrong => at = self.reader.strings(value, "a list of strings")?,
                "fixed" if is_wrong => fixed = Some(reader.string(value)?.to_string()),
                _ if is_wrong => {
                    let keys = ["at", "code", "fixed", "language", "path"];
                    return reader.no_key(key, "an example has no \"", &keys);
                }
                _ => return reader.no_key(key, "a right example has no \"", &["code", "language", "path"]),
            }
        }
        let Some(code) = code else {
            return Err(reader.error(entry.span(), "an example needs `code`".to_string()));
        };
        let of_path = path.as_deref().and_then(|path| Language::of_extension(path.rsplit('.').next()?));
        let language = language.or(of_path.filter(|one| languages.contains(one)));
        let language = language.or(languages.first().copied()).unwrap_or(Language::ALL[0]);
        let has_path = path.is_some();
        let path = path.unwrap_or_else(|| format!("example.{}", language.spec().extensions[0]));
        Ok(HouseExample { code, path, has_path, language, is_wrong, at, fixed, line: reader.line(&entry.span()) })
    }

    /// The lists that a query asks for.
    fn lists(&self, find: &str, value: &Value<'_>) -> Read<BTreeMap<String, Vec<String>>> {
        let names = HouseRule::lists_in(find).map_err(|error| self.reader.in_string(value, &error))?;
        let mut lists = BTreeMap::new();
        for name in names {
            let lines = self.list(&name).map_err(|message| self.reader.error(value.span(), message))?;
            lists.insert(name, lines);
        }
        Ok(lists)
    }

    /// The lines of a list beside a pack, those without anything and comments left out.
    fn list(&self, name: &str) -> Result<Vec<String>, String> {
        let bytes = (self.beside)(name).map_err(|message| format!("the list {message}"))?;
        let text = String::from_utf8(bytes).map_err(|_| format!("the list {name} is not UTF-8"))?;
        let lines = text.lines().map(str::trim).filter(|line| !line.is_empty() && !line.starts_with('#'));
        Ok(lines.map(str::to_string).collect())
    }
}

/// The languages that have what a query looks for; all of them where it is wrong.
fn languages_of(definition: &Definition) -> Vec<Language> {
    let of_all = HouseRule::new(Definition { languages: Language::ALL.to_vec(), ..definition.clone() });
    let is_for = |language: &Language| of_all.as_ref().map_or(true, |rule| rule.is_for(*language));
    Language::ALL.iter().copied().filter(is_for).collect()
}
