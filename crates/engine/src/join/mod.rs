//! Joins what the files of a run say of themselves with what they ask of each other.
//!
//! No file is parsed for the sake of another: the answers come from the facts of all files. Only a file to which an answer makes a
//! difference is visited once more, with the answers at hand.

mod facts;
mod free_names;
mod hashes;
mod index;
mod references;
mod schemas;
mod styles;
mod uses;
mod words;

use std::path::Path;

use sieve_meaning::project::{Callee, Linker, Others};
use sieve_syntax::language::Language;
use xxhash_rust::xxh3::xxh3_128;

use crate::project::{Project, relative};
use crate::workspace::discover::Candidate;
use crate::workspace::modules::ModulesOf;

use facts::Lead;
pub(crate) use facts::{Asked, Facts, Waiting};
pub use index::Index;

impl Index {
    /// Whether another file may use a name of the one at `path`: through the module, or, where that is empty, by any mention.
    pub(crate) fn may_be_used(&self, project: &Project, path: &Path, module: &str, name: &str) -> bool {
        if module.is_empty() {
            self.words.mentions(project, path, name)
        } else {
            self.uses.may_use(project, path, module, name)
        }
    }
}

impl Index {
    /// Prepares for the questions in the facts of many files, which will come one after the other.
    pub(crate) fn expect<'f>(&self, all: impl Iterator<Item = &'f Facts>) {
        self.free_names.expect(all.flat_map(|facts| &facts.unbound));
    }

    /// Whether code outside of the project may import the file at `path`: a folder around it is made into a package for others.
    pub(crate) fn is_open(&self, project: &Project, path: &Path) -> bool {
        self.words.is_open(project, path)
    }
}

/// A digest of the answers to a file, if they make a difference to it.
pub(crate) fn answers(index: &Index, project: &Project, candidate: &Candidate, facts: &Facts) -> Option<u128> {
    if facts.asks_nothing() {
        return None;
    }
    let own = answers_in(index, project, (candidate, candidate.language), facts);
    let islands = facts.islands().map(|(language, facts)| answers_in(index, project, (candidate, language), facts));
    let all: Vec<Option<u128>> = std::iter::once(own).chain(islands).collect();
    match all.as_slice() {
        [own] => *own,
        all => all.iter().any(Option::is_some).then(|| xxh3_128(format!("{all:?}").as_bytes())),
    }
}

/// The same for what a file, or the scripts in it, ask in one language.
fn answers_in(
    index: &Index,
    project: &Project,
    (candidate, language): (&Candidate, Language),
    facts: &Facts,
) -> Option<u128> {
    let path = relative(&project.root, &candidate.path)?;
    let modules = ModulesOf::new(&index.modules, project, language);
    let linker = Linker { language, path: &path, modules: &modules };
    let calls = facts.calls.iter().map(|call| call.ask(&linker)).filter(|(_, matters)| *matters);
    let calls: Vec<Option<Callee>> = calls.map(|(callee, _)| callee).collect();
    let loads: Vec<&String> = facts.loads.iter().filter(|module| linker.has_effects(module)).collect();
    let lacking: Vec<_> = facts.imports.iter().filter(|(module, name)| linker.lacks(module, name)).collect();
    let leads: Vec<_> = facts.leads.iter().filter(|lead| leads_on(lead, &linker)).collect();
    let is_used = |(module, name): &&(String, String)| index.may_be_used(project, &candidate.path, module, name);
    let used: Vec<_> = facts.exports.iter().filter(is_used).collect();
    let is_provided = |name: &&String| index.free_names.is_provided(project, &candidate.path, name);
    let provided: Vec<_> = facts.unbound.iter().filter(is_provided).collect();
    let is_usual = |(kind, style): &&(String, String)| index.styles.is_usual_in_words(project, language, kind, style);
    let usual: Vec<_> = facts.styles.iter().filter(is_usual).collect();
    let is_open = facts.asks_outside && index.is_open(project, &candidate.path);
    let leading: Vec<_> = facts.references.iter().filter(|there| is_there(index, project, there)).collect();
    let schema = facts.schema.as_ref().and_then(|path| schema_in(index, project, path));
    let complaints = facts.modules.iter().filter_map(|question| Some((question, linker.complaint(question)?)));
    let complaints: Vec<_> = complaints.collect();
    let in_vain = in_vain(facts, &linker);
    let nothing_said =
        calls.is_empty() && loads.is_empty() && lacking.is_empty() && used.is_empty() && leads.is_empty();
    let matters = !nothing_said
        || is_open
        || !provided.is_empty()
        || !usual.is_empty()
        || !leading.is_empty()
        || !complaints.is_empty()
        || !in_vain.is_empty()
        || schema.is_some();
    let said = || {
        format!(
            "{calls:?} {loads:?} {lacking:?} {leads:?} {used:?} {provided:?} {usual:?} {leading:?} {schema:?} {complaints:?} {in_vain:?} {is_open}"
        )
    };
    matters.then(|| xxh3_128(said().as_bytes()))
}

/// Whether a file whose own text is the same is given other answers than before, and one of the new ones matters.
pub(crate) fn minds_change(
    (index, project): (&Index, &Project),
    (index_before, before): (&Index, &Project),
    candidate: &Candidate,
    facts: &Facts,
) -> bool {
    let Some(path) = relative(&project.root, &candidate.path).filter(|_| !facts.asks_nothing()) else { return false };
    let own = std::iter::once((candidate.language, facts));
    let mut all = own.chain(facts.islands());
    all.any(|(language, facts)| minds_in((index, project), (index_before, before), (&path, language), facts))
}

/// The same for what a file, or the scripts in it, ask in one language.
fn minds_in(
    (index, project): (&Index, &Project),
    (index_before, before): (&Index, &Project),
    (path, language): (&str, Language),
    facts: &Facts,
) -> bool {
    let now = ModulesOf::new(&index.modules, project, language);
    let then = ModulesOf::new(&index_before.modules, before, language);
    let now = Linker { language, path, modules: &now };
    let then = Linker { language, path, modules: &then };
    let calls = facts.calls.iter().any(|call| {
        let (callee, matters) = call.ask(&now);
        matters && call.ask(&then).0 != callee
    });
    let leads = facts.leads.iter().any(|lead| leads_on(lead, &now) && !leads_on(lead, &then));
    let references =
        facts.references.iter().any(|there| !is_there(index, project, there) && is_there(index_before, before, there));
    let complains = |question| {
        let complaint = now.complaint(question);
        complaint.is_some() && complaint != then.complaint(question)
    };
    let before = in_vain(facts, &then);
    calls
        || leads
        || in_vain(facts, &now).iter().any(|namespace| !before.contains(namespace))
        || facts.modules.iter().any(complains)
        || references
        || facts.imports.iter().any(|(module, name)| now.lacks(module, name) && !then.lacks(module, name))
}

/// The namespaces that a file opens and names nothing of.
fn in_vain(facts: &Facts, others: &dyn Others) -> Vec<String> {
    facts.opening.as_ref().map(|opening| others.opened_in_vain(opening, &[])).unwrap_or_default()
}

/// A digest of the schema in a file.
fn schema_in(index: &Index, project: &Project, path: &str) -> Option<u128> {
    index.schemas.named(project, path).map(|schema| schema.digest)
}

fn is_there(index: &Index, project: &Project, (path, pointer): &(String, Option<String>)) -> bool {
    index.references.leads(project, path, pointer.as_deref())
}

fn leads_on((module, path, thing): &Lead, others: &dyn Others) -> bool {
    let path: Vec<&str> = path.iter().map(String::as_str).collect();
    others.leads_to(module, &path, thing)
}
