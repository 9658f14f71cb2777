use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::same::{operator_between, same_code};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "equality-chain",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: Some(FixKind::Review),
    what: "one value compared with others one by one",
    why: "A list of values shows the intent, and the next value is added in one place.",
    silent: "The value must be the same each time it is read: a name, or a member of one. In TypeScript, strings are left alone, since comparing with them narrows the type.",
    standards: &[],
    options: &[OptionFacts { name: "least", default: OptionDefault::Count(3), about: "from how many comparisons on" }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "if tide == 1 or tide == 2 or tide == 3:\n    sail()\n",
                    at: &["1:4"],
                    fixed: Some("if tide in (1, 2, 3):\n    sail()\n"),
                },
                Wrong {
                    code: "x = a.b != \"x\" and a.b != \"y\" and a.b != \"z\"\n",
                    at: &["1:5"],
                    fixed: Some("x = a.b not in (\"x\", \"y\", \"z\")\n"),
                },
            ],
            right: &[
                "if tide == 1 or tide == 2: pass\n",
                "if a == 1 or b == 2 or a == 3: pass\n",
                "if f() == 1 or f() == 2 or f() == 3: pass\n",
                "if a == x() or a == 2 or a == 3: pass\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "if (tide === 1 || tide === 2 || tide === 3) sail();\n",
                    at: &["1:5"],
                    fixed: Some("if ([1, 2, 3].includes(tide)) sail();\n"),
                },
                Wrong {
                    code: "if (tide === low || tide === high || tide === neap) sail();\n",
                    at: &["1:5"],
                    fixed: None,
                },
            ],
            right: &[
                "if (tide == 1 || tide == 2 || tide == 3) sail();\n",
                "if (a === 1 || a === 2 && a === 3) sail();\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "if (tide === 1 || tide === 2 || tide === 3) sail();\n",
                at: &["1:5"],
                fixed: None,
            }],
            right: &["if (tide.kind === \"low\" || tide.kind === \"high\" || tide.kind === \"neap\") sail(tide);\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Logical], check),
};

fn check(context: &mut Context, chain: NodeRef) {
    let least = context.count("least") as usize;
    let file = context.file();
    if chain.children_in(Role::Operand).nth(least.max(2) - 1).is_none() {
        return;
    }
    let operands: Vec<NodeRef> = chain.children_in(Role::Operand).collect();
    let joined_by = operator_between(file, operands[0], operands[1]).map(|(kind, _)| kind);
    let equal = match (joined_by, file.language) {
        (Some(TokenKind::Or), _) => TokenKind::Equal,
        (Some(TokenKind::And), _) => TokenKind::NotEqual,
        (Some(TokenKind::BarBar), _) => TokenKind::StrictEqual,
        (Some(TokenKind::AndAnd), _) => TokenKind::StrictNotEqual,
        _ => return,
    };
    let mut values = Vec::new();
    let Some(subject) = operands[0].child(Role::Operand) else { return };
    for operand in &operands {
        let Some((left, right)) = compared(file, *operand, equal) else { return };
        // With such comparisons TypeScript knows more of the value's type; with a list it would not.
        let tells_type = file.traits.narrows_types && right.kind() == Kind::String;
        if !same_code(file, left, subject) || !is_value(right) || tells_type {
            return;
        }
        values.push(file.node_text(right));
    }
    if !is_plain(subject) {
        return;
    }
    let (name, list) = (file.node_text(subject), values.join(", "));
    let negated = matches!(equal, TokenKind::NotEqual | TokenKind::StrictNotEqual);
    let text = match (file.traits.word_operators, negated) {
        (true, false) => format!("{name} in ({list})"),
        (true, true) => format!("{name} not in ({list})"),
        (false, false) => format!("[{list}].includes({name})"),
        (false, true) => format!("![{list}].includes({name})"),
    };
    // A name may hold what is not equal to itself, which a list finds; and with a list TypeScript knows less of the type.
    let is_literal = |operand: &NodeRef| compared(file, *operand, equal).is_some_and(|(_, right)| !is_plain(right));
    let keeps_meaning = operands.iter().all(is_literal) && !file.traits.narrows_types;
    let edits = keeps_meaning.then(|| vec![Edit::replace(chain.span(), text)]);
    context
        .report(chain.span(), format!("\"{name}\" is compared with {} values one by one", values.len()))
        .advice("check whether it is one of a list")
        .fix_to_review(edits);
}

/// The two sides of a comparison with this operator.
fn compared<'t>(file: File<'_>, node: NodeRef<'t>, operator: TokenKind) -> Option<(NodeRef<'t>, NodeRef<'t>)> {
    let mut operands = node.children_in(Role::Operand);
    let (left, right) = (operands.next()?, operands.next()?);
    let is_it = node.kind() == Kind::Comparison && operands.next().is_none();
    let is_it = is_it && operator_between(file, left, right).is_some_and(|(kind, _)| kind == operator);
    is_it.then_some((left, right))
}

/// What has its value without anything being run.
fn is_value(node: NodeRef) -> bool {
    matches!(node.kind(), Kind::Number | Kind::String | Kind::Bytes) || is_plain(node)
}

fn is_plain(node: NodeRef) -> bool {
    match node.kind() {
        Kind::Name | Kind::This => true,
        Kind::Member => node.child(Role::Object).is_some_and(|object| matches!(object.kind(), Kind::Name | Kind::This)),
        _ => false,
    }
}
