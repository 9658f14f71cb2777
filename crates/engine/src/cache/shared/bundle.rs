//! Which results go together into one entry of a shared cache: asking for each file would take longer than sifting it.

use std::collections::BTreeMap;

use rayon::prelude::*;
use xxhash_rust::xxh3::{xxh3_64, xxh3_128};

use super::super::Cache;
use super::super::key::file_key;
use super::super::program::program;
use crate::check::OneFile;
use crate::check::load::bytes_of;
use crate::settings::fetch::sha256;

/// About so many files go together: a change makes their bundle another one.
const FILES: usize = 24;

/// The results of some visits.
#[derive(Debug)]
pub(in super::super) struct Bundle {
    /// What tells it from others: everything that its results depend on, as 64 digits of a hash.
    pub(super) name: String,
    /// The keys of its visits.
    pub(super) keys: Vec<u128>,
    /// Whether something in it is not known here.
    pub(super) is_wanted: bool,
}

/// What the result of a visit depends on.
struct Visit {
    bucket: u64,
    key: u128,
    /// Its content, and what the settings decide.
    on: [u128; 3],
    is_known: bool,
}

impl Cache {
    /// The bundles that some visits belong to: which ones go together depends on their paths, so that a change of one leaves the other
    /// bundles what they are.
    pub(super) fn bundles(&self, visits: &[OneFile<'_>]) -> Vec<Bundle> {
        let (Some(first), Some(program)) = (visits.first(), program()) else { return Vec::new() };
        let buckets = (visits.len() / FILES).max(1).next_power_of_two() as u64;
        let wants = format!("{program:032x} {} {}", first.wants.identities, first.wants.sizes);
        let mut by_bucket: BTreeMap<u64, Vec<Visit>> = BTreeMap::new();
        let all: Vec<Visit> = visits.par_iter().filter_map(|visit| self.visit(visit, buckets)).collect();
        all.into_iter().for_each(|visit| by_bucket.entry(visit.bucket).or_default().push(visit));
        by_bucket.into_values().map(|visits| bundle(&wants, visits)).collect()
    }

    /// What is known of a visit before it is made; nothing where its file cannot be read.
    fn visit(&self, run: &OneFile<'_>, buckets: u64) -> Option<Visit> {
        let keys = self.settings_keys(run);
        let key = file_key(run.project, run.candidate, keys.built_in, run.answers);
        let known = self.old.get(key).map(|(head, _)| head);
        let stat = self.stats.get(&run.candidate.path);
        let content = match known.filter(|known| stat.is_some() && known.stat.as_ref() == stat) {
            Some(known) => known.content,
            None => xxh3_128(&bytes_of(run.candidate, run.project).ok()?.ok()?),
        };
        let path = run.candidate.path.strip_prefix(&run.project.root).unwrap_or(&run.candidate.path);
        Some(Visit {
            bucket: xxh3_64(path.as_os_str().as_encoded_bytes()) % buckets,
            key,
            on: [content, keys.house, keys.names],
            is_known: known.is_some_and(|known| known.content == content),
        })
    }
}

fn bundle(wants: &str, mut visits: Vec<Visit>) -> Bundle {
    visits.sort_by_key(|visit| visit.key);
    let mut text = wants.as_bytes().to_vec();
    for visit in &visits {
        text.extend_from_slice(&visit.key.to_le_bytes());
        visit.on.iter().for_each(|part| text.extend_from_slice(&part.to_le_bytes()));
    }
    let keys = visits.iter().map(|visit| visit.key).collect();
    Bundle { name: sha256(&text), keys, is_wanted: visits.iter().any(|visit| !visit.is_known) }
}
