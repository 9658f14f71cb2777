//! How long an editor waits: from a change of one character in a file of 10 000 lines to its diagnostics, and what the server takes of
//! memory with 200 files open: `cargo bench -p hsieve --bench keystroke`. The workspace alone is measured by `edit`.

#[path = "shared/long.rs"]
mod long;
#[path = "shared/sources.rs"]
mod sources;

use std::io::{BufRead, BufReader, Read, Write};
use std::path::Path;
use std::process::{Child, ChildStdin, ChildStdout, Command, Stdio};
use std::time::{Duration, Instant};

use serde_json::{Value, json};

use long::{LINES, long};

/// Changes of each file.
const CHANGES: usize = 60;

/// Files that are open at once.
const OPEN: usize = 200;

fn main() {
    for (group, files) in sources::groups() {
        let Some((ending, source, texts)) = long(group, &files) else { continue };
        print!("{group:<10} {:>4} kB", source.len() / 1000);
        for mesh in ["medium", "fine"] {
            let mut times = changes(&format!("desk.{ending}"), &source, mesh);
            times.sort_unstable();
            let at = |share: usize| times[times.len() * share / 100].as_secs_f64() * 1e3;
            print!("  {mesh}: p50 {:>5.1} ms, p95 {:>5.1} ms", at(50), at(95));
        }
        println!("  memory with {OPEN} files open {} MB", memory(ending, &texts) / 1000);
    }
}

/// The times from each change to its diagnostics.
fn changes(name: &str, source: &str, mesh: &str) -> Vec<Duration> {
    let folder = tempfile::tempdir().expect("a temporary folder");
    std::fs::write(folder.path().join(name), source).expect("a file");
    std::fs::write(folder.path().join("sieve.toml"), format!("mesh = \"{mesh}\"\n")).expect("a file");
    let mut server = Server::start(folder.path());
    let uri = format!("file://{}", folder.path().join(name).display());
    server.open(&uri, source);
    server.until(&uri, 1);
    let end = json!({ "line": LINES, "character": 0 });
    let mut change = |version: usize| {
        let started = Instant::now();
        server.tell(
            "textDocument/didChange",
            json!({ "textDocument": { "uri": uri, "version": version },
            "contentChanges": [{ "range": { "start": end, "end": end }, "text": "x" }] }),
        );
        server.until(&uri, version);
        started.elapsed()
    };
    change(2);
    (3..CHANGES + 3).map(change).collect()
}

/// The memory of a server with many files open, in kilobytes.
fn memory(ending: &str, texts: &[String]) -> u64 {
    let folder = tempfile::tempdir().expect("a temporary folder");
    let mut server = Server::start(folder.path());
    let texts = texts.iter().take(OPEN).enumerate();
    let texts: Vec<(String, &String)> = texts.map(|(number, text)| (format!("desk{number}.{ending}"), text)).collect();
    for (name, text) in &texts {
        let path = folder.path().join(name);
        std::fs::write(&path, text).expect("a file");
        let uri = format!("file://{}", path.display());
        server.open(&uri, text);
        server.until(&uri, 1);
    }
    let status = std::fs::read_to_string(format!("/proc/{}/status", server.process.id())).unwrap_or_default();
    let resident = status.lines().find_map(|line| line.strip_prefix("VmRSS:"));
    resident.and_then(|text| text.trim().split(' ').next()?.parse().ok()).unwrap_or(0)
}

struct Server {
    process: Child,
    input: ChildStdin,
    output: BufReader<ChildStdout>,
}

impl Server {
    fn start(folder: &Path) -> Server {
        let mut command = Command::new(env!("CARGO_BIN_EXE_hsieve"));
        command.arg("lsp").stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::null());
        let mut process = command.spawn().expect("the server");
        let input = process.stdin.take().expect("its input");
        let output = BufReader::new(process.stdout.take().expect("its output"));
        let mut server = Server { process, input, output };
        let folder = json!({ "uri": format!("file://{}", folder.display()), "name": "desk" });
        server.send(&json!({ "jsonrpc": "2.0", "id": 1, "method": "initialize",
            "params": { "capabilities": {}, "workspaceFolders": [folder] } }));
        server.tell("initialized", json!({}));
        server
    }

    fn send(&mut self, message: &Value) {
        let body = message.to_string();
        write!(self.input, "Content-Length: {}\r\n\r\n{body}", body.len()).expect("the server reads");
        self.input.flush().expect("the server reads");
    }

    fn tell(&mut self, method: &str, params: Value) {
        self.send(&json!({ "jsonrpc": "2.0", "method": method, "params": params }));
    }

    fn open(&mut self, uri: &str, text: &str) {
        let document = json!({ "uri": uri, "languageId": "any", "version": 1, "text": text });
        self.tell("textDocument/didOpen", json!({ "textDocument": document }));
    }

    /// Waits for the diagnostics of a version. Only the end of a message says which it is; the rest is not read as JSON, which costs more
    /// than the server takes.
    fn until(&mut self, uri: &str, version: usize) {
        let (uri, version) = (format!("\"uri\":\"{uri}\""), format!("\"version\":{version},"));
        loop {
            let mut header = String::new();
            self.output.read_line(&mut header).expect("a header");
            let length =
                header.trim_end().strip_prefix("Content-Length: ").expect("the header").parse().expect("a number");
            self.output.read_line(&mut header).expect("the end of the headers");
            let mut body = vec![0; length];
            self.output.read_exact(&mut body).expect("a message");
            let body = String::from_utf8_lossy(&body);
            if body.contains(&uri) && body.contains(&version) {
                return;
            }
        }
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}
