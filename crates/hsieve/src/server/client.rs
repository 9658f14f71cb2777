//! The client: what it understands, and what is sent to it.

use std::collections::HashMap;
use std::fs::File;
use std::io::{self, Write};

use lsp_types::{ClientCapabilities, MessageType, ResourceOperationKind};
use serde::Serialize;
use serde_json::{Value, json};

use super::position::Units;
use super::wire::{self, Fault, Id};

/// What a client understands, as far as it makes a difference.
#[derive(Debug, Clone, Copy)]
pub struct Abilities {
    /// How it counts columns.
    pub units: Units,
    /// It asks for diagnostics itself.
    pub pulls: bool,
    /// It asks again when told to.
    pub refreshes: bool,
    /// It shows other places of a diagnostic.
    pub related: bool,
    /// Edits may say of which version they are, and files may be made.
    pub document_changes: bool,
    /// It can give files other names.
    pub moves_files: bool,
    /// It can be asked to watch files.
    pub watches: bool,
    /// It shows how far long work has come.
    pub progress: bool,
    /// It can be asked to show a place.
    pub shows_documents: bool,
}

impl Abilities {
    /// What a client says of itself.
    pub fn of(client: &ClientCapabilities) -> Abilities {
        let text = client.text_document.as_ref();
        let workspace = client.workspace.as_ref();
        let window = client.window.as_ref();
        let units = client.general.as_ref().and_then(|general| general.position_encodings.as_deref());
        let publishing = text.and_then(|text| text.publish_diagnostics.as_ref());
        let edits = workspace.and_then(|workspace| workspace.workspace_edit.as_ref());
        let watched = workspace.and_then(|workspace| workspace.did_change_watched_files.as_ref());
        let operations = edits.and_then(|edits| edits.resource_operations.as_ref());
        let makes_files = operations.is_some_and(|all| all.contains(&ResourceOperationKind::Create));
        let moves_files = operations.is_some_and(|all| all.contains(&ResourceOperationKind::Rename));
        let is = |answer: Option<bool>| answer.unwrap_or(false);
        Abilities {
            units: Units::of(units),
            pulls: text.is_some_and(|text| text.diagnostic.is_some()),
            refreshes: is(workspace.and_then(|workspace| workspace.diagnostic.as_ref()?.refresh_support)),
            related: is(publishing.and_then(|publishing| publishing.related_information)),
            document_changes: is(edits.and_then(|edits| edits.document_changes)) || makes_files,
            moves_files,
            watches: is(watched.and_then(|watched| watched.dynamic_registration)),
            progress: is(window.and_then(|window| window.work_done_progress)),
            shows_documents: window
                .is_some_and(|window| window.show_document.as_ref().is_some_and(|show| show.support)),
        }
    }
}

/// The way to the client.
pub struct Client {
    output: Box<dyn Write>,
    log: Option<File>,
    last_id: i64,
    /// What was asked of it and is not answered yet.
    asked: HashMap<Id, &'static str>,
    /// What went wrong with the output: then nobody reads it any more.
    gone: bool,
}

impl Client {
    /// A client at the end of an output; what happens is written to a log too.
    pub fn new(output: Box<dyn Write>, log: Option<File>) -> Client {
        Client { output, log, last_id: 0, asked: HashMap::new(), gone: false }
    }

    /// Whether nobody reads what is sent.
    pub fn is_gone(&self) -> bool {
        self.gone
    }

    /// Answers a request.
    pub fn respond(&mut self, id: Option<&Id>, result: Result<Value, Fault>) {
        if let Err(fault) = &result {
            self.log(&format!("refused: {}", fault.message));
        }
        self.send(&wire::response(id, result));
    }

    /// Tells something.
    pub fn notify(&mut self, method: &str, params: impl Serialize) {
        #[derive(Serialize)]
        struct Notification<'n, P> {
            jsonrpc: &'n str,
            method: &'n str,
            params: P,
        }
        self.send(&Notification { jsonrpc: "2.0", method, params });
    }

    /// Asks for something that is done or not: the answer makes no difference.
    pub fn request(&mut self, method: &'static str, params: impl Serialize) {
        self.last_id += 1;
        self.asked.insert(Id::Number(self.last_id), method);
        self.send(&json!({ "jsonrpc": "2.0", "id": self.last_id, "method": method, "params": params }));
    }

    /// Takes the answer to a request.
    pub fn take_answer(&mut self, id: &Id, result: Option<&Value>) {
        match (self.asked.remove(id), result) {
            (None, _) => self.log("an answer to nothing that was asked"),
            (Some(method), None) => self.log(&format!("the client refused {method}")),
            (Some(_), Some(_)) => {}
        }
    }

    /// Shows a message to the user.
    pub fn show(&mut self, kind: MessageType, message: &str) {
        self.notify("window/showMessage", json!({ "type": kind, "message": message }));
    }

    /// Writes a line to the log.
    pub fn log(&mut self, line: &str) {
        if let Some(log) = &mut self.log {
            // What cannot be logged is not worth a failure.
            let _ = writeln!(log, "{} {}", now_in_milliseconds(), line.replace('\n', " "));
        }
    }

    fn send(&mut self, message: &impl Serialize) {
        if self.gone {
            return;
        }
        let sent: io::Result<()> = wire::write(&mut self.output, message);
        self.gone = sent.is_err();
    }
}

/// The time since the epoch, in milliseconds: enough to compare lines of a log.
fn now_in_milliseconds() -> u128 {
    std::time::SystemTime::now().duration_since(std::time::UNIX_EPOCH).map_or(0, |since| since.as_millis())
}
