//! Unified diffs as the `diff` of POSIX.1-2024 writes them, in the bytes of the files.

use similar::{Algorithm, DiffOp, capture_diff_slices, group_diff_ops};

/// Lines that stay the same and are shown around a change.
const AROUND: usize = 3;

/// The difference between two versions of a file, in a form that `git apply` accepts; empty if there is none.
pub fn unified_diff(path: &str, before: &[u8], after: &[u8]) -> Vec<u8> {
    let old = lines(before);
    let new = lines(after);
    let groups = group_diff_ops(capture_diff_slices(Algorithm::Myers, &old, &new), AROUND);
    let mut out = Vec::new();
    for group in &groups {
        if out.is_empty() {
            out.extend_from_slice(format!("--- {}\n+++ {}\n", name("a/", path), name("b/", path)).as_bytes());
        }
        hunk(&mut out, group, &old, &new);
    }
    out
}

/// Lines with their line feed; a carriage return belongs to the text of its line.
fn lines(bytes: &[u8]) -> Vec<&[u8]> {
    bytes.split_inclusive(|byte| *byte == b'\n').collect()
}

/// A path as headers have it: quoted if it holds characters that would be misread, with a tab behind it if it holds blanks.
fn name(prefix: &str, path: &str) -> String {
    let odd = |character: char| character.is_control() || matches!(character, '"' | '\\');
    if path.contains(odd) {
        let escaped: String = path.chars().map(escaped).collect();
        return format!("\"{prefix}{escaped}\"");
    }
    let tab = if path.contains(' ') { "\t" } else { "" };
    format!("{prefix}{path}{tab}")
}

fn escaped(character: char) -> String {
    match character {
        '"' | '\\' => format!("\\{character}"),
        '\n' => "\\n".into(),
        '\t' => "\\t".into(),
        other if other.is_control() => format!("\\{:03o}", u32::from(other)),
        other => other.to_string(),
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

/// An empty range is told by the line before it.
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
        let diff = unified_diff("fares.py", b"a\nb", b"a\nb\n");
        let text = String::from_utf8(diff).unwrap();
        assert_eq!(text, "--- a/fares.py\n+++ b/fares.py\n@@ -1,2 +1,2 @@\n a\n-b\n\\ No newline at end of file\n+b\n");
    }

    #[test]
    fn equal_texts_have_no_difference() {
        assert!(unified_diff("a", b"x\n", b"x\n").is_empty());
    }
}
