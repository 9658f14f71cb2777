use sieve_meaning::declared::{DeclaredOnce, declared_once, written_type};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-close",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Go, Language::Java, Language::CSharp],
    fix: None,
    what: "a file or a connection that a function opens, keeps to itself and never closes",
    why: "It stays open until the program ends or its memory is collected. A program that goes on for long runs out of them, and what is written may stay in a buffer.",
    silent: "Where it is returned, kept, given to another function or used in one that is made there, which may close it; in tests, and in the function that the program begins with or before a loop that never ends, since all is closed when the program ends.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quays\n\nimport \"os\"\n\nfunc first(name string) byte {\n\tfile, err := os.Open(name)\n\tif err != nil {\n\t\treturn 0\n\t}\n\tvar line [1]byte\n\tfile.Read(line[:])\n\treturn line[0]\n}\n",
                at: &["6:2"],
                fixed: None,
            }],
            right: &[
                "package quays\n\nimport \"os\"\n\nfunc first(name string) byte {\n\tfile, err := os.Open(name)\n\tif err != nil {\n\t\treturn 0\n\t}\n\tdefer file.Close()\n\tvar line [1]byte\n\tfile.Read(line[:])\n\treturn line[0]\n}\n\nfunc open(name string) *os.File {\n\tfile, _ := os.Open(name)\n\tfile.Seek(3, 0)\n\treturn file\n}\n\nfunc main() {\n\tfile, _ := os.Open(\"quays\")\n\tfile.Sync()\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quays {\n    int first(String name) throws IOException {\n        var in = new BufferedReader(new FileReader(name));\n        return in.read();\n    }\n}\n",
                at: &["3:13"],
                fixed: None,
            }],
            right: &[
                "class Quays {\n    int first(String name) throws IOException {\n        try (var in = new FileReader(name)) {\n            return in.read();\n        }\n    }\n\n    Reader open(String name) throws IOException {\n        var in = new FileReader(name);\n        in.skip(3);\n        return new BufferedReader(in);\n    }\n\n    void serve(int port) throws IOException {\n        FileReader log = new FileReader(\"log\");\n        while (true) {\n            log.read();\n        }\n    }\n\n    int second(String name) throws IOException {\n        FileReader in = new FileReader(name);\n        try {\n            return in.read();\n        } finally {\n            in.close();\n        }\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quays\n{\n    int First(string name)\n    {\n        var file = new StreamReader(name);\n        return file.Read();\n    }\n}\n",
                at: &["5:13"],
                fixed: None,
            }],
            right: &[
                "class Quays\n{\n    int First(string name, Stream stream)\n    {\n        using var file = File.OpenRead(name);\n        var held = new StreamReader(stream);\n        held.Read();\n        return file.ReadByte();\n    }\n\n    int Second()\n    {\n        var file = File.OpenText(\"quays\");\n        try\n        {\n            return file.Read();\n        }\n        finally\n        {\n            file.Dispose();\n        }\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::All(&[Kind::New, Kind::Call], check),
};

fn check(context: &mut Context, makers: &[NodeRef]) {
    if context.file().is_test() || context.file().traits.resources.openers.is_empty() {
        return;
    }
    let variables: Vec<NodeRef> =
        makers.iter().filter(|maker| opens(context, **maker)).filter_map(|maker| variable_of(*maker)).collect();
    for variable in declared_once(context.names(), &variables) {
        if variable.binding.writes == 0 && !variable.uses.is_empty() && !is_in_main(context, variable.name) {
            on_variable(context, &variable);
        }
    }
}

fn on_variable(context: &mut Context, variable: &DeclaredOnce) {
    let is_left_open = variable.uses.iter().all(|place| leaves_it_open(context, *place, variable.name));
    if is_left_open && !is_needed_for_ever(context, variable.name) {
        let name = context.text(variable.name);
        let advice = context.file().traits.resources.advice;
        context
            .report(variable.name.span(), format!("what \"{name}\" holds is opened here and never closed"))
            .advice(advice);
    }
}

/// Whether an expression opens something that has to be closed.
fn opens(context: &Context, maker: NodeRef) -> bool {
    let file = context.file();
    let Some(callee) = maker.child(Role::Callee) else { return false };
    let name = file.node_text(callee);
    let known = &file.traits.resources;
    let first = || maker.child(Role::Arguments).and_then(|arguments| arguments.children().next());
    if maker.kind() == Kind::Call {
        return callee.kind() == Kind::Member && known.openers.contains(&name);
    }
    known.openers.contains(&name)
        || known.openers_by_name.contains(&name) && first().is_some_and(|first| is_string(context, first))
        || known.wrappers.contains(&name)
            && first().is_some_and(|first| matches!(first.kind(), Kind::New | Kind::Call) && opens(context, first))
}

fn is_string(context: &Context, argument: NodeRef) -> bool {
    let says_so = || {
        let written = written_type(context.names(), argument).filter(|_| argument.kind() == Kind::Name);
        written.is_some_and(|written| context.text(written) == "string")
    };
    argument.kind() == Kind::String || says_so()
}

/// The variable that is declared with what an expression makes, and that nothing closes at the end of its block.
fn variable_of(maker: NodeRef<'_>) -> Option<NodeRef<'_>> {
    let holder = maker.parent().filter(|_| maker.role() == Role::Value)?;
    let target = holder.child(Role::Target).filter(|target| target.kind() == Kind::Name)?;
    let declaration = if holder.kind() == Kind::ShortDeclaration { holder } else { holder.parent()? };
    let is_local = matches!(declaration.kind(), Kind::Declaration | Kind::ShortDeclaration)
        && declaration.role() == Role::Statement
        && !declaration.parent().is_some_and(|parent| parent.parent().is_some_and(|class| class.kind() == Kind::Class));
    // What is before it says that it is closed behind its block.
    let is_closed =
        declaration.token_range().take(3).any(|token| declaration.tree().token_kind(token) == TokenKind::Using);
    (is_local && !is_closed).then_some(target)
}

/// Whether a use asks something of the open thing, and neither closes it nor hands it on.
fn leaves_it_open(context: &Context, place: NodeRef, declared: NodeRef) -> bool {
    let function = |node: NodeRef| node.ancestors().find(|around| around.kind().is_function()).map(NodeRef::id);
    let Some(parent) = place.parent().filter(|_| function(place) == function(declared)) else { return false };
    if parent.kind() == Kind::Comparison {
        return true;
    }
    let asks = parent.kind() == Kind::Member && place.role() == Role::Object;
    let is_called = parent.role() == Role::Callee && parent.parent().is_some_and(|call| call.kind() == Kind::Call);
    let name = parent.child(Role::Name).map_or(String::new(), |name| context.text(name).to_lowercase());
    asks && is_called && !context.file().traits.resources.closing_words.iter().any(|word| name.contains(word))
}

/// The function that a program begins with: all is closed when it ends.
fn is_in_main(context: &Context, name: NodeRef) -> bool {
    let function = name.function_around();
    let name = function.and_then(|function| function.child(Role::Name)).map(|name| context.text(name));
    matches!(name, Some("main" | "Main"))
}

/// Whether a loop that nothing leaves is behind a declaration: what is open then is needed as long as the program runs.
fn is_needed_for_ever(context: &Context, name: NodeRef) -> bool {
    let Some(declaration) = name.ancestors().find(|around| around.role() == Role::Statement) else { return false };
    let is_endless = |statement: NodeRef| {
        let is_loop = matches!(statement.kind(), Kind::While | Kind::For) && statement.child(Role::Iterable).is_none();
        let leaves = |node: NodeRef| matches!(node.kind(), Kind::Break | Kind::Return | Kind::Throw | Kind::Goto);
        let holds = |condition: NodeRef| context.text(condition) == "true";
        is_loop && statement.child(Role::Condition).is_none_or(holds) && !statement.descendants().any(leaves)
    };
    let Some(block) = declaration.parent() else { return false };
    let last = context
        .file()
        .once_at(block, || LastEndless(block.children().filter(|one| is_endless(*one)).last().map(NodeRef::id)));
    last.0.is_some_and(|last| last > declaration.id())
}

/// The last statement of a block that never ends.
struct LastEndless(Option<NodeId>);
