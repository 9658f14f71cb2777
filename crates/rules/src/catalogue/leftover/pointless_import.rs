use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenId, TokenKind};

use crate::habit::whole_lines;
use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "pointless-import",
    concern: Concern::Leftover,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Java, Language::CSharp],
    fix: Some(FixKind::Review),
    what: "an import of what the file sees without it",
    why: "It does nothing, and readers look for what needs it.",
    silent: "For imports with another name, beside lines for a preprocessor, and for what another namespace holds: whether something of that is used is not known without the compiled libraries. For `java.lang`, of which the package may have a type of the same name.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "package ferries.desk;\n\nimport ferries.desk.Ticket;\n\nclass Desk {\n    Ticket ticket;\n}\n",
                    at: &["3:1"],
                    fixed: Some("package ferries.desk;\n\n\nclass Desk {\n    Ticket ticket;\n}\n"),
                },
                Wrong {
                    code: "import ferries.tides.*;\nimport ferries.tides.*;\n\nclass Desk {\n    Table table;\n}\n",
                    at: &["2:1"],
                    fixed: Some("import ferries.tides.*;\n\nclass Desk {\n    Table table;\n}\n"),
                },
            ],
            right: &[
                "package ferries.desk;\n\nimport ferries.tides.*;\nimport ferries.desk.Ticket.Kind;\nimport static ferries.desk.Ticket.of;\n\nclass Desk {\n    Kind kind = of(3);\n    Table table;\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[
                Wrong {
                    code: "using System;\nusing Ferries;\n\nnamespace Ferries.Desk\n{\n    class Desk { }\n}\n",
                    at: &["2:1"],
                    fixed: Some("using System;\n\nnamespace Ferries.Desk\n{\n    class Desk { }\n}\n"),
                },
                Wrong {
                    code: "using System;\nusing Ferries;\nusing System;\n\nclass Desk { }\n",
                    at: &["3:1"],
                    fixed: Some("using System;\nusing Ferries;\n\nclass Desk { }\n"),
                },
            ],
            right: &[
                "using System;\nusing Ferries.Desk.Old;\nusing Desk = Ferries.Desk;\n\nnamespace Ferries.Desk\n{\n    class Clerk { }\n}\n",
                "using Ferries;\n\nnamespace Ferries.Desk\n{\n    class Clerk { }\n}\n\nclass Program { }\n",
                "#if SUMMER\nusing System;\n#endif\nusing System;\n\nclass Program { }\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::All(&[Kind::Import], check),
};

fn check(context: &mut Context, imports: &[NodeRef]) {
    let tree = context.file().tree;
    // What lines for a preprocessor leave out is not known.
    let is_directive = |token: &TokenId| tree.token_kind(*token) == TokenKind::Directive;
    let directives: Vec<TokenId> = (0..tree.tokens().len() as TokenId).filter(is_directive).collect();
    let homes = if directives.is_empty() { homes(context, tree.root()) } else { Vec::new() };
    let mut seen: FxHashMap<(NodeId, String), NodeRef> = FxHashMap::default();
    for import in imports {
        let Some(block) = import.parent() else { continue };
        let text: String = context.text(*import).split_whitespace().collect::<Vec<_>>().join(" ");
        match seen.get(&(block.id(), text.clone())) {
            Some(first) => {
                let next = directives.partition_point(|token| *token < first.token_range().start);
                if directives.get(next).is_none_or(|token| *token >= import.token_range().end) {
                    let line = context.line(first.span().start);
                    report(context, *import, format!("line {line} imports it already"));
                }
            }
            None => {
                seen.insert((block.id(), text), *import);
                if let Some(of) = own(context, *import, &homes).filter(|_| block.kind() == Kind::File) {
                    report(context, *import, format!("what is in {of} is seen here without an import"));
                }
            }
        }
    }
}

fn report(context: &mut Context, import: NodeRef, message: String) {
    let edits = whole_lines(context.file(), import.span()).map(|lines| vec![Edit::remove(lines)]);
    context.report(import.span(), message).advice("remove it").fix_to_review(edits);
}

/// What an import opens, or takes something out of, where the whole file sees that without it.
fn own(context: &Context, import: NodeRef, homes: &[String]) -> Option<String> {
    let item = import.child(Role::Item).filter(|item| item.child(Role::Alias).is_none())?;
    if import.children_in(Role::Item).nth(1).is_some() || says_static(context, import) {
        return None;
    }
    let opened = dotted(context, item.child(Role::Module)?);
    let sees_outer = context.file().traits.open_namespaces;
    let is_within = |home: &String| {
        let rest = home.strip_prefix(&opened);
        rest.is_some_and(|rest| rest.is_empty() || sees_outer && rest.starts_with('.'))
    };
    (!homes.is_empty() && homes.iter().all(is_within)).then_some(opened)
}

fn says_static(context: &Context, import: NodeRef) -> bool {
    context.text(import).split_whitespace().any(|word| matches!(word, "static" | "global" | "unsafe"))
}

/// The package of a file, or the namespaces that hold everything in it; none where something is outside of them.
fn homes(context: &Context, file: NodeRef) -> Vec<String> {
    let mut found = Vec::new();
    let mut is_of_one = false;
    for part in file.children().filter(|part| part.kind() != Kind::Import) {
        match (part.kind(), part.child(Role::Name)) {
            (Kind::PackageClause, Some(name)) => {
                is_of_one = true;
                found.push(dotted(context, name));
            }
            (Kind::Namespace, Some(name)) => found.push(dotted(context, name)),
            _ if is_of_one => {}
            _ => return Vec::new(),
        }
    }
    found
}

fn dotted(context: &Context, path: NodeRef) -> String {
    context.text(path).split_whitespace().collect()
}
