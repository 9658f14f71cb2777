use std::cell::OnceCell;

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_meaning::flow::{Flow, Unset, UnsetUse};
use sieve_meaning::names::Binding;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::unset_as_compiled::{check_as_compiled, message};
use super::unset_in_shell::check_script;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "maybe-unset",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::WITH_UNSET_VARIABLES,
    fix: None,
    what: "a variable that is read where it may have no value yet",
    why: "On the path without an assignment the program stops here with an error; most often that path is a rare one, which no test takes. Compilers of Java and C# refuse it.",
    silent: "Where the value is missing only after a loop without iterations, or after branches that may be exhaustive; where the use is under a condition, which may be the one of the assignment; for uses in functions that run later; where names are created at run time; in stubs, and for names of Python 2. In shells, where the script does not stop at such variables (`set -u`), and in functions. In JavaScript only uses before `let`, `const` and `class` are reported. In Java and C# every path counts, as it does for their compilers; silent of variables that inner functions assign, of structures whose members are assigned one by one, and where `goto` leads.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "def fare(child):\n    if child:\n        price = 2\n    return price\n",
                    at: &["4:12"],
                    fixed: None,
                },
                Wrong {
                    code: "def depth(text):\n    try:\n        metres = float(text)\n    except ValueError:\n        print('no depth')\n    return metres\n",
                    at: &["6:12"],
                    fixed: None,
                },
                Wrong { code: "def sail():\n    print(boat)\n    boat = 'Tern'\n", at: &["2:11"], fixed: None },
                Wrong {
                    code: "def read(path):\n    try:\n        log = open(path)\n    finally:\n        log.close()\n",
                    at: &["5:9"],
                    fixed: None,
                },
            ],
            right: &[
                "def depth(text):\n    try:\n        metres = float(text)\n    except ValueError:\n        log.fatal(text)\n    return metres\n",
                "type Depth = float | int\nlow: Depth = Depth(2)\n",
                "def fare(child):\n    if child:\n        price = 2\n    else:\n        price = 4\n    return price\n",
                "def fare(child):\n    if child:\n        price = 2\n    if child:\n        return price\n    return 4\n",
                "def last(boats):\n    for boat in boats:\n        pass\n    return boat\n",
                "def late(boats):\n    if any((boat := one).is_late for one in boats):\n        return boat\n    return None\n",
                "def depth(text):\n    try:\n        metres = float(text)\n    except ValueError:\n        raise SystemExit\n    return metres\n",
                "def fare(sort):\n    if sort == 1:\n        price = 2\n    elif sort == 2:\n        price = 3\n    return price\n",
                "def wait():\n    while True:\n        tide = measure()\n        if tide > 2:\n            break\n    return tide\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "function sail() {\n  moor(boat);\n  const boat = 'Tern';\n}\n",
                    at: &["2:8"],
                    fixed: None,
                },
                Wrong {
                    code: "switch (tide) {\n  case 1:\n    let low = 1;\n    break;\n  default:\n    wait(low);\n}\n",
                    at: &["6:10"],
                    fixed: None,
                },
            ],
            right: &[
                "function sail() {\n  const moor = () => boat;\n  const boat = 'Tern';\n  return moor;\n}\n",
                "function sail() {\n  wave(boat);\n  var boat = 'Tern';\n}\n",
            ],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "#!/bin/sh\nset -u\necho \"$quay\"\nquay=north\n", at: &["3:7"], fixed: None }],
            right: &[
                "#!/bin/sh\nset -u\nquay=north\necho \"$quay\" \"${tide:-}\" \"$HOME\"\n",
                "#!/bin/sh\necho \"$quay\"\nquay=north\n",
                "#!/bin/sh\nset -u\n. ./quays\necho \"$quay\"\nquay=north\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Fares {\n    int fare(boolean child) {\n        int price;\n        if (child) {\n            price = 2;\n        }\n        return price;\n    }\n}\n",
                    at: &["7:16"],
                    fixed: None,
                },
                Wrong {
                    code: "class Tides {\n    double depth(String text) {\n        double metres;\n        try {\n            metres = Double.parseDouble(text);\n        } catch (NumberFormatException error) {\n            log(error);\n        }\n        return metres;\n    }\n}\n",
                    at: &["9:16"],
                    fixed: None,
                },
            ],
            right: &[
                "class Fares {\n    int fare(boolean child) {\n        int price;\n        if (child) {\n            price = 2;\n        } else {\n            price = 4;\n        }\n        return price;\n    }\n}\n",
                "class Fares {\n    int fare(int zone) {\n        int price;\n        switch (zone) {\n            case 1 -> price = 2;\n            default -> throw new IllegalArgumentException();\n        }\n        return price;\n    }\n}\n",
                "class Tides {\n    int low() {\n        int metres;\n        while (true) {\n            metres = measure();\n            if (metres < 2) {\n                break;\n            }\n        }\n        return metres;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Fares\n{\n    int Fare(int zone)\n    {\n        int price;\n        switch (zone)\n        {\n            case 1:\n                price = 2;\n                break;\n            case 2:\n                price = 3;\n                break;\n        }\n        return price;\n    }\n}\n",
                at: &["15:16"],
                fixed: None,
            }],
            right: &[
                "class Tides\n{\n    double Depth(string text)\n    {\n        double metres;\n        if (!double.TryParse(text, out metres)) return 0;\n        return metres;\n    }\n}\n",
                "class Fares\n{\n    int Fare(bool child)\n    {\n        int price;\n        bool known = child && (price = Load()) > 0;\n        return known ? 1 : 2;\n    }\n}\n",
                "class Tides\n{\n    Depth Low(double metres)\n    {\n        Depth depth;\n        depth.Metres = metres;\n        return depth;\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Flows(check),
};

fn check(context: &mut Context, flow: &Flow) {
    if context.file().traits.runs_commands {
        if flow.owner().kind() == Kind::File {
            check_script(context);
        }
        return;
    }
    if flow.follows_compiler() {
        check_as_compiled(context, flow);
        return;
    }
    // Worked out once, if some place asks.
    let conditions = OnceCell::new();
    for place in flow.unset_uses() {
        let tree = context.file().tree;
        let node = tree.node(place.node);
        let binding = context.names().binding(place.binding);
        let name = context.names().text(binding.name);
        if is_brought_by_language(context, flow, name) || context.file().only_describes() {
            continue;
        }
        // What imports a module below gives the package its name.
        let is_removed = node.parent().is_some_and(|parent| parent.kind() == Kind::Delete);
        if is_removed && flow.owner().kind() == Kind::File && context.file().name() == "__init__.py" {
            context.unsure(node.span(), "a module of the package may have the name");
            continue;
        }
        if let Some(reason) = undecided(context, flow, place, binding, &conditions) {
            context.unsure(node.span(), reason);
            continue;
        }
        let message = message(name, place.unset);
        let advice = match place.unset {
            Unset::Always => "assign it before this line",
            _ => "assign it on every path that reaches this line",
        };
        let other = binding.declarations.iter().map(|one| tree.node(one.node)).find(|one| one.id() != place.node);
        let set = other
            .map_or(String::new(), |other| format!(": it is assigned on line {}", context.line(other.span().start)));
        let span = other.map(|other| other.span());
        let reported = context.report(node.span(), format!("{message}{set}")).advice(advice);
        if let Some(span) = span {
            reported.related(span, format!("\"{name}\" is assigned here"));
        }
    }
}

/// Outside of functions a name that the language brings has that value as long as the file gives it none.
fn is_brought_by_language(context: &Context, flow: &Flow, name: &str) -> bool {
    flow.owner().kind() == Kind::File
        && context.file().traits.builtins_until_bound
        && (sieve_meaning::python_builtins::exists(name) || sieve_meaning::python_2_had(name))
}

/// Why a place cannot be known to be wrong, if so.
fn undecided<'c>(
    context: &Context<'c>,
    flow: &Flow,
    place: &UnsetUse,
    binding: &Binding,
    conditions: &OnceCell<Conditions<'c>>,
) -> Option<&'static str> {
    let tree = context.file().tree;
    let node = tree.node(place.node);
    // `except OSError, error:` is how Python 2 names what it caught.
    if node.parent().is_some_and(|tuple| tuple.kind() == Kind::Tuple && tuple.role() == Role::Exception) {
        return Some("an older version of the language assigns the name here");
    }
    if handles_missing_names(context, flow, node) {
        return Some("the code handles that the name may not exist");
    }
    if place.unset == Unset::Always {
        return None;
    }
    if place.unset == Unset::Doubtful {
        return Some("the way without a value may never be taken");
    }
    if context.file().is_test() {
        return Some("a test may know which way it goes");
    }
    if ends_by_name(context, flow, node) {
        return Some("a call in front ends the program, by its name");
    }
    let bound: Vec<NodeRef> = binding.declarations.iter().map(|one| tree.node(one.node)).collect();
    let earlier: Vec<NodeRef> =
        bound.iter().copied().filter(|one| one.id() < node.id() && !statement_of(*one).holds(node.id())).collect();
    let holds_any = |around: NodeRef, of: &[NodeRef]| of.iter().any(|one| around.holds(one.id()));
    let mut inner = node;
    for around in node.ancestors().take_while(|around| around.id() != flow.owner().id()) {
        let is_handler = around.kind() == Kind::Catch || inner.role() == Role::Finally;
        let whole = if around.kind() == Kind::Catch { around.parent().unwrap_or(around) } else { around };
        match around.kind() {
            Kind::For | Kind::While | Kind::DoWhile if holds_any(around, &bound) => {
                return Some("an earlier round of the loop may give the value");
            }
            _ if is_handler && holds_any(whole, &earlier) && !closes(whole, node, &bound) => {
                return Some("what is handled here may come only when the value is there");
            }
            Kind::Catch if names_an_error(context, around) && holds_any(whole, &earlier) => {
                return Some("the error that is handled may come only when the value is there");
            }
            _ if holds_any(around, &earlier) => {}
            Kind::If
            | Kind::While
            | Kind::For
            | Kind::Case
            | Kind::Conditional
            | Kind::Logical
            | Kind::Comprehension => {
                return Some("the condition of the place may be that of the value");
            }
            _ => {}
        }
        inner = around;
    }
    if more_is_tried(flow, node, &bound) {
        return Some("what raises may do so when the value is there");
    }
    asked_before(context, flow, node, &bound, conditions.get_or_init(|| conditions_of(context, flow.owner().id())))
        .then_some("a condition before it may be that of the value")
}

/// Words in names of functions that do not come back.
const ENDING: &[&str] = &["fatal", "abort"];

/// Whether something in front calls what does not come back, as its name says.
fn ends_by_name(context: &Context, flow: &Flow, place: NodeRef) -> bool {
    let calls = flow.owner().descendants().take_while(|node| node.id() < place.id());
    calls.filter_map(|node| node.child_of(Kind::Call, Role::Callee)).any(|callee| {
        let name = callee.child(Role::Name).unwrap_or(callee);
        let name = context.text(name).to_ascii_lowercase();
        ENDING.iter().any(|ending| name.contains(ending))
    })
}

fn statement_of(node: NodeRef) -> NodeRef {
    std::iter::successors(Some(node), |node| node.parent()).find(|node| node.kind().is_statement()).unwrap_or(node)
}

/// Whether a place where errors are handled ends what a call within the block has begun, such as `log.close()`.
fn closes(whole: NodeRef, place: NodeRef, bound: &[NodeRef]) -> bool {
    let is_object = place.role() == Role::Object
        && place.parent().and_then(|member| member.parent()).is_some_and(|call| call.kind() == Kind::Call);
    let Some(body) = whole.child(Role::Body) else { return false };
    let made = |one: &NodeRef| {
        let value = one.parent().and_then(|holder| holder.child(Role::Value));
        value.is_some_and(|value| value.kind() == Kind::Call)
    };
    is_object && bound.iter().all(|one| body.holds(one.id()) && made(one))
}

/// Whether a handler says which errors it takes.
fn names_an_error(context: &Context, handler: NodeRef) -> bool {
    handler.child(Role::Exception).is_some_and(|error| !matches!(context.text(error), "Exception" | "BaseException"))
}

/// Whether errors about missing names are caught around a place.
fn handles_missing_names(context: &Context, flow: &Flow, node: NodeRef) -> bool {
    let mut inner = node;
    for around in node.ancestors().take_while(|around| around.id() != flow.owner().id()) {
        if around.kind() == Kind::Try && inner.role() == Role::Body {
            let takes = |handler: NodeRef| match handler.child(Role::Exception) {
                None => true,
                Some(error) => ["NameError", "UnboundLocalError", "Exception", "BaseException"]
                    .iter()
                    .any(|name| context.text(error).contains(name)),
            };
            if context.file().traits.typed_handlers && around.children_in(Role::Handler).any(takes) {
                return true;
            }
        }
        inner = around;
    }
    false
}

/// Whether, before a place, another `if` asks for something which the choice of the
/// value mentions as well.
fn asked_before(context: &Context, flow: &Flow, place: NodeRef, bound: &[NodeRef], conditions: &Conditions) -> bool {
    let mut told: FxHashSet<&str> = FxHashSet::default();
    for one in bound {
        let around = one.ancestors().take_while(|around| around.id() != flow.owner().id());
        for choice in around.filter(|around| {
            matches!(around.kind(), Kind::If | Kind::While | Kind::For | Kind::Try | Kind::Match)
                && !around.holds(place.id())
        }) {
            told.extend(names_in(context, choice));
        }
    }
    let first = bound.first().map_or(NodeId::ROOT, |one| one.id());
    let is_guard = |choice: &NodeRef| choice.id() < first && choice.holds(first);
    let tree = context.file().tree;
    told.iter().filter_map(|name| conditions.get(name)).any(|choices| {
        let before = choices.iter().take_while(|choice| **choice < place.id());
        before.into_iter().any(|choice| !is_guard(&tree.node(*choice)))
    })
}

/// Every `if` of a function by the names that its condition mentions, in the order of the text.
type Conditions<'c> = FxHashMap<&'c str, Vec<NodeId>>;

fn conditions_of<'c>(context: &Context<'c>, owner: NodeId) -> Conditions<'c> {
    let mut conditions = Conditions::default();
    let owner = context.file().tree.node(owner);
    for choice in owner.descendants().filter(|node| node.kind() == Kind::If) {
        let Some(condition) = choice.child(Role::Condition) else { continue };
        for name in names_in(context, condition) {
            conditions.entry(name).or_default().push(choice.id());
        }
    }
    conditions
}

/// Whether the value is set in a block that is tried, and more is tried after it: what is raised there comes when it has its value.
fn more_is_tried(flow: &Flow, place: NodeRef, bound: &[NodeRef]) -> bool {
    bound.iter().any(|one| {
        let around = one.ancestors().take_while(|around| around.id() != flow.owner().id() && !around.holds(place.id()));
        around.filter(|whole| whole.kind() == Kind::Try && whole.child(Role::Handler).is_some()).any(|whole| {
            let body = whole.child(Role::Body).filter(|body| body.holds(one.id()));
            body.and_then(|body| body.last_child()).is_some_and(|last| !last.holds(one.id()))
        })
    })
}

fn names_in<'c>(context: &Context<'c>, node: NodeRef<'c>) -> impl Iterator<Item = &'c str> {
    let file = context.file();
    std::iter::once(node)
        .chain(node.descendants())
        .filter(|part| matches!(part.kind(), Kind::Name | Kind::Call | Kind::Member))
        .map(move |part| file.node_text(part))
}
