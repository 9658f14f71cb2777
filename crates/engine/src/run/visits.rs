//! The visits of a run: each file by itself, and once more those to which it makes a difference what others say.

use rayon::prelude::*;

use super::Request;
use crate::cache::{Answers, Cache};
use crate::check::{FileResult, OneFile};
use crate::files::Recorder;
use crate::join::{self, Index};
use crate::outcome::LeftOut;
use crate::subject::Wants;
use crate::workspace::discover::{Candidate, Discovery};
use crate::workspace::shares::in_shares;

/// The files of a run, to be visited.
#[derive(Clone, Copy)]
pub(super) struct Visits<'v> {
    pub(super) request: &'v Request<'v>,
    pub(super) index: &'v Index,
    pub(super) files: &'v [Candidate],
}

/// Visits all files, and once more those to which it makes a difference what others say.
pub(crate) fn visit_and_answer(
    request: &Request<'_>,
    index: &Index,
    discovery: &Discovery,
    cache: &mut Cache,
) -> Vec<FileResult> {
    Visits { request, index, files: &discovery.files }.with_answers(Some(cache))
}

impl Visits<'_> {
    pub(super) fn with_answers(self, mut cache: Option<&mut Cache>) -> Vec<FileResult> {
        let mut results = self.by_themselves(cache.as_deref_mut());
        let answers = self.ask_others(&mut results);
        if let Some((cache, shared)) = cache.as_mut().zip(self.request.shared) {
            cache.fetch(shared, &answers.iter().map(|answered| self.second(answered)).collect::<Vec<OneFile<'_>>>());
        }
        self.again(&answers, &mut results, cache.as_deref());
        results
    }

    /// Each file by itself, with what other machines have found.
    pub(super) fn by_themselves(self, cache: Option<&mut Cache>) -> Vec<FileResult> {
        let Some(cache) = cache else { return self.each(None) };
        self.request.shared.into_iter().for_each(|shared| cache.fetch(shared, &self.first()));
        self.each(Some(cache))
    }

    /// Each file with what others say to it; what they said in an earlier run is taken where they would say the same.
    pub(super) fn as_before(self, cache: &Cache, files: &Recorder) -> Vec<FileResult> {
        let (search, first) = (self.request.search(), self.first());
        let keys = cache.first_keys(&first);
        if let Some(answers) = cache.known_answers(&search, (&first, &keys), files) {
            return self.knowing(&answers, cache);
        }
        let mut results = self.each(Some(cache));
        let (answers, record) = files.record(|| self.ask_others(&mut results));
        if let Some(record) = record {
            cache.keep_answers(&search, (&first, &keys), record, &answers);
        }
        self.again(&answers, &mut results, Some(cache));
        results
    }

    /// Each file by itself.
    fn each(self, cache: Option<&Cache>) -> Vec<FileResult> {
        self.visit_all(cache, |_, candidate| self.one(candidate))
    }

    /// Each file with what others say to it.
    fn knowing(self, answers: &Answers, cache: &Cache) -> Vec<FileResult> {
        self.visit_all(Some(cache), |place, candidate| OneFile {
            answers: answers.get(&place).copied(),
            needs_facts: false,
            ..self.one(candidate)
        })
    }

    fn visit_all<'f>(
        &'f self,
        cache: Option<&Cache>,
        visit: impl Fn(usize, &'f Candidate) -> OneFile<'f> + Sync,
    ) -> Vec<FileResult> {
        let progress = self.request.progress;
        progress.start(self.files.len());
        let one = |(place, candidate): (usize, &'f Candidate)| {
            if progress.is_cancelled() {
                return FileResult::LeftOut(LeftOut::Skipped);
            }
            let result = result_of(&visit(place, candidate), cache);
            progress.step();
            result
        };
        in_shares(self.files).enumerate().map(one).collect()
    }

    /// The files to which it makes a difference what others say, by their places, and digests of that. Their facts are used up.
    fn ask_others(self, results: &mut [FileResult]) -> Vec<(usize, u128)> {
        for (candidate, result) in self.files.iter().zip(&mut *results) {
            if let Some(facts) = result.facts_mut() {
                self.index.know(self.request.project, candidate, facts);
            }
        }
        self.index.expect(results.iter().filter_map(FileResult::facts));
        let ask = |(place, (candidate, result)): (usize, (&Candidate, &mut FileResult))| {
            let facts = std::mem::take(result.facts_mut()?);
            Some((place, join::answers(self.index, self.request.project, candidate, &facts)?))
        };
        in_shares(self.files).zip(results).enumerate().filter_map(ask).collect()
    }

    /// Visits those once more, with the answers at hand.
    fn again(self, answers: &[(usize, u128)], results: &mut [FileResult], cache: Option<&Cache>) {
        let again = |answered: &(usize, u128)| (answered.0, result_of(&self.second(answered), cache));
        let answered: Vec<(usize, FileResult)> = in_shares(answers).map(again).collect();
        for (place, result) in answered {
            results[place] = result;
        }
    }

    fn first(&self) -> Vec<OneFile<'_>> {
        self.files.iter().map(|file| self.one(file)).collect()
    }

    fn second(&self, (place, answers): &(usize, u128)) -> OneFile<'_> {
        OneFile { answers: Some(*answers), needs_facts: false, ..self.one(&self.files[*place]) }
    }

    fn one<'f>(&'f self, candidate: &'f Candidate) -> OneFile<'f> {
        OneFile { is_alone: self.files.len() == 1, ..one_file(self.request, candidate, self.index) }
    }
}

/// A file of a run, of which others have not been asked yet.
pub(super) fn one_file<'o>(request: &'o Request<'o>, candidate: &'o Candidate, index: &'o Index) -> OneFile<'o> {
    let wants = Wants { identities: request.needs_identities(), ..request.wants };
    OneFile {
        project: request.project,
        today: request.today,
        candidate,
        index,
        wants,
        answers: None,
        needs_facts: true,
        is_alone: false,
    }
}

/// Sifts a file while others are asked, without knowing whether their answers matter.
pub(crate) fn sift_now(request: &Request<'_>, candidate: &Candidate, index: &Index) -> FileResult {
    result_of(&OneFile { answers: Some(0), is_alone: true, ..one_file(request, candidate, index) }, None)
}

fn result_of(file: &OneFile<'_>, cache: Option<&Cache>) -> FileResult {
    let result = match cache {
        Some(cache) => cache.one_file(file),
        None => file.sift(),
    };
    result.unwrap_or_else(FileResult::Failed)
}

#[cfg(test)]
mod tests {
    use std::collections::BTreeMap;
    use std::ffi::OsString;
    use std::io;
    use std::path::{Path, PathBuf};
    use std::sync::Arc;
    use std::time::Duration;

    use proptest::prelude::*;

    use super::*;
    use crate::cache::Store;
    use crate::files::{Disk, EntryKind, FileError, FileStat, Files, Overlay};
    use crate::project::Project;
    use crate::run::{Unwatched, gather};
    use crate::settings::{Overrides, SettingsTree};
    use crate::workspace::discover::discover;

    /// Files that are nowhere on a disk, each written at a time of its own long ago.
    #[derive(Debug, Clone, Default)]
    struct Dated {
        contents: BTreeMap<PathBuf, &'static str>,
        written: BTreeMap<PathBuf, u64>,
        clock: u64,
    }

    impl Dated {
        fn set(&mut self, path: PathBuf, content: Option<&'static str>) {
            self.clock += 1;
            self.written.insert(path.clone(), self.clock);
            match content {
                Some(content) => drop(self.contents.insert(path, content)),
                None => drop(self.contents.remove(&path)),
            }
        }

        fn overlay(&self) -> Overlay {
            let mut overlay = Overlay::over(Arc::new(Disk));
            self.contents.iter().for_each(|(path, content)| overlay.set(path.clone(), content.as_bytes()));
            overlay
        }
    }

    impl Files for Dated {
        fn read(&self, path: &Path, limit: u64) -> Result<Vec<u8>, FileError> {
            self.overlay().read(path, limit)
        }

        fn read_start(&self, path: &Path, limit: usize) -> Result<Vec<u8>, FileError> {
            self.overlay().read_start(path, limit)
        }

        fn kind(&self, path: &Path) -> io::Result<EntryKind> {
            self.overlay().kind(path)
        }

        fn target_kind(&self, path: &Path) -> io::Result<EntryKind> {
            self.overlay().target_kind(path)
        }

        fn size(&self, path: &Path) -> u64 {
            self.overlay().size(path)
        }

        fn list(&self, folder: &Path) -> io::Result<Vec<io::Result<(OsString, EntryKind)>>> {
            self.overlay().list(folder)
        }

        fn stat(&self, path: &Path) -> Option<FileStat> {
            let size = self.contents.get(path)?.len() as u64;
            Some(FileStat::at(size, Duration::from_secs(*self.written.get(path)?)))
        }

        fn real(&self, path: &Path) -> io::Result<PathBuf> {
            self.overlay().real(path)
        }

        fn obeys_ignore_lists(&self) -> bool {
            true
        }
    }

    /// What a run says of the files as they are, with what earlier runs have left, and whether it knew all answers.
    fn run(root: &Path, files: &Dated, store: &mut Store, knows: bool) -> (String, bool) {
        let recorder = Arc::new(Recorder::over(Arc::new(files.clone())));
        let project = Project::at(root, root).with_files(Arc::clone(&recorder) as Arc<dyn Files>);
        let settings = SettingsTree::new(&project, None, Overrides::default()).expect("settings");
        let request = Request {
            project: &project,
            settings: &settings,
            paths: &[],
            baseline: None,
            only_changes: None,
            wants: Wants::default(),
            cache: true,
            shared: None,
            today: crate::day_named("2027-03-01").expect("a day"),
            threads: Some(1),
            progress: &Unwatched,
        };
        let discovery = discover(&request.search()).expect("files");
        let index = Index::default();
        let visits = Visits { request: &request, index: &index, files: &discovery.files };
        let cache = Cache::in_memory(std::mem::take(store), &request.search(), &discovery);
        let first = visits.first();
        let keys = cache.first_keys(&first);
        let known = cache.known_answers(&request.search(), (&first, &keys), &recorder).is_some();
        let results = if knows { visits.as_before(&cache, &recorder) } else { visits.with_answers(None) };
        *store = cache.into_store(true);
        let outcome = gather(&request, discovery, results).expect("an outcome").outcome;
        (format!("{:#?} {:?} {:?}", outcome.findings, outcome.unsure, outcome.left_out), known)
    }

    /// Files and what may be in them: what others say decides over findings in most.
    const CONTENTS: &[(&str, &[&str])] = &[
        ("fares.py", &["def fare(zone):\n    return zone\n", "def fare(zone, day):\n    return zone\n", "TIDE = 1\n"]),
        (
            "board.py",
            &["from fares import fare\n\nfare(1)\n", "import fares\n", "from quays import TIDE\n\nprint(TIDE)\n"],
        ),
        ("quays/__init__.py", &["", "TIDE = 2\n", "from fares import fare\n"]),
        (
            "quays/north.py",
            &["from . import south\n", "from .south import low\n\nlow(1, 2)\n", "def _unused():\n    return 1\n"],
        ),
        ("quays/south.py", &["def low(day):\n    return day\n", "low = 3\n", "from north import _unused\n"]),
        ("left/out.py", &["import board\n", "import fares\n\nfares.fare(1)\n", "def low():\n    return 1\n"]),
        (
            "large.py",
            &[
                "import fares\n\nfares.fare(1)\n# so long that it is left out, whatever it says of quays, boats and tides\n",
                "import fares\n",
            ],
        ),
        ("left.js", &["export function low() {}\n", "low();\n", ""]),
        ("desk.js", &["import { low } from \"./left\";\n\nlow();\n", "import \"./none.js\";\n", ""]),
    ];

    fn folder() -> (tempfile::TempDir, PathBuf, Dated) {
        let folder = tempfile::tempdir().expect("a folder");
        let root = folder.path().canonicalize().expect("a path");
        let mut files = Dated::default();
        files.set(root.join("sieve.toml"), Some("mesh = \"fine\"\n\n[files]\nlargest = 80\nskip = [\"left/**\"]\n"));
        (folder, root, files)
    }

    #[test]
    fn answers_are_kept_as_long_as_nothing_changes() {
        let (_folder, root, mut files) = folder();
        files.set(root.join("left/fares.py"), Some("def fare(zone):\n    return zone\n"));
        files.set(root.join("board.py"), Some("from left.fares import fare\n\nfare(1)\n"));
        let mut store = Store::default();
        let (cold, known) = run(&root, &files, &mut store, true);
        assert!(!known && !cold.contains("day"));
        assert_eq!(run(&root, &files, &mut store, true), (cold, true));
        files.set(root.join("left/fares.py"), Some("def fare(zone, day):\n    return zone\n"));
        let (warm, known) = run(&root, &files, &mut store, true);
        assert!(!known && warm.contains("day"), "a file that is not visited answers too: {warm}");
        assert_eq!(run(&root, &files, &mut store, true), (warm, true));
    }

    proptest! {
        #![proptest_config(ProptestConfig { cases: 60, failure_persistence: None, ..ProptestConfig::default() })]

        /// Whatever is written and removed, a run with what earlier ones left says what one without says.
        #[test]
        fn after_any_changes_kept_answers_are_those_of_today(
            changes in prop::collection::vec((0..CONTENTS.len(), 0..4_usize, any::<bool>()), 1..12),
        ) {
            let (_folder, root, mut files) = folder();
            let mut store = Store::default();
            for (file, content, runs_twice) in changes {
                let (path, contents) = CONTENTS[file];
                files.set(root.join(path), contents.get(content).copied());
                let fresh = run(&root, &files, &mut Store::default(), false).0;
                prop_assert_eq!(&run(&root, &files, &mut store, true).0, &fresh);
                if runs_twice {
                    prop_assert_eq!(run(&root, &files, &mut store, true), (fresh, true));
                }
            }
        }
    }
}
