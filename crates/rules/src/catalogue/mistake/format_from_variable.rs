use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Holds, Level, Mesh, Rule, Wrong};
use crate::shell::arguments;
use crate::shell_values::shell_values;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "format-from-variable",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: None,
    what: "a value as the format of `printf`",
    why: "A percent sign or a backslash in the value changes what is printed, and may make the command fail.",
    silent: "For values that cannot hold either by all that the script assigns to them, and for formats that are made on purpose.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\nprintf \"$1\"\n", at: &["2:8"], fixed: None },
            Wrong { code: "#!/bin/bash\nread -r tide\nprintf \"tide: $tide\\n\"\n", at: &["3:8"], fixed: None },
        ],
        right: &[
            "#!/bin/bash\nprintf '%s' \"$1\"\n",
            "#!/bin/bash\nred=$(tput setaf 1)\nprintf \"$red low\"\n",
            "#!/bin/bash\nformat=\"%s\"\nprintf \"$format\" \"$1\"\n",
            "#!/bin/bash\nget=$(tool)\nprintf \"$get > tides\" \"$1\"\n",
            "#!/bin/bash\nprintf -v \"$1\" \"%s\" low\n",
        ],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Command], &["printf"], check),
};

fn check(context: &mut Context, command: NodeRef) {
    let file = context.file();
    let words: Vec<NodeRef> = arguments(command).collect();
    let at = if words.first().is_some_and(|first| file.node_text(*first) == "-v") { 2 } else { 0 };
    let format = words.get(at).filter(|_| words.iter().all(|word| file.node_text(*word) != "--"));
    let expands = |format: &&NodeRef| format.descendants().any(|part| part.kind() == Kind::Expansion);
    let Some(format) = format.filter(expands) else { return };
    let may_be_any = |part: &NodeRef| {
        let is_asked = part.kind() == Kind::Expansion && !is_escaped(file, *part) && file.node_text(*part) != "$0";
        is_asked && shell_values(file).of_part(file, *part) == Holds::Anything
    };
    // A variable that is a format is one, and so is what holds the signs for the values behind it.
    let text = file.node_text(*format);
    let is_format =
        words.len() > at + 1 && (!text.contains('%') || text.matches('$').count() == 1 && !text.contains(' '));
    if let Some(part) = format.descendants().find(may_be_any).filter(|_| !is_format) {
        context
            .report(format.span(), format!("\"{}\" is read as part of the format", file.node_text(part)))
            .advice("print it with `%s`");
    }
}

/// Whether the digits of an escape come from the value: `\\x$code`.
fn is_escaped(file: File<'_>, part: NodeRef) -> bool {
    let before = &file.text.source()[..part.span().start as usize];
    before.ends_with('\\') || before.ends_with("\\x") || before.ends_with("\\u")
}
