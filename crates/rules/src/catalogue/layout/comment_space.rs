use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{TokenId, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "comment-space",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: Some(FixKind::Exact),
    what: "comments without a space after the comment sign, or between the code and the comment",
    why: "A comment with space around it is easy to see.",
    silent: "Directives to programs, rules made of signs, and commented-out code are left alone.",
    standards: &["PEP 8, Comments"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "#tides of the day\nx = 1\n", at: &["1:1"], fixed: Some("# tides of the day\nx = 1\n") },
                Wrong { code: "x = 1 # tide\n", at: &["1:7"], fixed: Some("x = 1  # tide\n") },
            ],
            right: &[
                "#!/usr/bin/env python3\n# tides\n#: the fare\n#x = 1\n",
                "x = 1  # tide\nsail(north,    # first\n     south)    # last\n",
                "#####\n#mark:off\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "//tides of the day\nsail();// now\n",
                at: &["1:1", "2:8"],
                fixed: Some("// tides of the day\nsail(); // now\n"),
            }],
            right: &[
                "/// <reference path=\"a\" />\n//# sourceMappingURL=a.map\n//call(a)\n/*x*/\n// tides\n",
                "//-----\nsail(); // now\n",
            ],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "#tides of the day\n", at: &["1:1"], fixed: Some("# tides of the day\n") }],
            right: &["#!/bin/sh\n# tides\n"],
        },
    ],
    needs_names: false,
    check: Check::Tokens(&[TokenKind::Comment], check),
};

fn check(context: &mut Context, token: TokenId) {
    let file = context.file();
    let span = file.tree.token_span(token);
    let comment = file.text.slice(span);
    let mark = file.language.spec().line_comment;
    let Some(text) = comment.strip_prefix(mark).filter(|_| !mark.is_empty()) else { return };
    if span.start == 0 && comment.starts_with("#!") {
        return;
    }
    let mut edits = Vec::new();
    if is_prose(text) {
        edits.push((
            Edit::insert(span.start + mark.len() as u32, " "),
            "a space is missing after the mark of this comment",
        ));
    }
    if let Some(gap) = missing_before(file, token) {
        let least = least_before(file);
        edits.push((Edit::replace(gap, " ".repeat(least)), "two spaces are missing between the code and this comment"));
    }
    if let Some((_, message)) = edits.first() {
        let message = *message;
        context.report(span, message).fix(edits.into_iter().map(|(edit, _)| edit).collect());
    }
}

/// Whether a comment begins with a word and goes on with others: what a program reads, or code, looks otherwise.
fn is_prose(text: &str) -> bool {
    let mut words = text.split_whitespace();
    let is_word =
        |word: &str| word.len() > 1 && word.trim_end_matches([',', '.', '!', '?']).chars().all(char::is_alphabetic);
    let begins = text.starts_with(char::is_alphabetic) && words.next().is_some_and(is_word);
    begins
        && words.clone().count() > 1
        && words.take(2).all(|word| word.len() == 1 && word.starts_with(char::is_alphabetic) || is_word(word))
}

/// How many whitespace is between code and a comment at the least.
fn least_before(file: File<'_>) -> usize {
    if file.traits.has_common_style { 2 } else { 1 }
}

/// The gap between code and a comment that is too small.
fn missing_before(file: File<'_>, token: TokenId) -> Option<Span> {
    let start = file.tree.token_start(token);
    let before = token.checked_sub(1)?;
    let (gap, code) = match file.tree.token_kind(before) {
        TokenKind::Blank => (file.tree.token_span(before), before.checked_sub(1)?),
        _ => (Span::at(start), before),
    };
    let kind = file.tree.token_kind(code);
    let follows_code = !kind.is_trivia() && !kind.is_layout();
    let is_tab = file.text.slice(gap).contains('\t');
    (follows_code && !is_tab && (gap.len() as usize) < least_before(file)).then_some(gap)
}
