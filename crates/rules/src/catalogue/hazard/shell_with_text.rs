use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::built::{first_argument, is_built, named_argument};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "shell-with-text",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a shell command built from strings",
    why: "A quay called `north; rm -r ~` is a command too. Programs take their arguments one by one, without a shell.",
    silent: "In tests. For string literals and strings that come from elsewhere, and for parts that are quoted (`shlex.quote`).",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "import os\nos.system(f\"print {name}\")\n", at: &["2:1"], fixed: None },
                Wrong {
                    code: "import subprocess\nsubprocess.run(\"print \" + name, shell=True)\n",
                    at: &["2:1"],
                    fixed: None,
                },
            ],
            right: &[
                "import subprocess\nsubprocess.run([\"print\", name])\nsubprocess.run(\"print fares\", shell=True)\n",
                "import os, shlex\nos.system(f\"print {shlex.quote(name)}\")\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "import { exec } from \"node:child_process\";\nexec(`print ${name}`);\n",
                at: &["2:1"],
                fixed: None,
            }],
            right: &["import { execFile } from \"node:child_process\";\nexecFile(\"print\", [name]);\n"],
        },
    ],
    needs_names: true,
    check: Check::Named(&[Kind::Call], STARTS, check),
};

/// What starts programs.
const STARTS: &[&str] = &[
    "os.system",
    "os.popen",
    "subprocess.getoutput",
    "subprocess.getstatusoutput",
    "child_process.exec",
    "child_process.execSync",
    "subprocess.run",
    "subprocess.call",
    "subprocess.check_call",
    "subprocess.check_output",
    "subprocess.Popen",
];

/// Those of them that start a shell only on request.
const WITH_SHELL: &[&str] =
    &["subprocess.run", "subprocess.call", "subprocess.check_call", "subprocess.check_output", "subprocess.Popen"];

fn check(context: &mut Context, call: NodeRef) {
    let file = context.file();
    if file.is_test() {
        return;
    }
    let Some(text) = first_argument(call).filter(|text| is_built(file, *text)) else { return };
    let Some(name) = call.child(Role::Callee).and_then(|callee| file.refers(callee)) else { return };
    let shell = || named_argument(file, call, "shell").is_some_and(|value| file.node_text(value) == "True");
    let starts_shell = STARTS.contains(&&*name) && (!WITH_SHELL.contains(&&*name) || shell());
    if starts_shell && !file.node_text(text).contains("quote(") {
        context
            .report(call.span(), "a shell command is built from strings")
            .advice("pass the arguments as a list, without a shell");
    }
}
