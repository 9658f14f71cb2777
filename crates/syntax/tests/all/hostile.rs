//! Texts that nobody means well with.
