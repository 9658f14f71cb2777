//! Names that a file gives to all files: those set on the object that holds what every file sees.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use crate::table::meaning_of;

/// The names that a file sets for all files, each as often as it does.
pub fn provided<'t>(language: Language, text: &'t Text, tree: &'t Tree) -> Vec<&'t str> {
    let holders = meaning_of(language).holders;
    // Few files do it.
    if !holders.iter().any(|holder| memchr::memmem::find(text.source().as_bytes(), holder.as_bytes()).is_some()) {
        return Vec::new();
    }
    let is_target =
        |node: &NodeRef<'t>| node.role() == Role::Target && matches!(node.kind(), Kind::Member | Kind::Subscript);
    let name_of = |target: NodeRef<'t>| {
        let object = target.child(Role::Object)?;
        let name = target.child(Role::Name).or_else(|| target.child(Role::Index))?;
        let written = text.slice(name.span()).trim_matches(['"', '\'']);
        holders.contains(&text.slice(object.span())).then_some(written)
    };
    tree.nodes().filter(is_target).filter_map(name_of).collect()
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
    }
}
