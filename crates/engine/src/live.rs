//! A code base that is asked again and again while it changes: by an editor, or by a watch.
//!
//! What it says is what a fresh run over the same contents says. Results and facts stay in memory, so that a change costs its file
//! and the files to which it makes a difference.

use std::path::{Path, PathBuf};
use std::sync::{Arc, OnceLock};

use jiff::civil::Date;
use rayon::ThreadPool;
use sieve_rules::RuleId;

use crate::cache::{Cache, Store, Work};
use crate::files::{FileError, Files, Overlay};
use crate::fix::{FixedFile, Which, fixed_file, of_project};
use crate::hold::baseline::Baseline;
use crate::join::Index;
use crate::project::Project;
use crate::rename::{self, CannotRename, RenameRequest};
use crate::run::{Progress, Request, Sifted, Unwatched, gather, in_pool, on_pool, pool, sift_now, visit_and_answer};
use crate::settings::{Overrides, SettingsError, SettingsTree};
use crate::subject::Wants;
use crate::workspace::discover::{self, is_code};

/// A code base, texts that are not saved yet, and what is known of both.
#[derive(Debug)]
pub struct Workspace {
    /// The folders, with the texts on top of the disk.
    project: Project,
    disk: Arc<dyn Files>,
    texts: Vec<(PathBuf, Arc<[u8]>)>,
    overrides: Overrides,
    /// As they were read; nothing after a change that may concern them.
    settings: Option<Arc<SettingsTree>>,
    baseline: Option<Baseline>,
    wants: Wants,
    today: Date,
    threads: Option<usize>,
    /// The threads, once they have been needed: they and what they have of memory are kept from one change to the next.
    pool: OnceLock<Option<ThreadPool>>,
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
            settings: None,
            baseline,
            wants,
            today: crate::today(),
            threads: None,
            pool: OnceLock::new(),
            index: Index::default(),
            store: Store::default(),
            work: Work::default(),
        }
    }

    /// The same on so many threads.
    pub fn on_threads(self, threads: usize) -> Workspace {
        Workspace { threads: Some(threads), pool: OnceLock::new(), ..self }
    }

    /// Takes another baseline, or none.
    pub fn set_baseline(&mut self, baseline: Option<Baseline>) {
        self.baseline = baseline;
    }

    /// The folders and files, unsaved texts included.
    pub fn project(&self) -> &Project {
        &self.project
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

    /// Takes everything as it is on the disk now, apart from texts that were given.
    pub fn refresh(&mut self) {
        self.index = Index::default();
        self.settings = None;
    }

    fn change(&mut self, path: &Path) {
        self.index.forget(path);
        // Packs and their lists have any name; code is none of them.
        if !is_code(path) {
            self.settings = None;
        }
        let mut files = Overlay::over(Arc::clone(&self.disk));
        for (path, text) in &self.texts {
            files.set(path.clone(), Arc::clone(text));
        }
        self.project = self.project.clone().with_files(Arc::new(files));
    }

    /// The settings.
    ///
    /// # Errors
    /// When one of those that hold everywhere is wrong.
    pub fn settings(&mut self) -> Result<Arc<SettingsTree>, SettingsError> {
        if let Some(settings) = &self.settings {
            return Ok(Arc::clone(settings));
        }
        let settings = Arc::new(SettingsTree::new(&self.project, None, self.overrides.clone())?);
        self.settings = Some(Arc::clone(&settings));
        Ok(settings)
    }

    /// What a run over everything says. Files that changed on the disk are noticed.
    ///
    /// # Errors
    /// When a settings file is wrong.
    pub fn outcome(&mut self) -> Result<Sifted, SettingsError> {
        let sifted = self.outcome_watched(&Unwatched)?;
        Ok(sifted.expect("nobody cancels it"))
    }

    /// The same while somebody watches; nothing if that was cancelled.
    ///
    /// # Errors
    /// When a settings file is wrong.
    pub fn outcome_watched(&mut self, progress: &(dyn Progress + Sync)) -> Result<Option<Sifted>, SettingsError> {
        self.refresh();
        let sifted = self.sift(&[], progress)?;
        Ok((!progress.is_cancelled()).then_some(sifted))
    }

    /// What a run over everything says of some files, as far as they alone decide: nothing of those that it passes over. Others say to
    /// them what they said last, unless they have been set or forgotten since.
    ///
    /// # Errors
    /// When a settings file is wrong.
    pub fn outcome_of(&mut self, paths: &[PathBuf]) -> Result<Sifted, SettingsError> {
        self.sift(paths, &Unwatched)
    }

    /// The same of one file, which has just changed: it is looked at once, while others are asked. What it says of itself is read from it
    /// again when another one asks.
    ///
    /// # Errors
    /// When a settings file is wrong.
    pub fn outcome_now(&mut self, path: &Path) -> Result<Sifted, SettingsError> {
        let settings = self.settings()?;
        let paths = [path.to_path_buf()];
        let request = self.request(&settings, &paths, &Unwatched);
        let discovery = discover::discover_files(&request.search())?;
        let index = &self.index;
        let results = self.on_pool(|| discovery.files.iter().map(|file| sift_now(&request, file, index)).collect());
        gather(&request, discovery, results)
    }

    /// What the last outcome took.
    pub fn last_work(&self) -> Work {
        self.work
    }

    /// A file with its exact fixes; those of some rules alone, if any are named. Nothing where it would not be sifted.
    ///
    /// # Errors
    /// When a settings file is wrong.
    pub fn fixed(&mut self, path: &Path, only: &[RuleId]) -> Result<Option<FixedFile>, SettingsError> {
        let settings = if only.is_empty() {
            self.settings()?
        } else {
            let overrides = Overrides { only: only.to_vec(), ..self.overrides.clone() };
            Arc::new(SettingsTree::new(&self.project, None, overrides)?)
        };
        // What cannot be read cannot be fixed either.
        Ok(self.fixed_source(&settings, path, Which::Exact)?.and_then(Result::ok))
    }

    /// A file with the fixes of some findings of a rule, exact or not: those that begin at these bytes. It may be a settings file or
    /// the baseline; nothing where it is none of these and would not be sifted.
    ///
    /// # Errors
    /// When a settings file is wrong.
    pub fn fixed_at(
        &mut self,
        path: &Path,
        rule: RuleId,
        starts: &[u32],
    ) -> Result<Option<Result<FixedFile, FileError>>, SettingsError> {
        let settings = self.settings()?;
        let which = Which::At(rule, starts);
        if let Some(file) = self.fixed_source(&settings, path, which)? {
            return Ok(Some(file));
        }
        let is_it = |file: &Result<FixedFile, FileError>| file.as_ref().is_ok_and(|file| file.path == path);
        let paths = [path.to_path_buf()];
        let request = self.request(&settings, &paths, &Unwatched);
        Ok(of_project::plan(&request, which)?.into_iter().find(is_it))
    }

    /// A source with some of its fixes; nothing where it would not be sifted.
    fn fixed_source(
        &self,
        settings: &SettingsTree,
        path: &Path,
        which: Which<'_>,
    ) -> Result<Option<Result<FixedFile, FileError>>, SettingsError> {
        let paths = [path.to_path_buf()];
        let request = self.request(settings, &paths, &Unwatched);
        let discovery = discover::discover_files(&request.search())?;
        let fixed = |file| in_pool(Some(1), || fixed_file(&request, file, which, &self.index, None));
        Ok(discovery.files.first().and_then(fixed))
    }

    /// Works out a renaming over all files, unsaved texts included.
    ///
    /// # Errors
    /// When the name cannot be changed, or a settings file is wrong.
    pub fn renamed(&mut self, asked: &RenameRequest<'_>) -> Result<rename::Plan, CannotRename> {
        let settings = self.settings().map_err(CannotRename::Settings)?;
        rename::plan(&self.request(&settings, &[], &Unwatched), asked)
    }

    /// Does work on the threads of the workspace.
    fn on_pool<T: Send>(&self, work: impl FnOnce() -> T + Send) -> T {
        on_pool(self.pool.get_or_init(|| pool(self.threads)).as_ref(), work)
    }

    fn request<'r>(
        &'r self,
        settings: &'r SettingsTree,
        paths: &'r [PathBuf],
        progress: &'r (dyn Progress + Sync),
    ) -> Request<'r> {
        Request {
            project: &self.project,
            settings,
            paths,
            baseline: self.baseline.as_ref(),
            only_changes: None,
            wants: self.wants,
            cache: false,
            shared: None,
            today: self.today,
            threads: self.threads,
            progress,
        }
    }

    fn sift(&mut self, paths: &[PathBuf], progress: &(dyn Progress + Sync)) -> Result<Sifted, SettingsError> {
        let settings = self.settings()?;
        let store = std::mem::take(&mut self.store);
        let (request, index) = (self.request(&settings, paths, progress), &self.index);
        let is_everything = paths.is_empty();
        let discovery = match is_everything {
            true => discover::discover(&request.search()),
            false => discover::discover_files(&request.search()),
        };
        let discovery = match discovery {
            Ok(discovery) => discovery,
            Err(error) => {
                self.store = store;
                return Err(error);
            }
        };
        let (results, store, work) = self.on_pool(|| {
            let mut cache = Cache::in_memory(store, &request.search(), &discovery);
            let results = visit_and_answer(&request, index, &discovery, &mut cache);
            let work = cache.work();
            (results, cache.into_store(is_everything && !progress.is_cancelled()), work)
        });
        let sifted = gather(&request, discovery, results);
        (self.store, self.work) = (store, work);
        sifted
    }
}
