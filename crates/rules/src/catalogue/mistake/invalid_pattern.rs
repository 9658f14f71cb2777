use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::expects_error;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::pattern::pattern_problem;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "invalid-pattern",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a regular expression that cannot be compiled",
    why: "The program fails when it reaches the line.",
    silent: "For patterns that are not written out, and in tests that expect the error.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "import re\n\nre.compile(r\"(north|south\")\n", at: &["3:12"], fixed: None },
                Wrong { code: "import re\n\nre.match(\"*tide\", text)\n", at: &["3:10"], fixed: None },
                Wrong { code: "import re\n\nre.compile(\"[a-\")\n", at: &["3:12"], fixed: None },
            ],
            right: &[
                "import re\n\nre.compile(r\"(north|south)[a-z]*\\(\")\nre.compile(r\"[]a]+(?P<name>x)(?i:y)\")\nre.compile(pattern)\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "new RegExp('(north|south');\n", at: &["1:12"], fixed: None },
                Wrong { code: "new RegExp('north', 'x');\n", at: &["1:21"], fixed: None },
            ],
            right: &["new RegExp('(north|south)', 'gi');\n", "new RegExp(pattern, flags);\n"],
        },
    ],
    needs_names: true,
    check: Check::Named(&[Kind::Call, Kind::New], TAKE, check),
};

/// Functions whose first argument is a pattern.
const TAKE: &[&str] = &[
    "re.compile",
    "re.match",
    "re.search",
    "re.fullmatch",
    "re.split",
    "re.findall",
    "re.finditer",
    "re.sub",
    "re.subn",
    "RegExp",
];

fn check(context: &mut Context, call: NodeRef) {
    let file = context.file();
    let Some(callee) = call.child(Role::Callee) else { return };
    let Some(arguments) = call.child(Role::Arguments) else { return };
    let mut given = arguments.children();
    let Some(pattern) = given.next().filter(|first| first.kind() == Kind::String) else { return };
    if file.is_test() || file.refers_to(callee, TAKE).is_none() || expects_error(file, call) {
        return;
    }
    let Some(text) = file.language.string_value(file.node_text(pattern)) else { return };
    // A pattern over several lines holds comments most likely.
    if text.contains('\n') {
        return;
    }
    if let Some(problem) = pattern_problem(&text) {
        context
            .report(pattern.span(), format!("this pattern cannot be compiled: {problem}"))
            .advice("correct the pattern, or escape the sign");
        return;
    }
    let flags = given.next().filter(|flags| flags.kind() == Kind::String && !file.traits.word_operators);
    let Some(flags) = flags else { return };
    let Some(letters) = file.language.string_value(file.node_text(flags)) else { return };
    let odd = letters
        .chars()
        .enumerate()
        .find(|(at, letter)| !"dgimsuvy".contains(*letter) || letters[..*at].contains(*letter));
    if let Some((_, letter)) = odd.filter(|_| letters.is_ascii()) {
        context
            .report(flags.span(), format!("\"{letter}\" is no flag here"))
            .advice("use each of d, g, i, m, s, u, v and y at most once");
    }
}
