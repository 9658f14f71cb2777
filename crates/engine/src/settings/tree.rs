//! Finds the settings files above each file, and joins them once for each folder.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex};

use super::edit::split_mark;
use super::effective::{Effective, Link, Overrides};
use super::file::{Patterns, SettingsFile};
use super::{FILE_NAME, SettingsError};
use crate::files::{self, FileError, Files};
use crate::project::Project;

/// A larger settings file is refused.
const LARGEST: u64 = 8 << 20;

/// All settings of a run. Files are read once; folders with the same files above them share one result.
#[derive(Debug)]
pub struct SettingsTree {
    root: PathBuf,
    files: Arc<dyn Files>,
    /// The one file that is used in place of those found.
    fixed: Option<Arc<SettingsFile>>,
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
        let fixed = match fixed {
            None => None,
            Some(path) => {
                let mut file = read(path, files::read_bounded(path, LARGEST))?;
                file.base.clone_from(&project.root);
                Some(Arc::new(file))
            }
        };
        Ok(SettingsTree {
            root: project.root.clone(),
            files: Arc::clone(&project.files),
            fixed,
            overrides,
            folders: Mutex::default(),
            joined: Mutex::default(),
        })
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
        let links: Vec<Link> = chain.into_iter().map(|file| link(file, path)).collect();
        let key = links.iter().map(|link| (link.file.path.clone(), link.scopes.clone(), link.waives.clone())).collect();
        let mut joined = self.joined.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
        let effective = joined.entry(key).or_insert_with(|| Arc::new(Effective::of(&links, &self.overrides)));
        Ok(Arc::clone(effective))
    }

    /// The settings files that hold for a folder, the outermost first.
    fn chain(&self, folder: &Path) -> Result<Chain, SettingsError> {
        if let Some(known) = self.folders.lock().unwrap_or_else(std::sync::PoisonError::into_inner).get(folder) {
            return Ok(known.clone());
        }
        let own = folder.join(FILE_NAME);
        let own = match self.files.kind(&own) {
            Ok(_) => Some(Arc::new(read(&own, self.files.read_within(&self.root, &own, LARGEST))?)),
            Err(_) => None,
        };
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

fn read(path: &Path, bytes: Result<Vec<u8>, FileError>) -> Result<SettingsFile, SettingsError> {
    let whole = |message| SettingsError { path: path.to_path_buf(), place: None, message };
    let bytes = bytes.map_err(|error| whole(error.without_path()))?;
    let source = String::from_utf8(bytes).map_err(|_| whole("this is not UTF-8".to_string()))?;
    SettingsFile::read(path, split_mark(&source).1)
}
