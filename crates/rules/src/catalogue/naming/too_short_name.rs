use sieve_meaning::names::{Binding, DeclarationKind, ScopeId};
use sieve_syntax::language::Language;

use super::form::chosen_here;

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "too-short-name",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a short name with a wide scope",
    why: "Far from its definition, such a name says nothing.",
    silent: "Only functions, types and module-level names; loops at module level and tests are left alone, and so are imports.",
    standards: &[],
    options: &[
        OptionFacts {
            name: "least",
            default: OptionDefault::Count(2),
            about: "the fewest characters that such a name may have",
        },
        OptionFacts {
            name: "allowed",
            default: OptionDefault::Words(&["_", "$"]),
            about: "short names that are well known",
        },
    ],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def f(tide):\n    return tide\n", at: &["1:5"], fixed: None },
                Wrong { code: "q = load()\n", at: &["1:1"], fixed: None },
            ],
            right: &[
                "def sail(x):\n    y = x\n    return y\n",
                "_ = gettext\nfor i in load():\n    print(i)\nT = TypeVar(\"T\")\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "function f() {}\n", at: &["1:10"], fixed: None }],
            right: &["const sail = (x) => x;\nconst $ = load();\n"],
        },
    ],
    needs_names: true,
    check: Check::Bindings(check),
};

const KINDS: &[DeclarationKind] = &[DeclarationKind::Function, DeclarationKind::Class, DeclarationKind::Assignment];

fn check(context: &mut Context, binding: &Binding) {
    let names = context.names();
    let text = names.text(binding.name);
    let at_top = binding.scope == ScopeId::FILE;
    let least = context.count("least") as usize;
    if !at_top || text.chars().count() >= least {
        return;
    }
    let Some(name) = chosen_here(context, binding, KINDS) else { return };
    let is_free = context.words("allowed").iter().any(|word| word == text) || text.starts_with(char::is_uppercase);
    if !is_free && !context.file().is_test() {
        let span = name.span();
        context
            .report(span, format!("\"{text}\" is too short a name for a module-level definition"))
            .advice("say what it is");
    }
}
