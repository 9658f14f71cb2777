use sieve_meaning::names::{ScopeId, ScopeKind};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unformatted-string",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a string with the names of variables in braces, which are not filled in",
    why: "The braces and the name are printed as they are: the mark before the string, or the backquotes around it, were forgotten.",
    silent: "For strings that are formatted later or elsewhere, and for names that the code around does not have.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "def label(boat):\n    print(\"{boat} leaves\")\n", at: &["2:11"], fixed: None }],
            right: &[
                "def label(boat):\n    print(f\"{boat} leaves\")\n    print(\"{boat} leaves\".format(boat=boat))\n    print(\"{quay} leaves\")\n    text = \"{boat} leaves\"\n    fill(\"{boat} leaves\", boat)\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "function label(boat) {\n  console.log('${boat} leaves');\n}\n",
                at: &["2:15"],
                fixed: None,
            }],
            right: &[
                "function label(boat) {\n  console.log(`${boat} leaves`);\n  console.log('${quay} leaves');\n  const text = '${boat} leaves';\n  fill('${boat} leaves');\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::String], check),
};

/// Calls that show what they are given as it is.
const SHOW: &[&str] = &[
    "print",
    "log",
    "error",
    "warn",
    "info",
    "debug",
    "warning",
    "critical",
    "Error",
    "TypeError",
    "RangeError",
    "ValueError",
    "RuntimeError",
    "KeyError",
    "Exception",
    "exit",
    "write",
];

fn check(context: &mut Context, string: NodeRef) {
    let file = context.file();
    let Some(arguments) = string.parent().filter(|parent| parent.kind() == Kind::Arguments) else { return };
    let text = file.node_text(string);
    if !text.contains('{') || arguments.children().nth(1).is_some() || file.is_test() {
        return;
    }
    let call = arguments.parent();
    let callee = call.and_then(|call| call.child(Role::Callee));
    let name =
        callee.and_then(|callee| if callee.kind() == Kind::Member { callee.child(Role::Name) } else { Some(callee) });
    if !name.is_some_and(|name| SHOW.contains(&file.node_text(name))) {
        return;
    }
    let inside = names_in(text, if file.traits.word_operators { "{" } else { "${" });
    let is_there = |inner: &&str| call.is_some_and(|call| sees(context, call, inner));
    // `(name, depth, {options})` says what something looks like.
    let is_form = text.contains(", {") && text.contains("})");
    if !inside.is_empty()
        && !is_form
        && inside.iter().all(|inner| is_there(&inner.split(['.', '[']).next().unwrap_or_default()))
    {
        let advice =
            if file.traits.word_operators { "put an `f` before the string" } else { "put backquotes around it" };
        context.report(string.span(), format!("{} is not filled in here", inside[0])).advice(advice);
    }
}

/// The plain names in braces; nothing if one holds something else.
fn names_in<'t>(text: &'t str, open: &str) -> Vec<&'t str> {
    let mut names = Vec::new();
    let mut rest = text;
    while let Some(at) = rest.find(open) {
        rest = &rest[at + open.len()..];
        let Some(end) = rest.find('}') else { return Vec::new() };
        let name = &rest[..end];
        let is_name = name.starts_with(|first: char| first == '_' || first.is_alphabetic())
            && name.chars().all(|letter| letter == '_' || letter == '.' || letter.is_alphanumeric());
        if !is_name {
            return Vec::new();
        }
        names.push(name);
        rest = &rest[end..];
    }
    names
}

/// Whether a scope of a function around a call binds a name.
fn sees(context: &Context, call: NodeRef, name: &str) -> bool {
    let names = context.names();
    // What is called is a use of a name, and knows its scope.
    let mut scope = names.references_in(call.id()..call.end()).next().map(|reference| reference.scope);
    while let Some(id) = scope.filter(|id| *id != ScopeId::FILE) {
        if names.lookup(id, name).is_some() && names.scope(id).kind != ScopeKind::Class {
            return true;
        }
        scope = names.scope(id).parent;
    }
    false
}
