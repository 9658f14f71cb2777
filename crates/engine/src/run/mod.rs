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

use std::collections::BTreeSet;
use std::sync::Arc;

use rayon::prelude::*;
use rayon::{ThreadPool, ThreadPoolBuilder};

use crate::cache::{Cache, CacheFile, Store, Work};
use crate::check::{FileResult, OneFile};
use crate::git::Changes;
use crate::hold::baseline::{Entry, Matching, Moved};
use crate::hold::waiver::{add_settings_waivers, settle_waivers};
use crate::join::{self, Index};
use crate::outcome::{LeftOut, Outcome, folder_of};
use crate::settings::SettingsError;
use crate::workspace::discover::{self, Candidate, Discovery};
use clash::clashes;
use copies::{Windowed, copied};
use upkeep::{project_findings, waiver_findings};

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
    let (discovery, mut results, mut cache) = visit(request, &index)?;
    answer(request, &index, &discovery.files, &mut results, cache.as_mut());
    let work = cache.as_ref().map(Cache::work);
    if let Some(mut cache) = cache {
        if let Some(shared) = request.shared {
            cache.share(shared);
        }
        cache.save();
    }
    Ok((discovery, results, work))
}

/// Looks for the files, and visits each by itself.
fn visit(request: &Request<'_>, index: &Index) -> Result<(Discovery, Vec<FileResult>, Option<Cache>), SettingsError> {
    let (discovery, kept) = rayon::join(
        || discover::discover(&request.search()),
        || request.cached().and_then(|scope| CacheFile::read(&scope)),
    );
    let discovery = discovery?;
    let mut cache = kept.and_then(|kept| Cache::open(kept, &request.search(), &discovery));
    if let Some(shared) = request.shared.filter(|_| Cache::is_worth_it(&discovery)) {
        let cache = cache.get_or_insert_with(|| Cache::in_memory(Store::default(), &request.search(), &discovery));
        let visits: Vec<OneFile<'_>> = discovery.files.iter().map(|file| one_file(request, file, index)).collect();
        cache.fetch(shared, &visits);
    }
    let results = visit_each(request, index, &discovery, cache.as_ref());
    Ok((discovery, results, cache))
}

/// Visits all files, and once more those to which it makes a difference what others say.
pub(crate) fn visit_and_answer(
    request: &Request<'_>,
    index: &Index,
    discovery: &Discovery,
    cache: &mut Cache,
) -> Vec<FileResult> {
    let mut results = visit_each(request, index, discovery, Some(cache));
    answer(request, index, &discovery.files, &mut results, Some(cache));
    results
}

/// Visits each file by itself.
fn visit_each(request: &Request<'_>, index: &Index, discovery: &Discovery, cache: Option<&Cache>) -> Vec<FileResult> {
    request.progress.start(discovery.files.len());
    let is_alone = discovery.files.len() == 1;
    let one = |candidate: &Candidate| {
        if request.progress.is_cancelled() {
            return FileResult::LeftOut(LeftOut::Skipped);
        }
        let result = result_of(&OneFile { is_alone, ..one_file(request, candidate, index) }, cache);
        request.progress.step();
        result
    };
    discovery.files.par_iter().map(one).collect()
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
    let mut results: Vec<FileResult> = discovery.files.par_iter().map(one).collect();
    dependants::add(request, changes, &before, &mut discovery, &mut results)?;
    Ok((discovery, results))
}

/// Visits once more the files to which it makes a difference what others say.
fn answer(
    request: &Request<'_>,
    index: &Index,
    files: &[Candidate],
    results: &mut [FileResult],
    mut cache: Option<&mut Cache>,
) {
    for (candidate, result) in files.iter().zip(&mut *results) {
        if let Some(facts) = result.facts_mut() {
            index.know(request.project, candidate, facts);
        }
    }
    let ask = |(place, result): (usize, &mut FileResult)| {
        let facts = std::mem::take(result.facts_mut()?);
        Some((place, join::answers(index, request.project, &files[place], &facts)?))
    };
    let concerned: Vec<(usize, u128)> = results.par_iter_mut().enumerate().filter_map(ask).collect();
    let visit = |(place, answers): &(usize, u128)| OneFile {
        answers: Some(*answers),
        is_alone: files.len() == 1,
        ..one_file(request, &files[*place], index)
    };
    if let Some((cache, shared)) = cache.as_mut().zip(request.shared) {
        cache.fetch(shared, &concerned.iter().map(visit).collect::<Vec<OneFile<'_>>>());
    }
    let cache = cache.as_deref();
    let again = |visited: &(usize, u128)| (visited.0, result_of(&visit(visited), cache));
    let answered: Vec<(usize, FileResult)> = concerned.par_iter().map(again).collect();
    for (place, result) in answered {
        results[place] = result;
    }
}

/// A file of a run, of which others have not been asked yet.
fn one_file<'o>(request: &'o Request<'o>, candidate: &'o Candidate, index: &'o Index) -> OneFile<'o> {
    let wants = Wants { identities: request.needs_identities(), ..request.wants };
    OneFile { project: request.project, today: request.today, candidate, index, wants, answers: None, is_alone: false }
}

/// Sifts a file while others are asked, without knowing whether their answers matter.
pub(crate) fn sift_now(request: &Request<'_>, candidate: &Candidate, index: &Index) -> FileResult {
    result_of(&OneFile { answers: Some(0), is_alone: true, ..one_file(request, candidate, index) }, None)
}

fn result_of(file: &OneFile<'_>, cache: Option<&Cache>) -> FileResult {
    let result = match cache {
        Some(cache) => cache.one_file(file),
        None => file.sift(),
    };
    result.unwrap_or_else(FileResult::Failed)
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
