//! What a kept result depends on.

use jiff::civil::Date;
use sieve_syntax::language::Language;

use xxhash_rust::xxh3::xxh3_128;

use super::Scope;
use super::program::program;
use crate::project::Project;
use crate::settings::Effective;
use crate::workspace::discover::Candidate;

/// What tells the cache of a run from those of other code bases, options and builds.
pub(super) fn run_key(scope: &Scope<'_>) -> Option<u128> {
    let options = scope.search.settings.options();
    let text = format!("{:032x}\0{:?}\0{options}\0{}", program()?, scope.search.project.root, scope.identities);
    Some(xxh3_128(text.as_bytes()))
}

/// What the settings decide over the findings of files in a language.
#[derive(Debug, Clone, Copy)]
pub(crate) struct SettingsKeys {
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
