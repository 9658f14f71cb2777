//! Names, keywords, and the prefixes of strings.

use super::Lexer;
use super::bytes::{Class, class_of, continues_word};
use crate::tree::TokenKind;

impl Lexer<'_> {
    /// At an ASCII letter or underscore.
    #[inline]
    pub(super) fn word(&mut self) {
        let start = self.position;
        let mut end = start + 1;
        while continues_word(self.byte(end)) {
            end += 1;
        }
        let next = self.byte(end);
        if class_of(next) == Class::Quote && end - start <= 2 && is_string_prefix(&self.bytes[start..end]) {
            return self.string(end);
        }
        if !next.is_ascii() {
            return self.word_beyond_ascii();
        }
        let kind = keyword(&self.bytes[start..end]);
        self.push_solid(kind, end);
    }

    /// A word with characters beyond ASCII (UAX #31, with the properties that the language names).
    pub(super) fn word_beyond_ascii(&mut self) {
        let start = self.position;
        let mut characters = self.source[start..].char_indices();
        let begins = characters.next().is_some_and(|(_, first)| first == '_' || unicode_ident::is_xid_start(first));
        if !begins {
            return self.unknown();
        }
        let end = characters
            .find(|(_, character)| !unicode_ident::is_xid_continue(*character))
            .map_or(self.bytes.len(), |(length, _)| start + length);
        // A word may end before a character that no name can hold: what it is does not depend on that character.
        self.push_solid(keyword(&self.bytes[start..end]), end);
    }
}

fn is_string_prefix(word: &[u8]) -> bool {
    let lower = |at: usize| word[at].to_ascii_lowercase();
    match word.len() {
        1 => matches!(lower(0), b'r' | b'u' | b'b' | b'f' | b't'),
        2 => matches!((lower(0), lower(1)), (b'r', b'b' | b'f' | b't') | (b'b', b'r') | (b'f', b'r') | (b't', b'r')),
        _ => false,
    }
}

/// The kind of a word: a keyword's, or that of a name.
#[inline]
fn keyword(word: &[u8]) -> TokenKind {
    if word.len() < 2 || word.len() > 8 {
        return TokenKind::Name;
    }
    match word {
        b"and" => TokenKind::And,
        b"as" => TokenKind::As,
        b"assert" => TokenKind::Assert,
        b"async" => TokenKind::Async,
        b"await" => TokenKind::Await,
        b"break" => TokenKind::Break,
        b"class" => TokenKind::Class,
        b"continue" => TokenKind::Continue,
        b"def" => TokenKind::Def,
        b"del" => TokenKind::Del,
        b"elif" => TokenKind::Elif,
        b"else" => TokenKind::Else,
        b"except" => TokenKind::Except,
        b"False" => TokenKind::False,
        b"finally" => TokenKind::Finally,
        b"for" => TokenKind::For,
        b"from" => TokenKind::From,
        b"global" => TokenKind::Global,
        b"if" => TokenKind::If,
        b"import" => TokenKind::Import,
        b"in" => TokenKind::In,
        b"is" => TokenKind::Is,
        b"lambda" => TokenKind::Lambda,
        b"None" => TokenKind::None,
        b"nonlocal" => TokenKind::Nonlocal,
        b"not" => TokenKind::Not,
        b"or" => TokenKind::Or,
        b"pass" => TokenKind::Pass,
        b"raise" => TokenKind::Raise,
        b"return" => TokenKind::Return,
        b"True" => TokenKind::True,
        b"try" => TokenKind::Try,
        b"while" => TokenKind::While,
        b"with" => TokenKind::With,
        b"yield" => TokenKind::Yield,
        _ => TokenKind::Name,
    }
}

/// Whether a line that begins with these bytes begins a statement and cannot go on with an expression.
pub(super) fn begins_only_statements(line: &[u8]) -> bool {
    let length = line.iter().take_while(|byte| byte.is_ascii_lowercase()).count();
    if length > 8 || line.get(length).is_some_and(|byte| continues_word(*byte) || !byte.is_ascii()) {
        return false;
    }
    matches!(
        &line[..length],
        b"def"
            | b"class"
            | b"return"
            | b"import"
            | b"while"
            | b"try"
            | b"with"
            | b"raise"
            | b"pass"
            | b"break"
            | b"continue"
            | b"global"
            | b"nonlocal"
            | b"assert"
            | b"del"
            | b"elif"
            | b"except"
            | b"finally"
    )
}
