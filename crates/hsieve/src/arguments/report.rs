//! The options of reports.

use std::path::PathBuf;

use clap::Args;

use super::Common;

/// Sifts, and writes a report for people who were not there: one page of HTML that needs no network, or the work list for other programs.
#[derive(Debug, Args)]
#[command(
    after_help = "Examples:\n  hsieve report --to report.html\n  hsieve sift --record runs.jsonl && hsieve report --history runs.jsonl --to report.html\n  hsieve report --output markdown --only leftover\n  hsieve report --output csv --to places.csv\n\nFindings do not fail it. Exit status: 0 written, 2 wrong usage or settings, 3 something could not be read or written."
)]
pub struct ReportArguments {
    #[command(flatten)]
    pub common: Common,

    /// The form: html, a page; markdown, a list with check boxes; csv, a table
    #[arg(long, value_name = "FORM", default_value = "html", value_parser = ["html", "markdown", "csv"])]
    pub output: String,

    /// Write it to a file
    #[arg(long, value_name = "FILE")]
    pub to: Option<PathBuf>,

    /// Show how things went, by the runs in this file, which `hsieve sift --record` writes
    #[arg(long, value_name = "FILE")]
    pub history: Option<PathBuf>,
}
