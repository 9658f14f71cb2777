//! A run in parts: each sifts some of the files, on whatever machine, and one run over everything takes their results.

use std::sync::Arc;

use xxhash_rust::xxh3::xxh3_64;

use super::{Request, Sifted, gather, in_pool, visit_and_answer};
use crate::cache::{Cache, CacheFile, Part, Shard, Store};
use crate::check::FileResult;
use crate::files::FileError;
use crate::join::Index;
use crate::project::{Project, relative};
use crate::settings::SettingsError;
use crate::workspace::discover::{self, Candidate, Discovery};

/// What came of sifting a part.
#[derive(Debug)]
pub struct SiftedPart {
    /// The results, as the bytes of a file that [`Part::read`] understands.
    pub bytes: std::io::Result<Vec<u8>>,
    /// How many files it has.
    pub files: usize,
    /// The files of all parts, as shown paths.
    pub all: Vec<Arc<str>>,
    /// What could not be read.
    pub errors: Vec<FileError>,
}

/// An outcome that parts were joined to.
#[derive(Debug)]
pub struct Joined {
    /// The outcome, as of a run over everything.
    pub sifted: Sifted,
    /// How many files no part had as they are: they were sifted here.
    pub missing: usize,
}

/// Sifts the files of a shard. `asked` is kept in the part: what was asked for, in words that are compared when parts are joined.
///
/// # Errors
/// When a settings file is wrong. Files that cannot be read are in what is given back.
pub fn sift_part(request: &Request<'_>, shard: Shard, asked: &str) -> Result<SiftedPart, SettingsError> {
    in_pool(request.threads, || {
        let index = Index::default();
        let discovery = discover::discover(&request.search())?;
        let all = discovery.files.iter().map(|file| Arc::clone(&file.shown)).collect();
        let own = files_of(shard, request.project, discovery);
        let kept = request.cached().and_then(|scope| CacheFile::read(&scope));
        let on_disk = kept.and_then(|kept| Cache::open(kept, &request.search(), &own));
        let is_on_disk = on_disk.is_some();
        let mut cache = match on_disk {
            Some(cache) => cache.over_some(),
            None => Cache::in_memory(Store::default(), &request.search(), &own),
        };
        let results = visit_and_answer(request, &index, &own, &mut cache);
        let bytes = cache.to_part(shard, asked);
        if is_on_disk {
            cache.save();
        }
        let failed = results.into_iter().filter_map(FileResult::failed);
        let errors = own.errors.into_iter().chain(failed).collect();
        Ok(SiftedPart { bytes, files: own.files.len(), all, errors })
    })
}

/// Sifts everything, as far as no part has the results.
///
/// # Errors
/// When a settings file is wrong. Files that cannot be read are in the outcome.
pub fn join_parts(request: &Request<'_>, parts: Vec<Part>) -> Result<Joined, SettingsError> {
    let (discovery, results, missing) = in_pool(request.threads, || {
        let index = Index::default();
        let discovery = discover::discover(&request.search())?;
        let mut cache = Cache::in_memory(Part::join(parts), &request.search(), &discovery);
        let results = visit_and_answer(request, &index, &discovery, &mut cache);
        Ok((discovery, results, cache.work().first))
    })?;
    Ok(Joined { sifted: gather(request, discovery, results)?, missing })
}

/// Only the files of a shard. All are put in an order that their paths decide, and cut where a part of all bytes is reached: when a
/// file grows, only files near the cuts change places.
fn files_of(shard: Shard, project: &Project, mut discovery: Discovery) -> Discovery {
    let key = |file: &Candidate| xxh3_64(relative(&project.root, &file.path).unwrap_or_default().as_bytes());
    let size = |file: &Candidate| project.files.stat(&file.path).map_or(0, |stat| stat.size()).max(1);
    let mut order: Vec<(u64, &Candidate)> = discovery.files.iter().map(|file| (key(file), file)).collect();
    order.sort_by(|one, other| (one.0, &one.1.path).cmp(&(other.0, &other.1.path)));
    let sizes: Vec<u64> = order.iter().map(|(_, file)| size(file)).collect();
    let total: u128 = sizes.iter().map(|size| u128::from(*size)).sum();
    let mut before: u128 = 0;
    let mut own = std::collections::HashSet::new();
    for ((_, file), size) in order.into_iter().zip(sizes) {
        // A file belongs where its middle is.
        let middle = before * 2 + u128::from(size);
        if middle * u128::from(shard.of) / (total * 2) + 1 == u128::from(shard.number) {
            own.insert(Arc::clone(&file.shown));
        }
        before += u128::from(size);
    }
    discovery.files.retain(|file| own.contains(&file.shown));
    discovery
}
