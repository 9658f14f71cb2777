use rustc_hash::FxHashSet;
use sieve_meaning::names::{Binding, BindingId, Names, Reference, ScopeKind};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "hidden-error",
    concern: Concern::Mistake,
    mesh: Mesh::Fine,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Go],
    fix: None,
    what: "a variable for an error that hides one of the same name, which is read later",
    why: "The inner one gets the new error, and the outer one, which is returned or asked behind the block, still has what it had before.",
    silent: "For variables that a statement such as `if` declares for itself, in functions within functions, and where the outer one gets a value before it is read.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Go,
        wrong: &[Wrong {
            code: "package quays\n\nfunc load(name string, north bool) error {\n\ttext, err := read(name)\n\tif north {\n\t\tmore, err := read(\"north\")\n\t\tshow(more, err)\n\t}\n\tshow(text, nil)\n\treturn err\n}\n",
            at: &["6:9"],
            fixed: None,
        }],
        right: &[
            "package quays\n\nfunc load(name string, north bool) error {\n\ttext, err := read(name)\n\tif err != nil {\n\t\treturn err\n\t}\n\tif north {\n\t\tmore, err := read(\"north\")\n\t\tshow(more, err)\n\t}\n\tif err := check(text); err != nil {\n\t\treturn err\n\t}\n\tif kept, err := keep(text); err == nil {\n\t\tok, err := kept.ok()\n\t\tshow(ok, err)\n\t} else if late(err) {\n\t\treturn nil\n\t}\n\tgo func() {\n\t\tlate, err := read(\"late\")\n\t\tshow(late, err)\n\t}()\n\terr = save(text)\n\treturn err\n}\n",
        ],
    }],
    needs_names: true,
    check: Check::All(&[Kind::ShortDeclaration], check),
};

fn check(context: &mut Context, declarations: &[NodeRef]) {
    let is_error = |target: &NodeRef| context.text(*target) == "err";
    let statements = declarations.iter().filter(|one| one.role() == Role::Statement);
    let inner: FxHashSet<NodeId> =
        statements.flat_map(|one| one.children_in(Role::Target)).filter(is_error).map(|target| target.id()).collect();
    if inner.len() < 2 || context.file().is_test() {
        return;
    }
    let names = context.names();
    let hiding: Vec<(&Binding, BindingId)> = names
        .bindings()
        .filter(|binding| binding.declarations.first().is_some_and(|first| inner.contains(&first.node)))
        .filter_map(|binding| Some((binding, hidden_by(names, binding)?)))
        .collect();
    let uses = names.uses_of(&hiding.iter().map(|(_, hidden)| *hidden).collect());
    for (binding, hidden) in hiding {
        if let Some(read) = uses.get(&hidden).and_then(|uses| read_behind(context, binding, hidden, uses)) {
            report(context, binding, hidden, read);
        }
    }
}

fn report(context: &mut Context, binding: &Binding, hidden: BindingId, read: NodeId) {
    let tree = context.file().tree;
    let place = tree.node(binding.declarations[0].node).span();
    let outer = tree.node(context.names().binding(hidden).declarations[0].node).span();
    let (outer_line, read) = (context.line(outer.start), tree.node(read).span());
    context
        .report(place, format!("this \"err\" hides the one of line {outer_line}, which is read behind this block"))
        .advice("assign to the outer one with =, or give this one a name of its own")
        .related(outer, "this is hidden")
        .related(read, "this reads the outer one");
}

/// The variable of that name around, in the same function.
fn hidden_by(names: &Names, binding: &Binding) -> Option<BindingId> {
    let name = names.text(binding.name);
    let mut scope = names.scope(binding.scope);
    while scope.kind == ScopeKind::Block {
        let around = scope.parent?;
        scope = names.scope(around);
        let found = names.lookup(around, name).filter(|_| matches!(scope.kind, ScopeKind::Block | ScopeKind::Function));
        if let Some(found) = found.filter(|found| is_before(names.binding(*found), binding)) {
            return Some(found);
        }
    }
    None
}

fn is_before(outer: &Binding, inner: &Binding) -> bool {
    outer.declarations[0].node < inner.declarations[0].node
}

/// Where the outer variable is read behind the block of the inner one, before it gets another value.
fn read_behind(context: &Context, inner: &Binding, outer: BindingId, uses: &[&Reference]) -> Option<NodeId> {
    let names = context.names();
    let tree = context.file().tree;
    let block = tree.node(names.scope(inner.scope).node);
    let end = block.end();
    let behind = &uses[uses.partition_point(|reference| reference.node < end)..];
    let next = behind.iter().find(|reference| !are_branches(block, tree.node(reference.node)))?;
    let declared = &names.binding(outer).declarations;
    let is_declared_again = declared.iter().any(|one| (end..next.node).contains(&one.node));
    (!next.writes && !is_declared_again).then_some(next.node)
}

/// Whether two places are in branches of one choice, of which only one runs.
fn are_branches(block: NodeRef, place: NodeRef) -> bool {
    let around = block.ancestors().find(|around| around.holds(place.id()));
    around.is_some_and(|around| matches!(around.kind(), Kind::If | Kind::Match | Kind::Select))
}
