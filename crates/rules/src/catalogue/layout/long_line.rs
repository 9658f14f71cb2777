use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::TokenKind;

use crate::directive::is_directive;
use crate::interface::{
    Certainty, Check, Concern, Context, Examples, File, FixKind, Level, Line, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

use super::break_line::broken;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "long-line",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: Some(FixKind::Exact),
    what: "a line that is longer than the limit",
    why: "Long lines are cut off in reviews and side-by-side views, which hides their end.",
    silent: "A line whose last word alone is too long, such as a URL in a comment, cannot be broken and is left alone; and so is a string in a data file. Only lines with brackets of their own have a fix.",
    standards: &["PEP 8, Maximum Line Length"],
    options: &[OptionFacts {
        name: "limit",
        default: OptionDefault::Count(100),
        about: "the most characters that a line may have",
    }],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong {
            code: "timetable = {'north quay': ['06:40', '07:10', '07:40', '08:10', '08:40'], 'south quay': ['06:55', '07:25']}\n",
            at: &["1:101"],
            fixed: Some(
                "timetable = {\n    'north quay': ['06:40', '07:10', '07:40', '08:10', '08:40'], 'south quay': ['06:55', '07:25']\n}\n",
            ),
        }],
        right: &[
            "timetable = {'north quay': ['06:40', '07:10']}\n",
            "# https://saltmarsh-ferries.example/timetables/of/all/quays/and/every/day/of/the/year/with/tides/and/holidays\n",
        ],
    }],
    needs_names: false,
    check: Check::Lines(check),
};

fn check(context: &mut Context, line: Line) {
    let limit = context.count("limit");
    // The text of a page flows by itself.
    if line.span.len() <= limit || context.file().traits.is_page {
        return;
    }
    let text = context.file().text.slice(line.span);
    let Some((past, _)) = text.char_indices().nth(limit as usize) else { return };
    // What follows the last blank within the limit, but for the mark of a comment.
    let breakable = text[..past].trim_start().trim_start_matches(['#', '/', '*']).trim_start();
    if !breakable.contains(char::is_whitespace) && !text[past..].contains(char::is_whitespace) {
        return;
    }
    if holds_string(context.file(), line.span.start + past as u32) {
        return;
    }
    let length = text.chars().count();
    // Selectors and values are not broken in their brackets.
    let is_program = (context.file().language.is_code() || context.file().language.is_data())
        && context.file().traits.breaks_in_brackets;
    let edits =
        (is_program && may_break(context, line)).then(|| broken(context.file(), line.span, limit as usize)).flatten();
    let reported = context
        .report(
            Span::new(line.span.start + past as u32, line.span.end),
            format!("{length} characters, {limit} are allowed"),
        )
        .advice("break the line")
        .anchor(line.span);
    if let Some(edits) = edits {
        reported.fix(edits);
    }
}

/// Whether a string of data is what is too long: it stays on its line, wherever it begins, with the comma behind it.
fn holds_string(file: File<'_>, past: u32) -> bool {
    let is_string = |offset: u32| {
        matches!(file.tree.token_kind(file.tree.token_at(offset)), TokenKind::String | TokenKind::PlainScalar)
    };
    file.language.is_data() && (is_string(past) || is_string(past - 1))
}

/// Whether code of the line may go to other lines. A comment after it, or a mark of some tool above it, is meant for this line.
fn may_break(context: &Context, line: Line) -> bool {
    let file = context.file();
    let comment_on = |span: Span| {
        let tokens = file.tree.tokens_in(span).rev();
        let mut solid = tokens.filter(|token| !file.text.slice(file.tree.token_span(*token)).trim().is_empty());
        solid.next().filter(|token| file.tree.token_kind(*token) == TokenKind::Comment)
    };
    if comment_on(line.span).is_some() {
        return false;
    }
    let above = line.number.checked_sub(1).filter(|number| *number > 0);
    let above = above.and_then(|number| comment_on(file.text.lines().line(file.text.source(), number)));
    above.is_none_or(|comment| !is_directive(file.text.slice(file.tree.token_span(comment))))
}
