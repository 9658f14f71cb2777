//! What is checked, under which settings, and what is wanted of it.

use std::path::Path;
use std::sync::Arc;

use sieve_syntax::language::Language;

use crate::join::Index;
use crate::project::{Project, relative};
use crate::settings::{Effective, Source};
use crate::workspace::discover::Candidate;

/// What a text is, and which settings hold for it.
#[derive(Clone, Copy)]
pub struct Subject<'s> {
    /// Its path as it is shown.
    pub shown: &'s Arc<str>,
    /// Its language.
    pub language: Language,
    /// The settings in force for it.
    pub settings: &'s Effective,
    /// Its absolute path, to check the files beside it.
    pub path: &'s Path,
    /// What the files of the project say of themselves.
    pub index: &'s Index,
    /// The folders that paths start from.
    pub project: &'s Project,
    /// Whether other files are asked at once. Else what is asked of them becomes a part of the facts.
    pub asks_others: bool,
    /// Whether it is the only one that is looked at now, so that a long one may be shared by threads.
    pub is_alone: bool,
}

impl<'s> Subject<'s> {
    /// A line of a settings file, as it is shown.
    pub(crate) fn settings_place(&self, source: &Source) -> String {
        format!("{}:{}", self.project.shown(&source.path), source.line)
    }

    /// Its path from the root of the code base, so that what rules say does not depend on the working folder.
    pub(crate) fn rooted_path(&self) -> String {
        relative(&self.project.root, self.path).unwrap_or_else(|| self.shown.to_string())
    }

    pub(crate) fn of(candidate: &'s Candidate, index: &'s Index, project: &'s Project) -> Subject<'s> {
        Subject {
            shown: &candidate.shown,
            language: candidate.language,
            settings: &candidate.settings,
            path: &candidate.path,
            index,
            project,
            asks_others: true,
            is_alone: false,
        }
    }
}

/// What each finding is to carry besides its place.
#[derive(Debug, Clone, Copy, Default)]
pub struct Wants {
    /// The lines around it.
    pub excerpts: bool,
    /// What makes it the same in another version of the code.
    pub identities: bool,
    /// And besides the findings what the lines of each folder are.
    pub sizes: bool,
}

impl Wants {
    /// Nothing but the findings.
    pub const NONE: Wants = Wants { excerpts: false, identities: false, sizes: false };

    /// Findings that can be recognised in other versions of the code.
    pub const IDENTITIES: Wants = Wants { identities: true, ..Wants::NONE };
}
