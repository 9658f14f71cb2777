//! Unified diffs as the `diff` of POSIX.1-2024 writes them, in the bytes of the files.

use similar::{Algorithm, DiffOp, capture_diff_slices, group_diff_ops};

/// Lines that stay the same and are shown around a change.
const AROUND: usize = 3;

/// The difference between two versions of a file, in a form that `git apply` accepts; empty if there is none. The path's bytes
/// are as they are, quoted where they would be misread.
pub fn unified_diff(path: &[u8], before: &[u8], after: &[u8]) -> Vec<u8> {
    let old = lines(before);
    let new = lines(after);
    let groups = group_diff_ops(capture_diff_slices(Algorithm::Myers, &old, &new), AROUND);
    let mut out = Vec::new();
    for group in &groups {
        if out.is_empty() {
            for (sign, side) in [("--- ", "a/"), ("+++ ", "b/")] {
                out.extend_from_slice(sign.as_bytes());
                out.extend_from_slice(&name(side, path));
                out.push(b'\n');
            }
        }
        hunk(&mut out, group, &old, &new);
    }
    out
}

/// Lines with their line feed; a carriage return belongs to the text of its line.
fn lines(bytes: &[u8]) -> Vec<&[u8]> {
    bytes.split_inclusive(|byte| *byte == b'\n').collect()
}

/// A path as headers have it: quoted in the way of C if it holds bytes that would be misread, with a tab after it if it holds
/// spaces.
fn name(side: &str, path: &[u8]) -> Vec<u8> {
    let odd = |byte: &u8| byte.is_ascii_control() || !byte.is_ascii() || matches!(byte, b'"' | b'\\');
    let mut name = side.as_bytes().to_vec();
    if path.iter().any(odd) {
        name.insert(0, b'"');
        path.iter().for_each(|byte| push_escaped(&mut name, *byte));
        name.push(b'"');
        return name;
    }
    name.extend_from_slice(path);
    if path.contains(&b' ') {
        name.push(b'\t');
    }
    name
}

fn push_escaped(name: &mut Vec<u8>, byte: u8) {
    match byte {
        b'"' | b'\\' => name.extend([b'\\', byte]),
        b'\n' => name.extend(b"\\n"),
        b'\t' => name.extend(b"\\t"),
        other if other.is_ascii_control() || !other.is_ascii() => name.extend(format!("\\{other:03o}").bytes()),
        other => name.push(other),
    }
}

fn hunk(out: &mut Vec<u8>, group: &[DiffOp], old: &[&[u8]], new: &[&[u8]]) {
    let (Some(first), Some(last)) = (group.first(), group.last()) else { return };
    let old_range = first.old_range().start..last.old_range().end;
    let new_range = first.new_range().start..last.new_range().end;
    out.extend_from_slice(format!("@@ -{} +{} @@\n", range(&old_range), range(&new_range)).as_bytes());
    for op in group {
        match op {
            DiffOp::Equal { old_index, len, .. } => write_lines(out, b' ', &old[*old_index..*old_index + *len]),
            _ => {
                write_lines(out, b'-', &old[op.old_range()]);
                write_lines(out, b'+', &new[op.new_range()]);
            }
        }
    }
}

/// An empty range is given by the line before it.
fn range(range: &std::ops::Range<usize>) -> String {
    match range.len() {
        0 => format!("{},0", range.start),
        1 => format!("{}", range.start + 1),
        length => format!("{},{length}", range.start + 1),
    }
}

fn write_lines(out: &mut Vec<u8>, sign: u8, lines: &[&[u8]]) {
    for line in lines {
        out.push(sign);
        out.extend_from_slice(line);
        if !line.ends_with(b"\n") {
            out.extend_from_slice(b"\n\\ No newline at end of file\n");
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_missing_last_line_end_is_told() {
        let diff = unified_diff(b"fares.py", b"a\nb", b"a\nb\n");
        let text = String::from_utf8(diff).unwrap();
        assert_eq!(text, "--- a/fares.py\n+++ b/fares.py\n@@ -1,2 +1,2 @@\n a\n-b\n\\ No newline at end of file\n+b\n");
    }

    #[test]
    fn odd_names_are_quoted_and_those_with_spaces_end_in_a_tab() {
        assert_eq!(name("a/", "q\u{e9}\n\".py".as_bytes()), b"\"a/q\\303\\251\\n\\\".py\"");
        assert_eq!(name("b/", b"two words.py"), b"b/two words.py\t");
    }

    #[test]
    fn equal_texts_have_no_difference() {
        assert!(unified_diff(b"a", b"x\n", b"x\n").is_empty());
    }
}
