//! Asks a server for entries, several at once, within bounds of time, size and failures.

use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::{Mutex, PoisonError};
use std::time::{Duration, Instant};

use ureq::Agent;
use ureq::http::StatusCode;

use super::sealed::{open, seal};

/// How long one request may take.
const LONGEST: Duration = Duration::from_secs(2);

/// How long a run waits for the server in all.
const PATIENCE: Duration = Duration::from_secs(6);

/// After so many failures the server is not asked any more.
const MOST_FAILURES: usize = 3;

/// So many requests are made at once.
const AT_ONCE: usize = 16;

/// A larger entry is not taken, in bytes.
const LARGEST: u64 = 32 << 20;

/// A run takes no more than this, in bytes.
const LARGEST_RUN: usize = 512 << 20;

/// How a shared cache may be used.
#[derive(Clone, Default)]
pub struct Access {
    /// What the server wants to see, if anything.
    pub token: Option<String>,
    /// What tells the entries of the team from those of others.
    pub key: String,
    /// Whether results are put there.
    pub write: bool,
}

/// A cache on a server.
pub struct SharedCache {
    address: String,
    access: Access,
    agent: Agent,
    work: Mutex<SharedWork>,
}

/// What a run got from a shared cache, and what it put there.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct SharedWork {
    /// Entries that were there.
    pub found: usize,
    /// Entries that were not.
    pub missing: usize,
    /// Entries that were not what they should be.
    pub refused: usize,
    /// Entries that were put there.
    pub written: usize,
    /// Requests that came to nothing.
    pub failed: usize,
    /// Whether the server was not asked any more, after failures or a long time.
    pub given_up: bool,
    /// How long the run waited for the server.
    pub waited: Duration,
    bytes: usize,
}

/// How a request ended.
enum Answer<T> {
    There(T),
    NotThere,
    Refused,
    Failed,
}

impl SharedCache {
    /// A cache at an address. The token is sent over https, or to this machine.
    pub fn new(address: &str, access: Access) -> SharedCache {
        let agent = Agent::config_builder().max_redirects(0).http_status_as_error(false).build().into();
        let address = address.trim_end_matches('/').to_string();
        let token = access.token.filter(|_| keeps_secrets(&address));
        SharedCache { address, access: Access { token, ..access }, agent, work: Mutex::default() }
    }

    /// What was got and put so far.
    pub fn work(&self) -> SharedWork {
        *self.lock()
    }

    pub(super) fn writes(&self) -> bool {
        self.access.write
    }

    /// The results under some names, each if it is there.
    pub(super) fn get(&self, names: &[&str]) -> Vec<Option<Vec<u8>>> {
        let found = self.ask(names, |name, longest| self.get_one(name, longest));
        self.lock().found += found.iter().flatten().count();
        found
    }

    /// Whether there is something under some names, as far as it matters: where nothing is to be put, all is taken for there.
    pub(super) fn has(&self, names: &[&str]) -> Vec<bool> {
        if !self.writes() {
            return vec![true; names.len()];
        }
        let there = self.ask(names, |name, longest| {
            let request = self.agent.head(self.place(name)).config().timeout_global(Some(longest)).build();
            match self.with_token(request).call() {
                Ok(answer) if answer.status().is_success() => Answer::There(()),
                Ok(answer) if answer.status() == StatusCode::NOT_FOUND => Answer::NotThere,
                Ok(_) | Err(_) => Answer::Failed,
            }
        });
        there.into_iter().map(|there| there.is_some()).collect()
    }

    /// Puts results under their names.
    pub(super) fn put(&self, entries: Vec<(String, Vec<u8>)>) {
        let done = self.ask(&entries, |(name, body), longest| {
            let sealed = seal(self.access.key.as_bytes(), name, body);
            let request = self.agent.put(self.place(name)).config().timeout_global(Some(longest)).build();
            match self.with_token(request).send(&sealed) {
                Ok(answer) if answer.status().is_success() => Answer::There(()),
                Ok(_) | Err(_) => Answer::Failed,
            }
        });
        self.lock().written += done.iter().flatten().count();
    }

    fn get_one(&self, name: &str, longest: Duration) -> Answer<Vec<u8>> {
        let request = self.agent.get(self.place(name)).config().timeout_global(Some(longest)).build();
        let mut answer = match self.with_token(request).call() {
            Ok(answer) if answer.status().is_success() => answer,
            Ok(answer) if answer.status() == StatusCode::NOT_FOUND => return Answer::NotThere,
            Ok(_) | Err(_) => return Answer::Failed,
        };
        let Ok(bytes) = answer.body_mut().with_config().limit(LARGEST).read_to_vec() else { return Answer::Failed };
        let mut work = self.lock();
        work.bytes = work.bytes.saturating_add(bytes.len());
        match open(self.access.key.as_bytes(), name, &bytes) {
            Some(body) if work.bytes <= LARGEST_RUN => Answer::There(body.to_vec()),
            _ => Answer::Refused,
        }
    }

    fn place(&self, name: &str) -> String {
        format!("{}/{name}", self.address)
    }

    fn with_token<B>(&self, mut request: ureq::RequestBuilder<B>) -> ureq::RequestBuilder<B> {
        if let Some(token) = &self.access.token {
            request = request.header("Authorization", format!("Bearer {token}"));
        }
        request
    }

    /// Makes a request for each of some things, several at once, as long as there is patience for it.
    fn ask<I: Sync, T: Send>(&self, of: &[I], one: impl Fn(&I, Duration) -> Answer<T> + Sync) -> Vec<Option<T>> {
        if of.is_empty() {
            return Vec::new();
        }
        let started = Instant::now();
        let (next, found) = (AtomicUsize::new(0), Mutex::new(Vec::new()));
        let left = PATIENCE.saturating_sub(self.lock().waited);
        let worker = || {
            loop {
                let place = next.fetch_add(1, Ordering::Relaxed);
                let Some(thing) = of.get(place) else { break };
                let longest = LONGEST.min(left.saturating_sub(started.elapsed()));
                if longest.is_zero() || self.lock().failed >= MOST_FAILURES {
                    self.lock().given_up = true;
                    break;
                }
                let answer = one(thing, longest);
                let mut work = self.lock();
                match answer {
                    Answer::There(thing) => found.lock().unwrap_or_else(PoisonError::into_inner).push((place, thing)),
                    Answer::NotThere => work.missing += 1,
                    Answer::Refused => work.refused += 1,
                    Answer::Failed => work.failed += 1,
                }
            }
        };
        std::thread::scope(|scope| (0..AT_ONCE.min(of.len())).for_each(|_| drop(scope.spawn(worker))));
        self.lock().waited += started.elapsed();
        let mut all: Vec<Option<T>> = of.iter().map(|_| None).collect();
        for (place, thing) in found.into_inner().unwrap_or_else(PoisonError::into_inner) {
            all[place] = Some(thing);
        }
        all
    }

    fn lock(&self) -> std::sync::MutexGuard<'_, SharedWork> {
        self.work.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

/// Whether nobody on the way can read what is sent to an address.
fn keeps_secrets(address: &str) -> bool {
    let Some(rest) = address.strip_prefix("http://") else { return address.starts_with("https://") };
    let host = rest.split(['/', '?', '#']).next().unwrap_or_default();
    let host = host.rsplit_once(':').map_or(host, |(host, _)| host);
    matches!(host, "localhost" | "127.0.0.1" | "[::1]")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tokens_go_where_nobody_listens() {
        for safe in ["https://saltmarsh.example/c", "http://localhost:80/c", "http://127.0.0.1", "http://[::1]:9/"] {
            assert!(keeps_secrets(safe), "{safe}");
        }
        for open in ["http://saltmarsh.example", "http://localhost@quay.example/", "http://127.0.0.1.quay.example/c"] {
            assert!(!keeps_secrets(open), "{open}");
        }
    }
}
