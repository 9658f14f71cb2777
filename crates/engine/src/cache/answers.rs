//! What other files said to each file of a run: the same as long as no file changes, and nothing else that was asked for it.

use rayon::prelude::*;
use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};
use xxhash_rust::xxh3::{Xxh3Default, xxh3_128};

use super::key::{SettingsKeys, file_key};
use super::store::Head;
use super::{Cache, locked};
use crate::check::OneFile;
use crate::files::{Record, Recorder};
use crate::workspace::discover::Search;

/// The answers of a run.
#[derive(Debug, Serialize, Deserialize)]
struct KeptAnswers {
    /// What tells the files of the run from others: their paths, contents and settings.
    files: u128,
    /// What was asked of the disk for them.
    record: Record,
    /// The files to which others had something to say, by their places in the run, and digests of that.
    answers: Vec<(u32, u128)>,
}

/// What others say to the files of a run, by their places in it.
pub(crate) type Answers = FxHashMap<usize, u128>;

/// What tells a file, visited by itself, from others, and what its settings decide over.
pub(crate) type FirstKey = (u128, SettingsKeys);

impl Cache {
    /// What other files would say to those of a run, if an earlier one has asked the same.
    pub(crate) fn known_answers(
        &self,
        search: &Search<'_>,
        (visits, keys): (&[OneFile<'_>], &[FirstKey]),
        files: &Recorder,
    ) -> Option<Answers> {
        let (_, data) = self.old.get(key(search))?;
        let kept: KeptAnswers = postcard::from_bytes(data).ok()?;
        if self.files_key(visits, keys)? != kept.files || !kept.record.still_holds(files) {
            return None;
        }
        // A later run may have to ask again.
        locked(&self.kept).extend(keys.iter().map(|(file, _)| *file).chain([key(search)]));
        Some(kept.answers.into_iter().map(|(place, answers)| (place as usize, answers)).collect())
    }

    /// Keeps what other files said to those of a run, where a later one can know that they would say the same.
    pub(crate) fn keep_answers(
        &self,
        search: &Search<'_>,
        (visits, keys): (&[OneFile<'_>], &[FirstKey]),
        record: Record,
        answers: &[(usize, u128)],
    ) {
        let Some(files) = self.files_key(visits, keys) else { return };
        let answers = answers.iter().map(|(place, answers)| (*place as u32, *answers)).collect();
        if let Ok(data) = postcard::to_stdvec(&KeptAnswers { files, record, answers }) {
            let (key, content) = (key(search), xxh3_128(&data));
            if self.old.get(key).is_some_and(|(head, _)| head.content == content) {
                locked(&self.kept).push(key);
            } else {
                self.keep(key, Head { stat: None, content, start: 0, length: 0 }, data);
            }
        }
    }

    /// The key of each file, visited by itself.
    pub(crate) fn first_keys(&self, visits: &[OneFile<'_>]) -> Vec<FirstKey> {
        let keys = |visit: &OneFile<'_>| {
            let settings = self.settings_keys(visit);
            (file_key(visit.project, visit.candidate, settings.built_in, None), settings)
        };
        visits.par_iter().map(keys).collect()
    }

    /// What tells the files of a run from others; nothing where their metadata do not prove what they hold.
    fn files_key(&self, visits: &[OneFile<'_>], keys: &[FirstKey]) -> Option<u128> {
        let mut hasher = Xxh3Default::new();
        for (visit, (file, settings)) in visits.iter().zip(keys) {
            let content = self.proven_content(visit, *file)?;
            [*file, content, settings.house, settings.names].iter().for_each(|part| hasher.update(&part.to_le_bytes()));
        }
        // All visits of a run are on the same day.
        visits.first().into_iter().for_each(|visit| hasher.update(visit.today.to_string().as_bytes()));
        Some(hasher.digest128())
    }

    /// The hash of what a file holds, as its metadata prove.
    fn proven_content(&self, visit: &OneFile<'_>, file: u128) -> Option<u128> {
        let stat = self.stats.get(&visit.candidate.path)?;
        // A file that is left out for its size brings no facts, and a join that reads it all the same records that.
        if !visit.candidate.named && stat.size() > visit.candidate.settings.largest.value {
            return Some(0);
        }
        let new = locked(&self.new);
        let head = new.get(&file).map(|(head, _)| head).or_else(|| Some(self.old.get(file)?.0))?;
        (head.stat.as_ref() == Some(stat)).then_some(head.content)
    }
}

/// Under what the answers of runs over the same paths are kept.
fn key(search: &Search<'_>) -> u128 {
    xxh3_128(format!("answers\0{:?}\0{:?}", search.project.folder, search.paths).as_bytes())
}
