//! Lines, columns and encodings against models that are too slow and too simple to be wrong.

use proptest::prelude::*;
use sieve_syntax::text::{DecodeError, Encoding, LineEnding, LineIndex, Place, Span, Text};

/// Texts with line ends of all kinds, wide characters and long lines.
fn source() -> impl Strategy<Value = String> {
    let pieces = prop_oneof![
        Just("\n".to_string()),
        Just("\r\n".to_string()),
        Just("\r".to_string()),
        Just("low".to_string()),
        Just("tïde ".to_string()),
        Just("渡し船".to_string()),
        Just("⛴\u{fe0f}".to_string()),
        Just("\u{2028}\x0c".to_string()),
        Just("x".repeat(3000)),
        Just("ï".repeat(2500)),
    ];
    let text = prop::collection::vec(pieces, 0..24).prop_map(|pieces| pieces.concat());
    (prop::bool::ANY, text).prop_map(|(mark, text)| if mark { format!("\u{feff}{text}") } else { text })
}

/// The lines of a text with their ends, by going through its characters.
fn lines(source: &str) -> Vec<&str> {
    let (mut lines, mut start) = (Vec::new(), 0);
    let bytes = source.as_bytes();
    for at in 0..bytes.len() {
        let ends = bytes[at] == b'\n' || bytes[at] == b'\r' && bytes.get(at + 1) != Some(&b'\n');
        if ends {
            lines.push(&source[start..=at]);
            start = at + 1;
        }
    }
    if start < source.len() {
        lines.push(&source[start..]);
    }
    lines
}

/// Where a place is, by counting.
fn place(source: &str, offset: usize) -> Place {
    let (mut line, mut start) = (1, 0);
    for one in lines(source) {
        let ended = one.ends_with(['\n', '\r']);
        if start + one.len() > offset || !ended {
            break;
        }
        (line, start) = (line + 1, start + one.len());
    }
    let before = source[start..offset].trim_start_matches('\u{feff}');
    Place { line, column: before.chars().count() as u32 + 1 }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 150, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn lines_are_those_of_the_model(source in source()) {
        let index = LineIndex::new(&source);
        let expected = lines(&source);
        prop_assert_eq!(index.count() as usize, expected.len());
        for (number, line) in (1..).zip(&expected) {
            prop_assert_eq!(&source[index.full_line(number).range()], *line);
            let bare = line.trim_end_matches(['\n', '\r']);
            // Only one line end is taken off: a lone carriage return before a line feed was part of it.
            prop_assert_eq!(&source[index.line(&source, number).range()], bare.trim_start_matches('\u{feff}'));
        }
        prop_assert!(index.full_line(index.count() + 2).is_empty());
    }

    #[test]
    fn places_are_those_of_the_model_and_lead_back(source in source()) {
        let text = Text::new(source.clone());
        let step = (source.chars().count() / 40).max(1);
        for (offset, _) in source.char_indices().step_by(step) {
            let found = text.place(offset as u32);
            prop_assert_eq!(found, place(&source, offset));
            prop_assert_eq!(text.lines().line_of(offset as u32), found.line);
            let is_in_line_end = matches!(source.as_bytes()[offset], b'\n' | b'\r');
            let is_mark = offset == 0 && source.starts_with('\u{feff}');
            if !is_in_line_end && !is_mark {
                prop_assert_eq!(text.lines().offset(&source, found), Some(offset as u32));
            }
        }
    }

    #[test]
    fn the_ending_is_that_of_the_first_line(source in source()) {
        let first = lines(&source).first().copied().unwrap_or_default();
        let expected = match first {
            line if line.ends_with("\r\n") => LineEnding::CrLf,
            line if line.ends_with('\r') => LineEnding::Cr,
            _ => LineEnding::Lf,
        };
        prop_assert_eq!(LineIndex::new(&source).ending(&source), expected);
    }

    #[test]
    fn whatever_is_decoded_encodes_to_the_same_bytes(bytes in prop::collection::vec(any::<u8>(), 0..60), label in 0_usize..8) {
        let labels = [None, Some("utf-8"), Some("latin-1"), Some("cp1252"), Some("koi8-r"), Some("shift_jis"), Some("gbk"), Some("euc-kr")];
        if let Ok(text) = Text::decode(bytes.clone(), labels[label]) {
            prop_assert_eq!(text.encode(), Some(bytes));
        }
    }
}

#[test]
fn encodings_have_the_names_that_people_give_them() {
    for (label, name) in [
        ("utf-8", Some("UTF-8")),
        ("UTF8", Some("UTF-8")),
        ("ascii", Some("UTF-8")),
        ("Latin_1", Some("ISO-8859-1")),
        ("cp1252", Some("windows-1252")),
        ("euc-jp", Some("EUC-JP")),
        ("utf-16", None),
        ("tidal", None),
        ("", None),
    ] {
        assert_eq!(Encoding::named(label).map(Encoding::name), name, "{label}");
    }
}

#[test]
fn bytes_that_are_no_text_are_refused_with_the_reason() {
    let refused =
        |bytes: &[u8], label: Option<&str>| Text::decode(bytes.to_vec(), label).err().map(|error| error.to_string());
    assert_eq!(refused(b"tide\xff", None).as_deref(), Some("byte 4 is not UTF-8"));
    assert_eq!(refused(b"\xc3\x28", None).as_deref(), Some("byte 0 is not UTF-8"));
    let unknown = refused(b"tide", Some("tidal"));
    assert_eq!(unknown.as_deref(), Some("names the encoding \"tidal\", which is not known"));
    let wrong = refused(b"\x81", Some("shift_jis"));
    assert_eq!(wrong.as_deref(), Some("names the encoding Shift_JIS, but is not written in it"));
    assert_eq!(refused(b"\xe9", Some("latin-1")), None);
    assert!(matches!(Text::decode(vec![0xff], None), Err(DecodeError::NotUtf8(0))));
}

#[test]
fn stretches_hold_and_join() {
    let span = Span::new(3, 7);
    assert_eq!((span.len(), span.is_empty(), span.range()), (4, false, 3..7));
    assert!(Span::at(5).is_empty() && span.contains(Span::at(5)) && span.contains(Span::at(7)));
    assert!(span.contains(Span::new(3, 7)) && !span.contains(Span::new(2, 4)) && !span.contains(Span::new(6, 8)));
    assert_eq!(span.join(Span::new(10, 12)), Span::new(3, 12));
    assert_eq!(span.join(Span::new(1, 2)), Span::new(1, 7));
    assert_eq!(span.join(Span::new(4, 5)), span);
}

#[test]
fn places_that_a_text_does_not_have_lead_nowhere() {
    let source = "low\nhigh\n";
    let index = LineIndex::new(source);
    let at = |line, column| index.offset(source, Place { line, column });
    assert_eq!((at(1, 1), at(1, 4), at(2, 5)), (Some(0), Some(3), Some(8)), "one past the end is a place");
    assert_eq!((at(0, 1), at(1, 0), at(1, 5), at(4, 1)), (None, None, None, None));
    assert_eq!(index.place(source, 1000), Place { line: 3, column: 1 }, "past the end is the end");
}
