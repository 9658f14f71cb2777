use std::cell::OnceCell;
use std::collections::BTreeMap;

use rustc_hash::FxHashMap;
use sieve_meaning::declared::written_type;
use sieve_meaning::names::{Binding, BindingId, Reference, Resolution};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::inside::Leaving;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "string-grown-in-loop",
    concern: Concern::Mistake,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Probable,
    languages: &[Language::Go, Language::Java, Language::CSharp],
    fix: None,
    what: "a string that grows in each round of a loop",
    why: "Strings never change: each piece copies all that is there already, and the time grows with the square of the length.",
    silent: "For variables that begin anew within the loop or are needed whole in each round, for loops that end behind the piece, and in tests. What a variable of no written type holds is known where it begins with a string.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package board\n\nfunc all(boats []string) string {\n\tline := \"\"\n\tvar short string\n\tfor _, boat := range boats {\n\t\tline += boat\n\t\tline += \" \"\n\t\tshort = short + boat[:1]\n\t}\n\treturn line + short\n}\n",
                at: &["7:3", "9:3"],
                fixed: None,
            }],
            right: &[
                "package board\n\nimport \"strings\"\n\nfunc all(boats []string, depths []int) string {\n\tvar lines strings.Builder\n\tsum := 0\n\tfor index, boat := range boats {\n\t\tline := \"\"\n\t\tline += boat\n\t\tsum += depths[index]\n\t\tlines.WriteString(line)\n\t}\n\treturn lines.String()\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Board {\n    String all(Iterable<String> boats) {\n        String line = \"\";\n        for (String boat : boats) {\n            if (boat != null) {\n                line += boat + \" \";\n            }\n        }\n        return line;\n    }\n}\n",
                at: &["6:17"],
                fixed: None,
            }],
            right: &[
                "class Board {\n    String first(Iterable<String> boats, int[] depths) {\n        String line = \"\";\n        int sum = 0;\n        for (int depth : depths) {\n            sum += depth;\n        }\n        for (String boat : boats) {\n            line += boat;\n            break;\n        }\n        line += sum;\n        return line;\n    }\n}\n",
                "class Board {\n    void make(Iterable<String> parts) {\n        String path = \"\";\n        for (String part : parts) {\n            path += \"/\" + part;\n            create(path);\n        }\n    }\n}\n",
                "class Board {\n    void print(Iterable<String> boats) {\n        String line = \"\";\n        for (String boat : boats) {\n            line += boat;\n            if (line.length() > 80) {\n                System.out.println(line);\n                line = \"\";\n            }\n        }\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Board {\n    string All(string[] boats) {\n        var line = \"\";\n        foreach (var boat in boats) {\n            line += boat;\n        }\n        return line;\n    }\n}\n",
                at: &["5:13"],
                fixed: None,
            }],
            right: &[
                "class Board {\n    string All(string[] boats) {\n        var line = new StringBuilder();\n        var count = 0;\n        foreach (var boat in boats) {\n            line.Append(boat);\n            count += 1;\n        }\n        return line.ToString() + count;\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::All(&[Kind::CompoundAssignment, Kind::Assignment], check),
};

fn check(context: &mut Context, assignments: &[NodeRef]) {
    let file = context.file();
    let Some(builder) = file.traits.string_builder.filter(|_| !file.is_test()) else { return };
    let names = context.names();
    // The pieces of each variable in each loop, in the order of the text, and the places that give variables other values.
    let mut grown: BTreeMap<(NodeId, BindingId), Vec<(NodeRef, NodeRef)>> = BTreeMap::new();
    let mut set: FxHashMap<BindingId, Vec<NodeId>> = FxHashMap::default();
    for assignment in assignments {
        let Some(target) = assignment.child(Role::Target).filter(|target| target.kind() == Kind::Name) else {
            continue;
        };
        let Some(Resolution::Binding(id)) = names.resolution_at(target.id()) else { continue };
        if !adds(context, *assignment, target) {
            set.entry(id).or_default().push(assignment.id());
        } else if let Some(body) = body_around(*assignment) {
            grown.entry((body.id(), id)).or_default().push((*assignment, target));
        }
    }
    // Gathered once, if a string grows.
    let uses = OnceCell::new();
    let mut leaving = Leaving::default();
    for (&(body, id), pieces) in &grown {
        let body = file.tree.node(body);
        let (_, target) = pieces[0];
        let binding = names.binding(id);
        let begins_here = binding.declarations.iter().any(|one| body.holds(one.node));
        // The places are in the order of the text.
        let begins_anew = set.get(&id).is_some_and(|places| {
            let next = places.partition_point(|place| *place < body.id());
            places.get(next).is_some_and(|place| body.holds(*place))
        });
        if begins_here || begins_anew || !is_string(context, binding, target) {
            continue;
        }
        let uses = uses.get_or_init(|| names.uses_of(&grown.keys().map(|(_, id)| *id).collect()));
        if uses.get(&id).is_some_and(|uses| is_needed_whole(context, uses, body, pieces)) {
            continue;
        }
        if let Some((piece, _)) = pieces.iter().find(|(piece, _)| !leaving.is_behind(*piece, body)) {
            let name = context.text(target);
            context
                .report(piece.span(), format!("each round copies all of \"{name}\""))
                .advice(format!("put it together in a {builder}"));
        }
    }
}

/// Whether an assignment puts something behind what a variable holds: `line += boat`, `line = line + boat`.
fn adds(context: &Context, piece: NodeRef, target: NodeRef) -> bool {
    let Some(value) = piece.child(Role::Value) else { return false };
    if piece.kind() == Kind::CompoundAssignment {
        return target.kind_behind() == TokenKind::PlusAssign;
    }
    let is_it = |node: NodeRef| node.kind() == Kind::Name && context.text(node) == context.text(target);
    let mut first = value;
    while first.kind() == Kind::Binary {
        let Some(left) = first.children().next().filter(|left| left.kind_behind() == TokenKind::Plus) else {
            return false;
        };
        first = left;
    }
    first != value && is_it(first)
}

/// Whether a round does something with all that is there, so that it has to be a string: `path += part; create(path)`.
fn is_needed_whole(context: &Context, uses: &[&Reference], body: NodeRef, pieces: &[(NodeRef, NodeRef)]) -> bool {
    let tree = &context.file().tree;
    let first = uses.partition_point(|one| one.node < body.id());
    let mut within = uses[first..].iter().map(|one| tree.node(one.node)).take_while(|one| body.holds(one.id()));
    within.any(|one| {
        let next = pieces.partition_point(|(piece, _)| piece.id() <= one.id());
        let is_piece = next.checked_sub(1).is_some_and(|before| pieces[before].0.holds(one.id()));
        !is_piece && is_given_away(context, one)
    })
}

/// Whether a name is at a place where the whole string goes somewhere else: to what is called, into another variable or string. What is
/// compared, or only measured, a builder can answer as well; and what leaves the loop does so once.
fn is_given_away(context: &Context, name: NodeRef) -> bool {
    let Some(parent) = name.parent() else { return false };
    let leaves =
        name.ancestors().find(|around| around.kind().is_statement()).is_some_and(|one| one.kind() == Kind::Return);
    let is_asked = match parent.kind() {
        Kind::Arguments => {
            let callee = parent.parent().and_then(|call| call.child(Role::Callee));
            callee.is_some_and(|callee| context.text(callee) == "len")
        }
        kind => matches!(kind, Kind::Comparison | Kind::Member | Kind::Subscript),
    };
    !is_asked && !leaves
}

/// The body of the innermost loop around a statement, in its own function.
fn body_around(statement: NodeRef<'_>) -> Option<NodeRef<'_>> {
    let mut inner = statement;
    for around in statement.ancestors().take_while(|around| !around.kind().is_function()) {
        if matches!(around.kind(), Kind::For | Kind::While | Kind::DoWhile) && inner.role() == Role::Body {
            return Some(inner);
        }
        inner = around;
    }
    None
}

/// Whether a variable holds a string: it says so, or begins with one.
fn is_string(context: &Context, binding: &Binding, target: NodeRef) -> bool {
    let [only] = binding.declarations.as_slice() else { return false };
    let written = written_type(context.names(), target).map(|written| context.text(written));
    if let Some(written) = written.filter(|written| *written != "var") {
        return matches!(written, "String" | "string");
    }
    let holder = context.file().tree.node(only.node).parent();
    holder
        .and_then(|holder| holder.child(Role::Value))
        .is_some_and(|value| matches!(value.kind(), Kind::String | Kind::FormatString))
}
