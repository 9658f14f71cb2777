//! The values of literals, as their language defines them.

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
