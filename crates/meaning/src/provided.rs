//! Names that a file gives to all files: those set on the object that holds what every file sees, and members that it gives to modules.

use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use crate::table::meaning_of;

/// The names that a file sets for all files, each as often as it does; those of members of modules with the dot before them.
pub fn provided<'t>(language: Language, text: &'t Text, tree: &'t Tree) -> Vec<&'t str> {
    let holders = meaning_of(language).holders;
    if holders.is_empty() {
        return Vec::new();
    }
    let name_of = |target: NodeRef<'t>| {
        let object = target.child(Role::Object)?;
        let name = target.child(Role::Name).or_else(|| target.child(Role::Index))?;
        let written = text.slice(name.span()).trim_matches(['"', '\'']);
        let object = text.slice(object.span());
        // `(__builtins__ if isinstance(__builtins__, dict) else __builtins__.__dict__)["low"]`
        let is_holder = |holder: &&str| *holder == object || object.starts_with('(') && object.contains(holder);
        holders.iter().any(|holder| is_holder(&holder)).then_some(written)
    };
    let mut targets = tree.nodes_of_any(&[Kind::Member, Kind::Subscript]);
    targets.retain(|node| node.role() == Role::Target);
    let mut names: Vec<&str> = targets.iter().filter_map(|target| name_of(*target)).collect();
    if meaning_of(language).opens_modules {
        names.extend(targets.into_iter().filter_map(|target| given_to_module(text, target)));
    }
    if let Some((library, method, given)) = meaning_of(language).installer
        && text.source().contains(library)
        && tree.nodes_of(Kind::Member).any(|member| member.role() == Role::Callee && is_named(text, member, method))
    {
        names.extend(given);
    }
    names
}

/// The member, with the dot before it, that a statement of the whole file gives to what may be a module.
fn given_to_module<'t>(text: &'t Text, target: NodeRef<'t>) -> Option<&'t str> {
    let (object, name) = (target.child(Role::Object)?, target.child(Role::Name)?);
    let is_of_file = || !target.ancestors().any(|around| around.kind().is_function() || around.kind() == Kind::Class);
    let dotted = text.slice(Span::new(object.span().end, name.span().end));
    (object.kind() == Kind::Name && dotted.starts_with('.') && is_of_file()).then_some(dotted)
}

fn is_named(text: &Text, member: NodeRef<'_>, name: &str) -> bool {
    member.child(Role::Name).is_some_and(|own| text.slice(own.span()) == name)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn names(language: Language, source: &str) -> Vec<String> {
        let text = Text::new(source.to_string());
        let tree = language.parse(&text);
        provided(language, &text, &tree).into_iter().map(str::to_string).collect()
    }

    #[test]
    fn what_is_set_on_the_global_object_is_provided() {
        let script = "window.tide = 3;\nglobalThis['quay'] = 1;\nboat.depth = 2;\nlet low = window.high;\n";
        assert_eq!(names(Language::JavaScript, script), ["tide", "quay"]);
        let module = "import builtins\nbuiltins._ = translate\nbuiltins.__dict__['ngettext'] = translate\n";
        assert_eq!(names(Language::Python, module), ["_", "ngettext", "._"]);
        let either = "(__builtins__ if old else __builtins__.__dict__)['low'] = high\n";
        assert_eq!(names(Language::Python, either), ["low"]);
        let patched = "from ferry import tides\ntides.low = 3\ntides.high().depth = 4\ndef f():\n    tides.ebb = 5\n";
        assert_eq!(names(Language::Python, patched), [".low"]);
        assert_eq!(names(Language::JavaScript, patched), [] as [String; 0]);
        let installed = names(Language::Python, "import gettext\ngettext.install('ferry')\n");
        assert!(installed.contains(&"_".to_string()), "{installed:?}");
        assert_eq!(names(Language::Python, "import gettext\ngettext.textdomain('ferry')\n"), [] as [String; 0]);
    }
}
