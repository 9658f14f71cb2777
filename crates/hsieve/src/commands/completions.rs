//! `hsieve completions`

use clap::CommandFactory;

use crate::arguments::{Arguments, CompletionsArguments};
use crate::screen::Screen;
use crate::status::Status;

/// Prints a completion script.
pub fn run(arguments: &CompletionsArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let mut script = Vec::new();
    clap_complete::generate(arguments.shell, &mut Arguments::command(), "hsieve", &mut script);
    screen.raw(&script)?;
    Ok(Status::Clean)
}
