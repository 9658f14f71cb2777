//! The JSON form of infrastructure files: blocks are objects below the names of their kinds and labels, and strings are templates
//! ("JSON Configuration Syntax", HCL JSON specification).

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use super::uses::{OF_CALLS, OF_PLACES, OF_PROVIDERS, uses};
use super::{Configuration, Declared, ModuleCall, Used};

/// The key of a comment ("JSON Configuration Syntax", comment properties).
const COMMENT: &str = "//";

/// Where a string is an expression by itself.
const EXPRESSIONS: [&str; 4] = ["depends_on", "provider", "providers", "replace_triggered_by"];

/// What a file in the JSON form declares and refers to, in the order of the text.
pub(super) fn read(language: Language, text: &Text, tree: &Tree) -> Configuration {
    let mut found = Configuration::default();
    let reader = Reader { language, text };
    let whole = tree.root().children().find(|node| node.kind() == Kind::Dictionary);
    for block in whole.into_iter().flat_map(|whole| reader.entries(whole)) {
        reader.block(&mut found, &block);
    }
    for string in tree.nodes_of(Kind::String).filter(|string| string.role() != Role::Key) {
        reader.string(&mut found, string);
    }
    found
}

/// An entry of an object.
struct Entry<'n> {
    key: String,
    /// The string that is the key.
    name: NodeRef<'n>,
    value: NodeRef<'n>,
    node: NodeRef<'n>,
}

impl Entry<'_> {
    /// What it declares under an address.
    fn declares(&self, address: String) -> Declared {
        Declared { address, name: self.name.id(), node: self.node.id(), is_required: false, value: None }
    }
}

struct Reader<'t> {
    language: Language,
    text: &'t Text,
}

impl<'t> Reader<'t> {
    fn value_of(&self, string: NodeRef<'_>) -> Option<String> {
        self.language.string_value(self.text.slice(string.span()))
    }

    /// The entries of an object, or of each object in a list.
    fn entries<'n>(&self, holder: NodeRef<'n>) -> Vec<Entry<'n>> {
        let objects: Vec<NodeRef<'n>> = match holder.kind() {
            Kind::Dictionary => vec![holder],
            Kind::List => holder.children_in(Role::Element).filter(|one| one.kind() == Kind::Dictionary).collect(),
            _ => Vec::new(),
        };
        let pairs = objects.into_iter().flat_map(|object| object.children_in(Role::Element));
        let entry = |node: NodeRef<'n>| {
            let (name, value) = (node.child(Role::Key)?, node.child(Role::Value)?);
            let key = self.value_of(name).filter(|key| key != COMMENT)?;
            Some(Entry { key, name, value, node })
        };
        pairs.filter_map(entry).collect()
    }

    fn block(&self, found: &mut Configuration, block: &Entry<'_>) {
        let kind = block.key.as_str();
        for entry in self.entries(block.value) {
            let label = &entry.key;
            match kind {
                "variable" => {
                    let default = self.entries(entry.value).into_iter().find(|own| own.key == "default");
                    let value = default.map(|default| default.value.id());
                    let declared = entry.declares(format!("var.{label}"));
                    found.declared.push(Declared { is_required: value.is_none(), value, ..declared });
                }
                "output" => found.declared.push(entry.declares(format!("output.{label}"))),
                "locals" => {
                    let declared = entry.declares(format!("local.{label}"));
                    found.declared.push(Declared { value: Some(entry.value.id()), ..declared });
                }
                "resource" | "data" | "ephemeral" => {
                    let of = if kind == "resource" { label.clone() } else { format!("{kind}.{label}") };
                    let named = self.entries(entry.value);
                    found.declared.extend(named.iter().map(|one| one.declares(format!("{of}.{}", one.key))));
                }
                "module" => {
                    let address = format!("module.{label}");
                    found.calls.push(self.call(&address, &entry));
                    found.declared.push(entry.declares(address));
                }
                // A check may look something up for itself.
                "check" => self.entries(entry.value).iter().for_each(|inner| self.block(found, inner)),
                _ => {}
            }
        }
    }

    fn call(&self, address: &str, call: &Entry<'_>) -> ModuleCall {
        let entries = self.entries(call.value);
        let source = entries.iter().find(|own| own.key == "source").and_then(|own| self.value_of(own.value));
        let given = entries.iter().filter(|own| !OF_CALLS.contains(&own.key.as_str()));
        let given = given.map(|own| (own.key.clone(), own.name.id())).collect();
        ModuleCall { address: address.to_string(), block: call.node.id(), name: call.name.id(), source, given }
    }

    /// The addresses in a string: it is read as an expression of the other form, whose escapes are the same.
    fn string(&self, found: &mut Configuration, string: NodeRef<'_>) {
        let source = self.text.slice(string.span());
        let is_within = |words: &[&str]| {
            let keys = string.ancestors().filter_map(|around| around.child(Role::Key));
            keys.into_iter().any(|key| self.value_of(key).is_some_and(|key| words.contains(&key.as_str())))
        };
        if is_within(&[COMMENT]) {
            return;
        }
        let expression = if source.contains("${") || source.contains("%{") {
            source.to_string()
        } else if is_within(&EXPRESSIONS) {
            self.value_of(string).unwrap_or_default()
        } else {
            return;
        };
        let text = Text::new(format!("x = {expression}\n"));
        let tree = Language::Hcl.parse(&text);
        let must_exist = !is_within(&OF_PLACES) && !is_within(&OF_PROVIDERS) && tree.faults().is_empty();
        found.used.extend(uses(&text, &tree).into_iter().map(|used| Used {
            node: string.id(),
            output: None,
            must_exist: must_exist && used.must_exist,
            ..used
        }));
    }
}
