//! The options of what reports findings.

use std::path::PathBuf;

use clap::Args;

use super::{Common, Counting, Outputs};

/// Reports findings: broken rules with their exact places.
#[derive(Debug, Default, Args)]
#[command(
    after_help = "Examples:\n  hsieve sift\n  hsieve sift booking --mesh fine\n  hsieve sift --only undefined-name,layout --output lines\n  hsieve sift --changed main\n  hsieve sift --staged\n  hsieve sift --output sarif --to sieve.sarif --output cards\n  hsieve sift --against last.json\n  hsieve sift --shard 2/3 --to two.part\n  hsieve sift - --as booking/fares.py < booking/fares.py\n\nExit status: 0 nothing at or above the failing level, 1 findings there, 2 wrong usage or\nsettings, 3 something could not be read."
)]
pub struct SiftArguments {
    #[command(flatten)]
    pub common: Common,

    #[command(flatten)]
    pub counting: Counting,

    /// Only what is staged: the content of the index, not of the files
    #[arg(long, conflicts_with = "changed")]
    pub staged: bool,

    /// The name of what comes on standard input (with the path `-`)
    #[arg(long = "as", value_name = "NAME")]
    pub name: Option<String>,

    /// Sift the Kth of N equal parts of the files, for `hsieve merge`; auto: by the variables of a job that runs several times
    #[arg(long, value_name = "K/N|auto", requires = "to", conflicts_with_all = [
        "changed", "no_baseline", "staged", "name", "level", "fail_on", "output", "against", "record", "limit", "held", "unsure",
        "left_out",
    ])]
    pub shard: Option<String>,

    #[command(flatten)]
    pub telling: Telling,
}

/// Joins the results of all shards: what comes out is what one run over everything would say, with its exit status. To be run where the
/// code base is as the shards had it; what no shard had in this state is sifted here.
#[derive(Debug, Args)]
#[command(
    after_help = "Examples:\n  hsieve sift --shard 1/2 --to one.part\n  hsieve sift --shard 2/2 --to two.part\n  hsieve merge one.part two.part --output sarif --to sieve.sarif --output cards\n\nPaths, mesh and rules are those that the shards were given. Exit status: as of `hsieve sift`; 2 also\nwhere a shard is missing, 3 also where a part cannot be read."
)]
pub struct MergeArguments {
    /// The files that `hsieve sift --shard K/N --to FILE` wrote, one of each shard
    #[arg(value_name = "FILE", required = true)]
    pub parts: Vec<PathBuf>,

    /// The settings file that the shards were given, if they were
    #[arg(long, value_name = "FILE")]
    pub settings: Option<PathBuf>,

    /// The packs that the shards were given, if they were
    #[arg(long, value_name = "PACK")]
    pub pack: Vec<String>,

    /// Work on so many files at once
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=1024))]
    pub threads: Option<u16>,

    /// Do not print the account, nor a progress bar
    #[arg(long)]
    pub quiet: bool,

    /// Report old findings as well
    #[arg(long)]
    pub no_baseline: bool,

    #[command(flatten)]
    pub telling: Telling,
}

/// What is reported of what was found, and in which forms.
#[derive(Debug, Default, Args)]
pub struct Telling {
    /// Show findings of this level and above: note, warning or error
    #[arg(long, value_name = "LEVEL")]
    pub level: Option<String>,

    /// Fail on findings of this level and above: note, warning, error, or off
    #[arg(long, value_name = "LEVEL")]
    pub fail_on: Option<String>,

    #[command(flatten)]
    pub outputs: Outputs,

    /// Compare with an earlier run, kept with `--output json` or sarif: what is new, what is gone
    #[arg(long, value_name = "FILE")]
    pub against: Option<PathBuf>,

    /// Add the figures of this run to a file, as a line of JSON
    #[arg(long, value_name = "FILE")]
    pub record: Option<PathBuf>,

    /// Show at most so many findings, and tell how many more there are
    #[arg(long, value_name = "N")]
    pub limit: Option<usize>,

    /// Show what is held back too
    #[arg(long)]
    pub held: bool,

    /// List the places where a rule could not decide
    #[arg(long)]
    pub unsure: bool,

    /// List the files that were left out, and why
    #[arg(long)]
    pub left_out: bool,
}
