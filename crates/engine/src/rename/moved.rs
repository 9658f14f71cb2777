//! The imports of a file that gets another name.

use std::path::Path;

use sieve_rules::{Edit, traits_of};
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::import::module_named;
use super::source::{Sources, View};
use super::{CannotRename, Edits, Renamed};

/// Lets every import of a file name it as it will be called.
pub(super) fn imports(sources: &Sources, views: &[View<'_>], home: usize, to: &Path, edits: &mut Edits) -> Renamed<()> {
    let stem = |path: &Path| {
        path.file_name().and_then(|name| name.to_str()).map(|name| name.split('.').next().unwrap_or(name).to_string())
    };
    let (Some(old), Some(new)) = (stem(&views[home].file.path), stem(to)) else { return Ok(()) };
    for (file, view) in views.iter().enumerate() {
        for statement in view.file.tree.nodes().filter(|node| matches!(node.kind(), Kind::Import | Kind::Export)) {
            let module = statement.child(Role::Module);
            let is_home = |name: &str| sources.module(file, name) == Some(home);
            if let Some(module) = module.filter(|_| module_named(view, statement).is_some_and(|name| is_home(&name))) {
                edits[file].extend(last_part(view, module, &old, &new));
                continue;
            }
            if traits_of(view.file.language).dotted_modules {
                on_items(view, statement, (&old, &new), &is_home, &mut edits[file])?;
            }
        }
    }
    Ok(())
}

/// `import tides.north` and `from tides import north`, where `north` is the file.
fn on_items(
    view: &View<'_>,
    statement: NodeRef<'_>,
    (old, new): (&str, &str),
    is_home: &dyn Fn(&str) -> bool,
    edits: &mut Vec<Edit>,
) -> Renamed<()> {
    for item in statement.children_in(Role::Item) {
        if let Some(module) = item.child(Role::Module) {
            if !is_home(view.file.slice(module)) {
                continue;
            }
            if item.child(Role::Alias).is_none() {
                let message = format!(
                    "\"{}\" is used by its whole name; give it another one with \"as\" first",
                    view.file.slice(module)
                );
                return Err(CannotRename::Refused(message, vec![view.file.place(statement.span())]));
            }
            edits.extend(last_part(view, module, old, new));
        } else if let Some((package, name)) = module_named(view, statement).zip(item.child(Role::Name)) {
            let dot = if package.ends_with('.') { "" } else { "." };
            if view.file.slice(name) == old && is_home(&format!("{package}{dot}{old}")) {
                // What the file is called here stays.
                let text = if item.child(Role::Alias).is_some() { new.to_string() } else { format!("{new} as {old}") };
                edits.push(Edit::replace(name.span(), text));
            }
        }
    }
    Ok(())
}

/// The last part of a module's name, or of the path in quotes.
fn last_part(view: &View<'_>, module: NodeRef<'_>, old: &str, new: &str) -> Option<Edit> {
    let text = view.file.slice(module);
    let at = text.rfind(old)? as u32 + module.span().start;
    Some(Edit::replace(Span::new(at, at + old.len() as u32), new))
}
