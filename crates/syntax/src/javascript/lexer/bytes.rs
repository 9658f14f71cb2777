//! What a byte may begin: one look-up in place of a chain of comparisons.

/// The kind of token that a byte begins.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[repr(u8)]
pub(super) enum Class {
    Letter,
    Digit,
    Blank,
    LineEnd,
    Quote,
    Backquote,
    Slash,
    Hash,
    Backslash,
    Punctuation,
    HighByte,
    Other,
}

const CLASSES: [Class; 256] = classes();

#[inline]
pub(super) fn class_of(byte: u8) -> Class {
    CLASSES[byte as usize]
}

/// Whether an ASCII byte goes on with a name.
#[inline]
pub(super) fn continues_word(byte: u8) -> bool {
    matches!(class_of(byte), Class::Letter | Class::Digit)
}

const fn classes() -> [Class; 256] {
    let mut table = [Class::Other; 256];
    let mut byte = 0;
    while byte < 256 {
        table[byte] = match byte as u8 {
            b'a'..=b'z' | b'A'..=b'Z' | b'_' | b'$' => Class::Letter,
            b'0'..=b'9' => Class::Digit,
            b' ' | b'\t' | 0x0b | 0x0c => Class::Blank,
            b'\n' | b'\r' => Class::LineEnd,
            b'"' | b'\'' => Class::Quote,
            b'`' => Class::Backquote,
            b'/' => Class::Slash,
            b'#' => Class::Hash,
            b'\\' => Class::Backslash,
            b'(' | b')' | b'[' | b']' | b'{' | b'}' | b'+' | b'-' | b'*' | b'%' | b'@' | b'&' | b'|' | b'^' | b'~'
            | b'<' | b'>' | b'=' | b'!' | b'.' | b',' | b':' | b';' | b'?' => Class::Punctuation,
            0x80.. => Class::HighByte,
            _ => Class::Other,
        };
        byte += 1;
    }
    table
}
