//! Variables of scripts that are read before anything gives them a value, where the shell treats this as an error.

use rustc_hash::FxHashMap;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Context, File};
use crate::shell::{arguments, command_name, stops_at_unset, variable_of};

/// Commands that run code from elsewhere, which may give any variable a value.
const FOREIGN: &[&str] = &["source", ".", "eval"];

/// Looks at the code of a script outside of its functions: what runs there runs in the order of the text.
pub(super) fn check_script(context: &mut Context) {
    let file = context.file();
    if !stops_at_unset(file) {
        return;
    }
    let first_set = first_places(file);
    for node in file.tree.nodes() {
        if node.kind() == Kind::Command && FOREIGN.contains(&command_name(file, node)) {
            return;
        }
        let Some(name) = plain_use(file, node) else { continue };
        let Some(set) = first_set
            .get(name)
            .filter(|set| set.id() > node.id() && !set.parent().is_some_and(|it| it.holds(node.id())))
        else {
            continue;
        };
        let line = context.line(set.span().start);
        context
            .report(node.span(), format!("\"{name}\" is not assigned yet: it is assigned on line {line}"))
            .advice("assign it before this line")
            .related(set.span(), format!("\"{name}\" is assigned here"));
    }
}

/// The name that a node reads without a value in its place, outside of functions and of loops, whose later rounds see what earlier ones
/// set. Names in capitals belong to the environment.
fn plain_use<'f>(file: File<'f>, node: NodeRef) -> Option<&'f str> {
    if node.kind() != Kind::Expansion {
        return None;
    }
    let name = variable_of(file, node);
    let text = file.node_text(node);
    let is_plain = text.len() == name.len() + 1 || text.len() == name.len() + "${}".len();
    let is_own = name.starts_with(|first: char| first.is_ascii_lowercase());
    let repeats = |around: NodeRef| matches!(around.kind(), Kind::Function | Kind::While | Kind::For);
    (is_plain && is_own && !node.ancestors().any(repeats)).then_some(name)
}

/// The first place that gives each variable a value, or may.
fn first_places(file: File<'_>) -> FxHashMap<&str, NodeRef<'_>> {
    let mut places: FxHashMap<&str, NodeRef<'_>> = FxHashMap::default();
    for node in file.tree.nodes() {
        match node.kind() {
            Kind::Assignment | Kind::For => {
                if let Some(target) = node.child(Role::Target) {
                    places.entry(file.node_text(target)).or_insert(target);
                }
            }
            Kind::Command => {
                for argument in arguments(node) {
                    places.entry(file.node_text(argument)).or_insert(argument);
                }
            }
            _ => {}
        }
    }
    places
}
