use sieve_syntax::language::Language;
use sieve_syntax::text::Span;

use crate::habit::chosen;

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "line-ending",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: Some(FixKind::Exact),
    what: "line ends that differ from the rest of the file",
    why: "Tools that compare lines show changes that nobody made, and some programs treat the extra character as content.",
    silent: "In shell scripts, where it is part of a word, the line end is reported without a fix.",
    standards: &[],
    options: &[OptionFacts {
        name: "end",
        default: OptionDefault::Choice("as-is", &["as-is", "lf", "crlf"]),
        about: "how lines end: as-is is as most lines of the file",
    }],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong { code: "a = 1\r\nb = 2\nc = 3\n", at: &["1:6"], fixed: Some("a = 1\nb = 2\nc = 3\n") }],
        right: &["a = 1\r\nb = 2\r\n", "a = 1\nb = 2\n", ""],
    }],
    needs_names: false,
    check: Check::File(check),
};

fn check(context: &mut Context) {
    let file = context.file();
    let source = file.text.source();
    if context.word("end") != "crlf" && memchr::memchr(b'\r', source.as_bytes()).is_none() {
        return;
    }
    let ends: Vec<(Span, bool)> = memchr::memchr_iter(b'\n', source.as_bytes())
        .map(|at| {
            let long = at > 0 && source.as_bytes()[at - 1] == b'\r';
            (Span::new((at - usize::from(long)) as u32, at as u32 + 1), long)
        })
        .collect();
    let short: Vec<bool> = ends.iter().map(|(_, long)| !long).collect();
    let Some(wants_short) = chosen(context, "end", "lf", &short) else { return };
    let wrong: Vec<Span> = ends.iter().filter(|(_, long)| *long == wants_short).map(|(span, _)| *span).collect();
    let Some(first) = wrong.first() else { return };
    let (name, end) = if wants_short { ("LF", "\n") } else { ("CRLF", "\r\n") };
    let message = match wrong.len() {
        1 => format!("this line does not end with {name}, as the others do"),
        count => format!("{count} lines do not end with {name}, this one is the first"),
    };
    let fixable = !file.language.spec().return_is_text;
    let edits = wrong.iter().map(|span| Edit::replace(*span, end)).collect();
    let reported = context.report(*first, message).anchor(Span::at(0));
    if fixable {
        reported.fix(edits);
    }
}
