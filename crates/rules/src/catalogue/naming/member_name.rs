use super::form::check_name;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, NameStyle, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "member-name",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a member of a class whose name is not in the chosen style",
    why: "Where names of one kind have one style, readers see at a glance what a name refers to, and nobody has to remember its spelling.",
    silent: "Where nearly all such names of the code base have another style, and settings say nothing, that one is right. Members of a class with bases may be determined by the bases, and those of a decorated class by the decorator. Object types, whose keys others choose, are left alone.",
    standards: &["PEP 8, Naming Conventions"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "class Boat:\n    maxSeats = 48\n\n    def __init__(self):\n        self.northQuay = 1\n",
                at: &["2:5", "5:14"],
                fixed: None,
            }],
            right: &[
                "class Boat:\n    max_seats = 48\n    LIMIT = 3\n",
                "class Boat(Ship):\n    maxSeats = 48\n",
                "@table\nclass Boat:\n    maxSeats = 48\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "class Boat {\n  max_seats = 48;\n  #north_quay = 1;\n}\n",
                at: &["2:3", "3:3"],
                fixed: None,
            }],
            right: &[
                "class Boat {\n  maxSeats = 48;\n  static LIMIT = 3;\n}\ninterface Row {\n  max_seats: number;\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Field, Kind::Assignment, Kind::AnnotatedAssignment], check),
};

fn check(context: &mut Context, place: NodeRef) {
    let Some((class, name)) = declared_in_class(place).or_else(|| made_with(context, place)) else { return };
    let decorated = class.child(Role::Decorator).is_some() || place.child(Role::Decorator).is_some();
    if decorated || context.file().has_bases(class) || context.file().is_test() {
        return;
    }
    let whole = context.text(name);
    let text = whole.trim_start_matches('#');
    let kind = if whole.starts_with(['_', '#']) { "private-member" } else { "member" };
    // Types may be members too.
    if !NameStyle::UpperCamel.fits(text) {
        check_name(context, kind, "member", text, name.span(), |_, _| None);
    }
}

/// A name that is directly in the body of a class.
fn declared_in_class(place: NodeRef) -> Option<(NodeRef, NodeRef)> {
    let class = place.class_around()?;
    let name = match place.kind() {
        Kind::Field => place.child(Role::Name)?,
        _ => place.child(Role::Target)?,
    };
    matches!(name.kind(), Kind::Name | Kind::PropertyName | Kind::PrivateName).then_some((class, name))
}

/// A member that the method which makes the object gives to it.
fn made_with<'t>(context: &Context, place: NodeRef<'t>) -> Option<(NodeRef<'t>, NodeRef<'t>)> {
    let target = place.child(Role::Target).filter(|target| target.kind() == Kind::Member)?;
    let is_own = target.child(Role::Object).is_some_and(|object| context.text(object) == "self");
    let method = place.ancestors().find(|around| around.kind().is_function()).filter(|_| is_own)?;
    let makes = method.child(Role::Name).is_some_and(|name| context.text(name) == "__init__");
    method.class_around().filter(|_| makes).zip(target.child(Role::Name))
}
