use sieve_meaning::declared::only_value;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::built::{Insertion, first_argument, insertions, is_built};

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
    silent: "In tests, for constants, numbers and repeated marks, and where the inserted part may be the name of a table. Where the string does not begin like a query, and where the called function is not named like one.",
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
            right: &[
                "def moor(db, quay):\n    mark = db.arg\n    db.execute(\"SELECT tide FROM quays WHERE name = %s\" % mark, (quay,))\n    db.execute(\"SELECT tide FROM quays WHERE side = '%s'\" % Side.Lee)\n",
                "db.execute(\"SELECT * FROM tickets WHERE name = ?\", (name,))\nprint(f\"SELECT {name}\")\n",
            ],
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
    needs_names: true,
    check: Check::Named(&[Kind::Call], METHODS, check),
};

const METHODS: &[&str] = &["execute", "executemany", "executescript", "query", "raw", "fetch", "fetchrow", "fetchval"];
const BEGINNINGS: &[&str] = &["select ", "insert into ", "update ", "delete from ", "replace into "];

fn check(context: &mut Context, call: NodeRef) {
    let file = context.file();
    if call.child(Role::Callee).is_none_or(|callee| callee.kind() != Kind::Member) {
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
    if head.contains("%%s") || head.contains("quote") {
        context.unsure(text.span(), OF_TABLE);
        return;
    }
    let open: Vec<Insertion> = insertions(file, text)
        .into_iter()
        .filter(|(_, value)| !value.is_some_and(|value| is_fixed(context, value, 0)))
        .collect();
    // Names of tables cannot be given beside a query: only where values are is it known that they could.
    if open.iter().any(|(at, _)| puts_value(file.text.slice(Span::new(text.span().start, *at)))) {
        context
            .report(text.span(), "the query is built from strings")
            .advice("use placeholders, and pass the values as parameters");
    } else if !open.is_empty() {
        context.unsure(text.span(), OF_TABLE);
    }
}

const OF_TABLE: &str = "what is put into the query may be the name of a table";

/// How far before an insertion is looked at, in bytes.
const BEFORE: usize = 80;

/// Whether what is put in after some text is where a value is: after a comparison, within quotes, or in a list of values.
fn puts_value(before: &str) -> bool {
    let mut start = before.len().saturating_sub(BEFORE);
    while !before.is_char_boundary(start) {
        start += 1;
    }
    let before = before[start..].split_whitespace().collect::<Vec<_>>().join(" ").to_ascii_lowercase();
    let before = before.trim_end_matches(['"', ' ', '$', '+', '`', 'f']);
    let in_list = before.rfind("values (").is_some_and(|at| !before[at..].contains(')'));
    in_list || before.ends_with(['=', '\'', '<', '>']) || before.ends_with(" like") || before.ends_with(" in (")
}

/// Names of the mark that a database has for a parameter.
const MARKS: &[&str] = &["arg", "mark", "marker", "param", "ph", "placeholder"];

/// Deeper expressions are not looked into.
const DEEPEST: usize = 8;

/// Whether nobody outside of the code can choose what an expression gives: a constant, a number, or a list of such.
fn is_fixed(context: &Context, value: NodeRef, depth: usize) -> bool {
    let file = context.file();
    if depth > DEEPEST {
        return false;
    }
    let fixed = |node: NodeRef| is_fixed(context, node, depth + 1);
    let part = |role| value.child(role);
    match value.kind() {
        Kind::String | Kind::Number | Kind::Boolean => true,
        Kind::Tuple | Kind::List | Kind::Set | Kind::Concatenation | Kind::FormatString => value.children().all(fixed),
        Kind::Interpolation | Kind::Group => part(Role::Value).is_some_and(fixed),
        Kind::Name => {
            let bound = only_value(context.names(), value);
            bound.is_some_and(fixed) || bound.is_none() && is_capital(file.node_text(value))
        }
        Kind::Member => part(Role::Name).map(|name| file.node_text(name)).is_some_and(|name| {
            let of_type = part(Role::Object).is_some_and(|object| {
                object.kind() == Kind::Name && file.node_text(object).starts_with(char::is_uppercase)
            });
            is_capital(name) || of_type && name.starts_with(char::is_uppercase) || MARKS.contains(&name)
        }),
        Kind::Conditional => [Role::Value, Role::Else].into_iter().all(|role| part(role).is_some_and(fixed)),
        // A mark as often as there are values.
        Kind::Binary => [Role::Left, Role::Right].into_iter().any(|role| part(role).is_some_and(is_mark_list)),
        Kind::Call => {
            let Some(callee) = part(Role::Callee) else { return false };
            let joins = callee.child(Role::Name).is_some_and(|name| file.node_text(name) == "join");
            matches!(file.node_text(callee), "int" | "len" | "float" | "Number" | "parseInt")
                || joins && first_argument(value).is_some_and(fixed)
        }
        _ => false,
    }
}

/// A string or a list of strings, to be repeated.
fn is_mark_list(value: NodeRef) -> bool {
    value.kind() == Kind::String || value.kind() == Kind::List && value.children().all(|one| one.kind() == Kind::String)
}

/// The name of a constant.
fn is_capital(name: &str) -> bool {
    name.len() > 1 && !name.contains(char::is_lowercase) && name.contains(char::is_uppercase)
}
