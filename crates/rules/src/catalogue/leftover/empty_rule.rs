use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::habit::whole_lines;
use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, Rule, Wrong};
use crate::style::at_word_of;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "empty-rule",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: Some(FixKind::Exact),
    what: "a rule of a style sheet without any declaration",
    why: "It does nothing. Readers look for what was meant to be there, and every page loads it.",
    silent: "Where a comment in it says something, and for layers, whose order an empty block may set.",
    standards: &["CSS Syntax Module Level 3, section 5"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[
            Wrong { code: ".quay {}\n.tide { margin: 0 }\n", at: &["1:1"], fixed: Some(".tide { margin: 0 }\n") },
            Wrong { code: "@media print {\n}\na { margin: 0 }\n", at: &["1:1"], fixed: Some("a { margin: 0 }\n") },
            Wrong { code: "a { margin: 0; &:hover { } }\n", at: &["1:16"], fixed: Some("a { margin: 0; }\n") },
        ],
        right: &[
            ".quay { margin: 0 }\n",
            ".quay { /* set by the script */ }\n",
            "@layer base {}\n@layer base, quays;\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::StyleRule, Kind::AtRule], check),
};

fn check(context: &mut Context, rule: NodeRef) {
    let file = context.file();
    let Some(body) = rule.child(Role::Body) else { return };
    let says_something = body.children().next().is_some()
        || body.token_range().any(|token| file.tree.token_kind(token) == TokenKind::Comment);
    let is_closed = body.significant_tokens().last().is_some_and(|(_, kind)| kind == TokenKind::BraceClose);
    if says_something || !is_closed || !file.tree.faults().is_empty() {
        return;
    }
    // An empty layer has its place among the others; an empty animation takes the place of another one.
    let keeps = ["@layer", "@keyframes", "@-webkit-keyframes", "@property", "@font-face", "@scope", "@view-transition"];
    if at_word_of(file, body).is_some_and(|word| keeps.contains(&&*word)) {
        return;
    }
    let (message, advice) = ("this rule holds nothing", "remove it");
    context.report(rule.span(), message).advice(advice).fix(vec![Edit::remove(with_lines(file, rule.span()))]);
}

/// The rule with its lines where nothing else is on them, else with the whitespace before it.
fn with_lines(file: File<'_>, rule: Span) -> Span {
    whole_lines(file, rule).unwrap_or_else(|| {
        let before = file.text.slice(Span::new(0, rule.start));
        Span::new(before.trim_end_matches([' ', '\t']).len() as u32, rule.end)
    })
}
