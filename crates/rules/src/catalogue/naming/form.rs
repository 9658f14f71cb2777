//! What all rules of names share: the form that is wanted, the finding, and the fix where every use is seen.

use sieve_meaning::names::{Binding, BindingId, Declaration, DeclarationKind, Names, ScopeId, ScopeKind};
use sieve_meaning::renaming::{Form, may_become, places};
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Context, Edit, NameStyle};
use crate::modifier::{has_word_before, kinds_before};

/// Reports a name that does not have the form of its sort. `edits` writes it otherwise, where that is known.
pub(super) fn check_name(
    context: &mut Context,
    kind: &str,
    noun: &str,
    name: &str,
    span: Span,
    edits: impl FnOnce(&Context, &str) -> Option<Vec<Edit>>,
) {
    let form = context.name_form(kind);
    if form.allows(name) || is_free(context, name) || context.file().only_describes() || says_other_forms(context) {
        return;
    }
    let Some(complaint) = form.complaint(name) else { return };
    let proposal = form.proposal(name);
    let fix = proposal.as_deref().and_then(|new| edits(context, new));
    let advice = match (&proposal, fix.is_some()) {
        (Some(new), true) => format!("call it \"{new}\""),
        (Some(new), false) if !is_followed(context, kind) => format!("call it \"{new}\", and so wherever it is used"),
        (Some(new), false) => {
            let place = context.file().text.place(span.start);
            format!("call it \"{new}\": hsieve rename {}:{}:{} {new}", context.file().path, place.line, place.column)
        }
        (None, _) => "give it another name".to_string(),
    };
    let usual = context.usual_style(kind, name);
    context
        .report(span, format!("the {noun} \"{name}\" {complaint}"))
        .advice(advice)
        .fix_to_review(fix)
        .unless_usual(usual);
}

/// Whether a file tells the compiler that its names have other forms: `#![allow(non_snake_case)]`.
fn says_other_forms(context: &Context) -> bool {
    let file = context.file();
    let says = || SaysOtherForms(memchr::memmem::find(file.text.source().as_bytes(), b"allow(non_").is_some());
    file.traits.says_visibility && file.once(says).0
}

/// Whether the file tells the compiler that its names have other forms.
struct SaysOtherForms(bool);

/// Whether renaming follows names of a kind.
fn is_followed(context: &Context, kind: &str) -> bool {
    let file = context.file();
    (kind != "method" || file.traits.follows_members) && file.configuration().is_none()
}

/// Names of one character, and those that the language itself has a meaning for.
fn is_free(context: &Context, name: &str) -> bool {
    let inner = name.trim_matches(['_', '$']);
    let says_case = context.file().traits.capitals_are_public && is_of_others(name);
    inner.chars().count() < 2 || (name.starts_with("__") && name.ends_with("__")) || says_case
}

/// Names that are written so elsewhere: initials, such as `HTTP`, and those of another system with something before them, such as
/// `sysAF_INET`.
fn is_of_others(name: &str) -> bool {
    let is_capital = |letter: char| letter.is_uppercase() || letter.is_ascii_digit();
    let parts = || name.split('_');
    let joins_capitals = || {
        parts()
            .zip(parts().skip(1))
            .any(|(before, behind)| before.ends_with(is_capital) && behind.starts_with(is_capital))
    };
    if name.chars().any(char::is_lowercase) { joins_capitals() } else { !name.contains('_') }
}

/// The edits that rename a binding which no other file and no caller sees.
pub(super) fn rename_inside(context: &Context, id: BindingId, new: &str) -> Option<Vec<Edit>> {
    let names = context.names();
    let binding = names.binding(id);
    let scope = names.scope(binding.scope);
    let is_inner = matches!(scope.kind, ScopeKind::Function | ScopeKind::Block | ScopeKind::Comprehension);
    let is_parameter = binding.declarations.iter().any(|declaration| declaration.kind == DeclarationKind::Parameter);
    // Callers may give a parameter by its name, but for one of a function without a name.
    let is_of_lambda = |declaration: &Declaration| {
        let name = context.file().tree.node(declaration.node);
        name.ancestors().find(|around| around.kind().is_function()).is_some_and(|one| one.kind() == Kind::Lambda)
    };
    let is_named_by_type = context.file().traits.lambdas_by_place && binding.declarations.iter().all(is_of_lambda);
    let seen_outside = is_parameter && context.file().traits.arguments_by_name && !is_named_by_type;
    if !is_inner || seen_outside || scope.may_use.is_some() || may_become(names, id, new).is_err() {
        return None;
    }
    let old = names.text(binding.name);
    let edits = places(context.file().tree, names, id).into_iter().map(|place| {
        let text = match place.form {
            Form::Plain => new.to_string(),
            Form::Key => format!("{old}: {new}"),
            Form::KeyBefore => format!("{old}: "),
            Form::Imported => format!("{old} as {new}"),
            Form::Brought | Form::Exported => format!("{new} as {old}"),
        };
        Edit::replace(place.span, text)
    });
    Some(edits.collect())
}

/// Whether a field is one of its type, cannot change, and has a number or a text.
fn is_constant_field(context: &Context, name: NodeRef) -> bool {
    let Some(item) = name.parent().filter(|item| item.kind() == Kind::Assignment) else { return false };
    let is_literal = item.child(Role::Value).is_some_and(|value| matches!(value.kind(), Kind::Number | Kind::String));
    is_literal && item.parent().is_some_and(|field| is_fixed(context, field))
}

/// Whether a field says that it belongs to its type and cannot change.
fn is_fixed(context: &Context, field: NodeRef) -> bool {
    let says = |word: &str| has_word_before(context.file(), field, word);
    says("const") || says("static") && (says("final") || says("readonly"))
}

/// Whether a function is written in another language, or called from one, which its name and an attribute or a word tell.
pub(super) fn is_of_another_language(context: &Context, function: NodeRef) -> bool {
    let holder = function.parent().and_then(|block| block.parent());
    let is_declared = holder.is_some_and(|holder| holder.kind() == Kind::ExternBlock);
    let says_how = function.children().any(|part| part.kind() == Kind::String && part.role() != Role::Body);
    let is_exported = |decorator: NodeRef| context.text(decorator).contains("no_mangle");
    // Its body is elsewhere.
    let mut before = function.tokens_before(function.child(Role::Name));
    let is_elsewhere = function.child(Role::Body).is_none() && before.any(|(_, kind)| kind == TokenKind::Extern);
    is_declared || says_how || is_elsewhere || function.children_in(Role::Decorator).any(is_exported)
}

/// The id of a binding.
pub(super) fn id_of(names: &Names<'_>, binding: &Binding) -> Option<BindingId> {
    names.lookup_in(names.namespace(binding.name), binding.scope, names.text(binding.name))
}

/// Why nothing is said of a name that another contract may have chosen.
pub(super) const FOREIGN: &str = "a base class may have chosen this name";

/// Whether a name would be reported.
pub(super) fn is_off(context: &Context, kind: &str, name: &str) -> bool {
    !context.name_form(kind).allows(name) && !is_free(context, name)
}

/// How a name came to be, if it was chosen here: by a declaration that others do not prescribe.
pub(super) fn chosen_here<'t>(
    context: &Context<'t>,
    binding: &Binding,
    kinds: &[DeclarationKind],
) -> Option<NodeRef<'t>> {
    let first = binding.declarations.first()?;
    let name = context.file().tree.node(first.node);
    // The key of an entry is chosen by whoever made the entry.
    let is_key = name.parent().is_some_and(|holder| match holder.kind() {
        Kind::ShorthandPair | Kind::ImportItem | Kind::KeywordPattern => true,
        Kind::CapturePattern => !is_whole_target(holder),
        _ => false,
    });
    let all = binding.declarations.iter().all(|declaration| kinds.contains(&declaration.kind));
    (all && !is_key && !context.file().only_describes()).then_some(name)
}

/// Whether a pattern is all that gets a value: in `let mut tide = 3`.
fn is_whole_target(pattern: NodeRef) -> bool {
    pattern.parent().is_some_and(|holder| {
        matches!(holder.kind(), Kind::Assignment | Kind::AnnotatedAssignment | Kind::Declaration | Kind::Parameter)
    })
}

/// Whether a name is that of a type with what says how it varies behind it: `Boat_co` (PEP 8, "Type Variable Names").
pub(super) fn says_variance(name: &str) -> bool {
    ["_co", "_contra"].iter().any(|end| name.strip_suffix(end).is_some_and(|stem| NameStyle::UpperCamel.fits(stem)))
}

/// The name of a constant: one of the whole file, or of a type, that is bound once, to a number or a text.
pub(super) fn constant<'t>(context: &Context<'t>, binding: &Binding) -> Option<NodeRef<'t>> {
    let [only] = binding.declarations.as_slice() else { return None };
    if only.kind == DeclarationKind::Field {
        return Some(context.file().tree.node(only.node)).filter(|name| is_constant_field(context, *name));
    }
    let bound_once = only.kind == DeclarationKind::Assignment && binding.writes == 0;
    let name = context.file().tree.node(only.node);
    let holder = name.parent().filter(|_| bound_once && binding.scope == ScopeId::FILE)?;
    // `Path: TypeAlias = "str | bytes"` names a type.
    if context.file().traits.indents_blocks
        && holder.kind() == Kind::AnnotatedAssignment
        && let Some(written) = holder.child(Role::Type)
        && context.text(written).rsplit('.').next() == Some("TypeAlias")
    {
        return None;
    }
    // The value is last, behind however many names.
    let value = holder.child_at_end(Role::Value);
    let is_literal = value.is_some_and(|value| matches!(value.kind(), Kind::Number | Kind::String));
    let declared = holder.parent().filter(|outer| outer.kind() == Kind::Declaration);
    // Elsewhere than in Python a word says whether it is one.
    let is_const =
        declared.is_none_or(|declaration| kinds_before(declaration).any(|(_, kind)| kind == TokenKind::Const));
    (is_literal && is_const && name.role() == Role::Target).then_some(name)
}
