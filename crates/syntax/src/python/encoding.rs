//! The encoding line of PEP 263.

/// The encoding that a file names in a comment on its first or second line. A byte-order mark says UTF-8 and leaves only
/// that name.
pub(crate) fn declared_encoding(bytes: &[u8]) -> Option<&str> {
    let bytes = bytes.strip_prefix(b"\xef\xbb\xbf").unwrap_or(bytes);
    let mut lines = bytes.split(|byte| *byte == b'\n' || *byte == b'\r');
    let first = lines.next()?;
    if let Some(name) = named_in(first) {
        return Some(name);
    }
    // The second line counts only below a comment or a blank line.
    let code_comes_first = first.iter().find(|byte| !is_blank(**byte)).is_some_and(|byte| *byte != b'#');
    if code_comes_first {
        return None;
    }
    let second = lines.next()?;
    let second = if second.is_empty() && bytes.get(first.len()..first.len() + 2) == Some(b"\r\n") {
        lines.next()?
    } else {
        second
    };
    named_in(second)
}

fn is_blank(byte: u8) -> bool {
    matches!(byte, b' ' | b'\t' | b'\x0c')
}

/// `^[ \t\f]*#.*?coding[:=][ \t]*([-_.a-zA-Z0-9]+)`
fn named_in(line: &[u8]) -> Option<&str> {
    let comment = line.iter().position(|byte| !is_blank(*byte)).filter(|at| line[*at] == b'#')?;
    let line = &line[comment..];
    for found in memchr::memmem::find_iter(line, b"coding") {
        let rest = &line[found + b"coding".len()..];
        let Some((b':' | b'=', rest)) = rest.split_first() else { continue };
        let rest = rest.trim_ascii_start();
        let length = rest.iter().take_while(|byte| byte.is_ascii_alphanumeric() || b"-_.".contains(byte)).count();
        if length > 0 {
            return std::str::from_utf8(&rest[..length]).ok();
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_encoding_line_is_found_where_the_language_looks_for_it() {
        assert_eq!(declared_encoding(b"# -*- coding: latin-1 -*-\n"), Some("latin-1"));
        assert_eq!(declared_encoding(b"#!/usr/bin/python\r\n# vim: set fileencoding=koi8-r :\n"), Some("koi8-r"));
        assert_eq!(declared_encoding(b"import quays\n# coding: latin-1\n"), None);
        assert_eq!(declared_encoding(b"\n\n# coding: latin-1\n"), None);
        assert_eq!(declared_encoding(b"coding: latin-1\n"), None);
    }
}
