use sieve_meaning::project::Callee;
use sieve_meaning::signature::{Given, Misfit, Passing};
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::expects_error;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Related, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unknown-keyword",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a keyword argument that the function does not have, or that is given twice",
    why: "The call raises an error when it runs.",
    silent: "Where the callee is unknown, as with argument-count.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "def fare(child, day=1):\n    pass\nfare(True, dya=2)\n", at: &["3:12"], fixed: None },
            Wrong { code: "def fare(child, day=1):\n    pass\nfare(True, 2, day=2)\n", at: &["3:15"], fixed: None },
            Wrong { code: "def fare(child, /):\n    pass\nfare(child=True)\n", at: &["3:6"], fixed: None },
        ],
        right: &[
            "def fare(child, **more):\n    pass\nfare(True, dya=2)\n",
            "def fare(child, day=1):\n    pass\nfare(day=2, child=True)\n",
        ],
    }],
    needs_names: true,
    check: Check::Calls(check),
};

fn check(context: &mut Context, call: NodeRef, callee: &Callee) {
    let Some(signature) = &callee.signature else { return };
    let given = Given::by(context.file().text, call);
    let Some(function) = call.child(Role::Callee).map(|callee| context.text(callee)) else { return };
    let keyword = |name: &str| {
        let mut keywords = call.child(Role::Arguments)?.children().filter(|one| one.kind() == Kind::KeywordArgument);
        keywords.find(|one| one.child(Role::Name).is_some_and(|node| context.text(node) == name))
    };
    let (place, message, nearest) = match signature.check(&given) {
        Err(Misfit::UnknownName(index)) => {
            let name = given.names[index];
            let known =
                signature.parameters.iter().filter(|one| matches!(one.passing, Passing::Either | Passing::Name));
            let near = known
                .map(|one| (strsim::damerau_levenshtein(&one.name, name), one.name.as_str()))
                .filter(|(distance, _)| *distance <= name.len().div_ceil(3))
                .min();
            (keyword(name), format!("{function} has no parameter \"{name}\""), near.map(|(_, name)| name))
        }
        Err(Misfit::Twice(name)) => {
            (keyword(name), format!("\"{name}\" of {function} has its value by position already"), None)
        }
        _ => return,
    };
    let Some(place) = place.filter(|_| !expects_error(context.file(), call)) else { return };
    let span = place.span();
    let place = declared_at(context, callee);
    let member = member_of_module(context, call, callee);
    let reported = context.report(span, message).related_line(place).unless_given(member);
    if let Some(name) = nearest {
        reported.advice(format!("did you mean \"{name}\"?"));
    }
}

/// Where what is called is defined.
pub(super) fn declared_at(context: &Context, callee: &Callee) -> Related {
    let label = "it is defined here".to_string();
    match &callee.file {
        Some(file) => Related::Elsewhere { path: file.to_string(), line: callee.line, label },
        None => {
            let text = context.file().text;
            let line = text.lines().line(text.source(), callee.line);
            let start = line.start + (text.slice(line).len() - text.slice(line).trim_start().len()) as u32;
            Related::Here { span: Span::new(start, line.end), label }
        }
    }
}

/// The member that is called of what may be a module: another file may put something else in its place.
pub(super) fn member_of_module<'f>(context: &Context<'f>, call: NodeRef, callee: &Callee) -> Option<&'f str> {
    let member = call.child(Role::Callee).filter(|_| callee.file.is_some())?;
    member.child_of(Kind::Member, Role::Name).map(|name| context.text(name))
}
