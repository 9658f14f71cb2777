use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::style::{SHORTHANDS, declarations};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "shorthand-overrides",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a property that a shorthand behind it in the same block sets again",
    why: "A shorthand sets everything that it stands for, also what it does not mention. The property before it has no effect.",
    silent: "Where the first is important, has a value for newer browsers, or is a custom property.",
    standards: &["CSS Cascading and Inheritance Level 4, section 4"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[
            Wrong { code: ".quay { padding-left: 1em; padding: 0 }\n", at: &["1:9"], fixed: None },
            Wrong {
                code: ".tide {\n  background-color: #fff;\n  background: url(tide.png);\n}\n",
                at: &["2:3"],
                fixed: None,
            },
        ],
        right: &[
            ".quay { padding: 0; padding-left: 1em }\n",
            ".quay { padding-left: 1em !important; padding: 0 }\n",
            ".quay { border-top: 0; margin: 0 }\n",
            "a { padding-left: 1em; &:hover { padding: 0 } }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Block], check),
};

fn check(context: &mut Context, block: NodeRef) {
    let file = context.file();
    let declarations = declarations(file, block);
    for (index, shorthand) in declarations.iter().enumerate() {
        let Some(sets) = SHORTHANDS.get(&shorthand.property) else { continue };
        // What is inherited by a word alone may be meant to be set back.
        for one in &declarations[..index] {
            let is_set = sets.split(' ').any(|property| property == one.property);
            let counts = one.is_important() && !shorthand.is_important();
            let again = declarations[index..].iter().any(|later| later.property == one.property);
            if is_set && !counts && !again {
                context
                    .report(one.name.span(), format!("{} behind it sets {} again", shorthand.property, one.property))
                    .related(shorthand.name.span(), "this sets all that it stands for")
                    .advice("put it behind the shorthand, or remove it");
            }
        }
    }
}
