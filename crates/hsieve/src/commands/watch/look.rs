//! Looks at what changed, and has it told.

use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

use sieve_engine::Workspace;
use sieve_engine::baseline::{self, Baseline};
use sieve_engine::discover::of_name;
use sieve_engine::run::Progress;
use sieve_engine::settings::SettingsError;

use super::known::{Difference, Known};
use super::watcher::{Changed, Watcher};
use crate::run::shown;

/// More files than this are not looked at one by one: then everything is, which takes about as long.
const ONE_BY_ONE: usize = 20;

/// Whoever tells the user what a change brought.
pub trait Teller {
    /// A change: the files that it was in, as they are shown, none where it reports what that did elsewhere.
    fn tell(&mut self, changed: &[String], difference: &Difference, known: &Known) -> anyhow::Result<()>;

    /// Something is wrong.
    fn complain(&mut self, words: String);
}

/// The code base while it changes.
pub struct Watch {
    /// The files.
    pub workspace: Workspace,
    /// Notices what changes.
    pub watcher: Watcher,
    /// What is reported now.
    pub known: Known,
    /// What is wrong with the settings, told once.
    fault: Option<SettingsError>,
}

impl Watch {
    /// Begins with what is reported at the start.
    pub fn begin(workspace: Workspace, watcher: Watcher, known: Known) -> Watch {
        Watch { workspace, watcher, known, fault: None }
    }

    /// Reports a change: first what it did to its own files, then what it did elsewhere.
    pub fn look(&mut self, changed: &Changed, teller: &mut dyn Teller) -> anyhow::Result<()> {
        let decides = changed.decides(is_source);
        let is_told = self.look_at_each(changed, decides, teller)?;
        self.look_at_all(changed, decides, is_told, teller)
    }

    /// Looks at each file that changed by itself; whether something was told.
    fn look_at_each(&mut self, changed: &Changed, decides: bool, teller: &mut dyn Teller) -> anyhow::Result<bool> {
        let sources: Vec<&PathBuf> = changed.paths.iter().filter(|path| is_source(path)).collect();
        sources.iter().for_each(|path| self.workspace.forget(path));
        if decides || sources.len() > ONE_BY_ONE {
            return Ok(false);
        }
        let mut is_told = false;
        for path in sources.into_iter().filter(|path| path.is_file()) {
            let outcome = match self.workspace.outcome_now(path) {
                Ok(sifted) => sifted.outcome,
                Err(error) => {
                    self.complain_once(error, teller);
                    return Ok(is_told);
                }
            };
            if outcome.files == 0 {
                continue;
            }
            let shown = self.workspace.project().shown(path);
            let difference = self.known.take_file(&shown, outcome);
            teller.tell(&[shown], &difference, &self.known)?;
            is_told = true;
        }
        Ok(is_told)
    }

    /// Looks at everything, unless more has changed before that is done.
    fn look_at_all(
        &mut self,
        changed: &Changed,
        decides: bool,
        is_told: bool,
        teller: &mut dyn Teller,
    ) -> anyhow::Result<()> {
        if decides {
            let why = self.watcher.watch_folders(self.workspace.project());
            why.into_iter().for_each(|why| teller.complain(why));
        }
        if changed.anything
            || changed.paths.iter().any(|path| path.file_name().is_some_and(|name| name == baseline::FILE_NAME))
        {
            // Other commands report one that cannot be read.
            self.workspace.set_baseline(Baseline::find(self.workspace.project()).ok().flatten());
        }
        let progress = UntilPending(self.watcher.pending());
        let sifted = match self.workspace.outcome_watched(&progress) {
            Ok(Some(sifted)) => sifted,
            Ok(None) => return Ok(()),
            Err(error) => {
                self.complain_once(error, teller);
                return Ok(());
            }
        };
        self.fault = None;
        let difference = self.known.take(sifted.outcome);
        if !difference.is_empty() || decides && !changed.anything && !is_told {
            let project = self.workspace.project();
            let mut named: Vec<String> = changed.paths.iter().map(|path| project.shown(path)).collect();
            if is_told {
                named.clear();
            } else if changed.anything {
                named = difference.paths().into_iter().map(str::to_string).collect();
            }
            teller.tell(&named, &difference, &self.known)?;
        }
        Ok(())
    }

    fn complain_once(&mut self, error: SettingsError, teller: &mut dyn Teller) {
        if self.fault.as_ref() != Some(&error) {
            teller.complain(shown(self.workspace.project(), error.clone()).to_string());
            self.fault = Some(error);
        }
    }
}

/// Whether a file is a source by its name: one without an ending may be a script.
fn is_source(path: &Path) -> bool {
    match path.extension() {
        Some(_) => of_name(path).is_some(),
        None => path.file_name().is_some_and(|name| !name.as_encoded_bytes().starts_with(b".")) && path.is_file(),
    }
}

/// A look at everything that ends when something changes.
struct UntilPending(Arc<AtomicBool>);

impl Progress for UntilPending {
    fn start(&self, _files: usize) {}
    fn step(&self) {}
    fn is_cancelled(&self) -> bool {
        self.0.load(Ordering::Relaxed)
    }
}
