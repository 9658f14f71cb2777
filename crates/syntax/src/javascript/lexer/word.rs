//! Names and keywords.

use super::bytes::continues_word;
use super::{Class, Lexer, class_of};
use crate::tree::{Token, TokenKind};

impl Lexer<'_> {
    /// At an ASCII letter, `$` or underscore.
    #[inline]
    pub(super) fn word(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let mut end = start + 1;
        while continues_word(self.byte(end)) {
            end += 1;
        }
        let next = self.byte(end);
        if !next.is_ascii() || next == b'\\' {
            return self.word_beyond_ascii(tokens);
        }
        let kind = keyword(&self.bytes[start..end]);
        self.push(tokens, kind, end);
    }

    /// A word with escapes or with characters beyond ASCII ("Names and Keywords"; UAX #31).
    pub(super) fn word_beyond_ascii(&mut self, tokens: &mut Vec<Token>) {
        match self.end_of_name(self.at) {
            // A word that ends before a space beyond ASCII may be a keyword; one with an escape in it never is.
            Some(end) => self.push(tokens, keyword(&self.bytes[self.at..end]), end),
            None => self.odd_character(tokens),
        }
    }

    pub(super) fn private_name(&mut self, tokens: &mut Vec<Token>) {
        match self.end_of_name(self.at + 1) {
            Some(end) => self.push(tokens, TokenKind::PrivateName, end),
            None => self.odd_character(tokens),
        }
    }

    /// Just past the name that begins at an offset.
    pub(super) fn end_of_name(&self, start: usize) -> Option<usize> {
        let mut end = start;
        loop {
            let (character, length) = match self.byte(end) {
                b'\\' => self.escaped_character(end)?,
                _ => match self.character(end) {
                    Some(character) => (character, character.len_utf8()),
                    None => break,
                },
            };
            let fits = if end == start { begins_name(character) } else { continues_name(character) };
            if !fits {
                break;
            }
            end += length;
        }
        (end > start).then_some(end)
    }

    /// `\u0061` or `\u{61}`: the character and the length of the escape.
    fn escaped_character(&self, at: usize) -> Option<(char, usize)> {
        let rest = self.source.get(at..)?.strip_prefix("\\u")?;
        let (digits, length) = match rest.strip_prefix('{') {
            Some(inner) => {
                let digits = inner.split('}').next()?;
                (digits, digits.len() + 4)
            }
            None => (rest.get(..4)?, 6),
        };
        Some((char::from_u32(u32::from_str_radix(digits, 16).ok()?)?, length))
    }

    /// Tells of a name or digit directly after a number.
    pub(super) fn refuse_name_behind_number(&mut self, at: usize) {
        if matches!(class_of(self.byte(at)), Class::Letter | Class::Digit | Class::Backslash)
            || self.character(at).is_some_and(|next| !next.is_ascii() && begins_name(next))
        {
            self.fault(at, at + 1, "a space is missing between a number and a name");
        }
    }
}

fn begins_name(character: char) -> bool {
    matches!(character, '$' | '_') || unicode_ident::is_xid_start(character) || is_id_but_not_xid(character)
}

fn continues_name(character: char) -> bool {
    matches!(character, '$' | '\u{200c}' | '\u{200d}')
        || unicode_ident::is_xid_continue(character)
        || is_id_but_not_xid(character)
}

/// The characters that have the property ID_Start, which the language names, but not XID_Start (UAX #31, section 5.1).
fn is_id_but_not_xid(character: char) -> bool {
    matches!(
        character,
        '\u{37a}' | '\u{e33}' | '\u{eb3}' | '\u{309b}' | '\u{309c}' | '\u{fc5e}'
            ..='\u{fc63}'
                | '\u{fdfa}'
                | '\u{fdfb}'
                | '\u{fe70}'
                | '\u{fe72}'
                | '\u{fe74}'
                | '\u{fe76}'
                | '\u{fe78}'
                | '\u{fe7a}'
                | '\u{fe7c}'
                | '\u{fe7e}'
                | '\u{ff9e}'
                | '\u{ff9f}'
    )
}

/// The kind of a word: a reserved word's, or that of a name. Words that are reserved only in places are names.
#[inline]
fn keyword(word: &[u8]) -> TokenKind {
    if word.len() < 2 || word.len() > 10 {
        return TokenKind::Name;
    }
    match word {
        b"break" => TokenKind::Break,
        b"case" => TokenKind::Case,
        b"catch" => TokenKind::Catch,
        b"class" => TokenKind::Class,
        b"const" => TokenKind::Const,
        b"continue" => TokenKind::Continue,
        b"debugger" => TokenKind::Debugger,
        b"default" => TokenKind::Default,
        b"delete" => TokenKind::Delete,
        b"do" => TokenKind::Do,
        b"else" => TokenKind::Else,
        b"enum" => TokenKind::Enum,
        b"export" => TokenKind::Export,
        b"extends" => TokenKind::Extends,
        b"false" => TokenKind::FalseWord,
        b"finally" => TokenKind::Finally,
        b"for" => TokenKind::For,
        b"function" => TokenKind::FunctionWord,
        b"if" => TokenKind::If,
        b"import" => TokenKind::Import,
        b"in" => TokenKind::In,
        b"instanceof" => TokenKind::Instanceof,
        b"new" => TokenKind::New,
        b"null" => TokenKind::NullWord,
        b"return" => TokenKind::Return,
        b"super" => TokenKind::Super,
        b"switch" => TokenKind::Switch,
        b"this" => TokenKind::This,
        b"throw" => TokenKind::Throw,
        b"true" => TokenKind::TrueWord,
        b"try" => TokenKind::Try,
        b"typeof" => TokenKind::Typeof,
        b"var" => TokenKind::Var,
        b"void" => TokenKind::Void,
        b"while" => TokenKind::While,
        b"with" => TokenKind::With,
        _ => TokenKind::Name,
    }
}
