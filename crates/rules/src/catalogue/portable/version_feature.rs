use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, File, Level, Mesh, OptionDefault, OptionFacts, Rule, VersionOption,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "version-feature",
    concern: Concern::Portable,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a feature that is newer than the chosen version of the language",
    why: "On an older version the file does not load at all.",
    silent: "Without a chosen version, which is the default: `python = 8` means Python 3.8, `ecmascript = 2020` for that edition. The examples are as if these two were chosen. For library features, and inside strings.",
    standards: &[],
    options: &[
        OptionFacts {
            name: "python",
            default: OptionDefault::Count(0),
            about: "The oldest minor version of Python 3 that the program runs on; 0 for any that has it.",
        },
        OptionFacts {
            name: "ecmascript",
            default: OptionDefault::Count(0),
            about: "The edition of ECMAScript that the program runs on, such as 2020; 0 for any that has it.",
        },
    ],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "match tide:\n    case 1:\n        wait()\n", at: &["1:1"], fixed: None },
                Wrong { code: "type Quay = str\n", at: &["1:1"], fixed: None },
                Wrong { code: "try:\n    sail()\nexcept* OSError:\n    wait()\n", at: &["3:1"], fixed: None },
                Wrong { code: "def depth[T](quay: T): ...\n", at: &["1:10"], fixed: None },
            ],
            right: &["if (tide := measure()) > 2:\n    wait()\n", "def depth(quay, /, *, day): ...\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "class Quay {\n  #depth = 3;\n}\n", at: &["2:3"], fixed: None },
                Wrong { code: "tide ??= 3;\n", at: &["1:1"], fixed: None },
                Wrong { code: "class Quay {\n  static {\n    moor();\n  }\n}\n", at: &["2:3"], fixed: None },
                Wrong { code: "const far = 1_000;\n", at: &["1:13"], fixed: None },
            ],
            right: &["const depth = quay?.depth ?? 3;\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(KINDS, check),
};

const KINDS: &[Kind] = &[
    Kind::Match,
    Kind::TypeAlias,
    Kind::TypeParameters,
    Kind::Catch,
    Kind::Field,
    Kind::StaticBlock,
    Kind::CompoundAssignment,
    Kind::Logical,
    Kind::NamedExpression,
    Kind::Number,
    Kind::Member,
    Kind::Function,
];

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    if file.traits.version_option == Some(VersionOption::Python) {
        let chosen = context.count("python");
        let needed = of_python(file, node).filter(|(version, ..)| chosen > 0 && *version > chosen);
        if let Some((version, what, span)) = needed {
            context
                .report(span, format!("Python 3.{chosen} does not have {what}"))
                .advice(format!("it came with Python 3.{version}"));
        }
        return;
    }
    let chosen = context.count("ecmascript");
    // What is compiled to older editions may say more; types are always compiled.
    let needed = of_javascript(file, node).filter(|(edition, ..)| chosen > 0 && *edition > chosen);
    if let Some((edition, what, span)) =
        needed.filter(|_| file.traits.version_option == Some(VersionOption::JavaScript))
    {
        context
            .report(span, format!("ECMAScript {chosen} does not have {what}"))
            .advice(format!("it came with ECMAScript {edition}"));
    }
}

/// "What's New in Python" 3.8 to 3.14.
fn of_python(file: File, node: NodeRef) -> Option<(u32, &'static str, Span)> {
    let span = node.span();
    match node.kind() {
        Kind::NamedExpression => Some((8, "assignment expressions", span)),
        Kind::Match => {
            Some((10, "structural pattern matching", Span::new(span.start, span.start + "match".len() as u32)))
        }
        Kind::TypeAlias => Some((12, "the `type` statement", span)),
        Kind::TypeParameters => Some((12, "type parameters in brackets", span)),
        Kind::Catch if file.node_text(node)["except".len()..].trim_start().starts_with('*') => {
            Some((11, "handlers of exception groups", Span::new(span.start, span.start + "except".len() as u32)))
        }
        _ => None,
    }
}

/// The editions of ECMA-262 that brought them.
fn of_javascript(file: File, node: NodeRef) -> Option<(u32, &'static str, Span)> {
    let span = node.span();
    let name = node.child(Role::Name);
    let private = name.is_some_and(|name| name.kind() == Kind::PrivateName);
    match node.kind() {
        Kind::Field => Some((2022, "class fields", span)),
        Kind::StaticBlock => Some((2022, "class static blocks", span)),
        Kind::Function if private => Some((2022, "private methods", name.map_or(span, |name| name.span()))),
        Kind::Number if file.node_text(node).contains('_') => Some((2021, "numeric separators", span)),
        Kind::Number if file.node_text(node).ends_with('n') => Some((2020, "BigInt literals", span)),
        Kind::CompoundAssignment => {
            let signs = [TokenKind::QuestionQuestionAssign, TokenKind::AndAndAssign, TokenKind::BarBarAssign];
            let has = node.significant_tokens().any(|(_, kind)| signs.contains(&kind));
            has.then_some((2021, "logical assignment operators", span))
        }
        Kind::Logical => {
            let has = node.significant_tokens().any(|(_, kind)| kind == TokenKind::QuestionQuestion);
            has.then_some((2020, "the operator `??`", span))
        }
        Kind::Member => {
            let is_optional = node
                .child(Role::Object)
                .is_some_and(|object| file.tree.token_kind(object.token_range().end) == TokenKind::QuestionDot);
            is_optional.then_some((2020, "optional chaining", span))
        }
        _ => None,
    }
}
