//! Requests by their methods.

use lsp_types::{Hover, HoverContents, HoverParams, MarkupContent, MarkupKind};
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value;
use sieve_engine::outcome::Finding;
use sieve_syntax::text::Span;

use super::hover;
use super::session::{Session, file_of};
use super::wire::Fault;

impl Session {
    /// The answer to a request.
    pub(super) fn answer(&mut self, method: &str, params: Value) -> Result<Value, Fault> {
        match method {
            "textDocument/diagnostic" => of(params, |params| self.pull(params)),
            "textDocument/codeAction" => of(params, |params| self.actions(&params)),
            "textDocument/hover" => of(params, |params| self.hover(&params)),
            "textDocument/formatting" => of(params, |params| self.format(&params)),
            "textDocument/rangeFormatting" => of(params, |params| self.format_range(&params)),
            "textDocument/prepareRename" => of(params, |params| self.prepare_rename(&params)),
            "textDocument/rename" => of(params, |params| self.rename(&params)),
            "textDocument/completion" => of(params, |params| self.complete(&params)),
            "workspace/executeCommand" => of(params, |params| self.execute(params)),
            _ => Err(Fault::new(Fault::UNKNOWN_METHOD, format!("there is no {method}"))),
        }
    }

    /// The rules of the findings below the pointer; in settings, the rule that is named there.
    fn hover(&mut self, params: &HoverParams) -> Result<Option<Hover>, Fault> {
        let at = &params.text_document_position_params;
        let path = file_of(&at.text_document.uri)?;
        self.look_if_needed(&path);
        let Some(document) = self.documents.get(&path) else { return Ok(None) };
        let offset = self.able.units.offset(&document.text, at.position);
        let shown = |value: String, span: Span, session: &Session| {
            let contents = HoverContents::Markup(MarkupContent { kind: MarkupKind::Markdown, value });
            let range = session.documents.get(&path).map(|document| session.able.units.range(&document.text, span));
            Hover { contents, range }
        };
        if let Some((text, span)) = self.rule_named_at(&path, offset) {
            return Ok(Some(shown(text, span, self)));
        }
        let found = self.findings_at(&path, Span::at(offset));
        let Some(first) = found.first() else { return Ok(None) };
        let span = first.span;
        let rules = self.rules_of(&path)?;
        let texts: Vec<String> = found.iter().map(|finding| hover::of_finding(finding, &rules)).collect();
        Ok(Some(shown(texts.join("\n\n---\n\n"), span, self)))
    }

    /// The findings in a text that meet a stretch and are shown.
    pub(super) fn findings_at(&self, path: &std::path::Path, span: Span) -> Vec<Finding> {
        let Some(document) = self.documents.get(path) else { return Vec::new() };
        let own = self.checked.get(path).map_or(&[][..], |checked| &checked.findings);
        let meets = |finding: &&Finding| finding.span.start <= span.end && span.start <= finding.span.end;
        let is_shown = |finding: &&Finding| finding.held.is_none() || self.options.held;
        own.iter().chain(&document.over_files).filter(meets).filter(is_shown).cloned().collect()
    }
}

/// Reads what a request comes with, and writes its answer.
fn of<P: DeserializeOwned, R: Serialize>(
    params: Value,
    work: impl FnOnce(P) -> Result<R, Fault>,
) -> Result<Value, Fault> {
    let params =
        serde_json::from_value(params).map_err(|error| Fault::new(Fault::INVALID_PARAMS, error.to_string()))?;
    let result = work(params)?;
    serde_json::to_value(result).map_err(|error| Fault::new(Fault::FAILED, error.to_string()))
}
