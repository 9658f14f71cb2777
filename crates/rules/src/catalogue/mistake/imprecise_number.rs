use sieve_syntax::language::Language;
use sieve_syntax::literal::NumberValue;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, WholeNumbers, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "imprecise-number",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::OF_DATA,
    fix: None,
    what: "a number that readers cannot hold, so that they read another one",
    why: "Readers hold numbers of JSON in doubles, which tell whole numbers apart up to 9 007 199 254 740 992, and those of YAML and TOML in 64 bits. A larger one is read as its neighbour: two identifiers become one.",
    silent: "Whole numbers that a double holds as they are, such as powers of two, and fractions: nearly all of those are rounded.",
    standards: &["RFC 8259, section 6", "TOML 1.0, Integer"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Json,
            wrong: &[
                Wrong { code: "{\"ticket\": 9007199254740993}\n", at: &["1:12"], fixed: None },
                Wrong { code: "[1e400]\n", at: &["1:2"], fixed: None },
            ],
            right: &["{\"ticket\": 9007199254740992, \"depth\": 0.1, \"mass\": 1e300, \"fare\": -450}\n"],
        },
        Examples {
            language: Language::Toml,
            wrong: &[Wrong { code: "ticket = 9223372036854775808\n", at: &["1:10"], fixed: None }],
            right: &["ticket = 9007199254740993\nlowest = -9223372036854775808\ndepth = inf\n"],
        },
        Examples {
            language: Language::Yaml,
            wrong: &[Wrong { code: "ticket: 18446744073709551616\n", at: &["1:9"], fixed: None }],
            right: &["ticket: 18446744073709551615\nname: \"18446744073709551616\"\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Number], check),
};

fn check(context: &mut Context, number: NodeRef) {
    let file = context.file();
    let written = file.node_text(number);
    let digits = written.trim_start_matches(['-', '+']);
    let read = match file.language.number_value(digits) {
        Some(NumberValue::Whole(value)) => match file.traits.whole_numbers {
            WholeNumbers::Doubles => neighbour(value).map(|read| read.to_string()),
            WholeNumbers::UpTo(most) => {
                // One more fits below zero.
                let most = u128::from(most) + u128::from(written.starts_with('-'));
                (value > most).then(|| "no number, or another one".to_string())
            }
        },
        Some(NumberValue::Real(value)) if value.is_infinite() => {
            digits.starts_with(|first: char| first.is_ascii_digit()).then(|| "infinity".to_string())
        }
        Some(_) => None,
        None => {
            digits.bytes().all(|byte| byte.is_ascii_digit() || b".eE+-".contains(&byte)).then(|| "infinity".to_string())
        }
    };
    if let Some(read) = read {
        context
            .report(number.span(), format!("no reader is sure to hold this number: it is read as {read}"))
            .advice("write it as a string if it is an identifier");
    }
}

/// The whole number that a double holds instead; nothing where it holds the number itself.
fn neighbour(value: u128) -> Option<u128> {
    let held = value as f64 as u128;
    (held != value).then_some(held)
}
