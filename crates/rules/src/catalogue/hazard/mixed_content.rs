use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "mixed-content",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "a script, style sheet or frame that is loaded over a connection that anybody can change",
    why: "Whoever is between can put in what they like. In a page that is loaded safely, browsers leave it out.",
    silent: "For addresses of the own machine, and where the address is filled in.",
    standards: &["Mixed Content Level 2"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong {
                code: "<script src=\"http://cdn.saltmarsh.example/board.js\"></script>\n",
                at: &["1:9"],
                fixed: None,
            },
            Wrong {
                code: "<link rel=\"stylesheet\" href=\"http://cdn.saltmarsh.example/a.css\">\n",
                at: &["1:24"],
                fixed: None,
            },
        ],
        right: &[
            "<script src=\"https://cdn.saltmarsh.example/board.js\"></script><script src=\"/a.js\"></script>\n",
            "<a href=\"http://saltmarsh.example/\">Old page</a><script src=\"http://localhost:80/a.js\"></script>\n<link rel=\"canonical\" href=\"http://saltmarsh.example/\">\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], check),
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::of(context.file(), element) else { return };
    let name = match &*tag.name {
        "script" | "iframe" | "embed" => "src",
        "link" if tag.value("rel").text().is_some_and(loads) => "href",
        "object" => "data",
        _ => return,
    };
    let (Value::Text(address), Some(attribute)) = (tag.value(name), tag.attribute(name)) else { return };
    let Some(host) = address.trim().strip_prefix("http://") else { return };
    let is_own = ["localhost", "127.0.0.1", "[::1]", "0.0.0.0"].iter().any(|own| host.starts_with(own));
    if !is_own && !host.is_empty() {
        context
            .report(attribute.span(), "this is loaded over a connection that anybody can change")
            .advice("load it over https, or from the own server");
    }
}

/// Whether the relation of a link is one whose target the browser runs or applies.
fn loads(relation: &str) -> bool {
    relation.split_whitespace().any(|word| {
        ["stylesheet", "preload", "modulepreload", "import"].iter().any(|one| word.eq_ignore_ascii_case(one))
    })
}
