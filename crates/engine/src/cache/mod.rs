//! Results of earlier runs. An unchanged file costs a check its metadata.
//!
//! A result is used only for the same content, under the same settings, by the same build of this program. What the metadata of
//! a file cannot prove, for instance because it was written a moment before it was read, its content must. The cache is one file
//! for each code base and set of options, written whole beside the old one and then put in its place: runs at the same time do
//! not disturb each other, the last one stays. Whatever is wrong with it, it is left aside without a word.

mod answers;
mod fits;
mod key;
mod part;
mod program;
mod shared;
mod store;
mod stored;

use std::collections::{HashMap, HashSet};
use std::path::PathBuf;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::SystemTime;

use rayon::prelude::*;
use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use xxhash_rust::xxh3::xxh3_128;

use crate::check::load::{bytes_of, text_of};
use crate::check::view::excerpt;
use crate::check::{FileOutcome, FileResult, OneFile};
use crate::files::places;
use crate::files::{FileError, FileStat, Files};
use crate::outcome::Excerpt;
use crate::project::absolute;
use crate::workspace::discover::{Discovery, Search};

pub(crate) use answers::Answers;
use fits::fits;
use key::{SettingsKeys, file_key, run_key};
pub use part::{Part, PartError, Shard};
pub use program::build;
pub use shared::{Access, SharedCache, SharedWork};
use store::Head;
pub(crate) use store::Store;
use stored::Stored;

/// Fewer files than this are sifted sooner than the cache is read.
const WORTH_IT: usize = 24;

/// The results of earlier runs, and those of this one.
pub struct Cache {
    path: PathBuf,
    old: Store,
    /// This run's, by the hash of the file's path.
    new: Mutex<HashMap<u128, (Head, Vec<u8>)>>,
    /// Files seen in this run whose entry stays as it is.
    kept: Mutex<Vec<u128>>,
    covers_all: bool,
    now: SystemTime,
    /// The metadata of the files to sift: they are asked for once, however many questions depend on them.
    stats: Stats,
    settings_keys: Mutex<HashMap<(usize, Language), SettingsKeys>>,
    work: Mutex<Work>,
    /// What a shared cache does not have.
    to_share: Vec<shared::Bundle>,
}

/// What a run did for the files that it looked at.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Work {
    /// Visits of which the result was known.
    pub kept: usize,
    /// Visits of which the result was known but for the rules of packs.
    pub renewed: usize,
    /// Visits by all rules.
    pub sifted: usize,
    /// Of those, the visits of files by themselves, before others have answered.
    pub first: usize,
}

/// What is known of a file from an earlier run.
struct Known<'c> {
    head: &'c Head,
    data: &'c [u8],
    stored: Stored<'c>,
}

/// For which runs results are kept together.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Scope<'s> {
    /// Where they look for files.
    pub(crate) search: Search<'s>,
    /// Whether findings are recognised in other versions of the code.
    pub(crate) identities: bool,
}

/// What earlier runs left.
pub(crate) struct CacheFile {
    path: PathBuf,
    store: Store,
}

impl CacheFile {
    /// Reads what is there for a run; nothing where it is not wanted, would not pay, or has no place.
    pub(crate) fn read(scope: &Scope<'_>) -> Option<CacheFile> {
        let Search { project, paths, .. } = scope.search;
        let is_folder = |path: &PathBuf| project.files.is_folder(&absolute(&project.folder, path));
        if !paths.is_empty() && !paths.iter().any(is_folder) {
            return None;
        }
        let path = places::cache_folder()?.join(format!("{:032x}.sifted", run_key(scope)?));
        let store = Store::read(&path);
        Some(CacheFile { path, store })
    }
}

impl Cache {
    /// The cache for a run; nothing where it would not pay.
    pub(crate) fn open(kept: CacheFile, search: &Search<'_>, discovery: &Discovery) -> Option<Cache> {
        if !Cache::is_worth_it(discovery) {
            return None;
        }
        let covers_all = search.project.folder == search.project.root && search.paths.is_empty();
        Some(Cache { path: kept.path, covers_all, ..Cache::in_memory(kept.store, search, discovery) })
    }

    /// Whether there are enough files for it.
    pub(crate) fn is_worth_it(discovery: &Discovery) -> bool {
        discovery.files.len() >= WORTH_IT
    }

    /// The same for a run over some of the files that its scope has: what it does not meet stays.
    pub(crate) fn over_some(self) -> Cache {
        Cache { covers_all: false, ..self }
    }

    /// The result for a file: the known one if nothing changed, else a new one, which is kept. Where only the rules of packs changed, they
    /// alone are run again.
    pub(crate) fn one_file(&self, run: &OneFile<'_>) -> Result<FileResult, FileError> {
        let stat = self.stats.get(&run.candidate.path).cloned();
        let keys = self.settings_keys(run);
        let file = file_key(run.project, run.candidate, keys.built_in, run.answers);
        let is_current = |known: &Known<'_>| known.stored.is_current(&keys);
        let mut known = self.known(run, file);
        let is_same = |known: &mut Known<'_>| stat.is_some() && known.head.stat == stat && is_current(known);
        if let Some(Known { head, stored, .. }) = known.take_if(is_same)
            && let Some(result) = self.load(run, head, stored, None)
        {
            locked(&self.kept).push(file);
            self.count(|work| work.kept += 1);
            return Ok(result);
        }
        let bytes = match bytes_of(run.candidate, run.project)? {
            Ok(bytes) => bytes,
            Err(cause) => return Ok(FileResult::LeftOut(cause)),
        };
        // What was written while it was read must be checked again.
        let stat = stat.filter(|stat| {
            !stat.is_fresh(self.now) && run.project.files.stat(&run.candidate.path).as_ref() == Some(stat)
        });
        let content = xxh3_128(&bytes);
        if let Some(known) = known.filter(|known| known.head.content == content) {
            let (head, data) = (known.head, known.data);
            if is_current(&known) {
                if let Some(result) = self.load(run, head, known.stored, Some(&bytes)) {
                    self.keep(file, Head { stat, ..head.clone() }, data.to_vec());
                    self.count(|work| work.kept += 1);
                    return Ok(result);
                }
            } else if let Some(result) = self.renewed(run, head, known.stored, &bytes) {
                self.keep_result(run, (file, &keys), (stat, content), &result);
                self.count(|work| work.renewed += 1);
                return Ok(result);
            }
        }
        let result = run.sift_bytes(bytes);
        self.keep_result(run, (file, &keys), (stat, content), &result);
        self.count(|work| {
            work.sifted += 1;
            work.first += usize::from(run.answers.is_none());
        });
        Ok(result)
    }

    fn count(&self, count: impl FnOnce(&mut Work)) {
        count(&mut locked(&self.work));
    }

    /// What was done so far.
    pub(crate) fn work(&self) -> Work {
        *locked(&self.work)
    }

    /// What is known of a file, if it still holds.
    fn known(&self, run: &OneFile<'_>, file: u128) -> Option<Known<'_>> {
        let (head, data) = self.old.get(file)?;
        let stored = Stored::read(data).filter(|stored| stored.holds_on(run.today))?;
        Some(Known { head, data, stored })
    }

    /// A known result with what the rules of packs say now.
    fn renewed(&self, run: &OneFile<'_>, head: &Head, stored: Stored<'_>, bytes: &[u8]) -> Option<FileResult> {
        let whole = OneFile { needs_facts: true, ..*run };
        match self.load(&whole, head, stored.without_house(), Some(bytes))? {
            FileResult::Sifted(outcome) => run.renew_house(outcome, bytes.to_vec()),
            other => Some(other),
        }
    }

    /// A known result in the form of a new one.
    fn load(&self, run: &OneFile<'_>, head: &Head, stored: Stored<'_>, bytes: Option<&[u8]>) -> Option<FileResult> {
        let mut result = stored.into_result(run)?;
        if run.wants.sizes && matches!(&result, FileResult::Sifted(outcome) if outcome.sizes.is_none()) {
            return None;
        }
        // What this machine found and knows by the file's metadata need not be proved again.
        if let (FileResult::Sifted(outcome), Some(bytes), None) = (&result, bytes, &head.stat)
            && !fits(outcome, &run.candidate.language.decode(bytes.to_vec()).ok()?)
        {
            return None;
        }
        if let FileResult::Sifted(outcome) = &mut result
            && run.wants.excerpts
            && !outcome.findings.is_empty()
        {
            add_excerpts(run, head, outcome, bytes)?;
        }
        Some(result)
    }

    fn keep(&self, file: u128, head: Head, data: Vec<u8>) {
        locked(&self.new).insert(file, (head, data));
    }

    fn keep_result(
        &self,
        run: &OneFile<'_>,
        (file, keys): (u128, &SettingsKeys),
        (stat, content): (Option<FileStat>, u128),
        result: &FileResult,
    ) {
        let stored = Stored::of(result, run, keys);
        if let Some(data) = stored.and_then(|stored| stored.write()) {
            self.keep(file, Head { stat, content, start: 0, length: 0 }, data);
        }
    }

    /// The keys of the settings in force for a file; worked out once for each set of settings and language.
    fn settings_keys(&self, run: &OneFile<'_>) -> SettingsKeys {
        let (settings, language) = (&run.candidate.settings, run.candidate.language);
        let mut keys = locked(&self.settings_keys);
        *keys
            .entry((Arc::as_ptr(settings) as usize, language))
            .or_insert_with(|| SettingsKeys::of(settings, language, run.project, run.today))
    }

    /// A cache of what is in memory, whatever the number of files.
    pub(crate) fn in_memory(store: Store, search: &Search<'_>, discovery: &Discovery) -> Cache {
        Cache { old: store, stats: stats_of(&*search.project.files, discovery), ..Cache::of_nothing() }
    }

    fn of_nothing() -> Cache {
        Cache {
            old: Store::default(),
            path: PathBuf::new(),
            new: Mutex::default(),
            kept: Mutex::default(),
            covers_all: false,
            now: SystemTime::now(),
            stats: Stats::default(),
            settings_keys: Mutex::default(),
            work: Mutex::default(),
            to_share: Vec::new(),
        }
    }

    /// What the run used or made, without what holds on this machine alone.
    fn met(&self) -> Vec<(u128, Head, Vec<u8>)> {
        let new = locked(&self.new).keys().copied().collect::<Vec<u128>>();
        let kept = locked(&self.kept);
        new.iter().chain(&*kept).filter_map(|key| self.carried(*key)).collect()
    }

    /// One of those.
    fn carried(&self, key: u128) -> Option<(u128, Head, Vec<u8>)> {
        let carried = |(head, data): (&Head, &[u8])| (key, Head { stat: None, ..head.clone() }, data.to_vec());
        let new = locked(&self.new);
        let made = new.get(&key).map(|(head, data)| (head, data.as_slice()));
        made.or_else(|| self.old.get(key)).map(carried)
    }

    /// What was in memory together with what is new. Where the run went over everything, what it did not meet is dropped.
    pub(crate) fn into_store(self, over_everything: bool) -> Store {
        let new = self.new.into_inner().unwrap_or_else(PoisonError::into_inner);
        let mut met: HashSet<u128> = new.keys().copied().collect();
        met.extend(self.kept.into_inner().unwrap_or_else(PoisonError::into_inner));
        let mut store = self.old;
        store.add(new);
        if over_everything {
            store.keep_only(&met);
        }
        store
    }

    /// Writes what is new, if anything is. That it cannot be written is no failure: the next run takes longer.
    pub(crate) fn save(self) {
        let new = self.new.into_inner().unwrap_or_else(PoisonError::into_inner);
        if new.is_empty() {
            return;
        }
        let mut kept = self.kept.into_inner().unwrap_or_else(PoisonError::into_inner);
        if !self.covers_all {
            kept = self.old.keys().filter(|key| !new.contains_key(key)).collect();
        }
        let _ = self.old.write(&self.path, &new, &kept);
    }
}

fn locked<T>(part: &Mutex<T>) -> MutexGuard<'_, T> {
    part.lock().unwrap_or_else(PoisonError::into_inner)
}

/// Metadata by path.
pub(crate) type Stats = FxHashMap<PathBuf, FileStat>;

fn stats_of(files: &dyn Files, discovery: &Discovery) -> Stats {
    let stat = |path: &PathBuf| Some((path.clone(), files.stat(path)?));
    discovery.files.par_iter().filter_map(|candidate| stat(&candidate.path)).collect::<Vec<_>>().into_iter().collect()
}

/// Adds the lines around each finding, from the file itself.
fn add_excerpts(run: &OneFile<'_>, head: &Head, outcome: &mut FileOutcome, bytes: Option<&[u8]>) -> Option<()> {
    let bytes = match bytes {
        Some(bytes) => bytes.to_vec(),
        None => bytes_of(run.candidate, run.project).ok()?.ok()?,
    };
    if xxh3_128(&bytes) != head.content {
        return None;
    }
    let text = text_of(run.candidate, bytes).ok()?;
    for finding in &mut outcome.findings {
        let made: Excerpt = excerpt(&text, finding.span, finding.fix.as_ref());
        finding.excerpt = Some(Box::new(made));
    }
    Some(())
}
