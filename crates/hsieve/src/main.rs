//! The command line of Honest Sieve: one file a command, one file an output form.
#![forbid(unsafe_code)]

mod arguments;
mod ask;
mod commands;
mod output;
mod progress;
mod report;
mod run;
mod screen;
mod server;
#[cfg(debug_assertions)]
mod simulation;
mod status;
mod terminal;
mod triage;

use std::process::ExitCode;

use clap::Parser;
use clap::error::ErrorKind;

use arguments::{Arguments, Command, When};
use screen::Screen;
use status::Status;

/// A run makes many short-lived vectors on many threads; the system's allocator took a seventh of the time for them.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn main() -> ExitCode {
    #[cfg(debug_assertions)]
    simulation::begin();
    let arguments = match Arguments::try_parse() {
        Ok(arguments) => arguments,
        Err(asked) if asked.kind() == ErrorKind::DisplayVersion => return print_version(),
        Err(error) => error.exit(),
    };
    let mut screen = Screen::new(arguments.color);
    let outcome = match &arguments.command {
        Command::Sift(command) => commands::sift::run(command, &mut screen),
        Command::Merge(command) => commands::merge::run(command, &mut screen),
        Command::Fix(command) => commands::fix::run(command, &mut screen),
        Command::Rules(command) => commands::rules::run(command, &mut screen),
        Command::Explain(command) => commands::explain::run(command, &mut screen),
        Command::Settings(command) => commands::settings::run(command, &mut screen),
        Command::Init(command) => commands::init::run(command, &mut screen),
        Command::Rename(command) => commands::rename::run(command, &mut screen),
        Command::Hook(command) => commands::hook::run(command, &mut screen),
        Command::Waive(command) => commands::waive::run(command, &mut screen),
        Command::Waivers(command) => commands::waivers::run(command, &mut screen),
        Command::Baseline(command) => commands::baseline::run(command, &mut screen),
        Command::Report(command) => commands::report::run(command, &mut screen),
        Command::Find(command) => commands::find::run(command, &mut screen),
        Command::Pack(command) => commands::pack::run(command, &mut screen),
        Command::Triage(command) => commands::triage::run(command, &mut screen),
        Command::Watch(command) => commands::watch::run(command, &mut screen),
        Command::Lsp(command) => commands::lsp::run(command),
        Command::Tree(command) => commands::tree::run(command, &mut screen),
        Command::Demo(command) => commands::demo::run(command, &mut screen),
        Command::Man(command) => commands::man::run(command, &mut screen),
        Command::Completions(command) => commands::completions::run(command, &mut screen),
    };
    let status = outcome.and_then(|status| screen.finish().map(|()| status));
    status::exit(status)
}

fn print_version() -> ExitCode {
    let mut screen = Screen::new(When::Never);
    let outcome = screen.raw(commands::version::text().as_bytes()).and_then(|()| screen.finish());
    status::exit(outcome.map(|()| Status::Clean))
}
