use sieve_meaning::doc_comment::{doc_comment, documented_parameters};
use sieve_syntax::language::Language;
use sieve_syntax::text::Marks;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "doc-mismatch",
    concern: Concern::Docs,
    mesh: Mesh::Medium,
    level: Level::Note,
    certainty: Certainty::Probable,
    languages: Language::WITH_CLASSES,
    fix: None,
    what: "documentation of parameters that do not exist",
    why: "Callers who follow it pass an argument that the function does not take, or use a name that has changed.",
    silent: "Getters, which document the function that they return, are left alone, and so are functions that take any keyword, destructured parameters, docs in an unknown format, and comments that say which other thing they document.",
    standards: &["PEP 257"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "def sail(quay):\n    \"\"\"Sails.\n\n    :param tide: the tide\n    \"\"\"\n",
                    at: &["4:5"],
                    fixed: None,
                },
                Wrong {
                    code: "def sail(quay):\n    \"\"\"Sails.\n\n    Args:\n        quay: where to\n        tide: the tide\n    \"\"\"\n",
                    at: &["6:9"],
                    fixed: None,
                },
                Wrong {
                    code: "def sail(quay):\n    \"\"\"Sails.\n\n    Parameters\n    ----------\n    quay : str\n        Where to.\n    tide : int\n        The tide.\n    \"\"\"\n",
                    at: &["8:5"],
                    fixed: None,
                },
            ],
            right: &[
                "def sail(quay, **more):\n    \"\"\":param tide: the tide\"\"\"\n",
                "def sail(quay):\n    \"\"\"Sails.\n\n    :param str quay: where to\n    \"\"\"\n",
                "def sail(quay):\n    \"\"\"Sails.\n\n    Args:\n        quay: where to, after\n        http://quays.example\n        speed - knots, usual: 4\n    \"\"\"\n",
                "def sail(*quays, tide=1):\n    \"\"\"Sails.\n\n    Args:\n        *quays: where to\n        tide (int): the tide\n            Note: high\n\n    Returns:\n        nothing\n    \"\"\"\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "/**\n * Sails.\n * @param {string} tide the tide\n */\nfunction sail(quay) { return quay; }\n",
                at: &["3:4"],
                fixed: None,
            }],
            right: &[
                "/** @param {string} tide when */\nfunction sail(/* tide */) {}\n",
                "/**\n * @param {string} quay where to\n * @param {object} how\n * @param {number} how.fast\n * @param {...string} rest\n */\nfunction sail(quay, { fast }, ...rest) {}\n",
                "class Quay {\n  /** @param {number} tide when */\n  get open() { return this.openAt; }\n}\n",
                "/** @param quay - where to */\nexport const sail = (quay = 1) => quay;\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Desk {\n    /**\n     * Sells.\n     * @param tide the tide\n     */\n    @Override\n    void sell(int fare) { pay(fare); }\n}\n",
                    at: &["4:8"],
                    fixed: None,
                },
                Wrong {
                    code: "interface Desk {\n    /** @param tide the tide */\n    void sell(int fare);\n}\n",
                    at: &["2:9"],
                    fixed: None,
                },
            ],
            right: &[
                "class Desk {\n    /**\n     * @param fare the fare\n     * @param <T> its kind\n     */\n    <T> void sell(int fare) { pay(fare); }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    /// <summary>Sells.</summary>\n    /// <param name=\"tide\">the tide</param>\n    [Obsolete]\n    public void Sell(int fare) { Pay(fare); }\n}\n",
                at: &["4:9"],
                fixed: None,
            }],
            right: &[
                "class Desk\n{\n    /// <param name=\"fare\">the fare</param>\n    /// <typeparam name=\"T\">its kind</typeparam>\n    public void Sell<T>(int fare) => Pay(fare);\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Function, Kind::Lambda], check),
};

fn check(context: &mut Context, function: NodeRef) {
    let file = context.file();
    let Some(parameters) = function.child(Role::Parameters) else { return };
    let Some(comment) = doc_comment(file.language, file.text, function) else { return };
    let mut documented = documented_parameters(file.language, file.text, comment);
    if documented.is_empty() {
        return;
    }
    let Some(names) = names_of(context, parameters) else { return };
    // A program has shortened the names.
    if !names.is_empty() && names.iter().all(|name| name.len() < 3) && documented.iter().all(|one| one.name.len() > 2) {
        return;
    }
    // A method of a derived class that needs none of what its base promises is documented as the base is.
    if names.is_empty() && has_base(function) {
        return;
    }
    let is_meant = |name: &str| names.iter().any(|known| plain(known) == plain(name)) || KEYWORDS.contains(&name);
    documented.retain(|one| !is_meant(file.text.slice(one.name)));
    documented.retain(|one| !is_sentence(file.text.slice(one.name), file.text.slice(one.entry)));
    documented.retain(|one| !names.iter().any(|known| begins_with(file.text.slice(one.entry), known)));
    // Nearly all describe what is there: the rest is asked of the others alone.
    if documented.is_empty()
        || stands_for_others(context, function, parameters)
        || OTHERS.are_in(file.text.slice(comment))
    {
        return;
    }
    // What is taken without being named may be described all the same.
    let takes_any =
        |body: NodeRef| body.descendants().any(|node| node.kind() == Kind::Name && file.node_text(node) == "arguments");
    if function.child(Role::Body).is_some_and(takes_any) {
        return;
    }
    for documented in documented {
        let name = file.text.slice(documented.name);
        let close = names.iter().find(|known| known.to_lowercase() == name.to_lowercase());
        let reported =
            context.report(documented.entry, format!("\"{name}\" is documented, but no parameter has that name"));
        match close {
            Some(close) => reported.advice(format!("the parameter is called \"{close}\"")),
            None => reported.advice("remove it, or document the parameter that replaced it"),
        };
    }
}

/// Words that a language keeps for itself: a parameter is called otherwise, and documented so.
const KEYWORDS: &[&str] = &["lambda", "class", "from", "in", "is", "import", "function", "default", "async", "global"];

/// Whether an entry has its name and its type the other way round: `:param depth int:`, `@param {depth} number`.
fn begins_with(entry: &str, name: &str) -> bool {
    let type_of_field = entry.strip_prefix(":param ").and_then(|rest| rest.split_whitespace().next());
    let type_of_tag = entry.split_once('{').and_then(|(_, rest)| rest.split_once('}')).map(|(word, _)| word);
    type_of_field == Some(name) || type_of_tag == Some(name)
}

/// A name without underscores around it, and without the number by which what puts many scripts together tells names apart.
fn plain(name: &str) -> &str {
    name.trim_start_matches('@')
        .trim_matches('_')
        .trim_end_matches(|last: char| last.is_ascii_digit())
        .trim_end_matches('$')
}

/// Words before a colon that say more of the entry above.
const NOTES: &[&str] = &["Default", "Defaults", "Note", "Notes", "Example", "Examples", "Warning", "See"];

/// Whether an entry leaves the name out and says what it means at once: `@param {string} The day`.
fn is_sentence(name: &str, entry: &str) -> bool {
    let after = entry.split_once(name).map_or("", |(_, after)| after);
    if NOTES.contains(&name) {
        return true;
    }
    name.starts_with(char::is_uppercase)
        && after.starts_with(' ')
        && after.trim_start().starts_with(char::is_alphabetic)
}

/// Whether a method is of a class that has a base.
fn has_base(function: NodeRef) -> bool {
    let class = function.parent().and_then(|body| body.parent()).filter(|class| class.kind() == Kind::Class);
    class.is_some_and(|class| class.child(Role::Arguments).is_some())
}

/// What a comment says where it describes something that need not be what follows it.
static OTHERS: Marks = Marks::new(&[
    "@override",
    "@abstract",
    "@method",
    "@name ",
    "@function ",
    "@overload",
    "@callback",
    "@typedef",
    "@event",
    "@for ",
    "@mixin",
]);

/// Whether a declaration describes what others take: one that is decorated, does nothing itself, or keeps its parameters in a comment.
fn stands_for_others(context: &Context, function: NodeRef, parameters: NodeRef) -> bool {
    let tree = function.tree();
    let has_comment = parameters.token_range().any(|token| tree.token_kind(token) == TokenKind::Comment);
    let traits = context.file().traits;
    if has_comment || traits.decorators_only_say {
        return has_comment;
    }
    let keeps = |decorator: NodeRef| {
        context.text(decorator).ends_with("staticmethod") || context.text(decorator).ends_with("classmethod")
    };
    let changed = function.children_in(Role::Decorator).any(|decorator| !keeps(decorator));
    let does = function.child(Role::Body).is_some_and(|body| {
        body.kind() != Kind::Block
            || body.children().any(|statement| {
                !matches!(statement.kind(), Kind::Throw | Kind::Pass | Kind::ExpressionStatement)
                    || statement.child(Role::Value).is_some_and(|value| value.kind() == Kind::Assignment)
            })
    });
    // What reads an attribute may describe the function that it gives.
    let reads = function.first_token_kind() == TokenKind::Name && context.text(function).starts_with("get ");
    changed || reads || !(does || traits.indents_blocks)
}

/// The names of the parameters; `None` where any name may be given, or where some have none.
fn names_of<'f>(context: &Context<'f>, parameters: NodeRef) -> Option<Vec<&'f str>> {
    let mut names = Vec::new();
    for parameter in parameters.children_in(Role::Parameter) {
        let text = context.text(parameter);
        let name = parameter.child(Role::Name);
        let takes_any = text.starts_with("...") || text.starts_with('*') && text.len() > 1;
        if takes_any || (name.is_none() && !matches!(text, "*" | "/")) {
            return None;
        }
        names.extend(name.map(|name| context.text(name)));
    }
    Some(names)
}
