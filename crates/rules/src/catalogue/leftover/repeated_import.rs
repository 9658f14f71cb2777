use rustc_hash::FxHashMap;
use sieve_meaning::names::{Binding, DeclarationKind};
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{NodeId, NodeRef, Role};

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
    why: "The second import does nothing.",
    silent: "Where the name is bound to something else in between, and in alternative branches.",
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
    let all_imports = binding.declarations.iter().all(|one| one.kind == DeclarationKind::Import);
    // Tests import again to see what that does.
    if binding.declarations.len() < 2 || !all_imports || context.file().is_test() {
        return;
    }
    let tree = context.file().tree;
    let mut seen: FxHashMap<Key, Span> = FxHashMap::default();
    for item in binding.declarations.iter().map(|one| tree.node(one.node)) {
        let Some(key) = key_of(context, item) else { continue };
        match seen.get(&key) {
            None => {
                seen.insert(key, item.span());
            }
            Some(known) => {
                let known = *known;
                let line = context.line(known.start);
                let name = context.names().text(binding.name);
                context
                    .report(item.span(), format!("line {line} imports \"{name}\" already"))
                    .advice("remove one of the two")
                    .related(known, "the first import of it");
            }
        }
    }
}

/// The block that an import is in, its module, and what it brings of that.
type Key<'f> = (NodeId, Option<&'f str>, &'f str);

fn key_of<'f>(context: &Context<'f>, item: NodeRef) -> Option<Key<'f>> {
    let file = context.file();
    let import = item.parent()?;
    let module = import.child_at_end(Role::Module).map(|module| file.node_text(module));
    Some((import.parent()?.id(), module, file.node_text(item)))
}
