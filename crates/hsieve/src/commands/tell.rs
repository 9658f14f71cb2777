//! What is reported of an outcome: every form that is asked for, the account, and the exit status.

use std::collections::BTreeSet;
use std::io::IsTerminal;
use std::path::Path;
use std::sync::Arc;
use std::time::Instant;

use sieve_engine::discover::of_name;
use sieve_engine::git::{Git, Provenance, provenance};
use sieve_engine::last_run;
use sieve_engine::outcome::{Outcome, folder_of};
use sieve_engine::run::Wants;
use sieve_engine::{SharedCache, Work};
use sieve_rules::{Level, RuleId};

use crate::arguments::{Common, Counting, Telling};
use crate::output::{self, Comparison, Earlier, Form, Origin, Shown};
use crate::report::Record;
use crate::run::{Setup, left_in, level, shown, word_of};
use crate::screen::{Screen, complain};
use crate::status::{Status, usage};

/// What is to be told, made sure of before anything is sifted.
pub struct Plan<'p> {
    telling: &'p Telling,
    common: &'p Common,
    counting: &'p Counting,
    forms: Vec<(Form, Option<&'p Path>)>,
    least: Level,
    /// The level that fails the run, where an option says it.
    failing: Option<Level>,
    earlier: Option<Earlier>,
    started: Instant,
}

impl<'p> Plan<'p> {
    /// Reads the options, and the earlier run where there is one to compare with.
    pub fn new(
        telling: &'p Telling,
        common: &'p Common,
        counting: &'p Counting,
        setup: &Setup,
    ) -> anyhow::Result<Plan<'p>> {
        let started = Instant::now();
        let forms = forms(telling)?;
        let least = telling.level.as_deref().map_or(Ok(Level::Note), |word| level("--level", word))?;
        let failing = telling.fail_on.as_deref().map(|word| level("--fail-on", word)).transpose()?;
        let rules = Arc::clone(setup.settings.rule_set());
        let is_asked = left_in(common, &rules);
        let earlier = telling.against.as_deref().map(|path| Earlier::read(path, is_asked)).transpose()?;
        Ok(Plan { telling, common, counting, forms, least, failing, earlier, started })
    }

    fn has(&self, is_so: fn(Form) -> bool) -> bool {
        self.forms.iter().any(|(form, _)| is_so(*form))
    }

    /// What findings must carry for it.
    pub fn wants(&self) -> Wants {
        Wants {
            excerpts: self.has(Form::shows_code),
            identities: self.has(Form::has_fingerprints) || self.earlier.is_some(),
            sizes: self.has(|form| form == Form::Counts),
        }
    }

    /// Tells it. `from_input` says that a single text was sifted, which is no code base.
    pub fn tell(
        mut self,
        setup: &Setup,
        (outcome, work): (&Outcome, Option<Work>),
        from_input: bool,
        screen: &mut Screen,
    ) -> anyhow::Result<Status> {
        let failing = match self.failing {
            Some(level) => level,
            None => failing_level(setup)?,
        };
        let is_passed_by = |path: &str| {
            let path = setup.project.path_of(path);
            // Settings and the baseline are looked at where everything is.
            let is_asked_for = setup.paths.is_empty() && of_name(&path).is_none();
            setup.project.files.is_file(&path) && !is_asked_for
        };
        let comparison = self.earlier.take().map(|earlier| Comparison::of(outcome, earlier, is_passed_by));
        let status = status_of(outcome, failing);
        let is_log = self.has(|form| form == Form::Sarif);
        let view = Shown {
            outcome,
            least: self.least,
            failing,
            status,
            held: self.telling.held,
            unsure: self.telling.unsure,
            left_out: self.telling.left_out,
            limit: self.telling.limit,
            density_before: if from_input { None } else { self.density_before(setup, outcome) },
            origin: self.common.verbose.then(|| Origin { work, shared: setup.shared.as_ref().map(SharedCache::work) }),
            comparison: comparison.as_ref(),
            ran: if is_log { rules_on(setup, outcome)? } else { BTreeSet::new() },
            provenance: if is_log { provenance_of(setup) } else { None },
        };
        if let Some(path) = &self.telling.record {
            Record::of(outcome, &setup.project, setup.today).append_to(path)?;
        }
        self.write(setup, &view, screen)?;
        for error in &outcome.errors {
            complain(error);
        }
        Ok(status)
    }

    /// Writes all forms, those in files first, and the account.
    fn write(&self, setup: &Setup, view: &Shown<'_>, screen: &mut Screen) -> anyhow::Result<()> {
        for (form, path) in &self.forms {
            let Some(path) = path else { continue };
            let text = output::plain(view, *form, screen.width())?;
            setup.write_output(path, text.as_bytes(), &view.outcome.sifted)?;
        }
        let took = self.started.elapsed();
        match self.forms.iter().find(|(_, path)| path.is_none()) {
            Some((form, _)) => {
                output::write(view, *form, screen)?;
                if !self.common.quiet {
                    output::account::write(view, *form, took, screen)?;
                }
            }
            None if self.common.quiet => {}
            None => output::account::write_aside(view, took, screen.width()),
        }
        Ok(())
    }

    /// The density of the last run of this sort here; that of this run is kept for the next. Only runs over everything are compared.
    fn density_before(&self, setup: &Setup, outcome: &Outcome) -> Option<f64> {
        let choice = &self.common.choice;
        let is_part = setup.changes.is_some() || !choice.only.is_empty() || !choice.without.is_empty();
        if is_part || self.common.quiet {
            return None;
        }
        let kind =
            format!("{:?} {:?} {:?} {}", setup.paths, choice.mesh, self.common.settings, self.counting.no_baseline);
        last_run::exchange(&setup.project, &kind, outcome.density()?)
    }
}

/// How a run ends.
fn status_of(outcome: &Outcome, failing: Level) -> Status {
    if !outcome.errors.is_empty() {
        Status::Failed
    } else if outcome.fails_at(failing) || outcome.debt_fails() {
        Status::Findings
    } else {
        Status::Clean
    }
}

/// Where the files come from, if git knows.
fn provenance_of(setup: &Setup) -> Option<Provenance> {
    provenance(&Git::around(&setup.project.folder).ok()?)
}

/// The rules that were on for some file.
fn rules_on(setup: &Setup, outcome: &Outcome) -> anyhow::Result<BTreeSet<RuleId>> {
    let mut folders: Vec<&str> = outcome.sifted.iter().map(|path| folder_of(path)).collect();
    folders.dedup();
    let mut on = BTreeSet::new();
    for folder in folders {
        let folder = setup.project.path_of(folder);
        let settings = setup.settings.for_folder(&folder).map_err(|error| shown(&setup.project, error))?;
        let rules = settings.rule_set().iter().map(|(id, _)| id);
        on.extend(rules.filter(|id| settings.level(*id) != Level::Off));
    }
    Ok(on)
}

/// The forms that are asked for, and where each goes: at most one to standard output.
fn forms(telling: &Telling) -> anyhow::Result<Vec<(Form, Option<&Path>)>> {
    let given = &telling.outputs.all;
    if given.is_empty() {
        return Ok(vec![(if std::io::stdout().is_terminal() { Form::Cards } else { Form::Lines }, None)]);
    }
    let mut forms = Vec::new();
    for (word, file) in given {
        let form = match word {
            Some(word) => word_of("--output", word, Form::ALL, Form::word)?,
            None => Form::Lines,
        };
        if let Some(twice) =
            file.as_ref().filter(|file| given.iter().filter(|(_, other)| other.as_ref() == Some(file)).count() > 1)
        {
            return usage(format!("--to {}: only one form can be written to it", twice.display()));
        }
        forms.push((form, file.as_deref()));
    }
    if let [(one, _), (other, _), ..] = forms.iter().filter(|(_, file)| file.is_none()).collect::<Vec<_>>()[..] {
        return usage(format!(
            "--output {} and --output {} cannot both go to standard output: add --to FILE after one of them",
            one.word(),
            other.word()
        ));
    }
    Ok(forms)
}

/// The level that the settings of the working folder fail on.
fn failing_level(setup: &Setup) -> anyhow::Result<Level> {
    let settings = setup.settings.for_folder(&setup.project.folder).map_err(|error| shown(&setup.project, error))?;
    Ok(settings.fail_on.value)
}
