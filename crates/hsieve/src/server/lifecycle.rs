//! How a session begins, and how its folders come and go.

use std::path::PathBuf;

use lsp_types::{DidChangeWorkspaceFoldersParams, InitializeParams, MessageType, Uri};
use serde_json::{Value, json};
use sieve_engine::baseline;
use sieve_syntax::language::Language;

use super::client::Abilities;
use super::names::COMMANDS;
use super::session::{Options, Session, State};
use super::uri::path_of;
use super::wire::Fault;

impl Session {
    /// The first request.
    pub(super) fn initialize(&mut self, params: Value) -> Result<Value, Fault> {
        // The place of a folder was written in other ways by older clients.
        let root = ["rootUri", "rootPath"].map(|key| params.get(key).and_then(Value::as_str).map(str::to_string));
        let params: InitializeParams =
            serde_json::from_value(params).map_err(|error| Fault::new(Fault::INVALID_PARAMS, error.to_string()))?;
        self.able = Abilities::of(&params.capabilities);
        self.options = options(params.initialization_options.as_ref(), self.options);
        let mut folders: Vec<PathBuf> =
            params.workspace_folders.iter().flatten().filter_map(|folder| path_of(&folder.uri)).collect();
        if folders.is_empty() {
            let [uri, path] = root;
            let of_uri = uri.and_then(|uri| path_of(&uri.parse::<Uri>().ok()?));
            folders.extend(of_uri.or(path.map(PathBuf::from).filter(|path| path.is_absolute())));
        }
        folders.iter().for_each(|folder| self.add_folder(folder));
        self.state = State::Running;
        Ok(json!({
            "serverInfo": { "name": "hsieve", "version": env!("CARGO_PKG_VERSION") },
            "capabilities": capabilities(self.able),
        }))
    }

    /// The client is ready to be asked.
    pub(super) fn initialized(&mut self) {
        if self.able.watches {
            let endings: Vec<&str> =
                Language::ALL.iter().flat_map(|language| language.spec().extensions).copied().collect();
            let patterns = [
                format!("**/*.{{{}}}", endings.join(",")),
                format!("**/{}", baseline::FILE_NAME),
                "**/.gitignore".into(),
            ];
            let watchers: Vec<Value> = patterns.iter().map(|pattern| json!({ "globPattern": pattern })).collect();
            self.client.request(
                "client/registerCapability",
                json!({ "registrations": [{
                    "id": "files", "method": "workspace/didChangeWatchedFiles", "registerOptions": { "watchers": watchers } }] }),
            );
        }
        // What is opened now comes first.
        self.look_far_later();
    }

    /// Folders came or went.
    pub(super) fn folders_changed(&mut self, params: DidChangeWorkspaceFoldersParams) {
        for path in params.event.removed.iter().filter_map(|folder| path_of(&folder.uri)) {
            self.folders.retain(|folder| folder.path != path);
            let gone: Vec<PathBuf> = self.published.keys().filter(|file| file.starts_with(&path)).cloned().collect();
            gone.iter().for_each(|file| self.publish_nothing(file));
        }
        for path in params.event.added.iter().filter_map(|folder| path_of(&folder.uri)) {
            if !self.folders.iter().any(|folder| folder.path == path) {
                self.loose.remove(&path);
                self.add_folder(&path);
            }
        }
        self.give_texts_to_folders();
        self.look_far();
    }

    /// The user wants something else.
    pub(super) fn configured(&mut self, settings: Option<&Value>) {
        // Clients send all settings, or those of this server alone.
        let own = settings.and_then(|settings| settings.get("hsieve")).or(settings);
        self.options = options(own, self.options);
        self.publish_all();
        self.look_far();
    }

    /// Says once what is wrong with settings.
    pub(super) fn complain(&mut self, message: &str) {
        self.client.show(MessageType::ERROR, message);
    }
}

/// The options that a client gives, the others as they are.
fn options(given: Option<&Value>, before: Options) -> Options {
    let is =
        |key: &str, before: bool| given.and_then(|given| given.get(key)).and_then(Value::as_bool).unwrap_or(before);
    Options { project: is("project", before.project), held: is("held", before.held) }
}

fn capabilities(able: Abilities) -> Value {
    let mut capabilities = json!({
        "positionEncoding": able.units.kind(),
        "textDocumentSync": { "openClose": true, "change": 2, "save": { "includeText": false } },
        "codeActionProvider": { "codeActionKinds": ["quickfix", "source.fixAll", "source.organizeImports"] },
        "hoverProvider": true,
        "renameProvider": { "prepareProvider": true },
        "documentFormattingProvider": true,
        "documentRangeFormattingProvider": true,
        "completionProvider": { "triggerCharacters": ["\"", "[", "=", "."] },
        "executeCommandProvider": { "commands": COMMANDS },
        "workspace": { "workspaceFolders": { "supported": true, "changeNotifications": true } },
    });
    if able.pulls {
        capabilities["diagnosticProvider"] =
            json!({ "identifier": "hsieve", "interFileDependencies": true, "workspaceDiagnostics": true });
    }
    capabilities
}
