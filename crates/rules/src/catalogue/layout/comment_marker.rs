use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{TokenId, TokenKind};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "comment-marker",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl],
    fix: Some(FixKind::Exact),
    what: "a comment that begins otherwise than the team's comments",
    why: "Two marks mean the same. With one of them, comments are found by one search.",
    silent: "For comments between `/*` and `*/`.",
    standards: &[],
    options: &[OptionFacts {
        name: "marker",
        about: "what comments begin with",
        default: OptionDefault::Choice("#", &["#", "//"]),
    }],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[Wrong { code: "// tides\na = 1\n", at: &["1:1"], fixed: Some("# tides\na = 1\n") }],
        right: &["# tides\na = 1 /* low */\n"],
    }],
    needs_names: false,
    check: Check::Tokens(&[TokenKind::Comment], check),
};

fn check(context: &mut Context, token: TokenId) {
    let file = context.file();
    let span = file.tree.token_span(token);
    let comment = file.text.slice(span);
    let marker = context.word("marker");
    let Some(other) = ["#", "//"].into_iter().find(|mark| comment.starts_with(mark)).filter(|mark| *mark != marker)
    else {
        return;
    };
    let mark = Span::new(span.start, span.start + other.len() as u32);
    let message = format!("this comment begins with {other}");
    let advice = format!("begin it with {marker}");
    let edit = Edit::replace(mark, marker);
    context.report(span, message).advice(advice).fix(vec![edit]);
}
