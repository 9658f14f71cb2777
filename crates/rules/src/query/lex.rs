//! The words of a query.

use std::ops::Range;

use super::error::QueryError;

/// A word of a query.
#[derive(Debug, Clone, PartialEq)]
pub(super) enum Token {
    /// A keyword, a kind, a role, an attribute or a name of its own.
    Word(String),
    /// Text in double quotes, its escapes resolved.
    String(String),
    Number(f64),
    /// A regular expression between slashes; an escaped slash is one.
    Regex(String),
    /// A bracket, a comma, a dot, a dollar sign, or a comparison.
    Sign(&'static str),
    End,
}

impl Token {
    /// In words, for what is there instead of what was expected.
    pub(super) fn describe(&self) -> String {
        match self {
            Token::Word(word) => format!("\"{word}\""),
            Token::String(_) => "a string".into(),
            Token::Number(_) => "a number".into(),
            Token::Regex(_) => "a regular expression".into(),
            Token::Sign(sign) => format!("'{sign}'"),
            Token::End => "the end of the query".into(),
        }
    }
}

/// Longer signs come before those that they begin with.
const SIGNS: &[&str] = &["<=", ">=", "{", "}", "(", ")", "[", "]", ",", ".", "$", "=", "<", ">"];

/// The words of a query with their places in bytes; the last one is its end.
pub(super) fn tokens(source: &str) -> Result<Vec<(Token, Range<usize>)>, QueryError> {
    let mut found = Vec::new();
    let mut at = 0;
    while let Some(first) = source[at..].chars().next() {
        let rest = &source[at..];
        if first.is_whitespace() {
            at += first.len_utf8();
            continue;
        }
        let (token, length) = if is_word_start(first) {
            let length = rest.find(|next: char| !is_word_part(next)).unwrap_or(rest.len());
            (Token::Word(rest[..length].to_string()), length)
        } else if first.is_ascii_digit() || first == '-' {
            number(rest, at)?
        } else if first == '"' || first == '/' {
            quoted(rest, at, first)?
        } else if let Some(sign) = SIGNS.iter().find(|sign| rest.starts_with(**sign)) {
            (Token::Sign(sign), sign.len())
        } else {
            let place = at..at + first.len_utf8();
            return Err(QueryError::new(place, format!("{first:?} means nothing in a query")));
        };
        found.push((token, at..at + length));
        at += length;
    }
    found.push((Token::End, at..at));
    Ok(found)
}

fn is_word_start(letter: char) -> bool {
    letter.is_ascii_alphabetic() || letter == '_'
}

fn is_word_part(letter: char) -> bool {
    letter.is_ascii_alphanumeric() || letter == '_' || letter == '-'
}

fn number(rest: &str, at: usize) -> Result<(Token, usize), QueryError> {
    let is_part = |letter: char| letter.is_ascii_digit() || letter == '.' || letter == '-';
    let length = rest.find(|next: char| !is_part(next)).unwrap_or(rest.len());
    // A dot behind it goes on with a path.
    let length = rest[..length].trim_end_matches('.').len();
    let value = rest[..length].parse().ok().filter(|value: &f64| value.is_finite());
    let value = value.ok_or_else(|| QueryError::new(at..at + length, format!("{} is no number", &rest[..length])))?;
    Ok((Token::Number(value), length))
}

/// A string or a regular expression. Only in strings does a backslash change what follows; in both it keeps the quote from ending it.
fn quoted(rest: &str, at: usize, quote: char) -> Result<(Token, usize), QueryError> {
    let mut text = String::new();
    let mut letters = rest.char_indices().skip(1);
    while let Some((index, letter)) = letters.next() {
        if letter == quote {
            let token = if quote == '"' { Token::String(text) } else { Token::Regex(text) };
            return Ok((token, index + 1));
        }
        if letter != '\\' {
            text.push(letter);
            continue;
        }
        let Some((index, escaped)) = letters.next() else { break };
        match escaped {
            _ if escaped == quote => text.push(quote),
            '\\' if quote == '"' => text.push('\\'),
            'n' if quote == '"' => text.push('\n'),
            't' if quote == '"' => text.push('\t'),
            _ if quote == '"' => {
                let place = at + index - 1..at + index + escaped.len_utf8();
                return Err(QueryError::new(
                    place,
                    format!("\\{escaped} is no escape; there are \\\\, \\\", \\n and \\t"),
                ));
            }
            _ => text.extend(['\\', escaped]),
        }
    }
    let what = if quote == '"' { "this string" } else { "this regular expression" };
    Err(QueryError::new(at..at + rest.len(), format!("{what} is never closed")))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn words(source: &str) -> Vec<Token> {
        let mut words: Vec<Token> = tokens(source).unwrap().into_iter().map(|(token, _)| token).collect();
        assert_eq!(words.pop(), Some(Token::End));
        words
    }

    #[test]
    fn each_sort_of_word_is_told() {
        let string = |text: &str| Token::String(text.into());
        assert_eq!(words("import-item as x1"), ["import-item", "as", "x1"].map(|word| Token::Word(word.into())));
        assert_eq!(words(r#""a\"b\\\n" <= -2.5"#), [string("a\"b\\\n"), Token::Sign("<="), Token::Number(-2.5)]);
        assert_eq!(words(r"/a\/b\d/"), [Token::Regex(r"a/b\d".into())]);
    }

    #[test]
    fn errors_have_their_place() {
        for (source, place, message) in [
            ("call ; x", 5..6, "';' means nothing in a query"),
            ("is \"tide", 3..8, "this string is never closed"),
            ("/tide", 0..5, "this regular expression is never closed"),
            (r#""a\q""#, 2..4, r#"\q is no escape; there are \\, \", \n and \t"#),
            ("= 1.2.3", 2..7, "1.2.3 is no number"),
        ] {
            assert_eq!(tokens(source), Err(QueryError::new(place, message)), "{source}");
        }
    }
}
