use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unused-anchor",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Yaml],
    fix: Some(FixKind::Exact),
    what: "an anchor that no alias of its document stands for",
    why: "An anchor says that the value is used elsewhere. Readers look for the alias, and change the value with more care than it needs.",
    silent: "Nowhere: aliases hold in their own document alone.",
    standards: &["YAML 1.2.2, section 6.9.2"],
    options: &[],
    examples: &[Examples {
        language: Language::Yaml,
        wrong: &[
            Wrong { code: "north: &depth 3\nsouth: 4\n", at: &["1:8"], fixed: Some("north: 3\nsouth: 4\n") },
            Wrong { code: "quay: &quay\n  depth: 3\n", at: &["1:7"], fixed: Some("quay:\n  depth: 3\n") },
            Wrong { code: "- &low\n- [&high !!int 3, 4]\n", at: &["1:3", "2:4"], fixed: Some("-\n- [!!int 3, 4]\n") },
        ],
        right: &["north: &depth 3\nsouth: *depth\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Anchor], check),
};

fn check(context: &mut Context, anchor: NodeRef) {
    let file = context.file();
    let Some(data) = file.values() else { return };
    let is_used = data.anchor(anchor.id()).is_none_or(|known| known.aliases > 0);
    if is_used || !file.tree.faults().is_empty() {
        return;
    }
    let name = &file.node_text(anchor)[1..];
    let whole = with_blanks(file.text.source(), anchor.span());
    let reported = context.report(anchor.span(), format!("no alias stands for \"{name}\"")).advice("remove the anchor");
    // Between commas and brackets an empty value is there by its anchor alone.
    let behind = file.text.source().as_bytes().get(whole.end as usize);
    if !matches!(behind, Some(b',' | b']' | b'}' | b':')) {
        reported.fix(vec![Edit::remove(whole)]);
    }
}

/// The anchor with the whitespace that separates it: behind it, or before it where it ends its line.
fn with_blanks(source: &str, anchor: Span) -> Span {
    let bytes = source.as_bytes();
    let is_blank = |byte: &&u8| matches!(byte, b' ' | b'\t');
    let behind = bytes[anchor.end as usize..].iter().take_while(is_blank).count() as u32;
    let ends_line = bytes.get((anchor.end + behind) as usize).is_none_or(|byte| matches!(byte, b'\n' | b'\r' | b'#'));
    if !ends_line {
        return Span::new(anchor.start, anchor.end + behind);
    }
    let before = bytes[..anchor.start as usize].iter().rev().take_while(is_blank).count() as u32;
    Span::new(anchor.start - before, anchor.end)
}
