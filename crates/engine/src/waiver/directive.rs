//! Reads the words behind `sieve:` in a comment.
//!
//! ```text
//! directive = "sieve:" , verb , [ name , { "," , name } ] , [ "because" , text ] , [ "until" , date ] ;
//! verb      = "waive" | "waive-file" | "pause" | "resume" | "dialect" | "pure" ;
//! ```

use jiff::civil::Date;
use sieve_syntax::text::Span;

/// What a directive does.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Verb {
    /// Holds for a statement.
    Waive,
    /// Holds for the file.
    WaiveFile,
    /// Holds from here on.
    Pause,
    /// Ends a pause.
    Resume,
    /// Speaks of the language or of a function; holds nothing back.
    Tells,
}

const VERBS: &[(&str, Verb)] = &[
    ("waive", Verb::Waive),
    ("waive-file", Verb::WaiveFile),
    ("pause", Verb::Pause),
    ("resume", Verb::Resume),
    ("dialect", Verb::Tells),
    ("pure", Verb::Tells),
];

/// The verbs there are.
pub(crate) fn verbs() -> impl Iterator<Item = &'static str> + Clone {
    VERBS.iter().map(|(word, _)| *word)
}

/// A word of a directive with its place.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Word {
    pub(crate) text: String,
    pub(crate) span: Span,
}

/// A directive as it is written.
#[derive(Debug, Clone)]
pub(crate) struct Directive {
    /// The comment that holds it.
    pub(crate) comment: Span,
    /// From `sieve:` to its end.
    pub(crate) span: Span,
    /// What it does; nothing where the verb is not known.
    pub(crate) verb: Option<Verb>,
    /// The verb as it is written.
    pub(crate) verb_word: Word,
    /// Names of rules and concerns.
    pub(crate) names: Vec<Word>,
    /// Why.
    pub(crate) reason: Option<String>,
    /// The last day on which it holds.
    pub(crate) until: Option<Date>,
}

const MARK: &str = "sieve:";

/// The directive in a comment, if it holds one. `comment` is the comment's place, `text` its text.
pub(crate) fn read(comment: Span, text: &str) -> Option<Directive> {
    let at = text.find(MARK)?;
    let alone = text[..at].chars().all(|character| !character.is_alphanumeric());
    if !alone {
        return None;
    }
    let text = text.trim_end().trim_end_matches("*/").trim_end_matches("-->").trim_end();
    let offset = |inner: usize| comment.start + inner as u32;
    let mut rest = at + MARK.len();
    let verb_word = next_word(text, &mut rest, offset)?;
    let verb = VERBS.iter().find(|(word, _)| *word == verb_word.text).map(|(_, verb)| *verb);
    let names = names(text, &mut rest, offset);
    let (reason, until) = reason_and_day(text[rest..].trim());
    let span = Span::new(offset(at), offset(text.len()));
    Some(Directive { comment, span, verb, verb_word, names, reason, until })
}

/// The next word, which commas end too.
fn next_word(text: &str, rest: &mut usize, offset: impl Fn(usize) -> u32) -> Option<Word> {
    let start = *rest + (text[*rest..].len() - text[*rest..].trim_start().len());
    let length = text[start..].find(|c: char| c.is_whitespace() || c == ',').unwrap_or(text.len() - start);
    if length == 0 {
        return None;
    }
    *rest = start + length;
    Some(Word { text: text[start..start + length].to_string(), span: Span::new(offset(start), offset(start + length)) })
}

/// Names up to `because`, `until` or the end.
fn names(text: &str, rest: &mut usize, offset: impl Fn(usize) -> u32 + Copy) -> Vec<Word> {
    let mut names = Vec::new();
    loop {
        let before = *rest;
        let Some(word) = next_word(text, rest, offset) else { return names };
        if matches!(word.text.as_str(), "because" | "until") {
            *rest = before;
            return names;
        }
        names.push(word);
        let behind = text[*rest..].trim_start();
        if let Some(more) = behind.strip_prefix(',') {
            *rest = text.len() - more.len();
        }
    }
}

fn reason_and_day(text: &str) -> (Option<String>, Option<Date>) {
    let mut text = text;
    let mut until = None;
    if let Some((before, day)) = text.rsplit_once("until")
        && let Ok(date) = day.trim().parse()
    {
        until = Some(date);
        text = before.trim_end();
    }
    let reason =
        text.strip_prefix("because").map(|reason| reason.trim().to_string()).filter(|reason| !reason.is_empty());
    (reason, until)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn directive(text: &str) -> Directive {
        read(Span::new(0, text.len() as u32), text).unwrap()
    }

    #[test]
    fn all_parts_are_read() {
        let found =
            directive("# sieve: waive broad-catch, unused-variable because the driver may throw until 2027-03-01");
        let names: Vec<&str> = found.names.iter().map(|name| name.text.as_str()).collect();
        assert_eq!(names, ["broad-catch", "unused-variable"]);
        assert_eq!(found.verb, Some(Verb::Waive));
        assert_eq!(found.reason.as_deref(), Some("the driver may throw"));
        assert_eq!(found.until, Some(jiff::civil::date(2027, 3, 1)));
    }

    #[test]
    fn a_reason_may_hold_the_word_until() {
        let found = directive("// sieve: waive-file layout because we wait until the tide turns");
        assert_eq!(found.verb, Some(Verb::WaiveFile));
        assert_eq!(found.reason.as_deref(), Some("we wait until the tide turns"));
        assert_eq!(found.until, None);
    }

    #[test]
    fn prose_that_mentions_the_mark_is_no_directive() {
        assert!(read(Span::new(0, 40), "# write sieve: waive to hold it back").is_none());
        assert!(read(Span::new(0, 10), "# a sieve").is_none());
    }
}
