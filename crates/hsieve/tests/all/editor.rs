//! The language server, and a client that drives it as an editor does.

use std::collections::BTreeMap;
use std::io::{BufRead, BufReader, Write};
use std::process::{Child, ChildStdin, Command, Stdio};
use std::sync::mpsc::{Receiver, channel};
use std::time::Duration;

use serde_json::{Value, json};

use crate::ferry::Ferry;

/// Longer than any answer takes on a machine that has other work.
const PATIENCE: Duration = Duration::from_secs(60);

/// An editor with a server of its own.
pub struct Editor {
    server: Child,
    input: Option<ChildStdin>,
    messages: Receiver<Value>,
    last_id: i64,
    /// What was told of each file last, with the version.
    pub told: BTreeMap<String, Value>,
    /// Requests of the server, as they came.
    pub requests: Vec<Value>,
    /// Other notifications of the server.
    pub notifications: Vec<Value>,
}

impl Editor {
    /// Starts the server, without a word to it.
    pub fn silent(ferry: &Ferry) -> Editor {
        let mut command = Command::new(env!("CARGO_BIN_EXE_hsieve"));
        command.arg("lsp").current_dir(ferry.path("."));
        command
            .env("XDG_CACHE_HOME", ferry.path(".git/kept/cache"))
            .env("XDG_STATE_HOME", ferry.path(".git/kept/state"));
        let mut server =
            command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::null()).spawn().expect("the server");
        let output = server.stdout.take().expect("its output");
        let (sender, messages) = channel();
        std::thread::spawn(move || {
            let mut output = BufReader::new(output);
            while let Some(message) = read(&mut output) {
                if sender.send(message).is_err() {
                    return;
                }
            }
        });
        let input = server.stdin.take();
        Editor {
            server,
            input,
            messages,
            last_id: 0,
            told: BTreeMap::new(),
            requests: Vec::new(),
            notifications: Vec::new(),
        }
    }

    /// Starts the server, and opens a folder in it.
    pub fn with(ferry: &Ferry, capabilities: Value) -> Editor {
        Editor::with_options(ferry, capabilities, Value::Null)
    }

    /// The same with options.
    pub fn with_options(ferry: &Ferry, capabilities: Value, options: Value) -> Editor {
        let mut editor = Editor::silent(ferry);
        let folder = json!({ "uri": uri(ferry, ""), "name": "ferry" });
        let params = json!({ "processId": null, "capabilities": capabilities, "initializationOptions": options,
            "workspaceFolders": [folder], "rootUri": null });
        editor.ask("initialize", params).expect("an answer");
        editor.tell("initialized", json!({}));
        editor
    }

    /// Sends bytes as they are.
    pub fn send_raw(&mut self, bytes: &[u8]) {
        let input = self.input.as_mut().expect("the input is open");
        input.write_all(bytes).and_then(|()| input.flush()).expect("the server reads");
    }

    /// Sends a message.
    pub fn send(&mut self, message: &Value) {
        let body = message.to_string();
        self.send_raw(format!("Content-Length: {}\r\n\r\n{body}", body.len()).as_bytes());
    }

    /// Tells the server something.
    pub fn tell(&mut self, method: &str, params: Value) {
        self.send(&json!({ "jsonrpc": "2.0", "method": method, "params": params }));
    }

    /// Asks for something without waiting; gives the id.
    pub fn ask_later(&mut self, method: &str, params: Value) -> i64 {
        self.last_id += 1;
        self.send(&json!({ "jsonrpc": "2.0", "id": self.last_id, "method": method, "params": params }));
        self.last_id
    }

    /// Asks for something: the result, or the error.
    pub fn ask(&mut self, method: &str, params: Value) -> Result<Value, Value> {
        let id = self.ask_later(method, params);
        self.answer_to(&json!(id))
    }

    /// The answer to a request.
    pub fn answer_to(&mut self, id: &Value) -> Result<Value, Value> {
        loop {
            let message = self.next();
            if message.get("method").is_none() && message["id"] == *id {
                return match message.get("error") {
                    Some(error) => Err(error.clone()),
                    None => Ok(message["result"].clone()),
                };
            }
        }
    }

    /// Waits for the next message, and takes note of it.
    pub fn next(&mut self) -> Value {
        let message = self.messages.recv_timeout(PATIENCE).expect("the server says something");
        match (message.get("method").and_then(Value::as_str), message.get("id")) {
            (Some("textDocument/publishDiagnostics"), None) => {
                let uri = message["params"]["uri"].as_str().expect("a URI").to_string();
                self.told.insert(uri, message["params"].clone());
            }
            (Some(_), None) => self.notifications.push(message.clone()),
            (Some(_), Some(id)) => {
                let answer = json!({ "jsonrpc": "2.0", "id": id, "result": null });
                self.requests.push(message.clone());
                self.send(&answer);
            }
            _ => {}
        }
        message
    }

    /// Waits until something was told.
    pub fn until(&mut self, mut is_so: impl FnMut(&Editor) -> bool) {
        while !is_so(self) {
            self.next();
        }
    }

    /// Opens a file with a text.
    pub fn open(&mut self, uri: &str, text: &str) {
        let document = json!({ "uri": uri, "languageId": "any", "version": 1, "text": text });
        self.tell("textDocument/didOpen", json!({ "textDocument": document }));
    }

    /// Gives an open file another text.
    pub fn change(&mut self, uri: &str, version: i64, text: &str) {
        self.tell(
            "textDocument/didChange",
            json!({ "textDocument": { "uri": uri, "version": version }, "contentChanges": [{ "text": text }] }),
        );
    }

    /// Waits for the diagnostics of a version of a file: `line:column rule` of each diagnostic, from 1.
    pub fn diagnostics(&mut self, uri: &str, version: i64) -> Vec<String> {
        self.until(|editor| editor.told.get(uri).is_some_and(|told| told["version"] == json!(version)));
        listed(&self.told[uri]["diagnostics"])
    }

    /// Ends the server as the protocol says; gives its exit status.
    pub fn end(mut self) -> i32 {
        self.ask("shutdown", Value::Null).expect("an answer");
        self.tell("exit", Value::Null);
        self.status()
    }

    /// Closes the input without a word; gives the exit status.
    pub fn cut_off(mut self) -> i32 {
        self.input = None;
        self.status()
    }

    /// Waits for the end of the server.
    pub fn status(&mut self) -> i32 {
        self.server.wait().expect("it ends").code().expect("a status")
    }
}

impl Drop for Editor {
    fn drop(&mut self) {
        let _ = self.server.kill();
        let _ = self.server.wait();
    }
}

/// `line:column rule` of each diagnostic, from 1.
pub fn listed(diagnostics: &Value) -> Vec<String> {
    let one = |diagnostic: &Value| {
        let start = &diagnostic["range"]["start"];
        let number = |key: &str| start[key].as_u64().expect("a number") + 1;
        format!("{}:{} {}", number("line"), number("character"), diagnostic["code"].as_str().unwrap_or("settings"))
    };
    diagnostics.as_array().expect("a list").iter().map(one).collect()
}

/// The URI of a file of a code base.
pub fn uri(ferry: &Ferry, name: &str) -> String {
    format!("file://{}", ferry.path(name).display()).trim_end_matches('/').to_string()
}

/// A text with the edits of the protocol in it, whose columns are bytes.
pub fn with_edits(text: &str, edits: &Value) -> String {
    let offset = |position: &Value| {
        let line = position["line"].as_u64().expect("a line") as usize;
        let start: usize = text.split_inclusive('\n').take(line).map(str::len).sum();
        start + position["character"].as_u64().expect("a column") as usize
    };
    let mut edits: Vec<(usize, usize, &str)> = edits
        .as_array()
        .expect("a list")
        .iter()
        .map(|edit| {
            let (start, end) = (offset(&edit["range"]["start"]), offset(&edit["range"]["end"]));
            (start, end, edit["newText"].as_str().expect("a text"))
        })
        .collect();
    edits.sort_unstable();
    let mut text = text.to_string();
    for (start, end, new) in edits.into_iter().rev() {
        text.replace_range(start..end, new);
    }
    text
}

fn read(output: &mut impl BufRead) -> Option<Value> {
    let mut length = 0;
    loop {
        let mut line = String::new();
        if output.read_line(&mut line).ok()? == 0 {
            return None;
        }
        match line.trim_end() {
            "" => break,
            line => length = line.strip_prefix("Content-Length: ").expect("the header").parse().expect("a number"),
        }
    }
    let mut body = vec![0; length];
    output.read_exact(&mut body).ok()?;
    Some(serde_json::from_slice(&body).expect("JSON"))
}
