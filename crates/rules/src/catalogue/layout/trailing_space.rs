use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::TokenKind;

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Line, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "trailing-space",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: Some(FixKind::Exact),
    what: "whitespace at the end of a line",
    why: "It is invisible, and shows up as a change in reviews when an editor removes it.",
    silent: "Whitespace inside a string of several lines belongs to the string and is left alone.",
    standards: &["PEP 8, Other Recommendations"],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "tide = 3  \nquay = 1\n", at: &["1:9"], fixed: Some("tide = 3\nquay = 1\n") },
            Wrong { code: "tide = 3\n\t\nquay = 1\n", at: &["2:1"], fixed: Some("tide = 3\n\nquay = 1\n") },
        ],
        right: &["tide = 3\n\nquay = 1\n", "text = '''two blanks  \nin a text'''\n"],
    }],
    needs_names: false,
    check: Check::Lines(check),
};

fn check(context: &mut Context, line: Line) {
    let file = context.file();
    let text = file.text.slice(line.span);
    if !text.ends_with([' ', '\t']) {
        return;
    }
    let kept = text.trim_end_matches([' ', '\t']).len() as u32;
    let span = Span::new(line.span.start + kept, line.span.end);
    let holder = file.tree.token_at(line.span.end - 1);
    // In some languages a carriage return before the line feed is a part of the last word, and so is separated by the space.
    let ends_line = file.tree.token_span(holder).end <= line.span.end;
    let goes_on = file.language.spec().return_is_text && file.text.source()[line.span.end as usize..].starts_with('\r');
    if matches!(file.tree.token_kind(holder), TokenKind::Blank | TokenKind::Comment) && ends_line && !goes_on {
        let blanks = if span.len() == 1 { "a space".to_string() } else { format!("{} spaces", span.len()) };
        context
            .report(span, format!("{blanks} at the end of the line"))
            .advice("remove them")
            .fix(vec![Edit::remove(span)]);
    }
}
