//! Values of each sort, and the complaints about others.

use std::ops::Range;
use std::sync::Arc;
use std::sync::atomic::AtomicBool;

use globset::{Glob, GlobSetBuilder};
use jiff::civil::Date;
use sieve_syntax::text::Span;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

use super::SettingsError;
use super::error::nearest;
use super::file::Patterns;
use super::reader::{Read, Reader};

/// The longest pattern that is taken: deep nesting in longer ones could exhaust the stack of the pattern compiler.
const LONGEST_PATTERN: usize = 400;

impl Reader<'_> {
    pub(super) fn date(&self, value: &Spanned<DeValue<'_>>) -> Read<Date> {
        let text = match value.get_ref() {
            DeValue::Datetime(date) => date.to_string(),
            DeValue::String(text) => text.to_string(),
            _ => String::new(),
        };
        text.parse().map_err(|_| self.wrong(value, "a day such as 2027-06-30"))
    }

    pub(super) fn wrong(&self, value: &Spanned<DeValue<'_>>, wanted: &str) -> SettingsError {
        let found = match value.get_ref() {
            DeValue::String(text) => format!("the string {text:?}"),
            DeValue::Integer(number) => format!("the number {}", number.as_str()),
            DeValue::Float(number) => format!("the number {}", number.as_str()),
            DeValue::Boolean(flag) => flag.to_string(),
            DeValue::Datetime(date) => format!("the date {date}"),
            DeValue::Array(_) => "a list".to_string(),
            DeValue::Table(_) => "a table".to_string(),
        };
        self.error(value.span(), format!("{wanted} is wanted here, not {found}"))
    }

    pub(super) fn table<'v, 'd>(&self, value: &'v Spanned<DeValue<'d>>, name: &str) -> Read<&'v DeTable<'d>> {
        match value.get_ref() {
            DeValue::Table(table) => Ok(table),
            _ => Err(self.wrong(value, &format!("\"{name}\" is a table, and one"))),
        }
    }

    pub(super) fn array<'v, 'd>(
        &self,
        value: &'v Spanned<DeValue<'d>>,
        kind: &str,
    ) -> Read<&'v [Spanned<DeValue<'d>>]> {
        match value.get_ref() {
            DeValue::Array(array) => Ok(array),
            _ => Err(self.wrong(value, kind)),
        }
    }

    pub(super) fn string<'v>(&self, value: &'v Spanned<DeValue<'_>>) -> Read<&'v str> {
        match value.get_ref() {
            DeValue::String(text) => Ok(text),
            _ => Err(self.wrong(value, "a string")),
        }
    }

    /// A list of strings, which is called something else in the complaint about what is none.
    pub(super) fn strings(&self, value: &Spanned<DeValue<'_>>, what: &str) -> Read<Vec<String>> {
        self.array(value, what)?.iter().map(|item| Ok(self.string(item)?.to_string())).collect()
    }

    pub(super) fn flag(&self, value: &Spanned<DeValue<'_>>) -> Read<bool> {
        match value.get_ref() {
            DeValue::Boolean(flag) => Ok(*flag),
            _ => Err(self.wrong(value, "true or false")),
        }
    }

    pub(super) fn count(&self, value: &Spanned<DeValue<'_>>) -> Read<u64> {
        match value.get_ref() {
            DeValue::Integer(number) => u64::from_str_radix(number.as_str(), number.radix()).ok(),
            _ => None,
        }
        .ok_or_else(|| self.wrong(value, "a whole number of at least zero"))
    }

    pub(super) fn number(&self, value: &Spanned<DeValue<'_>>) -> Read<f64> {
        match value.get_ref() {
            DeValue::Integer(number) => {
                i64::from_str_radix(number.as_str(), number.radix()).ok().map(|number| number as f64)
            }
            DeValue::Float(number) => number.as_str().parse().ok().filter(|number: &f64| number.is_finite()),
            _ => None,
        }
        .ok_or_else(|| self.wrong(value, "a number"))
    }

    /// One of the words of a scale.
    pub(super) fn word<T: Copy>(
        &self,
        value: &Spanned<DeValue<'_>>,
        what: &str,
        all: &[T],
        word: fn(T) -> &'static str,
    ) -> Read<T> {
        let text = self.string(value).map_err(|_| self.wrong(value, what))?;
        all.iter().copied().find(|candidate| word(*candidate) == text).ok_or_else(|| {
            let hint = nearest(text, all.iter().map(|candidate| word(*candidate)));
            self.error(value.span(), format!("\"{text}\" is not {what}{hint}"))
        })
    }

    pub(super) fn patterns(&self, value: &Spanned<DeValue<'_>>) -> Read<Patterns> {
        let mut texts = Vec::new();
        for item in self.array(value, "a list of patterns")? {
            texts.push((self.string(item)?.to_string(), item.span()));
        }
        self.compile(&texts)
    }

    pub(super) fn compile(&self, patterns: &[(String, Range<usize>)]) -> Read<Patterns> {
        let mut builder = GlobSetBuilder::new();
        for (text, span) in patterns {
            if text.len() > LONGEST_PATTERN {
                let message = format!("this pattern is longer than {LONGEST_PATTERN} bytes");
                return Err(self.error(span.clone(), message));
            }
            let glob = Glob::new(text)
                .map_err(|error| self.error(span.clone(), format!("\"{text}\" is no pattern: {}", error.kind())))?;
            builder.add(glob);
        }
        let set =
            builder.build().map_err(|error| self.error(0..0, format!("these patterns do not compile: {error}")))?;
        let places = patterns.iter().map(|(_, span)| span_of(span)).collect();
        let fitted: Arc<[AtomicBool]> = patterns.iter().map(|_| AtomicBool::new(false)).collect();
        Ok(Patterns { texts: patterns.iter().map(|(text, _)| text.clone()).collect(), places, set, fitted })
    }
}

/// A value as JSON: dates and times as they are written.
pub(super) fn json(value: &Spanned<DeValue<'_>>) -> serde_json::Value {
    match value.get_ref() {
        DeValue::String(text) => text.as_ref().into(),
        DeValue::Boolean(value) => (*value).into(),
        DeValue::Datetime(value) => value.to_string().into(),
        DeValue::Integer(value) => {
            i64::from_str_radix(value.as_str(), value.radix()).map_or(serde_json::Value::Null, Into::into)
        }
        DeValue::Float(value) => value.as_str().parse::<f64>().map_or(serde_json::Value::Null, Into::into),
        DeValue::Array(elements) => elements.iter().map(json).collect(),
        DeValue::Table(table) => table
            .iter()
            .map(|(key, value)| (key.get_ref().to_string(), json(value)))
            .collect::<serde_json::Map<_, _>>()
            .into(),
    }
}

/// A stretch of the settings file.
pub(super) fn span_of(range: &Range<usize>) -> Span {
    Span::new(range.start as u32, range.end as u32)
}
