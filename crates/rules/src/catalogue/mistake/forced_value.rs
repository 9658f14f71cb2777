use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::is_test_code;
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "forced-value",
    concern: Concern::Mistake,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Rust],
    fix: None,
    what: "a value taken out by `unwrap` in a library",
    why: "Where there is none the whole program ends, without a word about what was expected. A library cannot know whether its user would go on; `?` leaves that to the caller, and `expect` says why there must be one.",
    silent: "In tests, examples and benchmarks, in build scripts and in programs (`main.rs`, `src/bin`). For locks (`lock().unwrap()`), which fail only once something else has failed. In what is given to macros, which is not looked into.",
    standards: &["Rust API Guidelines, C-QUESTION-MARK"],
    options: &[],
    examples: &[Examples {
        language: Language::Rust,
        wrong: &[Wrong {
            code: "fn low(tides: &[u8]) -> u8 {\n    *tides.iter().min().unwrap()\n}\n",
            at: &["2:25"],
            fixed: None,
        }],
        right: &[
            "fn low(tides: &[u8]) -> Option<u8> {\n    let first = tides.first()?;\n    let lowest = tides.iter().min().expect(\"there is a first one\");\n    Some(*first.min(lowest))\n}\n\nfn count(quays: &Mutex<u8>) -> u8 {\n    *quays.lock().unwrap()\n}\n\n#[cfg(test)]\nmod tests {\n    #[test]\n    fn tides_are_low() {\n        low(&[1]).unwrap();\n    }\n}\n",
            "// This is src/main.rs.\nfn main() {\n    let quay = std::env::args().next().unwrap();\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Call], check),
};

fn check(context: &mut Context, call: NodeRef) {
    let file = context.file();
    let Some((callee, name)) =
        method(call).filter(|(_, name)| matches!(file.node_text(*name), "unwrap" | "unwrap_err"))
    else {
        return;
    };
    let is_locked = callee.child(Role::Object).is_some_and(|object| is_lock(file, object));
    let takes_none = call.child(Role::Arguments).is_some_and(|all| all.child(Role::Argument).is_none());
    if is_locked || !takes_none || is_program(file.path) || is_test_code(file, call) {
        return;
    }
    let forced = file.node_text(name).to_string();
    context
        .report(name.span(), format!("\"{forced}\" ends the program where there is no such value"))
        .advice("use \"?\", handle it, or say with \"expect\" why there must be one");
}

/// The callee of a method that is called, with its name.
fn method(call: NodeRef) -> Option<(NodeRef, NodeRef)> {
    let callee = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member)?;
    Some((callee, callee.child(Role::Name)?))
}

/// Whether a value is what a lock gives.
fn is_lock(file: File, object: NodeRef) -> bool {
    let name = (object.kind() == Kind::Call).then(|| method(object)).flatten().map(|(_, name)| name);
    name.is_some_and(|name| matches!(file.node_text(name), "lock" | "read" | "write" | "into_inner" | "get_mut"))
}

/// Whether a file is a program of its own, and not a part of a library.
fn is_program(path: &str) -> bool {
    let parts: Vec<&str> = path.split('/').collect();
    let (name, folders) = parts.split_last().map_or(("", &[][..]), |(name, folders)| (*name, folders));
    matches!(name, "main.rs" | "build.rs") || folders.iter().any(|part| matches!(*part, "bin" | "examples" | "benches"))
}
