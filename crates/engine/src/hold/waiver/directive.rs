//! Reads the words after `sieve:` in a comment.
//!
//! ```text
//! directive = "sieve:" , verb , [ name , { "," , name } ] , [ "because" , text ] , [ "until" , day ] ;
//! verb      = "waive" | "waive-file" | "pause" | "resume" | "dialect" | "pure" ;
//! ```

use jiff::civil::Date;
use sieve_syntax::text::Span;

use crate::settings::says_something;

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
    /// Describes the language or a function; holds nothing back.
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
    /// What is where the last day should, but is no day.
    pub(crate) wrong_day: Option<Word>,
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
    let ending = Ending::read(text, rest);
    let wrong_day = ending
        .wrong_day
        .map(|(start, end)| Word { text: text[start..end].to_string(), span: Span::new(offset(start), offset(end)) });
    let span = Span::new(offset(at), offset(text.len()));
    let (reason, until) = (ending.reason, ending.until);
    Some(Directive { comment, span, verb, verb_word, names, reason, until, wrong_day })
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

/// The reason and the last day, in either order.
#[derive(Debug, Default)]
struct Ending {
    reason: Option<String>,
    until: Option<Date>,
    /// Where something is that is meant as a day and is none.
    wrong_day: Option<(usize, usize)>,
}

impl Ending {
    fn read(text: &str, start: usize) -> Ending {
        let mut ending = Ending::default();
        let (mut start, mut end) = (trimmed_start(text, start), text.len());
        if let Some(behind) = word_end(text, start, "until") {
            // The day comes first: up to the reason.
            let because = (behind..end).find(|at| text.is_char_boundary(*at) && starts_word(text, *at, "because"));
            ending.day(text, behind, because.unwrap_or(end));
            start = because.unwrap_or(end);
        } else if let Some(at) =
            text[start..].rfind("until").map(|at| start + at).filter(|at| starts_word(text, *at, "until"))
            && means_day(&text[at + "until".len()..])
        {
            ending.day(text, at + "until".len(), end);
            end = at;
        }
        if let Some(behind) = word_end(text, start, "because") {
            let reason = text[behind.min(end)..end].trim();
            ending.reason = says_something(reason).then(|| reason.to_string());
        }
        ending
    }

    fn day(&mut self, text: &str, start: usize, end: usize) {
        let start = trimmed_start(text, start).min(end);
        let day = text[start..end].trim_end();
        self.until = parse_day(day);
        if self.until.is_none() {
            self.wrong_day = Some((start, start + day.len()));
        }
    }
}

/// A day in the form of ISO 8601 with hyphens, and no other.
pub(crate) fn parse_day(text: &str) -> Option<Date> {
    let shape = text.len() == 10
        && text
            .bytes()
            .enumerate()
            .all(|(at, byte)| if at == 4 || at == 7 { byte == b'-' } else { byte.is_ascii_digit() });
    text.parse().ok().filter(|_| shape)
}

/// Whether the words after the last `until` of a directive are meant as a day, and not as the end of a sentence.
fn means_day(words: &str) -> bool {
    let words = words.trim();
    words.starts_with(|first: char| first.is_ascii_digit()) || words.split_whitespace().count() < 2
}

fn trimmed_start(text: &str, start: usize) -> usize {
    start + (text[start..].len() - text[start..].trim_start().len())
}

fn starts_word(text: &str, at: usize, word: &str) -> bool {
    let before = text[..at].chars().next_back().is_none_or(char::is_whitespace);
    before && word_end(text, at, word).is_some()
}

/// Just past a word, if it is at a place.
fn word_end(text: &str, at: usize, word: &str) -> Option<usize> {
    let rest = text[at..].strip_prefix(word)?;
    rest.chars().next().is_none_or(char::is_whitespace).then_some(at + word.len())
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
    fn a_day_that_is_none_is_never_a_part_of_the_reason() {
        for (text, wrong) in [
            ("# sieve: waive layout because old until 2020-1-1", "2020-1-1"),
            ("# sieve: waive layout because old until tomorrow", "tomorrow"),
            ("# sieve: waive layout because old until 31-12-2027", "31-12-2027"),
            ("# sieve: waive layout because old until 2027-02-30", "2027-02-30"),
            ("# sieve: waive layout because old until 20270301", "20270301"),
            ("# sieve: waive layout because old until 2027-03-01 or so", "2027-03-01 or so"),
            ("# sieve: waive layout until soon because old", "soon"),
            ("# sieve: waive layout because old until", ""),
        ] {
            let found = directive(text);
            assert_eq!(found.reason.as_deref(), Some("old"), "{text}");
            let word = found.wrong_day.expect(text);
            assert_eq!((word.text.as_str(), &text[word.span.range()]), (wrong, wrong), "{text}");
        }
        let first = directive("# sieve: waive layout until 2027-03-01 because old");
        assert_eq!((first.until, first.reason.as_deref()), (Some(jiff::civil::date(2027, 3, 1)), Some("old")));
    }

    #[test]
    fn a_reason_says_something() {
        assert_eq!(directive("# sieve: waive layout because ...").reason, None);
        assert_eq!(directive("# sieve: waive layout because").reason, None);
    }

    #[test]
    fn prose_that_mentions_the_mark_is_no_directive() {
        assert!(read(Span::new(0, 40), "# write sieve: waive to hold it back").is_none());
        assert!(read(Span::new(0, 10), "# a sieve").is_none());
    }
}
