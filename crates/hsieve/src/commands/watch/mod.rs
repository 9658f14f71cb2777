//! `hsieve watch`

mod block;
mod watcher;

use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Duration;

use sieve_engine::Workspace;
use sieve_engine::baseline::{self, Baseline};
use sieve_engine::run::{Progress, Wants};
use sieve_engine::settings::SettingsError;
use sieve_syntax::language::Language;

use block::{Block, Difference, Known};
use watcher::{Changed, Watcher};

use crate::arguments::{Common, WatchArguments};
use crate::run::{Setup, shown};
use crate::screen::{FAINT, STRONG, Screen, complain, counted, styled};
use crate::status::Status;

/// More files than this are not looked at one by one: then everything is, which takes about as long.
const ONE_BY_ONE: usize = 20;

/// Sifts, and goes on until the program is ended.
pub fn run(arguments: &WatchArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let common = Common { choice: arguments.choice.clone(), ..Common::default() };
    let setup = Setup::new(&common)?;
    let (watcher, why) = Watcher::start(&setup.project, arguments.poll.map(Duration::from_secs));
    why.iter().for_each(complain);
    let Setup { project, overrides, baseline, .. } = setup;
    let mut workspace = Workspace::new(project, overrides, baseline, Wants::IDENTITIES);
    let outcome = workspace.outcome().map_err(|error| shown(workspace.project(), error))?.outcome;
    let files = outcome.files;
    let mut known = Known::default();
    known.take(outcome);
    let start = known.count();
    let as_json = arguments.output == "jsonl";
    if as_json {
        let begun =
            Block { changed: &[], difference: &Difference::default(), rules: &known.rules, counts: (start, start) };
        begun.write(true, screen)?;
    } else {
        let watched = format!("Watching {}", counted(files, "file", "files"));
        let found = format!("{}; Ctrl-C ends it", counted(start, "finding", "findings"));
        screen.line(format!("{}  {}", styled(STRONG, &watched), styled(FAINT, &found)))?;
        screen.finish()?;
    }
    Watch { workspace, watcher, known, start, as_json, fault: None }.go_on(screen)
}

struct Watch {
    workspace: Workspace,
    watcher: Watcher,
    known: Known,
    /// How many findings there were.
    start: usize,
    as_json: bool,
    /// What is wrong with the settings, told once.
    fault: Option<SettingsError>,
}

impl Watch {
    /// Reports each change: first what it did to its own files, then what it did elsewhere.
    fn go_on(&mut self, screen: &mut Screen) -> anyhow::Result<Status> {
        loop {
            let changed = self.watcher.wait();
            let decides = changed.decides(is_source);
            let is_told = self.look_at_each(&changed, decides, screen)?;
            self.look_at_all(&changed, decides, is_told, screen)?;
        }
    }

    /// Looks at each file that changed by itself; whether something was told.
    fn look_at_each(&mut self, changed: &Changed, decides: bool, screen: &mut Screen) -> anyhow::Result<bool> {
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
                    self.complain_once(error);
                    return Ok(is_told);
                }
            };
            if outcome.files == 0 {
                continue;
            }
            let shown = self.workspace.project().shown(path);
            let difference = self.known.take_file(&shown, outcome);
            self.tell(&[shown], &difference, screen)?;
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
        screen: &mut Screen,
    ) -> anyhow::Result<()> {
        if decides {
            let why = self.watcher.watch_folders(self.workspace.project());
            why.iter().for_each(complain);
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
                self.complain_once(error);
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
            self.tell(&named, &difference, screen)?;
        }
        Ok(())
    }

    fn tell(&self, changed: &[String], difference: &Difference, screen: &mut Screen) -> anyhow::Result<()> {
        let counts = (self.known.count(), self.start);
        Block { changed, difference, rules: &self.known.rules, counts }.write(self.as_json, screen)
    }

    fn complain_once(&mut self, error: SettingsError) {
        if self.fault.as_ref() != Some(&error) {
            complain(shown(self.workspace.project(), error.clone()));
            self.fault = Some(error);
        }
    }
}

/// Whether a file is a source by its name: one without an ending may be a script.
fn is_source(path: &Path) -> bool {
    match path.extension().and_then(|ending| ending.to_str()) {
        Some(ending) => Language::of_extension(ending).is_some(),
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
