//! The style that the names of a code base have, where nearly all of a sort have one: found in a sample of its files, which is the same
//! whatever was visited.

use std::path::PathBuf;
use std::sync::{Mutex, PoisonError};

use rustc_hash::FxHashMap;
use sieve_rules::UsualStyle;
use sieve_syntax::language::Language;
use xxhash_rust::xxh3::xxh3_64;

use crate::project::{Project, relative};
use crate::style_counts::{NameHabit, StyleCounts};
use crate::workspace::discover::{of_extension, says_generated};
use crate::workspace::walk::{Hidden, walk};

/// So many files tell for all.
const SAMPLE: usize = 64;

/// Larger files are left out of the sample, in bytes.
const LARGEST: u64 = 256 << 10;

/// Fewer names are no habit of a whole code base.
const FEWEST: usize = 40;

/// What is known of the styles of names, once somebody asks for a language.
#[derive(Debug, Default)]
pub(crate) struct StyleIndex {
    known: Mutex<FxHashMap<Language, Vec<NameHabit>>>,
}

impl StyleIndex {
    /// Drops what is known: a file is another one now.
    pub(super) fn forget(&self) {
        self.known.lock().unwrap_or_else(PoisonError::into_inner).clear();
    }

    /// Whether nearly all names of a sort have a style in the code base.
    pub(crate) fn is_usual(&self, project: &Project, language: Language, usual: &UsualStyle) -> bool {
        self.is_usual_in_words(project, language, usual.kind, usual.style.word())
    }

    /// The same by the words that settings use.
    pub(crate) fn is_usual_in_words(&self, project: &Project, language: Language, kind: &str, style: &str) -> bool {
        let mut known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        let habits = known.entry(language).or_insert_with(|| habits(project, language));
        let is_it = |habit: &NameHabit| habit.kind == kind && habit.style.word() == style && habit.all >= FEWEST;
        habits.iter().any(is_it)
    }
}

/// What the names in a sample of the files in a language look like.
fn habits(project: &Project, language: Language) -> Vec<NameHabit> {
    let mut files: Vec<(u64, PathBuf)> = walk(&*project.files, &project.root, &project.root, Hidden::Skip)
        .files
        .into_iter()
        .filter(|path| of_extension(path) == Some(language))
        .map(|path| (xxh3_64(relative(&project.root, &path).unwrap_or_default().as_bytes()), path))
        .collect();
    files.sort_unstable();
    let mut counts = StyleCounts::default();
    for (_, path) in files.into_iter().take(SAMPLE) {
        let Ok(bytes) = project.files.read(&path, LARGEST) else { continue };
        let Some(text) = language.decode(bytes).ok().filter(|text| !says_generated(text.source())) else { continue };
        counts.see(language, &text, &language.parse(&text));
    }
    counts.habits()
}
