//! Elements that hold text alone ("Raw text elements", "Restrictions on the contents of raw text elements", HTML, 13.1.2).

use memchr::memchr2;

/// The place of the end tag of an element that holds text alone, or the end of the file. In a script, an end tag that is in a comment of
/// HTML behind the start tag of another script ends that one ("Script data double escaped state", HTML, 13.2.5.27).
pub(super) fn end_of_content(bytes: &[u8], start: usize, name: &str) -> Option<usize> {
    let is_script = name == "script";
    let (mut in_comment, mut in_inner) = (false, false);
    let mut at = start;
    loop {
        at += memchr2(b'<', b'-', &bytes[at..])?;
        let rest = &bytes[at..];
        if rest[0] == b'-' {
            if in_comment && rest.starts_with(b"-->") {
                (in_comment, in_inner) = (false, false);
            }
        } else if is_tag(rest, "</", name) {
            if !in_inner {
                return Some(at);
            }
            in_inner = false;
        } else if is_script && rest.starts_with(b"<!--") {
            in_comment = true;
            // `<!-->` is over at once.
            at += 1;
        } else if is_script && in_comment && is_tag(rest, "<", name) {
            in_inner = true;
        }
        at += 1;
    }
}

/// Whether a tag with a name begins a text.
fn is_tag(text: &[u8], open: &str, name: &str) -> bool {
    let Some(rest) = text.strip_prefix(open.as_bytes()) else { return false };
    rest.get(..name.len()).is_some_and(|there| there.eq_ignore_ascii_case(name.as_bytes()))
        && rest.get(name.len()).is_none_or(|next| matches!(next, b' ' | b'\t' | b'\n' | b'\r' | b'\x0c' | b'/' | b'>'))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn scripts_end_with_their_own_tag() {
        let end = |source: &str| end_of_content(source.as_bytes(), 0, "script");
        assert_eq!(end("a < b</SCRIPT >x"), Some(5));
        assert_eq!(end("</scripts></script>"), Some(10));
        assert_eq!(end("<!-- <script></script> --></script>"), Some(26));
        assert_eq!(end("<!-- </script> -->"), Some(5));
        assert_eq!(end("tide"), None);
    }
}
