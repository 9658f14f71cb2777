//! Files that did not change, but call what did: what a change brings there is a part of it.

use std::collections::HashSet;
use std::path::PathBuf;

use rayon::prelude::*;
use sieve_meaning::folder_module::FolderForm;
use sieve_meaning::opened::opens_namespaces;
use sieve_syntax::language::Language;

use super::before::Before;
use super::{Request, Unwatched, Visits, find_files, one_file};
use crate::check::{FileOutcome, FileResult, load, sift_tree};
use crate::git::Changes;
use crate::join;
use crate::join::Index;
use crate::outcome::Finding;
use crate::settings::SettingsError;
use crate::subject::Subject;
use crate::workspace::discover::{self, Candidate, Discovery};
use crate::workspace::shares::in_shares;

/// Adds the files to which the changes of others make a difference, with what is new in each.
pub(super) fn add(
    request: &Request<'_>,
    changes: &Changes,
    before: &Before,
    discovery: &mut Discovery,
    results: &mut Vec<FileResult>,
) -> Result<(), SettingsError> {
    let may_matter = |path: &PathBuf| {
        let settings = request.settings.for_file(path)?;
        let language = discover::language_of(&*request.project.files, path, &settings);
        let has_names = language.is_some_and(|language| Language::WITH_NAMES.contains(&language));
        let has_module = language.zip(path.to_str()).and_then(|(own, path)| FolderForm::of_file(own, path)).is_some();
        let has_namespaces = language.is_some_and(opens_namespaces);
        Ok(has_names || has_module || has_namespaces || settings.dispatch().house_asks_files())
    };
    let matter: Vec<bool> = changes.files.keys().map(may_matter).collect::<Result<_, SettingsError>>()?;
    if !matter.contains(&true) {
        return Ok(());
    }
    let whole = Request { only_changes: None, progress: &Unwatched, ..*request };
    let index = Index::default();
    let (mut all, mut cache) = find_files(&whole)?;
    let mut known = Visits { request: &whole, index: &index, files: &all.files }.by_themselves(cache.as_mut());
    if let Some(cache) = cache {
        cache.save();
    }
    let is_changed = |file: &Candidate| changes.of(&file.path).is_some();
    for (candidate, result) in all.files.iter().zip(&mut known) {
        let Some(facts) = result.facts_mut() else { continue };
        if !is_changed(candidate) {
            before.index.know(request.project, candidate, &mut facts.clone());
        }
        index.know(request.project, candidate, facts);
    }
    let now = (&index, request.project);
    let then = (&before.index, &before.project);
    let pairs: Vec<(Candidate, FileResult)> = all.files.drain(..).zip(known).collect();
    let minds = |(candidate, result): &(Candidate, FileResult)| {
        let facts = result.facts().filter(|_| !is_changed(candidate));
        facts.is_some_and(|facts| join::minds_change(now, then, candidate, facts))
    };
    let concerned: Vec<Candidate> = pairs.into_par_iter().filter(minds).map(|(candidate, _)| candidate).collect();
    let brought = in_shares(&concerned).map(|candidate| brought(&whole, candidate, &index, before));
    for (candidate, outcome) in concerned.iter().zip(brought.collect::<Vec<_>>()) {
        let Some(outcome) = outcome.filter(|outcome| !outcome.findings.is_empty()) else { continue };
        let place = discovery.files.partition_point(|file| file.shown < candidate.shown);
        discovery.files.insert(place, candidate.clone());
        results.insert(place, FileResult::Sifted(outcome));
    }
    Ok(())
}

/// What the change of other files brings into one; what was there anyway is kept apart.
fn brought(request: &Request<'_>, candidate: &Candidate, index: &Index, before: &Before) -> Option<FileOutcome> {
    let run = one_file(request, candidate, index);
    let text = load::text(candidate, request.project).ok()?.ok()?;
    let tree = candidate.language.parse(&text);
    let now = Subject::of(candidate, index, request.project);
    let then = Subject::of(candidate, &before.index, &before.project);
    let mut outcome = sift_tree(&text, &tree, &now, run.wants, request.today);
    let key = |finding: &Finding| (finding.rule, finding.span, finding.message.clone());
    let old: HashSet<_> = sift_tree(&text, &tree, &then, run.wants, request.today).findings.iter().map(key).collect();
    let (unchanged, new) = std::mem::take(&mut outcome.findings).into_iter().partition(|one| old.contains(&key(one)));
    (outcome.findings, outcome.unchanged) = (new, unchanged);
    (outcome.unsure, outcome.waivers, outcome.windows) = (Vec::new(), Vec::new(), Vec::new());
    Some(outcome)
}
