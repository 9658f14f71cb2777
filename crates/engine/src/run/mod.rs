//! Runs the rules over files: read, parse, check, hold back; many files at once, one outcome.

mod before;
pub(crate) mod changed;
mod clash;
mod copies;
mod debt;
mod dependants;
pub mod last_run;
mod parts;
mod request;
pub(crate) mod upkeep;
mod visits;

use std::collections::BTreeSet;
use std::sync::Arc;

use rayon::prelude::*;
use rayon::{ThreadPool, ThreadPoolBuilder};

use crate::cache::{Cache, CacheFile, Store, Work};
use crate::check::FileResult;
use crate::files::{Files, Recorder};
use crate::git::Changes;
use crate::hold::baseline::{Entry, Matching, Moved};
use crate::hold::waiver::{add_settings_waivers, settle_waivers};
use crate::join::Index;
use crate::outcome::{Outcome, folder_of};
use crate::settings::SettingsError;
use crate::workspace::discover::{self, Candidate, Discovery};
use crate::workspace::shares::in_shares;
use clash::clashes;
use copies::{Windowed, copied};
use upkeep::{project_findings, waiver_findings};
use visits::{Visits, one_file};
pub(crate) use visits::{sift_now, visit_and_answer};

pub(crate) use before::Before;
use debt::Debt;
pub use parts::{Joined, SiftedPart, join_parts, sift_part};
pub use request::{Progress, Request, Unwatched};

pub use crate::check::{FileOutcome, sift_text};
pub use crate::subject::{Subject, Wants};

/// Stack of a worker in bytes: room for the deepest nesting that parsers follow, in an unoptimised build too.
const WORKER_STACK: usize = 16 << 20;

/// An outcome, and the entries of the baseline that hold nothing any more.
#[derive(Debug)]
pub struct Sifted {
    /// What was found.
    pub outcome: Outcome,
    /// Entries that are gone.
    pub gone: Vec<Entry>,
    /// Entries whose findings are elsewhere now.
    pub moved: Vec<Moved>,
    /// How much of it was known from earlier runs; nothing where none were asked.
    pub work: Option<Work>,
}

/// Sifts everything below the request's paths.
///
/// # Errors
/// When a settings file is wrong. Files that cannot be read are in the outcome.
pub fn sift(request: &Request<'_>) -> Result<Sifted, SettingsError> {
    let (discovery, results, work) = in_pool(request.threads, || all_files(request))?;
    Ok(Sifted { work, ..gather(request, discovery, results)? })
}

/// Looks for the files, and sifts them. The cache is read while they are looked for.
fn all_files(request: &Request<'_>) -> Result<(Discovery, Vec<FileResult>, Option<Work>), SettingsError> {
    let index = Index::default();
    if let Some(changes) = request.only_changes {
        let (discovery, results) = changed_files(request, changes, &index)?;
        return Ok((discovery, results, None));
    }
    let files = Arc::new(Recorder::over(Arc::clone(&request.project.files)));
    let project = request.project.clone().with_files(Arc::clone(&files) as Arc<dyn Files>);
    let request = &Request { project: &project, ..*request };
    let (discovery, mut cache) = find_files(request)?;
    let visits = Visits { request, index: &index, files: &discovery.files };
    let results = match (&mut cache, request.shared) {
        (Some(cache), None) => visits.as_before(cache, &files),
        (cache, _) => visits.with_answers(cache.as_mut()),
    };
    // What the files said is not needed any more, and takes as much memory as what was found.
    drop(index);
    let work = cache.as_ref().map(Cache::work);
    if let Some(mut cache) = cache {
        request.shared.into_iter().for_each(|shared| cache.share(shared));
        cache.save();
    }
    Ok((discovery, results, work))
}

/// Looks for the files of a run, and reads meanwhile what earlier runs have left.
fn find_files(request: &Request<'_>) -> Result<(Discovery, Option<Cache>), SettingsError> {
    let (discovery, kept) = rayon::join(
        || discover::discover(&request.search()),
        || request.cached().and_then(|scope| CacheFile::read(&scope)),
    );
    let discovery = discovery?;
    let cache = kept.and_then(|kept| Cache::open(kept, &request.search(), &discovery));
    let in_memory = || Cache::in_memory(Store::default(), &request.search(), &discovery);
    let needs_one = request.shared.is_some() && Cache::is_worth_it(&discovery);
    let cache = cache.or_else(|| needs_one.then(in_memory));
    Ok((discovery, cache))
}

/// Sifts the files that changed, and adds what they bring to others.
fn changed_files(
    request: &Request<'_>,
    changes: &Changes,
    index: &Index,
) -> Result<(Discovery, Vec<FileResult>), SettingsError> {
    let before = Before::of(request.project, changes);
    let mut discovery = discover::discover(&request.search())?;
    request.progress.start(discovery.files.len());
    let one = |candidate: &Candidate| {
        let result = changed::one_file(request, &one_file(request, candidate, index), changes, &before);
        request.progress.step();
        result.unwrap_or_else(FileResult::Failed)
    };
    let mut results: Vec<FileResult> = in_shares(&discovery.files).map(one).collect();
    dependants::add(request, changes, &before, &mut discovery, &mut results)?;
    Ok((discovery, results))
}

/// Runs work on threads with enough stack for deep nesting.
pub(crate) fn in_pool<T: Send>(threads: Option<usize>, work: impl FnOnce() -> T + Send) -> T {
    on_pool(pool(threads).as_ref(), work)
}

/// The same on threads that there are already; without any of our own on those there are.
pub(crate) fn on_pool<T: Send>(pool: Option<&ThreadPool>, work: impl FnOnce() -> T + Send) -> T {
    match pool {
        Some(pool) => pool.install(work),
        None => work(),
    }
}

/// So many threads with enough stack for deep nesting, or as many as the machine runs at once; nothing where it gives none.
pub(crate) fn pool(threads: Option<usize>) -> Option<ThreadPool> {
    ThreadPoolBuilder::new().stack_size(WORKER_STACK).num_threads(threads.unwrap_or(0)).build().ok()
}

pub(crate) fn gather(
    request: &Request<'_>,
    discovery: Discovery,
    results: Vec<FileResult>,
) -> Result<Sifted, SettingsError> {
    let mut outcome = Outcome {
        left_out: discovery.left_out,
        errors: discovery.errors,
        rules: Arc::clone(request.settings.rule_set()),
        changes: request.only_changes.map(Changes::what_does_not_count),
        ..Outcome::default()
    };
    let mut matching = request.baseline.map(|baseline| Matching::new(baseline, request.settings.rule_set()));
    let mut windows: Vec<Windowed<'_>> = Vec::new();
    let mut broken = BTreeSet::new();
    outcome.findings.reserve_exact(results.iter().map(FileResult::findings).sum());
    for (candidate, result) in discovery.files.iter().zip(results) {
        match result {
            FileResult::LeftOut(cause) => outcome.left_out.push((Arc::clone(&candidate.shown), cause)),
            FileResult::Failed(error) => outcome.errors.push(error),
            FileResult::Sifted(mut file) => {
                if let (Some(matching), Some(baseline)) = (&mut matching, request.baseline) {
                    let path = baseline.entry_path(request.project, &candidate.shown);
                    // What was there before comes first: the entries are its own.
                    matching.match_file(&path, &mut file.unchanged, file.scopes.as_ref());
                    matching.match_file(&path, &mut file.findings, file.scopes.as_ref());
                }
                let mesh = candidate.settings.mesh.value;
                let (coarsest, finest) = outcome.mesh.unwrap_or((mesh, mesh));
                outcome.mesh = Some((coarsest.min(mesh), finest.max(mesh)));
                outcome.files += 1;
                outcome.lines += file.lines;
                if let Some(sizes) = file.sizes {
                    outcome.sizes.entry(folder_of(&candidate.shown).to_string()).or_default().add(sizes);
                }
                outcome.sifted.push(Arc::clone(&candidate.shown));
                if file.broken {
                    broken.insert(Arc::clone(&candidate.shown));
                }
                outcome.unchanged += file.unchanged.len();
                add_settings_waivers(&mut outcome.waivers, &file.findings, request.project, candidate);
                outcome.findings.extend(file.findings);
                outcome.unsure.extend(file.unsure);
                outcome.waivers.extend(file.waivers);
                windows.push((candidate, file.windows));
            }
        }
    }
    outcome.left_out.sort();
    let mut of_project = project_findings(request)?;
    if request.only_changes.is_none() {
        of_project.extend(clashes(&discovery.files));
        of_project.extend(copied(request, &windows, &mut outcome));
    }
    settle_waivers(&mut outcome, request.today);
    of_project.extend(waiver_findings(request, &outcome.waivers)?);
    let (mut gone, mut moved) = (Vec::new(), Vec::new());
    if let (Some(mut matching), Some(baseline)) = (matching, request.baseline) {
        matching.match_elsewhere(request.project, &mut outcome.findings);
        of_project.sort_by(|one, other| one.path.cmp(&other.path));
        for of_file in of_project.chunk_by_mut(|one, other| one.path == other.path) {
            let path = baseline.entry_path(request.project, &of_file[0].path);
            matching.match_file(&path, of_file, None);
        }
        let debt = Debt { request, baseline, files: &discovery.files, outcome: &outcome, broken: &broken };
        gone = debt.gone_entries(&matching);
        moved = matching.moved().to_vec();
        debt::check_budgets(request, baseline, &gone, &mut outcome)?;
    }
    if !of_project.is_empty() {
        outcome.findings.append(&mut of_project);
        outcome.findings.sort_by(|one, other| {
            (&one.path, one.start, one.rule, one.end).cmp(&(&other.path, other.start, other.rule, other.end))
        });
    }
    outcome.gone_from_baseline = gone.len();
    Ok(Sifted { outcome, gone, moved, work: None })
}
