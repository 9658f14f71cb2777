use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::expects_error;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "library-call",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a call of a builtin with a number of arguments that it does not take",
    why: "The call fails with a TypeError.",
    silent: "For arguments that are spread out, and in tests that expect the error.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "len(boats, quay)\n", at: &["1:1"], fixed: None },
            Wrong { code: "isinstance(boat)\n", at: &["1:1"], fixed: None },
            Wrong { code: "range()\n", at: &["1:1"], fixed: None },
        ],
        right: &[
            "len(boats)\nlen(*boats)\nisinstance(boat, str)\nrange(1, 2, 3)\n",
            "def len(a, b):\n    return a\n\n\nlen(1, 2)\n",
        ],
    }],
    needs_names: true,
    check: Check::Named(&[Kind::Call], &NAMES, check),
};

/// How many arguments by position builtins take: the least and the most ("Built-in Functions", The Python Standard Library 3.14).
const TAKE: &[(&str, usize, usize)] = &[
    ("abs", 1, 1),
    ("all", 1, 1),
    ("any", 1, 1),
    ("ascii", 1, 1),
    ("bin", 1, 1),
    ("bool", 0, 1),
    ("callable", 1, 1),
    ("chr", 1, 1),
    ("delattr", 2, 2),
    ("divmod", 2, 2),
    ("float", 0, 1),
    ("format", 1, 2),
    ("frozenset", 0, 1),
    ("getattr", 2, 3),
    ("globals", 0, 0),
    ("hasattr", 2, 2),
    ("hash", 1, 1),
    ("hex", 1, 1),
    ("id", 1, 1),
    ("input", 0, 1),
    ("int", 0, 2),
    ("isinstance", 2, 2),
    ("issubclass", 2, 2),
    ("iter", 1, 2),
    ("len", 1, 1),
    ("list", 0, 1),
    ("locals", 0, 0),
    ("next", 1, 2),
    ("oct", 1, 1),
    ("ord", 1, 1),
    ("range", 1, 3),
    ("repr", 1, 1),
    ("reversed", 1, 1),
    ("round", 1, 2),
    ("set", 0, 1),
    ("setattr", 3, 3),
    ("slice", 1, 3),
    ("sorted", 1, 1),
    ("sum", 1, 2),
    ("tuple", 0, 1),
    ("vars", 0, 1),
    ("enumerate", 1, 2),
];

const NAMES: [&str; TAKE.len()] = {
    let mut names = [""; TAKE.len()];
    let mut at = 0;
    while at < names.len() {
        names[at] = TAKE[at].0;
        at += 1;
    }
    names
};

fn check(context: &mut Context, call: NodeRef) {
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name) else { return };
    let name = context.text(callee);
    let Some((_, least, most)) = TAKE.iter().find(|(known, ..)| *known == name) else { return };
    let Some(arguments) = call.child(Role::Arguments).filter(|_| context.names().is_builtin_at(callee.id())) else {
        return;
    };
    let mut given = 0;
    let mut by_name = false;
    for argument in arguments.children() {
        match argument.kind() {
            Kind::Spread => return,
            Kind::KeywordArgument => {
                by_name = true;
            }
            _ => given += 1,
        }
    }
    let fits = given <= *most && (given >= *least || by_name);
    if !fits && !expects_error(context.file(), call) {
        let of = |count: usize| if count == 1 { "1 argument".to_string() } else { format!("{count} arguments") };
        let takes = if least == most { of(*least) } else { format!("{least} to {}", of(*most)) };
        context
            .report(call.span(), format!("{name} takes {takes}, but is given {given}"))
            .unless_provided(name)
            .advice("correct the arguments");
    }
}
