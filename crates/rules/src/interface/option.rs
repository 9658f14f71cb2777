//! Options: values of a rule that users may set.

use std::borrow::Cow;
use std::fmt;

/// An option as its rule declares it.
#[derive(Debug, Clone, Copy)]
pub struct OptionFacts {
    /// Its name in settings: lower-case words joined by hyphens.
    pub name: &'static str,
    /// Its value where nothing sets it; tells its sort too.
    pub default: OptionDefault,
    /// What it does, in one line.
    pub about: &'static str,
}

/// The default of an option.
#[derive(Debug, Clone, Copy)]
pub enum OptionDefault {
    /// A whole number of at least zero.
    Count(u32),
    /// Numbers.
    Numbers(&'static [f64]),
    /// Words.
    Words(&'static [&'static str]),
    /// Words out of a fixed list: those chosen, and those there are.
    Choices(&'static [&'static str], &'static [&'static str]),
    /// One word out of a fixed list: the chosen one, and those there are.
    Choice(&'static str, &'static [&'static str]),
    /// Yes or no.
    Flag(bool),
}

/// The value of an option.
#[derive(Debug, Clone, PartialEq)]
pub enum OptionValue {
    /// A whole number of at least zero.
    Count(u32),
    /// Numbers.
    Numbers(Vec<f64>),
    /// Words.
    Words(Vec<String>),
    /// One word.
    Word(String),
    /// Yes or no.
    Flag(bool),
}

impl OptionFacts {
    /// Its default as a value.
    pub fn default_value(&self) -> OptionValue {
        match self.default {
            OptionDefault::Count(count) => OptionValue::Count(count),
            OptionDefault::Numbers(numbers) => OptionValue::Numbers(numbers.to_vec()),
            OptionDefault::Words(words) | OptionDefault::Choices(words, _) => {
                OptionValue::Words(words.iter().map(|word| (*word).to_string()).collect())
            }
            OptionDefault::Choice(word, _) => OptionValue::Word(word.to_string()),
            OptionDefault::Flag(flag) => OptionValue::Flag(flag),
        }
    }

    /// The kind of value it takes, in words.
    pub fn sort(&self) -> Cow<'static, str> {
        let quoted = |words: &[&str]| words.iter().map(|word| format!("{word:?}")).collect::<Vec<_>>().join(", ");
        match self.default {
            OptionDefault::Count(_) => "a whole number of at least zero".into(),
            OptionDefault::Numbers(_) => "a list of numbers".into(),
            OptionDefault::Words(_) => "a list of strings".into(),
            OptionDefault::Choices(_, all) => format!("a list of some of {}", quoted(all)).into(),
            OptionDefault::Choice(_, all) => format!("one of {}", quoted(all)).into(),
            OptionDefault::Flag(_) => "true or false".into(),
        }
    }
}

impl OptionValue {
    /// The kind of value it is, in words.
    pub fn sort(&self) -> &'static str {
        match self {
            OptionValue::Count(_) => "a whole number of at least zero",
            OptionValue::Numbers(_) => "a list of numbers",
            OptionValue::Words(_) => "a list of strings",
            OptionValue::Word(_) => "a string",
            OptionValue::Flag(_) => "true or false",
        }
    }
}

impl fmt::Display for OptionValue {
    /// As it is written in settings.
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            OptionValue::Count(count) => write!(out, "{count}"),
            OptionValue::Flag(flag) => write!(out, "{flag}"),
            OptionValue::Word(word) => write!(out, "{word:?}"),
            OptionValue::Numbers(numbers) => {
                let texts: Vec<String> = numbers.iter().map(f64::to_string).collect();
                write!(out, "[{}]", texts.join(", "))
            }
            OptionValue::Words(words) => {
                let texts: Vec<String> = words.iter().map(|word| format!("{word:?}")).collect();
                write!(out, "[{}]", texts.join(", "))
            }
        }
    }
}
