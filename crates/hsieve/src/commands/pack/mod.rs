//! `hsieve pack`

mod add;
mod new;
mod shown;
mod test;

use sieve_engine::settings::{BUILT_IN_PACKS, PackSource, Packs, pack_schema};

use crate::arguments::{PackArguments, PackCommand};
use crate::run::{here, shown as shown_error};
use crate::screen::{FAINT, STRONG, Screen, TYPED, styled, width};
use crate::status::Status;
use shown::described;
pub(super) use shown::origin;

/// Makes, tests, lists or adds packs.
pub fn run(arguments: &PackArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    match &arguments.command {
        PackCommand::New(arguments) => new::run(arguments, screen),
        PackCommand::Test(arguments) => test::run(arguments, screen),
        PackCommand::List => list(screen),
        PackCommand::Add(arguments) => add::run(arguments, screen),
        PackCommand::Schema => {
            let schema = serde_json::to_string_pretty(&pack_schema())?;
            screen.raw((schema + "\n").as_bytes())?;
            Ok(Status::Clean)
        }
    }
}

/// The packs in use, and those that could be.
fn list(screen: &mut Screen) -> anyhow::Result<Status> {
    let project = here()?;
    let packs = Packs::of(&project, None, &[]).map_err(|error| shown_error(&project, error))?;
    let names =
        packs.list().iter().map(|pack| width(&pack.name)).chain(BUILT_IN_PACKS.iter().map(|(name, _)| width(name)));
    let room = names.max().unwrap_or(0);
    if packs.list().is_empty() {
        screen.line("The settings here name no packs.")?;
    } else {
        screen.line(styled(STRONG, "in use here"))?;
    }
    for pack in packs.list() {
        let name = styled(STRONG, &format!("{:<room$}", pack.name));
        screen.line(format!("  {name}  {}", described(pack, &packs)))?;
        screen.line(format!("  {:room$}  {}", "", styled(FAINT, &origin(pack, &project.shown(&pack.path)))))?;
    }
    let is_used = |name: &str| packs.list().iter().any(|pack| pack.source == PackSource::BuiltIn(name.to_string()));
    let others: Vec<&str> = BUILT_IN_PACKS.iter().map(|(name, _)| *name).filter(|name| !is_used(name)).collect();
    if !others.is_empty() {
        screen.gap()?;
        screen.line(styled(STRONG, "built in, not in use"))?;
    }
    for name in others {
        let built_in = Packs::alone(&project, &PackSource::BuiltIn(name.to_string()))?;
        for pack in built_in.list().iter().filter(|pack| pack.name == name) {
            let name = styled(STRONG, &format!("{name:<room$}"));
            screen.line(format!("  {name}  {}", described(pack, &built_in)))?;
            screen.line(format!("  {:room$}  {}", "", styled(TYPED, &format!("hsieve pack add {}", pack.name))))?;
        }
    }
    Ok(Status::Clean)
}
