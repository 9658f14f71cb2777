use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::slip::is_slip;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unknown-alias",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Yaml],
    fix: None,
    what: "an alias without an anchor of its name before it in the document",
    why: "No reader can tell what the alias stands for: the whole file is refused.",
    silent: "Nowhere: each of them is refused.",
    standards: &["YAML 1.2.2, section 7.1"],
    options: &[],
    examples: &[Examples {
        language: Language::Yaml,
        wrong: &[
            Wrong { code: "north: &depth 3\nsouth: *dpth\n", at: &["2:8"], fixed: None },
            Wrong { code: "a: &quay 1\n---\nb: *quay\n", at: &["3:4"], fixed: None },
            Wrong { code: "files: *.py\n", at: &["1:8"], fixed: None },
        ],
        right: &["north: &depth 3\nsouth: *depth\n", "files: \"*.py\"\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Alias], check),
};

/// How many anchors before an alias are looked at for one of nearly its name.
const LOOKED_AT: usize = 500;

fn check(context: &mut Context, alias: NodeRef) {
    let file = context.file();
    let Some(data) = file.values() else { return };
    if data.unknown_aliases().binary_search(&alias.id()).is_err() {
        return;
    }
    let name = |node: NodeRef<'_>| file.node_text(node)[1..].to_string();
    let wanted = name(alias);
    let end = data.anchors().partition_point(|anchor| anchor.node < alias.id());
    let before = &data.anchors()[end.saturating_sub(LOOKED_AT)..end];
    let near = before.iter().map(|anchor| name(file.tree.node(anchor.node))).find(|known| is_slip(&wanted, known));
    let advice = match near {
        Some(near) => format!("*{near} is there"),
        None => "give the value an anchor, or put quotes around what only begins with a star".to_string(),
    };
    context.report(alias.span(), format!("nothing before this has the anchor &{wanted}")).advice(advice);
}
