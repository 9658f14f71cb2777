//! Notices that files change: by the system, folder by folder, or by looking again and again where that cannot be had.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::mpsc::{Receiver, RecvTimeoutError, Sender, channel};
use std::time::{Duration, Instant};

use notify::{ErrorKind, Event, EventKind, RecommendedWatcher, RecursiveMode, Watcher as _};
use sieve_engine::discover;
use sieve_engine::project::Project;

/// A change is over when nothing was written for so long.
const QUIET: Duration = Duration::from_millis(15);

/// A change that does not end is reported after so long.
const LONGEST: Duration = Duration::from_millis(300);

/// Where the system cannot tell, everything is looked at so often.
const INTERVAL: Duration = Duration::from_secs(2);

/// The files of a code base, watched.
pub struct Watcher {
    /// By the system, or not.
    system: Option<RecommendedWatcher>,
    events: Receiver<Wake>,
    wakes: Sender<Wake>,
    folders: BTreeSet<PathBuf>,
    interval: Duration,
    /// Whether something has changed that was not asked for yet.
    pending: Arc<AtomicBool>,
}

/// Why the waiting ends.
enum Wake {
    /// A file changed.
    Files(notify::Result<Event>),
    /// The caller was woken for another reason, such as a key.
    Other,
}

/// What has changed.
#[derive(Debug, Default, PartialEq, Eq)]
pub struct Changed {
    /// These files, as far as they are known.
    pub paths: BTreeSet<PathBuf>,
    /// Anything may have.
    pub anything: bool,
}

impl Watcher {
    /// Begins to watch; why it looks again and again, if it does.
    pub fn start(project: &Project, interval: Option<Duration>) -> (Watcher, Option<String>) {
        let (sender, events) = channel();
        let pending = Arc::new(AtomicBool::new(false));
        let (notice, files) = (Arc::clone(&pending), sender.clone());
        let tell = move |event: notify::Result<Event>| {
            if event.as_ref().is_ok_and(|event| matches!(event.kind, EventKind::Access(_))) {
                return;
            }
            notice.store(true, Ordering::Relaxed);
            // Nobody listens only when the program ends.
            let _ = files.send(Wake::Files(event));
        };
        let system = if interval.is_some() { None } else { notify::recommended_watcher(tell).ok() };
        let interval = interval.unwrap_or(INTERVAL);
        let mut watcher = Watcher { system, events, wakes: sender, folders: BTreeSet::new(), interval, pending };
        let why = watcher.watch_folders(project);
        (watcher, why)
    }

    /// Watches the folders that are there now; why that cannot be, if it cannot.
    pub fn watch_folders(&mut self, project: &Project) -> Option<String> {
        let system = self.system.as_mut()?;
        let now: BTreeSet<PathBuf> = discover::folders(project).into_iter().collect();
        for gone in self.folders.difference(&now) {
            // The system forgets folders that are gone by itself.
            let _ = system.unwatch(gone);
        }
        let mut failed = None;
        for new in now.difference(&self.folders) {
            match system.watch(new, RecursiveMode::NonRecursive) {
                Err(error) if matches!(error.kind, ErrorKind::MaxFilesWatch) => {
                    failed = Some("the system watches no more folders (fs.inotify.max_user_watches)".to_string());
                    break;
                }
                // It went in the meantime, or may not be read: a run does not read it either.
                Ok(()) | Err(_) => {}
            }
        }
        self.folders = now;
        if failed.is_some() {
            self.system = None;
        }
        failed.map(|why| format!("{why}: everything is looked at every {} s", self.interval.as_secs()))
    }

    /// Whether something has changed since it was last asked for.
    pub fn pending(&self) -> Arc<AtomicBool> {
        Arc::clone(&self.pending)
    }

    /// Ends the waiting from another thread.
    pub fn waker(&self) -> impl Fn() + Send + use<> {
        let wakes = self.wakes.clone();
        // Nobody waits only when the program ends.
        move || drop(wakes.send(Wake::Other))
    }

    /// Waits for a change, and until it is over; nothing where something else ended the waiting.
    pub fn wait(&mut self) -> Option<Changed> {
        let mut changed = Changed::default();
        if self.system.is_none() {
            return self.wait_for_interval();
        }
        match self.events.recv() {
            Ok(Wake::Files(first)) => changed.add(first, &self.folders),
            Ok(Wake::Other) => return None,
            Err(_) => changed.anything = true,
        }
        let began = Instant::now();
        while began.elapsed() < LONGEST {
            match self.events.recv_timeout(QUIET) {
                Ok(Wake::Files(event)) => changed.add(event, &self.folders),
                Ok(Wake::Other) => {}
                Err(RecvTimeoutError::Timeout) => break,
                Err(RecvTimeoutError::Disconnected) => {
                    changed.anything = true;
                    break;
                }
            }
        }
        self.pending.store(false, Ordering::Relaxed);
        Some(changed)
    }

    /// Where the system does not tell, anything may have changed after a while.
    fn wait_for_interval(&mut self) -> Option<Changed> {
        let until = Instant::now() + self.interval;
        loop {
            match self.events.recv_timeout(until.saturating_duration_since(Instant::now())) {
                // What the system told before it gave up waits for nobody.
                Ok(Wake::Files(_)) => {}
                Ok(Wake::Other) => return None,
                Err(_) => break,
            }
        }
        self.pending.store(false, Ordering::Relaxed);
        Some(Changed { anything: true, ..Changed::default() })
    }
}

impl Changed {
    fn add(&mut self, event: notify::Result<Event>, folders: &BTreeSet<PathBuf>) {
        match event {
            Ok(event) if !event.need_rescan() => {
                // A folder that comes or goes takes all that is in it along.
                self.anything |= event.paths.iter().any(|path| folders.contains(path) || path.is_dir());
                self.paths.extend(event.paths);
            }
            _ => self.anything = true,
        }
    }

    /// Whether one of the files is settings, or something else that decides over others.
    pub fn decides(&self, is_source: impl Fn(&Path) -> bool) -> bool {
        let matters = |path: &PathBuf| {
            let ending = path.extension().and_then(|ending| ending.to_str()).unwrap_or_default();
            let name = path.file_name().and_then(|name| name.to_str()).unwrap_or_default();
            matches!(ending, "toml" | "txt" | "json" | "jsonl") || name == ".gitignore"
        };
        self.anything || self.paths.iter().any(|path| !is_source(path) && matters(path))
    }
}
