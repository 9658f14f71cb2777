//! The form in which the result of one file is kept.

use std::borrow::Cow;
use std::path::Path;
use std::sync::Arc;

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use sieve_rules::copies::Window;
use sieve_rules::{Check, Edit, Fix, FixKind, Level, RuleId, RuleSet, Sizes};
use sieve_syntax::text::{Place, Span};

use super::key::SettingsKeys;
use crate::check::{FileOutcome, FileResult, OneFile};
use crate::hold::baseline::Scopes;
use crate::join::Facts;
use crate::outcome::{Finding, Held, Identity, LeftOut, RelatedPlace, UnsurePlace, WaiverNote, WaiverState};
use crate::project::{Project, absolute, relative};

/// What is kept of one file.
#[derive(Debug, Serialize, Deserialize)]
pub(crate) struct Stored<'s> {
    /// The day of the run, and the last days of the waivers: whether one is over decides over findings.
    day: Date,
    last_days: Vec<Date>,
    /// What tells the rules of packs that were run from others.
    house: u128,
    /// What tells the names of rules of packs from others, where the file has a waiver or the like.
    names: Option<u128>,
    #[serde(borrow)]
    result: StoredResult<'s>,
}

#[derive(Debug, Serialize, Deserialize)]
enum StoredResult<'s> {
    LeftOut(u8),
    Sifted {
        lines: u64,
        sizes: Option<[u32; 7]>,
        broken: bool,
        scopes: Option<Vec<u64>>,
        findings: Vec<StoredFinding>,
        unsure: Vec<StoredUnsure>,
        waivers: Vec<StoredWaiver>,
        windows: Vec<StoredWindow>,
        /// What the file says of itself and asks of others, to be read once it is needed.
        #[serde(borrow)]
        facts: Cow<'s, [u8]>,
    },
}

/// The hash, the block, the place in it, the stretch, and its line.
type StoredWindow = (u64, u32, u32, (u32, u32), u32);

/// The path from the root where it is another one, the start, the end, and the label.
type StoredRelated = (Option<String>, (u32, u32), (u32, u32), String);

/// Where a result is from or for.
struct At<'r> {
    project: &'r Project,
    shown: &'r Arc<str>,
    rules: &'r RuleSet,
}

/// A rule of this build by its number, one of a pack by its name.
#[derive(Debug, Serialize, Deserialize)]
enum StoredRule {
    BuiltIn(u16),
    House(String),
}

#[derive(Debug, Serialize, Deserialize)]
struct StoredFinding {
    rule: StoredRule,
    level: u8,
    span: (u32, u32),
    start: (u32, u32),
    end: (u32, u32),
    message: String,
    advice: Option<String>,
    related: Vec<StoredRelated>,
    fix: Option<(bool, Vec<(u32, u32, String)>)>,
    held: Option<StoredHeld>,
    identity: Option<(String, String)>,
}

#[derive(Debug, Serialize, Deserialize)]
enum StoredHeld {
    Waiver(u32, Option<String>),
    SettingsWaiver(String, String),
    Scope(String, Option<String>),
}

#[derive(Debug, Serialize, Deserialize)]
struct StoredUnsure {
    rule: StoredRule,
    start: (u32, u32),
    reason: String,
}

#[derive(Debug, Serialize, Deserialize)]
struct StoredWaiver {
    line: u32,
    names: Vec<String>,
    reason: Option<String>,
    until: Option<Date>,
    holds: u32,
    state: u8,
}

/// Causes that the content of a file decides over; the others are determined again in each run.
const CAUSES: &[LeftOut] = &[LeftOut::Generated, LeftOut::NotUtf8, LeftOut::OtherDialect, LeftOut::Template];

const STATES: &[WaiverState] = &[WaiverState::Expired, WaiverState::Stale, WaiverState::Unsure, WaiverState::Holds];

impl<'s> Stored<'s> {
    /// The form of a result; nothing where it is not to be kept.
    pub(crate) fn of(result: &FileResult, run: &OneFile<'_>, keys: &SettingsKeys) -> Option<Stored<'static>> {
        let at = At::of(run);
        let (kept, last_days) = match result {
            FileResult::Failed(_) => return None,
            FileResult::LeftOut(cause) => {
                (StoredResult::LeftOut(CAUSES.iter().position(|known| known == cause)? as u8), Vec::new())
            }
            FileResult::Sifted(outcome) => {
                let last_days = outcome.waivers.iter().filter_map(|note| note.until).collect();
                (sifted(outcome, &at)?, last_days)
            }
        };
        let names = minds_names(result, at.rules).then_some(keys.names);
        Some(Stored { day: run.today, last_days, house: keys.house, names, result: kept })
    }

    pub(crate) fn write(&self) -> Option<Vec<u8>> {
        let mut bytes = postcard::to_stdvec(self).ok()?;
        bytes.shrink_to_fit();
        Some(bytes)
    }

    pub(crate) fn read(bytes: &'s [u8]) -> Option<Stored<'s>> {
        postcard::from_bytes(bytes).ok()
    }

    /// Whether no waiver has ended since, or come back.
    pub(crate) fn holds_on(&self, today: Date) -> bool {
        self.last_days.iter().all(|last| (*last < self.day) == (*last < today))
    }

    /// Whether the rules of packs were those of today.
    pub(crate) fn is_current(&self, keys: &SettingsKeys) -> bool {
        self.house == keys.house && self.names.is_none_or(|names| names == keys.names)
    }

    /// The same without what rules of packs found.
    pub(crate) fn without_house(mut self) -> Stored<'s> {
        if let StoredResult::Sifted { findings, unsure, .. } = &mut self.result {
            findings.retain(|finding| matches!(finding.rule, StoredRule::BuiltIn(_)));
            unsure.retain(|place| matches!(place.rule, StoredRule::BuiltIn(_)));
        }
        self
    }

    /// What was kept in the form of a new result; without facts where the run needs none.
    pub(crate) fn into_result(self, run: &OneFile<'_>) -> Option<FileResult> {
        let at = &At::of(run);
        match self.result {
            StoredResult::LeftOut(cause) => Some(FileResult::LeftOut(*CAUSES.get(usize::from(cause))?)),
            StoredResult::Sifted { lines, sizes, broken, scopes, findings, unsure, waivers, windows, facts } => {
                Some(FileResult::Sifted(FileOutcome {
                    lines: lines as usize,
                    sizes: sizes.map(Sizes::from_counts),
                    broken,
                    scopes: scopes.map(Scopes::from_hashes),
                    unchanged: Vec::new(),
                    facts: if run.needs_facts { postcard::from_bytes(&facts).ok()? } else { Facts::default() },
                    findings: findings.into_iter().map(|finding| finding.load(at)).collect::<Option<_>>()?,
                    unsure: unsure.into_iter().map(|unsure| unsure.load(at)).collect::<Option<_>>()?,
                    waivers: waivers.into_iter().map(|waiver| waiver.load(at.shown)).collect::<Option<_>>()?,
                    windows: windows.into_iter().map(window).collect(),
                }))
            }
        }
    }
}

/// Whether there is something in a file that names rules.
fn minds_names(result: &FileResult, rules: &RuleSet) -> bool {
    let FileResult::Sifted(outcome) = result else { return false };
    let is_upkeep = |finding: &Finding| {
        rules.rule(finding.rule).as_built_in().is_some_and(|rule| matches!(rule.check, Check::Upkeep))
    };
    !outcome.waivers.is_empty() || outcome.findings.iter().any(is_upkeep)
}

fn sifted(outcome: &FileOutcome, at: &At<'_>) -> Option<StoredResult<'static>> {
    let waiver = |note: &WaiverNote| {
        Some(StoredWaiver {
            line: note.line,
            names: note.names.clone(),
            reason: note.reason.clone(),
            until: note.until,
            holds: note.holds,
            state: STATES.iter().position(|state| *state == note.state)? as u8,
        })
    };
    let unsure = |place: &UnsurePlace| StoredUnsure {
        rule: StoredRule::of(place.rule, at.rules),
        start: pair(place.start),
        reason: place.reason.to_string(),
    };
    Some(StoredResult::Sifted {
        lines: outcome.lines as u64,
        sizes: outcome.sizes.map(Sizes::counts),
        broken: outcome.broken,
        scopes: outcome.scopes.as_ref().map(|scopes| scopes.hashes().to_vec()),
        findings: outcome.findings.iter().map(|finding| StoredFinding::of(finding, at)).collect::<Option<_>>()?,
        unsure: outcome.unsure.iter().map(unsure).collect(),
        waivers: outcome.waivers.iter().map(waiver).collect::<Option<_>>()?,
        windows: outcome.windows.iter().map(of_window).collect(),
        facts: postcard::to_stdvec(&outcome.facts).ok()?.into(),
    })
}

fn of_window(window: &Window) -> StoredWindow {
    (window.hash, window.block, window.first, (window.span.start, window.span.end), window.line)
}

fn window((hash, block, first, (start, end), line): StoredWindow) -> Window {
    Window { hash, block, first, span: Span { start, end }, line }
}

fn pair(place: Place) -> (u32, u32) {
    (place.line, place.column)
}

fn place((line, column): (u32, u32)) -> Place {
    Place { line, column }
}

impl StoredRule {
    fn of(rule: RuleId, rules: &RuleSet) -> StoredRule {
        match rules.house_rule(rule) {
            Some(house) => StoredRule::House(house.name.clone()),
            None => StoredRule::BuiltIn(rule.0),
        }
    }

    /// The rule, if it is there.
    fn id(&self, rules: &RuleSet) -> Option<RuleId> {
        match self {
            StoredRule::BuiltIn(number) => {
                Some(RuleId(*number)).filter(|id| usize::from(id.0) < rules.count() && rules.house_rule(*id).is_none())
            }
            StoredRule::House(name) => rules.named(name),
        }
    }
}

impl<'r> At<'r> {
    fn of(run: &OneFile<'r>) -> At<'r> {
        At { project: run.project, shown: &run.candidate.shown, rules: run.candidate.settings.rule_set() }
    }

    /// A place with its path from the root: where the working folder is decides only over how it is shown.
    fn stored_related(&self, related: &RelatedPlace) -> Option<StoredRelated> {
        let path = match related.path == *self.shown {
            true => None,
            false => Some(relative(&self.project.root, &self.project.path_of(&related.path))?),
        };
        Some((path, pair(related.start), pair(related.end), related.label.clone()))
    }

    fn related(&self, (path, start, end, label): StoredRelated) -> RelatedPlace {
        let shown = |path: String| self.project.shown(&absolute(&self.project.root, Path::new(&path)));
        RelatedPlace {
            path: path.map_or_else(|| Arc::clone(self.shown), |path| shown(path).into()),
            start: place(start),
            end: place(end),
            label,
        }
    }
}

impl StoredFinding {
    fn of(finding: &Finding, at: &At<'_>) -> Option<StoredFinding> {
        let held = match &finding.held {
            None => None,
            // The baseline is matched in each run, after the cache.
            Some(Held::Baseline) => return None,
            Some(Held::Waiver { line, reason }) => Some(StoredHeld::Waiver(*line, reason.clone())),
            Some(Held::SettingsWaiver { at, reason }) => Some(StoredHeld::SettingsWaiver(at.clone(), reason.clone())),
            Some(Held::Scope { at, reason }) => Some(StoredHeld::Scope(at.clone(), reason.clone())),
        };
        let edits =
            |fix: &Fix| fix.edits.iter().map(|edit| (edit.span.start, edit.span.end, edit.text.clone())).collect();
        Some(StoredFinding {
            rule: StoredRule::of(finding.rule, at.rules),
            level: Level::ALL.iter().position(|level| *level == finding.level)? as u8,
            span: (finding.span.start, finding.span.end),
            start: pair(finding.start),
            end: pair(finding.end),
            message: finding.message.clone(),
            advice: finding.advice.as_deref().map(str::to_string),
            related: finding.related.iter().map(|place| at.stored_related(place)).collect::<Option<_>>()?,
            fix: finding.fix.as_ref().map(|fix| (fix.kind == FixKind::Exact, edits(fix))),
            held,
            identity: finding.identity.as_ref().map(|identity| (identity.within.clone(), identity.code.clone())),
        })
    }

    fn load(self, at: &At<'_>) -> Option<Finding> {
        let held = self.held.map(|held| match held {
            StoredHeld::Waiver(line, reason) => Held::Waiver { line, reason },
            StoredHeld::SettingsWaiver(at, reason) => Held::SettingsWaiver { at, reason },
            StoredHeld::Scope(at, reason) => Held::Scope { at, reason },
        });
        let edit = |(start, end, text)| Edit { span: Span { start, end }, text };
        let fix = self.fix.map(|(exact, edits)| Fix {
            kind: if exact { FixKind::Exact } else { FixKind::Review },
            edits: edits.into_iter().map(edit).collect(),
        });
        let related = self.related.into_iter().map(|place| at.related(place)).collect();
        Some(Finding {
            rule: self.rule.id(at.rules)?,
            level: *Level::ALL.get(usize::from(self.level))?,
            path: Arc::clone(at.shown),
            span: Span { start: self.span.0, end: self.span.1 },
            start: place(self.start),
            end: place(self.end),
            message: self.message,
            advice: self.advice.map(Cow::Owned),
            related,
            fix,
            held,
            identity: self.identity.map(|(within, code)| Box::new(Identity { within, code })),
            excerpt: None,
        })
    }
}

impl StoredUnsure {
    fn load(self, at: &At<'_>) -> Option<UnsurePlace> {
        Some(UnsurePlace {
            rule: self.rule.id(at.rules)?,
            path: Arc::clone(at.shown),
            start: place(self.start),
            reason: Cow::Owned(self.reason),
        })
    }
}

impl StoredWaiver {
    fn load(self, shown: &Arc<str>) -> Option<WaiverNote> {
        Some(WaiverNote {
            path: Arc::clone(shown),
            line: self.line,
            names: self.names,
            reason: self.reason,
            until: self.until,
            holds: self.holds,
            state: *STATES.get(usize::from(self.state))?,
        })
    }
}
