//! `hsieve sift`

use std::collections::BTreeSet;
use std::io::{IsTerminal, Read};
use std::path::Path;
use std::sync::Arc;
use std::time::Instant;

use anyhow::Context;
use sieve_engine::discover::language_of_name;
use sieve_engine::git::{Git, Provenance, provenance};
use sieve_engine::last_run;
use sieve_engine::outcome::{Outcome, folder_of};
use sieve_engine::project::absolute;
use sieve_engine::run::Wants;
use sieve_rules::{Level, RuleId};
use sieve_syntax::language::Language;

use crate::arguments::SiftArguments;
use crate::output::{self, Comparison, Earlier, Form, Shown};
use crate::report::Record;
use crate::run::{Setup, left_in, level, shown, word_of};
use crate::screen::{Screen, complain};
use crate::status::{Status, usage};

/// Sifts, and reports.
pub fn run(arguments: &SiftArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let setup = Setup::counting(&arguments.common, &arguments.counting, arguments.staged)?;
    with_setup(arguments, setup, screen)
}

/// The same with what was put together already.
pub fn with_setup(arguments: &SiftArguments, mut setup: Setup, screen: &mut Screen) -> anyhow::Result<Status> {
    let started = Instant::now();
    let forms = forms(arguments)?;
    let has = |is_so: fn(Form) -> bool| forms.iter().any(|(form, _)| is_so(*form));
    let least = arguments.level.as_deref().map_or(Ok(Level::Note), |word| level("--level", word))?;
    let failing = arguments.fail_on.as_deref().map(|word| level("--fail-on", word)).transpose()?;
    let rules = Arc::clone(setup.settings.rule_set());
    let is_asked = left_in(&arguments.common, &rules);
    let earlier = arguments.against.as_deref().map(|path| Earlier::read(path, is_asked)).transpose()?;
    let wants = Wants {
        excerpts: has(Form::shows_code),
        identities: has(Form::has_fingerprints) || earlier.is_some(),
        sizes: has(|form| form == Form::Counts),
    };
    let from_input = setup.paths.iter().any(|path| path.as_os_str() == "-");
    if from_input {
        read_input(arguments, &mut setup)?;
    }
    let outcome = setup.sift(wants)?.outcome;
    let failing = match failing {
        Some(level) => level,
        None => failing_level(&setup)?,
    };
    let is_passed_by = |path: &str| {
        let path = setup.project.path_of(path);
        // Settings and the baseline are looked at where everything is.
        let is_asked_for = setup.paths.is_empty() && Language::of_extension(&ending(&path)).is_none();
        setup.project.files.is_file(&path) && !is_asked_for
    };
    let comparison = earlier.map(|earlier| Comparison::of(&outcome, earlier, is_passed_by));
    let status = if !outcome.errors.is_empty() {
        Status::Failed
    } else if outcome.fails_at(failing) || outcome.debt_fails() {
        Status::Findings
    } else {
        Status::Clean
    };
    let is_log = has(|form| form == Form::Sarif);
    let view = Shown {
        outcome: &outcome,
        least,
        failing,
        status,
        held: arguments.held,
        unsure: arguments.unsure,
        left_out: arguments.left_out,
        limit: arguments.limit,
        density_before: density_before(arguments, &setup, &outcome, from_input),
        comparison: comparison.as_ref(),
        ran: if is_log { rules_on(&setup, &outcome)? } else { BTreeSet::new() },
        provenance: if is_log { provenance_of(&setup) } else { None },
    };
    if let Some(path) = &arguments.record {
        Record::of(&outcome, &setup.project, setup.today).append_to(path)?;
    }
    report(arguments, &setup, &view, &forms, started, screen)?;
    for error in &outcome.errors {
        complain(error);
    }
    Ok(status)
}

/// Where the files come from, if git knows.
fn provenance_of(setup: &Setup) -> Option<Provenance> {
    provenance(&Git::around(&setup.project.folder).ok()?)
}

fn ending(path: &Path) -> String {
    path.extension().map_or_else(String::new, |ending| ending.to_string_lossy().into_owned())
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
fn forms(arguments: &SiftArguments) -> anyhow::Result<Vec<(Form, Option<&Path>)>> {
    let given = &arguments.outputs.all;
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

fn report(
    arguments: &SiftArguments,
    setup: &Setup,
    view: &Shown<'_>,
    forms: &[(Form, Option<&Path>)],
    started: Instant,
    screen: &mut Screen,
) -> anyhow::Result<()> {
    for (form, path) in forms {
        let Some(path) = path else { continue };
        let text = output::plain(view, *form, screen.width())?;
        setup.write_output(path, &text, view.outcome)?;
    }
    let is_quiet = arguments.common.quiet;
    match forms.iter().find(|(_, path)| path.is_none()) {
        Some((form, _)) => {
            output::write(view, *form, screen)?;
            if !is_quiet {
                output::account::write(view, *form, started.elapsed(), screen)?;
            }
        }
        None if is_quiet => {}
        None => output::account::write_aside(view, started.elapsed(), screen.width()),
    }
    Ok(())
}

/// The density of the last run of this sort here; that of this run is kept for the next. Only runs over everything are compared.
fn density_before(arguments: &SiftArguments, setup: &Setup, outcome: &Outcome, from_input: bool) -> Option<f64> {
    let common = &arguments.common;
    let is_part =
        from_input || setup.changes.is_some() || !common.choice.only.is_empty() || !common.choice.without.is_empty();
    if is_part || common.quiet {
        return None;
    }
    let kind =
        format!("{:?} {:?} {:?} {}", setup.paths, common.choice.mesh, common.settings, arguments.counting.no_baseline);
    last_run::exchange(&setup.project, &kind, outcome.density()?)
}

/// Puts what comes on standard input in the place of the file that it could be, so that it is sifted like any other.
fn read_input(arguments: &SiftArguments, setup: &mut Setup) -> anyhow::Result<()> {
    if setup.paths.len() > 1 {
        return usage("`-` is standard input and cannot be combined with other paths");
    }
    if setup.changes.is_some() {
        return usage("`-` is standard input, of which git knows no changes");
    }
    let mut bytes = Vec::new();
    std::io::stdin().lock().read_to_end(&mut bytes).context("standard input cannot be read")?;
    let name = arguments.name.as_deref().unwrap_or("-");
    let path = absolute(&setup.project.folder, Path::new(name));
    let settings = setup.settings.for_file(&path).map_err(|error| shown(&setup.project, error))?;
    if language_of_name(name, &bytes, &settings).is_none() {
        return usage("the language of standard input is not known; name a file it could be: --as booking/fares.py");
    }
    setup.sift_only(path, bytes);
    Ok(())
}
