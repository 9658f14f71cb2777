//! The language server: the Language Server Protocol 3.17 on standard input and output.
//!
//! One thread reads messages (`wire`), one answers them and looks at the texts that are open (`session`), and one for each folder looks at
//! everything in it (`far`). What they say to each other are events.

mod actions;
mod baseline;
mod client;
mod commands;
mod diagnostics;
mod document;
mod edits;
mod far;
mod folder;
mod formatting;
mod guard;
mod hover;
mod lifecycle;
mod names;
mod pages;
mod position;
mod publish;
mod pull;
mod rename;
mod requests;
mod session;
mod settings_file;
mod texts;
mod uri;
mod waiting;
mod wire;

use std::collections::VecDeque;
use std::fs::File;
use std::io;
use std::path::PathBuf;
use std::sync::mpsc::{Receiver, RecvTimeoutError, Sender, TryRecvError, channel};
use std::time::Instant;

use sieve_engine::settings::SettingsError;

use client::Client;
use far::Everything;
use session::Session;
use wire::{Fault, Message};

/// What happens while the server runs.
#[derive(Debug)]
enum Event {
    /// A message came.
    Message(Message),
    /// No more will come: why, if that is a failure.
    Closed(Option<io::Error>),
    /// A look at everything in a folder is over; it found nothing where it was cancelled.
    Everything { folder: PathBuf, of: u64, found: Result<Option<Everything>, SettingsError> },
    /// A look at everything has come so far.
    Progress { folder: PathBuf, done: usize, files: usize },
}

/// Serves until the client says `exit`, or is gone. Gives whether it said `shutdown` before.
pub fn serve(log: Option<File>) -> bool {
    let (sender, receiver) = channel();
    let input = sender.clone();
    // It reads until the input ends, and so may outlive the loop.
    let reader = std::thread::Builder::new().name("input".into()).spawn(move || read_all(&input));
    let client = Client::new(Box::new(io::stdout()), log);
    let mut session = Session::new(client, sender);
    if let Err(error) = reader {
        session.client.log(&format!("no thread for the input: {error}"));
        return false;
    }
    run(&mut session, &receiver)
}

fn read_all(events: &Sender<Event>) {
    let mut input = io::stdin().lock();
    loop {
        let event = match wire::read(&mut input) {
            Ok(Some(message)) => Event::Message(message),
            Ok(None) => Event::Closed(None),
            Err(error) => Event::Closed(Some(error)),
        };
        let is_last = matches!(event, Event::Closed(_));
        if events.send(event).is_err() || is_last {
            return;
        }
    }
}

/// Takes events in their order. Only where none waits are texts looked at: a newer version makes the look at an older one needless.
fn run(session: &mut Session, events: &Receiver<Event>) -> bool {
    let mut queue: VecDeque<Event> = VecDeque::new();
    loop {
        loop {
            match events.try_recv() {
                Ok(event) => queue.push_back(event),
                Err(TryRecvError::Empty) => break,
                Err(TryRecvError::Disconnected) => return false,
            }
        }
        session.note_cancelled(&queue);
        if let Some(event) = queue.pop_front() {
            if let Some(was_asked) = take(session, event) {
                return was_asked;
            }
        } else if !session.look_at_next() {
            session.look_far_if_due();
            let next = match session.far_due() {
                None => events.recv().map_err(|_| RecvTimeoutError::Disconnected),
                Some(due) => events.recv_timeout(due.saturating_duration_since(Instant::now())),
            };
            match next {
                Ok(event) => queue.push_back(event),
                Err(RecvTimeoutError::Timeout) => {}
                Err(RecvTimeoutError::Disconnected) => return false,
            }
        }
        if session.client.is_gone() {
            return false;
        }
    }
}

/// Takes one event; gives at the end whether the client had asked for it.
fn take(session: &mut Session, event: Event) -> Option<bool> {
    match event {
        Event::Message(Message::Notification { method, .. }) if method == "exit" => {
            return Some(session.is_shut_down());
        }
        Event::Message(Message::Notification { method, params }) => session.notified(&method, params),
        Event::Message(Message::Request { id, method, params }) => session.asked(id, &method, params),
        Event::Message(Message::Response { id, result }) => session.client.take_answer(&id, result.as_ref()),
        Event::Message(Message::Wrong(id, fault)) => session.client.respond(id.as_ref(), Err(fault)),
        Event::Closed(error) => {
            if let Some(error) = error {
                session.client.log(&format!("the input failed: {error}"));
                let fault = Fault::new(Fault::PARSE, format!("the input cannot be read on: {error}"));
                session.client.respond(None, Err(fault));
            }
            return Some(session.is_shut_down());
        }
        Event::Everything { folder, of, found } => session.everything_found(&folder, of, found),
        Event::Progress { folder, done, files } => session.tell_progress(&folder, done, files),
    }
    None
}
