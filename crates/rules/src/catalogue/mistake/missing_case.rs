use sieve_meaning::declared::{declares, written_type};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-case",
    concern: Concern::Mistake,
    mesh: Mesh::Fine,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::TypeScript, Language::Tsx, Language::Java, Language::CSharp],
    fix: None,
    what: "a choice by the values of an enumeration that leaves out a few of them and has no default",
    why: "For those values nothing happens, and a value that the enumeration gets later is forgotten as silently.",
    silent: "Where fewer values have a case than have none, which looks deliberate; for enumerations of other files, and for sets of flags.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "enum Tide { Low, Rising, High }\nfunction sail(tide: Tide) {\n  switch (tide) {\n    case Tide.Low:\n      return wait();\n    case Tide.High:\n      return go();\n  }\n}\n",
                at: &["3:3"],
                fixed: None,
            }],
            right: &[
                "enum Tide { Low, Rising, High }\nfunction sail(tide: Tide) {\n  switch (tide) {\n    case Tide.Low:\n      return wait();\n    default:\n      return go();\n  }\n}\nfunction wait(tide: Tide) {\n  switch (tide) {\n    case Tide.Low:\n      return rest();\n  }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    enum Tide { LOW, RISING, HIGH }\n\n    void sail(Tide tide) {\n        switch (tide) {\n            case LOW:\n                rest();\n                break;\n            case HIGH:\n                go();\n        }\n    }\n}\n",
                at: &["5:9"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    enum Tide { LOW, HIGH }\n\n    void sail(Tide tide, Wind wind) {\n        switch (tide) {\n            case LOW -> rest();\n            case HIGH -> go();\n        }\n        switch (wind) {\n            case LOW -> rest();\n        }\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "enum Tide { Low, Rising, High }\n\nclass Quay\n{\n    void Sail(Tide tide)\n    {\n        switch (tide)\n        {\n            case Tide.Low:\n                Rest();\n                break;\n            case Tide.High:\n                Go();\n                break;\n        }\n    }\n}\n",
                at: &["7:9"],
                fixed: None,
            }],
            right: &[
                "enum Tide { Low, Rising, High }\n\n[Flags]\nenum Winds { North = 1, South = 2, West = 4 }\n\nclass Quay\n{\n    int Sail(Tide tide, Winds winds)\n    {\n        switch (tide)\n        {\n            case Tide.Low:\n            case Tide.Rising:\n                return 1;\n            case var other:\n                return 2;\n        }\n        switch (winds)\n        {\n            case Winds.North:\n                return 3;\n            case Winds.South:\n                return 4;\n        }\n        return 0;\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::Match], check),
};

fn check(context: &mut Context, choice: NodeRef) {
    if choice.role() != Role::Statement {
        return;
    }
    let mut named = Vec::new();
    for case in choice.children_in(Role::Case) {
        let before = named.len();
        named.extend(case.children_in(Role::Pattern));
        // A default takes whatever is left.
        if named.len() == before {
            return;
        }
    }
    let Some(of) = named.first().and_then(|first| enumeration(context, choice, *first)) else { return };
    let Some(body) = of.child(Role::Body).filter(|_| !is_set_of_flags(context, of)) else { return };
    let values: Vec<&str> = body
        .children()
        .filter(|member| member.kind() == Kind::EnumMember)
        .filter_map(|member| member.child(Role::Name))
        .map(|name| context.text(name))
        .collect();
    let taken: Vec<&str> = named.iter().map(|pattern| last_name(context, *pattern)).collect();
    // Something else than a value of it, such as a pattern, may take any.
    if taken.iter().any(|name| !values.contains(name)) {
        return;
    }
    let left: Vec<&str> = values.iter().copied().filter(|value| !taken.contains(value)).collect();
    if !left.is_empty() && left.len() < taken.len() {
        report(context, choice, of, &left);
    }
}

fn report(context: &mut Context, choice: NodeRef, of: NodeRef, left: &[&str]) {
    let name = of.child(Role::Name).map_or("", |name| context.text(name));
    let (values, have) = if left.len() == 1 { ("value", "has") } else { ("values", "have") };
    let head = choice.tree().token_span(choice.token_range().start);
    context
        .report(
            head,
            format!("the {values} {} of {name} {have} no case here, and there is no default", left.join(", ")),
        )
        .advice("add the missing cases, or a default that says what is to happen");
}

/// The enumeration of the file whose values the cases name: by the object before the value, or by the type of what is asked.
fn enumeration<'t>(context: &Context<'t>, choice: NodeRef<'t>, pattern: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let names = context.names();
    let named = match pattern.kind() {
        Kind::Member | Kind::Path => pattern.child(Role::Object)?,
        Kind::Name => {
            let subject = choice.child(Role::Subject).filter(|subject| subject.kind() == Kind::Name)?;
            written_type(names, subject)?.child(Role::Name)?
        }
        _ => return None,
    };
    declares(names, named).filter(|declaration| declaration.kind() == Kind::Enum)
}

fn last_name<'t>(context: &Context<'t>, pattern: NodeRef<'t>) -> &'t str {
    context.text(pattern.child(Role::Name).unwrap_or(pattern))
}

fn is_set_of_flags(context: &Context, of: NodeRef) -> bool {
    of.children_in(Role::Decorator).any(|decorator| context.text(decorator).contains("Flags"))
}
