use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::built::{first_argument, is_built};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "sql-by-joining",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a query built from strings",
    why: "A passenger called `x' OR '1'='1` sees every ticket. Databases take parameters apart from the query.",
    silent: "In tests, and where the inserted part may be the name of a table. Where the string does not begin like a query, and where the called function is not named like one.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "db.execute(f\"SELECT * FROM tickets WHERE name = '{name}'\")\n",
                    at: &["1:12"],
                    fixed: None,
                },
                Wrong {
                    code: "db.execute(\"DELETE FROM tickets WHERE id = %s\" % ticket)\n",
                    at: &["1:12"],
                    fixed: None,
                },
            ],
            right: &["db.execute(\"SELECT * FROM tickets WHERE name = ?\", (name,))\nprint(f\"SELECT {name}\")\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "await db.query(`SELECT * FROM tickets WHERE name = '${name}'`);\n",
                at: &["1:16"],
                fixed: None,
            }],
            right: &[
                "await db.query(\"SELECT * FROM tickets WHERE name = $1\", [name]);\nawait db.query(sql`SELECT ${name}`);\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Call], check),
};

const METHODS: &[&str] = &["execute", "executemany", "executescript", "query", "raw", "fetch", "fetchrow", "fetchval"];
const BEGINNINGS: &[&str] = &["select ", "insert into ", "update ", "delete from ", "replace into "];

fn check(context: &mut Context, call: NodeRef) {
    let file = context.file();
    let callee = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member);
    let Some(method) = callee.and_then(|callee| callee.child(Role::Name)) else { return };
    if !METHODS.contains(&file.node_text(method)) {
        return;
    }
    let Some(text) = first_argument(call).filter(|text| is_built(file, *text)) else { return };
    let head = file
        .node_text(text)
        .trim_start_matches(|letter: char| !letter.is_ascii_alphabetic() || matches!(letter, 'f' | 'r' | 'b'));
    let head = head.split_whitespace().collect::<Vec<_>>().join(" ").to_ascii_lowercase();
    if !BEGINNINGS.iter().any(|beginning| head.starts_with(beginning)) || file.is_test() {
        return;
    }
    // Names of tables cannot be given beside a query: only where values are is it known that they could.
    if !puts_values(&head) || head.contains("%%s") || head.contains("quote") {
        context.unsure(text.span(), "what is put into the query may be the name of a table");
    } else {
        context
            .report(text.span(), "the query is built from strings")
            .advice("use placeholders, and pass the values as parameters");
    }
}

/// Whether something is put where a value is: after a comparison, or within quotes.
fn puts_values(query: &str) -> bool {
    query.match_indices(['{', '%', '$', '+']).any(|(at, _)| {
        let before = query[..at].trim_end_matches(['"', ' ', '$', '+', '`']);
        before.ends_with(['=', '\'', '<', '>'])
            || before.ends_with(" like")
            || before.ends_with("values (")
            || before.ends_with(" in (")
    })
}
