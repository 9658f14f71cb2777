use rustc_hash::FxHashSet;
use sieve_meaning::is_of_library;
use sieve_meaning::opened::{OpeningQuestion, names_in, opened_by};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::habit::whole_lines;
use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unused-namespace",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::CSharp],
    fix: Some(FixKind::Review),
    what: "a namespace of the project that is opened, and of which nothing is named",
    why: "It ties the file to a part of the project that it does not need, and lets names mean more than one thing.",
    silent: "For namespaces that no file of the project declares, and those whose first name is another than that of the file's own: what packages declare is not known. Where the namespace has functions that are called without their names (`Add`, `GetEnumerator`, those of queries), or one of its files is not understood as a whole; where the name of one of its types, or of a function that is called on objects, is written anywhere in the file but in strings and plain comments; beside a comment; for `global using`, and within namespaces, where a name may mean another one.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::CSharp,
        wrong: &[Wrong {
            code: "using System;\nusing Ferries.Tides;\n\nnamespace Ferries.Tides { class Table {} }\nnamespace Ferries.Desk { class Till {} }\n",
            at: &["2:1"],
            fixed: Some(
                "using System;\n\nnamespace Ferries.Tides { class Table {} }\nnamespace Ferries.Desk { class Till {} }\n",
            ),
        }],
        right: &[
            "using Ferries.Tides;\n\nnamespace Ferries.Tides { class Table {} }\nnamespace Ferries.Desk { class Till { Table table; } }\n",
            "using Ferries.Tides;\n\nnamespace Ferries.Tides { static class Ends { public static int End(this int day) => day; } }\nnamespace Ferries.Desk { class Till { int Last(int day) => day.End(); } }\n",
            "using Ferries.Tides;\n\nnamespace Ferries.Tides { class FragileAttribute : System.Attribute {} }\nnamespace Ferries.Desk { [Fragile] class Till {} }\n",
            "using Ferries.Quays;\n\nnamespace Ferries.Desk { class Till {} }\n",
            "using Harbours.Tides;\n\nnamespace Ferries.Desk { class Till {} }\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::File], check),
};

fn check(context: &mut Context, root: NodeRef) {
    let file = context.file();
    let opening: Vec<(NodeRef, &str)> = openings(file, root).collect();
    if opening.is_empty() {
        return;
    }
    let own = opened_by(file.language, file.text, file.tree).unwrap_or_default();
    let first_names: FxHashSet<&str> = own.iter().map(|one| first_name(&one.name)).collect();
    let is_of_project =
        |namespace: &&str| !is_of_library(file.language, namespace) && first_names.contains(first_name(namespace));
    let wanted = opening.iter().map(|(_, namespace)| *namespace).filter(is_of_project);
    let namespaces: Vec<String> = wanted.map(str::to_string).collect();
    if namespaces.is_empty() {
        return;
    }
    let question = OpeningQuestion { namespaces, names: names_in(file.text, file.tree) };
    let in_vain: FxHashSet<String> = file.others.opened_in_vain(&question, &own).into_iter().collect();
    for (import, namespace) in opening.into_iter().filter(|(_, namespace)| in_vain.contains(*namespace)) {
        if is_commented(file, import) {
            context.unsure(import.span(), "a comment says something of the import");
            continue;
        }
        let edits = whole_lines(file, import.span()).map(|lines| vec![Edit::remove(lines)]);
        context
            .report(import.span(), format!("nothing of the namespace \"{namespace}\" is named here"))
            .advice("remove it")
            .fix_to_review(edits);
    }
}

/// What a file opens for itself alone, outside of its namespaces.
fn openings<'f>(file: File<'f>, root: NodeRef<'f>) -> impl Iterator<Item = (NodeRef<'f>, &'f str)> {
    let before = root.children().take_while(|one| one.kind() != Kind::PackageClause);
    before.filter(|one| one.kind() == Kind::Import).filter_map(move |import| {
        let mut items = import.children_in(Role::Item);
        let module = items.next()?.child(Role::Module).filter(|_| items.next().is_none())?;
        let is_for_all = file.node_text(import).starts_with("global");
        (!is_for_all).then(|| (import, file.node_text(module)))
    })
}

fn first_name(namespace: &str) -> &str {
    namespace.split('.').next().unwrap_or_default()
}

/// Whether a comment is behind an import on its line.
fn is_commented(file: File<'_>, import: NodeRef) -> bool {
    let behind = import.token_range().end..file.tree.tokens().len() as u32;
    let mut kinds = behind.map(|token| file.tree.token_kind(token)).skip_while(|kind| *kind == TokenKind::Blank);
    kinds.next() == Some(TokenKind::Comment)
}
