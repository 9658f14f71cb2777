use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::style::Declaration;
use crate::style::value::is_hex_colour;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "bad-colour",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a colour by numbers that is none",
    why: "Browsers leave the declaration out without a word.",
    silent: "In custom properties, in filters of old browsers, and outside of declarations.",
    standards: &["CSS Color Module Level 4, section 5.2"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[
            Wrong { code: ".quay { color: #ff }\n", at: &["1:16"], fixed: None },
            Wrong { code: ".quay { border: 1px solid #12345g }\n", at: &["1:27"], fixed: None },
        ],
        right: &[".quay { color: #fff; background: #12345678; --x: #quay }\n", "#ff { color: #FFFFFF }\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::HashValue], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let digits = &file.node_text(node)[1..];
    if is_hex_colour(digits) || digits.contains('\\') {
        return;
    }
    let Some(declaration) = node.ancestors().find_map(|around| Declaration::of(file, around)) else { return };
    if declaration.is_custom() || declaration.property.ends_with("filter") || declaration.property == "behavior" {
        return;
    }
    context
        .report(node.span(), format!("#{digits} is no colour"))
        .advice("a colour has three, four, six or eight hexadecimal digits");
}
