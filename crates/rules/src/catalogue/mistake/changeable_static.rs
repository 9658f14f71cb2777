use sieve_meaning::declared::visibility;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::modifier::has_word_before;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "changeable-static",
    concern: Concern::Mistake,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Java, Language::CSharp],
    fix: None,
    what: "a field of a type that code elsewhere may change",
    why: "It is there once for the whole program, and whoever changes it changes it for all, at any time and from any thread.",
    silent: "For fields that are neither `public` nor `protected`, for those of which each thread has its own, and in tests.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "public class Quay {\n    public static int depth = 3;\n    protected static String[] boats, crews;\n}\n",
                at: &["2:23", "3:31", "3:38"],
                fixed: None,
            }],
            right: &[
                "public class Quay {\n    public static final int DEPTH = 3;\n    private static int berths = 2;\n    static int moored;\n    public int tide;\n\n    public static int depth() {\n        return DEPTH;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "public class Quay {\n    public static int Depth = 3;\n}\n",
                at: &["2:23"],
                fixed: None,
            }],
            right: &[
                "public class Quay {\n    public static readonly int Depth = 3;\n    public const int Berths = 2;\n    internal static int moored;\n    [ThreadStatic]\n    public static int tide;\n\n    public static int Low { get; private set; }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Field], check),
};

fn check(context: &mut Context, field: NodeRef) {
    let file = context.file();
    let says = |word: &str| has_word_before(file, field, word);
    let is_fixed = || ["final", "readonly", "const"].into_iter().any(says);
    if file.is_test() || !says("static") || is_fixed() || is_of_thread(file, field) {
        return;
    }
    if !matches!(visibility(file.text, field), Some("public" | "protected" | "protected internal")) {
        return;
    }
    for item in field.children_in(Role::Item) {
        let name = item.child(Role::Target).unwrap_or(item);
        let text = file.node_text(name);
        context
            .report(name.span(), format!("code elsewhere may change \"{text}\" for the whole program"))
            .advice("keep it from being assigned again, or let a method of the type change it");
    }
}

/// Whether each thread has one of its own.
fn is_of_thread(file: File<'_>, field: NodeRef) -> bool {
    field.children_in(Role::Decorator).any(|attribute| file.node_text(attribute).contains("ThreadStatic"))
}
