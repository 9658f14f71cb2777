//! The options of commands that go on while code is written.

use std::path::PathBuf;

use clap::Args;

use super::Choice;

/// Sifts everything once, then waits: a file that is saved is looked at alone, and told at once; then everything, for what it
/// changes elsewhere. On a terminal it is a screen that stays, elsewhere a block for each change, until Ctrl-C.
#[derive(Debug, Args)]
#[command(
    after_help = "Examples:\n  hsieve watch\n  hsieve watch --mesh fine --only layout\n  hsieve watch --output jsonl | jq .new\n\nIt reacts to sources, settings, packs, ignore lists and the baseline below the working folder. Exit\nstatus: 2 wrong usage or settings at the start."
)]
pub struct WatchArguments {
    #[command(flatten)]
    pub choice: Choice,

    /// The form of the output in place of the screen on a terminal: lines, or jsonl, an object on a line for each change
    #[arg(long, value_name = "FORM", value_parser = ["lines", "jsonl"])]
    pub output: Option<String>,

    /// Look every so many seconds, without asking the system what changes
    #[arg(long, value_name = "SECONDS", value_parser = clap::value_parser!(u64).range(1..=3600))]
    pub poll: Option<u64>,
}

/// Speaks the Language Server Protocol on standard input and output. An editor starts it; see the guide on editors.
#[derive(Debug, Args)]
#[command(
    after_help = "Exit status: 0 when the editor ended it as the protocol says, 1 when it was cut off.\n\nInitialization options: { \"project\": false } looks at open files only, { \"held\": true } shows what is held back as hints."
)]
pub struct LspArguments {
    /// Append what happens to a file, a line for each message
    #[arg(long, value_name = "FILE")]
    pub log: Option<PathBuf>,

    /// Taken for the sake of editors that pass it: standard input and output are used in any case
    #[arg(long, hide = true)]
    pub stdio: bool,
}

/// Works through findings one by one on the terminal: fix, waive, record, change the level, skip. Each action is applied at once and can
/// be undone while the screen is there.
#[derive(Debug, Args)]
#[command(
    after_help = "Examples:\n  hsieve triage\n  hsieve triage booking --only unused-import,unused-variable\n  hsieve triage --mesh fine --level warning\n\nThe key ? shows all keys. Leaving prints what was done."
)]
pub struct TriageArguments {
    /// Files and folders whose findings are listed; the current folder if none are given
    #[arg(value_name = "PATH")]
    pub paths: Vec<PathBuf>,

    #[command(flatten)]
    pub choice: Choice,

    /// List findings of this level and above: note, warning or error
    #[arg(long, value_name = "LEVEL")]
    pub level: Option<String>,
}
