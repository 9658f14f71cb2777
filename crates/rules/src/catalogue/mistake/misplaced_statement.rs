use sieve_meaning::project::words_before;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "misplaced-statement",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a statement where the language does not allow it",
    why: "The file cannot be compiled, although each of its lines can be read.",
    silent: "In notebooks and in code that is given to a host, which allow more.",
    standards: &["The Python Language Reference 3.14, chapter 7"],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "class Boat:\n    return 3\n", at: &["2:5"], fixed: None },
            Wrong { code: "def sail():\n    break\n", at: &["2:5"], fixed: None },
            Wrong { code: "def sail():\n    await moor()\n", at: &["2:5"], fixed: None },
            Wrong { code: "if tide:\n    continue\n", at: &["2:5"], fixed: None },
            Wrong { code: "class Boat:\n    yield 3\n", at: &["2:5"], fixed: None },
        ],
        right: &[
            "def sail():\n    for day in days:\n        break\n",
            "async def sail():\n    await moor()\n    return [await one() for one in all]\n",
            "sail = lambda: (yield)\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Return, Kind::Break, Kind::Continue, Kind::Await, Kind::Yield, Kind::YieldFrom], check),
};

fn check(context: &mut Context, node: NodeRef) {
    // What could not be read may have been what is around it.
    if !context.file().tree.faults().is_empty() {
        return;
    }
    let home = node.ancestors().find(|around| around.kind().is_function() || around.kind() == Kind::Class);
    let function = home.filter(|home| home.kind().is_function());
    let message = match node.kind() {
        Kind::Break | Kind::Continue => {
            let inside = node.ancestors().take_while(|around| Some(*around) != home);
            let mut inner = node;
            let in_loop = inside.into_iter().any(|around| {
                let loops = matches!(around.kind(), Kind::For | Kind::While) && inner.role() == Role::Body;
                inner = around;
                loops
            });
            let word = context.text(node);
            (!in_loop).then(|| format!("`{word}` is outside of a loop"))
        }
        // Consoles and notebooks wait outside of functions.
        Kind::Await => function
            .filter(|function| {
                function.kind() == Kind::Function && !words_before(context.file().text, *function).contains(&"async")
            })
            .map(|_| "`await` is in a function that is not async".to_string()),
        // What is at the top of a file may be run by a host.
        Kind::Return => (function.is_none() && (home.is_some() || is_by_itself(context)))
            .then(|| "`return` is outside of a function".to_string()),
        _ => (function.is_none() && home.is_some()).then(|| "`yield` is outside of a function".to_string()),
    };
    if let Some(message) = message {
        context.report(node.span(), message).advice("move it, or the code around it");
    }
}

/// Whether nothing says that another program runs the file: it has the ending of a module.
fn is_by_itself(context: &Context) -> bool {
    context.file().name().ends_with(".py") && !context.file().text.source().starts_with("#!")
}
