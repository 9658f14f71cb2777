//! `hsieve watch`

mod block;
mod known;
mod lines;
mod look;
mod picture;
mod stay;
mod view;
mod watcher;

use std::time::Duration;

use sieve_engine::Workspace;
use sieve_engine::run::Wants;

use known::Known;
use lines::Lines;
use look::{Teller, Watch};
use stay::Stay;
use watcher::Watcher;

use crate::arguments::{Common, WatchArguments};
use crate::ask;
use crate::run::{Setup, shown};
use crate::screen::Screen;
use crate::status::Status;
use crate::terminal::Palette;

/// Sifts, and goes on until the user ends it.
pub fn run(arguments: &WatchArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let common = Common { choice: arguments.choice.clone(), ..Common::default() };
    let setup = Setup::new(&common)?;
    let (watcher, why) = Watcher::start(&setup.project, arguments.poll.map(Duration::from_secs));
    let Setup { project, overrides, baseline, .. } = setup;
    let mut workspace = Workspace::new(project, overrides, baseline, Wants::IDENTITIES);
    let outcome = workspace.outcome().map_err(|error| shown(workspace.project(), error))?.outcome;
    let known = Known::begin(outcome);
    let mut watch = Watch::begin(workspace, watcher, known);
    if arguments.output.is_none() && ask::can_ask() {
        return Stay::take(Palette { colour: screen.in_colour() }, &watch.watcher)?.go_on(&mut watch, why);
    }
    let mut teller = Lines::begin(arguments.output.as_deref() == Some("jsonl"), &watch.known, screen)?;
    why.into_iter().for_each(|why| teller.complain(why));
    loop {
        if let Some(changed) = watch.watcher.wait() {
            watch.look(&changed, &mut teller)?;
        }
    }
}
