//! "Identifiers", "Keywords", "Unicode Escapes" in names.

use super::Around;
use crate::parse::Scan;
use crate::tree::{Token, TokenKind};

impl Scan<'_, Around<'_>> {
    /// At an ASCII letter, `$` or an underscore.
    #[inline]
    pub(super) fn word(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let end = self.end_of(start + 1, |byte| byte.is_ascii_alphanumeric() || matches!(byte, b'_' | b'$'));
        match self.byte(end) {
            0x80.. | b'\\' => self.word_beyond_ascii(tokens),
            _ => self.push(tokens, keyword(&self.bytes[start..end]), end),
        }
    }

    /// A name with characters beyond ASCII, or with escapes.
    pub(super) fn word_beyond_ascii(&mut self, tokens: &mut Vec<Token>) {
        let mut end = self.at;
        while let Some((letter, length)) = self.letter(end) {
            let fits = if end == self.at { begins_name(letter) } else { continues_name(letter) };
            if !fits {
                break;
            }
            end += length;
        }
        if end == self.at {
            return self.unknown(tokens);
        }
        self.push(tokens, TokenKind::Name, end);
    }

    /// The character at an offset, perhaps written by its code, and its length in bytes.
    fn letter(&self, at: usize) -> Option<(char, usize)> {
        if self.byte(at) != b'\\' {
            return self.character(at).map(|letter| (letter, letter.len_utf8()));
        }
        let digits = self.end_of(at + 1, |byte| byte == b'u');
        let code = self.source.get(digits..digits + 4).filter(|_| digits > at + 1)?;
        let letter = char::from_u32(u32::from_str_radix(code, 16).ok()?)?;
        Some((letter, digits + 4 - at))
    }
}

/// `Character.isJavaIdentifierStart`
fn begins_name(letter: char) -> bool {
    letter == '$' || letter == '_' || unicode_ident::is_xid_start(letter) || is_currency_or_connector(letter)
}

/// `Character.isJavaIdentifierPart`
fn continues_name(letter: char) -> bool {
    letter == '$'
        || unicode_ident::is_xid_continue(letter)
        || is_currency_or_connector(letter)
        || matches!(letter, '\0'..='\u{8}' | '\u{e}'..='\u{1b}' | '\u{7f}'..='\u{9f}' | '\u{ad}' | '\u{200b}'..='\u{200f}' | '\u{feff}')
}

/// Signs of currencies and signs that join words, which other languages have in no names.
fn is_currency_or_connector(letter: char) -> bool {
    matches!(letter, '\u{a2}'..='\u{a5}' | '\u{20a0}'..='\u{20c0}' | '\u{203f}' | '\u{2040}' | '\u{2054}' | '\u{fe33}' | '\u{fe34}')
}

/// "Reserved keywords"; the contextual ones are names.
fn keyword(word: &[u8]) -> TokenKind {
    match word {
        b"_" => TokenKind::Underscore,
        b"abstract" | b"final" | b"native" | b"private" | b"protected" | b"public" | b"strictfp" | b"synchronized"
        | b"transient" | b"volatile" => TokenKind::Modifier,
        b"boolean" | b"byte" | b"char" | b"double" | b"float" | b"int" | b"long" | b"short" => TokenKind::PrimitiveType,
        b"assert" => TokenKind::Assert,
        b"break" => TokenKind::Break,
        b"case" => TokenKind::Case,
        b"catch" => TokenKind::Catch,
        b"class" => TokenKind::Class,
        b"const" | b"goto" => TokenKind::Reserved,
        b"continue" => TokenKind::Continue,
        b"default" => TokenKind::Default,
        b"do" => TokenKind::Do,
        b"else" => TokenKind::Else,
        b"enum" => TokenKind::Enum,
        b"extends" => TokenKind::Extends,
        b"false" => TokenKind::FalseWord,
        b"finally" => TokenKind::Finally,
        b"for" => TokenKind::For,
        b"if" => TokenKind::If,
        b"implements" => TokenKind::Implements,
        b"import" => TokenKind::Import,
        b"instanceof" => TokenKind::Instanceof,
        b"interface" => TokenKind::InterfaceWord,
        b"new" => TokenKind::New,
        b"null" => TokenKind::NullWord,
        b"package" => TokenKind::Package,
        b"return" => TokenKind::Return,
        b"static" => TokenKind::StaticWord,
        b"super" => TokenKind::Super,
        b"switch" => TokenKind::Switch,
        b"this" => TokenKind::This,
        b"throw" => TokenKind::Throw,
        b"throws" => TokenKind::Throws,
        b"true" => TokenKind::TrueWord,
        b"try" => TokenKind::Try,
        b"void" => TokenKind::Void,
        b"while" => TokenKind::While,
        _ => TokenKind::Name,
    }
}
