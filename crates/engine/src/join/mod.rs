//! Joins what the files of a run say of themselves with what they ask of each other.
//!
//! No file is parsed for the sake of another: the answers come from the facts of all files. Only a file to which an answer makes a
//! difference is visited once more, with the answers at hand.

mod facts;

use sieve_meaning::project::{Callee, Linker, Others};
use xxhash_rust::xxh3::xxh3_128;

use crate::discover::Candidate;
use crate::modules::{ModuleIndex, ModulesOf};
use crate::project::{Project, relative};

pub(crate) use facts::{Asked, Facts};

/// Puts what a file exports into an index, as bytes that its facts hold.
pub(crate) fn index(index: &ModuleIndex, project: &Project, candidate: &Candidate, summary: Option<Box<[u8]>>) {
    if let Some((summary, path)) = summary.zip(relative(&project.root, &candidate.path)) {
        index.know(candidate.path.clone(), path, summary);
    }
}

/// A digest of the answers to a file, if they make a difference to it.
pub(crate) fn answers(index: &ModuleIndex, project: &Project, candidate: &Candidate, facts: &Facts) -> Option<u128> {
    if facts.asks_nothing() {
        return None;
    }
    let path = relative(&project.root, &candidate.path)?;
    let modules = ModulesOf::new(index, project, candidate.language);
    let linker = Linker { language: candidate.language, path: &path, modules: &modules };
    let calls = facts.calls.iter().map(|call| call.ask(&linker)).filter(|(_, matters)| *matters);
    let calls: Vec<Option<Callee>> = calls.map(|(callee, _)| callee).collect();
    let loads: Vec<&String> = facts.loads.iter().filter(|module| linker.has_effects(module)).collect();
    let lacking: Vec<_> = facts.imports.iter().filter(|(module, name)| linker.lacks(module, name)).collect();
    let matters = !calls.is_empty() || !loads.is_empty() || !lacking.is_empty();
    matters.then(|| xxh3_128(format!("{calls:?} {loads:?} {lacking:?}").as_bytes()))
}

/// Whether a file whose own text is the same is given other answers than before, and one of the new ones matters.
pub(crate) fn minds_change(
    (index, project): (&ModuleIndex, &Project),
    (index_before, before): (&ModuleIndex, &Project),
    candidate: &Candidate,
    facts: &Facts,
) -> bool {
    let Some(path) = relative(&project.root, &candidate.path).filter(|_| !facts.asks_nothing()) else { return false };
    let language = candidate.language;
    let (now, then) = (ModulesOf::new(index, project, language), ModulesOf::new(index_before, before, language));
    let now = Linker { language, path: &path, modules: &now };
    let then = Linker { language, path: &path, modules: &then };
    let calls = facts.calls.iter().any(|call| {
        let (callee, matters) = call.ask(&now);
        matters && call.ask(&then).0 != callee
    });
    calls || facts.imports.iter().any(|(module, name)| now.lacks(module, name) && !then.lacks(module, name))
}
