//! "Pre-processing expressions".

use std::collections::HashSet;

/// How deep parentheses and signs are looked into; what is deeper does not hold.
const DEPTH_LIMIT: u32 = 64;

/// Whether a condition holds where these symbols are defined; nothing where it is broken.
pub(super) fn holds(condition: &str, symbols: &HashSet<&str>) -> Option<bool> {
    let condition = condition.split("//").next().unwrap_or_default();
    let mut reader = Reader { rest: condition, symbols, depth: 0 };
    let value = reader.either();
    reader.rest = reader.rest.trim_start();
    value.filter(|_| reader.rest.is_empty())
}

struct Reader<'a> {
    rest: &'a str,
    symbols: &'a HashSet<&'a str>,
    depth: u32,
}

impl Reader<'_> {
    fn eat(&mut self, sign: &str) -> bool {
        let rest = self.rest.trim_start();
        let behind = rest.strip_prefix(sign);
        self.rest = behind.unwrap_or(rest);
        behind.is_some()
    }

    /// `a || b`
    fn either(&mut self) -> Option<bool> {
        let mut value = self.both()?;
        while self.eat("||") {
            value |= self.both()?;
        }
        Some(value)
    }

    /// `a && b`
    fn both(&mut self) -> Option<bool> {
        let mut value = self.same()?;
        while self.eat("&&") {
            value &= self.same()?;
        }
        Some(value)
    }

    /// `a == b`, `a != b`
    fn same(&mut self) -> Option<bool> {
        let mut value = self.operand()?;
        loop {
            if self.eat("==") {
                value = value == self.operand()?;
            } else if self.eat("!=") {
                value = value != self.operand()?;
            } else {
                return Some(value);
            }
        }
    }

    fn operand(&mut self) -> Option<bool> {
        if self.depth >= DEPTH_LIMIT {
            return None;
        }
        self.depth += 1;
        let value = if self.eat("(") {
            let value = self.either()?;
            self.eat(")").then_some(value)
        } else if self.eat("!") {
            self.operand().map(|value| !value)
        } else {
            self.symbol()
        };
        self.depth -= 1;
        value
    }

    fn symbol(&mut self) -> Option<bool> {
        let end = self.rest.find(|letter: char| !letter.is_alphanumeric() && letter != '_').unwrap_or(self.rest.len());
        let (word, rest) = self.rest.split_at(end);
        self.rest = rest;
        match word {
            _ if word.starts_with(|first: char| !first.is_alphabetic() && first != '_') || word.is_empty() => None,
            "true" => Some(true),
            "false" => Some(false),
            _ => Some(self.symbols.contains(word)),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn conditions_hold_by_their_symbols() {
        let symbols = HashSet::from(["TIDE", "QUAY_2"]);
        for yes in ["TIDE", " ( TIDE ) && !LOW", "LOW || QUAY_2 // as ever", "LOW == false", "!!true != LOW"] {
            assert_eq!(holds(yes, &symbols), Some(true), "{yes}");
        }
        for no in ["LOW", "!TIDE", "TIDE && LOW"] {
            assert_eq!(holds(no, &symbols), Some(false), "{no}");
        }
        for broken in ["", "8", "TIDE &&", "TIDE LOW", "(TIDE", &"!".repeat(100_000)] {
            assert_eq!(holds(broken, &symbols), None, "{broken}");
        }
    }
}
