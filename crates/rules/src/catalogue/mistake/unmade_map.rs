use sieve_meaning::declared::declared_once;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unmade-map",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Go],
    fix: None,
    what: "an element put into a map that was declared and never made",
    why: "Such a map is nil: it can be read, but the first element that is put into it ends the program.",
    silent: "Where the variable is given a value anywhere, where its address is taken, and for maps that are members or belong to the package.",
    standards: &["The Go Programming Language Specification: Map types"],
    options: &[],
    examples: &[Examples {
        language: Language::Go,
        wrong: &[Wrong {
            code: "package fares\n\nfunc all(days []int) map[int]int {\n\tvar fares map[int]int\n\tfor _, day := range days {\n\t\tfares[day] = 4\n\t\tfares[day]++\n\t}\n\treturn fares\n}\n",
            at: &["6:3", "7:3"],
            fixed: None,
        }],
        right: &[
            "package fares\n\nfunc all(days []int, text []byte) map[int]int {\n\tvar fares, kept map[int]int\n\tfares = map[int]int{}\n\tfares[3] = 4\n\tjson.Unmarshal(text, &kept)\n\tkept[2] = 4\n\tvar none map[int]int\n\tfares[2] = none[3]\n\tvar lines []int\n\tlines[0] = 2\n\treturn fares\n}\n",
        ],
    }],
    needs_names: true,
    check: Check::All(&[Kind::AnnotatedAssignment], check),
};

fn check(context: &mut Context, declared: &[NodeRef]) {
    let is_unmade = |item: &&NodeRef| {
        item.child(Role::Value).is_none()
            && item.child(Role::Type).is_some_and(|written| written.kind() == Kind::MapType)
            && item.ancestors().any(|around| around.kind().is_function())
    };
    let names: Vec<NodeRef> =
        declared.iter().filter(is_unmade).flat_map(|item| item.children_in(Role::Target)).collect();
    for variable in declared_once(context.names(), &names) {
        if variable.binding.writes > 0 || variable.uses.iter().any(|place| is_lent(*place)) {
            continue;
        }
        let written = written(context, variable.name);
        for place in variable.uses.iter().filter(|place| puts(**place)) {
            let name = context.text(variable.name);
            context
                .report(place.span(), format!("the map \"{name}\" is nil here: putting an element into it panics"))
                .advice(format!("make it: {name} := {written}{{}}"))
                .related(variable.name.span(), "this declares it and makes none");
        }
    }
}

/// The type that the declaration of a name gives it.
fn written<'c>(context: &Context<'c>, name: NodeRef) -> &'c str {
    let of_item = name.parent().and_then(|item| item.child_at_end(Role::Type));
    of_item.map_or("", |written| context.text(written))
}

/// Whether the address of a variable is taken: others can give it a map then.
fn is_lent(place: NodeRef) -> bool {
    let around = place.ancestors().take_while(|around| matches!(around.kind(), Kind::Group | Kind::Unary));
    around.into_iter().any(|around| around.kind() == Kind::Unary && around.first_token_kind() == TokenKind::Ampersand)
}

/// Whether a use puts an element into the map.
fn puts(place: NodeRef) -> bool {
    let Some(element) = place.parent().filter(|_| place.role() == Role::Object) else { return false };
    let is_target =
        element.role() == Role::Target || element.parent().is_some_and(|around| around.kind() == Kind::Update);
    element.kind() == Kind::Subscript && is_target
}
