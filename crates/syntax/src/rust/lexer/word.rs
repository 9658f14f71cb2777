//! "Identifiers", "Keywords", and the literals that a letter begins.

use unicode_ident::{is_xid_continue, is_xid_start};

use super::Lexer;
use crate::tree::{Token, TokenKind};

impl Lexer<'_> {
    /// At an ASCII letter or an underscore.
    #[inline]
    pub(super) fn word(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let end = self.end_of(start + 1, |byte| byte.is_ascii_alphanumeric() || byte == b'_');
        match (self.byte(end), end - start) {
            (b'"' | b'\'' | b'#', 1 | 2) if self.prefixed(tokens, end) => {}
            (0x80.., _) => self.word_beyond_ascii(tokens),
            _ => self.push(tokens, keyword(&self.bytes[start..end]), end),
        }
    }

    /// `r#name`, and literals with a letter before their quote. False where the letters are a name of their own.
    fn prefixed(&mut self, tokens: &mut Vec<Token>, end: usize) -> bool {
        let quote = self.byte(end);
        match (&self.bytes[self.at..end], quote) {
            (b"b" | b"c", b'"') => self.string(tokens, end),
            (b"b", b'\'') => self.character_literal(tokens, end),
            (b"r" | b"br" | b"cr", b'"' | b'#') => return self.raw(tokens, end),
            _ => return false,
        }
        true
    }

    /// `r"…"`, `r#"…"#` or `r#name`, whose letters end at `end`.
    fn raw(&mut self, tokens: &mut Vec<Token>, end: usize) -> bool {
        let hashes = self.end_of(end, |byte| byte == b'#') - end;
        if self.byte(end + hashes) == b'"' {
            self.raw_string(tokens, end + hashes + 1, hashes);
            return true;
        }
        let is_name = &self.bytes[self.at..end] == b"r" && hashes == 1 && self.begins_name(end + 1);
        if is_name {
            self.push(tokens, TokenKind::Name, self.end_of_name(end + 1));
        }
        is_name
    }

    /// A name with characters beyond ASCII.
    pub(super) fn word_beyond_ascii(&mut self, tokens: &mut Vec<Token>) {
        if !self.begins_name(self.at) {
            return self.unknown(tokens);
        }
        self.push(tokens, TokenKind::Name, self.end_of_name(self.at));
    }

    /// Whether a name begins at an offset.
    pub(super) fn begins_name(&self, at: usize) -> bool {
        self.character(at).is_some_and(|first| first == '_' || is_xid_start(first))
    }

    /// Just past the name that begins at an offset.
    pub(super) fn end_of_name(&self, at: usize) -> usize {
        let rest = &self.source[at..];
        at + rest.char_indices().find(|(_, letter)| !is_xid_continue(*letter)).map_or(rest.len(), |(end, _)| end)
    }
}

/// "Keywords": the strict ones, and those that are reserved. The weak ones are names.
fn keyword(word: &[u8]) -> TokenKind {
    match word {
        b"_" => TokenKind::Underscore,
        b"as" => TokenKind::As,
        b"async" => TokenKind::Async,
        b"await" => TokenKind::Await,
        b"break" => TokenKind::Break,
        b"const" => TokenKind::Const,
        b"continue" => TokenKind::Continue,
        b"crate" => TokenKind::Crate,
        b"dyn" => TokenKind::Dyn,
        b"else" => TokenKind::Else,
        b"enum" => TokenKind::Enum,
        b"extern" => TokenKind::Extern,
        b"false" => TokenKind::FalseWord,
        b"fn" => TokenKind::Fn,
        b"for" => TokenKind::For,
        b"if" => TokenKind::If,
        b"impl" => TokenKind::Impl,
        b"in" => TokenKind::In,
        b"let" => TokenKind::Let,
        b"loop" => TokenKind::Loop,
        b"match" => TokenKind::MatchWord,
        b"mod" => TokenKind::Mod,
        b"move" => TokenKind::Move,
        b"mut" => TokenKind::Mut,
        b"pub" => TokenKind::Pub,
        b"ref" => TokenKind::Ref,
        b"return" => TokenKind::Return,
        b"self" => TokenKind::SelfWord,
        b"Self" => TokenKind::SelfType,
        b"static" => TokenKind::StaticWord,
        b"struct" => TokenKind::Struct,
        b"super" => TokenKind::Super,
        b"trait" => TokenKind::Trait,
        b"true" => TokenKind::TrueWord,
        b"type" => TokenKind::TypeWord,
        b"unsafe" => TokenKind::Unsafe,
        b"use" => TokenKind::Use,
        b"where" => TokenKind::Where,
        b"while" => TokenKind::While,
        b"try" => TokenKind::Try,
        b"yield" => TokenKind::Yield,
        b"abstract" | b"become" | b"box" | b"do" | b"final" | b"macro" | b"override" | b"priv" | b"typeof"
        | b"unsized" | b"virtual" => TokenKind::Reserved,
        _ => TokenKind::Name,
    }
}
