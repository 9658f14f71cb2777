//! Finds packs and the packs that they name, each once, and makes one set of rules of all.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use sieve_rules::house::HouseRule;

use super::built_in::{self, BUILT_IN};
use super::document::Kinds;
use super::read::{PackFile, settings_in};
use super::{Pack, PackSource, Packs};
use crate::files::{self, FileError, Files};
use crate::project::{Project, absolute};
use crate::settings::error::nearest;
use crate::settings::fetch::LARGEST_PACK;
use crate::settings::read::packs_of;
use crate::settings::{FILE_NAME, LARGEST, SettingsError, fetch, text_of as read_file};

/// Packs that name packs, no deeper than this.
const DEEPEST: usize = 8;

/// Packs in one code base.
const MOST_PACKS: usize = 100;

/// The file of a pack that is a folder.
const PACK_FILE: &str = "pack.toml";

type Loaded<T> = Result<T, SettingsError>;

/// Makes an error at the place where a pack is named.
type Wrong<'w> = &'w dyn Fn(String) -> SettingsError;

/// Rules in all packs together.
const MOST_RULES: usize = 20_000;

impl Packs {
    /// The packs that the settings of a code base name, and some more that the command line names.
    ///
    /// # Errors
    /// When the settings at the root, or a pack, cannot be read or are wrong.
    pub fn of(project: &Project, fixed: Option<&Path>, more: &[PackSource]) -> Result<Packs, SettingsError> {
        let mut loader = Loader::new(project);
        let (path, named) = match fixed {
            Some(path) => {
                let source = read_file(path, files::read_bounded(path, LARGEST))?;
                (path.to_path_buf(), packs_of(path, &source)?)
            }
            None => {
                let path = project.root.join(FILE_NAME);
                let named = match project.files.kind(&path) {
                    Ok(_) => {
                        let bytes = project.files.read_within(&project.root, &path, LARGEST);
                        packs_of(&path, &read_file(&path, bytes)?)?
                    }
                    Err(_) => Vec::new(),
                };
                (path, named)
            }
        };
        let folder = if fixed.is_some() { project.root.as_path() } else { path.parent().unwrap_or(Path::new("")) };
        for (entry, place) in &named {
            loader.add(&entry.source, folder, &|message| SettingsError {
                path: path.clone(),
                place: Some(*place),
                message,
            })?;
        }
        for source in more {
            loader.add_trusted(source, &project.folder)?;
        }
        loader.finish()
    }

    /// One pack with those that it names, whatever the settings of a code base say.
    ///
    /// # Errors
    /// When it cannot be read or is wrong.
    pub fn alone(project: &Project, source: &PackSource) -> Result<Packs, SettingsError> {
        let mut loader = Loader::new(project);
        loader.add_trusted(source, &project.folder)?;
        loader.finish()
    }
}

struct Loader<'p> {
    project: &'p Project,
    /// The texts of the packs by their paths, in the order in which they were named.
    texts: Vec<(PathBuf, String)>,
    list: Vec<Pack>,
    rules: Vec<HouseRule>,
    kinds: Kinds,
    /// The packs that are being read: what names one of them goes in a circle.
    open: Vec<PathBuf>,
    /// Where each name was given first.
    names: BTreeMap<String, PathBuf>,
}

/// A pack that was found: what it is called in messages, its text, and where lists and packs beside it are.
struct Located {
    path: PathBuf,
    text: String,
    beside: Option<PathBuf>,
    is_trusted: bool,
}

impl<'p> Loader<'p> {
    fn new(project: &'p Project) -> Loader<'p> {
        Loader {
            project,
            texts: Vec::new(),
            list: Vec::new(),
            rules: Vec::new(),
            kinds: Kinds::default(),
            open: Vec::new(),
            names: BTreeMap::new(),
        }
    }

    /// Adds a pack that a settings file or another pack names. Paths start from `folder`, and may not lead out of the code base.
    fn add(&mut self, source: &PackSource, folder: &Path, wrong: Wrong<'_>) -> Loaded<()> {
        let located = self.locate(source, Some(folder), wrong)?;
        self.add_located(source, located, wrong)
    }

    /// Adds a pack that the user names on the command line.
    fn add_trusted(&mut self, source: &PackSource, folder: &Path) -> Loaded<()> {
        let located = match source {
            PackSource::Path(path) => {
                let whole = absolute(folder, Path::new(path));
                let path = if whole.is_dir() { whole.join(PACK_FILE) } else { whole };
                let text = read_file(&path, files::read_bounded(&path, LARGEST_PACK))?;
                Located { beside: path.parent().map(Path::to_path_buf), path, text, is_trusted: true }
            }
            PackSource::BuiltIn(name) => self.locate(source, None, &|message| whole(name, message))?,
            PackSource::Address { address, .. } => self.locate(source, None, &|message| whole(address, message))?,
        };
        let path = located.path.clone();
        self.add_located(source, located, &|message| SettingsError { path: path.clone(), place: None, message })
    }

    fn locate(&self, source: &PackSource, folder: Option<&Path>, wrong: Wrong<'_>) -> Loaded<Located> {
        let path = path_of(source);
        match source {
            PackSource::BuiltIn(name) => {
                let text = built_in::text(name).ok_or_else(|| {
                    let names = BUILT_IN.iter().map(|(name, _)| *name);
                    let hint = nearest(name, names);
                    wrong(format!(
                        "there is no built-in pack \"{name}\"{hint}; a file is named by its path, as ./{name}.toml"
                    ))
                })?;
                Ok(Located { path, text: text.to_string(), beside: None, is_trusted: true })
            }
            PackSource::Address { address, sha256 } => {
                let text = fetch::pack(address, sha256.as_deref()).map_err(|error| wrong(error.to_string()))?;
                Ok(Located { path, text, beside: None, is_trusted: false })
            }
            PackSource::Path(named) => {
                let folder = folder
                    .ok_or_else(|| wrong(format!("a pack that is not a file here cannot name the file {named}")))?;
                let files = &*self.project.files;
                let whole = absolute(folder, Path::new(named));
                if !whole.starts_with(&self.project.root) {
                    return Err(wrong(format!("{named} is outside of the code base")));
                }
                let path = if files.is_folder(&whole) { whole.join(PACK_FILE) } else { whole };
                let bytes = self
                    .read(files, &path)
                    .map_err(|error| wrong(format!("the pack {named} cannot be read: {}", error.without_path())))?;
                let text = read_file(&path, Ok(bytes))?;
                Ok(Located { beside: path.parent().map(Path::to_path_buf), path, text, is_trusted: false })
            }
        }
    }

    /// Reads a file of the code base; no link on the way to it may lead out of it.
    fn read(&self, files: &dyn Files, path: &Path) -> Result<Vec<u8>, FileError> {
        let root = &self.project.root;
        let leads_away = files.real(path).and_then(|real| Ok(!real.starts_with(files.real(root)?)));
        if leads_away.unwrap_or(false) {
            let cause = std::io::Error::other("a link leads to it, out of the code base");
            return Err(FileError { path: path.to_path_buf(), doing: "read", cause });
        }
        files.read_within(root, path, LARGEST_PACK)
    }

    fn add_located(&mut self, source: &PackSource, located: Located, wrong: Wrong<'_>) -> Loaded<()> {
        let Located { path, text, beside, is_trusted } = located;
        if let Some(first) = self.open.iter().position(|open| *open == path) {
            let shown = |path: &PathBuf| self.project.shown(path);
            let circle: Vec<String> = self.open[first..].iter().chain([&path]).map(shown).collect();
            return Err(wrong(format!("packs name each other in a circle: {}", circle.join(" → "))));
        }
        if self.texts.iter().any(|(known, _)| *known == path) {
            return Ok(());
        }
        if self.open.len() >= DEEPEST || self.list.len() >= MOST_PACKS {
            return Err(wrong(format!("more than {DEEPEST} packs within each other, or {MOST_PACKS} in all")));
        }
        let read_beside = |named: &str| self.beside(beside.as_deref(), named, is_trusted);
        let pack = PackFile::read(&path, &text, &read_beside, &self.kinds)?;
        if let Some(other) = self.names.get(&pack.name) {
            let other = self.project.shown(other);
            return Err(wrong(format!("{other} is a pack called \"{}\" already", pack.name)));
        }
        self.names.insert(pack.name.clone(), path.clone());
        self.open.push(path.clone());
        for (entry, place) in &pack.packs {
            let wrong = |message| SettingsError { path: path.clone(), place: Some(*place), message };
            let located = self.locate(&entry.source, beside.as_deref(), &wrong)?;
            self.add_located(&entry.source, located, &wrong)?;
        }
        self.open.pop();
        self.rules.extend(pack.rules);
        if self.rules.len() > MOST_RULES {
            return Err(wrong(format!("more than {MOST_RULES} rules in all packs")));
        }
        self.list.push(Pack {
            name: pack.name,
            version: pack.version,
            about: pack.about,
            source: source.clone(),
            path: path.clone(),
            has_settings: pack.has_settings,
            sha256: fetch::sha256(text.as_bytes()),
        });
        self.texts.push((path, text));
        Ok(())
    }

    /// A file beside a pack, or a schema that comes along with the program.
    fn beside(&self, folder: Option<&Path>, named: &str, is_trusted: bool) -> Result<Vec<u8>, String> {
        if let Some(schema) = built_in::schema(named) {
            return schema.map(|text| text.as_bytes().to_vec());
        }
        let folder = folder.ok_or_else(|| "only a pack in a folder can have files beside it".to_string())?;
        let path = absolute(folder, Path::new(named));
        if !path.starts_with(folder) {
            return Err(format!("{named} is not beside the pack"));
        }
        let bytes =
            if is_trusted { files::read_bounded(&path, LARGEST_PACK) } else { self.read(&*self.project.files, &path) };
        bytes.map_err(|error| format!("{named} cannot be read: {}", error.without_path()))
    }

    /// The packs. Their settings are read now that all rules are known.
    fn finish(self) -> Loaded<Packs> {
        let mut packs = Packs::new(self.rules, self.list);
        for (path, text) in &self.texts {
            if let Some(settings) = settings_in(path, text, packs.rules(), &self.project.root)? {
                packs.settings.push(Arc::new(settings));
            }
        }
        Ok(packs)
    }
}

/// What is wrong with a pack as a whole.
fn whole(name: &str, message: String) -> SettingsError {
    SettingsError { path: PathBuf::from(name), place: None, message }
}

/// What stands for the path of a pack in messages.
fn path_of(source: &PackSource) -> PathBuf {
    match source {
        PackSource::BuiltIn(name) => PathBuf::from(format!("built-in pack {name}")),
        PackSource::Path(path) => PathBuf::from(path),
        PackSource::Address { address, .. } => PathBuf::from(address),
    }
}
