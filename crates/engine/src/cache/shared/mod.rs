//! A cache that machines share: bundles of results on a server, got and put by HTTP.
//!
//! A run never depends on it. What does not come in time, or is not what it should be, is sifted here; after a few failures the server
//! is not asked any more.

mod bundle;
mod client;
mod sealed;

pub use client::{Access, SharedCache, SharedWork};

use super::Cache;
use super::store::{Store, body_of};
use crate::check::OneFile;
pub(super) use bundle::Bundle;

impl Cache {
    /// Gets from a shared cache what is known there of some visits and not here. What is not there either is noted, to be shared once
    /// it is known.
    pub(crate) fn fetch(&mut self, shared: &SharedCache, visits: &[OneFile<'_>]) {
        let bundles = self.bundles(visits);
        let (wanted, known): (Vec<Bundle>, Vec<Bundle>) = bundles.into_iter().partition(|bundle| bundle.is_wanted);
        let names: Vec<&str> = wanted.iter().map(|bundle| bundle.name.as_str()).collect();
        let found = shared.get(&names);
        for (bundle, body) in wanted.into_iter().zip(found) {
            match body.as_deref().and_then(Store::from_elsewhere) {
                Some(store) => self.old.add(store.entries_of(&bundle.keys)),
                None => self.to_share.push(bundle),
            }
        }
        let names: Vec<&str> = known.iter().map(|bundle| bundle.name.as_str()).collect();
        let is_there = shared.has(&names);
        self.to_share.extend(known.into_iter().zip(is_there).filter(|(_, is_there)| !is_there).map(|(known, _)| known));
    }

    /// Puts into a shared cache what was not there and is known now.
    pub(crate) fn share(&mut self, shared: &SharedCache) {
        let bundles = std::mem::take(&mut self.to_share);
        let entries = |bundle: &Bundle| bundle.keys.iter().filter_map(|key| self.carried(*key)).collect::<Vec<_>>();
        let body = |bundle: Bundle| Some((body_of(&entries(&bundle)).ok()?, bundle.name));
        if shared.writes() {
            shared.put(bundles.into_iter().filter_map(body).map(|(body, name)| (name, body)).collect());
        }
    }
}
