use rustc_hash::FxHashSet;
use sieve_meaning::project::Callee;
use sieve_meaning::signature::{Given, Misfit};
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::expects_error;
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong, word_hash};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "argument-count",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a call with more or fewer arguments than the function takes, also in another file",
    why: "The call raises an error when it runs or, where the language allows it, the extra arguments are silently ignored.",
    silent: "Where the callee is unknown: functions passed as values, methods of objects of an unknown class, functions with decorators that may change the signature, names bound in several places, modules outside of the project, members that another file gives to a module. In JavaScript without types every argument is optional: only extra arguments are reported, and none for functions without statements and parameters, which stand for others. For `super().__init__(…)` in a class with several bases, or that is mixed into others.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def fare(child, day):\n    pass\nfare(True)\n", at: &["3:1"], fixed: None },
                Wrong { code: "def fare(child, day=1):\n    pass\nfare(True, 2, 3,)\n", at: &["3:15"], fixed: None },
                Wrong {
                    code: "class Boat:\n    def __init__(self, name):\n        self.hail()\n    def hail(self, loud):\n        print(loud)\nBoat('Tern', 3)\n",
                    at: &["3:9", "6:14"],
                    fixed: None,
                },
            ],
            right: &[
                "from harbour import overload\n\ndef moor():\n    pass\n\n@overload(moor)\ndef moor_at(quay):\n    return quay\n\nmoor(3)\n",
                "class Quay:\n    def __init__(self):\n        pass\n\n\nclass Berth(Quay):\n    def __init__(self, name, *more):\n        super().__init__(name, *more)\n",
                "class Tide:\n    pass\n\n\nclass Low(Tide):\n    def __init__(self, day):\n        super().__init__(day)\n\n\nclass Lower(Low):\n    pass\n\n\nclass Board(Lower, Sign):\n    pass\n",
                "class Desk:\n    open = set()\n\n    def set(self, quay):\n        self.quay = quay\n",
                "def fare(child, day):\n    pass\nfare(True, 2,)\nfare(*rest)\nfare(True, **more)\n",
                "def fare(child, *rest, day=1):\n    pass\nfare(1, 2, 3, 4)\n",
                "@priced\ndef fare(child):\n    pass\nfare()\n",
                "def fare(child, day):\n    pass\ntry:\n    fare(True, 2)\nexcept TypeError:\n    fare(True)\nif len(signature(fare).parameters) == 1:\n    fare(False)\n",
                "if old:\n    def fare(child):\n        pass\nelse:\n    def fare():\n        pass\nfare()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "function fare(child) {}\nfare(true, 2);\n", at: &["2:12"], fixed: None },
                Wrong { code: "const fare = (child) => child;\nfare(true, 2);\n", at: &["2:12"], fixed: None },
                Wrong {
                    code: "class Boat {\n  constructor(name) {}\n}\nnew Boat('Tern', 3);\n",
                    at: &["4:18"],
                    fixed: None,
                },
            ],
            right: &[
                "const debug = () => {};\n\ndebug('moored', 1);\n",
                "function fare(child) {}\nfare();\nfare(...all);\n",
                "function fare() {\n  return arguments.length;\n}\nfare(1, 2);\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "function fare(child: boolean, day?: number) {}\nfare();\n",
                at: &["2:1"],
                fixed: None,
            }],
            right: &[
                "function fare(child: boolean): void;\nfunction fare(): void;\nfunction fare(child?: boolean) {}\nfare();\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Calls(check),
};

fn check(context: &mut Context, call: NodeRef, callee: &Callee) {
    let Some(signature) = &callee.signature else { return };
    let given = Given::by(context.file().text, call);
    let Err(misfit) = signature.check(&given) else { return };
    if expects_error(context.file(), call) || is_given_to_decorator(context.file(), call) {
        return;
    }
    let Some(name) = call.child(Role::Callee).map(|callee| context.text(callee)) else { return };
    let (span, message) = match misfit {
        Misfit::TooMany(most) => {
            let arguments: Vec<NodeRef> = call
                .child(Role::Arguments)
                .into_iter()
                .flat_map(|all| all.children())
                .filter(|argument| argument.kind() != Kind::KeywordArgument)
                .collect();
            let (Some(first), Some(last)) = (arguments.get(most), arguments.last()) else { return };
            let span = Span::new(first.span().start, last.span().end);
            (span, format!("{name} takes {} but is given {}", counted(most), given.positions))
        }
        Misfit::Missing(missing) => {
            let listed: Vec<String> = missing.iter().map(|name| format!("\"{name}\"")).collect();
            (call.span(), format!("{name} is called without {}", listed.join(", ")))
        }
        Misfit::UnknownName(_) | Misfit::Twice(_) => return,
    };
    let place = super::unknown_keyword::declared_at(context, callee);
    let member = super::unknown_keyword::member_of_module(context, call, callee);
    context.report(span, message).related_line(place).unless_given(member);
}

/// Hashes of the names that decorators of a file are given.
struct GivenToDecorators(FxHashSet<u64>);

/// Whether a decorator is given the function that is called: what it decorates may run instead.
fn is_given_to_decorator(file: File<'_>, call: NodeRef) -> bool {
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name) else { return false };
    let all = || {
        let calls = file.tree.nodes_of(Kind::Decorator).filter_map(|decorator| decorator.children().next());
        let given = calls.filter_map(|call| call.child(Role::Arguments)).flat_map(NodeRef::children);
        let names = given.filter(|argument| argument.kind() == Kind::Name);
        GivenToDecorators(names.map(|name| word_hash(file.node_text(name))).collect())
    };
    file.once(all).0.contains(&word_hash(file.node_text(callee)))
}

fn counted(most: usize) -> String {
    match most {
        0 => "no argument".into(),
        1 => "1 argument".into(),
        most => format!("{most} arguments"),
    }
}
