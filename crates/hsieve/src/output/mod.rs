//! One file for each form of output.

pub mod account;
mod cards;
mod counts;
mod diff;
pub mod earlier;
mod json;
mod lines;
pub mod page;
mod unsure;

use sieve_engine::outcome::{Finding, Outcome};
use sieve_rules::Level;

use crate::screen::Screen;

pub use cards::card;
pub use diff::coloured;
pub use earlier::Earlier;
pub use json::{document_text, finding as finding_as_json};
pub use lines::line as finding_as_line;

/// A form of output.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Form {
    /// A few lines for each finding, with the code.
    Cards,
    /// A line for each finding, in the form of the GNU Coding Standards.
    Lines,
    /// One document of JSON.
    Json,
    /// Tables of numbers.
    Counts,
}

impl Form {
    /// Every form.
    pub const ALL: &'static [Form] = &[Form::Cards, Form::Lines, Form::Json, Form::Counts];

    /// The word for it.
    pub fn word(self) -> &'static str {
        match self {
            Form::Cards => "cards",
            Form::Lines => "lines",
            Form::Json => "json",
            Form::Counts => "counts",
        }
    }
}

/// What of an outcome is shown.
pub struct Shown<'o> {
    /// The outcome.
    pub outcome: &'o Outcome,
    /// Findings below this level are not shown.
    pub least: Level,
    /// Whether findings that are held back are shown.
    pub held: bool,
    /// Whether undecided places are shown.
    pub unsure: bool,
    /// Findings per 1000 lines in the run before, where it is known.
    pub density_before: Option<f64>,
    /// An earlier run to compare with.
    pub earlier: Option<&'o Earlier>,
}

impl<'o> Shown<'o> {
    /// The findings to show.
    pub fn findings(&self) -> impl Iterator<Item = &'o Finding> {
        let (least, held) = (self.least, self.held);
        self.outcome.findings.iter().filter(move |finding| finding.level >= least && (held || finding.held.is_none()))
    }
}

/// Writes findings to the screen.
pub fn write(shown: &Shown<'_>, form: Form, screen: &mut Screen) -> anyhow::Result<()> {
    let text = text(shown, form, screen.width())?;
    match form {
        Form::Lines | Form::Json => screen.raw(text.as_bytes()),
        Form::Cards | Form::Counts if text.is_empty() => Ok(()),
        Form::Cards | Form::Counts => {
            screen.line(text)?;
            screen.gap()
        }
    }
}

/// The output without colours, for a file.
pub fn plain(shown: &Shown<'_>, form: Form, width: usize) -> anyhow::Result<String> {
    let text = text(shown, form, width)?;
    Ok(anstream::adapter::strip_str(&text).to_string())
}

fn text(shown: &Shown<'_>, form: Form, width: usize) -> anyhow::Result<String> {
    match form {
        Form::Cards => Ok(cards::text(shown, width)),
        Form::Lines => Ok(lines::text(shown)),
        Form::Json => json::text(shown),
        Form::Counts => Ok(counts::text(shown, width)),
    }
}
