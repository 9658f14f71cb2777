use sieve_meaning::names::{Reference, Resolution};
use sieve_meaning::python_builtins;
use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Context, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "undefined-name",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a name that nothing binds",
    why: "Running this place raises an error: no scope that is seen from here, and not the language either, knows the name. Most \
          often it is misspelt, or its import is missing.",
    silent: "In a file with a star import, with names made at run time (exec, globals), or with broken syntax; and where the \
             code itself catches the error.",
    standards: &["The Python Language Reference 3.14, section 4.2"],
    options: &[
        OptionFacts {
            name: "known",
            default: OptionDefault::Words(&[]),
            about: "further names that are there at run time, such as ones added to the builtins",
        },
        OptionFacts {
            name: "python",
            default: OptionDefault::Count(14),
            about: "the minor version of Python 3 whose builtins there are",
        },
    ],
    wrong: &[
        Wrong { code: "def fare(adult):\n    return adlut * 2\n", at: &["2:12"], fixed: None },
        Wrong {
            code: "class Quay:\n    depth = 3\n\n    def low(self):\n        return depth\n",
            at: &["5:16"],
            fixed: None,
        },
        Wrong { code: "def sail(to: \"Quay\"):\n    pass\n", at: &["1:15"], fixed: None },
    ],
    right: &[
        "def fare(adult):\n    return sum([adult, child()])\n\ndef child():\n    return 2\n",
        "from tides import *\nprint(high_water)\n",
        "try:\n    unicode\nexcept NameError:\n    unicode = str\n",
        "import typing\n\ndef mode(m: typing.Literal[\"fast\", \"slow\"]):\n    return m\n",
    ],
    needs_names: true,
    check: Check::References(check),
};

fn check(context: &mut Context, reference: &Reference) {
    let names = context.names();
    let name = names.text(reference.name);
    match reference.resolution {
        Resolution::Binding(_) => {}
        Resolution::Builtin => {
            let version = context.count("python");
            let since = if version < python_builtins::NEWEST_CHANGE { python_builtins::since(name) } else { None };
            if let Some(since) = since.filter(|since| *since > version) {
                context
                    .report(reference.span, format!("\"{name}\" does not exist in Python 3.{version}"))
                    .advice(format!("it came with Python 3.{since}"));
            }
        }
        Resolution::Unknown(reason) => {
            if !is_known(context, name) {
                context.unsure(reference.span, reason.describe());
            }
        }
        Resolution::Undefined => {
            if !is_known(context, name) {
                report(context, reference, name);
            }
        }
    }
}

fn is_known(context: &Context, name: &str) -> bool {
    context.words("known").iter().any(|known| known == name)
}

fn report(context: &mut Context, reference: &Reference, name: &str) {
    let nearest = nearest_name(context, name);
    let reported = context.report(reference.span, format!("nothing defines \"{name}\""));
    match nearest {
        Some(nearest) => reported.advice(format!("perhaps \"{nearest}\" is meant")),
        None => reported.advice("define it, or import it"),
    };
}

/// A bound name that differs by a slip of the fingers.
fn nearest_name(context: &Context, name: &str) -> Option<String> {
    let names = context.names();
    let allowed = if name.chars().count() < 5 { 1 } else { 2 };
    names
        .bindings()
        .map(|binding| names.text(binding.name))
        .filter(|other| other.len().abs_diff(name.len()) <= allowed && other.len() > 2)
        .map(|other| (strsim::damerau_levenshtein(name, other), other))
        .filter(|(distance, _)| *distance <= allowed)
        .min()
        .map(|(_, other)| other.to_string())
}
