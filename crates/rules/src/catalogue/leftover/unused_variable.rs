use rustc_hash::{FxHashMap, FxHashSet};
use sieve_meaning::names::{Binding, Declaration, DeclarationKind, Names, ScopeId, ScopeKind, Symbol, Unknown};
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::evaluated::words_read_around;
use crate::expected::{allows_unused, attributes, tests_error};
use crate::habit::{significant_before, significant_from, whole_lines};
use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, Rule, Wrong, word_hash,
};
use crate::typed_in_comment::is_typed_in_comment;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unused-variable",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::OF_PROGRAMS,
    fix: Some(FixKind::Review),
    what: "a variable that is assigned but never used",
    why: "Either the value was meant to be used and code is missing, or the line can go.",
    silent: "For names that begin with an underscore or with \"unused\", in Java also with \"ignore\", for what a catch-all handler catches, loop variables, elements that are taken out of a list, what an attribute of it or of what it is in allows to be unused, constants beside others with numbers in Go, Java and C#, members that are taken out beside the rest, where a test expects an error, where \
             the function inspects its own names (locals, eval), where a query or code in a string may read the variable, and outside of functions, except in modules that say what they export.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "def sail(boat):\n    crew = boat.crew()\n    boat.cast_off()\n",
                    at: &["2:5"],
                    fixed: Some("def sail(boat):\n    boat.crew()\n    boat.cast_off()\n"),
                },
                Wrong {
                    code: "def sail(boat):\n    crew = \"all\"\n    boat.cast_off()\n",
                    at: &["2:5"],
                    fixed: Some("def sail(boat):\n    boat.cast_off()\n"),
                },
                Wrong { code: "def sail(boat):\n    crew = boat\n", at: &["2:5"], fixed: None },
                Wrong { code: "def sail(boat):\n    crew = boat + 1\n    boat.go()\n", at: &["2:5"], fixed: None },
                Wrong {
                    code: "def sail(boat):\n    try:\n        boat.go()\n    except OSError as error:\n        moor()\n",
                    at: &["4:23"],
                    fixed: Some("def sail(boat):\n    try:\n        boat.go()\n    except OSError:\n        moor()\n"),
                },
            ],
            right: &[
                "def sail(boat):\n    crew = boat.crew()\n    return lambda: crew\n",
                "def sail(boat):\n    _crew, captain = boat.crew()\n    for _ in range(3):\n        captain.wave()\n",
                "def sail(boat):\n    crew = 1\n    return locals()\n",
                "def sail(boat):\n    unused_crew = boat.crew()\n    boat.cast_off()\n",
                "crew = 3\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "function sail(boat) {\n  const crew = boat.crew();\n  boat.castOff();\n}\n",
                    at: &["2:9"],
                    fixed: Some("function sail(boat) {\n  boat.crew();\n  boat.castOff();\n}\n"),
                },
                Wrong {
                    code: "function sail(boat) {\n  boat.go()\n  let crew = 1\n  wave()\n}\n",
                    at: &["3:7"],
                    fixed: Some("function sail(boat) {\n  boat.go()\n  wave()\n}\n"),
                },
                Wrong {
                    code: "function sail(boat) {\n  boat.go()\n  let crew = 1;\n  (boat || crewless)()\n}\n",
                    at: &["3:7"],
                    fixed: None,
                },
                Wrong {
                    code: "function sail(boat) {\n  boat.go()\n  const crew = (boat || other).crew()\n}\n",
                    at: &["3:9"],
                    fixed: None,
                },
                Wrong {
                    code: "function sail(boat) {\n  const crew = function () {}.bind(boat);\n  boat.go();\n}\n",
                    at: &["2:9"],
                    fixed: None,
                },
                Wrong {
                    code: "function sail(boat) {\n  if (boat) {\n    let crew = 1;\n    crew = 2;\n  }\n}\n",
                    at: &["3:9"],
                    fixed: None,
                },
            ],
            right: &[
                "/**\n * @param {Quay} quay\n */\nfunction moor(quay) {\n  const { Quay } = require('./quays');\n  quay.moor();\n}\n",
                "function sail(boat) {\n  const crew = boat.crew();\n  return () => crew;\n}\n",
                "function sail(boat) {\n  const { crew, ...rest } = boat;\n  for (const _ of rest) wave();\n}\n",
                "const crew = 3;\n",
            ],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong {
                code: "#!/bin/bash\nsail() {\n  local quay=$1 crew\n  echo \"$crew\"\n}\n",
                at: &["3:9"],
                fixed: None,
            }],
            right: &[
                "#!/bin/bash\nsail() {\n  local quay=$1\n  moor\n}\nmoor() {\n  echo \"${quay%-*}\"\n}\n",
                "#!/bin/bash\nsail() {\n  local quay=$1\n  source moor.sh\n}\n",
                "#!/bin/bash\nsail() {\n  local LC_ALL=C IFS\n  sort quays\n}\n",
                "sail() {\n  local quay=$1\n}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[
                Wrong {
                    code: "package quay\n\nfunc sail(boat Boat) {\n\tcrew := boat.Crew()\n\tboat.CastOff()\n}\n",
                    at: &["4:2"],
                    fixed: None,
                },
                Wrong {
                    code: "package quay\n\nfunc sail(boats []Boat) {\n\tcount := 0\n\tfor _, boat := range boats {\n\t\tboat.CastOff()\n\t\tcount++\n\t}\n}\n",
                    at: &["4:2"],
                    fixed: None,
                },
                Wrong {
                    code: "package quay\n\nfunc sail(crew int) int {\n\tif crew > 2 {\n\t\tcrew := crew - 1\n\t}\n\treturn crew\n}\n",
                    at: &["5:3"],
                    fixed: None,
                },
            ],
            right: &[
                "package board\n\nfunc low() int {\n\tconst (\n\t\tnorth = iota\n\t\tsouth\n\t)\n\treturn south\n}\n",
                "package quay\n\nfunc sail(boat Boat) (err error) {\n\tcrew, err := boat.Crew()\n\tif err != nil {\n\t\treturn err\n\t}\n\treturn boat.Go(func() int { return crew })\n}\n",
                "package quay\n\nfunc sail(boat Boat) Plan {\n\tcrew := 3\n\t_ = boat\n\tswitch kind := boat.Kind().(type) {\n\tcase Ferry:\n\t\treturn Plan{crew: crew, kind: kind}\n\t}\n\treturn Plan{}\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[
                Wrong {
                    code: "fn sail(boat: &mut Boat) {\n    let crew = boat.crew();\n    boat.cast_off();\n}\n",
                    at: &["2:9"],
                    fixed: Some("fn sail(boat: &mut Boat) {\n    boat.crew();\n    boat.cast_off();\n}\n"),
                },
                Wrong {
                    code: "fn sail() {\n    let mut crew = 3;\n    go();\n    crew = 4;\n}\n",
                    at: &["2:13"],
                    fixed: None,
                },
            ],
            right: &[
                "fn sail(boat: &Boat) -> u8 {\n    let crew = boat.crew();\n    let crew = crew + 1;\n    let _held = boat.lock();\n    info!(\"{crew}\");\n    let late = 3;\n    #[allow(unused)]\n    let spare = 5;\n    let depth = 4;\n    assert!(boat.depth < depth, \"{late}\");\n    match boat.kind {\n        other => 1,\n    }\n}\n",
                "#[allow(warnings)]\nfn sail() {\n    let crew = 3;\n}\n\nfn moor(quays: &[Quay]) {\n    let names = [1, 2];\n    query!(r#\"quay in ({..names})\"#);\n    const DEPTH: u8 = 3;\n    #[derive(Fill)]\n    #[fill(set(depth = \"Some(DEPTH)\"))]\n    struct Low;\n    #[link_section = \".init\"]\n    static START: fn() = sail;\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Boat {\n    void sail(Boat boat) {\n        int crew = boat.crew();\n        boat.castOff();\n    }\n}\n",
                    at: &["3:13"],
                    fixed: Some(
                        "class Boat {\n    void sail(Boat boat) {\n        boat.crew();\n        boat.castOff();\n    }\n}\n",
                    ),
                },
                Wrong {
                    code: "class Boat {\n    int crew;\n\n    void sail() {\n        int crew = 3;\n        this.crew = 2;\n    }\n}\n",
                    at: &["5:13"],
                    fixed: None,
                },
                Wrong {
                    code: "class Boat {\n    void sail() {\n        int count = 0;\n        count++;\n    }\n}\n",
                    at: &["3:13"],
                    fixed: None,
                },
            ],
            right: &[
                "class Boat {\n    void sail(Lock lock) {\n        try (var held = lock.hold()) {\n            go();\n        } catch (Late late) {\n            stop();\n        }\n        int crew = 3;\n        Runnable go = () -> wave(crew);\n        go.run();\n    }\n}\n",
                "class Boat {\n    void sail(Object other) {\n        for (int quay : quays()) go();\n        if (other instanceof Ferry ferry) go();\n        int last;\n        count(last = 3, last);\n    }\n}\n",
                "class Boat {\n    @SuppressWarnings(\"unused\")\n    void sail(Object other) {\n        int crew = 3;\n    }\n    int column() {\n        final int name = 1;\n        final int depth = 2;\n        final int crew = 3;\n        return depth;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[
                Wrong {
                    code: "class Boat {\n    void Sail(Boat boat) {\n        int crew = boat.Crew();\n        boat.CastOff();\n    }\n}\n",
                    at: &["3:13"],
                    fixed: Some(
                        "class Boat {\n    void Sail(Boat boat) {\n        boat.Crew();\n        boat.CastOff();\n    }\n}\n",
                    ),
                },
                Wrong {
                    code: "class Boat {\n    void Sail() {\n        try {\n            Go();\n        } catch (LateException late) {\n            Stop();\n        }\n    }\n}\n",
                    at: &["5:32"],
                    fixed: Some(
                        "class Boat {\n    void Sail() {\n        try {\n            Go();\n        } catch (LateException) {\n            Stop();\n        }\n    }\n}\n",
                    ),
                },
                Wrong {
                    code: "class Boat {\n    void Sail() {\n        int count = 0;\n        count++;\n    }\n}\n",
                    at: &["3:13"],
                    fixed: None,
                },
            ],
            right: &[
                "class Boat {\n    void Sail(Lock held, object other) {\n        using var lease = held.Take();\n        int crew = 3;\n        Action go = () => Wave($\"{crew}\");\n        go();\n        if (other is Ferry ferry) Go();\n        Find(out var place);\n        var (low, _) = Tides();\n        Assert.Throws<Late>(() => { var next = held.Next; });\n        foreach (var quay in Quays()) Go();\n    }\n}\n",
                "class Boat {\n    void Sail() {\n        int crew = 3;\n#if LOUD\n        if (loud) {\n            Wave(crew);\n#endif\n        Go();\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Bindings(check),
};

/// Why a string or a comment may use a variable, if one does.
fn mentioned(file: File<'_>, name: &str) -> Option<&'static str> {
    if may_be_read_around(file, name) {
        return Some("a string that may read the variables around it mentions the name");
    }
    is_typed_in_comment(file, name).then_some("documentation names it as a type")
}

fn check(context: &mut Context, binding: &Binding) {
    let names = context.names();
    let scope = names.scope(binding.scope);
    if binding.uses > 0 || !is_in_function(names, binding.scope) && !is_kept_in(context, binding) {
        return;
    }
    let name = names.text(binding.name);
    let tree = context.file().tree;
    let is_looked_at = |declaration: &Declaration| {
        is_plain(declaration.kind) || is_taken_out(context.file(), tree.node(declaration.node))
    };
    if name.starts_with('_') || says_unused(context, name) || !binding.declarations.iter().all(is_looked_at) {
        return;
    }
    if is_only_looped(context, binding) {
        return;
    }
    for declaration in &binding.declarations {
        let node = context.file().tree.node(declaration.node);
        let needs_no_name =
            |handler: NodeRef| context.file().traits.nameless_handlers && handler.child(Role::Type).is_some();
        let is_plain_handler = || node.parent().is_some_and(needs_no_name);
        if declaration.kind == DeclarationKind::CaughtException && catches_all(node) && !is_plain_handler() {
            continue;
        }
        let span = node.span();
        if let Some(reason) = scope.may_use.map(Unknown::describe).or_else(|| mentioned(context.file(), name)) {
            context.unsure(span, reason);
            continue;
        }
        if is_allowed(context, node) || is_one_of_many(context.file(), node) {
            continue;
        }
        // Without a name there would be nothing to close.
        let is_resource = node.parent().is_some_and(|holder| holder.kind() == Kind::Assignment);
        if declaration.kind == DeclarationKind::WithTarget && is_resource {
            continue;
        }
        // A name for what is expected to fail, or for the failure itself, is never there.
        if tests_error(context.file(), node) {
            continue;
        }
        // Other places give it a value too: leaving it out here would not be enough.
        let edits = without_the_name(context, declaration.node, declaration.kind).filter(|_| binding.writes == 0);
        let has_value = binding.writes > 0 || !is_bare(node);
        let verb = match declaration.kind {
            DeclarationKind::CaughtException => "caught",
            _ if has_value => "assigned",
            _ => "declared",
        };
        context
            .report(span, format!("\"{name}\" is {verb} but never used"))
            .advice("use it, or remove the name")
            .fix_to_review(edits);
    }
}

/// Whether an assignment only declares its names.
fn is_bare(name: NodeRef) -> bool {
    let is_item = name.parent().is_some_and(|holder| holder.kind() == Kind::Declaration);
    let holds_none = |holder: NodeRef| {
        matches!(holder.kind(), Kind::Assignment | Kind::AnnotatedAssignment)
            && holder.child_at_end(Role::Value).is_none()
    };
    is_item || name.parent().is_some_and(holds_none)
}

/// So many levels around a name are looked at.
const MOST_LEVELS: usize = 64;

/// Whether an attribute of what a name is in says that it may be unused, or that others than the code use it: `#[allow(unused)]`,
/// `@SuppressWarnings("unused")`, `#[link_section = ".init"]`.
fn is_allowed(context: &Context, name: NodeRef) -> bool {
    let file = context.file();
    name.ancestors().take(MOST_LEVELS).any(|around| {
        let attributes = || attributes(around);
        let is_kept = |attribute: NodeRef| {
            attribute
                .child(Role::Value)
                .is_some_and(|name| file.traits.keeping_attributes.contains(&context.text(name)))
        };
        attributes().any(|attribute| allows_unused(file, attribute))
            || around.kind() == Kind::Declaration && attributes().any(is_kept)
    })
}

/// Whether a constant is between two others, all with numbers: the columns of a table, say, of which a function needs some. Or those behind
/// it count on from it.
fn is_one_of_many(file: File<'_>, name: NodeRef) -> bool {
    let first_word = |declaration: NodeRef| file.text.slice(file.tree.token_span(declaration.token_range().start));
    let is_constant = |declaration: NodeRef| {
        let first = declaration.child(Role::Item).and_then(|item| item.child_at_end(Role::Value));
        declaration.kind() == Kind::Declaration
            && ["const", "final"].contains(&first_word(declaration))
            && first.is_some_and(|value| value.kind() == Kind::Number)
    };
    let Some(declaration) = name.ancestors().find(|around| around.kind() == Kind::Declaration) else { return false };
    let beside = [declaration.previous_sibling(), declaration.next_sibling()];
    let in_one = declaration.children_in(Role::Item).take(3).count() > 2;
    let holds_none = |item: NodeRef| item.child_at_end(Role::Value).is_none();
    let counts = || Counts(declaration.children_in(Role::Item).any(holds_none));
    if first_word(declaration) == "const" && file.once_at(declaration, counts).0 {
        return true;
    }
    (file.traits.says_visibility || file.traits.capitals_are_public)
        && is_constant(declaration)
        && (in_one || beside.iter().flatten().any(|other| is_constant(*other)))
}

/// Whether some constants of a declaration have no value of their own, but one that counts on.
struct Counts(bool);

/// Whether a name says that nobody is to use it.
fn says_unused(context: &Context, name: &str) -> bool {
    name.starts_with("unused") || context.file().traits.says_visibility && name.starts_with("ignore")
}

fn may_be_read_around(file: File<'_>, name: &str) -> bool {
    file.once(|| ReadWords(words_read_around(file))).0.contains(&word_hash(name))
}

/// Hashes of the words in strings through which variables may be read.
struct ReadWords(FxHashSet<u64>);

/// Whether a name belongs to a module that says what it exports, so that nobody else can use it: what is only declared there may be
/// there to be filled in by hand.
fn is_kept_in(context: &Context, binding: &Binding) -> bool {
    let scope = context.names().scope(binding.scope);
    let file = context.file();
    let tree = file.tree;
    let has_value = |declaration: &Declaration| {
        let node = tree.node(declaration.node);
        // `const fare = exports.fare = …`: others get the value in another way.
        let value = node.parent().and_then(|holder| holder.child_at_end(Role::Value));
        if value.is_some_and(|value| value.kind() == Kind::Assignment) {
            return false;
        }
        let declaration = node.ancestors().find(|around| around.kind() == Kind::Declaration);
        declaration.is_some_and(|it| it.parent().is_some_and(|holder| holder.kind() == Kind::File))
    };
    !file.language.spec().exports_everything
        && !file.traits.runs_commands
        && !file.traits.capitals_are_public
        && !file.traits.says_visibility
        && !file.is_test()
        && scope.kind == ScopeKind::File
        && scope.may_use.is_none()
        && binding.declarations.iter().all(has_value)
}

/// Whether a name takes one of the members of an object, and none is taken with the rest: `const { name } = boat`.
fn is_taken_out(file: File<'_>, name: NodeRef) -> bool {
    let mut pattern = name;
    while matches!(pattern.kind(), Kind::Name | Kind::CapturePattern | Kind::PairPattern | Kind::DefaultPattern) {
        let Some(parent) = pattern.parent() else { return false };
        pattern = parent;
    }
    let has_rest = || HasRest(pattern.children().any(|element| element.kind() == Kind::StarPattern));
    let is_declared =
        pattern.parent().is_some_and(|holder| holder.kind() == Kind::Assignment && holder.role() == Role::Item);
    pattern.kind() == Kind::MappingPattern && is_declared && !file.once_at(pattern, has_rest).0
}

/// Whether a pattern takes the rest of an object too.
struct HasRest(bool);

/// Whether a name is declared for a loop that only goes round: `var quay; for (quay in quays) count++`.
fn is_only_looped(context: &Context, binding: &Binding) -> bool {
    let tree = context.file().tree;
    let has_value = |declaration: &Declaration| {
        let holder = tree.node(declaration.node).parent();
        holder.is_some_and(|holder| holder.child_at_end(Role::Value).is_some())
    };
    let names = context.names();
    let home = tree.node(names.scope(binding.scope).node);
    let is_looped = || {
        let targets = context.file().once(|| LoopTargets::of(context));
        targets.0.get(&binding.name).is_some_and(|nodes| nodes.iter().any(|node| home.holds(*node)))
    };
    binding.writes > 0 && !binding.declarations.iter().any(has_value) && is_looped()
}

/// The names that loops assign to, without declaring them.
struct LoopTargets(FxHashMap<Symbol, Vec<NodeId>>);

impl LoopTargets {
    fn of(context: &Context) -> LoopTargets {
        let mut targets = LoopTargets(FxHashMap::default());
        for reference in context.names().references() {
            let node = context.file().tree.node(reference.node);
            let is_target =
                node.role() == Role::Target && node.parent().is_some_and(|parent| parent.kind() == Kind::For);
            if is_target {
                targets.0.entry(reference.name).or_default().push(reference.node);
            }
        }
        targets
    }
}

/// Whether a handler catches whatever is thrown: languages that have such handlers want, or wanted once, that they name it.
fn catches_all(name: NodeRef) -> bool {
    name.parent().is_some_and(|handler| handler.child(Role::Exception).is_none())
}

/// Whether a scope is that of a function, or of a block in one.
fn is_in_function(names: &Names, scope: ScopeId) -> bool {
    let mut scope = names.scope(scope);
    while scope.kind == ScopeKind::Block {
        let Some(parent) = scope.parent else { return false };
        scope = names.scope(parent);
    }
    scope.kind == ScopeKind::Function
}

/// Leaves out the name and what binds it. What the value does stays; a value that does nothing goes with its statement.
fn without_the_name(context: &Context, name: NodeId, kind: DeclarationKind) -> Option<Vec<Edit>> {
    let name = context.file().tree.node(name);
    let holder = name.parent()?;
    match kind {
        DeclarationKind::Assignment if holder.kind() == Kind::Assignment && has_own_statement(holder) => {
            let is_alone = holder.children_in(Role::Target).nth(1).is_none() && name.role() == Role::Target;
            let value = holder.child_at_end(Role::Value).filter(|_| is_alone)?;
            let declaration = holder.parent().filter(|declaration| declaration.kind() == Kind::Declaration);
            let statement = declaration.unwrap_or(holder);
            if statement.kind() == Kind::Declaration && statement.children_in(Role::Item).nth(1).is_some() {
                return None;
            }
            if has_no_effect(value) { removal(context, statement) } else { value_alone(context, statement, value) }
        }
        DeclarationKind::CaughtException => {
            let caught = holder.child(Role::Exception).or_else(|| holder.child(Role::Type))?;
            Some(vec![Edit::remove(Span::new(caught.span().end, name.span().end))])
        }
        DeclarationKind::WithTarget if holder.kind() == Kind::WithItem => {
            let value = holder.child(Role::Value)?;
            Some(vec![Edit::remove(Span::new(value.span().end, name.span().end))])
        }
        _ => None,
    }
}

/// Whether an assignment is a statement, or the item of a declaration.
fn has_own_statement(assignment: NodeRef) -> bool {
    matches!(assignment.role(), Role::Statement | Role::Item)
}

/// Whether nothing happens when a value is worked out.
fn has_no_effect(value: NodeRef) -> bool {
    match value.kind() {
        Kind::Number | Kind::String | Kind::Bytes | Kind::Boolean | Kind::Null | Kind::Name | Kind::Lambda => true,
        Kind::List | Kind::Tuple | Kind::Group => value.children().all(has_no_effect),
        _ => false,
    }
}

/// The value as a statement of its own, where something may come of it and it can begin one.
fn value_alone(context: &Context, statement: NodeRef, value: NodeRef) -> Option<Vec<Edit>> {
    let does = matches!(value.kind(), Kind::Call | Kind::Await | Kind::New | Kind::Yield | Kind::YieldFrom);
    let first = value.first_token_kind();
    let begins = context.file().language.spec().lines_matter
        || matches!(first, TokenKind::Name | TokenKind::Await | TokenKind::New | TokenKind::This | TokenKind::Yield);
    (does && begins).then(|| vec![Edit::remove(Span::new(statement.span().start, value.span().start))])
}

/// Removes a statement with its line, where it is alone there and is not all that its block has. Without semicolons, what comes after
/// it must not go on with what is before it.
fn removal(context: &Context, statement: NodeRef) -> Option<Vec<Edit>> {
    let file = context.file();
    let is_alone = statement.previous_sibling().is_none_or(|before| before.role() != Role::Statement)
        && statement.next_sibling().is_none_or(|next| next.role() != Role::Statement);
    let tree = statement.tree();
    let next = significant_from(file, statement.token_range().end)?;
    let goes_on = !file.language.spec().lines_matter
        && !begins_apart(tree.token_kind(next))
        && significant_before(file, statement.token_range().start).is_some_and(|last| {
            !matches!(tree.token_kind(last), TokenKind::Semicolon | TokenKind::BraceOpen | TokenKind::BraceClose)
        });
    let lines = whole_lines(file, statement.span()).filter(|_| !is_alone && !goes_on)?;
    Some(vec![Edit::remove(lines)])
}

/// Whether a statement that begins so never goes on with the one before it ("Rules of Automatic Semicolon Insertion", ECMAScript 2026).
fn begins_apart(first: TokenKind) -> bool {
    matches!(
        first,
        TokenKind::Name
            | TokenKind::BraceClose
            | TokenKind::Const
            | TokenKind::Var
            | TokenKind::Return
            | TokenKind::If
            | TokenKind::For
            | TokenKind::While
            | TokenKind::This
            | TokenKind::Await
            | TokenKind::New
            | TokenKind::Throw
    )
}

/// Bound so that leaving the name out changes nothing else.
fn is_plain(kind: DeclarationKind) -> bool {
    matches!(
        kind,
        DeclarationKind::Assignment
            | DeclarationKind::NamedExpression
            | DeclarationKind::CaughtException
            | DeclarationKind::WithTarget
    )
}
