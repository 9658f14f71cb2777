//! Reads paths ("Collected ABNF Grammars", RFC 9535, Appendix A), one function a rule.

use super::super::Scalar;
use super::{Comparable, Comparison, Logical, Path, PathError, Query, Segment, Selector};

/// The deepest nesting of filters and parentheses.
const DEEPEST: u32 = 32;

/// The largest index that all readers hold (I-JSON, RFC 7493).
const LARGEST: i64 = (1 << 53) - 1;

type Parsed<T> = Result<T, PathError>;

/// `jsonpath-query = root-identifier segments`
pub(super) fn path(source: &str) -> Parsed<Path> {
    let mut parser = Parser { source, at: 0, depth: 0 };
    if !parser.eat("$") {
        return parser.error("a path begins with '$'");
    }
    let path = parser.segments()?;
    if parser.at < source.len() {
        return parser.error("'.', '..' or '[' would go on with the path here");
    }
    Ok(path)
}

struct Parser<'s> {
    source: &'s str,
    at: usize,
    depth: u32,
}

impl<'s> Parser<'s> {
    fn rest(&self) -> &'s str {
        &self.source[self.at..]
    }

    fn peek(&self) -> Option<char> {
        self.rest().chars().next()
    }

    fn eat(&mut self, token: &str) -> bool {
        let is_there = self.rest().starts_with(token);
        if is_there {
            self.at += token.len();
        }
        is_there
    }

    /// `S = *B`
    fn whitespace(&mut self) {
        self.at += self.rest().len() - self.rest().trim_start_matches([' ', '\t', '\n', '\r']).len();
    }

    fn error<T>(&self, message: &str) -> Parsed<T> {
        let length = self.peek().map_or(0, char::len_utf8);
        Err(PathError { place: self.at..self.at + length, message: message.to_string() })
    }

    fn error_since<T>(&self, start: usize, message: String) -> Parsed<T> {
        Err(PathError { place: start..self.at, message })
    }

    fn nested<T>(&mut self, rule: impl FnOnce(&mut Self) -> Parsed<T>) -> Parsed<T> {
        if self.depth >= DEEPEST {
            return self.error("filters are nested too deep");
        }
        self.depth += 1;
        let outcome = rule(self);
        self.depth -= 1;
        outcome
    }

    /// `segments = *(S segment)`
    fn segments(&mut self) -> Parsed<Path> {
        let mut segments = Vec::new();
        loop {
            let before = self.at;
            self.whitespace();
            if self.eat("..") {
                let selectors = match self.peek() {
                    Some('[') => self.bracketed()?,
                    _ => vec![self.shorthand()?],
                };
                segments.push(Segment { is_descendant: true, selectors });
            } else if self.eat(".") {
                segments.push(Segment { is_descendant: false, selectors: vec![self.shorthand()?] });
            } else if self.peek() == Some('[') {
                segments.push(Segment { is_descendant: false, selectors: self.bracketed()? });
            } else {
                self.at = before;
                return Ok(Path { segments });
            }
        }
    }

    /// `wildcard-selector / member-name-shorthand`
    fn shorthand(&mut self) -> Parsed<Selector> {
        if self.eat("*") {
            return Ok(Selector::Wildcard);
        }
        let is_first = |c: char| c.is_ascii_alphabetic() || c == '_' || !c.is_ascii();
        let rest = self.rest();
        let length = rest.find(|c: char| !is_first(c) && !c.is_ascii_digit()).unwrap_or(rest.len());
        if length == 0 || !rest.starts_with(is_first) {
            return self.error("a name or '*' is behind a dot; other names are written ['in quotes']");
        }
        self.at += length;
        Ok(Selector::Name(rest[..length].to_string()))
    }

    /// `bracketed-selection = "[" S selector *(S "," S selector) S "]"`
    fn bracketed(&mut self) -> Parsed<Vec<Selector>> {
        let start = self.at;
        self.eat("[");
        let mut selectors = Vec::new();
        loop {
            self.whitespace();
            selectors.push(self.selector()?);
            self.whitespace();
            if self.eat("]") {
                return Ok(selectors);
            }
            if !self.eat(",") {
                return match self.peek() {
                    None => Err(PathError { place: start..start + 1, message: "'[' is never closed".to_string() }),
                    Some(_) => self.error("',' or ']' is behind a selector"),
                };
            }
        }
    }

    fn selector(&mut self) -> Parsed<Selector> {
        match self.peek() {
            Some('\'' | '"') => Ok(Selector::Name(self.string()?)),
            Some('*') => {
                self.at += 1;
                Ok(Selector::Wildcard)
            }
            Some('?') => {
                self.at += 1;
                self.whitespace();
                Ok(Selector::Filter(self.nested(Parser::or)?))
            }
            Some(':' | '-' | '0'..='9') => self.index_or_slice(),
            _ => self.error("a name in quotes, a number, '*', a slice or a filter is within brackets"),
        }
    }

    /// `index-selector / slice-selector`
    fn index_or_slice(&mut self) -> Parsed<Selector> {
        let start = self.opt_index()?;
        let before = self.at;
        self.whitespace();
        if !self.eat(":") {
            self.at = before;
            return match start {
                Some(index) => Ok(Selector::Index(index)),
                None => self.error("a number is expected here"),
            };
        }
        self.whitespace();
        let end = self.opt_index()?;
        self.whitespace();
        let mut step = None;
        if self.eat(":") {
            self.whitespace();
            step = self.opt_index()?;
        }
        Ok(Selector::Slice { start, end, step: step.unwrap_or(1) })
    }

    /// `int = "0" / (["-"] DIGIT1 *DIGIT)`
    fn opt_index(&mut self) -> Parsed<Option<i64>> {
        let start = self.at;
        let is_negative = self.eat("-");
        let rest = self.rest();
        let digits = rest.len() - rest.trim_start_matches(|c: char| c.is_ascii_digit()).len();
        self.at += digits;
        if digits == 0 && !is_negative {
            return Ok(None);
        }
        let is_plain = digits > 0 && (!rest.starts_with('0') || digits == 1 && !is_negative);
        let value = rest[..digits].parse::<i64>().ok().filter(|value| is_plain && *value <= LARGEST);
        match value {
            Some(value) => Ok(Some(if is_negative { -value } else { value })),
            None => self.error_since(start, "this is no index: a whole number without leading zeros".to_string()),
        }
    }

    /// `string-literal`
    fn string(&mut self) -> Parsed<String> {
        let start = self.at;
        let Some(quote) = self.peek().filter(|quote| matches!(quote, '\'' | '"')) else {
            return self.error("a string in quotes is expected here");
        };
        self.at += 1;
        let mut value = String::new();
        loop {
            let Some(character) = self.peek() else {
                return Err(PathError { place: start..start + 1, message: "the string is never closed".to_string() });
            };
            if (character as u32) < 0x20 {
                return self.error("a control character in a string is written as an escape");
            }
            self.at += character.len_utf8();
            match character {
                _ if character == quote => return Ok(value),
                '\\' => value.push(self.escape(quote)?),
                _ => value.push(character),
            }
        }
    }

    fn escape(&mut self, quote: char) -> Parsed<char> {
        let start = self.at - 1;
        let letter = self.peek();
        self.at += letter.map_or(0, char::len_utf8);
        Ok(match letter {
            Some('b') => '\x08',
            Some('f') => '\x0c',
            Some('n') => '\n',
            Some('r') => '\r',
            Some('t') => '\t',
            Some(letter @ ('/' | '\\')) => letter,
            Some(letter) if letter == quote => letter,
            Some('u') => {
                let code = self.code();
                let character = code.and_then(|code| match char::from_u32(code.into()) {
                    Some(character) => Some(character),
                    None => {
                        let second = if self.eat("\\u") { self.code()? } else { return None };
                        char::decode_utf16([code, second]).next()?.ok()
                    }
                });
                return match character {
                    Some(character) => Ok(character),
                    None => self.error_since(
                        start,
                        "\\u is followed by four hexadecimal digits, which name a character".to_string(),
                    ),
                };
            }
            _ => return self.error_since(start, "there is no such escape".to_string()),
        })
    }

    fn code(&mut self) -> Option<u16> {
        let digits = self.rest().get(..4).filter(|digits| digits.bytes().all(|byte| byte.is_ascii_hexdigit()))?;
        self.at += 4;
        u16::from_str_radix(digits, 16).ok()
    }

    /// `logical-or-expr = logical-and-expr *(S "||" S logical-and-expr)`
    fn or(&mut self) -> Parsed<Logical> {
        self.joined("||", Parser::and, Logical::Or)
    }

    fn and(&mut self) -> Parsed<Logical> {
        self.joined("&&", Parser::basic, Logical::And)
    }

    fn joined(
        &mut self,
        operator: &str,
        part: fn(&mut Self) -> Parsed<Logical>,
        all: fn(Vec<Logical>) -> Logical,
    ) -> Parsed<Logical> {
        let mut parts = vec![part(self)?];
        loop {
            let before = self.at;
            self.whitespace();
            if !self.eat(operator) {
                self.at = before;
                return Ok(if parts.len() == 1 { parts.remove(0) } else { all(parts) });
            }
            self.whitespace();
            parts.push(part(self)?);
        }
    }

    /// `basic-expr = paren-expr / comparison-expr / test-expr`
    fn basic(&mut self) -> Parsed<Logical> {
        if self.eat("!") {
            self.whitespace();
            let start = self.at;
            let inner = if self.peek() == Some('(') { self.parenthesised()? } else { self.comparison()? };
            if matches!(inner, Logical::Compare(..)) && !self.source[start..].starts_with('(') {
                return self.error_since(start, "'!' is before a test or parentheses".to_string());
            }
            return Ok(Logical::Not(Box::new(inner)));
        }
        if self.peek() == Some('(') { self.parenthesised() } else { self.comparison() }
    }

    fn parenthesised(&mut self) -> Parsed<Logical> {
        self.eat("(");
        self.whitespace();
        let inner = self.nested(Parser::or)?;
        self.whitespace();
        if self.eat(")") { Ok(inner) } else { self.error("')' is missing") }
    }

    /// `comparison-expr`, or a test that something is there or holds.
    fn comparison(&mut self) -> Parsed<Logical> {
        let start = self.at;
        let left = self.operand()?;
        let before = self.at;
        self.whitespace();
        let Some(comparison) = self.operator() else {
            self.at = before;
            return match left {
                Operand::Query(query) => Ok(Logical::Exists(query)),
                Operand::Test(test) => Ok(test),
                Operand::Value(_) => {
                    self.error_since(start, "this is no test: a value is compared with another one".to_string())
                }
            };
        };
        self.whitespace();
        let left = self.comparable(left, start)?;
        let start = self.at;
        let right = self.operand()?;
        let right = self.comparable(right, start)?;
        Ok(Logical::Compare(left, comparison, right))
    }

    fn operator(&mut self) -> Option<Comparison> {
        let operators = [
            ("==", Comparison::Equal),
            ("!=", Comparison::NotEqual),
            ("<=", Comparison::LessOrEqual),
            (">=", Comparison::GreaterOrEqual),
            ("<", Comparison::Less),
            (">", Comparison::Greater),
        ];
        operators.into_iter().find(|(written, _)| self.eat(written)).map(|(_, comparison)| comparison)
    }

    /// What has one value.
    fn comparable(&self, operand: Operand, start: usize) -> Parsed<Comparable> {
        match operand {
            Operand::Value(value) => Ok(value),
            Operand::Query(query) if query.path.is_single() => Ok(Comparable::Single(query)),
            Operand::Query(_) => {
                self.error_since(start, "this may lead to several values: only one can be compared".to_string())
            }
            Operand::Test(_) => self.error_since(start, "what holds or does not is not compared".to_string()),
        }
    }

    fn operand(&mut self) -> Parsed<Operand> {
        match self.peek() {
            Some('\'' | '"') => Ok(Operand::Value(Comparable::Literal(Scalar::String(self.string()?)))),
            Some('@' | '$') => Ok(Operand::Query(self.query()?)),
            Some('-' | '0'..='9') => Ok(Operand::Value(Comparable::Literal(self.number()?))),
            Some('a'..='z') => self.word(),
            _ => self.error("a value, a path from '@' or '$', or a function is expected here"),
        }
    }

    fn query(&mut self) -> Parsed<Query> {
        let is_absolute = self.peek() == Some('$');
        self.at += 1;
        Ok(Query { is_absolute, path: self.nested(Parser::segments)? })
    }

    /// `number = (int / "-0") [ frac ] [ exp ]`
    fn number(&mut self) -> Parsed<Scalar> {
        let start = self.at;
        self.eat("-");
        let digits = |parser: &mut Self| {
            let rest = parser.rest();
            let count = rest.len() - rest.trim_start_matches(|c: char| c.is_ascii_digit()).len();
            parser.at += count;
            count
        };
        let is_zero = self.peek() == Some('0');
        let mut is_right = matches!((digits(self), is_zero), (1, _) | (2.., false));
        if self.eat(".") {
            is_right &= digits(self) > 0;
        }
        if self.eat("e") || self.eat("E") {
            let _ = self.eat("-") || self.eat("+");
            is_right &= digits(self) > 0;
        }
        match self.source[start..self.at].parse() {
            Ok(value) if is_right => Ok(Scalar::Real(value)),
            _ => self.error_since(start, "this is no number".to_string()),
        }
    }

    /// `true`, `false`, `null`, or a function.
    fn word(&mut self) -> Parsed<Operand> {
        let start = self.at;
        let rest = self.rest();
        let is_part = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '_';
        let name = &rest[..rest.find(|c| !is_part(c)).unwrap_or(rest.len())];
        self.at += name.len();
        let literal = |scalar| Ok(Operand::Value(Comparable::Literal(scalar)));
        match name {
            "true" => return literal(Scalar::Boolean(true)),
            "false" => return literal(Scalar::Boolean(false)),
            "null" => return literal(Scalar::Null),
            _ => {}
        }
        let known = FUNCTIONS.iter().find(|known| **known == name);
        let Some(name) = known else {
            return self
                .error_since(start, format!("there is no function \"{name}\": {} are known", FUNCTIONS.join(", ")));
        };
        if !self.eat("(") {
            return self.error("'(' is behind the name of a function");
        }
        self.nested(|parser| parser.call(name))
    }

    /// The arguments of a function, and what it comes to (RFC 9535, 2.4).
    fn call(&mut self, name: &str) -> Parsed<Operand> {
        let first = self.argument()?;
        let operand = match (name, first) {
            ("count", (Operand::Query(query), _)) => Operand::Value(Comparable::Count(query)),
            ("value", (Operand::Query(query), _)) => Operand::Value(Comparable::ValueOf(query)),
            ("count" | "value", (_, start)) => {
                return self.error_since(start, format!("{name} takes a path from '@' or '$'"));
            }
            ("length", (operand, start)) => {
                Operand::Value(Comparable::Length(Box::new(self.comparable(operand, start)?)))
            }
            (_, (operand, start)) => {
                let text = self.comparable(operand, start)?;
                if !self.eat(",") {
                    return self.error("a second argument is missing");
                }
                let (operand, start) = self.argument()?;
                let pattern = self.comparable(operand, start)?;
                Operand::Test(Logical::Matches { text, pattern, is_whole: name == "match" })
            }
        };
        if self.eat(")") { Ok(operand) } else { self.error("')' is behind the arguments of a function") }
    }

    fn argument(&mut self) -> Parsed<(Operand, usize)> {
        self.whitespace();
        let start = self.at;
        let operand = self.operand()?;
        self.whitespace();
        Ok((operand, start))
    }
}

/// The functions of the standard.
const FUNCTIONS: &[&str] = &["count", "length", "match", "search", "value"];

/// A part of a filter, before it is known what it is for.
enum Operand {
    Value(Comparable),
    Query(Query),
    Test(Logical),
}
