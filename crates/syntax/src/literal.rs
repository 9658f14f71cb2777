//! The values of literals, as their language defines them.

use crate::language::Language;
use crate::python;

/// The value of a number literal.
#[derive(Debug, Clone, PartialEq)]
pub enum NumberValue {
    /// A whole number that 128 bits hold.
    Whole(u128),
    /// Any other real number.
    Real(f64),
    /// An imaginary number.
    Imaginary(f64),
}

impl NumberValue {
    /// The value as a real number, if it is one.
    pub fn as_real(&self) -> Option<f64> {
        match self {
            NumberValue::Whole(value) => Some(*value as f64),
            NumberValue::Real(value) => Some(*value),
            NumberValue::Imaginary(_) => None,
        }
    }
}

/// The value of a number literal; `None` where it is too large to be told exactly.
pub fn number_value(language: Language, literal: &str) -> Option<NumberValue> {
    match language {
        Language::Python => python::number_value(literal),
    }
}

/// The characters that a string literal stands for, quotes and escapes resolved; `None` where they cannot be told.
pub fn string_value(language: Language, literal: &str) -> Option<String> {
    match language {
        Language::Python => python::StringLiteral::of(literal).value(),
    }
}
