//! Files that note what they are asked, so that a later run knows whether they would answer the same.

use std::ffi::OsString;
use std::hash::{Hash, Hasher};
use std::io;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::SystemTime;

use rayon::prelude::*;
use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};
use xxhash_rust::xxh3::Xxh3Default;

use super::{EntryKind, FileError, FileStat, Files};

/// The files of one run. What is in a folder is asked of the system once.
#[derive(Debug)]
pub(crate) struct Recorder {
    below: Arc<dyn Files>,
    listed: Mutex<FxHashMap<PathBuf, Arc<[Entry]>>>,
    /// What was asked, while that is noted.
    notes: Mutex<Option<Notes>>,
}

type Entry = (OsString, EntryKind);

#[derive(Debug, Default)]
struct Notes {
    asked: FxHashMap<(Question, PathBuf), u64>,
    /// Something was asked of which no later run can know whether it is still so.
    is_open: bool,
}

/// What is asked of a path.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
enum Question {
    /// What a file holds; its metadata answer for it.
    Content,
    Kind,
    TargetKind,
    Size,
    Names,
    Stat,
    Real,
}

/// What files were asked, and digests of their answers.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Record(Vec<(Question, String, u64)>);

impl Record {
    /// Whether all answers would be the same now.
    pub(crate) fn still_holds(&self, files: &Recorder) -> bool {
        self.0.par_iter().all(|(question, path, before)| files.answer(*question, Path::new(path)) == Some(*before))
    }
}

impl Recorder {
    pub(crate) fn over(below: Arc<dyn Files>) -> Recorder {
        Recorder { below, listed: Mutex::default(), notes: Mutex::default() }
    }

    /// Does some work, and notes what it asks; no record of work whose questions cannot be put again.
    pub(crate) fn record<T>(&self, work: impl FnOnce() -> T) -> (T, Option<Record>) {
        *self.notes() = Some(Notes::default());
        let done = work();
        let notes = self.notes().take();
        (done, notes.and_then(Notes::into_record))
    }

    fn notes(&self) -> MutexGuard<'_, Option<Notes>> {
        self.notes.lock().unwrap_or_else(PoisonError::into_inner)
    }

    fn note(&self, question: Question, path: &Path) {
        if self.notes().as_ref().is_some_and(|notes| !notes.is_open) {
            let answer = self.answer(question, path);
            self.notes().iter_mut().for_each(|notes| notes.add(question, path, answer));
        }
    }

    /// A digest of the answer to a question; nothing where a later run cannot know whether it is still so.
    fn answer(&self, question: Question, path: &Path) -> Option<u64> {
        Some(match question {
            Question::Content => {
                let stat = self.below.stat(path);
                let is_provable = match &stat {
                    Some(stat) => !stat.is_fresh(SystemTime::now()),
                    None => self.below.kind(path).is_err(),
                };
                return is_provable.then(|| digest(stat));
            }
            Question::Names => match self.entries(path) {
                Some(entries) => digest(Some(entries)),
                None => return self.below.kind(path).is_err().then(|| digest(None::<()>)),
            },
            Question::Kind => digest(self.below.kind(path).ok()),
            Question::TargetKind => digest(self.below.target_kind(path).ok()),
            Question::Size => digest(self.below.size(path)),
            Question::Stat => digest(self.below.stat(path)),
            Question::Real => digest(self.below.real(path).ok()),
        })
    }

    /// What is in a folder, in order; nothing where some of it cannot be known.
    fn entries(&self, folder: &Path) -> Option<Arc<[Entry]>> {
        let listed = || self.listed.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(known) = listed().get(folder) {
            return Some(Arc::clone(known));
        }
        let mut entries: Vec<Entry> = self.below.list(folder).ok()?.into_iter().collect::<io::Result<_>>().ok()?;
        entries.sort_unstable_by(|one, other| one.0.cmp(&other.0));
        Some(Arc::clone(listed().entry(folder.to_path_buf()).or_insert(entries.into())))
    }
}

impl Notes {
    fn add(&mut self, question: Question, path: &Path, answer: Option<u64>) {
        let before = answer.and_then(|answer| self.asked.insert((question, path.to_path_buf()), answer));
        self.is_open |= answer.is_none() || before.is_some_and(|before| Some(before) != answer);
    }

    fn into_record(self) -> Option<Record> {
        let one = |((question, path), answer): ((Question, PathBuf), u64)| {
            Some((question, path.into_os_string().into_string().ok()?, answer))
        };
        let mut all: Vec<_> = self.asked.into_iter().map(one).collect::<Option<_>>()?;
        all.sort_unstable();
        (!self.is_open).then_some(Record(all))
    }
}

fn digest(answer: impl Hash) -> u64 {
    let mut hasher = Xxh3Default::new();
    answer.hash(&mut hasher);
    hasher.finish()
}

impl Files for Recorder {
    fn read(&self, path: &Path, limit: u64) -> Result<Vec<u8>, FileError> {
        let content = self.below.read(path, limit);
        // Asked after it was read: a file that was written meanwhile is too fresh to be noted.
        self.note(Question::Content, path);
        content
    }

    fn read_start(&self, path: &Path, limit: usize) -> Result<Vec<u8>, FileError> {
        let content = self.below.read_start(path, limit);
        self.note(Question::Content, path);
        content
    }

    fn kind(&self, path: &Path) -> io::Result<EntryKind> {
        self.note(Question::Kind, path);
        self.below.kind(path)
    }

    fn target_kind(&self, path: &Path) -> io::Result<EntryKind> {
        self.note(Question::TargetKind, path);
        self.below.target_kind(path)
    }

    fn size(&self, path: &Path) -> u64 {
        self.note(Question::Size, path);
        self.below.size(path)
    }

    fn list(&self, folder: &Path) -> io::Result<Vec<io::Result<(OsString, EntryKind)>>> {
        self.note(Question::Names, folder);
        match self.entries(folder) {
            Some(entries) => Ok(entries.iter().cloned().map(Ok).collect()),
            None => self.below.list(folder),
        }
    }

    fn stat(&self, path: &Path) -> Option<FileStat> {
        self.note(Question::Stat, path);
        self.below.stat(path)
    }

    fn real(&self, path: &Path) -> io::Result<PathBuf> {
        self.note(Question::Real, path);
        self.below.real(path)
    }

    fn obeys_ignore_lists(&self) -> bool {
        self.below.obeys_ignore_lists()
    }
}

#[cfg(test)]
mod tests {
    use super::super::{Disk, Overlay};
    use super::*;

    /// A folder with a file that was written long ago.
    fn folder() -> (tempfile::TempDir, PathBuf) {
        let folder = tempfile::tempdir().expect("a folder");
        let path = folder.path().join("tides.py");
        write(&path, "low = 1\n", 60);
        (folder, path)
    }

    fn write(path: &Path, text: &str, age: u64) {
        std::fs::write(path, text).expect("a file");
        let time = SystemTime::now() - std::time::Duration::from_secs(age);
        let file = std::fs::File::options().append(true).open(path).expect("the file");
        file.set_modified(time).expect("a time");
    }

    fn on_disk() -> Recorder {
        Recorder::over(Arc::new(Disk))
    }

    #[test]
    fn a_record_holds_until_an_answer_changes() {
        let (folder, path) = folder();
        let ask = |files: &Recorder| (files.list(folder.path()).map(|all| all.len()).ok(), files.is_file(&path));
        let files = on_disk();
        let (answers, record) = files.record(|| ask(&files));
        assert_eq!(answers, (Some(1), true));
        let record = record.expect("a record");
        assert_eq!(record.0.len(), 2);
        assert!(record.still_holds(&on_disk()));
        write(&folder.path().join("quays.py"), "", 60);
        assert!(record.still_holds(&files), "a run lists a folder once");
        assert!(!record.still_holds(&on_disk()), "another name is there");
        std::fs::remove_file(folder.path().join("quays.py")).expect("removed");
        assert!(record.still_holds(&on_disk()));
        std::fs::remove_file(&path).expect("removed");
        assert!(!record.still_holds(&on_disk()));
    }

    #[test]
    fn what_is_not_asked_meanwhile_is_not_noted() {
        let (folder, path) = folder();
        let files = on_disk();
        let _ = files.list(folder.path());
        let (_, record) = files.record(|| ());
        let _ = files.kind(&path);
        assert_eq!(record, Some(Record::default()));
    }

    #[test]
    fn what_was_written_a_moment_ago_cannot_be_proved() {
        let (folder, path) = folder();
        let files = on_disk();
        let (_, record) = files.record(|| files.read(&path, 100).is_ok());
        assert_eq!(record, None, "its status changed just now");
        let (_, record) = files.record(|| files.read(&folder.path().join("none.py"), 100).is_ok());
        assert!(record.is_some_and(|record| record.still_holds(&files)), "what is not there is not fresh");
    }

    #[test]
    fn contents_without_metadata_cannot_be_proved() {
        let (_folder, path) = folder();
        let mut overlay = Overlay::over(Arc::new(Disk));
        overlay.set(path.clone(), *b"low = 2\n");
        let files = Recorder::over(Arc::new(overlay));
        let (read, record) = files.record(|| files.read(&path, 100).expect("bytes"));
        assert_eq!((read.as_slice(), record), (&b"low = 2\n"[..], None));
    }
}
