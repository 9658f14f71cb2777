//! Applies fixes in rounds, and proves after each round that nothing broke.

mod diff;
mod journal;
pub(crate) mod of_project;
mod review;
mod rounds;
mod write;

pub use diff::unified_diff;
pub use journal::{UndoError, undo};
pub use review::{Decision, Proposal, review};
use rounds::fix_some;
pub use rounds::{Blame, FixedText, Which, fix_text};
pub use write::{FixingRun, Written};

pub use crate::edits::apply_edits;

use std::path::PathBuf;
use std::sync::Arc;

use rayon::prelude::*;
use sieve_syntax::text::Text;

use crate::check::FileOutcome;
use crate::check::load::{bytes_of, text_of};
use crate::files::FileError;
use crate::hold::baseline::Matching;
use crate::join::Index;
use crate::project::Project;
use crate::run::Before;
use crate::run::changed::ChangedSubject;
use crate::run::{Request, in_pool};
use crate::settings::SettingsError;
use crate::subject::Subject;
use crate::workspace::discover::{self, Candidate};
use crate::workspace::shares::in_shares;

/// A file that fixes change.
#[derive(Debug)]
pub struct FixedFile {
    /// Its absolute path.
    pub path: PathBuf,
    /// Its path as it is shown.
    pub shown: Arc<str>,
    /// Its bytes as they were read.
    pub before: Vec<u8>,
    /// Its bytes with the fixes.
    pub after: Vec<u8>,
    /// What was applied.
    pub fixed: FixedText,
    /// Where it goes, if it gets another name.
    pub moved_to: Option<PathBuf>,
}

impl FixedFile {
    /// What changes, as a unified diff whose paths start at the root of the code base, where patches are applied.
    pub fn diff(&self, project: &Project) -> Vec<u8> {
        let inner = self.path.strip_prefix(&project.root).unwrap_or(&self.path);
        unified_diff(inner.as_os_str().as_encoded_bytes(), &self.before, &self.after)
    }
}

/// What fixing comes to, before anything is written.
#[derive(Debug, Default)]
pub struct FixOutcome {
    /// Files that change, in the order of their paths.
    pub files: Vec<FixedFile>,
    /// Fixes that were discarded, with their file.
    pub blamed: Vec<(Arc<str>, Blame)>,
    /// What could not be read.
    pub errors: Vec<FileError>,
    /// How many files were checked.
    pub looked_at: usize,
}

/// Works out all exact fixes of findings that nothing holds back. Writes nothing.
///
/// # Errors
/// When a settings file is wrong.
pub fn plan(request: &Request<'_>) -> Result<FixOutcome, SettingsError> {
    let discovery = discover::discover(&request.search())?;
    request.progress.start(discovery.files.len());
    let around = Around::of(request);
    let one = |candidate: &Candidate| {
        let fixed = fixed_file(request, candidate, Which::Exact, &around.index, around.before.as_ref());
        request.progress.step();
        fixed
    };
    let results: Vec<Option<Result<FixedFile, FileError>>> =
        in_pool(request.threads, || in_shares(&discovery.files).map(one).collect());
    let mut outcome =
        FixOutcome { errors: discovery.errors, looked_at: discovery.files.len(), ..FixOutcome::default() };
    for result in results.into_iter().flatten().chain(of_project::plan(request, Which::Exact)?) {
        match result {
            Err(error) => outcome.errors.push(error),
            Ok(mut file) => {
                let blamed = std::mem::take(&mut file.fixed.blamed);
                outcome.blamed.extend(blamed.into_iter().map(|blame| (Arc::clone(&file.shown), blame)));
                if file.before != file.after {
                    outcome.files.push(file);
                }
            }
        }
    }
    outcome.files.sort_by(|one, other| one.shown.cmp(&other.shown));
    Ok(outcome)
}

/// A file with some of its fixes, where it is known what the files around it say, and said before the changes that count; nothing where it
/// is left out.
pub(crate) fn fixed_file(
    request: &Request<'_>,
    candidate: &Candidate,
    which: Which<'_>,
    index: &Index,
    before: Option<&Before>,
) -> Option<Result<FixedFile, FileError>> {
    let reading = match read(request, candidate, before) {
        Ok(reading) => reading?,
        Err(error) => return Some(Err(error)),
    };
    let subject = Subject::of(candidate, index, request.project);
    let mut fixed = fix_some(&reading.text, &subject, which, request.today, reading.identities, &*reading.keep);
    let after = reading.encoded(&mut fixed);
    let (path, shown) = (candidate.path.clone(), Arc::clone(&candidate.shown));
    Some(Ok(FixedFile { path, shown, before: reading.before, after, fixed, moved_to: None }))
}

/// What the files around those to fix say, now and before the changes that count.
struct Around {
    index: Index,
    before: Option<Before>,
}

impl Around {
    fn of(request: &Request<'_>) -> Around {
        let before = request.only_changes.map(|changes| Before::of(request.project, changes));
        Around { index: Index::default(), before }
    }
}

/// A file to fix.
struct Reading<'r> {
    before: Vec<u8>,
    text: Text,
    identities: bool,
    /// Marks findings that the baseline knows, and drops those that a change did not bring.
    keep: Box<dyn Fn(&Text, &mut FileOutcome) + 'r>,
}

/// Reads a file, unless it is to be left out.
fn read<'r>(
    request: &'r Request<'r>,
    candidate: &'r Candidate,
    before_changes: Option<&'r Before>,
) -> Result<Option<Reading<'r>>, FileError> {
    let Ok(before) = bytes_of(candidate, request.project)? else { return Ok(None) };
    let Ok(text) = text_of(candidate, before.clone()) else { return Ok(None) };
    let keep = move |text: &Text, found: &mut FileOutcome| {
        let changed = request.only_changes.and_then(|changes| changes.of(&candidate.path));
        if let Some((file, before)) = changed.zip(before_changes) {
            ChangedSubject { file, candidate, before, request }.keep_in_text(text, &mut found.findings);
        }
        if let Some(baseline) = request.baseline {
            let path = baseline.entry_path(request.project, &candidate.shown);
            Matching::new(baseline, request.settings.rule_set()).match_file(
                &path,
                &mut found.findings,
                found.scopes.as_ref(),
            );
        }
    };
    Ok(Some(Reading { before, text, identities: request.needs_identities(), keep: Box::new(keep) }))
}

impl Reading<'_> {
    /// The fixed text in the file's own encoding; the file as it was where the text has no form in it.
    fn encoded(&self, fixed: &mut FixedText) -> Vec<u8> {
        let encoding = self.text.encoding();
        Text::with_encoding(fixed.source.clone(), encoding).encode().unwrap_or_else(|| {
            fixed.blamed.push(Blame::Encoding(encoding.name()));
            self.before.clone()
        })
    }
}
