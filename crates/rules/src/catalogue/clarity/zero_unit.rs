use sieve_syntax::css::dimension;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};
use crate::style::Declaration;
use crate::style::value::is_length;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "zero-unit",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: Some(FixKind::Exact),
    what: "a zero with the unit of a length",
    why: "No length is as long as any other. The unit says nothing, and half of the zeros in a sheet have it and half have not.",
    silent: "In functions, where a zero without a unit is no length, in custom properties, and where a number means something else than a length.",
    standards: &["CSS Values and Units Module Level 4, section 6"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[Wrong {
            code: ".quay { margin: 0px auto 0em }\n",
            at: &["1:17", "1:26"],
            fixed: Some(".quay { margin: 0 auto 0 }\n"),
        }],
        right: &[
            ".quay { margin: 0 10px; width: calc(0px + 1em); --gap: 0px; flex: 1 1 0px; transition: 0s; line-height: 0px }\n",
            "@media (min-width: 0px) { a { margin: 0 } }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Dimension], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let Some((number, unit)) = dimension(file.node_text(node)) else { return };
    let is_zero = !number.is_empty() && number.bytes().all(|byte| matches!(byte, b'0' | b'.' | b'+' | b'-'));
    let value = node.parent().filter(|value| value.kind() == Kind::StyleValue);
    let Some(declaration) = value.and_then(|value| Declaration::of(file, value.parent()?)) else { return };
    // There, a number without a unit is no length.
    let takes_numbers = matches!(
        &*declaration.property,
        "flex" | "line-height" | "tab-size" | "zoom" | "border-image" | "mask-border" | "initial-value"
    ) || declaration.property.contains("flex")
        || declaration.property.ends_with("-outset")
        || declaration.property.ends_with("-width") && declaration.property.contains("image");
    if !is_zero || !is_length(unit) || takes_numbers || declaration.is_custom() {
        return;
    }
    let unit = Span::new(node.span().end - unit.len() as u32, node.span().end);
    context.report(node.span(), "a zero needs no unit").advice("write 0").fix(vec![Edit::remove(unit)]);
}
