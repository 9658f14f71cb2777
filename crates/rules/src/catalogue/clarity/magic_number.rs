use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "magic-number",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a number that appears without a name",
    why: "A reader cannot tell what it stands for, nor which equal numbers elsewhere must change with it.",
    silent: "A number that is given a name by where it stands is not reported: assigned to a name, by itself or in a literal; a default; \
             an argument given by name; the value of a key; an index.",
    standards: &[],
    options: &[OptionFacts {
        name: "allowed",
        default: OptionDefault::Numbers(&[-1.0, 0.0, 1.0, 2.0]),
        about: "numbers that need no name",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def child_fare(adult):\n    return adult * 0.55\n", at: &["2:20"], fixed: None },
                Wrong { code: "if len(seats) > 48:\n    refuse()\n", at: &["1:17"], fixed: None },
            ],
            right: &[
                "CHILD_SHARE = 0.55\nLIMITS = [48, 12 * 60]\n\ndef child_fare(adult, share=0.55):\n    return adult * share\n",
                "wait(minutes=15)\nfare = {\"adult\": 450}\nthird = seats[3]\nx = y + 1\n",
                "WAIT = timedelta(0, 900)\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "export const childFare = adult => adult * 0.55;\n", at: &["1:43"], fixed: None },
                Wrong { code: "if (seats.length > 48) refuse();\n", at: &["1:20"], fixed: None },
            ],
            right: &[
                "const noon = timeOf(12, 30);\nexport const quay = new Quay(53.2);\n",
                "const CHILD_SHARE = 0.55;\nconst fare = (adult, share = 0.55) => adult * share;\n",
                "const fare = { adult: 450 }, third = seats[3], x = y + 1;\nswitch (code) {\n  case 404:\n    retry();\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Number], check),
};

/// A number deeper in an expression than this is not followed: it stands in a table or in generated code.
const FOLLOWED: usize = 32;

fn check(context: &mut Context, number: NodeRef) {
    let text = context.text(number);
    let Some(value) = context.file().language.number_value(text).and_then(|value| value.as_real()) else { return };
    let sign = number.parent().filter(|parent| is_negative(*parent));
    let signed = if sign.is_some() { -value } else { value };
    let allowed = context.numbers("allowed");
    if allowed.contains(&signed) || is_named(context, number) {
        return;
    }
    let place = sign.unwrap_or(number);
    let text = context.text(place);
    context
        .report(place.span(), format!("{text} appears without a name"))
        .advice("give it a name that says what it means");
}

fn is_negative(node: NodeRef) -> bool {
    node.kind() == Kind::Unary && node.first_token_kind() == TokenKind::Minus
}

/// Whether the place of a number says what it is for.
fn is_named(context: &Context, number: NodeRef) -> bool {
    let mut node = number;
    let mut in_call = false;
    for _ in 0..FOLLOWED {
        let Some(parent) = node.parent() else { return false };
        match (parent.kind(), node.role()) {
            (Kind::Unary | Kind::Binary | Kind::Group | Kind::Tuple | Kind::List | Kind::Set | Kind::Dictionary, _) => {
            }
            (Kind::Pair | Kind::Field | Kind::EnumMember | Kind::Attribute, Role::Value) => return true,
            (Kind::ShorthandPair | Kind::DefaultPattern, Role::Default) => return true,
            (Kind::LiteralType | Kind::Case, _) | (_, Role::Name) => return true,
            (Kind::Cast | Kind::Interpolation, Role::Value) => {}
            (Kind::Pair | Kind::Spread, _) => {}
            (Kind::Arguments | Kind::Call | Kind::New, _) => in_call = true,
            (Kind::Assignment | Kind::AnnotatedAssignment, Role::Value) => {
                return !in_call || binds_constant(context, parent);
            }
            (Kind::KeywordArgument | Kind::Parameter | Kind::NamedExpression, _) => return !in_call,
            (_, Role::Index | Role::Lower | Role::Upper | Role::Step | Role::Type | Role::Returns) => return true,
            (Kind::FormatSpec | Kind::LiteralPattern, _) => return true,
            _ => return false,
        }
        node = parent;
    }
    true
}

/// Whether an assignment is that of a constant: by its name, `UPPER_SNAKE`, or by being declared as one for the whole file.
fn binds_constant(context: &Context, assignment: NodeRef) -> bool {
    let declaration = assignment.parent().filter(|holder| holder.kind() == Kind::Declaration);
    let outer = |node: NodeRef| node.parent().is_some_and(|file| file.kind() == Kind::File);
    let declared = declaration.filter(|declaration| declaration.first_token_kind() == TokenKind::Const);
    if declared.is_some_and(|constant| {
        outer(constant) || constant.parent().is_some_and(|export| export.kind() == Kind::Export)
    }) {
        return true;
    }
    assignment.children_in(Role::Target).any(|target| {
        let name = context.text(target);
        name.chars().any(char::is_alphabetic) && !name.chars().any(char::is_lowercase)
    })
}
