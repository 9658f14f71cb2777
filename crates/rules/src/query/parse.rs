//! Reads a query: the grammar of docs/query.md, from the top down.

use std::ops::Range;

use super::error::QueryError;
use super::lex::{Token, tokens};
use super::syntax::{
    Condition, Function, Operator, Path, Query, Relation, Term, Test, Value, ValueKind, Verb, Way, Word,
};

/// Brackets within brackets, no deeper than this.
const DEEPEST: usize = 64;

/// Words that say how nodes are related: no name begins a condition with one of them.
const RELATIONS: &[&str] = &["directly", "inside", "holding", "after", "before"];

pub(super) fn parse(source: &str) -> Result<Query, QueryError> {
    let mut parser = Parser { tokens: tokens(source)?, at: 0, depth: 0 };
    let query = parser.query()?;
    parser.end("a relation or the end of the query")?;
    Ok(query)
}

/// Reads a path by itself.
pub(super) fn parse_path(source: &str) -> Result<Path, QueryError> {
    let mut parser = Parser { tokens: tokens(source)?, at: 0, depth: 0 };
    let path = parser.path()?;
    parser.end("the end of the path")?;
    Ok(path)
}

/// Reads what a fix does.
///
/// `verb = "replace" , ( "it" | path ) , "with" , string | "remove" , "it" | "insert" , string , ( "before" | "after" ) , "it" ;`
pub(super) fn parse_verb(source: &str) -> Result<Verb, QueryError> {
    let mut parser = Parser { tokens: tokens(source)?, at: 0, depth: 0 };
    let verb = parser.verb()?;
    parser.end("the end of the fix")?;
    Ok(verb)
}

struct Parser {
    tokens: Vec<(Token, Range<usize>)>,
    at: usize,
    depth: usize,
}

type Parsed<T> = Result<T, QueryError>;

impl Parser {
    /// `query = term , { relation , term } ;`
    fn query(&mut self) -> Parsed<Query> {
        let first = self.term()?;
        let mut relations = Vec::new();
        while self.begins_relation() {
            relations.push(self.relation()?);
        }
        Ok(Query { first, relations })
    }

    /// `term = kind , [ "as" , name ] , [ "{" , conditions , "}" ] | "(" , query , { "or" , query } , ")" ;`
    fn term(&mut self) -> Parsed<Term> {
        if self.at_sign("(") {
            return Ok(Term::Either(self.bracketed(")", |parser| parser.separated("or", Parser::query))?));
        }
        let kind = self.word("a kind of node")?;
        let capture = if self.eat_word("as") { Some(self.word("a name for the node")?) } else { None };
        let conditions = if self.at_sign("{") {
            self.bracketed("}", |parser| {
                let mut conditions = vec![parser.condition()?];
                while parser.eat_sign(",") {
                    conditions.push(parser.condition()?);
                }
                Ok(conditions)
            })?
        } else {
            Vec::new()
        };
        Ok(Term::Node { kind, capture, conditions })
    }

    fn begins_relation(&self) -> bool {
        let ahead = usize::from(self.at_word("not"));
        matches!(self.token(ahead), Token::Word(word) if RELATIONS.contains(&word.as_str()))
    }

    /// `[ "not" ] , [ "directly" ] , ( "inside" | "holding" ) , term | [ "not" ] , ( "after" | "before" ) , term`
    fn relation(&mut self) -> Parsed<Relation> {
        let negated = self.eat_word("not");
        let directly = self.eat_word("directly");
        let way = match (self.word("inside, holding, after or before")?, directly) {
            (word, false) if word.text == "inside" => Way::Inside,
            (word, true) if word.text == "inside" => Way::DirectlyInside,
            (word, false) if word.text == "holding" => Way::Holding,
            (word, true) if word.text == "holding" => Way::DirectlyHolding,
            (word, false) if word.text == "after" => Way::After,
            (word, false) if word.text == "before" => Way::Before,
            (word, _) => {
                let message = format!("expected inside or holding, found \"{}\"", word.text);
                return Err(QueryError::new(word.place, message));
            }
        };
        Ok(Relation { negated, way, term: self.term()? })
    }

    /// `condition = [ "not" ] , ( test | path , relation , term | "(" , condition , { "or" , condition } , ")" ) ;`
    fn condition(&mut self) -> Parsed<Condition> {
        let negated = self.eat_word("not");
        if self.at_sign("(") {
            let test = Test::Either(self.bracketed(")", |parser| parser.separated("or", Parser::condition))?);
            return Ok(Condition { negated, test });
        }
        if let Some(function) = self.function() {
            let path = self.bracketed(")", Parser::path)?;
            let compared = match self.operator() {
                Some(operator) => Some((operator, self.value()?)),
                None => None,
            };
            return Ok(Condition { negated, test: Test::Function(function, path, compared) });
        }
        let path = self.path()?;
        let test = if self.begins_relation() {
            Test::Relation(path, self.relation()?)
        } else if self.eat_word("exists") {
            Test::Exists(path)
        } else if self.eat_word("same") {
            Test::Same(path, self.word("the name of a captured node")?)
        } else if self.eat_word("as") {
            Test::Capture(path, self.word("a name for the node")?)
        } else if let Some(operator) = self.operator() {
            Test::Compare(path, operator, self.value()?)
        } else {
            let operators: Vec<&str> = Operator::ALL.iter().map(|one| one.written()).collect();
            return Err(
                self.unexpected(&format!("exists, same, as, a relation or an operator ({})", operators.join(" ")))
            );
        };
        Ok(Condition { negated, test })
    }

    /// The name of a function, if a bracket follows it.
    fn function(&mut self) -> Option<Function> {
        let Token::Word(word) = self.token(0) else { return None };
        let function = Function::ALL.iter().copied().find(|function| function.written() == word)?;
        let is_called = matches!(self.token(1), Token::Sign("("));
        self.at += usize::from(is_called);
        is_called.then_some(function)
    }

    fn operator(&mut self) -> Option<Operator> {
        let written = match self.token(0) {
            Token::Word(word) => word.as_str(),
            Token::Sign(sign) => sign,
            _ => return None,
        };
        let operator = Operator::ALL.iter().copied().find(|operator| operator.written() == written)?;
        self.at += 1;
        Some(operator)
    }

    /// `path = step , { "." , ( step | position ) } ;`
    fn path(&mut self) -> Parsed<Path> {
        let mut steps = vec![self.word("a role, a kind of child or an attribute")?];
        while self.eat_sign(".") {
            let step = match self.tokens[self.at].clone() {
                (Token::Number(number), place) => self.took(Word { text: number.to_string(), place }),
                _ => self.word("a role, a kind of child, an attribute or a position")?,
            };
            steps.push(step);
        }
        Ok(Path { steps })
    }

    fn value(&mut self) -> Parsed<Value> {
        let start = self.place().start;
        let kind = match self.token(0).clone() {
            Token::String(text) => self.took(ValueKind::String(text)),
            Token::Number(number) => self.took(ValueKind::Number(number)),
            Token::Regex(pattern) => self.took(ValueKind::Regex(pattern)),
            Token::Sign("[") => ValueKind::List(self.bracketed("]", |parser| {
                let mut texts = vec![parser.string()?];
                while parser.eat_sign(",") {
                    texts.push(parser.string()?);
                }
                Ok(texts)
            })?),
            Token::Sign("$") => {
                self.at += 1;
                ValueKind::Option(self.word("the name of an option")?.text)
            }
            Token::Word(word) if word == "list" => {
                self.at += 1;
                ValueKind::Lines(self.bracketed(")", Parser::string)?)
            }
            _ => return Err(self.unexpected("a string, a number, a regular expression, a list or an option")),
        };
        let end = self.tokens[self.at - 1].1.end;
        Ok(Value { kind, place: start..end })
    }

    fn string(&mut self) -> Parsed<String> {
        match self.token(0).clone() {
            Token::String(text) => Ok(self.took(text)),
            _ => Err(self.unexpected("a string")),
        }
    }

    /// What is between brackets; the current one opens them.
    fn bracketed<T>(&mut self, close: &'static str, inner: impl FnOnce(&mut Parser) -> Parsed<T>) -> Parsed<T> {
        if !matches!(self.token(0), Token::Sign("(" | "{" | "[")) {
            return Err(self.unexpected("'('"));
        }
        if self.depth >= DEEPEST {
            return Err(QueryError::new(self.place(), format!("brackets are nested deeper than {DEEPEST}")));
        }
        self.depth += 1;
        self.at += 1;
        let found = inner(self)?;
        if !self.eat_sign(close) {
            return Err(self.unexpected(&format!("'{close}'")));
        }
        self.depth -= 1;
        Ok(found)
    }

    fn separated<T>(&mut self, word: &str, one: impl Fn(&mut Parser) -> Parsed<T>) -> Parsed<Vec<T>> {
        let mut all = vec![one(self)?];
        while self.eat_word(word) {
            all.push(one(self)?);
        }
        Ok(all)
    }

    fn word(&mut self, what: &str) -> Parsed<Word> {
        match self.tokens[self.at].clone() {
            (Token::Word(text), place) => Ok(self.took(Word { text, place })),
            _ => Err(self.unexpected(what)),
        }
    }

    fn end(&self, expected: &str) -> Parsed<()> {
        if *self.token(0) == Token::End { Ok(()) } else { Err(self.unexpected(expected)) }
    }

    fn verb(&mut self) -> Parsed<Verb> {
        let verb = self.word("replace, remove or insert")?;
        match verb.text.as_str() {
            "replace" => {
                let what = if self.eat_word("it") { None } else { Some(self.path()?) };
                self.exactly("with")?;
                Ok(Verb::Replace(what, self.placed_string()?))
            }
            "remove" => self.exactly("it").map(|()| Verb::Remove),
            "insert" => {
                let inserted = self.placed_string()?;
                let is_before = match self.word("before or after")? {
                    word if word.text == "before" => true,
                    word if word.text == "after" => false,
                    word => {
                        let message = format!("expected before or after, found \"{}\"", word.text);
                        return Err(QueryError::new(word.place, message));
                    }
                };
                self.exactly("it")?;
                Ok(Verb::Insert(inserted, is_before))
            }
            _ => {
                let message = format!("expected replace, remove or insert, found \"{}\"", verb.text);
                Err(QueryError::new(verb.place, message)
                    .nearest(&verb.text, ["replace", "remove", "insert"].into_iter()))
            }
        }
    }

    fn exactly(&mut self, word: &str) -> Parsed<()> {
        if self.eat_word(word) { Ok(()) } else { Err(self.unexpected(&format!("\"{word}\""))) }
    }

    fn placed_string(&mut self) -> Parsed<Word> {
        let place = self.place();
        Ok(Word { text: self.string()?, place })
    }

    fn unexpected(&self, what: &str) -> QueryError {
        QueryError::new(self.place(), format!("expected {what}, found {}", self.token(0).describe()))
    }

    fn took<T>(&mut self, value: T) -> T {
        self.at += 1;
        value
    }

    fn token(&self, ahead: usize) -> &Token {
        self.tokens.get(self.at + ahead).map_or(&Token::End, |(token, _)| token)
    }

    fn place(&self) -> Range<usize> {
        self.tokens[self.at].1.clone()
    }

    fn at_word(&self, word: &str) -> bool {
        matches!(self.token(0), Token::Word(text) if text == word)
    }

    fn at_sign(&self, sign: &str) -> bool {
        matches!(self.token(0), Token::Sign(text) if *text == sign)
    }

    fn eat_word(&mut self, word: &str) -> bool {
        let is_there = self.at_word(word);
        self.at += usize::from(is_there);
        is_there
    }

    fn eat_sign(&mut self, sign: &str) -> bool {
        let is_there = self.at_sign(sign);
        self.at += usize::from(is_there);
        is_there
    }
}
