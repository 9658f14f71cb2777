//! Reads what a file declares and refers to: its nodes once.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use super::address::assignments;
use super::uses::{OF_CALLS, uses};
use super::{Configuration, Declared, ModuleCall, is_of_module, json};

impl Configuration {
    /// What a file declares and refers to; nothing where its folder is no module.
    pub fn of(language: Language, path: &str, text: &Text, tree: &Tree) -> Option<Configuration> {
        if !is_of_module(path) {
            return None;
        }
        if language.is_data() {
            return Some(json::read(language, text, tree));
        }
        let mut found = Configuration::default();
        for block in tree.root().children().filter(|node| node.kind() == Kind::ConfigBlock) {
            found.block(language, text, block);
        }
        found.used = uses(text, tree);
        Some(found)
    }

    /// What a block at the top of a file declares.
    fn block(&mut self, language: Language, text: &Text, block: NodeRef<'_>) {
        let labels: Vec<NodeRef<'_>> = block.children_in(Role::Label).collect();
        let label = |node: &NodeRef<'_>| text.slice(node.span()).trim_matches('"').to_string();
        let kind = block.child(Role::Name).map_or("", |name| text.slice(name.span()));
        let mut declare = |address: String, name: NodeRef<'_>| {
            let one = Declared { address, name: name.id(), node: block.id(), is_required: false, value: None };
            self.declared.push(one);
        };
        match (kind, &labels[..]) {
            ("variable", [name]) => {
                let default = assignments(text, block).find(|(own, _)| *own == "default");
                let value = default.and_then(|(_, node)| node.child(Role::Value)).map(NodeRef::id);
                let (address, node, is_required) = (format!("var.{}", label(name)), block.id(), default.is_none());
                self.declared.push(Declared { address, name: name.id(), node, is_required, value });
            }
            ("output", [name]) => declare(format!("output.{}", label(name)), *name),
            ("resource", [of, name]) => declare(format!("{}.{}", label(of), label(name)), *name),
            ("data" | "ephemeral", [of, name]) => {
                declare(format!("{kind}.{}.{}", label(of), label(name)), *name);
            }
            ("module", [name]) => {
                let address = format!("module.{}", label(name));
                declare(address.clone(), *name);
                self.calls.push(call(language, text, (address, block, *name)));
            }
            ("locals", _) => self.locals(text, block),
            // A check may look something up for itself.
            ("check", _) => {
                let inner = block.child(Role::Body).into_iter().flat_map(NodeRef::children);
                inner.filter(|node| node.kind() == Kind::ConfigBlock).for_each(|node| self.block(language, text, node));
            }
            _ => {}
        }
    }

    fn locals(&mut self, text: &Text, block: NodeRef<'_>) {
        for (name, node) in assignments(text, block) {
            let target = node.child(Role::Target).unwrap_or(node);
            let (address, value) = (format!("local.{name}"), node.child(Role::Value).map(NodeRef::id));
            self.declared.push(Declared { address, name: target.id(), node: node.id(), is_required: false, value });
        }
    }
}

fn call(language: Language, text: &Text, (address, block, name): (String, NodeRef<'_>, NodeRef<'_>)) -> ModuleCall {
    let source = assignments(text, block).find(|(name, _)| *name == "source").and_then(|(_, node)| {
        let value = node.child(Role::Value).filter(|value| value.kind() == Kind::String)?;
        language.string_value(text.slice(value.span()))
    });
    let given = assignments(text, block).filter(|(name, _)| !OF_CALLS.contains(name));
    let given = given.map(|(name, node)| (name.to_string(), node.id())).collect();
    ModuleCall { address, block: block.id(), name: name.id(), source, given }
}
