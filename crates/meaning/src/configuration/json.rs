//! The JSON form of infrastructure files: blocks are objects below the names of their kinds and labels, and strings are templates
//! ("JSON Configuration Syntax", HCL JSON specification).

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use super::uses::{OF_CALLS, uses};
use super::{Configuration, Declared, ModuleCall, Used};

/// The key of a comment ("JSON Configuration Syntax", comment properties).
const COMMENT: &str = "//";

/// Where a string is an expression by itself.
const EXPRESSIONS: [&str; 4] = ["depends_on", "provider", "providers", "replace_triggered_by"];

/// What is within these says where something is or was, or names what a provider knows.
const ELSEWHERE: [&str; 7] =
    ["moved", "removed", "import", "provider", "providers", "configuration_aliases", "ignore_changes"];

/// What a file in the JSON form declares and refers to, in the order of the text.
pub(super) fn read(language: Language, text: &Text, tree: &Tree) -> Configuration {
    let mut found = Configuration::default();
    let reader = Reader { language, text };
    let whole = tree.root().children().find(|node| node.kind() == Kind::Dictionary);
    for (kind, value, _) in whole.into_iter().flat_map(|whole| reader.entries(whole)) {
        reader.block(&mut found, &kind, value);
    }
    for string in tree.nodes_of(Kind::String).filter(|string| string.role() != Role::Key) {
        reader.string(&mut found, string);
    }
    found
}

struct Reader<'t> {
    language: Language,
    text: &'t Text,
}

impl<'t> Reader<'t> {
    fn value_of(&self, string: NodeRef<'_>) -> Option<String> {
        self.language.string_value(self.text.slice(string.span()))
    }

    /// The entries of an object, or of each object in a list: the key, the value and the pair.
    fn entries<'n>(&self, holder: NodeRef<'n>) -> Vec<(String, NodeRef<'n>, NodeRef<'n>)> {
        let objects: Vec<NodeRef<'n>> = match holder.kind() {
            Kind::Dictionary => vec![holder],
            Kind::List => holder.children_in(Role::Element).filter(|one| one.kind() == Kind::Dictionary).collect(),
            _ => Vec::new(),
        };
        let pairs = objects.into_iter().flat_map(|object| object.children_in(Role::Element));
        let entry = |pair: NodeRef<'n>| {
            let (key, value) = (pair.child(Role::Key)?, pair.child(Role::Value)?);
            self.value_of(key).filter(|key| key != COMMENT).map(|key| (key, value, pair))
        };
        pairs.filter_map(entry).collect()
    }

    fn block(&self, found: &mut Configuration, kind: &str, value: NodeRef<'_>) {
        for (label, body, pair) in self.entries(value) {
            match kind {
                "variable" => {
                    let default = self.entries(body).into_iter().find(|(key, ..)| key == "default");
                    let value = default.map(|(_, value, _)| value);
                    found.declared.extend(declared(format!("var.{label}"), pair, value, value.is_none()));
                }
                "output" => found.declared.extend(declared(format!("output.{label}"), pair, None, false)),
                "locals" => found.declared.extend(declared(format!("local.{label}"), pair, Some(body), false)),
                "resource" | "data" | "ephemeral" => {
                    let of = if kind == "resource" { label } else { format!("{kind}.{label}") };
                    for (name, _, pair) in self.entries(body) {
                        found.declared.extend(declared(format!("{of}.{name}"), pair, None, false));
                    }
                }
                "module" => {
                    let address = format!("module.{label}");
                    found.calls.extend(self.call(&address, body, pair));
                    found.declared.extend(declared(address, pair, None, false));
                }
                // A check may look something up for itself.
                "check" => {
                    for (kind, value, _) in self.entries(body) {
                        self.block(found, &kind, value);
                    }
                }
                _ => {}
            }
        }
    }

    fn call(&self, address: &str, body: NodeRef<'_>, pair: NodeRef<'_>) -> Option<ModuleCall> {
        let entries = self.entries(body);
        let source = entries.iter().find(|(key, ..)| key == "source").and_then(|(_, value, _)| self.value_of(*value));
        let given = entries.iter().filter(|(key, ..)| !OF_CALLS.contains(&key.as_str()));
        let given = given.filter_map(|(key, _, pair)| Some((key.clone(), pair.child(Role::Key)?.id()))).collect();
        Some(ModuleCall {
            address: address.to_string(),
            block: pair.id(),
            name: pair.child(Role::Key)?.id(),
            source,
            given,
        })
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
        let must_exist = !is_within(&ELSEWHERE) && tree.faults().is_empty();
        found.used.extend(uses(&text, &tree).into_iter().map(|used| Used {
            node: string.id(),
            output: None,
            must_exist: must_exist && used.must_exist,
            ..used
        }));
    }
}

fn declared(address: String, pair: NodeRef<'_>, value: Option<NodeRef<'_>>, is_required: bool) -> Option<Declared> {
    let name = pair.child(Role::Key)?;
    Some(Declared { address, name: name.id(), node: pair.id(), is_required, value: value.map(NodeRef::id) })
}
