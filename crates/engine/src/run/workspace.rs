//! A code base that is asked again and again while it changes: by an editor, or by a watch.
//!
//! What it says is what a fresh run over the same contents says. Results and facts stay in memory, so that a change costs its file
//! and the files to which it makes a difference.

use std::path::{Path, PathBuf};
use std::sync::Arc;

use jiff::civil::Date;

use super::{Request, Sifted, Unwatched, Wants, answer, gather, in_pool, visit_each};
use crate::cache::{Cache, Store, Work};
use crate::files::{Files, Overlay};
use crate::hold::baseline::Baseline;
use crate::join::Index;
use crate::project::Project;
use crate::settings::{Overrides, SettingsError, SettingsTree};
use crate::workspace::discover;

/// A code base, texts that are not saved yet, and what is known of both.
#[derive(Debug)]
pub struct Workspace {
    /// The folders, with the texts on top of the disk.
    project: Project,
    disk: Arc<dyn Files>,
    texts: Vec<(PathBuf, Arc<[u8]>)>,
    overrides: Overrides,
    baseline: Option<Baseline>,
    wants: Wants,
    today: Date,
    threads: Option<usize>,
    index: Index,
    store: Store,
    work: Work,
}

impl Workspace {
    /// A code base as it is on the disk. The baseline counts if it is given.
    pub fn new(project: Project, overrides: Overrides, baseline: Option<Baseline>, wants: Wants) -> Workspace {
        Workspace {
            disk: Arc::clone(&project.files),
            project,
            texts: Vec::new(),
            overrides,
            baseline,
            wants,
            today: crate::today(),
            threads: None,
            index: Index::default(),
            store: Store::default(),
            work: Work::default(),
        }
    }

    /// The same on so many threads.
    pub fn on_threads(self, threads: usize) -> Workspace {
        Workspace { threads: Some(threads), ..self }
    }

    /// Gives a file, by its absolute path, another text than on the disk; it need not be there.
    pub fn set_overlay(&mut self, path: &Path, text: impl Into<Arc<[u8]>>) {
        self.texts.retain(|(known, _)| known != path);
        self.texts.push((path.to_path_buf(), text.into()));
        self.change(path);
    }

    /// Takes a file as it is on the disk again, and notices if it changed there.
    pub fn forget(&mut self, path: &Path) {
        self.texts.retain(|(known, _)| known != path);
        self.change(path);
    }

    fn change(&mut self, path: &Path) {
        self.index.forget(path);
        let mut files = Overlay::over(Arc::clone(&self.disk));
        for (path, text) in &self.texts {
            files.set(path.clone(), Arc::clone(text));
        }
        self.project = self.project.clone().with_files(Arc::new(files));
    }

    /// What a run over everything says. Files that changed on the disk are noticed.
    ///
    /// # Errors
    /// When a settings file is wrong.
    pub fn outcome(&mut self) -> Result<Sifted, SettingsError> {
        self.index = Index::default();
        self.sift(&[])
    }

    /// What a run over some files says. Others say to them what they said last, unless they have been set or forgotten since.
    ///
    /// # Errors
    /// When a settings file is wrong.
    pub fn outcome_of(&mut self, paths: &[PathBuf]) -> Result<Sifted, SettingsError> {
        self.sift(paths)
    }

    /// What the last outcome took.
    pub fn last_work(&self) -> Work {
        self.work
    }

    fn sift(&mut self, paths: &[PathBuf]) -> Result<Sifted, SettingsError> {
        let settings = SettingsTree::new(&self.project, None, self.overrides.clone())?;
        let request = Request {
            project: &self.project,
            settings: &settings,
            paths,
            baseline: self.baseline.as_ref(),
            only_changes: None,
            wants: self.wants,
            cache: false,
            today: self.today,
            threads: self.threads,
            progress: &Unwatched,
        };
        let discovery = discover::discover(&request.search())?;
        let (store, index) = (std::mem::take(&mut self.store), &self.index);
        let (results, store, work) = in_pool(self.threads, || {
            let cache = Cache::in_memory(store, &request.search(), &discovery);
            let mut results = visit_each(&request, index, &discovery, Some(&cache));
            answer(&request, index, &discovery.files, &mut results, Some(&cache));
            let work = cache.work();
            (results, cache.into_store(paths.is_empty()), work)
        });
        (self.store, self.work) = (store, work);
        gather(&request, discovery, results)
    }
}
