//! `hsieve triage`

use sieve_engine::Workspace;
use sieve_engine::project::absolute;
use sieve_engine::run::Wants;
use sieve_rules::Level;

use crate::arguments::{Common, TriageArguments};
use crate::ask;
use crate::progress::Bar;
use crate::run::{Setup, level};
use crate::screen::{FAINT, STRONG, Screen, counted, safe, styled};
use crate::status::{Status, usage};
use crate::terminal::Palette;
use crate::triage::{self, Chosen, State, Way, Work};

/// Works through findings on the terminal, and says at the end what was done.
pub fn run(arguments: &TriageArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    if !ask::can_ask() {
        return usage("triage needs a terminal for its keys; `hsieve sift` reports the same findings anywhere");
    }
    let least = arguments.level.as_deref().map_or(Ok(Level::Note), |word| level("--level", word))?;
    let common = Common { choice: arguments.choice.clone(), paths: arguments.paths.clone(), ..Common::default() };
    let Setup { project, overrides, baseline, paths, .. } = Setup::new(&common)?;
    let paths = paths.iter().map(|path| absolute(&project.folder, path)).collect();
    if let Some(missing) = arguments.paths.iter().find(|path| !path.exists()) {
        return usage(format!("{}: there is no such file or folder", missing.display()));
    }
    let workspace = Workspace::new(project, overrides, baseline, Wants::IDENTITIES);
    let bar = Bar::new(false);
    let work = Work::begin(workspace, Chosen { paths, least }, &bar)?;
    bar.clear();
    if work.items.count(State::Open) == 0 {
        screen.line(styled(STRONG, "Nothing to triage: there is no finding that is not held back."))?;
        return Ok(Status::Clean);
    }
    let work = triage::go_on(work, Palette { colour: screen.in_colour() })?;
    tell(&work, screen)?;
    Ok(Status::Clean)
}

/// What was done, line by line, and what is left.
fn tell(work: &Work, screen: &mut Screen) -> anyhow::Result<()> {
    for step in work.steps().iter().filter(|step| step.way != Way::Skipped) {
        screen.line(format!("{:<9}  {}", step.way.word(), styled(STRONG, &safe(&step.what))))?;
    }
    let left = work.items.count(State::Open) + work.items.count(State::Done(Way::Skipped));
    let left = counted(left, "finding is left", "findings are left");
    screen.line(styled(FAINT, &left))
}
