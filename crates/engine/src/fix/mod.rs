//! Applies fixes in rounds, and proves after each round that nothing broke.

mod apply;
mod diff;
mod rounds;
mod verify;

pub use apply::apply_edits;
pub use diff::unified_diff;
pub use rounds::{Blame, FixedText, fix_text};
pub(crate) use verify::code_stays;

use std::path::PathBuf;
use std::sync::Arc;

use rayon::prelude::*;
use sieve_syntax::text::Text;

use crate::baseline::Matching;
use crate::discover::{self, Candidate, says_generated};
use crate::elsewhere::Elsewhere;
use crate::files::{self, FileError};
use crate::settings::SettingsError;
use crate::sift::{Request, Subject, in_pool};

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
}

/// What fixing comes to, before anything is written.
#[derive(Debug, Default)]
pub struct FixOutcome {
    /// Files that change, in the order of their paths.
    pub files: Vec<FixedFile>,
    /// Fixes that were thrown away, with their file.
    pub blamed: Vec<(Arc<str>, Blame)>,
    /// What could not be read.
    pub errors: Vec<FileError>,
    /// How many files were looked at.
    pub looked_at: usize,
}

/// Works out all exact fixes of findings that nothing holds back. Writes nothing.
///
/// # Errors
/// When a settings file is wrong.
pub fn plan(request: &Request<'_>) -> Result<FixOutcome, SettingsError> {
    let discovery = discover::discover(request.project, request.settings, request.paths)?;
    request.progress.start(discovery.files.len());
    let elsewhere = Elsewhere::default();
    let results: Vec<Option<Result<FixedFile, FileError>>> = in_pool(request.threads, || {
        discovery.files.par_iter().map(|candidate| plan_file(request, candidate, &elsewhere)).collect()
    });
    let mut outcome =
        FixOutcome { errors: discovery.errors, looked_at: discovery.files.len(), ..FixOutcome::default() };
    for result in results.into_iter().flatten() {
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
    Ok(outcome)
}

fn plan_file(
    request: &Request<'_>,
    candidate: &Candidate,
    elsewhere: &Elsewhere,
) -> Option<Result<FixedFile, FileError>> {
    let result = read(candidate);
    request.progress.step();
    let (before, text) = match result {
        Ok(read) => read?,
        Err(mut error) => {
            error.path = PathBuf::from(&*candidate.shown);
            return Some(Err(error));
        }
    };
    let entry_path = request.baseline.map(|baseline| baseline.entry_path(request.project, &candidate.shown));
    let hold = |findings: &mut [crate::outcome::Finding]| {
        if let (Some(baseline), Some(path)) = (request.baseline, &entry_path) {
            Matching::new(baseline).match_file(path, findings);
        }
    };
    let mut fixed = fix_text(
        &text,
        &Subject::of(candidate, elsewhere, request.project),
        request.today,
        request.baseline.is_some(),
        &hold,
    );
    let after = match Text::with_encoding(fixed.source.clone(), text.encoding()).encode() {
        Some(bytes) => bytes,
        None => {
            fixed.blamed.push(Blame::Encoding(text.encoding().name()));
            before.clone()
        }
    };
    Some(Ok(FixedFile { path: candidate.path.clone(), shown: Arc::clone(&candidate.shown), before, after, fixed }))
}

type ReadFile = Option<(Vec<u8>, Text)>;

fn read(candidate: &Candidate) -> Result<ReadFile, FileError> {
    let too_large = std::fs::metadata(&candidate.path).is_ok_and(|file| file.len() > candidate.settings.largest.value);
    if too_large && !candidate.named {
        return Ok(None);
    }
    let bytes = files::read(&candidate.path)?;
    let Ok(text) = candidate.language.decode(bytes.clone()) else { return Ok(None) };
    let generated = !candidate.named && says_generated(text.source());
    Ok((!generated).then_some((bytes, text)))
}

/// Writes one fixed file, unless it has changed since it was read.
///
/// # Errors
/// When it cannot be read again or written, or has changed meanwhile; it is then as it was.
pub fn write(file: &FixedFile) -> Result<(), FileError> {
    let shown = |mut error: FileError| {
        error.path = PathBuf::from(&*file.shown);
        error
    };
    if files::read(&file.path).map_err(shown)? != file.before {
        let cause = std::io::Error::other("it changed while it was being fixed; run fix again");
        return Err(FileError { path: PathBuf::from(&*file.shown), doing: "write", cause });
    }
    files::write(&file.path, &file.after).map_err(shown)
}
