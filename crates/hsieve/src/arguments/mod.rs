//! The commands and their options.

mod live;
mod outputs;
mod pack;
mod report;
mod sift;

use std::path::PathBuf;

use clap::{Args, Parser, Subcommand, ValueEnum};

pub use live::{LspArguments, TriageArguments, WatchArguments};
pub use outputs::Outputs;
pub use pack::{AddPackArguments, NewPackArguments, PackArguments, PackCommand, TestPackArguments};
pub use report::ReportArguments;
pub use sift::{MergeArguments, SiftArguments, Telling};

/// Sifts a code base: finds what breaks its rules, fixes what can be fixed without risk, and keeps an open account of what it
/// holds back.
#[derive(Debug, Parser)]
#[command(name = "hsieve", version, max_term_width = 100, disable_help_subcommand = true, subcommand_required = true)]
#[command(
    after_help = "First steps:\n  hsieve demo            walk through the whole job on a sample code base\n  hsieve sift            report what is wrong below this folder\n  hsieve explain RULE    why a rule exists, and how to live with it"
)]
pub struct Arguments {
    /// When to use colour: auto, always or never
    #[arg(long, global = true, value_name = "WHEN", default_value = "auto", hide_possible_values = true)]
    pub color: When,

    #[command(subcommand)]
    pub command: Command,
}

/// When to do something.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum When {
    /// On a terminal.
    Auto,
    /// In any case.
    Always,
    /// In no case.
    Never,
}

/// What to do.
#[derive(Debug, Subcommand)]
pub enum Command {
    /// Report findings
    Sift(SiftArguments),
    /// Join what the shards of a large code base found, as if one run had found it
    Merge(MergeArguments),
    /// Apply exact fixes
    Fix(FixArguments),
    /// List the rules with their levels here
    Rules(RulesArguments),
    /// Explain a rule or a concern, with examples
    Explain(ExplainArguments),
    /// Show the settings in force for a path, and which line of which file set each
    Settings(SettingsArguments),
    /// Write settings that agree with the code base as it is
    Init(InitArguments),
    /// Rename a name and every use of it, in all files
    Rename(RenameArguments),
    /// Sift what is about to be committed or pushed, by git hooks
    Hook(HookArguments),
    /// Write the waiver for a line, in the language's own comment
    Waive(WaiveArguments),
    /// List every waiver: where, what for, why, and how many findings it holds back
    Waivers(WaiversArguments),
    /// Record old findings so that they no longer fail a run, and pay them off
    Baseline(BaselineArguments),
    /// Write a report: a page of HTML, or the work list
    Report(ReportArguments),
    /// Find code by its structure, or the queries that would find a piece of code
    Find(FindArguments),
    /// Make, test and share rules of your own
    Pack(PackArguments),
    /// Work through findings one by one, on a screen that shows all of them
    Triage(TriageArguments),
    /// Sift what changes as it is saved, and tell what is new and what is gone
    Watch(WatchArguments),
    /// Serve an editor: findings, fixes and renaming while the text is written
    Lsp(LspArguments),
    /// Show the syntax tree of a file, or the nodes at a place in it
    Tree(TreeArguments),
    /// Unpack a sample code base and walk through the whole job on it
    Demo(DemoArguments),
    /// Print a script that completes commands and options in a shell
    Completions(CompletionsArguments),
    /// Print pages of the manual
    Man(ManArguments),
}

/// Which rules are run.
#[derive(Debug, Clone, Default, Args)]
pub struct Choice {
    /// How fine to sift: coarse, medium or fine
    #[arg(long, value_name = "MESH")]
    pub mesh: Option<String>,

    /// Only these rules, concerns or standards, separated by commas
    #[arg(long, value_name = "LIST", value_delimiter = ',')]
    pub only: Vec<String>,

    /// Not these rules, concerns or standards, separated by commas
    #[arg(long, value_name = "LIST", value_delimiter = ',')]
    pub without: Vec<String>,
}

/// What to sift, and how: of every command that sifts.
#[derive(Debug, Default, Args)]
pub struct Common {
    /// Files and folders; the current folder if none are given
    #[arg(value_name = "PATH")]
    pub paths: Vec<PathBuf>,

    #[command(flatten)]
    pub choice: Choice,

    /// Use this settings file in place of those found
    #[arg(long, value_name = "FILE")]
    pub settings: Option<PathBuf>,

    /// Use this pack too: a file, a folder, an address or a built-in name
    #[arg(long, value_name = "PACK")]
    pub pack: Vec<String>,

    /// Sift so many files at once
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=1024))]
    pub threads: Option<u16>,

    /// Sift every file again, and keep no results
    #[arg(long)]
    pub no_cache: bool,

    /// Put results into the shared cache, not only take them from there
    #[arg(long)]
    pub cache_write: bool,

    /// Say in the account where results came from
    #[arg(long, conflicts_with = "quiet")]
    pub verbose: bool,

    /// Do not print the account, nor a progress bar
    #[arg(long)]
    pub quiet: bool,
}

/// Which findings count.
#[derive(Debug, Default, Args)]
pub struct Counting {
    /// Only what changed since the history left that of REV; without REV, what is not committed yet
    #[arg(long, value_name = "REV", num_args = 0..=1)]
    pub changed: Option<Option<String>>,

    /// Report old findings as well
    #[arg(long)]
    pub no_baseline: bool,
}

/// Applies exact fixes, in rounds, and proves after each that nothing broke.
#[derive(Debug, Args)]
#[command(
    after_help = "Examples:\n  hsieve fix --preview\n  hsieve fix --preview | git apply\n  hsieve fix booking --only unused-import\n  hsieve fix --review\n  hsieve fix --undo\n\nWith --preview the exit status is 1 if there is a fix to apply."
)]
pub struct FixArguments {
    #[command(flatten)]
    pub common: Common,

    #[command(flatten)]
    pub counting: Counting,

    /// Print what would change as a unified diff, and change nothing
    #[arg(long)]
    pub preview: bool,

    /// Walk through the fixes that are not exact, and ask about each
    #[arg(long, conflicts_with = "preview")]
    pub review: bool,

    /// Take back the last run of fixes here, if nothing changed since
    #[arg(long, conflicts_with_all = ["preview", "review"])]
    pub undo: bool,

    /// Fix without keeping the old contents
    #[arg(long, conflicts_with_all = ["preview", "undo"])]
    pub no_undo: bool,
}

/// Lists the rules with their levels here.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  hsieve rules\n  hsieve rules layout\n  hsieve rules fixable python")]
pub struct RulesArguments {
    /// Show rules with these words: a concern, a level, a mesh, a certainty, a language, `fixable`, or a part of a name
    #[arg(value_name = "WORD")]
    pub words: Vec<String>,

    /// Print one document of JSON
    #[arg(long, value_name = "FORM", value_parser = ["table", "json"], default_value = "table")]
    pub output: String,
}

/// Explains a rule, with wrong and right examples, its options, and how to waive it; for a concern, what it is about and its
/// rules.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  hsieve explain magic-number\n  hsieve explain magic-number --output markdown")]
pub struct ExplainArguments {
    /// The rule, or a concern
    #[arg(value_name = "RULE")]
    pub rule: String,

    /// The form of the output: text or markdown
    #[arg(long, value_name = "FORM", value_parser = ["text", "markdown"], default_value = "text")]
    pub output: String,
}

/// Shows the settings in force for a path, and which line of which file set each.
#[derive(Debug, Args)]
#[command(
    args_conflicts_with_subcommands = true,
    after_help = "Examples:\n  hsieve settings\n  hsieve settings booking/fares.py"
)]
pub struct SettingsArguments {
    #[command(subcommand)]
    pub command: Option<SettingsCommand>,

    /// A file or folder; the current folder if not given
    #[arg(value_name = "PATH")]
    pub path: Option<PathBuf>,
}

/// What to do with settings, besides showing them.
#[derive(Debug, Subcommand)]
pub enum SettingsCommand {
    /// Change one value in place; comments and order stay
    #[command(
        after_help = "Examples:\n  hsieve settings set mesh fine\n  hsieve settings set long-line off\n  hsieve settings set long-line.limit 120\n  hsieve settings set files.skip '[\"vendor/**\"]'"
    )]
    Set(SetArguments),
    /// Show what the defaults and names of this release would change here, and change it
    #[command(after_help = "Examples:\n  hsieve settings upgrade\n  hsieve settings upgrade --write")]
    Upgrade(UpgradeArguments),
    /// Print a JSON Schema of settings files, for editors
    #[command(after_help = "Example:\n  hsieve settings schema > sieve.schema.json")]
    Schema,
}

/// Which value to change.
#[derive(Debug, Args)]
pub struct SetArguments {
    /// A setting, a rule (for its level), or an option of a rule
    #[arg(value_name = "KEY")]
    pub key: String,

    /// The value: TOML, or a word
    #[arg(value_name = "VALUE", allow_hyphen_values = true)]
    pub value: String,

    /// The settings file; the nearest one if not given
    #[arg(long, value_name = "FILE")]
    pub file: Option<PathBuf>,
}

/// Whether to change settings.
#[derive(Debug, Args)]
pub struct UpgradeArguments {
    /// Change settings, waivers and the baseline
    #[arg(long)]
    pub write: bool,
}

/// Writes settings that agree with the code as it is.
#[derive(Debug, Args)]
#[command(
    after_help = "Examples:\n  hsieve init\n  hsieve init --yes\n  hsieve init --yes --without hook,editor\n  hsieve init --with ci=shell\n\nWith --with, where there are settings already, only what it names is written."
)]
pub struct InitArguments {
    /// Say yes to every question
    #[arg(long)]
    pub yes: bool,

    /// Write a job that sifts, too: ci=shell, ci=github or ci=gitlab
    #[arg(long, value_name = "ci=NAME", value_parser = ["ci=shell", "ci=github", "ci=gitlab"], hide_possible_values = true)]
    pub with: Option<String>,

    /// Leave these out, separated by commas: baseline, hook, editor, ci
    #[arg(long, value_name = "LIST", value_delimiter = ',', value_parser = ["baseline", "hook", "editor", "ci"])]
    pub without: Vec<String>,
}

/// Sifts what is about to be committed or pushed, by git hooks.
#[derive(Debug, Args)]
pub struct HookArguments {
    #[command(subcommand)]
    pub command: HookCommand,
}

/// What to do with hooks.
#[derive(Debug, Subcommand)]
pub enum HookCommand {
    /// Install hooks, beside those that are there
    #[command(after_help = "Examples:\n  hsieve hook install\n  hsieve hook install commit")]
    Install(HookNames),
    /// Remove them
    #[command(after_help = "Examples:\n  hsieve hook remove\n  hsieve hook remove push")]
    Remove(HookNames),
    /// What the hooks call
    #[command(hide = true)]
    Run(HookRun),
}

/// Which hooks.
#[derive(Debug, Args)]
pub struct HookNames {
    /// commit or push; both if not given
    #[arg(value_name = "WHEN", value_parser = ["commit", "push"], hide_possible_values = true)]
    pub when: Vec<String>,
}

/// Which hook runs.
#[derive(Debug, Args)]
pub struct HookRun {
    /// commit or push
    #[arg(value_name = "WHEN", value_parser = ["commit", "push"])]
    pub when: String,

    /// What git says to the hook before a push: the name and the address of the other side
    #[arg(value_name = "WORD")]
    pub words: Vec<String>,
}

/// Writes the waiver for a line, in the language's own comment. A waiver that gives the same reason and the same last day is
/// joined. Where nothing would be held back, nothing is written. `hsieve fix --undo` takes it back.
#[derive(Debug, Args)]
#[command(
    after_help = "Examples:\n  hsieve waive booking/tickets.py:33 mutable-default --because \"codes are unique for the whole day\"\n  hsieve waive booking/fares.py:14 magic-number,long-line --because \"from the price list\" --until 2027-06-30"
)]
pub struct WaiveArguments {
    /// The place; with a column, a finding must begin there
    #[arg(value_name = "FILE:LINE[:COL]")]
    pub place: String,

    /// Rules or concerns, separated by commas
    #[arg(value_name = "RULE", value_delimiter = ',', required = true)]
    pub rules: Vec<String>,

    /// Why, for those who read the waiver later
    #[arg(long, value_name = "TEXT")]
    pub because: String,

    /// The last day on which it holds, such as 2027-06-30
    #[arg(long, value_name = "DAY")]
    pub until: Option<String>,

    /// Print the change as a unified diff and write nothing
    #[arg(long)]
    pub preview: bool,
}

/// Renames a name and every use that resolves to it, in all files of the project.
///
/// Nothing is guessed: a use that cannot be known, for instance through a star import, refuses the renaming and is shown.
/// Mentions in comments and strings are listed.
#[derive(Debug, Args)]
#[command(
    after_help = "Examples:\n  hsieve rename booking/fares.py:13:5 child_price --preview\n  hsieve rename web/src/quays.ts:4:14 Berth --mentions --with-file"
)]
pub struct RenameArguments {
    /// The place of the name
    #[arg(value_name = "FILE:LINE:COL")]
    pub place: String,

    /// The new name
    #[arg(value_name = "NEW")]
    pub new: String,

    /// Print the changes as a unified diff and write nothing
    #[arg(long)]
    pub preview: bool,

    /// Take all members of this name for the same one where it is not known whose they are, and for unused outside of the project
    #[arg(long)]
    pub all_members: bool,

    /// Rename a member in all classes that inherit from each other
    #[arg(long)]
    pub family: bool,

    /// Change mentions in comments and strings too
    #[arg(long)]
    pub mentions: bool,

    /// Rename the file that is named after a type, too, with the imports of it
    #[arg(long)]
    pub with_file: bool,

    /// Rename without keeping the old contents
    #[arg(long, conflicts_with = "preview")]
    pub no_undo: bool,
}

/// Lists every waiver, in comments and in settings; what is expired or stale comes first.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  hsieve waivers\n  hsieve waivers booking --mesh fine --output json")]
pub struct WaiversArguments {
    #[command(flatten)]
    pub common: Common,

    /// The form of the output: table or json
    #[arg(long, value_name = "FORM", value_parser = ["table", "json"], default_value = "table")]
    pub output: String,
}

/// Records old findings so that they no longer fail a run, and pays them off.
#[derive(Debug, Args)]
pub struct BaselineArguments {
    #[command(subcommand)]
    pub command: BaselineCommand,
}

/// What to do with the baseline.
#[derive(Debug, Subcommand)]
pub enum BaselineCommand {
    /// Record the findings there are
    #[command(
        after_help = "Examples:\n  hsieve baseline take\n  hsieve baseline take --mesh fine\n  hsieve baseline take --only leftover\n  hsieve baseline take --add-new"
    )]
    Take(TakeArguments),
    /// Show what is recorded, by rule, folder, owner and age
    #[command(after_help = "Example:\n  hsieve baseline status")]
    Status(StatusArguments),
    /// Drop entries whose findings are gone
    #[command(after_help = "Example:\n  hsieve baseline trim")]
    Trim(TrimArguments),
}

/// Which findings to record.
#[derive(Debug, Args)]
pub struct TakeArguments {
    #[command(flatten)]
    pub common: Common,

    /// Add new findings to a baseline that is there
    #[arg(long)]
    pub add_new: bool,
}

/// What to show of the baseline.
#[derive(Debug, Args)]
pub struct StatusArguments {
    #[command(flatten)]
    pub common: Common,
}

/// What to drop from the baseline.
#[derive(Debug, Args)]
pub struct TrimArguments {
    #[command(flatten)]
    pub common: Common,
}

/// Finds code by its structure: every place that a query matches.
///
/// A query names a kind of node, conditions on it, and where it is: `call { callee.name is "print" } inside function`.
#[derive(Debug, Args)]
#[command(
    after_help = "Examples:\n  hsieve find 'import inside function'\n  hsieve find 'call { callee refers \"os.system\" } not inside file { path like \"tools/**\" }'\n  hsieve find 'function { count(parameter) > 6 }' booking --count\n  hsieve find --like booking/desk.py:21\n\nKinds of nodes and their roles: hsieve tree --kinds\nExit status: 0 something was found, 1 nothing was, 2 the query is wrong, 3 something could not be read"
)]
pub struct FindArguments {
    /// What to find; with --like the first path
    #[arg(value_name = "QUERY", required_unless_present = "like")]
    pub query: Option<String>,

    /// Files and folders; the current folder if none are given
    #[arg(value_name = "PATH")]
    pub paths: Vec<PathBuf>,

    /// Propose queries that match the code at a place, from general to exact
    #[arg(long, value_name = "FILE:LINE[:COLUMN]", conflicts_with = "count")]
    pub like: Option<String>,

    /// Only the numbers, by folder
    #[arg(long)]
    pub count: bool,

    /// Show the places too of which it cannot be known
    #[arg(long)]
    pub unsure: bool,

    /// The form of the output: cards, lines or json; cards on a terminal, otherwise lines
    #[arg(long, value_name = "FORM", value_parser = ["cards", "lines", "json"])]
    pub output: Option<String>,

    /// Look at so many files at once
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=1024))]
    pub threads: Option<u16>,
}

/// Shows the syntax tree of a file, or the nodes at a place in it.
#[derive(Debug, Args)]
#[command(
    after_help = "Examples:\n  hsieve tree booking/fares.py\n  hsieve tree booking/fares.py:14\n  hsieve tree booking/fares.py:14:20\n  hsieve tree booking/fares.py --output json\n  hsieve tree --kinds python"
)]
pub struct TreeArguments {
    /// The file, perhaps with a line and a column; with --kinds a language
    #[arg(value_name = "FILE[:LINE[:COLUMN]]", required_unless_present = "kinds")]
    pub place: Option<String>,

    /// List the kinds of nodes that there are, their roles and the languages that have them
    #[arg(long)]
    pub kinds: bool,

    /// The form of the output: text or json
    #[arg(long, value_name = "FORM", value_parser = ["text", "json"], default_value = "text")]
    pub output: String,
}

/// Unpacks a sample code base and walks through the whole job on it.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  hsieve demo\n  hsieve demo ferry")]
pub struct DemoArguments {
    /// Unpack to this folder, and leave it there
    #[arg(value_name = "FOLDER")]
    pub folder: Option<PathBuf>,
}

/// Prints a page of the manual in the form that `man` reads, or writes all pages to a folder.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  hsieve man sift | man -l -\n  hsieve man --to ~/.local/share/man/man1")]
pub struct ManArguments {
    /// The command; the page of the whole program if not given
    #[arg(value_name = "COMMAND")]
    pub command: Option<String>,

    /// Write all pages to this folder
    #[arg(long, value_name = "FOLDER", conflicts_with = "command")]
    pub to: Option<PathBuf>,
}

/// Prints a script that completes commands and options in a shell.
#[derive(Debug, Args)]
#[command(after_help = "Example:\n  hsieve completions bash > ~/.local/share/bash-completion/completions/hsieve")]
pub struct CompletionsArguments {
    /// The shell: bash, zsh, fish, elvish or powershell
    #[arg(value_name = "SHELL", hide_possible_values = true)]
    pub shell: clap_complete::Shell,
}
