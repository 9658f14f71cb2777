//! Strings with names between braces in them: `{callee} reads the clock`.

use super::error::QueryError;

/// The parts of such a string, doubled braces as single ones; a name is given with its place in bytes.
///
/// # Errors
/// When a brace is alone, or a name is none; places are bytes of the string.
pub(crate) fn parts<P>(
    source: &str,
    plain: fn(String) -> P,
    mut named: impl FnMut(&str, usize) -> Result<P, QueryError>,
) -> Result<Vec<P>, QueryError> {
    let mut parts = Vec::new();
    let mut text = String::new();
    let mut rest = source;
    while let Some(at) = rest.find(['{', '}']) {
        let (before, sign) = (&rest[..at], &rest[at..=at]);
        let place = source.len() - rest.len() + at;
        text += before;
        rest = &rest[at + 1..];
        if let Some(after) = rest.strip_prefix(sign) {
            text += sign;
            rest = after;
            continue;
        }
        let inner = if sign == "{" { rest.split_once('}') } else { None };
        let Some((name, after)) = inner else {
            let message = format!("a lone {sign} means nothing: double it to write one");
            return Err(QueryError::new(place..place + 1, message));
        };
        parts.push(plain(std::mem::take(&mut text)));
        parts.push(named(name, place + 1)?);
        rest = after;
    }
    text += rest;
    parts.push(plain(text));
    Ok(parts)
}
