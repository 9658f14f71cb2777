//! Which names each language has, and what they look like where settings say nothing.

use sieve_syntax::language::Language;

use super::name_style::NameStyle;

/// The kinds of names that settings give a form to, in the order of the alphabet.
pub const NAMED_KINDS: &[&str] =
    &["constant", "file", "function", "member", "method", "module", "parameter", "private-member", "type", "variable"];

/// The kinds of names that a language has.
pub fn kinds_of(language: Language) -> &'static [&'static str] {
    match language {
        Language::Hcl => &["file", "variable"],
        Language::Java | Language::CSharp => {
            &["constant", "file", "function", "member", "method", "parameter", "type", "variable"]
        }
        Language::Rust => {
            &["constant", "file", "function", "member", "method", "module", "parameter", "type", "variable"]
        }
        Language::Go => &["constant", "file", "function", "method", "parameter", "type", "variable"],
        _ if !Language::OF_CODE.contains(&language) => &["file"],
        Language::Python => NAMED_KINDS,
        Language::Shell => &["constant", "file", "function", "variable"],
        // Files are named in imports by their whole names.
        _ => &["constant", "file", "function", "member", "method", "parameter", "private-member", "type", "variable"],
    }
}

/// The styles that names have where settings say nothing: after PEP 8 for Python, "Effective Go" for Go, RFC 430 for Rust, "Naming Conventions" of the language for Java, the "Framework design guidelines" for C#, and the usual forms elsewhere.
pub fn default_styles(language: Language, kind: &str) -> &'static [NameStyle] {
    use NameStyle::{LowerCamel, LowerKebab, LowerSnake, UpperCamel, UpperSnake};
    match (language, kind) {
        (Language::Python, "constant") => &[UpperSnake, LowerSnake],
        // A capital says that other packages see a name ("Effective Go", MixedCaps).
        (Language::Java, "constant") => &[UpperSnake],
        (Language::Java, "function" | "method" | "parameter" | "member" | "variable") => &[LowerCamel],
        (Language::CSharp, "function" | "method" | "member") => &[UpperCamel],
        // Constants of the system and of other languages keep their names.
        (Language::CSharp, "constant") => &[UpperCamel, UpperSnake],
        (Language::CSharp, "parameter" | "variable") => &[LowerCamel],
        (Language::Rust, "type") => &[UpperCamel],
        (Language::Rust, "constant") => &[UpperSnake],
        (Language::Rust, "file") => &[],
        (Language::Rust, _) => &[LowerSnake],
        (Language::Go, "file") => &[],
        (Language::Go, _) => &[LowerCamel, UpperCamel],
        (Language::Hcl, "variable") => &[LowerSnake],
        (_, "type") => &[UpperCamel],
        (Language::Python, "variable") => &[LowerSnake, UpperSnake],
        (Language::Python, "member" | "private-member") => &[LowerSnake, UpperSnake],
        (Language::Python, _) => &[LowerSnake],
        (Language::Shell, "function") => &[LowerSnake, LowerKebab],
        (Language::Shell, "constant") => &[UpperSnake, LowerSnake],
        (Language::Shell, "variable") => &[LowerSnake, UpperSnake],
        (Language::Shell, _) | (_, "file") => &[],
        (_, "constant" | "variable") => &[LowerCamel, UpperSnake, UpperCamel],
        (_, "function") => &[LowerCamel, UpperCamel],
        (_, "parameter" | "method") => &[LowerCamel, UpperCamel, UpperSnake],
        (_, "member" | "private-member") => &[LowerCamel, UpperSnake],
        _ => &[LowerCamel],
    }
}
