use std::sync::LazyLock;

use rustc_hash::FxHashSet;
use sieve_meaning::folder_module::ModuleQuestion;
use sieve_meaning::names::{Resolution, ScopeId};
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::{is_short, line_above};
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "dropped-error",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Go],
    fix: None,
    what: "a call of a function that may return an error, of which nothing is asked",
    why: "What went wrong is never heard of, and the program goes on as if it had worked.",
    silent: "In tests, for deferred calls and those that run beside the rest, for methods, and for functions whose errors are left out by custom: those that print, copy or clean up. For functions of other packages than the library's. Where a comment above or behind the call mentions the error. Where the result is given to _, that says that it does not matter.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Go,
        wrong: &[
            Wrong {
                code: "// main.go\npackage main\n\nimport \"os\"\n\nfunc main() {\n\tos.Chdir(\"quays\")\n\tload(\"north\")\n}\n// load.go\npackage main\n\nfunc load(quay string) (int, error) {\n\treturn 3, nil\n}\n",
                at: &["7:2", "8:2"],
                fixed: None,
            },
            Wrong {
                code: "// main.go\npackage main\n\nimport js \"encoding/json\"\n\nfunc read(text []byte, quay *Quay) {\n\tjs.Unmarshal(text, quay)\n}\n\ntype Quay struct{}\n\nvar _ = read\n",
                at: &["7:2"],
                fixed: None,
            },
        ],
        right: &[
            "// main.go\npackage main\n\nimport (\n\t\"fmt\"\n\t\"os\"\n)\n\nfunc main() {\n\tif err := os.Chdir(\"quays\"); err != nil {\n\t\tfmt.Println(err)\n\t}\n\t_, _ = load(\"north\")\n\tdefer save()\n\tfold(3)\n\tload := func(quay string) {}\n\tload(\"south\")\n}\n// load.go\npackage main\n\nfunc load(quay string) (int, error) {\n\treturn 3, nil\n}\n\nfunc save() error {\n\treturn nil\n}\n\nfunc fold(days int) int {\n\treturn days\n}\n",
            "// main.go\npackage main\n\nimport \"os\"\n\nfunc main() {\n\tos.Setenv(\"QUAY\", \"north\")\n\t// There may be no such folder: the error says no more.\n\tos.Chdir(\"quays\")\n}\n",
        ],
    }],
    needs_names: true,
    check: Check::Joined(&[Kind::ExpressionStatement], check),
};

/// Functions of the library, each with the path of its package and a dot before it.
static OF_LIBRARY: LazyLock<FxHashSet<&'static str>> =
    LazyLock::new(|| include_str!("../../../data/fallible.txt").lines().skip(1).collect());

fn check(context: &mut Context, statement: NodeRef) {
    let call = statement.child(Role::Value).filter(|value| value.kind() == Kind::Call);
    let Some(callee) = call.and_then(|call| call.child(Role::Callee)).filter(|_| !context.file().is_test()) else {
        return;
    };
    let may_fail = match callee.kind() {
        Kind::Name => fails_in_package(context, callee),
        Kind::Member => fails_in_library(context, callee),
        _ => false,
    };
    if may_fail && !is_explained(context.file(), statement) {
        let name = context.text(callee);
        context
            .report(callee.span(), format!("the error that {name} may return is dropped"))
            .advice("handle it, or give it to _ where it does not matter");
    }
}

/// Whether a comment above the call or behind it mentions the error.
fn is_explained(file: File<'_>, statement: NodeRef) -> bool {
    let lines = file.text.lines();
    let end = lines.full_line(lines.line_of(statement.span().end)).end;
    let behind = file.text.slice(Span::new(statement.span().end, end.max(statement.span().end)));
    let mentions = |comment: &str| {
        let says = |word: &&str| comment.contains(*word);
        is_short(comment)
            && comment.trim_start().starts_with("//")
            && ["err", "fail", "ignor", "best effort"].iter().any(says)
    };
    line_above(file, statement.span().start).is_some_and(mentions) || mentions(behind)
}

/// Whether a name is that of a function of the package that may return an error.
fn fails_in_package(context: &Context, name: NodeRef) -> bool {
    let names = context.names();
    let is_of_package = match names.resolution_at(name.id()) {
        Some(Resolution::Binding(id)) => names.binding(id).scope == ScopeId::FILE,
        Some(_) => true,
        None => false,
    };
    let question = ModuleQuestion::MayFail(context.text(name).to_string());
    is_of_package && context.file().others.complaint(&question).is_some()
}

/// Whether a member is a function of the library that may return an error.
fn fails_in_library(context: &Context, member: NodeRef) -> bool {
    let written = |position: usize| {
        let arguments = member.parent().and_then(|call| call.child(Role::Arguments));
        arguments.and_then(|all| all.children().nth(position)).is_some_and(|value| value.kind() == Kind::String)
    };
    context.file().refers(member).is_some_and(|called| {
        // These fail where the name is none.
        let takes_name = matches!(&*called, "os.Setenv" | "os.Unsetenv");
        OF_LIBRARY.contains(&*called) && !(takes_name && written(0))
    })
}
