//! References as descriptions and schemas have them: an object `{"$ref": "#/…"}` stands for what a pointer leads to
//! (JSON Schema 2020-12, 8.2.3.1; OpenAPI 3.1, Reference Object).

use percent_encoding::percent_decode_str;

use super::{Shape, Value};

/// The key by which an object is a reference; its value says to what.
pub const REFERENCE: &str = "$ref";

/// References that lead from one to the next are followed no further.
const MOST_STEPS: usize = 50;

impl<'d, 't> Value<'d, 't> {
    /// What is referred to, if this is an object that is a reference: the string as it is written.
    pub fn reference(self) -> Option<String> {
        if self.shape() != Shape::Object { None } else { self.get(REFERENCE)?.as_str() }
    }

    /// Itself; or what a reference stands for, one after the other followed within its document.
    ///
    /// Nothing where a reference leads out of the document, to nothing, or in a circle.
    pub fn followed(self, document: Value<'d, 't>) -> Option<Value<'d, 't>> {
        let mut value = self.resolved();
        for _ in 0..MOST_STEPS {
            let Some(reference) = value.reference() else { return Some(value) };
            value = document.referred(reference.strip_prefix('#')?)?.resolved();
        }
        None
    }

    /// What the fragment of a reference leads to in this document: a pointer, with the escapes that a URI has (RFC 6901, 6).
    pub fn referred(self, fragment: &str) -> Option<Value<'d, 't>> {
        self.at(&percent_decode_str(fragment).decode_utf8().ok()?)
    }
}
