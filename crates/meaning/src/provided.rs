//! Names that a file gives to all files: those set on the object that holds what every file sees.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use crate::table::meaning_of;

/// The names that a file sets for all files, each as often as it does.
pub fn provided<'t>(language: Language, text: &'t Text, tree: &'t Tree) -> Vec<&'t str> {
    let holders = meaning_of(language).holders;
    if holders.is_empty() {
        return Vec::new();
    }
    let name_of = |target: NodeRef<'t>| {
        let object = target.child(Role::Object)?;
        let name = target.child(Role::Name).or_else(|| target.child(Role::Index))?;
        let written = text.slice(name.span()).trim_matches(['"', '\'']);
        holders.contains(&text.slice(object.span())).then_some(written)
    };
    let mut targets = tree.nodes_of_any(&[Kind::Member, Kind::Subscript]);
    targets.retain(|node| node.role() == Role::Target);
    let mut names: Vec<&str> = targets.into_iter().filter_map(name_of).collect();
    if let Some((library, method, given)) = meaning_of(language).installer
        && text.source().contains(library)
        && tree.nodes_of(Kind::Member).any(|member| member.role() == Role::Callee && is_named(text, member, method))
    {
        names.extend(given);
    }
    names
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
        assert_eq!(names(Language::Python, module), ["_", "ngettext"]);
        let installed = names(Language::Python, "import gettext\ngettext.install('ferry')\n");
        assert!(installed.contains(&"_".to_string()), "{installed:?}");
        assert_eq!(names(Language::Python, "import gettext\ngettext.textdomain('ferry')\n"), [] as [String; 0]);
    }
}
