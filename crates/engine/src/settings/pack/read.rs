//! Reads the text of a pack, table by table.

use std::cell::RefCell;
use std::path::Path;

use sieve_rules::RuleSet;
use sieve_rules::house::HouseRule;
use sieve_syntax::text::Text;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

use super::Named;
use super::beside::Beside;
use super::document::{self, Kinds};
use super::rule::ReadRule;
use crate::settings::SettingsError;
use crate::settings::file::SettingsFile;
use crate::settings::read::no_packs;
use crate::settings::reader::{Read, Reader};

/// What a pack says, its settings aside.
pub(super) struct PackFile {
    pub(super) name: String,
    pub(super) version: Option<String>,
    pub(super) about: String,
    pub(super) packs: Vec<Named>,
    pub(super) rules: Vec<HouseRule>,
    pub(super) has_settings: bool,
}

/// The keys of a pack.
pub(crate) const KEYS: &[&str] = &["about", "document", "pack", "packs", "rule", "settings", "version"];

impl PackFile {
    pub(super) fn read(path: &Path, source: &str, beside: Beside<'_>, kinds: &Kinds) -> Read<PackFile> {
        let (text, rules) = (Text::new(source.to_string()), RuleSet::built_in());
        let reader = Reader { path, text: &text, rules: &rules, old_names: RefCell::default() };
        let table = DeTable::parse(source).map_err(|error| reader.syntax_error(&error))?;
        reader.pack(table.get_ref(), beside, kinds)
    }
}

/// The settings of a pack, if it has some. Paths in them start from the root of the code base.
pub(super) fn settings_in(
    path: &Path,
    source: &str,
    rules: &RuleSet,
    root: &Path,
) -> Result<Option<SettingsFile>, SettingsError> {
    let text = Text::new(source.to_string());
    let reader = Reader { path, text: &text, rules, old_names: RefCell::default() };
    let table = DeTable::parse(source).map_err(|error| reader.syntax_error(&error))?;
    let Some((_, settings)) = table.get_ref().iter().find(|(key, _)| key.get_ref() == "settings") else {
        return Ok(None);
    };
    let table = reader.table(settings, "settings")?;
    no_packs(&reader, table)?;
    let mut file = reader.file(table)?;
    file.base = root.to_path_buf();
    file.text = text.clone();
    Ok(Some(file))
}

impl Reader<'_> {
    fn pack(&self, table: &DeTable<'_>, beside: Beside<'_>, kinds: &Kinds) -> Read<PackFile> {
        let (mut name, mut version, mut about) = (None, None, String::new());
        let (mut packs, mut tables, mut has_settings, mut documents) = (Vec::new(), Vec::new(), false, Vec::new());
        for (key, value) in table {
            match key.get_ref().as_ref() {
                "pack" => name = Some(self.pack_name(value)?),
                "version" => version = Some(self.version(value)?),
                "about" => about = self.string(value)?.to_string(),
                "packs" => {
                    let named = self.packs(value)?.into_iter();
                    packs = named.map(|entry| (entry.clone(), self.text.place(entry.span.start))).collect();
                }
                "document" => {
                    let all = self.array(value, "a list of tables, each headed [[document]],")?.iter();
                    documents = all.map(|entry| document::read(self, entry, beside, kinds)).collect::<Read<_>>()?;
                }
                "rule" => tables = self.array(value, "a list of tables, each headed [[rule]],")?.iter().collect(),
                "settings" => has_settings = true,
                _ => return self.no_key(key, "a pack has no \"", KEYS),
            }
        }
        let Some(name) = name else {
            return Err(self.error(0..0, "a pack says its name: pack = \"…\"".to_string()));
        };
        let read = ReadRule { reader: self, pack: &name, documents: &documents, beside };
        let mut rules: Vec<HouseRule> = Vec::new();
        for table in tables {
            let rule = read.rule(table)?;
            if rules.iter().any(|other| other.name == rule.name) {
                return Err(self.error(table.span(), format!("there are two rules called {}", rule.name)));
            }
            rules.push(rule);
        }
        Ok(PackFile { name, version, about, packs, rules, has_settings })
    }

    fn pack_name(&self, value: &Spanned<DeValue<'_>>) -> Read<String> {
        self.name(value, "a pack")
    }

    /// Lower-case words joined by hyphens.
    pub(super) fn name(&self, value: &Spanned<DeValue<'_>>, what: &str) -> Read<String> {
        let name = self.string(value)?;
        let is_word = |word: &str| {
            word.starts_with(|first: char| first.is_ascii_lowercase())
                && word.bytes().all(|byte| byte.is_ascii_lowercase() || byte.is_ascii_digit())
        };
        let is_right =
            name.len() <= 80 && name.split('-').all(|word| is_word(word) || is_number(word)) && is_word(first(name));
        if is_right {
            return Ok(name.to_string());
        }
        let message = format!("the name of {what} is made of lower-case words joined by hyphens, not {name:?}");
        Err(self.error(value.span(), message))
    }

    /// Numbers joined by dots.
    fn version(&self, value: &Spanned<DeValue<'_>>) -> Read<String> {
        let version = self.string(value)?;
        let is_right = version.len() <= 40 && version.split('.').all(is_number);
        if is_right { Ok(version.to_string()) } else { Err(self.wrong(value, "a version such as \"1.2.0\"")) }
    }
}

fn is_number(word: &str) -> bool {
    !word.is_empty() && word.bytes().all(|byte| byte.is_ascii_digit())
}

fn first(name: &str) -> &str {
    name.split('-').next().unwrap_or_default()
}
