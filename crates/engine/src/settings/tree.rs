//! Finds the settings files above each file, and joins them once for each folder.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex};

use sieve_rules::RuleSet;

use super::effective::{Effective, Link, Overrides};
use super::file::{Patterns, SettingsFile};
use super::pack::Packs;
use super::reader::split_mark;
use super::{FILE_NAME, SettingsError, schemas};
use crate::files::{self, FileError, Files};
use crate::project::Project;

/// All settings of a run. Files are read once; folders with the same files above them share one result.
#[derive(Debug)]
pub struct SettingsTree {
    root: PathBuf,
    files: Arc<dyn Files>,
    /// The one file that is used in place of those found.
    fixed: Option<Arc<SettingsFile>>,
    packs: Arc<Packs>,
    overrides: Overrides,
    folders: Mutex<HashMap<PathBuf, Chain>>,
    joined: Mutex<HashMap<Vec<LinkKey>, Arc<Effective>>>,
}

/// A settings file, and which of its scopes and waivers fit.
type LinkKey = (PathBuf, Vec<usize>, Vec<usize>);

type Chain = Vec<Arc<SettingsFile>>;

impl SettingsTree {
    /// Settings of a code base; nothing is looked for above its root.
    ///
    /// # Errors
    /// When the file given in place of those found cannot be read or is wrong.
    pub fn new(project: &Project, fixed: Option<&Path>, overrides: Overrides) -> Result<SettingsTree, SettingsError> {
        let packs = Packs::of(project, fixed, &[])?;
        SettingsTree::with_packs(project, fixed, Arc::new(packs), overrides)
    }

    /// The same where the packs are known already.
    ///
    /// # Errors
    /// As above.
    pub fn with_packs(
        project: &Project,
        fixed: Option<&Path>,
        packs: Arc<Packs>,
        overrides: Overrides,
    ) -> Result<SettingsTree, SettingsError> {
        let fixed = match fixed {
            None => None,
            Some(path) => {
                let mut file = read(path, files::read_bounded(path, super::LARGEST), packs.rules())?;
                file.base.clone_from(&project.root);
                schemas::load(&mut file, &*project.files, &project.root)?;
                Some(Arc::new(file))
            }
        };
        Ok(SettingsTree {
            root: project.root.clone(),
            files: Arc::clone(&project.files),
            fixed,
            packs,
            overrides,
            folders: Mutex::default(),
            joined: Mutex::default(),
        })
    }

    /// The rules that there are.
    pub fn rule_set(&self) -> &Arc<RuleSet> {
        self.packs.rules()
    }

    /// The packs that the settings name.
    pub fn packs(&self) -> &Packs {
        &self.packs
    }

    /// The settings in force for a file, by its absolute path.
    ///
    /// # Errors
    /// When a settings file above it is wrong.
    pub fn for_file(&self, path: &Path) -> Result<Arc<Effective>, SettingsError> {
        self.join(path.parent().unwrap_or(path), Some(path))
    }

    /// The settings in force for the files of a folder that no scope names, by the folder's absolute path.
    ///
    /// # Errors
    /// When a settings file above it is wrong.
    pub fn for_folder(&self, folder: &Path) -> Result<Arc<Effective>, SettingsError> {
        self.join(folder, None)
    }

    /// What the command line says on top of the files, and which file it puts in their place, to tell runs apart.
    pub(crate) fn options(&self) -> String {
        format!("{:?} {:?}", self.overrides, self.fixed.as_ref().map(|file| &file.path))
    }

    /// The settings files that were needed so far, in the order of their paths.
    pub(crate) fn files(&self) -> Vec<Arc<SettingsFile>> {
        let folders = self.folders.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
        let mut files: Vec<Arc<SettingsFile>> = folders.values().flatten().chain(&self.fixed).cloned().collect();
        files.sort_by(|one, other| one.path.cmp(&other.path));
        files.dedup_by(|one, other| one.path == other.path);
        files
    }

    /// Whether all files of a folder have the settings of the folder: no scope or waiver above it picks some out.
    ///
    /// # Errors
    /// When a settings file above it is wrong.
    pub(crate) fn is_even(&self, folder: &Path) -> Result<bool, SettingsError> {
        let picks_none = |file: &Arc<SettingsFile>| file.scopes.is_empty() && file.waives.is_empty();
        if !self.packs.settings().iter().all(picks_none) {
            return Ok(false);
        }
        match &self.fixed {
            Some(file) => Ok(picks_none(file)),
            None => Ok(self.chain(folder)?.iter().all(picks_none)),
        }
    }

    fn join(&self, folder: &Path, path: Option<&Path>) -> Result<Arc<Effective>, SettingsError> {
        let chain = match &self.fixed {
            Some(file) => vec![Arc::clone(file)],
            None => self.chain(folder)?,
        };
        let chain = self.packs.settings().iter().cloned().chain(chain);
        let links: Vec<Link> = chain.map(|file| link(file, path)).collect();
        let key = links.iter().map(|link| (link.file.path.clone(), link.scopes.clone(), link.waives.clone())).collect();
        let mut joined = self.joined.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
        if let Some(known) = joined.get(&key) {
            return Ok(Arc::clone(known));
        }
        let effective = Arc::new(Effective::of(&links, &self.overrides, self.packs.rules())?);
        joined.insert(key, Arc::clone(&effective));
        Ok(effective)
    }

    /// The settings files that hold for a folder, the outermost first.
    fn chain(&self, folder: &Path) -> Result<Chain, SettingsError> {
        if let Some(known) = self.folders.lock().unwrap_or_else(std::sync::PoisonError::into_inner).get(folder) {
            return Ok(known.clone());
        }
        let own = folder.join(FILE_NAME);
        let own = match self.files.kind(&own) {
            Ok(_) => {
                let bytes = self.files.read_within(&self.root, &own, super::LARGEST);
                let mut file = read(&own, bytes, self.packs.rules())?;
                schemas::load(&mut file, &*self.files, &self.root)?;
                Some(Arc::new(file))
            }
            Err(_) => None,
        };
        if let Some((file, entry)) = own.as_ref().and_then(|file| Some((file, file.packs.first()?)))
            && folder != self.root
        {
            let place = Some(file.text.place(entry.span.start));
            let message = format!(
                "packs are named in the settings at the root of the code base, {}: so a rule is the same everywhere",
                self.root.join(FILE_NAME).display()
            );
            return Err(SettingsError { path: file.path.clone(), place, message });
        }
        let is_top = folder == self.root || own.as_ref().is_some_and(|file| file.top);
        let mut chain = match folder.parent().filter(|_| !is_top) {
            Some(parent) => self.chain(parent)?,
            None => Vec::new(),
        };
        chain.extend(own);
        let mut folders = self.folders.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
        folders.insert(folder.to_path_buf(), chain.clone());
        Ok(chain)
    }
}

/// A settings file with its scopes and waivers that fit a path.
fn link(file: Arc<SettingsFile>, path: Option<&Path>) -> Link {
    let relative = path.and_then(|path| path.strip_prefix(file.folder()).ok());
    let relative = relative.map(|relative| relative.to_string_lossy().replace('\\', "/"));
    let fits = |patterns: &Patterns| relative.as_ref().is_some_and(|relative| patterns.fit(relative));
    let indexes =
        |all: Vec<bool>| all.into_iter().enumerate().filter(|(_, fits)| *fits).map(|(index, _)| index).collect();
    let scopes = indexes(file.scopes.iter().map(|scope| fits(&scope.patterns)).collect());
    let waives = indexes(file.waives.iter().map(|waive| fits(&waive.patterns)).collect());
    Link { file, scopes, waives }
}

fn read(path: &Path, bytes: Result<Vec<u8>, FileError>, rules: &RuleSet) -> Result<SettingsFile, SettingsError> {
    SettingsFile::read(path, split_mark(&super::text_of(path, bytes)?).1, rules)
}
