//! What a run is asked to do.

use std::path::PathBuf;

use jiff::civil::Date;

use crate::cache::{self, SharedCache};
use crate::git::Changes;
use crate::hold::baseline::Baseline;
use crate::project::Project;
use crate::settings::SettingsTree;
use crate::subject::Wants;
use crate::workspace::discover::Search;

/// Where and how to sift.
pub struct Request<'r> {
    /// The folders that paths start from.
    pub project: &'r Project,
    /// The settings.
    pub settings: &'r SettingsTree,
    /// What to sift; the working folder if empty.
    pub paths: &'r [PathBuf],
    /// The baseline, if it counts.
    pub baseline: Option<&'r Baseline>,
    /// Only what changed, if that is all that counts.
    pub only_changes: Option<&'r Changes>,
    /// What each finding is to carry.
    pub wants: Wants,
    /// Whether results of earlier runs may be used.
    pub cache: bool,
    /// A cache that machines share, where results of earlier runs may be used.
    pub shared: Option<&'r SharedCache>,
    /// The day, for waivers that end.
    pub today: Date,
    /// How many files to sift at once; as many as there are cores if not given.
    pub threads: Option<usize>,
    /// Called with the number of files, and then once after each file.
    pub progress: &'r (dyn Progress + Sync),
}

impl<'r> Request<'r> {
    /// Where to look for files.
    pub(crate) fn search(&self) -> Search<'r> {
        Search { project: self.project, settings: self.settings, paths: self.paths, changes: self.only_changes }
    }

    /// For what results of earlier runs hold; nothing where they are not wanted.
    pub(crate) fn cached(&self) -> Option<cache::Scope<'r>> {
        let identities = self.needs_identities();
        (self.cache && self.only_changes.is_none()).then_some(cache::Scope { search: self.search(), identities })
    }

    /// Whether findings must be recognised in other versions of the code.
    pub(crate) fn needs_identities(&self) -> bool {
        self.wants.identities || self.baseline.is_some() || self.only_changes.is_some()
    }
}

/// Receives how far a run has come.
pub trait Progress {
    /// So many files will be sifted.
    fn start(&self, files: usize);
    /// One more file is done.
    fn step(&self);
    /// Whether what the run says is not wanted any more, so that it may say nothing.
    fn is_cancelled(&self) -> bool {
        false
    }
}

/// Nobody watches.
pub struct Unwatched;

impl Progress for Unwatched {
    fn start(&self, _files: usize) {}
    fn step(&self) {}
}
