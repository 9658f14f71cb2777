//! `hsieve sift`

use std::io::Read;
use std::path::Path;

use anyhow::Context;
use sieve_engine::discover::language_of_name;
use sieve_engine::project::absolute;

use super::shard;
use super::tell::Plan;
use crate::arguments::SiftArguments;
use crate::run::{Setup, shown};
use crate::screen::Screen;
use crate::status::{Status, usage};

/// Sifts, and reports.
pub fn run(arguments: &SiftArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    if let Some(word) = &arguments.shard {
        return shard::run(word, arguments);
    }
    let setup = Setup::counting(&arguments.common, &arguments.counting, arguments.staged)?;
    with_setup(arguments, setup, screen)
}

/// The same with what was put together already.
pub fn with_setup(arguments: &SiftArguments, mut setup: Setup, screen: &mut Screen) -> anyhow::Result<Status> {
    let plan = Plan::new(&arguments.telling, &arguments.common, &arguments.counting, &setup)?;
    let from_input = is_input(&setup);
    if from_input {
        read_input(arguments, &mut setup)?;
    }
    let sifted = setup.sift(plan.wants())?;
    plan.tell(&setup, (&sifted.outcome, sifted.work), from_input, screen)
}

/// Whether standard input is to be sifted.
fn is_input(setup: &Setup) -> bool {
    setup.paths.iter().any(|path| path.as_os_str() == "-")
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
