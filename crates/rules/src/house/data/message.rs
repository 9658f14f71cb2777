//! Messages of data rules, with what is known of a place in them: `"{value}" is no tide`.

use crate::query::{QueryError, parts};

/// A message with parts that each place fills in. Doubled braces are braces.
#[derive(Debug, Clone)]
pub(super) struct DataMessage {
    parts: Vec<Part>,
}

#[derive(Debug, Clone)]
enum Part {
    Text(String),
    Key,
    Value,
    Pointer,
    Problem,
}

/// What a place gives to a message.
pub(super) struct Filling<'p> {
    pub(super) key: &'p str,
    pub(super) value: &'p str,
    pub(super) pointer: &'p dyn Fn() -> String,
    pub(super) problem: &'p str,
}

/// The names of parts.
const NAMES: &[&str] = &["key", "value", "pointer", "problem"];

impl DataMessage {
    /// Reads a message.
    ///
    /// # Errors
    /// When braces are alone, or around no name of a part; places are bytes in it.
    pub(super) fn new(source: &str) -> Result<DataMessage, QueryError> {
        let parts = parts(source, Part::Text, |name, place| match name {
            "key" => Ok(Part::Key),
            "value" => Ok(Part::Value),
            "pointer" => Ok(Part::Pointer),
            "problem" => Ok(Part::Problem),
            _ => {
                let message = format!("a place has no \"{name}\": {} are known", NAMES.join(", "));
                Err(QueryError::new(place..place + name.len(), message))
            }
        })?;
        Ok(DataMessage { parts })
    }

    /// The message of a place.
    pub(super) fn fill(&self, filling: &Filling<'_>) -> String {
        let word = |part: &Part| match part {
            Part::Text(text) => text.clone(),
            Part::Key => filling.key.to_string(),
            Part::Value => filling.value.to_string(),
            Part::Pointer => (filling.pointer)(),
            Part::Problem => filling.problem.to_string(),
        };
        self.parts.iter().map(word).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn parts_are_filled_in() {
        let filling =
            Filling { key: "fare", value: "450", pointer: &|| "/fare".to_string(), problem: "this is a number" };
        let filled = |source: &str| DataMessage::new(source).map(|message| message.fill(&filling));
        assert_eq!(filled("{key} is {value}, {{so}}: {problem}").as_deref(), Ok("fare is 450, {so}: this is a number"));
        assert!(filled("{keys}").unwrap_err().to_string().contains("key, value, pointer, problem"));
        assert!(filled("a } b").is_err());
    }
}
