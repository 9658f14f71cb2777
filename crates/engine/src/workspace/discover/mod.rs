//! Finds the files to sift below the paths that were named.

mod generated;

use std::path::{Path, PathBuf};
use std::sync::Arc;

use sieve_syntax::language::Language;

use crate::files::{EntryKind, FileError, Files};
use crate::git::Changes;
use crate::outcome::LeftOut;
use crate::project::{Project, absolute};
use crate::settings::{Effective, FILE_NAME, SettingsError, SettingsTree};
use crate::workspace::walk::{Hidden, comes_upon, walk};

use generated::has_generated_name;
pub(crate) use generated::{is_bundle, is_compiled, is_packed, says_generated, says_made_page};

/// How much of a file whose ending says nothing is read to see which program runs it.
const FIRST_LINE_LIMIT: usize = 256;

/// Endings of files that no program is named in by a first line, so that they need not be opened.
const NO_SCRIPTS: &[&str] = &[
    "avif",
    "bin",
    "bmp",
    "c",
    "cc",
    "cfg",
    "class",
    "cpp",
    "cs",
    "css",
    "csv",
    "db",
    "diff",
    "dll",
    "doc",
    "eot",
    "eps",
    "gif",
    "go",
    "gz",
    "h",
    "hpp",
    "htm",
    "html",
    "ico",
    "ini",
    "ipynb",
    "jar",
    "java",
    "jpeg",
    "jpg",
    "jsonl",
    "kt",
    "less",
    "lock",
    "log",
    "map",
    "md",
    "mo",
    "mp3",
    "mp4",
    "o",
    "otf",
    "parquet",
    "patch",
    "pdf",
    "png",
    "po",
    "pot",
    "properties",
    "proto",
    "pxd",
    "pxi",
    "pyc",
    "pyx",
    "rs",
    "rst",
    "scss",
    "snap",
    "so",
    "sql",
    "svg",
    "swift",
    "tar",
    "tf",
    "tsv",
    "ttf",
    "txt",
    "vue",
    "wasm",
    "wav",
    "webm",
    "webp",
    "whl",
    "woff",
    "woff2",
    "xls",
    "xlsx",
    "xml",
    "xz",
    "zip",
];

/// A file to sift.
#[derive(Debug, Clone)]
pub struct Candidate {
    /// Its absolute path.
    pub path: PathBuf,
    /// Its path as it is shown.
    pub shown: Arc<str>,
    /// Its language.
    pub language: Language,
    /// The settings in force for it.
    pub settings: Arc<Effective>,
    /// It was named itself, and so is sifted whatever its size and whoever made it.
    pub named: bool,
}

/// The files below some paths.
#[derive(Debug, Default)]
pub struct Discovery {
    /// The files to sift, in the order of their shown paths, each once.
    pub files: Vec<Candidate>,
    /// Files left out without being read, by cause.
    pub left_out: Vec<(Arc<str>, LeftOut)>,
    /// What could not be read.
    pub errors: Vec<FileError>,
}

/// Where to look for files.
#[derive(Debug, Clone, Copy)]
pub struct Search<'s> {
    /// The folders that paths start from.
    pub project: &'s Project,
    /// The settings.
    pub settings: &'s SettingsTree,
    /// Below which paths; the working folder if empty.
    pub paths: &'s [PathBuf],
    /// Only what changed, if that is all that counts.
    pub changes: Option<&'s Changes>,
}

/// Finds the files below the paths of a search; below the working folder if none are given. Where only changes count, only changed
/// files are found, without a walk through the folders. What git ignores and what is hidden is passed
/// over, unless it is named itself; links are not followed, unless one is named itself.
///
/// # Errors
/// When a settings file is wrong.
pub fn discover(search: &Search<'_>) -> Result<Discovery, SettingsError> {
    let Search { project, settings, paths, changes } = *search;
    let mut finder = Finder { project, settings, changes, last: None, found: Discovery::default() };
    let here = [PathBuf::from(".")];
    for path in if paths.is_empty() { &here } else { paths } {
        finder.visit(&absolute(&project.folder, path))?;
    }
    let mut found = finder.found;
    found.files.sort_by(|one, other| one.shown.cmp(&other.shown));
    found.files.dedup_by(|one, other| one.path == other.path);
    found.errors.sort_by(|one, other| one.path.cmp(&other.path));
    Ok(found)
}

/// The folders of a code base below the working folder in which a run looks for files.
pub fn folders(project: &Project) -> Vec<PathBuf> {
    walk(&*project.files, &project.root, &project.folder, Hidden::Skip).folders
}

/// The files among the paths of a search that a run over everything would sift.
///
/// # Errors
/// When a settings file is wrong.
pub(crate) fn discover_files(search: &Search<'_>) -> Result<Discovery, SettingsError> {
    let Search { project, settings, paths, changes } = *search;
    let mut finder = Finder { project, settings, changes, last: None, found: Discovery::default() };
    let files = paths.iter().map(|path| absolute(&project.folder, path));
    for path in files.filter(|path| comes_upon(&*project.files, &project.root, path, Hidden::Skip)) {
        finder.file(&path, false)?;
    }
    finder.found.files.sort_by(|one, other| one.shown.cmp(&other.shown));
    Ok(finder.found)
}

struct Finder<'p> {
    project: &'p Project,
    settings: &'p SettingsTree,
    changes: Option<&'p Changes>,
    /// The folder of the last file, and its settings, where all its files have the same.
    last: Option<(PathBuf, Arc<Effective>)>,
    found: Discovery,
}

impl Finder<'_> {
    fn leave_out(&mut self, path: &Path, cause: LeftOut) {
        self.found.left_out.push((self.project.shown(path).into(), cause));
    }

    fn error(&mut self, path: &Path, cause: std::io::Error) {
        self.found.errors.push(FileError { path: PathBuf::from(self.project.shown(path)), doing: "read", cause });
    }

    fn visit(&mut self, path: &Path) -> Result<(), SettingsError> {
        match (self.project.files.target_kind(path), self.changes) {
            (Err(cause), _) => {
                self.error(path, cause);
                Ok(())
            }
            (Ok(EntryKind::Folder), None) => self.folder(path),
            (Ok(_), None) => self.file(path, true),
            (Ok(_), Some(changes)) => self.changed_below(changes, path),
        }
    }

    fn folder(&mut self, folder: &Path) -> Result<(), SettingsError> {
        let walked = walk(&*self.project.files, &self.project.root, folder, Hidden::Skip);
        walked.errors.into_iter().for_each(|error| self.error(&error.path, error.cause));
        walked.links.iter().for_each(|link| self.link(link));
        for path in &walked.files {
            self.file(path, false)?;
        }
        Ok(())
    }

    /// The changed files below a folder, as far as a walk through it would come upon them.
    fn changed_below(&mut self, changes: &Changes, folder: &Path) -> Result<(), SettingsError> {
        for path in changes.files.keys() {
            let Ok(inner) = path.strip_prefix(folder) else { continue };
            let is_hidden = inner.iter().any(|name| name.as_encoded_bytes().starts_with(b"."));
            let is_link = self.project.files.kind(path).is_ok_and(|kind| kind == EntryKind::Link);
            if is_link {
                self.link(path);
            } else if !is_hidden {
                self.file(path, false)?;
            }
        }
        Ok(())
    }

    /// Only links that look like sources are counted.
    fn link(&mut self, path: &Path) {
        if of_name(path).is_some() {
            self.leave_out(path, LeftOut::Link);
        }
    }

    /// The settings of a file; those of the last one where they are in one folder and cannot differ.
    fn settings_of(&mut self, path: &Path) -> Result<Arc<Effective>, SettingsError> {
        let folder = path.parent().unwrap_or(path);
        if let Some((_, settings)) = self.last.as_ref().filter(|(last, _)| last == folder) {
            return Ok(Arc::clone(settings));
        }
        let settings = self.settings.for_file(path)?;
        let is_even = self.settings.is_even(folder)?;
        self.last = is_even.then(|| (folder.to_path_buf(), Arc::clone(&settings)));
        Ok(settings)
    }

    fn file(&mut self, path: &Path, named: bool) -> Result<(), SettingsError> {
        let settings = self.settings_of(path)?;
        // Asked of every file, so that patterns learn what they fit.
        let (skips, generated) = (settings.skips(path), settings.calls_generated(path));
        settings.show_to_budgets(path);
        let Some(language) = language_of(&*self.project.files, path, &settings) else {
            if named {
                self.leave_out(path, LeftOut::UnknownLanguage);
            }
            return Ok(());
        };
        let cause = if skips {
            Some(LeftOut::Skipped)
        } else if generated || has_generated_name(path.strip_prefix(&self.project.root).unwrap_or(path)) {
            Some(LeftOut::Generated)
        } else {
            None
        };
        match cause.filter(|_| !named) {
            Some(cause) => self.leave_out(path, cause),
            None => {
                let shown = self.project.shown(path).into();
                self.found.files.push(Candidate { path: path.to_path_buf(), shown, language, settings, named });
            }
        }
        Ok(())
    }
}

/// The language of a file: by the settings, its ending, or the program that its first line names.
pub(crate) fn language_of(files: &dyn Files, path: &Path, settings: &Effective) -> Option<Language> {
    if let Some(language) = settings.language_of(path) {
        return Some(language);
    }
    if let Some(language) = of_name(path) {
        return Some(language);
    }
    if path.extension().is_some_and(|ending| NO_SCRIPTS.iter().any(|known| ending.eq_ignore_ascii_case(known))) {
        return None;
    }
    of_first_line(&files.read_start(path, FIRST_LINE_LIMIT).ok()?)
}

/// The language of a file by its name alone. Settings are no source: they are read, and checked, as what they are.
pub fn of_name(path: &Path) -> Option<Language> {
    // The ending of a name that is no Unicode is read all the same.
    let name = path.file_name().filter(|name| *name != FILE_NAME)?;
    Language::of_file_name(&name.to_string_lossy())
}

/// Whether a file holds code by its name.
pub(crate) fn is_code(path: &Path) -> bool {
    of_name(path).is_some_and(Language::is_code)
}

fn of_first_line(start: &[u8]) -> Option<Language> {
    let line = start.strip_prefix(b"#!")?.split(|byte| *byte == b'\n').next()?;
    Language::of_first_line(&format!("#!{}", std::str::from_utf8(line).ok()?))
}

/// The language of a text by the name it is given, or by the program that its first line names.
pub fn language_of_name(name: &str, bytes: &[u8], settings: &Effective) -> Option<Language> {
    let path = Path::new(name);
    let by_name = settings.language_of(path).or_else(|| of_name(path));
    by_name.or_else(|| of_first_line(&bytes[..bytes.len().min(FIRST_LINE_LIMIT)]))
}
