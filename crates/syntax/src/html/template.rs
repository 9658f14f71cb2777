//! Marks that many template languages share, recognised so that nothing is said of what depends on them.

use memchr::memmem;

/// What begins a part that a template language fills in, and what ends it; the longer ones first.
const MARKS: &[(&str, &str)] = &[("{{{", "}}}"), ("{{", "}}"), ("{%", "%}"), ("{#", "#}"), ("<%", "%>"), ("<?", "?>")];

/// Recognises the parts of templates in one text, in time that grows with its length alone.
#[derive(Debug, Default)]
pub(super) struct Templates {
    /// What is known not to end anywhere behind the last place that was asked for.
    ends_nowhere: [bool; MARKS.len()],
}

impl Templates {
    /// The place behind the part that begins at a place, if one does.
    #[inline]
    pub(super) fn end_at(&mut self, bytes: &[u8], at: usize) -> Option<usize> {
        match bytes.get(at)? {
            b'{' if matches!(bytes.get(at + 1), Some(b'{' | b'%' | b'#')) => self.end(bytes, at),
            b'<' if matches!(bytes.get(at + 1), Some(b'%' | b'?')) => self.end(bytes, at),
            _ => None,
        }
    }

    fn end(&mut self, bytes: &[u8], at: usize) -> Option<usize> {
        let rest = &bytes[at..];
        for (index, (open, close)) in MARKS.iter().enumerate() {
            if self.ends_nowhere[index] || !rest.starts_with(open.as_bytes()) {
                continue;
            }
            match memmem::find(&rest[open.len()..], close.as_bytes()) {
                Some(found) => return Some(at + open.len() + found + close.len()),
                None => self.ends_nowhere[index] = true,
            }
        }
        // A script for the server may go on to the end of the file.
        rest.starts_with(b"<?php").then_some(bytes.len())
    }
}

/// Whether a text holds a mark with which a part of a template begins.
pub fn is_filled_in(text: &str) -> bool {
    let bytes = text.as_bytes();
    memchr::memchr2_iter(b'{', b'<', bytes).any(|at| Templates::default().end_at(bytes, at).is_some())
}

/// Whether the value of an attribute holds an expression that is evaluated where the page is made: `${item.link}`, `#{item.link}`.
pub fn holds_expression(value: &str) -> bool {
    let bytes = value.as_bytes();
    let last = memchr::memrchr(b'}', bytes).unwrap_or_default();
    memchr::memchr_iter(b'{', bytes).any(|at| at > 0 && at < last && matches!(bytes[at - 1], b'$' | b'#'))
}

/// Whether a part of a template may decide what becomes of the page around it, rather than only stand for a text.
pub fn may_decide(part: &str) -> bool {
    let Some(inner) = part.strip_prefix("{{") else { return true };
    let word = inner.trim_start_matches(['{', '-', '~', ' ', '\t', '\n']);
    let first = word.split(|c: char| !c.is_ascii_alphanumeric() && !matches!(c, '#' | '/' | '^' | '>')).next();
    let first = first.unwrap_or_default();
    first.starts_with(['#', '/', '^', '>'])
        || matches!(first, "if" | "else" | "end" | "range" | "with" | "block" | "define" | "template" | "partial")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn parts_end_with_their_own_marks() {
        let end = |source: &str| Templates::default().end_at(source.as_bytes(), 0);
        assert_eq!(end("{{ tide }} x"), Some(10));
        assert_eq!(end("{{{ tide }}}"), Some(12));
        assert_eq!(end("{% if tide %}"), Some(13));
        assert_eq!(end("<?php echo 1;"), Some(13));
        for none in ["{ tide }", "{{ tide", "<? tide", "< tide"] {
            assert_eq!(end(none), None, "{none}");
        }
        assert!(is_filled_in("quay {{ tide }}") && !is_filled_in("quay {tide} <b>"));
        assert!(holds_expression("quay-${tide}") && holds_expression("#{tide}"));
        assert!(!holds_expression("{tide} ${") && !holds_expression("$ {tide}"));
    }

    #[test]
    fn what_stands_for_a_text_decides_nothing() {
        for decides in ["{% if low %}", "{{#if low}}", "{{/each}}", "{{- range .Quays }}", "{{ end }}", "<?php x ?>"] {
            assert!(may_decide(decides), "{decides}");
        }
        for stands in ["{{ tide }}", "{{quay.name}}", "{{{ raw }}}", "{{ endless }}"] {
            assert!(!may_decide(stands), "{stands}");
        }
    }
}
