//! Commands: what a client runs by name.

use std::path::Path;

use lsp_types::{ExecuteCommandParams, MessageType};
use serde_json::{Value, json};

use super::names::{EXPLAIN, FIX_ALL, RECORD, SELECT, SIFT_PROJECT, UNSURE, argument_path};
use super::session::Session;
use super::uri::uri_of;
use super::wire::Fault;
use crate::output::page::page;

impl Session {
    pub(super) fn execute(&mut self, params: ExecuteCommandParams) -> Result<Value, Fault> {
        let arguments = params.arguments;
        match params.command.as_str() {
            FIX_ALL => self.fix_all(&arguments),
            SELECT => {
                self.select(&argument_path(arguments.first())?, arguments.get(1));
                Ok(Value::Null)
            }
            RECORD => self.record(&arguments),
            EXPLAIN => self.explain(&arguments),
            SIFT_PROJECT => {
                let folders: Vec<_> = self.folders.iter().map(|folder| folder.path.clone()).collect();
                self.tells.extend(folders);
                self.folders.iter().for_each(|folder| folder.far.ask());
                Ok(Value::Null)
            }
            UNSURE => self.unsure(&argument_path(arguments.first())?),
            other => Err(Fault::new(Fault::INVALID_PARAMS, format!("there is no command {other}"))),
        }
    }

    fn fix_all(&mut self, arguments: &[Value]) -> Result<Value, Fault> {
        let path = argument_path(arguments.first())?;
        let rules = self.rules_of(&path)?;
        let only = match arguments.get(1).and_then(Value::as_str) {
            None => Vec::new(),
            Some(name) => vec![rules.named(name).ok_or_else(|| unknown_rule(name))?],
        };
        if let Some(edit) = self.fixed(&path, &only)? {
            self.client.request("workspace/applyEdit", json!({ "label": "Fixes", "edit": edit }));
        }
        Ok(Value::Null)
    }

    fn select(&mut self, path: &Path, range: Option<&Value>) {
        if self.able.shows_documents {
            let shown = json!({ "uri": uri_of(path), "takeFocus": true, "selection": range });
            self.client.request("window/showDocument", shown);
        }
    }

    /// Shows the page of a rule as a document, if the client can; gives it in any case.
    fn explain(&mut self, arguments: &[Value]) -> Result<Value, Fault> {
        let name = arguments.first().and_then(Value::as_str).unwrap_or_default().to_string();
        let of = arguments.get(1).map(|_| argument_path(arguments.get(1))).transpose()?;
        let of = of.or_else(|| self.folders.first().map(|folder| folder.path.join("any")));
        let of = of.ok_or_else(|| Fault::new(Fault::FAILED, "there is no folder"))?;
        let rules = self.rules_of(&of)?;
        let id = rules.named(&name).ok_or_else(|| unknown_rule(&name))?;
        let rule = rules.rule(id);
        if self.able.shows_documents {
            if let Some(uri) = self.pages.uri(rule) {
                self.client.request("window/showDocument", json!({ "uri": uri, "takeFocus": true }));
            }
        } else {
            self.client.show(MessageType::INFO, &format!("{name}: {}. {}", rule.what, rule.why));
        }
        Ok(json!({ "rule": name, "markdown": page(rule) }))
    }

    fn unsure(&mut self, path: &Path) -> Result<Value, Fault> {
        self.look_if_needed(path);
        let Some((document, checked)) = self.documents.get(path).zip(self.checked.get(path)) else {
            return Err(Fault::new(Fault::FAILED, "the file is not open"));
        };
        let text = &document.text;
        let places = checked.unsure.iter().map(|place| {
            let line = text.slice(text.lines().line(text.source(), place.start.line));
            let start = self.able.units.of_place(place.start, Some(line));
            json!({ "uri": uri_of(path), "position": start, "rule": checked.rules.name(place.rule), "reason": place.reason })
        });
        Ok(Value::Array(places.collect()))
    }
}

fn unknown_rule(name: &str) -> Fault {
    Fault::new(Fault::INVALID_PARAMS, format!("there is no rule \"{name}\""))
}
