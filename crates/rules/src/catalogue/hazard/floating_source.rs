use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::blocks::{is_top, plain, value};
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "floating-source",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl],
    fix: None,
    what: "a module that is taken from a repository of others at no fixed commit or tag",
    why: "It can change at any time: then the same files plan something else, and anyone who can push there can change what is built here.",
    silent: "Where the source is not written as a plain string. A name with digits in it, such as `v1.2`, counts as fixed.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[
            Wrong {
                code: "module \"quay\" {\n  source = \"git::https://saltmarsh.example/quay.git\"\n}\n",
                at: &["2:12"],
                fixed: None,
            },
            Wrong {
                code: "module \"quay\" {\n  source = \"git::https://saltmarsh.example/quay.git//deep?ref=main\"\n}\n",
                at: &["2:12"],
                fixed: None,
            },
            Wrong {
                code: "module \"quay\" {\n  source = \"git@saltmarsh.example:harbour/quay.git\"\n}\n",
                at: &["2:12"],
                fixed: None,
            },
        ],
        right: &[
            "module \"quay\" {\n  source = \"git::https://saltmarsh.example/quay.git?ref=v1.2.0\"\n}\n",
            "module \"quay\" {\n  source = \"../quay\"\n}\n\nmodule \"tide\" {\n  source  = \"harbour/tide/pier\"\n  version = \"1.2.0\"\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::ConfigBlock], check),
};

fn check(context: &mut Context, block: NodeRef) {
    let file = context.file();
    if !is_top(file, block, &["module"]) {
        return;
    }
    let Some(source) = value(file, block, "source") else { return };
    let Some(address) = plain(file, source).filter(|address| is_repository(address)) else { return };
    let query = address.split_once('?').map_or("", |(_, query)| query);
    let named = query.split('&').find_map(|part| part.strip_prefix("ref=").or_else(|| part.strip_prefix("rev=")));
    let message = match named.filter(|name| !name.is_empty()) {
        None => "this source is whatever its repository holds at the time".to_string(),
        Some(name) if MOVING.contains(&name) => format!("this source is whatever \"{name}\" is at the time"),
        Some(_) => return,
    };
    context.report(source.span(), message).advice("name a tag or a commit: ?ref=v1.2.0");
}

/// Names that everywhere are branches.
const MOVING: [&str; 7] = ["main", "master", "develop", "trunk", "dev", "default", "HEAD"];

/// Whether a source is a repository of a version control system.
fn is_repository(address: &str) -> bool {
    let has_scheme = ["git::", "hg::", "git@", "ssh://"].iter().any(|scheme| address.starts_with(scheme));
    let is_archive = [".zip", ".tar.gz", ".tgz"].iter().any(|ending| address.contains(ending));
    (has_scheme || address.contains(".git?") || address.ends_with(".git")) && !is_archive
}
