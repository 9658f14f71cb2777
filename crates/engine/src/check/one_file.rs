//! One file of a code base: read, and sifted unless it is to be left out.

use jiff::civil::Date;

use super::{FileOutcome, house, load, sift_tree};
use crate::files::FileError;
use crate::join::{Facts, Index};
use crate::outcome::LeftOut;
use crate::project::Project;
use crate::subject::{Subject, Wants};
use crate::workspace::discover::Candidate;

/// What became of a file.
pub(crate) enum FileResult {
    Sifted(FileOutcome),
    LeftOut(LeftOut),
    Failed(FileError),
}

impl FileResult {
    pub(crate) fn facts(&self) -> Option<&Facts> {
        match self {
            FileResult::Sifted(outcome) => Some(&outcome.facts),
            FileResult::LeftOut(_) | FileResult::Failed(_) => None,
        }
    }

    /// How many findings it has.
    pub(crate) fn findings(&self) -> usize {
        match self {
            FileResult::Sifted(outcome) => outcome.findings.len(),
            FileResult::LeftOut(_) | FileResult::Failed(_) => 0,
        }
    }

    pub(crate) fn facts_mut(&mut self) -> Option<&mut Facts> {
        match self {
            FileResult::Sifted(outcome) => Some(&mut outcome.facts),
            FileResult::LeftOut(_) | FileResult::Failed(_) => None,
        }
    }

    /// Why it could not be read, if that is so.
    pub(crate) fn failed(self) -> Option<FileError> {
        match self {
            FileResult::Failed(error) => Some(error),
            FileResult::Sifted(_) | FileResult::LeftOut(_) => None,
        }
    }
}

/// One file with all that sifting it takes.
pub(crate) struct OneFile<'o> {
    pub(crate) project: &'o Project,
    pub(crate) today: Date,
    pub(crate) candidate: &'o Candidate,
    pub(crate) index: &'o Index,
    pub(crate) wants: Wants,
    /// What tells the answers of other files from other ones, where they have been asked.
    pub(crate) answers: Option<u128>,
    /// Whether others will be asked by its facts.
    pub(crate) needs_facts: bool,
    /// Whether it is the only one that is looked at now.
    pub(crate) is_alone: bool,
}

impl OneFile<'_> {
    /// Reads it and sifts it, unless it is to be left out.
    pub(crate) fn sift(&self) -> Result<FileResult, FileError> {
        match load::bytes_of(self.candidate, self.project)? {
            Err(cause) => Ok(FileResult::LeftOut(cause)),
            Ok(bytes) => Ok(self.sift_bytes(bytes)),
        }
    }

    fn subject(&self) -> Subject<'_> {
        let subject = Subject::of(self.candidate, self.index, self.project);
        Subject { asks_others: self.answers.is_some(), is_alone: self.is_alone, ..subject }
    }

    /// Runs the rules of packs once more over a file that is known but for them; nothing where it is not what it was.
    pub(crate) fn renew_house(&self, mut known: FileOutcome, bytes: Vec<u8>) -> Option<FileResult> {
        let text = load::text_of(self.candidate, bytes).ok()?;
        let tree = load::tree_of(self.candidate, &text).ok()?;
        let subject = self.subject();
        house::renew_house(&mut known, (&text, &tree), &subject, self.wants, self.today);
        Some(FileResult::Sifted(known))
    }

    /// Sifts a file whose bytes are known.
    pub(crate) fn sift_bytes(&self, bytes: Vec<u8>) -> FileResult {
        let text = match load::text_of(self.candidate, bytes) {
            Err(cause) => return FileResult::LeftOut(cause),
            Ok(text) => text,
        };
        let subject = self.subject();
        match load::tree_of(self.candidate, &text) {
            Err(cause) => FileResult::LeftOut(cause),
            Ok(tree) => FileResult::Sifted(sift_tree(&text, &tree, &subject, self.wants, self.today)),
        }
    }
}
