//! What the server knows: its folders, the texts that are open, and what is still to be looked at.

use std::collections::{BTreeMap, BTreeSet, VecDeque};
use std::path::{Path, PathBuf};
use std::sync::mpsc::Sender;
use std::time::{Duration, Instant};

use lsp_types::{ClientCapabilities, Uri};
use serde_json::Value;
use sieve_engine::project::Project;

use super::Event;
use super::client::{Abilities, Client};
use super::document::Document;
use super::folder::{Checked, Folder};
use super::guard::guarded;
use super::pages::Pages;
use super::uri::path_of;
use super::waiting::Waiting;
use super::wire::{Fault, Id, Message};

/// After a change everything is looked at when nothing was changed for so long.
const QUIET: Duration = Duration::from_millis(300);

/// How far the client has come in talking to the server.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum State {
    /// `initialize` has not come.
    New,
    /// It has.
    Running,
    /// `shutdown` has come.
    ShutDown,
}

/// What the user wants of the server.
#[derive(Debug, Clone, Copy)]
pub struct Options {
    /// Look at files that are not open too.
    pub project: bool,
    /// Show what is held back as hints.
    pub held: bool,
}

/// One client and all that is known for it.
pub struct Session {
    /// The way to the client.
    pub client: Client,
    pub(super) able: Abilities,
    pub(super) options: Options,
    pub(super) state: State,
    pub(super) folders: Vec<Folder>,
    /// Folders of files outside of those of the client: only what is open in them is looked at.
    pub(super) loose: BTreeSet<PathBuf>,
    pub(super) documents: BTreeMap<PathBuf, Document>,
    /// What was found in the texts that are open, as they are.
    pub(super) checked: BTreeMap<PathBuf, Checked>,
    /// Texts that are to be looked at, those that the user is in first.
    pub(super) dirty: VecDeque<PathBuf>,
    pub(super) far_due: Option<Instant>,
    /// What the client was told last of each file, to tell it nothing twice.
    pub(super) published: BTreeMap<PathBuf, u64>,
    /// Requests that are answered when there is something new.
    pub(super) waiting: Vec<Waiting>,
    /// The progress that is shown, by folder: its token, and how far it has come, of a hundred.
    pub(super) progress: BTreeMap<PathBuf, (String, usize)>,
    /// Folders of which somebody wants to know when they have been looked at.
    pub(super) tells: BTreeSet<PathBuf>,
    pub(super) pages: Pages,
    cancelled: BTreeSet<Id>,
    events: Sender<Event>,
}

impl Session {
    /// A session in which nothing has been said.
    pub fn new(client: Client, events: Sender<Event>) -> Session {
        Session {
            client,
            able: Abilities::of(&ClientCapabilities::default()),
            options: Options { project: true, held: false },
            state: State::New,
            folders: Vec::new(),
            loose: BTreeSet::new(),
            documents: BTreeMap::new(),
            checked: BTreeMap::new(),
            dirty: VecDeque::new(),
            far_due: None,
            published: BTreeMap::new(),
            waiting: Vec::new(),
            progress: BTreeMap::new(),
            tells: BTreeSet::new(),
            pages: Pages::new(),
            cancelled: BTreeSet::new(),
            events,
        }
    }

    /// Whether the client has said that it is about to end.
    pub fn is_shut_down(&self) -> bool {
        self.state == State::ShutDown
    }

    /// Remembers which requests among those that wait were taken back.
    pub fn note_cancelled(&mut self, queue: &VecDeque<Event>) {
        for event in queue {
            if let Event::Message(Message::Notification { method, params }) = event
                && method == "$/cancelRequest"
            {
                self.cancelled.extend(cancelled_id(params));
            }
        }
    }

    /// A request: it is answered in any case.
    pub fn asked(&mut self, id: Id, method: &str, params: Value) {
        self.client.log(&format!("asked {method}"));
        if self.cancelled.remove(&id) {
            return self.client.respond(Some(&id), Err(cancelled()));
        }
        let answer = match (self.state, method) {
            (State::New, "initialize") => self.initialize(params),
            (State::New, _) => Err(Fault::new(Fault::NOT_INITIALIZED, "initialize comes first")),
            (State::ShutDown, _) => Err(Fault::new(Fault::INVALID_REQUEST, "the server is shut down")),
            (State::Running, "initialize") => Err(Fault::new(Fault::INVALID_REQUEST, "initialize comes once")),
            (State::Running, "shutdown") => {
                self.state = State::ShutDown;
                self.cancel_waiting();
                Ok(Value::Null)
            }
            (State::Running, "workspace/diagnostic") => return self.pull_all(id, params),
            (State::Running, _) => guarded(|| self.answer(method, params)).unwrap_or_else(|| {
                Err(Fault::new(
                    Fault::FAILED,
                    format!("hsieve failed to answer {method}: that is a mistake of its own"),
                ))
            }),
        };
        self.client.respond(Some(&id), answer);
    }

    /// A notification: what is not known is passed over, as the protocol says.
    pub fn notified(&mut self, method: &str, params: Value) {
        self.client.log(&format!("told {method}"));
        if method == "$/cancelRequest" {
            if let Some(id) = cancelled_id(&params) {
                // What was answered already is not cancelled.
                self.cancelled.remove(&id);
                self.cancel_waiting_for(&id);
            }
            return;
        }
        if self.state != State::Running {
            return;
        }
        let result = match method {
            "initialized" => {
                self.initialized();
                Ok(())
            }
            "textDocument/didOpen" => with(params, |params| self.opened(params)),
            "textDocument/didChange" => with(params, |params| self.changed(params)),
            "textDocument/didClose" => with(params, |params| self.closed(params)),
            "textDocument/didSave" => with(params, |params| self.saved(params)),
            "workspace/didChangeWatchedFiles" => with(params, |params| self.changed_on_disk(params)),
            "workspace/didChangeWorkspaceFolders" => with(params, |params| self.folders_changed(params)),
            "workspace/didChangeConfiguration" => {
                self.configured(params.get("settings"));
                Ok(())
            }
            "window/workDoneProgress/cancel" => {
                self.cancel_progress(params.get("token"));
                Ok(())
            }
            _ => Ok(()),
        };
        if let Err(error) = result {
            self.client.log(&format!("{method}: {error}"));
        }
    }

    /// The index of the folder that a file belongs to: the innermost; one of its own repository where it is in none.
    pub(super) fn folder_of(&mut self, path: &Path) -> usize {
        let of_client = self.folders.iter().enumerate().filter(|(_, folder)| path.starts_with(&folder.path));
        if let Some((index, _)) = of_client.max_by_key(|(_, folder)| folder.path.components().count()) {
            return index;
        }
        let folder = path.parent().unwrap_or(path);
        let root = Project::around(folder).root;
        self.loose.insert(root.clone());
        self.add_folder(&root);
        self.folders.len() - 1
    }

    pub(super) fn add_folder(&mut self, path: &Path) {
        self.folders.push(Folder::open(path, &self.events));
    }

    /// Looks at one text of those that are to be looked at; whether there was one.
    pub fn look_at_next(&mut self) -> bool {
        let Some(path) = self.dirty.pop_front() else { return false };
        self.look_at(&path);
        true
    }

    /// Looks at a text unless what is known of it is current.
    pub(super) fn look_if_needed(&mut self, path: &Path) {
        if !self.checked.contains_key(path) || self.dirty.iter().any(|dirty| dirty == path) {
            self.look_at(path);
        }
    }

    /// Looks at a text as it is now.
    pub(super) fn look_at(&mut self, path: &Path) {
        self.dirty.retain(|other| other != path);
        let Some(version) = self.documents.get(path).map(|document| document.version) else { return };
        let is_new = self.checked.get(path).is_none_or(|checked| checked.version != version);
        let index = self.folder_of(path);
        let found = guarded(|| self.folders[index].check(path, version, is_new));
        let Some(found) = found else {
            return self.complain(&format!("hsieve failed on {}: that is a mistake of its own", path.display()));
        };
        match found {
            Ok(checked) => {
                self.checked.insert(path.to_path_buf(), checked);
                self.set_fault(index, None);
                self.publish_document(path);
            }
            Err(error) => self.set_fault(index, Some(error)),
        }
    }

    /// Everything is to be looked at again, once it is quiet.
    pub(super) fn look_far_later(&mut self) {
        self.far_due = Some(Instant::now() + QUIET);
    }

    /// When everything is to be looked at.
    pub fn far_due(&self) -> Option<Instant> {
        self.far_due
    }

    /// Looks at everything if it is time.
    pub fn look_far_if_due(&mut self) {
        if self.far_due.is_some_and(|due| due <= Instant::now()) {
            self.far_due = None;
            self.look_far();
        }
    }

    pub(super) fn look_far(&mut self) {
        let is_wanted = |folder: &&Folder| self.options.project && !self.loose.contains(&folder.path);
        self.folders.iter().filter(is_wanted).for_each(|folder| folder.far.ask());
    }
}

fn cancelled_id(params: &Value) -> Option<Id> {
    params.get("id").and_then(|id| serde_json::from_value(id.clone()).ok())
}

pub(super) fn cancelled() -> Fault {
    Fault::new(Fault::CANCELLED, "the request was taken back")
}

fn with<P: serde::de::DeserializeOwned>(params: Value, work: impl FnOnce(P)) -> serde_json::Result<()> {
    serde_json::from_value(params).map(work)
}

/// The file that a client names.
pub(super) fn file_of(uri: &Uri) -> Result<PathBuf, Fault> {
    path_of(uri).ok_or_else(|| Fault::new(Fault::INVALID_PARAMS, format!("{} is no file", uri.as_str())))
}
