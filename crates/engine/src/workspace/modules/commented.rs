//! JSON with comments and commas after the last element, as compilers' settings files have them: read with the parser of JavaScript,
//! of which it is a part.

use std::path::Path;

use serde_json::{Map, Value};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use crate::project::Project;

/// A larger file is not read.
const LARGEST: u64 = 4 << 20;

/// Reads a file below the root of a code base; nothing where it is not there or is no JSON.
pub(super) fn read(project: &Project, path: &Path) -> Option<Value> {
    let source = String::from_utf8(project.files.read_within(&project.root, path, LARGEST).ok()?).ok()?;
    parse(source.trim_start_matches('\u{feff}'))
}

fn parse(source: &str) -> Option<Value> {
    let tree: Tree = Language::JavaScript.parse_expression(source);
    let value = tree.root().last_child()?;
    if tree.faults().is_empty() { value_of(source, value) } else { None }
}

fn value_of(source: &str, node: NodeRef<'_>) -> Option<Value> {
    let text = &source[node.span().range()];
    Some(match node.kind() {
        Kind::ExpressionStatement | Kind::Group => value_of(source, node.child(Role::Value)?)?,
        Kind::String => Value::String(Language::JavaScript.string_value(text)?),
        Kind::Boolean => Value::Bool(text == "true"),
        Kind::Null => Value::Null,
        Kind::List => Value::Array(node.children().filter_map(|element| value_of(source, element)).collect()),
        Kind::Dictionary => {
            let mut map = Map::new();
            for pair in node.children().filter(|pair| pair.kind() == Kind::Pair) {
                let key = pair.child(Role::Key)?;
                let key = Language::JavaScript.string_value(&source[key.span().range()])?;
                map.insert(key, value_of(source, pair.child(Role::Value)?).unwrap_or(Value::Null));
            }
            Value::Object(map)
        }
        _ => text.parse().ok()?,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn comments_and_last_commas_are_nothing() {
        let source = "// where things are\n{\n  \"paths\": { \"~/*\": [\"./src/*\",] }, /* none */ \"strict\": true, \"n\": 3,\n}\n";
        let expected = serde_json::json!({ "paths": { "~/*": ["./src/*"] }, "strict": true, "n": 3 });
        assert_eq!(parse(source), Some(expected));
        assert_eq!(parse("{ \"a\": "), None);
    }
}
