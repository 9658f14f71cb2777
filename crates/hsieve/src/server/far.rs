//! Looks at everything in the background: its own thread has its own workspace, so that the text that is edited never waits for it.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicU64, AtomicUsize, Ordering};
use std::sync::mpsc::{Receiver, Sender, channel};

use sieve_engine::Workspace;
use sieve_engine::baseline::Baseline;
use sieve_engine::outcome::{Finding, Outcome};
use sieve_engine::project::{Project, absolute};
use sieve_engine::run::{Progress, Sifted, Wants};
use sieve_engine::settings::{Overrides, SettingsError};
use sieve_rules::RuleSet;

use super::Event;
use super::guard::guarded;

/// Steps of the progress that is reported of long work.
const STEPS: usize = 100;

/// What everything comes to.
#[derive(Debug)]
pub struct Everything {
    /// The findings that nothing holds back and those that something does, by file.
    pub findings: BTreeMap<PathBuf, Vec<Finding>>,
    /// The rules there are.
    pub rules: Arc<RuleSet>,
    /// In a few words, for somebody who asked.
    pub summary: String,
}

enum Job {
    Text(PathBuf, Arc<[u8]>),
    Forget(PathBuf),
    Baseline(Option<Box<Baseline>>),
    Everything { of: u64 },
}

/// The way to the thread of one folder.
pub struct Far {
    jobs: Sender<Job>,
    /// Counts what was asked of everything: an older question needs no answer any more.
    latest: Arc<AtomicU64>,
}

impl Far {
    /// Starts the thread of a folder.
    pub fn start(project: &Project, baseline: Option<Baseline>, events: Sender<Event>) -> Far {
        let (jobs, receiver) = channel();
        let latest = Arc::new(AtomicU64::new(0));
        let folder = project.folder.clone();
        let workspace = Workspace::new(project.clone(), Overrides::default(), baseline, Wants::IDENTITIES);
        let thread = Thread { workspace, folder, latest: Arc::clone(&latest), events };
        // Without a thread only what is open is looked at.
        let _ = std::thread::Builder::new().name("everything".into()).spawn(move || thread.run(&receiver));
        Far { jobs, latest }
    }

    /// A file has another text than on the disk.
    pub fn set_text(&self, path: &Path, bytes: Arc<[u8]>) {
        self.cancel();
        self.send(Job::Text(path.to_path_buf(), bytes));
    }

    /// A file is as on the disk, where it may have changed.
    pub fn forget(&self, path: &Path) {
        self.cancel();
        self.send(Job::Forget(path.to_path_buf()));
    }

    /// A file is as on the disk, which is what it was here.
    pub fn forget_quietly(&self, path: &Path) {
        self.send(Job::Forget(path.to_path_buf()));
    }

    /// Another baseline counts.
    pub fn set_baseline(&self, baseline: Option<Baseline>) {
        self.cancel();
        self.send(Job::Baseline(baseline.map(Box::new)));
    }

    /// Asks for everything; the answer comes as an event.
    pub fn ask(&self) {
        let of = self.cancel();
        self.send(Job::Everything { of });
    }

    /// Takes the question back that is being answered. Gives the number of the next one.
    pub fn cancel(&self) -> u64 {
        self.latest.fetch_add(1, Ordering::Relaxed) + 1
    }

    /// Whether an answer is to the latest question.
    pub fn is_latest(&self, of: u64) -> bool {
        self.latest.load(Ordering::Relaxed) == of
    }

    fn send(&self, job: Job) {
        // It only ends with the server.
        let _ = self.jobs.send(job);
    }
}

struct Thread {
    workspace: Workspace,
    folder: PathBuf,
    latest: Arc<AtomicU64>,
    events: Sender<Event>,
}

impl Thread {
    fn run(mut self, jobs: &Receiver<Job>) {
        while let Ok(job) = jobs.recv() {
            match job {
                Job::Text(path, bytes) => self.workspace.set_overlay(&path, bytes),
                Job::Forget(path) => self.workspace.forget(&path),
                Job::Baseline(baseline) => self.workspace.set_baseline(baseline.map(|baseline| *baseline)),
                Job::Everything { of } => {
                    let watch = Watch::new(of, &self);
                    let mut look = || if watch.is_cancelled() { Ok(None) } else { self.everything(&watch) };
                    let found = guarded(&mut look).unwrap_or(Ok(None));
                    if self.events.send(Event::Everything { folder: self.folder.clone(), of, found }).is_err() {
                        return;
                    }
                }
            }
        }
    }

    fn everything(&mut self, watch: &Watch) -> Result<Option<Everything>, SettingsError> {
        let Some(Sifted { outcome, .. }) = self.workspace.outcome_watched(watch)? else { return Ok(None) };
        let summary = summary(&outcome);
        let mut findings: BTreeMap<PathBuf, Vec<Finding>> = BTreeMap::new();
        for finding in outcome.findings {
            let path = absolute(&self.folder, Path::new(&*finding.path));
            findings.entry(path).or_default().push(finding);
        }
        Ok(Some(Everything { findings, rules: outcome.rules, summary }))
    }
}

fn summary(outcome: &Outcome) -> String {
    let (caught, held) = (outcome.caught().count(), outcome.held().values().sum::<usize>());
    let left_out: usize = outcome.left_out.len();
    format!(
        "Sifted {} files: {caught} findings, {held} held back, {} places not decided, {left_out} files left out",
        outcome.files,
        outcome.unsure.len()
    )
}

/// Tells how far a look at everything has come, and whether it is still wanted.
struct Watch {
    of: u64,
    latest: Arc<AtomicU64>,
    folder: PathBuf,
    events: Sender<Event>,
    files: AtomicUsize,
    done: AtomicUsize,
}

impl Watch {
    fn new(of: u64, thread: &Thread) -> Watch {
        Watch {
            of,
            latest: Arc::clone(&thread.latest),
            folder: thread.folder.clone(),
            events: thread.events.clone(),
            files: AtomicUsize::new(0),
            done: AtomicUsize::new(0),
        }
    }

    fn tell(&self, done: usize, files: usize) {
        let _ = self.events.send(Event::Progress { folder: self.folder.clone(), done, files });
    }
}

impl Progress for Watch {
    fn start(&self, files: usize) {
        self.files.store(files, Ordering::Relaxed);
        self.tell(0, files);
    }

    fn step(&self) {
        let files = self.files.load(Ordering::Relaxed);
        let done = self.done.fetch_add(1, Ordering::Relaxed) + 1;
        if done.is_multiple_of(files.div_ceil(STEPS).max(1)) {
            self.tell(done, files);
        }
    }

    fn is_cancelled(&self) -> bool {
        self.latest.load(Ordering::Relaxed) != self.of
    }
}
