use std::collections::HashSet;

use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::modifier::modifier;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "async-without-task",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::CSharp],
    fix: None,
    what: "an async function that gives nothing to wait for",
    why: "Callers cannot wait for it or know that it failed: an error in it ends the whole program, and a test that calls it is over before it begins.",
    silent: "For what handles an event, whose form the event determines: functions with a sender and arguments (`…EventArgs`), and functions that are handed to an event by `+=` in the file. For what another declaration determines: overrides, and members of an interface that are defined explicitly.",
    standards: &["C# language reference, \"Async return types\""],
    options: &[],
    examples: &[Examples {
        language: Language::CSharp,
        wrong: &[Wrong {
            code: "class Quay\n{\n    public async void Sail(int tide)\n    {\n        await Wait(tide);\n    }\n}\n",
            at: &["3:12"],
            fixed: None,
        }],
        right: &[
            "class Quay : IPlace\n{\n    Quay() { Button.Pressed += OnPressed; }\n    public async Task Sail(int tide) => await Wait(tide);\n    async void Clicked(object sender, ClickEventArgs e) => await Wait(1);\n    async void OnPressed() => await Wait(2);\n    protected override async void Open() => await Wait(3);\n    async void IPlace.Close() => await Wait(4);\n    void Moor() { }\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::All(&[Kind::Function, Kind::CompoundAssignment], check),
};

fn check(context: &mut Context, nodes: &[NodeRef]) {
    let handed: HashSet<&str> = nodes.iter().filter_map(|node| handed_to_event(context.file(), *node)).collect();
    for function in nodes.iter().filter(|node| node.kind() == Kind::Function) {
        let file = context.file();
        let Some(word) = modifier(file, *function, "async") else { continue };
        let (Some(returns), Some(name)) = (function.child(Role::Returns), function.child(Role::Name)) else { continue };
        let is_void = returns.kind() == Kind::PredefinedType && file.node_text(returns) == "void";
        let is_determined = function.child(Role::Receiver).is_some() || modifier(file, *function, "override").is_some();
        let name = file.node_text(name);
        if !is_void || is_determined || takes_event(file, *function) || handed.contains(name) {
            continue;
        }
        context
            .report(
                file.tree.token_span(word),
                format!("nobody can wait for \"{name}\", and an error in it ends the program"),
            )
            .advice("give a Task instead of void");
    }
}

/// Whether a function takes who sends an event, and its arguments.
fn takes_event(file: File<'_>, function: NodeRef) -> bool {
    let parameters = function.child(Role::Parameters).into_iter().flat_map(|all| all.children_in(Role::Parameter));
    let types: Vec<&str> = parameters.filter_map(|one| one.child(Role::Type)).map(|one| file.node_text(one)).collect();
    types.len() == 2 && types[1].trim_end_matches('?').ends_with("EventArgs")
}

/// The name of a function that is added to an event: `Pressed += this.OnPressed`.
fn handed_to_event<'f>(file: File<'f>, node: NodeRef) -> Option<&'f str> {
    let value = node.child_of(Kind::CompoundAssignment, Role::Value)?;
    match value.kind() {
        Kind::Name => Some(file.node_text(value)),
        Kind::Member => value.child(Role::Name).map(|name| file.node_text(name)),
        _ => None,
    }
}
