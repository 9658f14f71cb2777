use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::built::{first_argument, named_argument};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "weak-digest",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Guess,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a digest that can be forged",
    why: "Content with the same MD5 or SHA-1 digest can be constructed: such a digest proves nothing about its origin.",
    silent: "It is a guess, which runs only where it is enabled by name: many such digests are not for security. In tests. Where the call says that it is not for security (`usedforsecurity=False`), and where the digest is chosen at run time.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "import hashlib\nhashlib.md5(ticket)\n", at: &["2:1"], fixed: None },
                Wrong { code: "from hashlib import new\nnew(\"sha1\", ticket)\n", at: &["2:1"], fixed: None },
            ],
            right: &["import hashlib\nhashlib.sha256(ticket)\nhashlib.md5(ticket, usedforsecurity=False)\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "import { createHash } from \"crypto\";\ncreateHash(\"md5\");\n",
                at: &["2:1"],
                fixed: None,
            }],
            right: &["import { createHash } from \"crypto\";\ncreateHash(\"sha256\");\n"],
        },
    ],
    needs_names: true,
    check: Check::Named(&[Kind::Call], MAKERS, check),
};

/// What makes a digest.
const MAKERS: &[&str] = &["hashlib.md5", "hashlib.sha1", "hashlib.new", "crypto.createHash"];

fn check(context: &mut Context, call: NodeRef) {
    let file = context.file();
    if file.is_test() {
        return;
    }
    let Some(name) = call.child(Role::Callee).and_then(|callee| file.refers_to(callee, MAKERS)) else { return };
    let named = || {
        let text = first_argument(call).filter(|first| first.kind() == Kind::String)?;
        file.language.string_value(file.node_text(text))
    };
    let digest = match &*name {
        "hashlib.md5" | "hashlib.sha1" => name.rsplit('.').next().map(str::to_string),
        "hashlib.new" | "crypto.createHash" => named(),
        _ => None,
    };
    let weak =
        digest.filter(|digest| matches!(digest.to_ascii_lowercase().replace('-', "").as_str(), "md5" | "sha1" | "md4"));
    let Some(weak) = weak.filter(|_| named_argument(file, call, "usedforsecurity").is_none()) else { return };
    context
        .report(call.span(), format!("{} can be forged", weak.to_ascii_uppercase()))
        .advice("use SHA-256, or declare that it is not for security");
}
