use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::habit::chosen;

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "arrow-parentheses",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::OF_JAVASCRIPT,
    fix: Some(FixKind::Exact),
    what: "the only parameter of an arrow function with parentheses, or without, where the rest of the file does the opposite",
    why: "Readers need not ask whether the difference means something, and reviews show no changes without meaning.",
    silent: "A parameter with a type, a default or a pattern needs its parentheses.",
    standards: &[],
    options: &[OptionFacts {
        name: "around",
        default: OptionDefault::Choice("as-is", &["as-is", "always", "never"]),
        about: "whether there are parentheses around a single parameter: as-is is what the file mostly has",
    }],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[
            Wrong {
                code: "a(x => x);\na(y => y);\na((z) => z);\n",
                at: &["3:3"],
                fixed: Some("a(x => x);\na(y => y);\na(z => z);\n"),
            },
            Wrong {
                code: "a((x) => x);\na((y) => y);\na(async z => z);\n",
                at: &["3:9"],
                fixed: Some("a((x) => x);\na((y) => y);\na(async (z) => z);\n"),
            },
        ],
        right: &[
            "a(x => x);\na(y => y);\na((z, w) => z);\na(({ b }) => b);\na((c = 1) => c);\n",
            "a(x => x);\na((y) => y);\n",
        ],
    }],
    needs_names: false,
    check: Check::All(&[Kind::Lambda], check),
};

fn check(context: &mut Context, functions: &[NodeRef]) {
    let arrows: Vec<NodeRef> = functions.iter().filter_map(|function| only_parameter(*function)).collect();
    let has = |parameters: NodeRef| parameters.first_token_kind() == TokenKind::ParenOpen;
    let all: Vec<bool> = arrows.iter().map(|parameters| has(*parameters)).collect();
    let Some(wanted) = chosen(context, "around", "always", &all) else { return };
    for parameters in arrows {
        let span = parameters.span();
        let name = parameters.child(Role::Parameter).map_or(span, |parameter| parameter.span());
        let text = context.file().text.slice(name);
        if wanted && !has(parameters) {
            let edits = vec![Edit::insert(span.start, "("), Edit::insert(span.end, ")")];
            context.report(span, format!("\"{text}\" has no parentheses")).advice("put it in parentheses").fix(edits);
        } else if !wanted && has(parameters) {
            // A comment or a type that follows would be lost or change its place.
            let inner = context.file().text.slice(span).trim_start_matches('(').trim_end_matches(')').trim();
            let glued =
                span.start > 0 && context.file().text.source()[..span.start as usize].ends_with(char::is_alphanumeric);
            if inner == text {
                let edits = vec![Edit::replace(span, if glued { format!(" {text}") } else { text.to_string() })];
                context
                    .report(span, format!("\"{text}\" is in parentheses"))
                    .advice("remove the parentheses")
                    .fix(edits);
            }
        }
    }
}

/// The parameters of an arrow function that are one name, with nothing said of its type or what it gives.
fn only_parameter(function: NodeRef) -> Option<NodeRef> {
    let parameters = function.child(Role::Parameters)?;
    let mut all = parameters.children();
    let (one, more) = (all.next()?, all.next());
    let is_name = one.token_range().len() == 1 && one.first_token_kind() == TokenKind::Name;
    let is_arrow = (parameters.token_range().end..function.token_range().end)
        .map(|token| function.tree().token_kind(token))
        .find(|kind| !kind.is_trivia())
        .is_some_and(|kind| kind == TokenKind::FatArrow);
    let typed = function.child(Role::TypeParameters).or(function.child(Role::Returns)).is_some();
    (more.is_none() && is_name && is_arrow && !typed).then_some(parameters)
}
