use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::blocks::{entries, is_top, plain, type_of, value};
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unpinned-version",
    concern: Concern::Hazard,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl],
    fix: None,
    what: "a provider, or a module of a registry, for which no version is asked",
    why: "The newest one is taken, whatever it is at the time: the same files plan something else tomorrow.",
    silent: "Where the source is not written as a plain string. A file that locks versions may fix those of providers.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[
            Wrong { code: "module \"tide\" {\n  source = \"harbour/tide/pier\"\n}\n", at: &["1:8"], fixed: None },
            Wrong {
                code: "terraform {\n  required_providers {\n    pier = {\n      source = \"harbour/pier\"\n    }\n  }\n}\n",
                at: &["3:5"],
                fixed: None,
            },
        ],
        right: &[
            "module \"tide\" {\n  source  = \"harbour/tide/pier\"\n  version = \"~> 1.2\"\n}\n\nterraform {\n  required_providers {\n    pier = {\n      source  = \"harbour/pier\"\n      version = \"~> 2.0\"\n    }\n    tide = \"~> 1.0\"\n  }\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::ConfigBlock], check),
};

fn check(context: &mut Context, block: NodeRef) {
    let file = context.file();
    if is_top(file, block, &["module"]) {
        let source = value(file, block, "source").and_then(|source| plain(file, source));
        let is_open = source.is_some_and(|source| is_of_registry(&source)) && value(file, block, "version").is_none();
        if let Some(label) = block.child(Role::Label).filter(|_| is_open) {
            context.report(label.span(), "no version of this module is asked for").advice("say which: version = …");
        }
        return;
    }
    if type_of(file, block) != "required_providers" {
        return;
    }
    for entry in entries(block).filter(|entry| entry.kind() == Kind::Assignment) {
        let object = entry.child(Role::Value).filter(|value| value.kind() == Kind::Dictionary);
        let (Some(object), Some(name)) = (object, entry.child(Role::Target)) else { continue };
        let mut keys = object.children().filter_map(|pair| pair.child(Role::Key));
        if !keys.any(|key| file.node_text(key).trim_matches('"') == "version") {
            context.report(name.span(), "no version of this provider is asked for").advice("say which: version = …");
        }
    }
}

/// Whether a source is a module of a registry: `NAMESPACE/NAME/PROVIDER`, perhaps behind a host.
fn is_of_registry(source: &str) -> bool {
    let path = source.split("//").next().unwrap_or(source);
    let parts: Vec<&str> = path.split('/').collect();
    let is_word = |part: &&str| {
        !part.is_empty() && part.chars().all(|letter| letter.is_ascii_alphanumeric() || matches!(letter, '-' | '_'))
    };
    match &parts[..] {
        [host, rest @ ..] if rest.len() == 3 => host.contains('.') && rest.iter().all(is_word),
        [_, _, _] => parts.iter().all(is_word),
        _ => false,
    }
}
