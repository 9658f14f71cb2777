use sieve_meaning::names::{Binding, DeclarationKind, ScopeKind};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, ReexportedName, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unused-function",
    concern: Concern::Leftover,
    mesh: Mesh::Fine,
    level: Level::Warning,
    certainty: Certainty::Guess,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a function that nothing uses",
    why: "It must be read and maintained, for nothing.",
    silent: "It is a guess, which runs only where it is enabled by name: in one of ten cases something outside of the project used the function. For functions that others may call: with decorators, in tests, exported, or public in a code base that is published as a package; and wherever another file of the project mentions the name, in whatever sense.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def _low(tide):\n    return tide < 2\n", at: &["1:5"], fixed: None },
                Wrong { code: "def sail():\n    def moor():\n        pass\n    wait()\n", at: &["2:9"], fixed: None },
            ],
            right: &[
                "def _low(tide):\n    return tide < 2\nprint(_low(3))\n",
                "@command\ndef _low(tide):\n    return tide < 2\n",
                "def _low(tide):\n    return tide < 2\ntable = {'call': '_low'}\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "import tides from './tides.js';\nfunction low(tide) {\n  return tide < 2;\n}\ntides();\n",
                at: &["2:10"],
                fixed: None,
            }],
            right: &["export function low(tide) {\n  return tide < 2;\n}\n", "function low(tide) {}\n"],
        },
    ],
    needs_names: true,
    check: Check::Bindings(check),
};

fn check(context: &mut Context, binding: &Binding) {
    let [only] = binding.declarations.as_slice() else { return };
    let file = context.file();
    let name = context.names().text(binding.name);
    if only.kind != DeclarationKind::Function || binding.uses > 0 || file.is_test() {
        return;
    }
    let scope = context.names().scope(binding.scope);
    let node = file.tree.node(only.node);
    let Some(function) = node.parent().filter(|function| function.kind() == Kind::Function) else { return };
    let is_marked = function.child(Role::Decorator).is_some() || function.child(Role::Body).is_none();
    let is_customary = name.starts_with("__")
        || is_grammar(file, function, name)
        || matches!(name, "main" | "setup" | "teardown")
        || name.starts_with("test");
    if is_marked || is_customary {
        return;
    }
    if let Some(reason) = scope.may_use.or(scope.may_bind) {
        context.unsure(node.span(), reason.describe());
        return;
    }
    let inner = matches!(scope.kind, ScopeKind::Function | ScopeKind::Block);
    let is_open = file.language.spec().exports_everything && !inner;
    if is_open && (scope.kind != ScopeKind::File || !name.starts_with('_') || mentions(file.text.source(), name) > 1) {
        return;
    }
    let message = format!("nothing uses the function {name}");
    let anywhere = is_open.then(|| ReexportedName {
        module: String::new(),
        name: name.to_string(),
        group: only.node.0,
        is_public: false,
    });
    context.report(node.span(), message).advice("remove it").unless_used(anywhere);
}

/// Whether a function belongs to a grammar, whose rules are docstrings and which is found by its name: `t_NUMBER`, `p_sum`.
fn is_grammar(file: File<'_>, function: NodeRef, name: &str) -> bool {
    let first = function.child(Role::Body).and_then(|body| body.children().next());
    let is_doc = first.is_some_and(|first| file.node_text(first).starts_with(['"', '\'', 'r']));
    is_doc && (name.starts_with("t_") || name.starts_with("p_"))
}

/// How often a word is in a text.
fn mentions(source: &str, word: &str) -> usize {
    let is_part = |byte: Option<&u8>| byte.is_some_and(|byte| *byte == b'_' || byte.is_ascii_alphanumeric());
    let bytes = source.as_bytes();
    memchr::memmem::find_iter(bytes, word.as_bytes())
        .filter(|at| {
            !is_part(at.checked_sub(1).and_then(|before| bytes.get(before))) && !is_part(bytes.get(at + word.len()))
        })
        .count()
}
