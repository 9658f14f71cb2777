//! A file's text: decoded, with an index of its lines.

mod begun;
mod decode;
mod lines;
mod marks;
mod span;
mod word_bytes;

pub(crate) use begun::Begun;
pub use decode::{DecodeError, Encoding};
pub use lines::{LineEnding, LineIndex, Place};
pub use marks::Marks;
pub use span::Span;
pub use word_bytes::WordBytes;

/// The text of one source file, the byte-order mark included.
///
/// All offsets in this crate count bytes of this UTF-8 text, whatever the encoding of the file was.
#[derive(Debug, Clone)]
pub struct Text {
    source: String,
    encoding: Encoding,
    lines: LineIndex,
}

impl Text {
    /// Wraps text that is Unicode already.
    pub fn new(source: String) -> Text {
        Text::with_encoding(source, Encoding::Utf8)
    }

    /// Wraps text that was decoded from `encoding`, to be written back in it.
    pub fn with_encoding(source: String, encoding: Encoding) -> Text {
        let lines = LineIndex::new(&source);
        Text { source, encoding, lines }
    }

    /// The whole text.
    #[inline]
    pub fn source(&self) -> &str {
        &self.source
    }

    /// The text within a span; empty where the span does not lie on character boundaries of this text.
    #[inline]
    pub fn slice(&self, span: Span) -> &str {
        self.source.get(span.range()).unwrap_or_default()
    }

    /// The encoding that the file's bytes were in.
    pub fn encoding(&self) -> Encoding {
        self.encoding
    }

    /// Where the lines begin and end.
    #[inline]
    pub fn lines(&self) -> &LineIndex {
        &self.lines
    }

    /// Line and column of a byte offset, both from 1; the column counts Unicode scalar values.
    pub fn place(&self, offset: u32) -> Place {
        self.lines.place(&self.source, offset)
    }

    /// The bytes of the file with this text in it, in the file's own encoding; `None` where a character
    /// has no form in that encoding.
    pub fn encode(&self) -> Option<Vec<u8>> {
        self.encoding.encode(&self.source)
    }
}
