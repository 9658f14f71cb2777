//! Punctuators, the longest first; those that begin with `>` only when the parser asks for an operator.

use super::Lexer;
use crate::tree::{Token, TokenKind};

impl Lexer<'_> {
    pub(super) fn punctuation(&mut self, tokens: &mut Vec<Token>, first: u8) {
        use TokenKind::*;
        let at = self.at;
        let second = self.byte(at + 1);
        let (kind, length) = match (first, second) {
            (b'(', _) => (ParenOpen, 1),
            (b')', _) => (ParenClose, 1),
            (b'{', _) => (BraceOpen, 1),
            (b'}', _) => (BraceClose, 1),
            (b'[', _) => (BracketOpen, 1),
            (b']', _) => (BracketClose, 1),
            (b',', _) => (Comma, 1),
            (b';', _) => (Semicolon, 1),
            (b':', _) => (Colon, 1),
            (b'~', _) => (Tilde, 1),
            (b'@', _) => (At, 1),
            (b'.', b'0'..=b'9') => return self.number(tokens),
            (b'.', b'.') if self.byte(at + 2) == b'.' => (Ellipsis, 3),
            (b'.', _) => (Dot, 1),
            (b'=', b'>') => (FatArrow, 2),
            (b'=', b'=') if self.byte(at + 2) == b'=' => (StrictEqual, 3),
            (b'=', b'=') => (Equal, 2),
            (b'=', _) => (Assign, 1),
            (b'!', b'=') if self.byte(at + 2) == b'=' => (StrictNotEqual, 3),
            (b'!', b'=') => (NotEqual, 2),
            (b'!', _) => (Exclamation, 1),
            (b'+', b'+') => (PlusPlus, 2),
            (b'+', b'=') => (PlusAssign, 2),
            (b'+', _) => (Plus, 1),
            (b'-', b'-') => (MinusMinus, 2),
            (b'-', b'=') => (MinusAssign, 2),
            (b'-', _) => (Minus, 1),
            (b'*', b'*') if self.byte(at + 2) == b'=' => (StarStarAssign, 3),
            (b'*', b'*') => (StarStar, 2),
            (b'*', b'=') => (StarAssign, 2),
            (b'*', _) => (Star, 1),
            (b'%', b'=') => (PercentAssign, 2),
            (b'%', _) => (Percent, 1),
            (b'&', b'&') if self.byte(at + 2) == b'=' => (AndAndAssign, 3),
            (b'&', b'&') => (AndAnd, 2),
            (b'&', b'=') => (AmpersandAssign, 2),
            (b'&', _) => (Ampersand, 1),
            (b'|', b'|') if self.byte(at + 2) == b'=' => (BarBarAssign, 3),
            (b'|', b'|') => (BarBar, 2),
            (b'|', b'=') => (BarAssign, 2),
            (b'|', _) => (Bar, 1),
            (b'^', b'=') => (CaretAssign, 2),
            (b'^', _) => (Caret, 1),
            (b'<', b'<') if self.byte(at + 2) == b'=' => (ShiftLeftAssign, 3),
            (b'<', b'<') => (ShiftLeft, 2),
            (b'<', b'=') => (LessEqual, 2),
            (b'<', _) => (Less, 1),
            (b'>', _) => (Greater, 1),
            (b'?', b'?') if self.byte(at + 2) == b'=' => (QuestionQuestionAssign, 3),
            (b'?', b'?') => (QuestionQuestion, 2),
            // `a?.5:b` chooses between numbers.
            (b'?', b'.') if !self.byte(at + 2).is_ascii_digit() => (QuestionDot, 2),
            _ => (Question, 1),
        };
        self.push(tokens, kind, at + length);
    }
}
