//! "Identifiers", "Keywords".

use super::Around;
use crate::parse::Scan;
use crate::tree::{Token, TokenKind};

impl Scan<'_, Around> {
    /// At an ASCII letter or an underscore.
    #[inline]
    pub(super) fn word(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let end = self.end_of(start + 1, |byte| byte.is_ascii_alphanumeric() || byte == b'_');
        match self.byte(end) {
            0x80.. | b'\\' => self.word_beyond_ascii(tokens),
            _ => self.push(tokens, keyword(&self.bytes[start..end]), end),
        }
    }

    /// A name with characters beyond ASCII, with escapes, or with `@` before it.
    pub(super) fn word_beyond_ascii(&mut self, tokens: &mut Vec<Token>) {
        let first = self.at + usize::from(self.byte(self.at) == b'@');
        let mut end = first;
        while let Some((letter, length)) = self.letter(end) {
            let fits = if end == first {
                letter == '_' || unicode_ident::is_xid_start(letter)
            } else {
                continues_name(letter)
            };
            if !fits {
                break;
            }
            end += length;
        }
        if end == first {
            return self.unknown(tokens);
        }
        // What is behind a word may be no part of it: whitespace beyond ASCII.
        let word = &self.bytes[self.at..end];
        let kind = if word.is_ascii() { keyword(word) } else { TokenKind::Name };
        self.push(tokens, kind, end);
    }

    /// The character at an offset, perhaps written by its code, and its length in bytes.
    fn letter(&self, at: usize) -> Option<(char, usize)> {
        if self.byte(at) != b'\\' {
            return self.character(at).map(|letter| (letter, letter.len_utf8()));
        }
        let digits = match self.byte(at + 1) {
            b'u' => 4,
            b'U' => 8,
            _ => return None,
        };
        let code = self.source.get(at + 2..at + 2 + digits)?;
        Some((char::from_u32(u32::from_str_radix(code, 16).ok()?)?, 2 + digits))
    }
}

/// Letters, digits, signs that join words, and signs that only shape what is around them.
fn continues_name(letter: char) -> bool {
    unicode_ident::is_xid_continue(letter)
        || matches!(letter, '\u{ad}' | '\u{200b}'..='\u{200f}' | '\u{2060}' | '\u{feff}')
}

/// "Keywords"; the contextual ones are names.
fn keyword(word: &[u8]) -> TokenKind {
    match word {
        b"abstract" | b"internal" | b"override" | b"private" | b"protected" | b"public" | b"readonly" | b"sealed"
        | b"virtual" | b"volatile" => TokenKind::Modifier,
        b"bool" | b"byte" | b"char" | b"decimal" | b"double" | b"float" | b"int" | b"long" | b"object" | b"sbyte"
        | b"short" | b"string" | b"uint" | b"ulong" | b"ushort" => TokenKind::PrimitiveType,
        b"as" => TokenKind::As,
        b"base" => TokenKind::Super,
        b"break" => TokenKind::Break,
        b"case" => TokenKind::Case,
        b"catch" => TokenKind::Catch,
        b"checked" | b"unchecked" => TokenKind::Checked,
        b"class" => TokenKind::Class,
        b"const" => TokenKind::Const,
        b"continue" => TokenKind::Continue,
        b"default" => TokenKind::Default,
        b"delegate" => TokenKind::Delegate,
        b"do" => TokenKind::Do,
        b"else" => TokenKind::Else,
        b"enum" => TokenKind::Enum,
        b"event" => TokenKind::Event,
        b"explicit" | b"implicit" => TokenKind::ConversionWord,
        b"extern" => TokenKind::Extern,
        b"false" => TokenKind::FalseWord,
        b"finally" => TokenKind::Finally,
        b"fixed" => TokenKind::Fixed,
        b"for" => TokenKind::For,
        b"foreach" => TokenKind::Foreach,
        b"goto" => TokenKind::Goto,
        b"if" => TokenKind::If,
        b"in" => TokenKind::In,
        b"interface" => TokenKind::InterfaceWord,
        b"is" => TokenKind::Is,
        b"lock" => TokenKind::Lock,
        b"namespace" => TokenKind::NamespaceWord,
        b"new" => TokenKind::New,
        b"null" => TokenKind::NullWord,
        b"operator" => TokenKind::OperatorWord,
        b"out" => TokenKind::Out,
        b"params" => TokenKind::Params,
        b"ref" => TokenKind::Ref,
        b"return" => TokenKind::Return,
        b"sizeof" => TokenKind::Sizeof,
        b"stackalloc" => TokenKind::Stackalloc,
        b"static" => TokenKind::StaticWord,
        b"struct" => TokenKind::Struct,
        b"switch" => TokenKind::Switch,
        b"this" => TokenKind::This,
        b"throw" => TokenKind::Throw,
        b"true" => TokenKind::TrueWord,
        b"try" => TokenKind::Try,
        b"typeof" => TokenKind::Typeof,
        b"unsafe" => TokenKind::Unsafe,
        b"using" => TokenKind::Using,
        b"void" => TokenKind::Void,
        b"while" => TokenKind::While,
        _ => TokenKind::Name,
    }
}
