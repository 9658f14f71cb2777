//! One settings file as it is.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

use globset::GlobSet;
use jiff::civil::Date;
use sieve_rules::catalogue::history::Release;
use sieve_rules::schema::Schema;
use sieve_rules::{Ban, BanKind, Level, ListedValues, Mesh, NameForm, NamingKey, OptionValue, RuleId};
use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};

/// One settings file as it is.
#[derive(Debug)]
pub(crate) struct SettingsFile {
    pub(crate) path: PathBuf,
    /// Where its patterns start: its own folder, or the root where it is used in place of those found.
    pub(crate) base: PathBuf,
    /// Its text without byte-order mark.
    pub(crate) text: Text,
    pub(super) top: bool,
    pub(super) packs: Vec<PackEntry>,
    pub(super) defaults: Option<Placed<Release>>,
    pub(super) mesh: Option<Placed<Mesh>>,
    pub(super) fail_on: Option<Placed<Level>>,
    pub(super) only: Option<Placed<Vec<RuleId>>>,
    pub(super) skip: Option<Placed<Patterns>>,
    pub(super) generated: Option<Placed<Patterns>>,
    pub(super) languages: Option<Placed<Vec<(Patterns, Language)>>>,
    pub(super) largest: Option<Placed<u64>>,
    pub(super) strict: Option<Placed<bool>>,
    pub(super) shared: Option<Placed<String>>,
    pub(super) rules: BTreeMap<RuleId, RuleEntry>,
    pub(super) naming: BTreeMap<NamingKey, Placed<NameForm>>,
    /// The elements that components of the project put out.
    pub(super) components: BTreeMap<String, Placed<String>>,
    /// Which values something may have, by what it is called.
    pub(super) values: BTreeMap<String, Placed<ListedValues>>,
    pub(super) bans: Vec<BanEntry>,
    pub(super) scopes: Vec<ScopeEntry>,
    pub(crate) waives: Vec<WaiveEntry>,
    pub(super) budgets: Vec<BudgetEntry>,
    pub(super) schemas: Vec<SchemaEntry>,
    /// Names of rules that an earlier release had.
    pub(crate) old_names: Vec<OldName>,
}

impl SettingsFile {
    /// The folder where its patterns start.
    pub(crate) fn folder(&self) -> &Path {
        &self.base
    }

    /// Every list of patterns in it.
    pub(crate) fn patterns(&self) -> impl Iterator<Item = &Patterns> {
        let files = self.skip.iter().chain(&self.generated).map(|placed| &placed.value);
        let languages = self.languages.iter().flat_map(|placed| placed.value.iter().map(|(patterns, _)| patterns));
        let scopes = self.scopes.iter().map(|scope| &scope.patterns);
        let waives = self.waives.iter().map(|waive| &waive.patterns);
        let budgets = self.budgets.iter().filter_map(|budget| budget.patterns.as_ref());
        let schemas = self.schemas.iter().map(|schema| &schema.patterns);
        files.chain(languages).chain(scopes).chain(waives).chain(budgets).chain(schemas)
    }
}

/// A rule called by a name that it had.
#[derive(Debug, Clone)]
pub(crate) struct OldName {
    /// Where the name is, without quotes.
    pub(crate) span: Span,
    pub(crate) rule: RuleId,
    pub(crate) renamed_in: Release,
}

/// A part of the settings that holds for some paths only.
#[derive(Debug)]
pub(super) struct ScopeEntry {
    pub(super) patterns: Patterns,
    pub(super) because: Option<String>,
    pub(super) rules: BTreeMap<RuleId, RuleEntry>,
    pub(super) naming: BTreeMap<NamingKey, Placed<NameForm>>,
    pub(super) values: BTreeMap<String, Placed<ListedValues>>,
}

/// A waiver for some paths.
#[derive(Debug)]
pub(crate) struct WaiveEntry {
    pub(super) patterns: Patterns,
    /// The rules and concerns as they are written.
    pub(super) names: Vec<String>,
    pub(crate) rules: Vec<RuleId>,
    pub(super) because: String,
    pub(crate) until: Option<Date>,
    /// The JSON Pointer to the place that it is for; nothing for one that is for whole files.
    pub(super) pointer: Option<String>,
    pub(crate) line: u32,
    /// The entry.
    pub(crate) span: Span,
}

/// Something that the team does not want used. The boundary rules read these.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BanEntry {
    /// What is banned.
    pub kind: BanKind,
    /// Its full name.
    pub name: String,
    /// Why.
    pub because: String,
    /// The line of its entry.
    pub line: u32,
}

impl BanEntry {
    pub(super) fn to_ban(&self) -> Ban {
        Ban { kind: self.kind, name: self.name.replace("::", "."), because: self.because.clone() }
    }
}

/// How much of the baseline some rules may have in some paths.
#[derive(Debug)]
pub(super) struct BudgetEntry {
    /// All files if not given.
    pub(super) patterns: Option<Patterns>,
    /// All rules if not given.
    pub(super) rules: Option<Vec<RuleId>>,
    pub(super) most: u64,
    /// Where the number is.
    pub(super) most_span: Span,
    pub(super) line: u32,
}

/// `[[schema]]`
#[derive(Debug)]
pub(super) struct SchemaEntry {
    pub(super) patterns: Patterns,
    /// The file of the schema, as it is written, and where that is.
    pub(super) path: String,
    pub(super) span: Span,
    pub(super) because: Option<String>,
    /// The schema, once it is read.
    pub(super) loaded: Option<LoadedSchema>,
}

/// A schema that was read.
#[derive(Debug, Clone)]
pub(crate) struct LoadedSchema {
    pub(crate) schema: Arc<Schema>,
    pub(crate) path: PathBuf,
    /// What tells its text from others.
    pub(crate) digest: u128,
}

/// A pack that a file asks for.
#[derive(Debug, Clone)]
pub(super) struct PackEntry {
    pub(super) source: PackSource,
    /// Where it is named.
    pub(super) span: Span,
}

/// Where a pack is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum PackSource {
    /// One that this program provides, by its name.
    BuiltIn(String),
    /// A file, or a folder with a `pack.toml`, from the folder of what names it.
    Path(String),
    /// An address, and the SHA-256 of what is there, in hexadecimal.
    Address {
        /// The address.
        address: String,
        /// The digest; nothing where it is not known yet.
        sha256: Option<String>,
    },
}

impl PackSource {
    /// What a word means: an address, a path, or else the name of a built-in pack.
    pub fn written(word: &str) -> PackSource {
        if word.contains("://") {
            PackSource::Address { address: word.to_string(), sha256: None }
        } else if word.contains(['/', '\\', '.']) {
            PackSource::Path(word.to_string())
        } else {
            PackSource::BuiltIn(word.to_string())
        }
    }
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

/// Patterns for paths below the folder of the settings file. They remember which of them ever fitted.
#[derive(Debug, Clone)]
pub struct Patterns {
    pub(super) texts: Vec<String>,
    /// Where each is, quotes included.
    pub(super) places: Vec<Span>,
    pub(super) set: GlobSet,
    pub(super) fitted: Arc<[AtomicBool]>,
}

impl Patterns {
    /// Whether a path relative to the settings file's folder fits one of them.
    pub fn fit(&self, relative: &str) -> bool {
        if self.fitted.iter().all(|fitted| fitted.load(Ordering::Relaxed)) {
            return self.set.is_match(relative);
        }
        let matches = self.set.matches(relative);
        for index in &matches {
            self.fitted[*index].store(true, Ordering::Relaxed);
        }
        !matches.is_empty()
    }

    /// The patterns that have fitted nothing so far, with their places.
    pub(crate) fn idle(&self) -> impl Iterator<Item = (&str, Span)> {
        let idle = |index: &usize| !self.fitted[*index].load(Ordering::Relaxed);
        (0..self.texts.len()).filter(idle).map(|index| (self.texts[index].as_str(), self.places[index]))
    }
}
