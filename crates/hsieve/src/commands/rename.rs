//! `hsieve rename`

use std::path::Path;

use sieve_engine::files;
use sieve_engine::fix::{FixedFile, FixingRun};
use sieve_engine::project::{Project, absolute};
use sieve_engine::rename::{self, CannotRename, Plan, RenameRequest};
use sieve_engine::run::{Request, Unwatched, Wants};
use sieve_engine::settings::{Overrides, SettingsTree};
use sieve_syntax::text::Place;

use super::fix::show_diff;
use crate::arguments::RenameArguments;
use crate::run::{project_of, shown};
use crate::screen::{FAINT, STRONG, Screen, complain, counted, safe, styled};
use crate::status::{Status, usage, usage_in_lines};

/// More mentions than this are only counted.
const SHOWN_MENTIONS: usize = 12;

/// Renames a name with every use that resolves to it.
pub fn run(arguments: &RenameArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let Some((name, place)) = place_of(&arguments.place) else {
        let message = format!("{}: name a file, a line and a column, such as booking/fares.py:13:5", arguments.place);
        return usage(message);
    };
    let project = project_of(&[name.into()])?;
    let settings = SettingsTree::new(&project, None, Overrides::default()).map_err(|error| shown(&project, error))?;
    let request = Request {
        project: &project,
        settings: &settings,
        paths: &[],
        baseline: None,
        only_changes: None,
        wants: Wants::default(),
        shared: None,
        cache: false,
        today: sieve_engine::today(),
        threads: None,
        progress: &Unwatched,
    };
    let path = absolute(&project.folder, Path::new(name));
    files::read(&path)?;
    let asked = RenameRequest {
        path: &path,
        place,
        new: &arguments.new,
        all_members: arguments.all_members,
        family: arguments.family,
        mentions: arguments.mentions,
        with_file: arguments.with_file,
    };
    let plan = match rename::plan(&request, &asked) {
        Ok(plan) => plan,
        Err(CannotRename::File(error)) => return Err(error.into()),
        Err(CannotRename::Settings(error)) => return Err(shown(&project, error).into()),
        Err(error) => {
            let words = format!("nothing was renamed: {error}");
            return usage_in_lines(words.lines().map(str::to_string).collect());
        }
    };
    if arguments.preview {
        return preview(&plan, &project, arguments, screen);
    }
    let run = FixingRun::begin(&project, !arguments.no_undo)?;
    apply(&plan, &run, &project, arguments, screen)
}

fn place_of(text: &str) -> Option<(&str, Place)> {
    let (rest, column) = text.rsplit_once(':')?;
    let (name, line) = rest.rsplit_once(':')?;
    let place = Place { line: line.parse().ok()?, column: column.parse().ok()? };
    (place.line > 0 && place.column > 0 && !name.is_empty()).then_some((name, place))
}

fn preview(plan: &Plan, project: &Project, arguments: &RenameArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    for file in &plan.files {
        show_diff(&file.diff(project), screen)?;
    }
    show_moves(plan.files.iter(), project, screen, "moves       ")?;
    report(plan, project, arguments, screen, "Would rename")?;
    Ok(Status::Findings)
}

fn apply(
    plan: &Plan,
    run: &FixingRun<'_>,
    project: &Project,
    arguments: &RenameArguments,
    screen: &mut Screen,
) -> anyhow::Result<Status> {
    let written = run.write_all(&plan.files)?;
    for file in written.files.iter().filter(|file| file.before != file.after) {
        screen.line(format!("renamed in  {}", styled(STRONG, &safe(&file.shown))))?;
    }
    for error in &written.errors {
        complain(error);
    }
    if !written.errors.is_empty() {
        return Ok(Status::Failed);
    }
    show_moves(written.files.iter().copied(), project, screen, "moved       ")?;
    report(plan, project, arguments, screen, "Renamed")?;
    if let Some(error) = &written.not_undoable {
        complain(format!("this run cannot be undone: {error}"));
    } else if !arguments.no_undo {
        screen.line(styled(FAINT, "`hsieve fix --undo` takes this run back."))?;
    }
    Ok(Status::Clean)
}

/// The files that get another name.
fn show_moves<'f>(
    files: impl Iterator<Item = &'f FixedFile>,
    project: &Project,
    screen: &mut Screen,
    verb: &str,
) -> anyhow::Result<()> {
    for (from, to) in files.filter_map(|file| Some((&file.path, file.moved_to.as_ref()?))) {
        let (from, to) = (safe(&project.shown(from)).to_string(), safe(&project.shown(to)).to_string());
        screen.line(format!("{verb}{}  to  {}", styled(STRONG, &from), styled(STRONG, &to)))?;
    }
    Ok(())
}

fn report(
    plan: &Plan,
    project: &Project,
    arguments: &RenameArguments,
    screen: &mut Screen,
    verb: &str,
) -> anyhow::Result<()> {
    if !plan.mentions.is_empty() {
        let count = counted(
            plan.mentions.len(),
            "place in comments and strings mentions",
            "places in comments and strings mention",
        );
        screen.line(format!("{count} \"{}\" (--mentions changes them too)", safe(&plan.old)))?;
        for mention in plan.mentions.iter().take(SHOWN_MENTIONS) {
            let kind = if mention.in_comment { "comment" } else { "text" };
            screen.line(format!("  {kind:<8}{}", safe(&mention.shown)))?;
        }
        if plan.mentions.len() > SHOWN_MENTIONS {
            screen.line(styled(FAINT, &format!("  and {} more", plan.mentions.len() - SHOWN_MENTIONS)))?;
        }
    }
    if let Some((from, to)) = plan.file.as_ref().filter(|_| !arguments.with_file) {
        let name = to.file_name().unwrap_or_default().to_string_lossy();
        let from = project.shown(from);
        screen.line(format!("{} is named after it (--with-file calls it {})", safe(&from), safe(&name)))?;
    }
    let changed = plan.files.iter().filter(|file| file.before != file.after).count();
    let (places, files) = (counted(plan.places, "place", "places"), counted(changed, "file", "files"));
    let text = format!("{verb} \"{}\" to \"{}\"", safe(&plan.old), safe(&arguments.new));
    screen.line(format!("{}{}", styled(STRONG, &text), styled(FAINT, &format!(" in {places} of {files}"))))?;
    Ok(())
}
