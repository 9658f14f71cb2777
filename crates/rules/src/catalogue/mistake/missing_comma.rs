use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-comma",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Python],
    fix: None,
    what: "two strings side by side in a list whose other elements are apart",
    why: "They are one element: a comma is missing between them most likely.",
    silent: "For strings that are wrapped because they are long, and in parentheses of their own.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong {
            code: "quays = [\n    \"north\",\n    \"south\"\n    \"west\",\n    \"east\",\n]\n",
            at: &["3:5"],
            fixed: None,
        }],
        right: &[
            "quays = [\n    \"north\",\n    (\"south\"\n     \"west\"),\n]\n",
            "fares = [\n    \"a long sentence of many words that goes on and on, over the end \"\n    \"of the line\",\n    \"another one\",\n]\n",
            "quays = [\"north\" \"south\"]\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::List, Kind::Tuple, Kind::Set], check),
};

/// Longer strings are prose, which is wrapped.
const LONGEST: usize = 30;

fn check(context: &mut Context, list: NodeRef) {
    let file = context.file();
    let elements: Vec<NodeRef> = list.children_in(Role::Element).collect();
    let is_short = |part: NodeRef| part.kind() == Kind::String && part.span().len() as usize <= LONGEST;
    let is_word = |part: NodeRef| {
        is_short(part) && !file.node_text(part).trim_matches(['"', '\'']).contains([' ', '\\', '\n', '%', '{'])
    };
    // Of several elements all are single words but one, in which two words are joined, each on its own line.
    if elements.len() < 3 {
        return;
    }
    let joined: Vec<&NodeRef> = elements.iter().filter(|element| element.kind() == Kind::Concatenation).collect();
    let [only] = joined.as_slice() else { return };
    let others = elements.iter().filter(|element| element.kind() != Kind::Concatenation);
    let parts: Vec<NodeRef> = only.children_in(Role::Part).collect();
    let apart = parts.windows(2).all(|pair| context.line(pair[0].span().start) != context.line(pair[1].span().start));
    if others.into_iter().all(|other| is_word(*other))
        && parts.len() == 2
        && apart
        && parts.iter().all(|part| is_word(*part))
    {
        let (first, second) = (context.text(parts[0]), context.text(parts[1]));
        context
            .report(only.span(), format!("{first} and {second} are one element: no comma is between them"))
            .advice("put a comma between them, or parentheses around them");
    }
}
