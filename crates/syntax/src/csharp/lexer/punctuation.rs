//! "Operators and punctuators", the longest first; what begins with `>` only where the parser expects an operator.

use super::Around;
use crate::parse::{Scan, sign};
use crate::tree::{Token, TokenKind};

impl Scan<'_, Around> {
    pub(super) fn punctuation(&mut self, tokens: &mut Vec<Token>, first: u8) {
        let (second, third) = (self.byte(self.at + 1), self.byte(self.at + 2));
        let (kind, length) = match (first, second, third) {
            (b'?', b'?', b'=') => (TokenKind::QuestionQuestionAssign, 3),
            (b'?', b'?', _) => (TokenKind::QuestionQuestion, 2),
            (b'?', b'.', b'.' | b'0'..=b'9') => (TokenKind::Question, 1),
            (b'?', b'.', _) => (TokenKind::QuestionDot, 2),
            (b'<', b'<', b'=') => (TokenKind::ShiftLeftAssign, 3),
            (b'<', b'<', _) => (TokenKind::ShiftLeft, 2),
            (b'<', b'=', _) => (TokenKind::LessEqual, 2),
            (b'.', b'.', _) => (TokenKind::DotDot, 2),
            (b':', b':', _) => (TokenKind::ColonColon, 2),
            (b'-', b'>', _) => (TokenKind::Arrow, 2),
            (b'=', b'>', _) => (TokenKind::FatArrow, 2),
            (b'&', b'&', _) => (TokenKind::AndAnd, 2),
            (b'|', b'|', _) => (TokenKind::BarBar, 2),
            (b'=', b'=', _) => (TokenKind::Equal, 2),
            (b'!', b'=', _) => (TokenKind::NotEqual, 2),
            (b'+', b'+', _) => (TokenKind::PlusPlus, 2),
            (b'-', b'-', _) => (TokenKind::MinusMinus, 2),
            (b'+', b'=', _) => (TokenKind::PlusAssign, 2),
            (b'-', b'=', _) => (TokenKind::MinusAssign, 2),
            (b'*', b'=', _) => (TokenKind::StarAssign, 2),
            (b'/', b'=', _) => (TokenKind::SlashAssign, 2),
            (b'%', b'=', _) => (TokenKind::PercentAssign, 2),
            (b'&', b'=', _) => (TokenKind::AmpersandAssign, 2),
            (b'|', b'=', _) => (TokenKind::BarAssign, 2),
            (b'^', b'=', _) => (TokenKind::CaretAssign, 2),
            (b'?', _, _) => (TokenKind::Question, 1),
            _ => match sign(first) {
                Some(kind) => (kind, 1),
                None => return self.unknown(tokens),
            },
        };
        self.push(tokens, kind, self.at + length);
    }
}
