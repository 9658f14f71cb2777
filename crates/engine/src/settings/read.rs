//! Reads one settings file, table by table. Whatever it does not know is refused with its place.

use std::cell::RefCell;
use std::collections::BTreeMap;
use std::ops::Range;
use std::path::Path;

use sieve_rules::catalogue::history::{self, CURRENT, Release};
use sieve_rules::house::HouseRule;
use sieve_rules::{BanKind, Level, Mesh, OptionValue, OptionView, RuleId, RuleSet};
use sieve_syntax::language::Language;
use sieve_syntax::text::{Place, Span, Text};
use toml::Spanned;
use toml::de::{DeTable, DeValue};

use super::error::nearest;
use super::fetch::is_sha256;
use super::file::{
    BanEntry, BudgetEntry, OldName, PackEntry, PackSource, Patterns, RuleEntry, SchemaEntry, ScopeEntry, SettingsFile,
    WaiveEntry,
};
use super::names::{is_known, rules_named, unknown};
use super::reader::{Read, Reader, split_mark};
use super::value::span_of;

impl SettingsFile {
    /// Reads a file's text.
    pub(crate) fn read(path: &Path, source: &str, rules: &RuleSet) -> Read<SettingsFile> {
        let text = Text::new(source.to_string());
        let reader = Reader { path, text: &text, rules, old_names: RefCell::default() };
        let table = DeTable::parse(source).map_err(|error| reader.syntax_error(&error))?;
        let mut file = reader.file(table.get_ref())?;
        file.old_names = reader.old_names.into_inner();
        file.text = text;
        Ok(file)
    }

    pub(super) fn empty(path: &Path) -> SettingsFile {
        SettingsFile {
            base: path.parent().unwrap_or(Path::new("")).to_path_buf(),
            path: path.to_path_buf(),
            text: Text::new(String::new()),
            top: false,
            packs: Vec::new(),
            defaults: None,
            mesh: None,
            fail_on: None,
            only: None,
            skip: None,
            generated: None,
            languages: None,
            largest: None,
            strict: None,
            shared: None,
            rules: BTreeMap::new(),
            naming: BTreeMap::new(),
            components: BTreeMap::new(),
            values: BTreeMap::new(),
            bans: Vec::new(),
            scopes: Vec::new(),
            waives: Vec::new(),
            budgets: Vec::new(),
            schemas: Vec::new(),
            old_names: Vec::new(),
        }
    }
}

/// The packs that a settings file names, each with its place. What else is in the file is not looked at yet: it may name their rules.
pub(super) fn packs_of(path: &Path, source: &str) -> Read<Vec<(PackEntry, Place)>> {
    let source = split_mark(source).1;
    let (text, rules) = (Text::new(source.to_string()), RuleSet::built_in());
    let reader = Reader { path, text: &text, rules: &rules, old_names: RefCell::default() };
    let table = DeTable::parse(source).map_err(|error| reader.syntax_error(&error))?;
    let Some((_, value)) = table.get_ref().iter().find(|(key, _)| key.get_ref() == "packs") else {
        return Ok(Vec::new());
    };
    let packs = reader.packs(value)?.into_iter();
    Ok(packs.map(|entry| (entry.clone(), text.place(entry.span.start))).collect())
}

/// Keys that only the settings of a code base can have.
pub(super) const OF_CODE_BASE: &[&str] = &["cache", "defaults", "packs", "top"];

/// Refuses keys that only the settings of a code base can have.
pub(super) fn no_packs(reader: &Reader<'_>, table: &DeTable<'_>) -> Read<()> {
    let of_code_base = |key: &&Spanned<_>| OF_CODE_BASE.contains(&AsRef::<str>::as_ref(key.get_ref()));
    match table.keys().find(of_code_base) {
        Some(key) => {
            let message = format!("the settings of a pack cannot have \"{}\"", key.get_ref());
            Err(reader.error(key.span(), message))
        }
        None => Ok(()),
    }
}

/// The keys of a settings file.
pub(super) const KEYS: &[&str] = &[
    "ban",
    "baseline",
    "budget",
    "cache",
    "components",
    "defaults",
    "fail-on",
    "files",
    "mesh",
    "naming",
    "only",
    "packs",
    "rules",
    "schema",
    "scope",
    "top",
    "values",
    "waive",
];

impl Reader<'_> {
    pub(super) fn file(&self, table: &DeTable<'_>) -> Read<SettingsFile> {
        let mut file = SettingsFile::empty(self.path);
        for (key, value) in table {
            match key.get_ref().as_ref() {
                "defaults" => file.defaults = Some(self.placed(key, self.release(value)?)),
                "mesh" => file.mesh = Some(self.placed(key, self.word(value, "a mesh", Mesh::ALL, Mesh::word)?)),
                "fail-on" => {
                    file.fail_on = Some(self.placed(key, self.word(value, "a level", Level::ALL, Level::word)?))
                }
                "top" => file.top = self.flag(value)?,
                "only" => file.only = Some(self.placed(key, self.rules_or_concerns(value)?)),
                "packs" => file.packs = self.packs(value)?,
                "files" => self.files(&mut file, self.table(value, "files")?)?,
                "baseline" => self.baseline(&mut file, self.table(value, "baseline")?)?,
                "cache" => self.cache(&mut file, self.table(value, "cache")?)?,
                "rules" => file.rules = self.rules(self.table(value, "rules")?)?,
                "naming" => file.naming = self.naming(value)?,
                "components" => file.components = self.components(self.table(value, "components")?)?,
                "values" => file.values = self.listed_values(self.table(value, "values")?)?,
                "ban" => file.bans = self.each(value, "ban", |table| self.ban(table))?,
                "scope" => file.scopes = self.each(value, "scope", |table| self.scope(table))?,
                "waive" => file.waives = self.each(value, "waive", |table| self.waive(table))?,
                "budget" => file.budgets = self.each(value, "budget", |table| self.budget(table))?,
                "schema" => file.schemas = self.each(value, "schema", |table| self.schema(table))?,
                _ => return self.no_key(key, "there is no setting \"", KEYS),
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
                _ => {
                    let names = ["generated", "languages", "largest", "skip"];
                    return self.no_key(key, "there is no setting \"files.", &names);
                }
            }
        }
        Ok(())
    }

    /// `packs = ["lint/ferry.toml", "team-basics", { address = "https://…", sha256 = "…" }]`
    pub(super) fn packs(&self, value: &Spanned<DeValue<'_>>) -> Read<Vec<PackEntry>> {
        let one = |item: &Spanned<DeValue<'_>>| {
            let source = match item.get_ref() {
                DeValue::Table(table) => self.pinned(table, item.span())?,
                _ => self.named_pack(item)?,
            };
            Ok(PackEntry { source, span: span_of(&item.span()) })
        };
        self.array(value, "a list of packs")?.iter().map(one).collect()
    }

    /// A path, or the name of a built-in pack.
    fn named_pack(&self, value: &Spanned<DeValue<'_>>) -> Read<PackSource> {
        let name = self
            .string(value)
            .map_err(|_| self.wrong(value, "a path, the name of a built-in pack, or an address with its sha256"))?;
        match PackSource::written(name) {
            PackSource::Address { address, .. } => {
                let message = format!(
                    "an address is pinned: {{ address = \"{address}\", sha256 = \"…\" }}; `hsieve pack add {address}` writes that"
                );
                Err(self.error(value.span(), message))
            }
            source => Ok(source),
        }
    }

    fn pinned(&self, table: &DeTable<'_>, span: Range<usize>) -> Read<PackSource> {
        let (mut address, mut sha256) = (None, None);
        for (key, value) in table {
            match key.get_ref().as_ref() {
                "address" => address = Some(self.string(value)?.to_string()),
                "sha256" => {
                    let digest = self.string(value)?;
                    if !is_sha256(digest) {
                        return Err(self.error(value.span(), "a sha256 has 64 hexadecimal digits".to_string()));
                    }
                    sha256 = Some(digest.to_string());
                }
                _ => return self.no_key(key, "a pack has no \"", &["address", "sha256"]),
            }
        }
        match (address, sha256) {
            (Some(address), Some(sha256)) => Ok(PackSource::Address { address, sha256: Some(sha256) }),
            _ => Err(self.error(span, "a pack from an address needs `address` and `sha256`".to_string())),
        }
    }

    fn baseline(&self, file: &mut SettingsFile, table: &DeTable<'_>) -> Read<()> {
        for (key, value) in table {
            match key.get_ref().as_ref() {
                "strict" => file.strict = Some(self.placed(key, self.flag(value)?)),
                _ => return self.no_key(key, "there is no setting \"baseline.", &["strict"]),
            }
        }
        Ok(())
    }

    fn cache(&self, file: &mut SettingsFile, table: &DeTable<'_>) -> Read<()> {
        for (key, value) in table {
            match key.get_ref().as_ref() {
                "shared" => {
                    let address = self.string(value)?;
                    if !address.starts_with("https://") && !address.starts_with("http://") {
                        return Err(self.error(
                            value.span(),
                            "a shared cache is at an address that begins with https:// or http://".to_string(),
                        ));
                    }
                    file.shared = Some(self.placed(key, address.to_string()));
                }
                _ => return self.no_key(key, "there is no setting \"cache.", &["shared"]),
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

    fn ban(&self, entry: &Spanned<DeValue<'_>>) -> Read<BanEntry> {
        let (mut banned, mut because) = (None, None);
        for (key, value) in self.table(entry, "ban")? {
            let name = key.get_ref().as_ref();
            if name == "because" {
                because = Some(self.reason(value)?);
                continue;
            }
            let Some(kind) = BanKind::ALL.iter().find(|kind| kind.word() == name) else {
                return self.no_key(key, "a ban has no \"", &["because", "call", "import", "member"]);
            };
            if banned.is_some() {
                return Err(self.error(key.span(), "a ban is for one thing; give each its own [[ban]]".to_string()));
            }
            banned = Some((*kind, self.string(value)?.to_string()));
        }
        let (Some((kind, name)), Some(because)) = (banned, because) else {
            let message = "a ban needs one of `import`, `call` and `member`, and a `because`".to_string();
            return Err(self.error(entry.span(), message));
        };
        Ok(BanEntry { kind, name, because, line: self.line(&entry.span()) })
    }

    fn scope(&self, entry: &Spanned<DeValue<'_>>) -> Read<ScopeEntry> {
        let (mut patterns, mut because, mut rules, mut naming, mut values) = (None, None, None, None, None);
        for (key, value) in self.table(entry, "scope")? {
            match key.get_ref().as_ref() {
                "paths" => patterns = Some(self.patterns(value)?),
                "because" => because = Some(self.reason(value)?),
                "rules" => rules = Some(self.rules(self.table(value, "rules")?)?),
                "naming" => naming = Some(self.naming(value)?),
                "values" => values = Some(self.listed_values(self.table(value, "values")?)?),
                _ => return self.no_key(key, "a scope has no \"", &["because", "naming", "paths", "rules", "values"]),
            }
        }
        let says_something = rules.is_some() || naming.is_some() || values.is_some();
        let Some(patterns) = patterns.filter(|_| says_something) else {
            let message = "a scope needs `paths`, and `rules`, `naming` or `values`".to_string();
            return Err(self.error(entry.span(), message));
        };
        let (rules, naming) = (rules.unwrap_or_default(), naming.unwrap_or_default());
        Ok(ScopeEntry { patterns, because, rules, naming, values: values.unwrap_or_default() })
    }

    fn waive(&self, entry: &Spanned<DeValue<'_>>) -> Read<WaiveEntry> {
        let (mut patterns, mut because, mut rules, mut until) = (None, None, None, None);
        let (mut names, mut pointer) = (Vec::new(), None);
        for (key, value) in self.table(entry, "waive")? {
            match key.get_ref().as_ref() {
                "at" => pointer = Some(self.pointer(value)?),
                "paths" => patterns = Some(self.patterns(value)?),
                "because" => because = Some(self.reason(value)?),
                "rules" => {
                    rules = Some(self.rules_or_concerns(value)?);
                    names = self.strings(value, "a list of rules and concerns")?;
                }
                "until" => until = Some(self.date(value)?),
                _ => return self.no_key(key, "a waiver has no \"", &["at", "because", "paths", "rules", "until"]),
            }
        }
        let (Some(patterns), Some(because), Some(rules)) = (patterns, because, rules) else {
            let message = "a waiver needs `paths`, `rules` and `because`".to_string();
            return Err(self.error(entry.span(), message));
        };
        let (line, span) = (self.line(&entry.span()), span_of(&entry.span()));
        Ok(WaiveEntry { patterns, names, rules, because, until, pointer, line, span })
    }

    /// A JSON Pointer (RFC 6901) to something within a document.
    fn pointer(&self, value: &Spanned<DeValue<'_>>) -> Read<String> {
        let pointer = self.string(value)?;
        if pointer.starts_with('/') {
            return Ok(pointer.to_string());
        }
        Err(self.wrong(value, "a JSON Pointer such as \"/paths/~1tides/get\""))
    }

    fn budget(&self, entry: &Spanned<DeValue<'_>>) -> Read<BudgetEntry> {
        let (mut patterns, mut rules, mut most) = (None, None, None);
        for (key, value) in self.table(entry, "budget")? {
            match key.get_ref().as_ref() {
                "paths" => patterns = Some(self.patterns(value)?),
                "rules" => rules = Some(self.rules_or_concerns(value)?),
                "most" => most = Some((self.count(value)?, span_of(&value.span()))),
                _ => return self.no_key(key, "a budget has no \"", &["most", "paths", "rules"]),
            }
        }
        let Some((most, most_span)) = most else {
            let message = "a budget needs `most`, the number of entries that the baseline may have".to_string();
            return Err(self.error(entry.span(), message));
        };
        Ok(BudgetEntry { patterns, rules, most, most_span, line: self.line(&entry.span()) })
    }

    fn schema(&self, entry: &Spanned<DeValue<'_>>) -> Read<SchemaEntry> {
        let (mut patterns, mut path, mut because) = (None, None, None);
        for (key, value) in self.table(entry, "schema")? {
            match key.get_ref().as_ref() {
                "paths" => patterns = Some(self.patterns(value)?),
                "schema" => path = Some((self.string(value)?.to_string(), span_of(&value.span()))),
                "because" => because = Some(self.reason(value)?),
                _ => return self.no_key(key, "a schema has no \"", &["because", "paths", "schema"]),
            }
        }
        let (Some(patterns), Some((path, span))) = (patterns, path) else {
            let message = "a schema needs `paths`, and `schema`, the file that it is in".to_string();
            return Err(self.error(entry.span(), message));
        };
        Ok(SchemaEntry { patterns, path, span, because, loaded: None })
    }

    /// A reason, which says something.
    fn reason(&self, value: &Spanned<DeValue<'_>>) -> Read<String> {
        let text = self.string(value)?;
        if super::says_something(text) {
            return Ok(text.to_string());
        }
        Err(self.error(value.span(), "state the reason for later readers".to_string()))
    }

    fn rules_or_concerns(&self, value: &Spanned<DeValue<'_>>) -> Read<Vec<RuleId>> {
        let mut rules = Vec::new();
        for item in self.array(value, "a list of rules and concerns")? {
            let name = self.string(item)?;
            if !is_known(self.rules, name) {
                return Err(self.error(item.span(), unknown(self.rules, name)));
            }
            self.note_old_name(name, item.span());
            rules.extend(rules_named(self.rules, name));
        }
        Ok(rules)
    }

    /// Keeps an old name with its place, quotes left out.
    fn note_old_name(&self, name: &str, range: Range<usize>) {
        let Some(history::Known { rule, renamed_in: Some(renamed_in) }) = history::known(name) else { return };
        let quoted = self.text.slice(span_of(&range)).starts_with(['"', '\'']);
        let inset = u32::from(quoted);
        let span = Span::new(range.start as u32 + inset, range.end as u32 - inset);
        self.old_names.borrow_mut().push(OldName { span, rule, renamed_in });
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
            let Some(known) = self.rules.known(name) else {
                let hint = nearest(name, self.rules.names());
                return Err(self.error(key.span(), format!("there is no rule \"{name}\"{hint}")));
            };
            self.note_old_name(name, key.span());
            if rules.insert(known.rule, self.rule(known.rule, key, value)?).is_some() {
                let name = self.rules.name(known.rule);
                let message = format!("\"{name}\" is set twice here, by its name and by one that it had before");
                return Err(self.error(key.span(), message));
            }
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
        let facts = self.rules.rule(rule);
        let options = facts.options();
        for (key, value) in table {
            let name = key.get_ref().as_ref();
            if name == "level" {
                entry.level = Some(self.placed(key, self.word(value, "a level", Level::ALL, Level::word)?));
                continue;
            }
            let Some(index) = options.iter().position(|option| option.name == name) else {
                let names = options.iter().map(|option| option.name).chain(["level"]);
                let hint = nearest(name, names);
                return Err(self.error(key.span(), format!("{} has no option \"{name}\"{hint}", facts.name)));
            };
            let option = self.option(&options[index], value)?;
            if let Some(house) = facts.as_house() {
                self.check_in_query(house, index, &option, value)?;
            }
            entry.options.insert(index, self.placed(key, option));
        }
        Ok(entry)
    }

    /// Refuses a value that the query of a house rule cannot take, such as a pattern that is none.
    fn check_in_query(
        &self,
        rule: &HouseRule,
        index: usize,
        option: &OptionValue,
        value: &Spanned<DeValue<'_>>,
    ) -> Read<()> {
        let mut values: Vec<OptionValue> = rule.options.iter().map(|option| option.default.clone()).collect();
        values[index] = option.clone();
        let message = |error| format!("{} cannot take this: {error}", rule.name);
        rule.query_with(&values).map(drop).map_err(|error| self.error(value.span(), message(error)))
    }

    fn option(&self, option: &OptionView<'_>, value: &Spanned<DeValue<'_>>) -> Read<OptionValue> {
        let words = |one: &dyn Fn(&Spanned<DeValue<'_>>) -> Read<String>| {
            self.array(value, &option.sort)?.iter().map(one).collect::<Read<Vec<String>>>()
        };
        let choice = |value: &Spanned<DeValue<'_>>, all| self.word(value, "one of its words", all, |word| word);
        match (&option.default, option.choices) {
            (OptionValue::Flag(_), _) => Ok(OptionValue::Flag(self.flag(value)?)),
            (OptionValue::Count(_), _) => {
                let count = u32::try_from(self.count(value)?);
                count.map(OptionValue::Count).map_err(|_| self.wrong(value, &option.sort))
            }
            (OptionValue::Numbers(_), _) => {
                let numbers = self.array(value, &option.sort)?.iter().map(|item| self.number(item));
                Ok(OptionValue::Numbers(numbers.collect::<Read<_>>()?))
            }
            (OptionValue::Words(_), None) => Ok(OptionValue::Words(words(&|item| Ok(self.string(item)?.to_owned()))?)),
            (OptionValue::Words(_), Some(all)) => {
                Ok(OptionValue::Words(words(&|item| Ok(choice(item, all)?.to_owned()))?))
            }
            (OptionValue::Word(_), None) => Ok(OptionValue::Word(self.string(value)?.to_owned())),
            (OptionValue::Word(_), Some(all)) => Ok(OptionValue::Word(choice(value, all)?.to_owned())),
        }
    }

    fn release(&self, value: &Spanned<DeValue<'_>>) -> Read<Release> {
        let text = self.string(value)?;
        let oldest = history::history().oldest;
        let release = text.parse().ok().filter(|release| (oldest..=CURRENT).contains(release));
        release.ok_or_else(|| {
            let known = if oldest == CURRENT { format!("{CURRENT}") } else { format!("{oldest} to {CURRENT}") };
            let message = format!("this version knows the defaults of {known}, not of \"{text}\"");
            self.error(value.span(), message)
        })
    }
}
