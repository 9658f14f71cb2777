//! What the rules of spacing share: all of their facts but the tokens they are about.

use sieve_syntax::language::Language;

use crate::interface::SpacingKind;
use crate::interface::{Certainty, Check, Concern, Examples, FixKind, Level, Mesh, Rule};

/// A rule for the gaps that belong to one kind of tokens.
pub(super) const fn rule(
    name: &'static str,
    kind: SpacingKind,
    languages: &'static [Language],
    what: &'static str,
    examples: &'static [Examples],
) -> Rule {
    Rule {
        name,
        concern: Concern::Layout,
        mesh: Mesh::Fine,
        level: Level::Note,
        certainty: Certainty::Proven,
        languages,
        fix: Some(FixKind::Exact),
        what,
        why: "Code that is spaced in one way is read without stumbling, and reviews show no changes that are none.",
        silent: "Spaces that line something up with the line above or below, and strings.",
        standards: &["PEP 8, Whitespace in Expressions and Statements"],
        options: &[],
        examples,
        needs_names: false,
        check: Check::Spacing(kind),
    }
}
