//! `hsieve fix`

use std::path::PathBuf;

use anyhow::Context;
use sieve_engine::fix::{self, FixOutcome, FixedFile, FixingRun, UndoError};
use sieve_engine::project::Project;
use sieve_engine::run::Wants;
use sieve_rules::RuleSet;

use super::review::reviewed;
use crate::arguments::FixArguments;
use crate::output::coloured;
use crate::run::{Setup, project_of, shown};
use crate::screen::{FAINT, STRONG, Screen, complain, counted, safe, styled};
use crate::status::{Status, usage};

/// Applies exact fixes, shows what they would change, walks through the others, or reverts the last run.
pub fn run(arguments: &FixArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    if arguments.undo {
        return undo(&arguments.common.paths, screen);
    }
    let setup = Setup::counting(&arguments.common, &arguments.counting, false)?;
    let run = if arguments.preview { None } else { Some(FixingRun::begin(&setup.project, !arguments.no_undo)?) };
    let planned =
        if arguments.review { reviewed(&setup, screen)? } else { setup.with_request(Wants::default(), fix::plan) };
    let planned = planned.map_err(|error| shown(&setup.project, error))?;
    let rules = setup.settings.rule_set();
    let status = match &run {
        None => preview(&planned, &setup.project, screen)?,
        Some(run) => apply(&planned, (run, &setup.project), rules, arguments, screen)?,
    };
    for (path, blame) in &planned.blamed {
        complain(format!("{path}: {}", blame.describe(rules)));
    }
    for error in &planned.errors {
        complain(error);
    }
    Ok(if planned.errors.is_empty() { status } else { Status::Failed })
}

fn undo(paths: &[PathBuf], screen: &mut Screen) -> anyhow::Result<Status> {
    let project = project_of(paths)?;
    let paths = match fix::undo(&project) {
        Ok(paths) => paths,
        Err(error @ (UndoError::NothingKept | UndoError::Changed(_))) => return usage(error.to_string()),
        Err(error) => return Err(error.into()),
    };
    for path in &paths {
        screen.line(format!("put back  {}", styled(STRONG, &safe(&project.shown(path)))))?;
    }
    screen.line(styled(STRONG, &format!("Reverted the last fixing run, {}", counted(paths.len(), "file", "files"))))?;
    Ok(Status::Clean)
}

fn preview(planned: &FixOutcome, project: &Project, screen: &mut Screen) -> anyhow::Result<Status> {
    for file in &planned.files {
        show_diff(&file.diff(project), screen)?;
    }
    Ok(if planned.files.is_empty() { Status::Clean } else { Status::Findings })
}

/// Prints a diff: for eyes in colour, else in its own bytes.
pub(super) fn show_diff(diff: &[u8], screen: &mut Screen) -> anyhow::Result<()> {
    if screen.in_colour() { screen.line(coloured(diff)) } else { screen.raw(diff) }
}

fn apply(
    planned: &FixOutcome,
    (run, project): (&FixingRun<'_>, &Project),
    rules: &RuleSet,
    arguments: &FixArguments,
    screen: &mut Screen,
) -> anyhow::Result<Status> {
    let written = run
        .write_all(&planned.files)
        .context("nothing was fixed, because this run could not be undone (--no-undo fixes all the same)")?;
    let quiet = arguments.common.quiet;
    if !quiet {
        for file in &written.files {
            screen.line(described(file, rules))?;
        }
        let applied: usize = written.files.iter().flat_map(|file| file.fixed.applied.values()).sum();
        let files = counted(written.files.len(), "file", "files");
        let fixes = counted(applied, "fix", "fixes");
        let looked_at = counted(planned.looked_at, "file", "files");
        let text = match applied {
            0 if arguments.review => "Nothing fixed".to_string(),
            0 => "Nothing to fix".to_string(),
            _ => format!("Applied {fixes} in {files}"),
        };
        screen.line(format!("{}{}", styled(STRONG, &text), styled(FAINT, &format!(", of {looked_at} looked at"))))?;
        if applied > 0 && written.not_undoable.is_none() && !arguments.no_undo {
            let is_here = project.folder.starts_with(&project.root);
            let of = if is_here { String::new() } else { format!(" {}", safe(&project.shown(&project.root))) };
            screen.line(styled(FAINT, &format!("`hsieve fix --undo{of}` takes this run back.")))?;
        }
    }
    screen.finish()?;
    for error in &written.errors {
        complain(error);
    }
    if let Some(error) = &written.not_undoable {
        complain(format!("this run cannot be undone: {error}"));
    }
    Ok(if written.errors.is_empty() { Status::Clean } else { Status::Failed })
}

fn described(file: &FixedFile, rules: &RuleSet) -> String {
    let rules: Vec<String> =
        file.fixed.applied.iter().map(|(rule, count)| format!("{count} {}", rules.name(*rule))).collect();
    format!("fixed  {}  {}", styled(STRONG, &safe(&file.shown)), rules.join(", "))
}
