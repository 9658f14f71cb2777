use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::is_short;
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, command_name, has_option, stops_at_unset, text_beside, variable_of};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "remove-with-variable",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: None,
    what: "a removal that begins at the root of the disk if a variable is empty",
    why: "With `$dir` empty, `rm -r \"$dir/\"*` is `rm -r /*`.",
    silent: "In scripts that stop at unset variables (`set -u`), and for `${dir:?}`, which stops by itself; where a test in front asks whether the variable has a value, or leads to something.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\nrm -rf \"$quay/\"*\n", at: &["2:8"], fixed: None },
            Wrong { code: "#!/bin/bash\nrm -r $quay/$tide\n", at: &["2:7"], fixed: None },
        ],
        right: &[
            "[ -d \"$1\" -a -n \"$quay\" ] && rm -rf \"$quay\"/*\n",
            "if [ -d \"${quay}\" ]; then\n  rm -rf \"$quay\"/*\nfi\n",
            "#!/bin/bash\nrm -rf \"${quay:?}/\"*\nrm -f \"$quay/tides\"\nrm -rf \"$quay\"\nrm -rf \"$quay/cache\"\n",
            "#!/bin/bash\nmoor() {\n  test \"$quay\" || return\n  rm -rf $quay/$1\n}\n",
            "#!/bin/bash\nset -eu\nrm -rf \"$quay/\"*\n",
            "#!/bin/bash\nquay=$(mktemp -d)\nrm -rf \"$quay\"/*\n",
        ],
    }],
    needs_names: false,
    check: Check::All(&[Kind::Command], check),
};

fn check(context: &mut Context, commands: &[NodeRef]) {
    let file = context.file();
    let removes = |command: &NodeRef| {
        command_name(file, *command) == "rm"
            && (has_option(file, *command, 'r', "--recursive") || has_option(file, *command, 'R', "--recursive"))
    };
    let removals: Vec<NodeRef> = commands.iter().copied().filter(removes).collect();
    if removals.is_empty() || stops_at_unset(file) {
        return;
    }
    let surely_set = surely_set(file);
    for word in removals.into_iter().flat_map(arguments) {
        let expansions: Vec<NodeRef> = word.descendants().filter(|part| part.kind() == Kind::Expansion).collect();
        let Some(first) = expansions.first() else { continue };
        let rest = text_beside(file, word, expansions.iter().copied());
        let text = context.text(*first);
        let stops = text.contains(":?") || text.contains('?') || text.contains(":-");
        let left: String = rest.chars().filter(|letter| *letter != '"').collect();
        let begins = file.node_text(word).trim_start_matches('"').starts_with('$');
        let from_root = begins && left.starts_with('/') && left.chars().all(|letter| matches!(letter, '/' | '*' | '.'));
        let variable = variable_of(file, *first);
        let is_set = || surely_set.get(variable).copied().unwrap_or(false) || is_tested(file, word, variable);
        if from_root && !stops && !is_set() {
            context
                .report(word.span(), format!("if {text} is empty, this removes from the root of the disk"))
                .advice(format!("write ${{{}:?}}, which stops if it is empty", variable_of(file, *first)));
        }
    }
}

/// Whether code runs only where a test says that a variable has a value, or is the path of something.
fn is_tested(file: File<'_>, word: NodeRef, variable: &str) -> bool {
    let tests = |test: NodeRef| {
        let text: String = file.node_text(test).chars().filter(|letter| !matches!(letter, '"' | '{' | '}')).collect();
        ["-n", "-d", "-e", "-f"].iter().any(|sign| {
            let asked = format!("{sign} ${variable}");
            let mut places = text.match_indices(&asked).map(|(at, found)| at + found.len());
            places.any(|end| !text[end..].starts_with(|letter: char| letter == '_' || letter.is_alphanumeric()))
        })
    };
    let mut inner = word;
    for around in word.ancestors() {
        let test = match around.kind() {
            Kind::If => around.child(Role::Condition),
            Kind::Logical => around
                .children_in(Role::Operand)
                .next()
                .filter(|first| file.text.source()[first.span().end as usize..].trim_start().starts_with("&&")),
            _ => None,
        };
        if test.is_some_and(|test| test.id() != inner.id() && is_short(file.node_text(test)) && tests(test)) {
            return true;
        }
        let mut before = std::iter::successors(inner.previous_sibling(), |other| other.previous_sibling()).take(NEAR);
        if before.any(|statement| leaves_without(file, statement, variable)) {
            return true;
        }
        inner = around;
    }
    false
}

/// So many statements in front are looked at.
const NEAR: usize = 16;

/// Commands that go elsewhere.
const LEAVING: &[&str] = &["exit", "die"];

/// `test "$quay" || return`: goes elsewhere by a test of a variable.
fn leaves_without(file: File<'_>, statement: NodeRef, variable: &str) -> bool {
    let tested = match statement.kind() {
        Kind::If => statement.child(Role::Condition),
        Kind::Logical => statement.children_in(Role::Operand).next(),
        _ => None,
    };
    let mentions = |test: NodeRef| {
        test.descendants().any(|part| part.kind() == Kind::Expansion && variable_of(file, part) == variable)
    };
    let leaves = |part: NodeRef| match part.kind() {
        Kind::Return | Kind::Continue | Kind::Break => true,
        Kind::Command => LEAVING.contains(&command_name(file, part)),
        _ => false,
    };
    is_short(file.node_text(statement)) && tested.is_some_and(mentions) && statement.descendants().any(leaves)
}

/// For each variable that the script assigns, whether every value begins with text, or is a folder that was just made.
fn surely_set(file: File<'_>) -> FxHashMap<&str, bool> {
    let mut variables = FxHashMap::default();
    for assignment in file.tree.nodes_of(Kind::Assignment) {
        let (Some(target), Some(value)) = (assignment.child(Role::Target), assignment.child(Role::Value)) else {
            continue;
        };
        let text = file.node_text(value).trim_matches('"');
        // What is cut off from a value is not all of it.
        if text.strip_prefix("${").is_some_and(|rest| rest.starts_with(file.node_text(target)) && rest.contains('#')) {
            continue;
        }
        let is_sure = text.contains("mktemp") || !text.is_empty() && !text.starts_with(['$', '`']);
        *variables.entry(file.node_text(target)).or_insert(true) &= is_sure;
    }
    variables
}
