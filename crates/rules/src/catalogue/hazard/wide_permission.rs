use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::blocks::{plain, value};
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::shell::arguments;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "wide-permission",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Shell,
        Language::Hcl,
    ],
    fix: None,
    what: "a file or folder that everybody may write to",
    why: "Every program and every user of the machine can put something else in its place.",
    silent: "In tests. Where the permission is computed, and for folders with the sticky bit (`1777`).",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "import os\nos.chmod('tides', 0o777)\n", at: &["2:19"], fixed: None }],
            right: &["import os\nos.chmod('tides', 0o644)\nos.chmod('spool', 0o1777)\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "import fs from \"fs\";\nfs.chmodSync(\"tides\", 0o666);\n",
                at: &["2:23"],
                fixed: None,
            }],
            right: &["import fs from \"fs\";\nfs.chmodSync(\"tides\", 0o640);\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[
                Wrong { code: "chmod -R 777 tides\n", at: &["1:10"], fixed: None },
                Wrong { code: "chmod a+w tides\n", at: &["1:7"], fixed: None },
            ],
            right: &["chmod 644 tides\nchmod +x sail\nchmod u+w tides\nchmod 1777 spool\n"],
        },
        Examples {
            language: Language::Hcl,
            wrong: &[Wrong { code: "file {\n  file_permission = \"0777\"\n}\n", at: &["2:21"], fixed: None }],
            right: &["file {\n  file_permission = \"0640\"\n  code = \"0777\"\n}\n"],
        },
    ],
    needs_names: false,
    check: Check::Named(&[Kind::Call, Kind::Command, Kind::ConfigBlock], CHANGERS, check),
};

/// What changes who may do what with a file.
const CHANGERS: &[&str] = &["chmod", "chmodSync", "fchmod", "lchmod"];

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    if file.is_test() {
        return;
    }
    let mode = match node.kind() {
        Kind::Command => of_command(file, node),
        Kind::ConfigBlock => of_block(file, node),
        _ => of_call(file, node),
    };
    if let Some(mode) = mode {
        context.report(mode.span(), "everybody may write to it").advice("let its owner write, and a group if needed");
    }
}

fn of_command<'t>(file: File<'_>, command: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let mode = arguments(command).find(|argument| !file.node_text(*argument).starts_with('-'))?;
    let text = file.node_text(mode);
    let in_letters = text.split(',').any(|part| {
        part.split_once(['+', '=']).is_some_and(|(who, what)| {
            (who.contains('o') || who.contains('a')) && what.contains('w') && !what.contains('t')
        })
    });
    let octal = || u32::from_str_radix(text, 8).ok();
    (in_letters || octal().is_some_and(is_wide)).then_some(mode)
}

fn of_call<'t>(file: File<'t>, call: NodeRef<'t>) -> Option<NodeRef<'t>> {
    call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member)?;
    let mode = call.child(Role::Arguments)?.children().find(|argument| argument.kind() == Kind::Number)?;
    let digits = file.node_text(mode).strip_prefix("0o").or_else(|| file.node_text(mode).strip_prefix("0O"))?;
    u32::from_str_radix(digits, 8).is_ok_and(is_wide).then_some(mode)
}

/// What a file or a folder that a block makes lets others do.
fn of_block<'t>(file: File<'_>, block: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let modes = ["file_permission", "directory_permission", "permissions", "mode"];
    let mode = modes.iter().find_map(|name| value(file, block, name))?;
    let text = plain(file, mode)?;
    let is_mode = matches!(text.len(), 3 | 4) && text.bytes().all(|digit| matches!(digit, b'0'..=b'7'));
    (is_mode && u32::from_str_radix(&text, 8).is_ok_and(is_wide)).then_some(mode)
}

/// Everybody may write, and not each only to what is his own.
fn is_wide(mode: u32) -> bool {
    mode & 0o002 != 0 && mode & 0o1000 == 0
}
