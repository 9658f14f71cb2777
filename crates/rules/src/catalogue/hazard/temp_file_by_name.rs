use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "temp-file-by-name",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python, Language::Shell],
    fix: None,
    what: "a temporary file whose name others can know before it exists",
    why: "Between choosing the name and creating the file, somebody can create a link there, and the program writes to its target.",
    silent: "In tests. For names within a folder of the program's own, which the string does not show to be shared.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "import tempfile\npath = tempfile.mktemp()\n", at: &["2:8"], fixed: None }],
            right: &["import tempfile\nhandle, path = tempfile.mkstemp()\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "sort quays > /tmp/quays.$$\n", at: &["1:14"], fixed: None }],
            right: &["list=$(mktemp)\nsort quays > \"$list\"\n"],
        },
    ],
    needs_names: true,
    check: Check::Named(&[Kind::Call, Kind::Redirection], MAKERS, check),
};

const MAKERS: &[&str] = &["tempfile.mktemp"];

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    if file.is_test() {
        return;
    }
    if node.kind() == Kind::Redirection {
        let Some(target) = node.child(Role::Target) else { return };
        let text = file.node_text(target).trim_matches('"');
        let is_shared = text.starts_with("/tmp/") || text.starts_with("/var/tmp/");
        if is_shared && (text.ends_with("$$") || text.contains("$$.")) && file.node_text(node).contains('>') {
            context
                .report(target.span(), "others can know this name before the file is created")
                .advice("create the file with mktemp");
        }
        return;
    }
    let Some(callee) = node.child(Role::Callee) else { return };
    if file.refers_to(callee, MAKERS).is_some() {
        context
            .report(node.span(), "the name is known before the file is created")
            .advice("use tempfile.mkstemp or NamedTemporaryFile, which create it at once");
    }
}
