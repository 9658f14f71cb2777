use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::known_number::{FAMILIES, is_known};
use crate::same::operator_between;

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "magic-number",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "a number that appears without a name",
    why: "A reader cannot tell what it means, nor which equal numbers elsewhere must change with it.",
    silent: "A number that its context names is not reported: assigned to a name; a default; a keyword argument; an index. Numbers of lists and dictionaries are data; several numbers in one call are a point, a colour or a date; bits, bases and exponents need no name, and neither do small numbers that a length is compared with. Parts of a version, statuses of HTTP that are compared or sent, and factors between units of time are known. Tests are left alone unless the option asks for them.",
    standards: &[],
    options: &[
        OptionFacts {
            name: "allowed",
            default: OptionDefault::Numbers(&[0.0, 0.5, 1.0, 2.0, 10.0, 100.0, 1000.0]),
            about: "numbers that need no name, with either sign",
        },
        OptionFacts {
            name: "known",
            default: OptionDefault::Choices(FAMILIES, FAMILIES),
            about: "families of numbers that readers know by their place",
        },
        OptionFacts {
            name: "in-tests",
            default: OptionDefault::Flag(false),
            about: "whether numbers of tests need names",
        },
    ],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def child_fare(adult):\n    return adult * 0.55\n", at: &["2:20"], fixed: None },
                Wrong { code: "if len(seats) > 48:\n    refuse()\n", at: &["1:17"], fixed: None },
                Wrong {
                    code: "sleep(300)\nif day in (5, 6):\n    rest()\n",
                    at: &["1:7", "2:12", "2:15"],
                    fixed: None,
                },
            ],
            right: &[
                "CHILD_SHARE = 0.55\nLIMITS = [48, 12 * 60]\n\ndef child_fare(adult, share=0.55):\n    return adult * share\n",
                "wait(minutes=15)\nfare = {\"adult\": 450}\nthird = seats[3]\nx = y + 1\n",
                "WAIT = timedelta(0, 900)\n",
                "if len(seats) == 3:\n    pass\nprint(mask & 0xF0)\nprint(side ** 3)\nprint(int(code, 16))\n",
                "sail_at(12, 30)\nreturn_to([7, 8, 9])\nmask = flags & 0xF0 | bits << 3\nvolume = (4 / side) ** 3\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "export const childFare = adult => adult * 0.55;\n", at: &["1:43"], fixed: None },
                Wrong { code: "if (seats.length > 48) refuse();\n", at: &["1:20"], fixed: None },
                Wrong { code: "show(tides.slice(0, 6));\n", at: &["1:21"], fixed: None },
            ],
            right: &[
                "if (arguments.length > 3) sail(mask >> 4);\n",
                "const noon = timeOf(12, 30);\nexport const quay = new Quay(53.2);\n",
                "const CHILD_SHARE = 0.55;\nconst fare = (adult, share = 0.55) => adult * share;\n",
                "const fare = { adult: 450 }, third = seats[3], x = y + 1;\nswitch (code) {\n  case 404:\n    retry();\n}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package fares\n\nfunc due(age int) bool {\n	return age < 12\n}\n",
                at: &["4:15"],
                fixed: None,
            }],
            right: &[
                "package fares\n\nconst childAge = 12\n\nfunc due(age int) bool {\n	return age < childAge && age > 0\n}\n",
                "package fares\n\nvar zones = []int{3, 5, 8}\n",
                "package fares\n\nfunc keep(path string) error {\n\treturn os.MkdirAll(path, 0o755)\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong { code: "fn due(age: u8) -> bool {\n    age < 12\n}\n", at: &["2:11"], fixed: None }],
            right: &[
                "const CHILD_AGE: u8 = 12;\nfn due(age: u8) -> bool {\n    age < CHILD_AGE && age > 0\n}\n",
                "static ZONES: [u8; 3] = [3, 5, 8];\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Desk {\n    int sail(int low) {\n        return low * 37;\n    }\n}\n",
                at: &["3:22"],
                fixed: None,
            }],
            right: &[
                "class Desk {\n    static final int CHILD_AGE = 12;\n    int[] zones = {3, 5, 8};\n}\n",
                "class Desk {\n    int sail(int low) {\n        switch (low) { case 37: return 1; default: return 0; }\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    int Sail(int low)\n    {\n        return low * 37;\n    }\n}\n",
                at: &["5:22"],
                fixed: None,
            }],
            right: &[
                "class Desk\n{\n    const int ChildAge = 12;\n    enum Zone { Near = 3, Far = 5 }\n}\n",
                "class Desk\n{\n    int Sail(int low)\n    {\n        return low switch { 37 => 1, _ => 0 };\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Number], check),
};

/// A number deeper in an expression than this is not followed: it is in a table or in generated code.
const FOLLOWED: usize = 32;

fn check(context: &mut Context, number: NodeRef) {
    if context.file().is_test() && !context.flag("in-tests") {
        return;
    }
    let text = context.text(number);
    let Some(value) = context.file().language.number_value(text).and_then(|value| value.as_real()) else { return };
    let sign = number.parent().filter(|parent| is_negative(*parent));
    let is_allowed = context.numbers("allowed").iter().any(|allowed| allowed.abs() == value.abs());
    if is_allowed || is_named(context, number) || is_known(context, number, value.abs(), context.words("known")) {
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
            (Kind::Binary, _) if speaks_for_itself(context, parent, node) => return true,
            (Kind::Unary | Kind::Binary | Kind::Group, _) => {}
            (Kind::Tuple | Kind::List | Kind::Set, _) if is_compared(parent) => return false,
            (Kind::Tuple | Kind::List | Kind::Set | Kind::Dictionary | Kind::Composite, _) => return true,
            (Kind::Arguments, _) if several_numbers(context, parent) || is_base(context, parent) => return true,
            (Kind::Pair, _) | (Kind::Field | Kind::EnumMember | Kind::Attribute, Role::Value) => return true,
            (Kind::ShorthandPair | Kind::DefaultPattern, Role::Default) => return true,
            (Kind::LiteralType | Kind::Case, _) | (_, Role::Name) => return true,
            (Kind::Cast | Kind::Interpolation, Role::Value) => {}
            (Kind::Comparison, _) => return counts_few(context, parent, node),
            (Kind::Spread, _) => {}
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

/// Bits and exponents: operands that are understood by what is done with them.
fn speaks_for_itself(context: &Context, operation: NodeRef, operand: NodeRef) -> bool {
    let (Some(left), Some(right)) = (operation.child(Role::Left), operation.child(Role::Right)) else { return false };
    operator_between(context.file(), left, right).is_some_and(|(operator, _)| match operator {
        TokenKind::Ampersand
        | TokenKind::Bar
        | TokenKind::Caret
        | TokenKind::ShiftLeft
        | TokenKind::ShiftRight
        | TokenKind::ShiftRightZero => true,
        TokenKind::StarStar => operand == right,
        _ => false,
    })
}

/// The number of elements from which on it is no longer seen at a glance.
const MANY: usize = 10;

/// Whether a comparison asks whether something has few elements: its shape, which the number says as well as a name would.
fn counts_few(context: &Context, comparison: NodeRef, number: NodeRef) -> bool {
    let is_few = context.text(number).parse::<usize>().is_ok_and(|count| count < MANY);
    let asks_length = |operand: NodeRef| match operand.kind() {
        Kind::Call => operand.child(Role::Callee).is_some_and(|callee| context.text(callee) == "len"),
        Kind::Member => {
            operand.child(Role::Name).is_some_and(|name| matches!(context.text(name), "length" | "size" | "byteLength"))
        }
        _ => false,
    };
    is_few && comparison.children_in(Role::Operand).any(asks_length)
}

fn is_compared(values: NodeRef) -> bool {
    values.parent().is_some_and(|parent| parent.kind() == Kind::Comparison)
}

/// Whether arguments tell the base that a number is written in.
fn is_base(context: &Context, arguments: NodeRef) -> bool {
    matches!(called(context, arguments), "toString" | "parseInt" | "int")
}

/// The last part of the name of what is called.
fn called<'f>(context: &Context<'f>, arguments: NodeRef) -> &'f str {
    let callee = arguments.parent().and_then(|call| call.child(Role::Callee));
    callee.and_then(|callee| context.text(callee).rsplit('.').next()).unwrap_or_default()
}

/// A call that takes several numbers takes them as one thing, but for the two ends of a stretch.
fn several_numbers(context: &Context, arguments: NodeRef) -> bool {
    let is_number = |given: &NodeRef| {
        let inner = if is_negative(*given) { given.children().next() } else { Some(*given) };
        inner.is_some_and(|inner| inner.kind() == Kind::Number)
    };
    let is_stretch = matches!(called(context, arguments), "range" | "slice" | "splice" | "substr" | "substring");
    let several = || SeveralNumbers(arguments.children().filter(is_number).nth(1).is_some());
    !is_stretch && context.file().once_at(arguments, several).0
}

/// Whether several of some arguments are numbers.
struct SeveralNumbers(bool);

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
