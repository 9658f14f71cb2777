//! What can be done about a finding.

use std::collections::BTreeSet;
use std::path::Path;
use std::sync::Arc;

use lsp_types::{
    CodeAction, CodeActionContext, CodeActionKind, CodeActionParams, Command, Diagnostic, NumberOrString, WorkspaceEdit,
};
use serde_json::{Value, json};
use sieve_engine::discover::of_name;
use sieve_engine::outcome::Finding;
use sieve_engine::settings::{self, FILE_NAME};
use sieve_engine::{NewWaiver, waive};
use sieve_rules::{Edit, FixKind, Level, RuleId, RuleSet};
use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};

use super::document::Document;
use super::edits::{Changes, edits_between, text_edits};
use super::names;
use super::session::{Session, file_of};
use super::uri::uri_of;
use super::wire::Fault;
use crate::run::nearest_settings;

/// Stands for the reason of a waiver until somebody writes one.
const REASON: &str = "REASON";

/// Larger settings are not changed, in bytes.
const LARGEST_SETTINGS: u64 = 1 << 20;

/// The rule whose fix puts imports in order.
const IMPORTS: &str = "import-order";

impl Session {
    /// The actions for a stretch of a text.
    pub(super) fn actions(&mut self, params: &CodeActionParams) -> Result<Vec<CodeAction>, Fault> {
        let path = file_of(&params.text_document.uri)?;
        self.look_if_needed(&path);
        let Some(document) = self.documents.get(&path) else { return Ok(Vec::new()) };
        let span = self.able.units.span(&document.text, params.range);
        let wanted = Wanted(&params.context);
        let mut actions = Vec::new();
        // Where the cursor is only in the line of a finding, it is meant as well.
        let (lines, source) = (document.text.lines(), document.text.source());
        let line = lines.line(source, lines.line_of(span.start));
        if wanted.asks_for("quickfix") {
            let mut found = self.findings_at(&path, span);
            if found.is_empty() && span.is_empty() {
                found = self.findings_at(&path, line);
            }
            let mut seen = BTreeSet::new();
            for finding in found.iter().filter(|finding| finding.held.is_none()) {
                let is_first = seen.insert((finding.rule, finding.span.start));
                actions.extend(self.fixes_of(&path, finding, params));
                if is_first {
                    actions.extend(self.ways_to_live_with(&path, finding, params));
                }
            }
            // What changes the code comes before what only changes what is said of it.
            actions.sort_by_key(|action| !action.is_preferred.unwrap_or(false) && action.edit.is_none());
        }
        if wanted.names("source.fixAll") {
            actions.extend(self.source_action(
                &path,
                "source.fixAll",
                "Fix all that can be fixed without risk",
                None,
            )?);
        }
        if wanted.names("source.organizeImports") {
            let title = "Put imports in order";
            actions.extend(self.source_action(&path, "source.organizeImports", title, Some(IMPORTS))?);
        }
        Ok(actions)
    }

    fn fixes_of(&self, path: &Path, finding: &Finding, params: &CodeActionParams) -> Vec<CodeAction> {
        let Some(checked) = self.checked.get(path) else { return Vec::new() };
        let Some((document, fix)) = self.documents.get(path).zip(finding.fix.as_ref()) else { return Vec::new() };
        let rule = checked.rules.name(finding.rule);
        let is_exact = fix.kind == FixKind::Exact;
        let title = if is_exact { format!("Fix {rule}") } else { format!("Fix {rule}, to be reviewed") };
        let mut actions = vec![CodeAction {
            is_preferred: Some(is_exact),
            edit: Some(self.edit_of(document, &fix.edits)),
            ..self.action(title, finding, rule, params)
        }];
        let alike = |other: &&Finding| {
            let is_exact = other.fix.as_ref().is_some_and(|fix| fix.kind == FixKind::Exact);
            other.rule == finding.rule && other.held.is_none() && is_exact
        };
        let all = checked.findings.iter().filter(alike).count();
        if is_exact && all > 1 {
            let title = format!("Fix all {all} of {rule} in this file");
            let arguments = vec![json!(uri_of(path)), json!(rule)];
            actions.push(CodeAction {
                command: Some(Command::new(title.clone(), names::FIX_ALL.into(), Some(arguments))),
                ..self.action(title, finding, rule, params)
            });
        }
        actions
    }

    /// Waivers, levels, the baseline, and the reasons for the rule.
    fn ways_to_live_with(&mut self, path: &Path, finding: &Finding, params: &CodeActionParams) -> Vec<CodeAction> {
        let Ok(rules) = self.rules_of(path) else { return Vec::new() };
        let rule = rules.name(finding.rule).to_string();
        let mut actions = Vec::new();
        if let Some((edit, selected)) = self.waiver(path, finding, &rule) {
            let arguments = vec![json!(uri_of(path)), json!(selected)];
            actions.push(CodeAction {
                edit: Some(edit),
                command: Some(Command::new("Select the reason".into(), names::SELECT.into(), Some(arguments))),
                ..self.action(format!("Waive {rule} here, with a reason…"), finding, &rule, params)
            });
        }
        let lower = [Level::Note, Level::Off].into_iter().filter(|level| *level < finding.level);
        for level in lower {
            if let Some(edit) = self.level_edit(path, &rule, level, &rules) {
                let what =
                    if level == Level::Off { format!("Switch {rule} off") } else { format!("Make {rule} a note") };
                actions.push(CodeAction {
                    edit: Some(edit),
                    ..self.action(format!("{what} in {FILE_NAME}"), finding, &rule, params)
                });
            }
        }
        let mut command = |title: String, command: &str, arguments: Vec<Value>| {
            actions.push(CodeAction {
                command: Some(Command::new(title.clone(), command.into(), Some(arguments))),
                ..self.action(title, finding, &rule, params)
            });
        };
        if finding.identity.is_some() {
            let arguments =
                vec![json!(uri_of(path)), json!(rule), json!(finding.start.line), json!(finding.start.column)];
            command(format!("Record this {rule} in the baseline"), names::RECORD, arguments);
        }
        command(format!("Explain {rule}"), names::EXPLAIN, vec![json!(rule), json!(uri_of(path))]);
        actions
    }

    fn action(&self, title: String, finding: &Finding, rule: &str, params: &CodeActionParams) -> CodeAction {
        let document = self.documents.values().find(|document| document.uri == params.text_document.uri);
        let range = document.map(|document| self.able.units.range(&document.text, finding.span));
        let is_it = |diagnostic: &&Diagnostic| {
            diagnostic.code == Some(NumberOrString::String(rule.to_string())) && Some(diagnostic.range) == range
        };
        let diagnostics: Vec<Diagnostic> = params.context.diagnostics.iter().filter(is_it).cloned().collect();
        CodeAction {
            title,
            kind: Some(CodeActionKind::QUICKFIX),
            diagnostics: (!diagnostics.is_empty()).then_some(diagnostics),
            ..CodeAction::default()
        }
    }

    /// The edit that writes a waiver, and where its reason is after it.
    fn waiver(&self, path: &Path, finding: &Finding, rule: &str) -> Option<(WorkspaceEdit, lsp_types::Range)> {
        let document = self.documents.get(path)?;
        let language = language_of(path, document.text.source())?;
        let names = [rule.to_string()];
        let new = NewWaiver { names: &names, because: REASON, until: None };
        let line = document.text.place(finding.span.start).line;
        let (after, at) = waive(language, &document.text, line, &new).ok()?;
        let edits = edits_between(&document.text, &after);
        let after = Text::new(after);
        let line = after.lines().line(after.source(), at);
        let start = line.start + after.slice(line).rfind(REASON)? as u32;
        let selected = self.able.units.range(&after, Span::new(start, start + REASON.len() as u32));
        Some((self.edit_of(document, &edits), selected))
    }

    /// The edit that sets a level in the nearest settings file, or in a new one at the root.
    fn level_edit(&mut self, path: &Path, rule: &str, level: Level, rules: &Arc<RuleSet>) -> Option<WorkspaceEdit> {
        let index = self.folder_of(path);
        let project = self.folders[index].near.project();
        let file = nearest_settings(project, path.parent()?);
        let is_there = project.files.is_file(&file);
        let before = if is_there { project.files.read(&file, LARGEST_SETTINGS).ok()? } else { Vec::new() };
        let before = String::from_utf8(before).ok()?;
        let after = settings::set(&file, &before, rule, level.word(), rules).ok()?;
        let before = Text::new(before);
        let edits = text_edits(&before, &edits_between(&before, &after), self.able.units);
        let mut changes = Changes::default();
        if is_there {
            changes.add(&file, self.documents.get(&file).map(|document| document.version), edits);
        } else {
            changes.create(&file, edits);
        }
        // Without the form that makes files a client could not write it.
        (is_there || self.able.document_changes).then(|| changes.into_edit(self.able.document_changes))
    }

    fn source_action(
        &mut self,
        path: &Path,
        kind: &'static str,
        title: &str,
        only: Option<&str>,
    ) -> Result<Option<CodeAction>, Fault> {
        let rules = self.rules_of(path)?;
        let only: Vec<RuleId> = only.and_then(|name| rules.named(name)).into_iter().collect();
        let edit = self.fixed(path, &only)?;
        Ok(edit.map(|edit| CodeAction {
            title: title.to_string(),
            kind: Some(CodeActionKind::new(kind)),
            edit: Some(edit),
            ..CodeAction::default()
        }))
    }

    /// The edit of the exact fixes in a text; nothing where there are none.
    pub(super) fn fixed(&mut self, path: &Path, only: &[RuleId]) -> Result<Option<WorkspaceEdit>, Fault> {
        let edits = self.fixing_edits(path, only)?;
        let Some(document) = self.documents.get(path).filter(|_| !edits.is_empty()) else { return Ok(None) };
        Ok(Some(self.edit_of(document, &edits)))
    }

    /// Edits of an open text in the form that the client understands.
    fn edit_of(&self, document: &Document, edits: &[Edit]) -> WorkspaceEdit {
        let mut changes = Changes::default();
        changes.add(&document.path, Some(document.version), text_edits(&document.text, edits, self.able.units));
        changes.into_edit(self.able.document_changes)
    }

    /// The rules that there are for a file.
    pub(super) fn rules_of(&mut self, path: &Path) -> Result<Arc<RuleSet>, Fault> {
        let index = self.folder_of(path);
        let settings =
            self.folders[index].near.settings().map_err(|error| Fault::new(Fault::FAILED, error.to_string()))?;
        Ok(Arc::clone(settings.rule_set()))
    }
}

/// The language of a text by the name of its file, or by its first line.
pub(super) fn language_of(path: &Path, source: &str) -> Option<Language> {
    of_name(path).or_else(|| Language::of_first_line(source.lines().next().unwrap_or_default()))
}

/// Which kinds of actions are wanted.
struct Wanted<'w>(&'w CodeActionContext);

impl Wanted<'_> {
    /// Whether a kind is asked for, or any.
    fn asks_for(&self, kind: &str) -> bool {
        self.0.only.is_none() || self.names(kind)
    }

    /// Whether a kind, or one that it belongs to, is asked for by its name.
    fn names(&self, kind: &str) -> bool {
        let is_it = |wanted: &CodeActionKind| {
            let rest = kind.strip_prefix(wanted.as_str());
            rest.is_some_and(|rest| rest.is_empty() || rest.starts_with('.') || wanted.as_str().is_empty())
        };
        self.0.only.iter().flatten().any(is_it)
    }
}
