//! Checks a query against the tables of kinds and roles, and makes a plan of it.

use globset::{GlobBuilder, GlobMatcher, GlobSetBuilder};
use regex::RegexBuilder;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, Role};

use super::error::QueryError;
use super::given::Given;
use super::plan::{self, Attribute, Compare, Literal, Plan, Shape, Slot, TermId};
use super::steps;
use super::syntax::{Condition, Operator, Path, Query, Relation, Term, Test, Value, ValueKind, Word};

/// A compiled pattern may take this much memory, in bytes.
const LARGEST_PATTERN: usize = 1 << 20;

/// Braces in the pattern of a path, no deeper than this: each level is a call.
const DEEPEST_GLOB: usize = 8;

/// The plan of a query for some languages.
pub(super) fn check(query: &Query, languages: &[Language], given: &Given<'_>) -> Result<Plan, QueryError> {
    let mut checker = Checker::new(languages, given);
    checker.query(query)?;
    let terms = checker.terms.into_iter().map(|term| term.expect("each term was finished")).collect();
    Ok(Plan { terms, captures: checker.captures, needs_names: checker.needs_names })
}

/// A path from the nodes that a query matches.
pub(super) fn check_path(path: &Path, plan: &Plan, languages: &[Language]) -> Result<plan::Path, QueryError> {
    let kind = match &plan.terms[0].shape {
        Shape::Node { kind, .. } => *kind,
        Shape::Either(_) => None,
    };
    Checker::new(languages, &Given::default()).path(path, kind)
}

struct Checker<'c> {
    languages: &'c [Language],
    given: &'c Given<'c>,
    terms: Vec<Option<plan::Term>>,
    captures: Vec<String>,
    needs_names: bool,
}

type Checked<T> = Result<T, QueryError>;

impl<'c> Checker<'c> {
    fn new(languages: &'c [Language], given: &'c Given<'c>) -> Checker<'c> {
        Checker { languages, given, terms: Vec::new(), captures: Vec::new(), needs_names: false }
    }

    fn query(&mut self, query: &Query) -> Checked<TermId> {
        self.term(&query.first, &query.relations)
    }

    fn term(&mut self, first: &Term, relations: &[Relation]) -> Checked<TermId> {
        let id = self.terms.len();
        self.terms.push(None);
        let captured = self.captures.len();
        let mut is_free = true;
        let shape = match first {
            Term::Either(queries) => {
                let options: Vec<TermId> = queries.iter().map(|query| self.query(query)).collect::<Checked<_>>()?;
                is_free &= options.iter().all(|option| self.is_free(*option));
                Shape::Either(options)
            }
            Term::Node { kind, capture, conditions } => {
                let kind = self.kind(kind)?;
                let capture = capture.as_ref().map(|name| self.capture(name)).transpose()?;
                let conditions = self.conditions(conditions, kind, &mut is_free)?;
                Shape::Node { kind, capture, conditions }
            }
        };
        let relations = relations.iter().map(|one| self.relation(one)).collect::<Checked<Vec<_>>>()?;
        is_free &= relations.iter().all(|relation| self.is_free(relation.term)) && self.captures.len() == captured;
        let literals = if let Term::Node { conditions, .. } = first { literals(conditions) } else { Vec::new() };
        self.terms[id] = Some(plan::Term { shape, relations, literals, is_free });
        Ok(id)
    }

    fn is_free(&self, term: TermId) -> bool {
        self.terms[term].as_ref().is_some_and(|term| term.is_free)
    }

    fn kind(&self, word: &Word) -> Checked<Option<Kind>> {
        if word.text == "any" {
            return Ok(None);
        }
        let Some(kind) = Kind::named(&word.text) else {
            let names = Kind::ALL.iter().filter(|kind| self.is_produced(**kind)).map(|kind| kind.name());
            let message = format!("no kind of node is called \"{}\"", word.text);
            return Err(QueryError::new(word.place.clone(), message).nearest(&word.text, names));
        };
        if !self.is_produced(kind) {
            let titles: Vec<&str> = self.languages.iter().map(|language| language.spec().title).collect();
            let message = format!("\"{}\" is never in {}", word.text, titles.join(" or "));
            return Err(QueryError::new(word.place.clone(), message));
        }
        Ok(Some(kind))
    }

    fn is_produced(&self, kind: Kind) -> bool {
        self.languages.iter().any(|language| language.produces(kind))
    }

    fn capture(&mut self, name: &Word) -> Checked<Slot> {
        if self.captures.contains(&name.text) {
            let message = format!("\"{}\" is the name of a node already", name.text);
            return Err(QueryError::new(name.place.clone(), message));
        }
        self.captures.push(name.text.clone());
        Ok(self.captures.len() - 1)
    }

    fn conditions(
        &mut self,
        all: &[Condition],
        kind: Option<Kind>,
        is_free: &mut bool,
    ) -> Checked<Vec<plan::Condition>> {
        all.iter().map(|one| self.condition(one, kind, is_free)).collect()
    }

    fn condition(&mut self, one: &Condition, kind: Option<Kind>, is_free: &mut bool) -> Checked<plan::Condition> {
        let test = match &one.test {
            Test::Compare(path, operator, value) => {
                let checked = self.path(path, kind)?;
                let is_path = checked.steps.last().is_some_and(|last| last.attribute == Some(Attribute::Path));
                plan::Test::Compare(checked, self.compare(*operator, value, is_path)?)
            }
            Test::Same(path, name) => {
                *is_free = false;
                let slot = self.captures.iter().position(|known| *known == name.text).ok_or_else(|| {
                    let message = format!("no node is called \"{}\" before this", name.text);
                    let known = self.captures.iter().map(String::as_str);
                    QueryError::new(name.place.clone(), message).nearest(&name.text, known)
                })?;
                plan::Test::Same(self.path(path, kind)?, slot)
            }
            Test::Function(function, path, compared) => {
                let compared = match compared {
                    Some((operator, value)) => Some((*operator, number(*operator, &self.given.value(value)?)?)),
                    None => None,
                };
                plan::Test::Function(*function, self.path(path, kind)?, compared)
            }
            Test::Exists(path) => plan::Test::Exists(self.path(path, kind)?),
            Test::Capture(path, name) => {
                *is_free = false;
                if one.negated {
                    let message = "a node that is not there cannot be given a name";
                    return Err(QueryError::new(name.place.clone(), message));
                }
                let path = self.path(path, kind)?;
                plan::Test::Capture(path, self.capture(name)?)
            }
            Test::Relation(path, relation) => {
                let path = self.path(path, kind)?;
                let relation = self.relation(relation)?;
                *is_free &= self.is_free(relation.term);
                plan::Test::Relation(path, relation)
            }
            Test::Either(conditions) => plan::Test::Either(self.conditions(conditions, kind, is_free)?),
        };
        Ok(plan::Condition { negated: one.negated, test })
    }

    fn relation(&mut self, relation: &Relation) -> Checked<plan::Relation> {
        Ok(plan::Relation { negated: relation.negated, way: relation.way, term: self.term(&relation.term, &[])? })
    }

    /// A path from nodes of a kind. What comes after the first step may be of any kind.
    fn path(&self, path: &Path, kind: Option<Kind>) -> Checked<plan::Path> {
        let mut from = kind;
        let mut checked: Vec<plan::Step> = Vec::new();
        for (index, word) in path.steps.iter().enumerate() {
            if let Some(position) = position(word)? {
                checked.last_mut().ok_or_else(|| no_position(word))?.position = Some(position);
                continue;
            }
            let is_last = index + 1 == path.steps.len();
            let steps = steps::of_word(&word.text, from, is_last);
            if steps.is_empty() {
                return Err(wrong_step(word, from, is_last));
            }
            from = steps.last().and_then(|step| step.kind.filter(|_| step.role.is_none()));
            checked.extend(steps);
        }
        Ok(plan::Path { steps: checked })
    }

    fn compare(&mut self, operator: Operator, value: &Value, is_path: bool) -> Checked<Compare> {
        let wrong = |expected: &str| {
            let message = format!("\"{}\" takes {expected}", operator.written());
            Err(QueryError::new(value.place.clone(), message))
        };
        let value = &self.given.value(value)?;
        match (operator, &value.kind) {
            (Operator::In, ValueKind::List(texts)) if is_path => {
                let mut set = GlobSetBuilder::new();
                for text in texts {
                    set.add(glob(text, value)?.glob().clone());
                }
                let set = set.build();
                set.map(Compare::LikeOneOf).map_err(|error| QueryError::new(value.place.clone(), error.to_string()))
            }
            (Operator::In, ValueKind::List(texts)) => Ok(Compare::OneOf(texts.clone())),
            (Operator::In, _) => wrong("a list"),
            (Operator::Matches, ValueKind::Regex(pattern) | ValueKind::String(pattern)) => {
                let regex = RegexBuilder::new(pattern).size_limit(LARGEST_PATTERN).build();
                regex.map(Compare::Matches).map_err(|error| {
                    let reason = error.to_string();
                    let last = reason.lines().last().unwrap_or_default().trim_start_matches("error: ").to_string();
                    QueryError::new(value.place.clone(), format!("this pattern is wrong: {last}"))
                })
            }
            (Operator::Matches, _) => wrong("a regular expression"),
            (operator, _) if operator.is_numeric() => Ok(Compare::Number(operator, number(operator, value)?)),
            (Operator::Is, ValueKind::Number(number)) => Ok(Compare::Number(Operator::Equal, *number)),
            (_, ValueKind::String(text)) => match operator {
                Operator::Like => Ok(Compare::Like(glob(text, value)?)),
                Operator::Starts => Ok(Compare::Starts(text.clone())),
                Operator::Ends => Ok(Compare::Ends(text.clone())),
                Operator::Refers => {
                    self.needs_names = true;
                    Ok(Compare::Refers(text.clone()))
                }
                _ => Ok(Compare::OneOf(vec![text.clone()])),
            },
            _ => wrong("a string"),
        }
    }
}

fn number(operator: Operator, value: &Value) -> Checked<f64> {
    match &value.kind {
        ValueKind::Number(number) => Ok(*number),
        _ => Err(QueryError::new(value.place.clone(), format!("\"{}\" takes a number here", operator.written()))),
    }
}

fn glob(text: &str, value: &Value) -> Checked<GlobMatcher> {
    if text.matches('{').count() > DEEPEST_GLOB {
        return Err(QueryError::new(value.place.clone(), format!("more than {DEEPEST_GLOB} braces in one pattern")));
    }
    let glob = GlobBuilder::new(text).literal_separator(true).build();
    let glob =
        glob.map_err(|error| QueryError::new(value.place.clone(), format!("this pattern is wrong: {}", error.kind())));
    glob.map(|glob| glob.compile_matcher())
}

/// The position among the parts of a step, from 1, if a word is one.
fn position(word: &Word) -> Checked<Option<usize>> {
    if !word.text.starts_with(|first: char| first.is_ascii_digit() || first == '-') {
        return Ok(None);
    }
    word.text.parse().ok().filter(|position| *position > 0).map(Some).ok_or_else(|| no_position(word))
}

fn no_position(word: &Word) -> QueryError {
    QueryError::new(word.place.clone(), format!("{} is no position: the first part is 1", word.text))
}

/// What is wrong with a step that nodes of a kind do not have.
fn wrong_step(word: &Word, from: Option<Kind>, is_last: bool) -> QueryError {
    if Attribute::named(&word.text).is_some() && !is_last {
        let message = format!("\"{}\" is an attribute: nothing comes after it", word.text);
        return QueryError::new(word.place.clone(), message);
    }
    let message = match from {
        Some(kind) => format!("a {kind} has no \"{}\"", word.text),
        None => format!("there is no role, kind or attribute \"{}\"", word.text),
    };
    let roles = from.map_or(Role::ALL.to_vec(), steps::roles_of);
    let attributes = Attribute::ALL.iter().map(|attribute| attribute.name()).filter(|_| is_last);
    let names = roles.iter().map(|role| role.name()).chain(attributes);
    let mut error = QueryError::new(word.place.clone(), message).nearest(&word.text, names);
    if error.advice.is_none()
        && let Some(kind) = from
    {
        let names: Vec<&str> = roles.iter().map(|role| role.name()).collect();
        error.advice = Some(format!("a {kind} has: {}", names.join(", ")));
    }
    error
}

/// What a node is written with, word for word, if some conditions hold for it.
fn literals(conditions: &[Condition]) -> Vec<Literal> {
    let literal = |condition: &Condition| match &condition.test {
        Test::Compare(path, operator, Value { kind: ValueKind::String(text), .. }) if !condition.negated => {
            let last = path.steps.last()?.text.as_str();
            // The value of a literal is written otherwise; what is not in the text is not looked for in it.
            let is_text = Attribute::named(last).is_none() || last == "text";
            match operator {
                Operator::Is | Operator::Starts | Operator::Ends if is_text => {
                    Some(Literal { text: text.clone(), is_referred: false })
                }
                Operator::Refers => {
                    let last = text.rsplit('.').next().filter(|last| *last != "default");
                    last.map(|last| Literal { text: last.to_string(), is_referred: true })
                }
                _ => None,
            }
        }
        _ => None,
    };
    // Other letters may be other bytes in the encoding of a file.
    conditions.iter().filter_map(literal).filter(|one| !one.text.is_empty() && one.text.is_ascii()).collect()
}
