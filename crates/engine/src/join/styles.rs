//! The style that the names of a code base have, where nearly all of a sort have one: found in a sample of its files, which is the same
//! whatever was visited.

use std::path::{Path, PathBuf};
use std::sync::{Mutex, PoisonError};

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_rules::UsualStyle;
use sieve_syntax::language::Language;
use xxhash_rust::xxh3::xxh3_64;

use crate::project::{Project, relative};
use crate::style_counts::{NameHabit, StyleCounts};
use crate::workspace::discover::{of_name, says_generated};
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
    known: Mutex<FxHashMap<Language, Known>>,
}

/// What is known of one language.
#[derive(Debug)]
struct Known {
    /// All files in it.
    files: FxHashSet<PathBuf>,
    /// Those of the sample, each with its names; nothing for one that has changed since.
    sample: Vec<(PathBuf, Option<StyleCounts>)>,
    /// What they come to; nothing after a change.
    habits: Option<Vec<NameHabit>>,
}

impl StyleIndex {
    /// Drops what is known of a file.
    pub(super) fn forget(&self, path: &Path) {
        let mut all = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        let Some(language) = of_name(path) else { return };
        let Some(known) = all.get_mut(&language) else { return };
        if !known.files.contains(path) {
            // One more file makes another sample.
            all.remove(&language);
        } else if let Some((_, counts)) = known.sample.iter_mut().find(|(own, _)| own == path) {
            (*counts, known.habits) = (None, None);
        }
    }

    /// Whether nearly all names of a sort have a style in the code base.
    pub(crate) fn is_usual(&self, project: &Project, language: Language, usual: &UsualStyle) -> bool {
        self.is_usual_in_words(project, language, usual.kind, usual.style.word())
    }

    /// The same by the words that settings use.
    pub(crate) fn is_usual_in_words(&self, project: &Project, language: Language, kind: &str, style: &str) -> bool {
        let mut known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        let is_it = |habit: &NameHabit| habit.kind == kind && habit.style.word() == style && habit.all >= FEWEST;
        if let Some(of_language) = known.get_mut(&language)
            && let Some(habits) = of_language.habits(project, language)
        {
            return habits.iter().any(is_it);
        }
        let mut of_language = Known::of(project, language);
        let answer = of_language.habits(project, language).is_some_and(|habits| habits.iter().any(is_it));
        known.insert(language, of_language);
        answer
    }
}

impl Known {
    /// The sample of the files in a language.
    fn of(project: &Project, language: Language) -> Known {
        let files = walk(&*project.files, &project.root, &project.root, Hidden::Skip).files.into_iter();
        let files: FxHashSet<PathBuf> = files.filter(|path| of_name(path) == Some(language)).collect();
        let key = |path: &PathBuf| xxh3_64(relative(&project.root, path).unwrap_or_default().as_bytes());
        let mut sample: Vec<(u64, &PathBuf)> = files.iter().map(|path| (key(path), path)).collect();
        sample.sort_unstable();
        let sample = sample.into_iter().take(SAMPLE).map(|(_, path)| (path.clone(), None)).collect();
        Known { files, sample, habits: None }
    }

    /// What the names in the sample look like; nothing where a file of it is gone, so that it is another one.
    fn habits(&mut self, project: &Project, language: Language) -> Option<&[NameHabit]> {
        if self.habits.is_none() {
            let mut all = StyleCounts::default();
            for (path, counts) in &mut self.sample {
                if counts.is_none() {
                    if !project.files.is_file(path) {
                        return None;
                    }
                    *counts = Some(counts_of(project, language, path));
                }
                counts.iter().for_each(|counts| all.join(counts));
            }
            self.habits = Some(all.habits());
        }
        self.habits.as_deref()
    }
}

/// The names of one file; none of what is no code of anybody.
fn counts_of(project: &Project, language: Language, path: &Path) -> StyleCounts {
    let mut counts = StyleCounts::default();
    let text = project.files.read(path, LARGEST).ok().and_then(|bytes| language.decode(bytes).ok());
    if let Some(text) = text.filter(|text| !says_generated(text.source())) {
        counts.see(language, &path.to_string_lossy(), &text, &language.parse(&text));
    }
    counts
}
