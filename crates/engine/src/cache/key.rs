//! What a kept result depends on.

use std::path::PathBuf;
use std::sync::OnceLock;

use jiff::civil::Date;
use sieve_syntax::language::Language;

use xxhash_rust::xxh3::xxh3_128;

use super::Scope;
use crate::files::FileStat;
use crate::project::Project;
use crate::settings::Effective;
use crate::workspace::discover::Candidate;

/// Which build of this program runs: its version, and the size and time of its file.
fn build() -> Option<String> {
    let program: PathBuf = std::env::current_exe().ok()?;
    let stat = FileStat::of(&program)?;
    Some(format!("{} {stat:?}", env!("CARGO_PKG_VERSION")))
}

/// A hash of the file of this program: the same on all machines that have the same one.
pub(super) fn program() -> Option<u128> {
    static PROGRAM: OnceLock<Option<u128>> = OnceLock::new();
    *PROGRAM.get_or_init(|| Some(xxh3_128(&std::fs::read(std::env::current_exe().ok()?).ok()?)))
}

/// What tells the cache of a run from those of other code bases, options and builds.
pub(super) fn run_key(scope: &Scope<'_>) -> Option<u128> {
    let options = scope.search.settings.options();
    let text = format!("{}\0{:?}\0{options}\0{}", build()?, scope.search.project.root, scope.identities);
    Some(xxh3_128(text.as_bytes()))
}

/// What the settings decide over the findings of files in a language.
#[derive(Debug, Clone, Copy)]
pub(super) struct SettingsKeys {
    /// Over those of the rules of this program.
    pub(super) built_in: u128,
    /// Over those of the rules of packs.
    pub(super) house: u128,
    /// Over what waivers of rules of packs stand for.
    pub(super) names: u128,
}

impl SettingsKeys {
    pub(super) fn of(settings: &Effective, language: Language, project: &Project, today: Date) -> SettingsKeys {
        SettingsKeys {
            built_in: xxh3_128(settings.fingerprint(project, today).as_bytes()),
            names: xxh3_128(settings.house_names().as_bytes()),
            house: xxh3_128(settings.house_fingerprint(language, project).as_bytes()),
        }
    }
}

/// What tells a file of a code base, its settings and what others say to it from others: the same wherever the code base is.
pub(super) fn file_key(project: &Project, candidate: &Candidate, settings: u128, answers: Option<u128>) -> u128 {
    let path = candidate.path.strip_prefix(&project.root).unwrap_or(&candidate.path);
    let mut bytes = path.as_os_str().as_encoded_bytes().to_vec();
    bytes.push(0);
    bytes.extend_from_slice(candidate.language.name().as_bytes());
    bytes.push(u8::from(candidate.named));
    bytes.extend_from_slice(&settings.to_le_bytes());
    bytes.extend(answers.into_iter().flat_map(u128::to_le_bytes));
    xxh3_128(&bytes)
}
