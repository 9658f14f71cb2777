use sieve_meaning::library_members;
use sieve_meaning::names::{DeclarationKind, Resolution};
use sieve_meaning::refers::ExternalPath;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::handles_failed_import;
use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-member",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a member that a module does not have",
    why: "Using it fails when the line is reached: the name is misspelt, was renamed, or is elsewhere.",
    silent: "For modules whose content is not known, and for members that another file gives to a module. Of the modules that come with the language only slips of a letter or two are reported: other names may belong to other versions.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "# board.py\nimport os\n\nos.path.exits(\"tide\")\n", at: &["4:9"], fixed: None },
                Wrong { code: "# board.py\nfrom collections import defaultdct\n", at: &["2:25"], fixed: None },
                Wrong {
                    code: "# tides.py\ndef low():\n    return 1\n\n# board.py\nimport tides\n\ntides.lowest()\n",
                    at: &["8:7"],
                    fixed: None,
                },
            ],
            right: &[
                "# board.py\nimport os\n\nos.path.exists(\"tide\")\nos.getcwd()\nos.sails\n",
                "# tides.py\ndef low():\n    return 1\n\n# board.py\nimport tides\n\ntides.low()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "// tides.js\nexport const low = 1;\n\n// board.js\nimport * as tides from './tides';\n\ntides.lowest();\n",
                at: &["7:7"],
                fixed: None,
            }],
            right: &[
                "// tides.js\nexport const low = 1;\n\n// board.js\nimport * as tides from './tides';\n\ntides.low();\n",
                "// board.js\nimport * as http from 'http';\n\nsail(http.Server);\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Joined(&[Kind::Member, Kind::ImportItem], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let Some(name) = node.child(Role::Name).filter(|_| !file.only_describes()) else { return };
    let text = file.node_text(name);
    if text.starts_with('_') || node.role() == Role::Target {
        return;
    }
    if node.kind() == Kind::ImportItem {
        let module =
            node.parent().and_then(|import| import.child_at_end(Role::Module)).map(|module| file.node_text(module));
        let near = module.and_then(|module| near_member(file.language, module, text));
        if let (Some(module), Some(near)) = (module, near)
            && !node.parent().is_some_and(|import| handles_failed_import(file, import))
        {
            report(context, name, module, Some(near));
        }
        return;
    }
    let Some(object) = node.child(Role::Object) else { return };
    if !begins_with_module(context, object) {
        return;
    }
    let Some(found) = file.outside(node) else { return };
    let inner = found.path.len().saturating_sub(1);
    let module = ExternalPath { module: found.module.clone(), path: found.path[..inner].to_vec() }.dotted();
    let near = near_member(file.language, &module, text);
    if near.is_some() && !is_tried(file, node, text) {
        report(context, name, &module, near);
    } else if let ([only], Some(calls)) = (found.path.as_slice(), file.calls)
        && *only == text
        && near.is_none()
        && calls.lacks(&found.module, text)
        && !is_tried(file, node, text)
        // A module of the other sort would be the default itself.
        && (file.traits.dotted_modules || calls.lacks(&found.module, "default"))
    {
        report(context, name, &found.module, None);
    }
}

fn report(context: &mut Context, name: NodeRef, module: &str, near: Option<&str>) {
    let text = context.text(name).to_string();
    let reported = context.report(name.span(), format!("{module} has no \"{text}\""));
    match near {
        Some(near) => reported.advice(format!("perhaps \"{near}\" is meant")),
        None => reported
            .advice("correct the name, or use it from where it is now")
            // Another file may give it to the module.
            .unless_given(Some(&text)),
    };
}

/// Members of modules have shorter paths.
const DEEPEST: usize = 17;

/// Whether the first name of a path is bound by nothing but imports.
fn begins_with_module(context: &Context, object: NodeRef) -> bool {
    let parts = std::iter::successors(Some(object), |part| part.child_of(Kind::Member, Role::Object));
    let Some(first) = parts.take(DEEPEST).last().filter(|first| first.kind() == Kind::Name) else { return false };
    let names = context.names();
    let Some(Resolution::Binding(id)) = names.resolution_at(first.id()) else { return false };
    names.binding(id).declarations.iter().all(|one| one.kind == DeclarationKind::Import)
}

/// The member of a module of the library that a name is a slip of; nothing if the name may be right.
fn near_member(language: Language, module: &str, name: &str) -> Option<&'static str> {
    let members = library_members(language, module)?;
    // Constants in capitals come with some systems and not with others.
    if members.binary_search(&name).is_ok() || !name.contains(|letter: char| letter.is_ascii_lowercase()) {
        return None;
    }
    members.iter().find(|member| is_slip(member, name)).copied()
}

/// Whether a name differs from a member by the case of a letter or by a slip of the fingers. Names that differ by a number or an
/// ending are names of other versions.
fn is_slip(member: &str, name: &str) -> bool {
    let allowed = if name.len() > 8 { 2 } else { 1 };
    let has_digits = member.bytes().chain(name.bytes()).any(|byte| byte.is_ascii_digit());
    member.eq_ignore_ascii_case(name)
        || member.len() > 2
            && name.len() > 2
            && !has_digits
            && member.len().abs_diff(name.len()) <= allowed
            && !(member.starts_with(name) || name.starts_with(member))
            && strsim::damerau_levenshtein(member, name) <= allowed
}

/// Whether the code asks for the name first, or handles that it is not there.
fn is_tried(file: File<'_>, node: NodeRef, name: &str) -> bool {
    let handles = node.ancestors().any(|around| {
        around.kind() == Kind::Try || around.kind() == Kind::With && file.node_text(around).contains("raises")
    });
    let asks = format!("\"{name}\"");
    let source = file.text.source();
    handles || source.contains(&asks) || source.contains(&format!("'{name}'"))
}
