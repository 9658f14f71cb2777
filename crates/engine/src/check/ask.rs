//! Runs rules over a text with the answers of other files, or notes what they ask of those.

use sieve_meaning::names::Names;
use sieve_meaning::project::{Linker, Others};
use sieve_rules::{Input, Report};
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use crate::join::Asked;
use crate::subject::Subject;
use crate::workspace::modules::ModulesOf;

/// A text with its tree.
pub(super) type Source<'s> = (&'s Text, &'s Tree);

/// What the rules found in a text, and what they asked of other files.
pub(super) type Found = (Report, Asked);

/// Runs rules over a text; also what they asked of other files, where those have not answered yet.
pub(super) fn ask(
    (text, tree): Source<'_>,
    subject: &Subject<'_>,
    names: Option<&Names<'_>>,
    run: impl FnOnce(&Input<'_>) -> Report,
) -> Found {
    let language = subject.language;
    let modules = ModulesOf::new(&subject.index.modules, subject.project, language);
    let path = subject.rooted_path();
    let linker = Linker { language, path: &path, modules: &modules };
    let asked = Asked::of(language);
    let others: &dyn Others = if subject.asks_others { &linker } else { &asked };
    let report = run(&Input { path: &path, language, text, tree, names, others });
    (report, asked)
}
