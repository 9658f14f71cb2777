//! Packs: rules, settings and lists that somebody else wrote, or the team for itself.
//!
//! The settings at the root of a code base name the packs, so that a rule is the same wherever it is spoken of. Nothing in a pack is
//! ever executed.

mod beside;
mod built_in;
mod data;
mod document;
mod load;
mod read;
mod rule;
mod schema;

use std::path::PathBuf;
use std::sync::Arc;

use sieve_rules::RuleSet;
use sieve_rules::house::HouseRule;

pub use super::file::PackSource;
use super::file::{PackEntry, SettingsFile};

pub use built_in::BUILT_IN;
pub use schema::pack_schema;

/// The packs of a code base.
#[derive(Debug)]
pub struct Packs {
    rules: Arc<RuleSet>,
    settings: Vec<Arc<SettingsFile>>,
    list: Vec<Pack>,
}

/// A pack, without its rules.
#[derive(Debug, Clone)]
pub struct Pack {
    /// Its name: its rules are called `name:rule`.
    pub name: String,
    /// Its version, if it says one.
    pub version: Option<String>,
    /// What it is for.
    pub about: String,
    /// Where it comes from.
    pub source: PackSource,
    /// The file it was read from; for what is built in or from an address, its name or address.
    pub path: PathBuf,
    /// Whether it has settings.
    pub has_settings: bool,
    /// The SHA-256 of its text, in hexadecimal.
    pub sha256: String,
}

impl Packs {
    fn new(rules: Vec<HouseRule>, list: Vec<Pack>) -> Packs {
        let rules = if rules.is_empty() { RuleSet::built_in() } else { Arc::new(RuleSet::with(rules)) };
        Packs { rules, settings: Vec::new(), list }
    }

    /// All rules: those of this program, and those of the packs.
    pub fn rules(&self) -> &Arc<RuleSet> {
        &self.rules
    }

    /// The settings of the packs, in the order in which the packs are named; those of a code base go before them.
    pub(super) fn settings(&self) -> &[Arc<SettingsFile>] {
        &self.settings
    }

    /// The packs, in the order in which they are named.
    pub fn list(&self) -> &[Pack] {
        &self.list
    }
}

/// A pack that is named somewhere, with the place.
pub(super) type Named = (PackEntry, sieve_syntax::text::Place);
