//! A JSON Schema (draft 2020-12) of settings files, for editors.

use serde_json::{Map, Value, json};
use sieve_rules::catalogue::history::{self, CURRENT};
use sieve_rules::{
    Concern, Level, Mesh, NAMED_KINDS, NameStyle, OptionDefault, OptionFacts, Rule, catalogue, element_names,
};
use sieve_syntax::language::Language;

use super::FILE_NAME;
use super::read::OF_CODE_BASE;

/// The schema.
pub fn schema() -> Value {
    json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": format!("{FILE_NAME} of Honest Sieve {CURRENT}"),
        "type": "object",
        "additionalProperties": false,
        "properties": {
            "defaults": { "type": "string", "pattern": "^[0-9]+\\.[0-9]+$",
                "description": format!("The release whose default levels and rule names this file was written for: {} to {CURRENT}.", history::history().oldest) },
            "mesh": words(Mesh::ALL.iter().map(|mesh| mesh.word()), "How fine to sift."),
            "fail-on": words(Level::ALL.iter().map(|level| level.word()), "The level from which on a finding fails a run."),
            "top": { "type": "boolean", "description": "Settings files further up do not count." },
            "packs": packs(),
            "only": list(rule_or_concern(), "Only these rules, concerns and standards."),
            "files": files(),
            "baseline": closed(json!({
                "strict": { "type": "boolean", "description": "Entries that are paid off fail a run until they are trimmed." } }),
                &[], "How strictly old findings are paid off."),
            "cache": closed(json!({
                "shared": { "type": "string", "pattern": "^https?://", "description": "The address of a cache that machines share." } }),
                &[], "Where results of earlier runs are kept, besides on this machine."),
            "rules": rules("Levels and options of rules."),
            "naming": naming(),
            "components": json!({ "type": "object", "description": "The elements that components put out.",
                "propertyNames": { "pattern": "^[A-Z]|[.]" },
                "additionalProperties": { "type": "string", "enum": element_names().collect::<Vec<_>>() } }),
            "values": values(),
            "ban": list(ban(), "What is not to be used, each with its reason."),
            "scope": list(closed(json!({
                "paths": patterns("The paths it holds for."), "because": text("Why."),
                "rules": rules("Levels and options of rules for these paths."), "naming": naming(), "values": values() }), &["paths"], ""), "Parts that hold for some paths only."),
            "waive": list(closed(json!({
                "paths": patterns("The paths it holds for."), "because": text("Why."),
                "rules": list(rule_or_concern(), "Rules and concerns."),
                "at": { "description": "The place in data that it is for, as a JSON Pointer (RFC 6901); whole files, if not given.", "type": "string", "pattern": "^/" },
                "until": { "description": "The last day on which it holds.", "type": "string", "format": "date" } }),
                &["paths", "rules", "because"], ""), "Findings held back in some paths."),
            "schema": list(closed(json!({
                "paths": patterns("The paths it holds for."),
                "schema": text("The file of the JSON Schema, from the folder of the settings."),
                "because": text("Why.") }), &["paths", "schema"], ""), "Schemas of data files."),
            "budget": list(closed(json!({
                "paths": patterns("The paths that count; all if not given."),
                "rules": list(rule_or_concern(), "The rules that count; all if not given."),
                "most": { "type": "integer", "minimum": 0, "description": "How many entries of the baseline there may be." } }),
                &["most"], ""), "How much the baseline may hold."),
        },
    })
}

/// The packs that settings, or a pack, name.
pub(super) fn packs() -> Value {
    let pinned = closed(
        json!({ "address": text("Where it is: http or https."),
            "sha256": { "type": "string", "pattern": "^[0-9a-fA-F]{64}$", "description": "The SHA-256 of what is there." } }),
        &["address", "sha256"],
        "",
    );
    let named = text("The path of a pack, or the name of a built-in one.");
    list(json!({ "anyOf": [named, pinned] }), "Packs: rules and settings that are used here.")
}

/// The keys of settings that a pack may have, without what is in them: that is in the schema of settings.
pub(super) fn of_pack() -> Value {
    let settings = schema();
    let all = settings["properties"].as_object().into_iter().flatten();
    let allowed = all.filter(|(key, _)| !OF_CODE_BASE.contains(&key.as_str()));
    let about = |value: &Value| json!({ "description": value["description"] });
    let keys: Map<String, Value> = allowed.map(|(key, value)| (key.clone(), about(value))).collect();
    closed(Value::Object(keys), &[], "Settings, as in sieve.toml; those of a code base go before them.")
}

pub(super) fn text(about: &str) -> Value {
    json!({ "type": "string", "description": about })
}

pub(super) fn list(items: Value, about: &str) -> Value {
    json!({ "type": "array", "items": items, "description": about })
}

fn patterns(about: &str) -> Value {
    list(json!({ "type": "string" }), about)
}

pub(super) fn words<'w>(all: impl Iterator<Item = &'w str>, about: &str) -> Value {
    json!({ "enum": all.collect::<Vec<_>>(), "description": about })
}

/// A table with these keys and no others.
pub(super) fn closed(properties: Value, required: &[&str], about: &str) -> Value {
    let mut table = json!({ "type": "object", "additionalProperties": false, "properties": properties });
    if !required.is_empty() {
        table["required"] = json!(required);
    }
    if !about.is_empty() {
        table["description"] = json!(about);
    }
    table
}

fn rule_or_concern() -> Value {
    let names = catalogue::rules().map(|(_, rule)| rule.name);
    let known: Vec<&str> = names.chain(Concern::ALL.iter().map(|concern| concern.word())).collect();
    // Standards are named by their beginnings, so that other words are allowed.
    json!({ "anyOf": [{ "enum": known }, { "type": "string" }] })
}

fn files() -> Value {
    closed(
        json!({
            "skip": patterns("Files that are not sifted, on top of what git ignores."),
            "generated": patterns("Files made by programs, on top of those that say so or are named so."),
            "languages": { "type": "object", "description": "Languages of files, by pattern.",
                "additionalProperties": words(Language::ALL.iter().map(|language| language.name()), "The language.") },
            "largest": { "type": "integer", "minimum": 0, "description": "Larger files, in bytes, are left out." },
        }),
        &[],
        "Which files are sifted, and as what.",
    )
}

fn naming() -> Value {
    let styles = NameStyle::ALL.iter().map(|style| style.word()).chain(["any"]);
    let style = words(styles, "How the words of a name are joined.");
    let style = json!({ "anyOf": [style, list(style.clone(), "Styles of which one is to hold.")] });
    let form = closed(
        json!({ "style": style, "prefix": text("What names begin with."), "suffix": text("What names end with."),
            "pattern": { "type": "string", "format": "regex", "description": "What the whole name fits." },
            "always": patterns("Names that are right whatever they look like."),
            "never": patterns("Names that are never right.") }),
        &[],
        "What these names look like.",
    );
    let one = json!({ "anyOf": [style, form] });
    let mut kinds: Map<String, Value> = NAMED_KINDS.iter().map(|kind| ((*kind).to_string(), one.clone())).collect();
    let of_language = closed(Value::Object(kinds.clone()), &[], "Names in this language.");
    kinds.extend(Language::ALL.iter().map(|language| (language.name().to_string(), of_language.clone())));
    closed(Value::Object(kinds), &[], "What names look like.")
}

fn values() -> Value {
    let value = json!({ "type": ["string", "number", "boolean"] });
    json!({ "type": "object", "description": "Which values something may have, by a JSONPath, or by a block and a name in it.",
        "propertyNames": { "pattern": "^[$]|[.]" }, "additionalProperties": list(value, "All that it may have.") })
}

fn ban() -> Value {
    let mut table = closed(
        json!({ "import": text("What is not to be imported."), "call": text("What is not to be called."),
            "member": text("What is not to be used as a member."), "because": text("Why.") }),
        &["because"],
        "",
    );
    table["oneOf"] = json!([{ "required": ["import"] }, { "required": ["call"] }, { "required": ["member"] }]);
    table
}

fn rules(about: &str) -> Value {
    let all: Map<String, Value> = catalogue::rules().map(|(_, facts)| (facts.name.to_string(), rule(facts))).collect();
    let mut table = closed(Value::Object(all), &[], about);
    table["patternProperties"] = json!({ "^[a-z][a-z0-9-]*:[a-z][a-z0-9-]*$": house_rule() });
    table
}

/// A rule of a pack, whose options are not known here.
fn house_rule() -> Value {
    let level = words(Level::ALL.iter().map(|level| level.word()), "Its level.");
    let table = json!({ "type": "object", "properties": { "level": level } });
    json!({ "anyOf": [level, table], "description": "A rule of a pack." })
}

fn rule(rule: &Rule) -> Value {
    let level = words(Level::ALL.iter().map(|level| level.word()), "Its level.");
    let mut properties: Map<String, Value> =
        rule.options.iter().map(|facts| (facts.name.to_string(), option(facts))).collect();
    properties.insert("level".into(), level.clone());
    let table = closed(Value::Object(properties), &[], "");
    json!({ "anyOf": [level, table], "description": format!("{}: {}", rule.concern, rule.what) })
}

fn option(facts: &OptionFacts) -> Value {
    let mut value = match facts.default {
        OptionDefault::Count(_) => json!({ "type": "integer", "minimum": 0 }),
        OptionDefault::Numbers(_) => list(json!({ "type": "number" }), ""),
        OptionDefault::Words(_) => list(json!({ "type": "string" }), ""),
        OptionDefault::Choices(_, all) => list(json!({ "enum": all }), ""),
        OptionDefault::Choice(_, all) => json!({ "enum": all }),
        OptionDefault::Flag(_) => json!({ "type": "boolean" }),
    };
    value["description"] = json!(format!("{} Default: {}.", facts.about, facts.default_value()));
    value
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::settings::read::KEYS;

    #[test]
    fn the_schema_has_the_keys_that_are_read() {
        let schema = schema();
        let mut keys: Vec<&String> = schema["properties"].as_object().expect("a table").keys().collect();
        keys.sort();
        assert_eq!(keys, KEYS);
        let rules = schema["properties"]["rules"]["properties"].as_object().expect("a table");
        assert!(
            rules["long-line"]["anyOf"][1]["properties"]["limit"]["type"] == "integer"
                && rules.len() == catalogue::rules().len()
        );
    }
}
