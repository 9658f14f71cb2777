use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::{command_name, variable_of};
use crate::slip::{is_slip, only_double};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "variable-slip",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: None,
    what: "a variable that nothing assigns, with the name of another one but for a slip of the fingers",
    why: "It is empty, and the value that was meant is not used.",
    silent: "For short names, for names that come from elsewhere or that differ by a number or an ending, and in files that load others.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[Wrong { code: "#!/bin/bash\nquay_name=$1\necho \"$quay_nmae\"\n", at: &["3:7"], fixed: None }],
        right: &[
            "#!/bin/bash\nquay_name=$1\necho \"$quay_name\" \"$quay_names\" \"$quay_nam2\"\n",
            "#!/bin/bash\n. ./tides\nquay_name=$1\necho \"$quay_nmae\"\n",
            "#!/bin/bash\nquay_name=$1\necho \"$quay_nmae\" \"$quay_nmae\"\n",
            "#!/bin/bash\nquay_name=$1\necho \"${quay_nmae:-low}\"\n",
        ],
    }],
    needs_names: false,
    check: Check::File(check),
};

/// Names of fewer characters are alike by chance.
const SHORTEST: usize = 6;

fn check(context: &mut Context) {
    let file = context.file();
    let mut assigned: FxHashSet<&str> = FxHashSet::default();
    let mut used: FxHashMap<&str, Vec<NodeRef>> = FxHashMap::default();
    for node in file.tree.nodes() {
        match node.kind() {
            Kind::Name if node.role() == Role::Target => drop(assigned.insert(file.node_text(node))),
            // Commands such as `read` assign to the names that they are given.
            Kind::Word if node.role() == Role::Argument && node.children().next().is_none() => {
                assigned.insert(file.node_text(node));
            }
            Kind::Expansion => used.entry(variable_of(file, node)).or_default().push(node),
            // What another file assigns is not known here.
            Kind::Command if matches!(command_name(file, node), "." | "source" | "eval") => return,
            _ => {}
        }
    }
    let mut slips: Vec<(NodeRef, &str, &str)> = Vec::new();
    for (name, places) in &used {
        let is_plain = |text: &str| text.trim_start_matches(['$', '{']).trim_end_matches('}') == *name;
        let [place] = places.as_slice() else { continue };
        if name.len() < SHORTEST
            || assigned.contains(name)
            || !is_plain(file.node_text(*place))
            || !name.contains(|c: char| c.is_ascii_lowercase())
        {
            continue;
        }
        // An ending makes another name.
        let is_near = |other: &&str| {
            other.len() >= SHORTEST && name.as_bytes().last() == other.as_bytes().last() && is_slip(name, other)
        };
        slips.extend(only_double(assigned.iter().copied().filter(is_near)).map(|double| (*place, *name, double)));
    }
    slips.sort_by_key(|(place, ..)| place.id());
    for (place, name, double) in slips {
        context
            .report(place.span(), format!("nothing assigns \"{name}\""))
            .advice(format!("perhaps \"{double}\" is meant"));
    }
}
