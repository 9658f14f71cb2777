//! What a run comes to, as plain data.

use std::borrow::Cow;
use std::collections::BTreeMap;
use std::sync::Arc;

use jiff::civil::Date;
use sieve_rules::{Fix, FixKind, Level, Mesh, RuleId, RuleSet, Sizes};
use sieve_syntax::text::{Place, Span};
use xxhash_rust::xxh3::xxh3_128;

use crate::files::FileError;

/// Everything that a run found and left out.
#[derive(Debug, Default)]
pub struct Outcome {
    /// The rules that there are.
    pub rules: Arc<RuleSet>,
    /// All findings, those held back included, in the order of path, line, column, rule.
    pub findings: Vec<Finding>,
    /// Places that rules could not decide, in the same order.
    pub unsure: Vec<UnsurePlace>,
    /// The waivers in the files and in their settings, what needs care first.
    pub waivers: Vec<WaiverNote>,
    /// How many files were sifted.
    pub files: usize,
    /// How many lines they have.
    pub lines: usize,
    /// What the lines of each folder are, by its shown path; nothing unless asked for.
    pub sizes: BTreeMap<String, Sizes>,
    /// The files that were left out, as shown paths, and why, sorted.
    pub left_out: Vec<(Arc<str>, LeftOut)>,
    /// What could not be read.
    pub errors: Vec<FileError>,
    /// How many entries of the baseline hold nothing any more.
    pub gone_from_baseline: usize,
    /// Which lines did not count, if only changes did.
    pub changes: Option<String>,
    /// How many findings are on lines that did not change, where only changes count.
    pub unchanged: usize,
    /// The budgets of the baseline.
    pub budgets: Vec<BudgetNote>,
    /// Whether entries of the baseline that are gone fail the run.
    pub strict: bool,
    /// The files that were sifted, as shown paths, sorted.
    pub sifted: Vec<Arc<str>>,
    /// The coarsest and the finest mesh in force for the files.
    pub mesh: Option<(Mesh, Mesh)>,
}

/// The folder of a path as it is shown.
pub fn folder_of(path: &str) -> &str {
    path.rsplit_once('/').map_or(".", |(folder, _)| folder)
}

/// One finding with all that is needed to show it.
#[derive(Debug, Clone)]
pub struct Finding {
    /// The rule.
    pub rule: RuleId,
    /// Its level here.
    pub level: Level,
    /// The path as it is shown.
    pub path: Arc<str>,
    /// Its place in bytes.
    pub span: Span,
    /// Where it begins.
    pub start: Place,
    /// Where it ends.
    pub end: Place,
    /// What is wrong.
    pub message: String,
    /// What to do.
    pub advice: Option<Cow<'static, str>>,
    /// Other places that explain it.
    pub related: Vec<RelatedPlace>,
    /// The edit that removes it.
    pub fix: Option<Fix>,
    /// What holds it back, if anything.
    pub held: Option<Held>,
    /// What makes it the same finding in another version of the code; only where a baseline asks for it.
    pub identity: Option<Box<Identity>>,
    /// The lines around it; only where the output shows them.
    pub excerpt: Option<Box<Excerpt>>,
}

impl Finding {
    /// What tells it from other findings in its file, also in another version of the code, as 32 digits of a hash. Findings that are
    /// alike in all but their places have the same.
    pub fn fingerprint(&self, rules: &RuleSet) -> String {
        let name = rules.name(self.rule);
        let key = match self.identity.as_deref() {
            Some(Identity { within, code }) => format!("{name}\0{within}\0{code}"),
            None => format!("{name}\0\0\0{}", self.message),
        };
        format!("{:032x}", xxh3_128(key.as_bytes()))
    }
}

/// Another place that explains a finding.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct RelatedPlace {
    /// The path as it is shown.
    pub path: Arc<str>,
    /// Where it begins.
    pub start: Place,
    /// Where it ends; the beginning where that is not known.
    pub end: Place,
    /// What is there.
    pub label: String,
}

/// What a finding is, apart from its rule and file: what a baseline knows it by.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Identity {
    /// The named things around it, from the outermost, joined by dots.
    pub within: String,
    /// The flagged tokens.
    pub code: String,
}

/// What holds a finding back.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub enum Held {
    /// The baseline knows it.
    Baseline,
    /// A waiver in a comment on this line covers it.
    Waiver {
        /// The comment's line.
        line: u32,
        /// Its reason.
        reason: Option<String>,
    },
    /// A waiver in the settings covers its file.
    SettingsWaiver {
        /// Where it is: the settings file as it is shown, and the line.
        at: String,
        /// Its reason.
        reason: String,
    },
    /// A scope of the settings switches its rule off.
    Scope {
        /// Where it is: the settings file as it is shown, and the line.
        at: String,
        /// Its reason.
        reason: Option<String>,
    },
}

impl Held {
    /// The word for what holds it.
    pub fn word(&self) -> &'static str {
        match self {
            Held::Baseline => "baseline",
            Held::Waiver { .. } | Held::SettingsWaiver { .. } => "waiver",
            Held::Scope { .. } => "scope",
        }
    }
}

/// The text around a finding, cut where lines are very long.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Excerpt {
    /// The line before the first one, if it is not blank.
    pub before: Option<String>,
    /// The line in which the finding begins, or a part of it.
    pub line: String,
    /// How many characters of the line are cut off before the part.
    pub cut: u32,
    /// Whether the line goes on after the part.
    pub goes_on: bool,
    /// Where the edits of the fix begin and end.
    pub edits: Vec<(Place, Place)>,
}

/// A place that a rule could not decide.
#[derive(Debug, Clone)]
pub struct UnsurePlace {
    /// The rule.
    pub rule: RuleId,
    /// The path as it is shown.
    pub path: Arc<str>,
    /// Where.
    pub start: Place,
    /// Why it cannot be known.
    pub reason: Cow<'static, str>,
}

impl UnsurePlace {
    /// The reason at a name that all files seem to be given by something outside of them.
    pub const PROVIDED: &'static str =
        "several files use the name and none defines it: list it under \"known\" if something provides it";
    /// The reason at a member that some file gives to a module.
    pub const GIVEN: &'static str = "another file gives a member of that name to a module";
}

/// A budget of the baseline, and how much of it is used.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BudgetNote {
    /// Where it is: the settings file as it is shown, and the line.
    pub at: String,
    /// The paths that count, as they are written; nothing where all do.
    pub paths: String,
    /// How many entries count.
    pub used: u64,
    /// How many there may be.
    pub most: u64,
}

/// A waiver, for the list of all there are.
#[derive(Debug, Clone)]
pub struct WaiverNote {
    /// The file that holds it, as it is shown.
    pub path: Arc<str>,
    /// Its line.
    pub line: u32,
    /// The rules and concerns it names.
    pub names: Vec<String>,
    /// Why.
    pub reason: Option<String>,
    /// The last day on which it holds.
    pub until: Option<Date>,
    /// How many findings it holds back.
    pub holds: u32,
    /// Whether it does anything.
    pub state: WaiverState,
}

/// Whether a waiver does anything; what needs care comes first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum WaiverState {
    /// Its last day is over.
    Expired,
    /// It holds nothing back.
    Stale,
    /// It cannot be known in this run: a rule that it names is off, or could not decide.
    Unsure,
    /// It holds findings back.
    Holds,
}

impl WaiverState {
    /// The word for it.
    pub fn word(self) -> &'static str {
        match self {
            WaiverState::Expired => "expired",
            WaiverState::Stale => "stale",
            WaiverState::Unsure => "unsure",
            WaiverState::Holds => "holds",
        }
    }
}

/// Why a file was not sifted.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum LeftOut {
    /// Made by a program.
    Generated,
    /// The settings skip it.
    Skipped,
    /// Larger than the settings allow.
    TooLarge,
    /// Its bytes are not text in UTF-8, or in the encoding it names.
    NotUtf8,
    /// In a dialect that is not understood, by its first line.
    OtherDialect,
    /// Code that a program fills in before it is any.
    Template,
    /// A link; what it leads to is sifted where it is, if at all.
    Link,
    /// Named on the command line, but in no language that is known here.
    UnknownLanguage,
}

impl LeftOut {
    /// The key in machine forms.
    pub fn key(self) -> &'static str {
        match self {
            LeftOut::Generated => "generated",
            LeftOut::Skipped => "skipped",
            LeftOut::TooLarge => "too-large",
            LeftOut::NotUtf8 => "not-utf-8",
            LeftOut::OtherDialect => "other-dialect",
            LeftOut::Template => "template",
            LeftOut::Link => "link",
            LeftOut::UnknownLanguage => "unknown-language",
        }
    }

    /// In words, after "files:" and a number.
    pub fn describe(self) -> &'static str {
        match self {
            LeftOut::Generated => "generated",
            LeftOut::Skipped => "skipped by settings",
            LeftOut::TooLarge => "too large",
            LeftOut::NotUtf8 => "not UTF-8",
            LeftOut::OtherDialect => "in another dialect",
            LeftOut::Template => "templates of code",
            LeftOut::Link => "reached by a link",
            LeftOut::UnknownLanguage => "of unknown language",
        }
    }
}

impl Outcome {
    /// How many files were left out, by cause.
    pub fn left_out_by_cause(&self) -> BTreeMap<LeftOut, usize> {
        let mut counts = BTreeMap::new();
        self.left_out.iter().for_each(|(_, cause)| *counts.entry(*cause).or_insert(0) += 1);
        counts
    }

    /// The findings that are reported.
    pub fn caught(&self) -> impl Iterator<Item = &Finding> {
        self.findings.iter().filter(|finding| finding.held.is_none())
    }

    /// How many findings are reported at a level.
    pub fn caught_at(&self, level: Level) -> usize {
        self.caught().filter(|finding| finding.level == level).count()
    }

    /// How many reported findings have a fix of a sort.
    pub fn fixable(&self, kind: FixKind) -> usize {
        self.caught().filter(|finding| finding.fix.as_ref().is_some_and(|fix| fix.kind == kind)).count()
    }

    /// How many findings each thing holds back.
    pub fn held(&self) -> BTreeMap<&'static str, usize> {
        let mut counts = BTreeMap::new();
        for held in self.findings.iter().filter_map(|finding| finding.held.as_ref()) {
            *counts.entry(held.word()).or_insert(0) += 1;
        }
        counts
    }

    /// Whether a finding at a level or above is reported.
    pub fn fails_at(&self, level: Level) -> bool {
        level != Level::Off && self.caught().any(|finding| finding.level >= level)
    }

    /// Whether the baseline fails the run: a budget is overdrawn, or, where it is strict, something is paid off and not taken
    /// from it yet.
    pub fn debt_fails(&self) -> bool {
        let slack = self.gone_from_baseline > 0 || self.budgets.iter().any(|budget| budget.used < budget.most);
        self.budgets.iter().any(|budget| budget.used > budget.most) || (self.strict && slack)
    }

    /// Findings per 1000 lines; `None` where there are no lines.
    pub fn density(&self) -> Option<f64> {
        (self.lines > 0).then(|| self.caught().count() as f64 * 1000.0 / self.lines as f64)
    }
}
