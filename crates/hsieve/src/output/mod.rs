//! One file for each form of output.

pub mod account;
mod cards;
mod compare;
mod counts;
mod diff;
pub mod earlier;
mod json;
mod jsonl;
mod junit;
mod lines;
mod markdown;
mod marks;
pub mod page;
mod sarif;
mod unsure;

use std::collections::BTreeSet;

use sieve_engine::git::Provenance;
use sieve_engine::outcome::{Finding, Held, Outcome};
use sieve_engine::{SharedWork, Work};
use sieve_rules::{Level, RuleId};

use crate::screen::{Screen, safe};
use crate::status::Status;

pub use cards::card;
pub use compare::{Comparison, Since};
pub use counts::Count;
pub use diff::coloured;
pub use earlier::Earlier;
pub use json::{document_text, finding as finding_as_json};
pub use lines::line as finding_as_line;
pub use markdown::{code, words};
pub use marks::ENCODED;

/// A form of output.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Form {
    /// A few lines for each finding, with the code.
    Cards,
    /// A line for each finding, in the form of the GNU Coding Standards.
    Lines,
    /// One document of JSON.
    Json,
    /// An object of JSON on a line for each finding.
    Jsonl,
    /// Tables of numbers.
    Counts,
    /// A log in the Static Analysis Results Interchange Format 2.1.0.
    Sarif,
    /// A test report in the XML that build servers read.
    Junit,
    /// A summary in Markdown.
    Markdown,
}

impl Form {
    /// Every form.
    pub const ALL: &'static [Form] =
        &[Form::Cards, Form::Lines, Form::Json, Form::Jsonl, Form::Counts, Form::Sarif, Form::Junit, Form::Markdown];

    /// The word for it.
    pub fn word(self) -> &'static str {
        match self {
            Form::Cards => "cards",
            Form::Lines => "lines",
            Form::Json => "json",
            Form::Jsonl => "jsonl",
            Form::Counts => "counts",
            Form::Sarif => "sarif",
            Form::Junit => "junit",
            Form::Markdown => "markdown",
        }
    }

    /// Whether it shows the code around findings, or says where the edits of fixes are.
    pub fn shows_code(self) -> bool {
        matches!(self, Form::Cards | Form::Sarif)
    }

    /// Whether it says what makes a finding the same in another version of the code.
    pub fn has_fingerprints(self) -> bool {
        matches!(self, Form::Json | Form::Jsonl | Form::Sarif)
    }

    /// Whether the account is a part of it.
    fn has_account(self) -> bool {
        matches!(self, Form::Json | Form::Jsonl | Form::Sarif | Form::Junit | Form::Markdown)
    }
}

/// What of an outcome is shown.
pub struct Shown<'o> {
    /// The outcome.
    pub outcome: &'o Outcome,
    /// Findings below this level are not shown.
    pub least: Level,
    /// Findings of this level and above fail the run.
    pub failing: Level,
    /// How the run ends.
    pub status: Status,
    /// Whether findings that are held back are shown.
    pub held: bool,
    /// Whether undecided places are shown.
    pub unsure: bool,
    /// Whether files that were left out are listed.
    pub left_out: bool,
    /// The most findings that are shown.
    pub limit: Option<usize>,
    /// Findings per 1000 lines in the run before, where it is known.
    pub density_before: Option<f64>,
    /// Where results came from; only where that is asked for.
    pub origin: Option<Origin>,
    /// What changed since an earlier run.
    pub comparison: Option<&'o Comparison>,
    /// The rules that were on in some file; only where the form lists them.
    pub ran: BTreeSet<RuleId>,
    /// Where the files come from; only where the form tells it.
    pub provenance: Option<Provenance>,
}

/// Where the results of a run came from.
#[derive(Debug, Clone, Copy)]
pub struct Origin {
    /// How much was known from earlier runs; nothing where none were asked.
    pub work: Option<Work>,
    /// What a shared cache had, if there is one.
    pub shared: Option<SharedWork>,
}

impl<'o> Shown<'o> {
    /// The findings to show, with what an earlier run had.
    pub fn findings(&self) -> impl Iterator<Item = (&'o Finding, Option<Since>)> + use<'o> {
        self.with_held(self.held)
    }

    /// The same, held back or not.
    fn with_held(&self, held: bool) -> impl Iterator<Item = (&'o Finding, Option<Since>)> + use<'o> {
        self.all(held).take(self.limit.unwrap_or(usize::MAX))
    }

    /// The same without a limit.
    fn all(&self, held: bool) -> impl Iterator<Item = (&'o Finding, Option<Since>)> + use<'o> {
        let (least, comparison) = (self.least, self.comparison);
        let shown = move |(_, finding): &(usize, &Finding)| finding.level >= least && (held || finding.held.is_none());
        let findings = self.outcome.findings.iter().enumerate().filter(shown);
        let since = move |index| comparison.and_then(|comparison| comparison.since(index));
        findings.map(move |(index, finding)| (finding, since(index)))
    }

    /// How many findings the limit cuts off.
    pub fn more(&self) -> usize {
        self.all(self.held).count().saturating_sub(self.limit.unwrap_or(usize::MAX))
    }
}

/// What holds a finding back, in words.
fn held_by(held: &Held) -> String {
    match held {
        Held::Baseline => "held back: the baseline knows it".into(),
        Held::SettingsWaiver { at, reason } => format!("held back: waiver in {}, because {}", safe(at), safe(reason)),
        Held::Scope { at, reason: Some(reason) } => {
            format!("held back: scope in {}, because {}", safe(at), safe(reason))
        }
        Held::Scope { at, reason: None } => format!("held back: scope in {}, no reason given", safe(at)),
        Held::Waiver { line, reason: Some(reason) } => {
            format!("held back: waiver on line {line}, because {}", safe(reason))
        }
        Held::Waiver { line, reason: None } => format!("held back: waiver on line {line}, no reason given"),
    }
}

/// Takes some lines of output.
type Put<'p> = dyn FnMut(&str) -> anyhow::Result<()> + 'p;

/// Writes findings to the screen.
pub fn write(shown: &Shown<'_>, form: Form, screen: &mut Screen) -> anyhow::Result<()> {
    match form {
        Form::Lines => lines::write(shown, &mut |line| screen.raw(line.as_bytes())),
        Form::Jsonl => jsonl::write(shown, &mut |line| screen.raw(line.as_bytes())),
        Form::Cards | Form::Counts => {
            let text = text(shown, form, screen.width())?;
            if text.is_empty() {
                return Ok(());
            }
            screen.line(text)?;
            screen.gap()
        }
        Form::Json | Form::Sarif | Form::Junit | Form::Markdown => {
            screen.document(text(shown, form, screen.width())?.as_bytes())
        }
    }
}

/// The output without colours, for a file.
pub fn plain(shown: &Shown<'_>, form: Form, width: usize) -> anyhow::Result<String> {
    let text = text(shown, form, width)?;
    let has_styles = matches!(form, Form::Cards | Form::Counts | Form::Lines);
    Ok(if has_styles { anstream::adapter::strip_str(&text).to_string() } else { text })
}

fn text(shown: &Shown<'_>, form: Form, width: usize) -> anyhow::Result<String> {
    match form {
        Form::Cards => Ok(cards::text(shown, width)),
        Form::Lines => all(|put| lines::write(shown, put)),
        Form::Json => json::text(shown),
        Form::Jsonl => all(|put| jsonl::write(shown, put)),
        Form::Counts => Ok(counts::text(shown, width)),
        Form::Sarif => sarif::text(shown),
        Form::Junit => Ok(junit::text(shown)),
        Form::Markdown => Ok(markdown::text(shown)),
    }
}

/// All that a form gives line after line.
fn all(write: impl FnOnce(&mut Put<'_>) -> anyhow::Result<()>) -> anyhow::Result<String> {
    let mut text = String::new();
    write(&mut |line| {
        text += line;
        Ok(())
    })?;
    Ok(text)
}
