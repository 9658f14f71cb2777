//! The options of `hsieve pack`.

use clap::{Args, Subcommand};

/// Makes, tests and shares packs: rules of your own, as queries with examples.
#[derive(Debug, Args)]
pub struct PackArguments {
    #[command(subcommand)]
    pub command: PackCommand,
}

/// What to do with packs.
#[derive(Debug, Subcommand)]
pub enum PackCommand {
    /// Write a commented pack with one working rule
    #[command(after_help = "Examples:\n  hsieve pack new ferry\n  hsieve pack new lint/ferry.toml")]
    New(NewPackArguments),
    /// Run the examples of every rule, and measure what each rule costs
    #[command(
        after_help = "Examples:\n  hsieve pack test\n  hsieve pack test lint/ferry.toml\n\nExit status: 0 every example shows what it is to show, 1 some do not, 2 wrong usage or packs."
    )]
    Test(TestPackArguments),
    /// List the packs in use, and those that are built in
    #[command(after_help = "Example:\n  hsieve pack list")]
    List,
    /// Try a pack here, and write it into the settings; from an address with its sha-256
    #[command(
        after_help = "Examples:\n  hsieve pack add lint/ferry.toml\n  hsieve pack add team-basics\n  hsieve pack add https://saltmarsh.example/packs/ferry.toml --preview"
    )]
    Add(AddPackArguments),
    /// Print a JSON Schema of packs, for editors
    #[command(after_help = "Example:\n  hsieve pack schema > pack.schema.json")]
    Schema,
}

/// What the new pack is called.
#[derive(Debug, Args)]
pub struct NewPackArguments {
    /// The name of the pack, or the path of its file
    #[arg(value_name = "NAME")]
    pub name: String,
}

/// Which pack to test.
#[derive(Debug, Args)]
pub struct TestPackArguments {
    /// A file, a folder, an address or a built-in name; without it, those of the settings that are files
    #[arg(value_name = "PACK")]
    pub packs: Vec<String>,

    /// Do not measure what the rules cost
    #[arg(long)]
    pub no_cost: bool,
}

/// Which pack to add.
#[derive(Debug, Args)]
pub struct AddPackArguments {
    /// A file, a folder, an address or a built-in name
    #[arg(value_name = "PACK")]
    pub pack: String,

    /// Only show what the pack would find here
    #[arg(long)]
    pub preview: bool,
}
