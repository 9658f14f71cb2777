//! From bytes to text and back.
//!
//! Sources are UTF-8 unless the language lets a file say otherwise (Python's encoding line, PEP 263). A file
//! is only taken when writing the text back gives the same bytes, so that a fix never alters what it did not mean to.

use std::fmt;

use super::Text;

/// The encoding of a file's bytes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Encoding {
    /// UTF-8, with or without a byte-order mark.
    Utf8,
    /// ISO 8859-1: each byte is the character of that number.
    Latin1,
    /// One of the encodings of the WHATWG Encoding Standard.
    Other(&'static encoding_rs::Encoding),
}

impl Encoding {
    /// Finds an encoding by one of the names that people give it.
    pub fn named(label: &str) -> Option<Encoding> {
        let name = label.to_ascii_lowercase().replace('_', "-");
        match name.as_str() {
            "utf-8" | "utf8" | "u8" | "utf-8-sig" | "ascii" | "us-ascii" | "646" => Some(Encoding::Utf8),
            "latin-1" | "latin1" | "iso-8859-1" | "iso8859-1" | "8859" | "cp819" | "l1" => Some(Encoding::Latin1),
            _ => {
                let label = name.strip_prefix("cp12").map_or(name.clone(), |page| format!("windows-12{page}"));
                let found = encoding_rs::Encoding::for_label_no_replacement(label.as_bytes())?;
                let wide = found == encoding_rs::UTF_16LE || found == encoding_rs::UTF_16BE;
                (!wide).then_some(Encoding::Other(found))
            }
        }
    }

    /// Its usual name.
    pub fn name(self) -> &'static str {
        match self {
            Encoding::Utf8 => "UTF-8",
            Encoding::Latin1 => "ISO-8859-1",
            Encoding::Other(encoding) => encoding.name(),
        }
    }

    fn decode(self, bytes: Vec<u8>) -> Option<String> {
        match self {
            Encoding::Utf8 => String::from_utf8(bytes).ok(),
            Encoding::Latin1 => Some(bytes.iter().map(|byte| char::from(*byte)).collect()),
            Encoding::Other(encoding) => {
                let text = encoding.decode_without_bom_handling_and_without_replacement(&bytes)?.into_owned();
                (self.encode(&text)? == bytes).then_some(text)
            }
        }
    }

    /// The bytes of `text` in this encoding; `None` where a character has no form in it.
    pub fn encode(self, text: &str) -> Option<Vec<u8>> {
        match self {
            Encoding::Utf8 => Some(text.as_bytes().to_vec()),
            Encoding::Latin1 => text.chars().map(|character| u8::try_from(u32::from(character)).ok()).collect(),
            Encoding::Other(encoding) => {
                let (bytes, _, had_unmappable) = encoding.encode(text);
                (!had_unmappable).then(|| bytes.into_owned())
            }
        }
    }
}

/// Why bytes could not be read as text.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum DecodeError {
    /// The bytes are not UTF-8; the offset of the first that is not.
    NotUtf8(usize),
    /// The file names an encoding that is not known here.
    UnknownEncoding(String),
    /// The bytes are not in the encoding that the file names.
    NotInEncoding(&'static str),
    /// Offsets are 32 bits wide: text of 4 GiB and more is not read.
    TooLong,
}

impl fmt::Display for DecodeError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            DecodeError::NotUtf8(at) => write!(out, "byte {at} is not UTF-8"),
            DecodeError::UnknownEncoding(name) => write!(out, "names the encoding {name:?}, which is not known"),
            DecodeError::NotInEncoding(name) => write!(out, "names the encoding {name}, but is not written in it"),
            DecodeError::TooLong => write!(out, "is longer than 4 GiB"),
        }
    }
}

impl Text {
    /// Reads a file's bytes. `declared` is the encoding that the file itself names, if its language knows such a thing.
    ///
    /// # Errors
    /// When the encoding is unknown, or the bytes are not written in it.
    pub fn decode(bytes: Vec<u8>, declared: Option<&str>) -> Result<Text, DecodeError> {
        if bytes.len() >= u32::MAX as usize {
            return Err(DecodeError::TooLong);
        }
        let encoding = match declared {
            None => Encoding::Utf8,
            Some(label) => Encoding::named(label).ok_or_else(|| DecodeError::UnknownEncoding(label.to_string()))?,
        };
        if encoding == Encoding::Utf8 {
            return match String::from_utf8(bytes) {
                Ok(source) => Ok(Text::new(source)),
                Err(error) => Err(DecodeError::NotUtf8(error.utf8_error().valid_up_to())),
            };
        }
        match encoding.decode(bytes) {
            Some(source) => Ok(Text::with_encoding(source, encoding)),
            None => Err(DecodeError::NotInEncoding(encoding.name())),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn other_encodings_come_back_byte_for_byte() {
        for (label, bytes) in
            [("latin-1", b"# caf\xe9 \x80".as_slice()), ("koi8-r", b"# \xf0\xd2"), ("cp1252", b"\x93hi\x94")]
        {
            let text = Text::decode(bytes.to_vec(), Some(label)).unwrap();
            assert_eq!(text.encode().unwrap(), bytes, "{label}");
        }
    }

    #[test]
    fn wrong_bytes_and_unknown_names_are_told_apart() {
        assert_eq!(Text::decode(vec![b'a', 0xff], None).unwrap_err(), DecodeError::NotUtf8(1));
        let unknown = Text::decode(b"a".to_vec(), Some("uft8")).unwrap_err();
        assert_eq!(unknown, DecodeError::UnknownEncoding("uft8".into()));
    }

    #[test]
    fn a_character_without_a_form_in_the_encoding_is_refused() {
        assert_eq!(Encoding::Latin1.encode("€"), None);
        assert_eq!(Encoding::named("koi8-r").unwrap().encode("漢"), None);
    }
}
