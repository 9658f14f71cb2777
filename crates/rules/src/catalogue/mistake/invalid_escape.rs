use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::Edit;
use crate::interface::{Certainty, Check, Concern, Context, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "invalid-escape",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: Some(FixKind::Exact),
    what: "a backslash before a character that it does not change",
    why: "Python keeps the backslash today and warns; a later version will refuse it. Mostly a string without escapes was meant.",
    silent: "For strings with a mark that keeps backslashes, and where the string is a docstring.",
    standards: &["The Python Language Reference 3.14, section 2.4.1"],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "pattern = \"\\d+\"\n", at: &["1:12"], fixed: Some("pattern = r\"\\d+\"\n") },
            Wrong { code: "pattern = \"\\d\\n\"\n", at: &["1:12"], fixed: Some("pattern = \"\\\\d\\n\"\n") },
        ],
        right: &[
            "pattern = r\"\\d+\"\ntext = \"\\n\\t\\\\ \\x41 \\u0041 \\N{BULLET}\"\n",
            "def tide():\n    \"\"\"A \\d in words.\"\"\"\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::String, Kind::Bytes], check),
};

fn check(context: &mut Context, string: NodeRef) {
    let file = context.file();
    let text = file.node_text(string);
    // Most strings have none.
    if !text.contains('\\') || is_doc(string) {
        return;
    }
    let quote = text.find(['"', '\'']).unwrap_or_default();
    let prefix = &text[..quote];
    if prefix.contains(['r', 'R']) {
        return;
    }
    let is_bytes = prefix.contains(['b', 'B']);
    let mut invalid = Vec::new();
    let mut has_valid = false;
    let bytes = text.as_bytes();
    let mut at = quote;
    while at + 1 < bytes.len() {
        if bytes[at] != b'\\' {
            at += 1;
            continue;
        }
        let is_valid = match bytes[at + 1] {
            b'\n'
            | b'\r'
            | b'\\'
            | b'\''
            | b'"'
            | b'a'
            | b'b'
            | b'f'
            | b'n'
            | b'r'
            | b't'
            | b'v'
            | b'x'
            | b'0'..=b'7' => true,
            b'N' | b'u' | b'U' => !is_bytes,
            _ => false,
        };
        if is_valid {
            has_valid = true;
        } else {
            invalid.push(string.span().start + at as u32);
        }
        at += 2;
    }
    let Some(first) = invalid.first().copied() else { return };
    // Without other escapes the mark keeps every character.
    let edits = if has_valid || prefix.contains(['u', 'U']) {
        invalid.iter().map(|at| Edit::insert(*at, "\\")).collect()
    } else {
        vec![Edit::insert(string.span().start, "r")]
    };
    let shown: String = file.text.source()[first as usize..].chars().take(2).collect();
    let end = first + shown.len() as u32;
    context
        .report(Span::new(first, end), format!("{shown} is no escape"))
        .advice("put an `r` before the string, or double the backslash")
        .fix(edits);
}

/// Whether a string stands alone, as docstrings do.
fn is_doc(string: NodeRef) -> bool {
    string.parent().is_some_and(|parent| parent.kind() == Kind::ExpressionStatement)
}
