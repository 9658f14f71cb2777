use sieve_meaning::names::{Binding, DeclarationSort};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-import",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a name that is imported twice in the same block",
    why: "The second line does nothing.",
    silent: "Where something else binds the name between them, and in blocks that run one or the other.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "import tides\nimport tides\n", at: &["2:8"], fixed: None },
                Wrong { code: "from quays import north\nfrom quays import north, south\n", at: &["2:19"], fixed: None },
            ],
            right: &[
                "import tides\nimport tides.north\n",
                "try:\n    import tides\nexcept ImportError:\n    import quays as tides\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "import { north } from \"./quays\";\nimport { north } from \"./quays\";\n",
                at: &["2:10"],
                fixed: None,
            }],
            right: &["import { north } from \"./quays\";\nimport { south } from \"./quays\";\n"],
        },
    ],
    needs_names: true,
    check: Check::Bindings(check),
};

fn check(context: &mut Context, binding: &Binding) {
    let [first, rest @ ..] = binding.declarations.as_slice() else { return };
    let all_imports = binding.declarations.iter().all(|one| one.sort == DeclarationSort::Import);
    // Tests import again to see what that does.
    if rest.is_empty() || !all_imports || context.file().is_test() {
        return;
    }
    let tree = context.file().tree;
    let mut seen: Vec<NodeRef> = vec![tree.node(first.node)];
    for item in rest.iter().map(|one| tree.node(one.node)) {
        if let Some(same) = seen.iter().find(|other| are_same(context, **other, item)) {
            let name = context.names().text(binding.name);
            let line = context.line(same.span().start);
            context
                .report(item.span(), format!("line {line} imports \"{name}\" already"))
                .advice("take one of the two out");
        }
        seen.push(item);
    }
}

/// Whether two items of imports stand in the same block and bring the same thing.
fn are_same(context: &Context, one: NodeRef, other: NodeRef) -> bool {
    let file = context.file();
    let module = |item: NodeRef| {
        item.parent().and_then(|import| import.child(Role::Module)).map(|module| file.node_text(module))
    };
    let block = |item: NodeRef| item.parent().and_then(|import| import.parent()).map(|block| block.id());
    one.kind() == other.kind()
        && block(one) == block(other)
        && module(one) == module(other)
        && file.node_text(one) == file.node_text(other)
}
