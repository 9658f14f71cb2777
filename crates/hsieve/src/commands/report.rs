//! `hsieve report`

use std::ffi::OsString;
use std::io::IsTerminal;
use std::path::{Path, PathBuf};

use sieve_engine::baseline::Baseline;
use sieve_engine::git::{Git, line_counts};
use sieve_engine::outcome::Outcome;
use sieve_engine::owners::Owners;
use sieve_engine::run::Wants;
use sieve_rules::catalogue::history::CURRENT;

use crate::arguments::ReportArguments;
use crate::report::{Facts, MOST_PLACES, Record, csv, markdown, page};
use crate::run::{Setup, shown};
use crate::screen::{STRONG, Screen, complain, counted, safe, styled};
use crate::status::{Status, usage};

/// Sifts, and writes the report.
pub fn run(arguments: &ReportArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let is_page = arguments.output == "html";
    if is_page && arguments.to.is_none() && std::io::stdout().is_terminal() {
        return usage("a page is not for a terminal: name a file, such as --to report.html");
    }
    let records = arguments.history.as_deref().map(Record::read_all).transpose()?.unwrap_or_default();
    let setup = Setup::new(&arguments.common)?;
    let outcome = setup.sift(Wants { excerpts: true, sizes: true, ..Wants::NONE })?.outcome;
    let (records, others): (Vec<Record>, Vec<Record>) =
        records.into_iter().partition(|record| record.is_like(&outcome));
    if !others.is_empty() {
        complain(format!("{} with another mesh left aside", counted(others.len(), "recorded run", "recorded runs")));
    }
    let facts = facts(&setup, &outcome, records)?;
    let (text, rest) = match arguments.output.as_str() {
        "markdown" => (markdown(&facts), None),
        "csv" => (csv(&facts)?, None),
        _ => {
            let rest = arguments.to.as_deref().filter(|_| outcome.caught().count() > MOST_PLACES).map(beside);
            let name = rest.as_ref().and_then(|path| Some(path.file_name()?.to_string_lossy().into_owned()));
            (page(&facts, name.as_deref()), rest)
        }
    };
    match &arguments.to {
        None => screen.raw(text.as_bytes())?,
        Some(path) => {
            setup.write_output(path, text.as_bytes(), &outcome.sifted)?;
            if let Some(rest) = &rest {
                setup.write_output(rest, csv(&facts)?.as_bytes(), &outcome.sifted)?;
            }
            if !arguments.common.quiet {
                let all = counted(outcome.caught().count(), "finding", "findings");
                let also = rest.map_or(String::new(), |rest| format!(" and {}", safe(&rest.display().to_string())));
                screen.line(format!("{}{also}  {all}", styled(STRONG, &safe(&path.display().to_string()))))?;
            }
        }
    }
    for error in &outcome.errors {
        complain(error);
    }
    Ok(if outcome.errors.is_empty() { Status::Clean } else { Status::Failed })
}

/// The file for all places, beside a page that cannot list them.
fn beside(path: &Path) -> PathBuf {
    let mut name = path.file_stem().map_or_else(OsString::new, OsString::from);
    name.push("-places.csv");
    path.with_file_name(name)
}

fn facts<'f>(setup: &'f Setup, outcome: &'f Outcome, records: Vec<Record>) -> anyhow::Result<Facts<'f>> {
    let project = &setup.project;
    let git = Git::around(&project.folder).ok();
    let baseline = Baseline::path_in(project);
    let debt = git.as_ref().and_then(|git| line_counts(git, &baseline).ok()).unwrap_or_default();
    let settings = setup.settings.for_folder(&project.root).map_err(|error| shown(project, error))?;
    let packs: Vec<String> = setup.settings.packs().list().iter().map(|pack| pack.name.clone()).collect();
    let rows = [
        ("version", env!("CARGO_PKG_VERSION").to_string()),
        ("defaults", format!("{} (the current ones are {CURRENT})", settings.defaults.value)),
        ("mesh", settings.mesh.value.word().to_string()),
        ("fail-on", settings.fail_on.value.word().to_string()),
        ("packs", if packs.is_empty() { "none".to_string() } else { packs.join(", ") }),
    ];
    let title = project.root.file_name().map_or_else(|| "code base".into(), |name| name.to_string_lossy().into_owned());
    Ok(Facts {
        outcome,
        project,
        title,
        day: setup.today,
        revision: git.as_ref().and_then(Git::revision),
        owners: Owners::find(&project.root),
        records,
        debt,
        settings: rows.into_iter().map(|(name, value)| (name.to_string(), value)).collect(),
    })
}
