//! A JSON Schema (draft 2020-12) of packs, for editors.

use serde_json::{Value, json};
use sieve_rules::catalogue::history::CURRENT;
use sieve_rules::house::CONSISTENT;
use sieve_rules::{Certainty, Level, Mesh, NameStyle};
use sieve_syntax::language::Language;

use crate::settings::schema::{closed, list, of_pack, packs, text, words};

/// The pattern of the names of packs, rules and options.
const NAME: &str = "^[a-z][a-z0-9]*(-[a-z0-9]+)*$";

/// The schema.
pub fn pack_schema() -> Value {
    json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": format!("A pack of rules of Honest Sieve {CURRENT}"),
        "type": "object",
        "additionalProperties": false,
        "required": ["pack"],
        "properties": {
            "pack": name("The name of the pack: its rules are called `pack:rule`."),
            "version": { "type": "string", "pattern": "^[0-9]+(\\.[0-9]+)*$", "description": "Its version, such as 1.2.0." },
            "about": text("What it is for, in one line."),
            "packs": packs(),
            "document": list(document(), "The kinds of documents whose parts its rules are about."),
            "rule": list(rule(), "Its rules."),
            "settings": of_pack(),
        },
    })
}

fn name(about: &str) -> Value {
    json!({ "type": "string", "pattern": NAME, "description": about })
}

fn document() -> Value {
    closed(
        json!({
            "name": text("Its name."),
            "when": text("A document is of this kind if this JSONPath (RFC 9535) leads to something."),
            "schema": text("The file beside the pack that has its JSON Schema: the names of its definitions are those of the parts."),
        }),
        &["name", "when", "schema"],
        "",
    )
}

/// One path or several.
fn paths(about: &str) -> Value {
    json!({ "anyOf": [{ "type": "string" }, { "type": "array", "items": { "type": "string" } }], "description": about })
}

/// A schema, or the file that it is in.
fn schema(about: &str) -> Value {
    json!({ "type": ["object", "string"], "description": format!("A JSON Schema that {about}; or the file beside the pack that it is in.") })
}

fn rule() -> Value {
    let languages = words(Language::ALL.iter().map(|language| language.name()), "");
    let verb = |about: &str| {
        text(&format!(
            "{about}: `replace it with \"…\"`, `replace ROLE with \"…\"`, `remove it`, `insert \"…\" before it` or `insert \"…\" after it`."
        ))
    };
    closed(
        json!({
            "name": name("Its name, without that of the pack."),
            "languages": list(languages, "The languages it is for; all that have what the query looks for, if not given."),
            "find": text("The query: what it reports."),
            "when": text("In a rule about data: the document is concerned if this JSONPath (RFC 9535) leads to something."),
            "each": text("In a rule about data: every part that the schemas of the documents define under this name."),
            "where": text("Such a part is concerned if this JSONPath leads to something from it."),
            "at": paths("In a rule about data, instead of `find`: the places, as JSONPaths, from the document or from each part."),
            "must": schema("each place satisfies"),
            "must-not": schema("no place satisfies"),
            "structure": json!({ "type": "boolean", "description": "The document satisfies the schema of its kind." }),
            "has": paths("JSONPaths from each place: one of them leads to something."),
            "has-no": paths("JSONPaths from each place: none of them leads to anything."),
            "unique": text("A JSONPath from each place to what is different in all of them."),
            "refers-to": text("A JSONPath to that of which the references at the places (`#/…`) name an entry."),
            "resolves": json!({ "type": "boolean", "description": "The references at the places lead to something, in the document (`#/…`) or in another file of the code base." }),
            "matches-file": text("The path of the file that the value at each place names, with {value} and {key} in it: from the root of the code base, or from the file with ./ before it."),
            "listed-in": paths("JSONPaths to the values that may be at the places."),
            "key-listed-in": paths("JSONPaths to values whose keys may be those of the places."),
            "fits": closed(
                json!({
                    "values": paths("JSONPaths from each place to values."),
                    "schema": text("A JSONPath from it to the schema that they satisfy."),
                }),
                &["values", "schema"],
                "Values in the document satisfy a schema that is in it.",
            ),
            "name-style": words(NameStyle::ALL.iter().map(|style| style.word()).chain([CONSISTENT]), "The style of the keys at the places, or of the strings that they are; `consistent` is that which most of them have."),
            "path-parameters": json!({ "type": "boolean", "description": "The names in braces of paths, and the parameters of the operations below them, are the same." }),
            "message": text("What is wrong, in one line. {callee}, {name} and the like are taken from what is found."),
            "advice": text("What to do, likewise."),
            "what": text("What it reports, for lists of rules; the message, if not given."),
            "why": text("Why it matters."),
            "level": words(Level::ALL.iter().map(|level| level.word()), "Its level; warning, if not given."),
            "mesh": words(Mesh::ALL.iter().map(|mesh| mesh.word()), "The coarsest mesh that catches it; medium, if not given."),
            "certainty": words(Certainty::ALL.iter().map(|one| one.word()), "How sure it is; proven, if not given."),
            "standards": list(json!({ "type": "string" }), "What it serves."),
            "fix": json!({ "anyOf": [
                closed(json!({ "review": verb("A fix to be checked first") }), &["review"], ""),
                closed(json!({ "exact": verb("A fix that keeps what the code means") }), &["exact"], ""),
            ] }),
            "options": json!({ "type": "object", "additionalProperties": option(), "description": "Values that users may set; in the query as $name." }),
            "wrong": list(example(true), "Code that it reports."),
            "right": list(example(false), "Code that it does not report."),
        }),
        &["name", "message"],
        "",
    )
}

fn option() -> Value {
    let default = json!({ "anyOf": [
        { "type": "integer", "minimum": 0 }, { "type": "string" }, { "type": "array", "items": { "type": "string" } },
    ], "description": "Its value where nothing sets it; tells its sort too." });
    closed(json!({ "default": default, "about": text("What it does, in one line.") }), &["default", "about"], "")
}

fn example(is_wrong: bool) -> Value {
    let mut properties = json!({
        "code": text("The code."),
        "path": text("The path of the file that it stands for."),
        "language": words(Language::ALL.iter().map(|language| language.name()), "The language it is in."),
    });
    if is_wrong {
        properties["at"] = list(
            json!({ "type": "string", "pattern": "^[0-9]+:[0-9]+$" }),
            "The places that are reported, as line:column.",
        );
        properties["fixed"] = text("The code after its fix.");
    }
    closed(properties, &["code"], "")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::settings::pack::{document, read, rule as rule_keys};

    #[test]
    fn the_schema_has_the_keys_that_are_read() {
        let keys = |table: &Value| {
            let mut keys: Vec<String> = table["properties"].as_object().expect("a table").keys().cloned().collect();
            keys.sort_unstable();
            keys
        };
        let schema = pack_schema();
        assert_eq!(keys(&schema), read::KEYS);
        assert_eq!(keys(&schema["properties"]["rule"]["items"]), rule_keys::KEYS);
        assert_eq!(keys(&schema["properties"]["document"]["items"]), document::KEYS);
    }
}
