//! What is to be said of settings files and the baseline themselves: entries that match nothing, rules called by old names.

use std::path::Path;
use std::sync::Arc;

use sieve_rules::catalogue::history;
use sieve_rules::{Edit, Fix, FixKind, Level, RuleId};
use sieve_syntax::text::{Span, Text};

use crate::check::view::excerpt;
use crate::hold::baseline::Baseline;
use crate::outcome::{Finding, Identity, WaiverNote, WaiverState};
use crate::project::absolute;
use crate::run::Request;
use crate::settings::{SettingsError, SettingsFile, WaiveEntry};

/// Findings in the settings files of a run and in its baseline, as far as they lie below the paths that are sifted. To be called
/// when all files have been looked for: then it is known which patterns match nothing.
///
/// # Errors
/// When a settings file is wrong.
pub(crate) fn project_findings(request: &Request<'_>) -> Result<Vec<Finding>, SettingsError> {
    let mut findings = Vec::new();
    for file in request.settings.files() {
        if !is_sifted(request, &file.path) {
            continue;
        }
        let notes = Notes::new(request, &file.path, &file.text)?;
        findings.extend(file.old_names.iter().filter_map(|old| notes.old_name(old.span, old.rule, old.renamed_in)));
        if request.only_changes.is_none() && is_sifted(request, file.folder()) {
            findings.extend(idle_patterns(&notes, &file));
        }
    }
    if let Some(baseline) = request.baseline.filter(|baseline| is_sifted(request, &baseline.path)) {
        findings.extend(old_names_in_baseline(request, baseline)?);
    }
    Ok(findings)
}

/// Findings on the waivers of settings files, which are known when all files are done: those that are over, and those that hold
/// nothing back although every file and every rule had its say.
///
/// # Errors
/// When a settings file is wrong.
pub(crate) fn waiver_findings(request: &Request<'_>, noted: &[WaiverNote]) -> Result<Vec<Finding>, SettingsError> {
    let mut findings = Vec::new();
    for file in request.settings.files().iter().filter(|file| is_sifted(request, &file.path)) {
        let notes = Notes::new(request, &file.path, &file.text)?;
        let saw_all = request.only_changes.is_none() && is_sifted(request, file.folder());
        for entry in &file.waives {
            let is_it = |note: &&WaiverNote| note.path == notes.shown && note.line == entry.line;
            let state = noted.iter().find(is_it).map(|note| note.state);
            findings.extend(match state {
                Some(WaiverState::Expired) => notes.expired(entry),
                Some(WaiverState::Stale) if saw_all => notes.stale(entry),
                _ => None,
            });
        }
    }
    Ok(findings)
}

/// Whether a path lies below those that are sifted.
fn is_sifted(request: &Request<'_>, path: &Path) -> bool {
    let whole = |named: &Path| absolute(&request.project.folder, named);
    match request.paths {
        [] => path.starts_with(&request.project.folder),
        paths => paths.iter().any(|named| path.starts_with(whole(named))),
    }
}

fn idle_patterns<'n>(notes: &'n Notes<'_>, file: &'n SettingsFile) -> impl Iterator<Item = Finding> + 'n {
    let idle = file.patterns().flat_map(|patterns| patterns.idle());
    idle.filter_map(|(pattern, span)| {
        let message = format!("\"{pattern}\" matches no file below {}", notes.folder(file.folder()));
        notes.finding("idle-scope", span, message, "correct it, or take it out", None)
    })
}

fn old_names_in_baseline(request: &Request<'_>, baseline: &Baseline) -> Result<Option<Finding>, SettingsError> {
    let Some(first) = baseline.old_names.first() else { return Ok(None) };
    let notes = Notes::new(request, &baseline.path, &baseline.text)?;
    let edits = baseline
        .old_names
        .iter()
        .map(|old| Edit::replace(old.span, request.settings.rule_set().name(old.rule)))
        .collect();
    let fix = Fix { kind: FixKind::Exact, edits };
    let entries = match baseline.old_names.len() {
        1 => "1 entry calls its rule".to_string(),
        count => format!("{count} entries call their rules"),
    };
    let message = format!("{entries} by a name of an earlier release");
    Ok(notes.finding("renamed-rule", first.span, message, "use the names of today", Some(fix)))
}

/// A text that is no source, and the settings that hold for it.
struct Notes<'n> {
    request: &'n Request<'n>,
    shown: Arc<str>,
    text: &'n Text,
    settings: Arc<crate::settings::Effective>,
}

impl<'n> Notes<'n> {
    fn new(request: &'n Request<'n>, path: &Path, text: &'n Text) -> Result<Notes<'n>, SettingsError> {
        let settings = request.settings.for_folder(path.parent().unwrap_or(path))?;
        Ok(Notes { request, shown: request.project.shown(path).into(), text, settings })
    }

    fn folder(&self, folder: &Path) -> String {
        match self.request.project.shown(folder).as_str() {
            "." => "this folder".into(),
            shown => shown.into(),
        }
    }

    fn old_name(&self, span: Span, rule: RuleId, renamed_in: history::Release) -> Option<Finding> {
        let name = self.settings.rule_set().name(rule);
        let message = format!("\"{}\" is called {name} since {renamed_in}", self.text.slice(span));
        let fix = Fix { kind: FixKind::Exact, edits: vec![Edit::replace(span, name)] };
        self.finding("renamed-rule", span, message, "use the name of today", Some(fix))
    }

    fn expired(&self, entry: &WaiveEntry) -> Option<Finding> {
        let last_day = entry.until?;
        let message = format!("this waiver held until {last_day} and holds no longer");
        self.finding("expired-waiver", entry.span, message, "fix what it was for, or give it a new last day", None)
    }

    fn stale(&self, entry: &WaiveEntry) -> Option<Finding> {
        let would_show = |rule: &RuleId| {
            self.settings.level(*rule) != Level::Off && !self.settings.rule_set().rule(*rule).goes_over_files()
        };
        if !entry.rules.iter().all(would_show) {
            return None;
        }
        self.finding("stale-waiver", entry.span, "this waiver holds nothing back".to_string(), "remove it", None)
    }

    /// A finding, if its rule is on.
    fn finding(&self, rule: &str, span: Span, message: String, advice: &str, fix: Option<Fix>) -> Option<Finding> {
        let rule = self.settings.rule_set().named(rule).filter(|rule| self.settings.level(*rule) != Level::Off)?;
        let code = self.text.slice(span).to_string();
        let excerpt = self.request.wants.excerpts.then(|| excerpt(self.text, span, fix.as_ref()));
        Some(Finding {
            rule,
            level: self.settings.level(rule),
            path: Arc::clone(&self.shown),
            span,
            start: self.text.place(span.start),
            end: self.text.place(span.end),
            message,
            advice: Some(advice.to_string().into()),
            fix,
            held: None,
            related: Vec::new(),
            identity: Some(Box::new(Identity { within: String::new(), code })),
            excerpt: excerpt.map(Box::new),
        })
    }
}
