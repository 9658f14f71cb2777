use std::cell::RefCell;
use std::rc::Rc;

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_meaning::names::{Declaration, DeclarationKind, Names, Reference, Resolution, Symbol, Unknown};
use sieve_meaning::{is_runner_name, python_builtins};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::expected::is_short;
use crate::interface::{
    Certainty, Check, Concern, Context, Examples, File, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong, word_hash,
};
use crate::slip::{NamesByLength, is_one_apart, most_apart, nearest};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "undefined-name",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a name that nothing binds",
    why: "Running this code raises an error: neither a scope around it nor the language defines the name. Most often it is misspelt, or its import is missing.",
    silent: "In JavaScript scripts, which share names with others, and in TypeScript, where any file of the project may declare \
             names, unless the name is close to one that is used. In a file with a star import, with names created at run time (exec, globals), or with broken syntax; where the code catches the error, in JavaScript where it ignores any; in functions that are sent to a page (`page.evaluate(() => …)`); and where something outside of the code seems to provide the name: a file \
             sets it for all, three files use it and none binds it, ten use it and do not bind it, or a file of Python that imports nothing uses several, in folders of docs or examples two. List such names under `known`.",
    standards: &["The Python Language Reference 3.14, section 4.2"],
    options: &[
        OptionFacts {
            name: "known",
            default: OptionDefault::Words(&[]),
            about: "further names that are there at run time, such as ones added to the builtins",
        },
        OptionFacts {
            name: "python",
            default: OptionDefault::Count(14),
            about: "the minor version of Python 3 whose builtins there are",
        },
    ],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def fare(adult):\n    return adlut * 2\n", at: &["2:12"], fixed: None },
                Wrong {
                    code: "class Quay:\n    depth = 3\n\n    def low(self):\n        return depth\n",
                    at: &["5:16"],
                    fixed: None,
                },
                Wrong { code: "def sail(to: \"Quay\"):\n    pass\n", at: &["1:15"], fixed: None },
            ],
            right: &[
                "def sail():\n    raise NotImplementedError\n    moor_as_before()\n",
                "from harbour import Board\n\nclass Tides(Board):\n    @row(\"low\")\n    @row(\"ebb\")\n    @row(\"neap\")\n    def depth(self):\n        return 3\n",
                "from harbour import Ferry, Quay\n\nQuay(\"north\")\nFerry(name=\"tern\", quay=north)\ntern.sail()\n",
                "from typing import Literal as _Literal\n\ndef sail(sea: _Literal[\"calm\", \"high\"]):\n    return sea\n",
                "def fare(adult):\n    return sum([adult, child()])\n\ndef child():\n    return 2\n",
                "from tides import *\nprint(high_water)\n",
                "low = curve(3)\nplot(low, axis(0, 5))\nshow(grid)\n",
                "import orm\n\nclass Quay:\n    boats: orm.Mapped[list[\"Boat\"]] = orm.related()\n",
                "try:\n    unicode\nexcept NameError:\n    unicode = str\n",
                "import typing\n\ndef mode(m: typing.Literal[\"fast\", \"slow\"]):\n    return m\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "import { table } from './tides';\n\nexport const fare = adult => table(adlut);\n",
                at: &["3:36"],
                fixed: None,
            }],
            right: &[
                "define(\"quays\", [\"tides\"], function (tides) {\n  return tides;\n});\n",
                "(function (out) {\n  out.sail = 1;\n})(typeof exports === 'object' ? exports : typeof define === 'function' ? {} : (ferry = {}));\n",
                "export function fare(adult) {\n  return child(adult);\n\n  function child(of) {\n    return of / 2;\n  }\n}\n",
                "export const quay = typeof window === 'undefined' ? null : window.quay;\n",
                "let low = 3;\ntry {\n  low = tides.low;\n} catch {\n  // an older board has no tides\n}\nexport { low };\n",
                "import { page } from './pages';\n\nawait page.evaluate(() => board.show());\nawait page.waitForFunction(function (low) {\n  return tides.every(tide => tide > low);\n});\n",
                "fare(adult);\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::References(check),
};

fn check(context: &mut Context, reference: &Reference) {
    let names = context.names();
    let name = names.text(reference.name);
    match reference.resolution {
        Resolution::Binding(_) => {}
        Resolution::Builtin => {
            let version = context.count("python");
            let since = if version < python_builtins::NEWEST_CHANGE { python_builtins::since(name) } else { None };
            if let Some(since) = since.filter(|since| *since > version) {
                context
                    .report(reference.span, format!("\"{name}\" does not exist in Python 3.{version}"))
                    .advice(format!("it came with Python 3.{since}"));
            }
        }
        // Whatever another file may bring, a slip of the fingers it is not.
        Resolution::Unknown(Unknown::OtherFile) if !is_known(context, name) && has_double(context, reference, name) => {
            report(context, reference, name);
        }
        Resolution::Unknown(reason) => {
            let is_runners = reason == Unknown::OtherFile && context.file().is_test() && is_runner_name(name);
            if !is_runners && !is_known(context, name) {
                context.unsure(reference.span, reason.describe());
            }
        }
        Resolution::Undefined if is_known(context, name) => {}
        // Names of this form are given by whoever loads the file, unless one of those that each file has is misspelt.
        Resolution::Undefined if python_builtins::is_special(name) && !is_slip_of_special(name) => {
            context.unsure(reference.span, "what loads the file may give it special names");
        }
        Resolution::Undefined if is_given_to_all(context, reference) => {}
        Resolution::Undefined => match given_by_host(context, reference, name) {
            Some(reason) => context.unsure(reference.span, reason),
            None => report(context, reference, name),
        },
    }
}

/// Names that programs give to files of a name: `tags` ("The build configuration file", Sphinx 8).
const GIVEN_TO_FILES: &[(&str, &str)] = &[("conf.py", "tags")];

/// Why whatever runs the file, or makes objects of its classes, may know a name.
fn given_by_host(context: &Context, reference: &Reference, name: &str) -> Option<&'static str> {
    let file = context.file();
    let is_given = |(one, given): &(&str, &str)| *given == name && file.path.rsplit('/').next() == Some(one);
    if GIVEN_TO_FILES.iter().any(is_given) {
        return Some("what reads a file of this name gives it the name");
    }
    let maps = |around: NodeRef| {
        around.kind() == Kind::Subscript
            && around.child(Role::Object).is_some_and(|object| context.text(object).ends_with("Mapped"))
    };
    if file.tree.node(reference.node).ancestors().take(NEAR).any(maps) {
        return Some("a registry of classes may know the name");
    }
    if file.only_describes() && !file.traits.indents_blocks {
        return Some("declarations may use types that others declare");
    }
    if name == "define" && gives_module(file.tree.node(reference.node)) {
        return Some("a loader of modules may define it");
    }
    if !file.traits.typed_handlers && is_only_tried(file.tree.node(reference.node)) {
        return Some("what is tried may fail: nothing is done about an error");
    }
    if runs_in_page(file, file.tree.node(reference.node)) {
        return Some("the function is run by the page that it is sent to");
    }
    if never_runs(file, file.tree.node(reference.node)) {
        return Some("the code around never runs");
    }
    if is_often_decorator(context, reference) {
        return Some("what makes the class may give its body names");
    }
    if file.traits.indents_blocks && is_named_by_call(file, name) {
        return Some("a call is given the name, and may give it to the file");
    }
    let runs_elsewhere = file.once(|| RunsInHost(runs_in_host(context))).0;
    runs_elsewhere.then_some("the file imports nothing: what runs it may give it names")
}

/// Whether a call gives what a module holds to a loader: `define("quays", ["tides"], function (tides) {})` ("Asynchronous Module Definition",
/// version 1.2.1).
fn gives_module(name: NodeRef) -> bool {
    let call = name.parent().filter(|call| call.kind() == Kind::Call && name.role() == Role::Callee);
    let last = call.and_then(|call| call.child(Role::Arguments)).and_then(|all| all.children().last());
    last.is_some_and(|last| {
        std::iter::once(last).chain(last.descendants()).take(3).any(|node| node.kind().is_function())
    })
}

/// Whether a name is in what is tried, and whatever error comes of it is ignored: `try { sail = ferries; } catch {}`.
fn is_only_tried(name: NodeRef) -> bool {
    let ignores = |handler: NodeRef| handler.child(Role::Body).is_some_and(|body| body.children().next().is_none());
    name.levels().take(NEAR).any(|(inner, around)| {
        around.kind() == Kind::Try && inner.role() == Role::Body && around.child(Role::Handler).is_some_and(ignores)
    })
}

/// Methods of several programs that steer browsers: they send a function to the page, which sees the names of the page.
const SENDS_TO_PAGE: &[&str] = &[
    "$$eval",
    "$eval",
    "addInitScript",
    "evaluate",
    "evaluateAll",
    "evaluateHandle",
    "executeAsyncScript",
    "executeScript",
    "waitForFunction",
];

/// Functions are looked for through so many nodes around a name.
const FAR: usize = 64;

/// Whether a name is in a function that a test gives to a page: `page.evaluate(() => board.quay)`.
fn runs_in_page(file: File<'_>, name: NodeRef) -> bool {
    let sends =
        |callee: NodeRef| callee.child(Role::Name).is_some_and(|of| SENDS_TO_PAGE.contains(&file.node_text(of)));
    let is_sent = |function: NodeRef| {
        let call = function.parent().filter(|list| list.kind() == Kind::Arguments).and_then(NodeRef::parent);
        call.and_then(|call| call.child(Role::Callee)).is_some_and(sends)
    };
    !file.traits.indents_blocks
        && name.ancestors().take(FAR).any(|around| around.kind().is_function() && is_sent(around))
}

/// So many functions that a class decorates with a name are no slip.
const OFTEN: usize = 3;

/// The first statement of a block that always leaves it.
struct Leaves(Option<NodeId>);

/// Whether a name is behind a statement of a block around it that always leaves the block.
fn never_runs(file: File<'_>, name: NodeRef) -> bool {
    let leaves =
        |statement: &NodeRef| matches!(statement.kind(), Kind::Return | Kind::Throw | Kind::Break | Kind::Continue);
    let first = |block: NodeRef| file.once_at(block, || Leaves(block.children().find(leaves).map(NodeRef::id))).0;
    // Chains of operators are as deep as they are long.
    let within = name.levels().take(FAR).take_while(|(_, around)| !around.kind().is_function());
    within
        .filter(|(_, around)| around.kind() == Kind::Block)
        .any(|(inner, block)| first(block).is_some_and(|first| first < inner.id()))
}

/// How often the bodies of classes decorate with each name.
struct DecoratorsOfClasses(FxHashMap<(NodeId, Symbol), usize>);

/// Whether the body of a class with bases decorates functions with a name again and again: what makes the class may bring it ("Preparing the
/// class namespace", The Python Language Reference 3.13).
fn is_often_decorator(context: &Context, reference: &Reference) -> bool {
    let (file, names) = (context.file(), context.names());
    let decorated = |reference: &Reference| {
        let mut around = file.tree.node(reference.node).ancestors().take(3);
        let decorator = around.find(|around| around.kind() == Kind::Decorator)?;
        let class = decorator.parent()?.ancestors().take(3).find(|around| around.kind() == Kind::Class);
        class.filter(|class| file.has_bases(*class))
    };
    let count = || {
        let mut counts = FxHashMap::default();
        for other in names.references().filter(|other| other.resolution == Resolution::Undefined) {
            if let Some(class) = decorated(other) {
                *counts.entry((class.id(), other.name)).or_default() += 1;
            }
        }
        DecoratorsOfClasses(counts)
    };
    let Some(class) = decorated(reference) else { return false };
    file.once(count).0.get(&(class.id(), reference.name)).is_some_and(|count| *count >= OFTEN)
}

/// Hashes of the strings that calls of the whole file are given first, or by the name `name`.
struct NamedByCalls(FxHashSet<u64>);

/// Whether a statement of the whole file calls something with a name as a string: `Quay(name="north")`.
fn is_named_by_call(file: File<'_>, name: &str) -> bool {
    let named = |statement: NodeRef| {
        let call = statement.child(Role::Value).filter(|value| value.kind() == Kind::Call)?;
        let mut arguments = call.child(Role::Arguments)?.children();
        let first = arguments.clone().next().filter(|first| first.kind() == Kind::String);
        let by_name = arguments.find_map(|argument| {
            let is_name = argument.child(Role::Name).is_some_and(|own| file.node_text(own) == "name");
            argument.child(Role::Value).filter(|value| is_name && value.kind() == Kind::String)
        });
        first.or(by_name).map(|string| word_hash(file.node_text(string).trim_matches(['"', '\''])))
    };
    let all = || {
        let statements = file.tree.root().children().filter(|node| node.kind() == Kind::ExpressionStatement);
        NamedByCalls(statements.filter_map(named).collect())
    };
    file.once(all).0.contains(&word_hash(name))
}

/// Whether another program seems to run the file with names of its own.
struct RunsInHost(bool);

/// So many nodes around a name are looked at.
const NEAR: usize = 8;

/// Whether a file without imports uses several names that nothing defines: a part of a program that is run by another one.
fn runs_in_host(context: &Context) -> bool {
    let (file, names) = (context.file(), context.names());
    let imports = [Kind::Import, Kind::ImportAll, Kind::ImportCall];
    if !file.traits.indents_blocks || imports.iter().any(|kind| file.tree.nodes_of(*kind).next().is_some()) {
        return false;
    }
    let undefined = names.references().filter(|other| other.resolution == Resolution::Undefined);
    let different: FxHashSet<_> = undefined.map(|other| other.name).collect();
    let is_shown = file.path.split('/').any(|folder| matches!(folder, "doc" | "docs" | "examples"));
    different.len() > if is_shown { 1 } else { 3 }
}

/// Whether a name is nearly one that each file has.
fn is_slip_of_special(name: &str) -> bool {
    let given =
        ["__name__", "__file__", "__doc__", "__all__", "__path__", "__package__", "__spec__", "__class__", "__dict__"];
    given.iter().any(|one| strsim::damerau_levenshtein(one, name) <= 2)
}

fn is_type_test(test: &str) -> bool {
    is_short(test) && test.contains("typeof ")
}

/// Whether a name is assigned where a script has found that there are no modules: so scripts give their names to all.
fn is_given_to_all(context: &Context, reference: &Reference) -> bool {
    let name = context.file().tree.node(reference.node);
    let assignment = name.parent().filter(|parent| parent.kind() == Kind::Assignment && name.role() == Role::Target);
    let asks = |choice: NodeRef| {
        choice.kind() == Kind::Conditional
            && choice.child(Role::Condition).map(|test| context.text(test)).is_some_and(is_type_test)
    };
    assignment.is_some_and(|assignment| assignment.ancestors().take(3).any(asks))
}

fn is_known(context: &Context, name: &str) -> bool {
    context.words("known").iter().any(|known| known == name)
}

fn report(context: &mut Context, reference: &Reference, name: &str) {
    let nearest = context.file().once(NearestNames::default).get(context, reference.name);
    let reported = context.report(reference.span, format!("nothing defines \"{name}\"")).unless_provided(name);
    match nearest {
        Some(nearest) => reported.advice(format!("perhaps \"{nearest}\" is meant")),
        None => reported.advice("define it, or import it"),
    };
}

/// All bound names of a file, each once.
struct BoundNames {
    by_length: NamesByLength<Symbol>,
    /// Those that are used too, or are parameters.
    used: FxHashSet<Symbol>,
}

impl BoundNames {
    fn of(names: &Names) -> BoundNames {
        let (mut seen, mut used) = (FxHashSet::default(), FxHashSet::default());
        for binding in names.bindings() {
            let is_parameter = |one: &Declaration| one.kind == DeclarationKind::Parameter;
            if binding.uses > 0 || binding.declarations.iter().all(is_parameter) {
                used.insert(binding.name);
            }
        }
        let once = names.bindings().map(|binding| binding.name).filter(|name| seen.insert(*name));
        BoundNames { by_length: NamesByLength::of(once.map(|name| (names.text(name), name))), used }
    }
}

fn bound_names(context: &Context) -> Rc<BoundNames> {
    context.file().once(|| BoundNames::of(context.names()))
}

/// How often each name of a file is used.
struct TimesUsed(FxHashMap<Symbol, u32>);

impl TimesUsed {
    fn of(names: &Names) -> TimesUsed {
        let mut times = FxHashMap::default();
        names.references().for_each(|one| *times.entry(one.name).or_default() += 1);
        TimesUsed(times)
    }
}

/// Whether a name is the slip of another one that is used as well: it is only here, is long, and differs by one letter.
fn has_double(context: &Context, reference: &Reference, name: &str) -> bool {
    let names = context.names();
    if name.len() <= LONG_NAME || context.file().once(|| TimesUsed::of(names)).0.get(&reference.name) != Some(&1) {
        return false;
    }
    let bound = bound_names(context);
    let is_double = |one: Symbol| {
        let other = names.text(one);
        is_one_apart(name, other) && !differs_by_mark(name, other) && bound.used.contains(&one)
    };
    bound.by_length.near(name, 1).any(is_double)
}

/// Names of more characters than this are seldom alike by chance.
const LONG_NAME: usize = 5;

/// Whether two names differ by what makes families of names: a number or mark, a plural, a capital.
fn differs_by_mark(name: &str, other: &str) -> bool {
    let plain = |text: &str| text.chars().filter(|letter| letter.is_alphabetic()).collect::<String>().to_lowercase();
    let (one, two) = (plain(name), plain(other));
    one == two
        || one.trim_end_matches('s') == two.trim_end_matches('s')
        || one.len() != name.len()
        || two.len() != other.len()
}

/// The bound names that differ by a slip of the fingers from those that nothing defines, as far as they were asked for.
#[derive(Default)]
struct NearestNames(RefCell<FxHashMap<Symbol, Option<Rc<str>>>>);

impl NearestNames {
    fn get(&self, context: &Context, name: Symbol) -> Option<Rc<str>> {
        self.0.borrow_mut().entry(name).or_insert_with(|| nearest_name(context, name)).clone()
    }
}

fn nearest_name(context: &Context, name: Symbol) -> Option<Rc<str>> {
    let names = context.names();
    let bound = bound_names(context);
    let wrong = names.text(name);
    let near = bound.by_length.near(wrong, most_apart(wrong)).map(|one| names.text(one));
    // Names of one or two letters are like too many others.
    nearest(wrong, near.filter(|other| other.len() > 2)).map(Rc::from)
}
