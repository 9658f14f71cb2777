//! House rules about data: parts of documents, what is asked of them, and that nothing hostile stops them.

use std::sync::Arc;

use proptest::prelude::*;
use serde_json::{Value as Json, json};
use sieve_meaning::project::Alone;
use sieve_rules::house::{
    DataDefinition, Definition, DocumentError, DocumentKind, EnabledHouse, HouseRule, Requirement,
};
use sieve_rules::{Dispatch, Finding, Input, NameStyle, Report, RuleId, Unless, run_on};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// A timetable: boats with crossings, which may stand for others, and a tide that is an object or a list.
fn timetable() -> Json {
    json!({
        "type": "object",
        "properties": { "boats": { "type": "object", "additionalProperties": { "$ref": "#/$defs/boat" } } },
        "patternProperties": { "^x-": true },
        "additionalProperties": false,
        "$defs": {
            "boat": {
                "type": "object",
                "properties": {
                    "crossings": { "type": "array", "items": { "$ref": "#/$defs/crossing-or-reference" } },
                    "tide": { "if": { "type": "array" }, "then": { "items": { "$ref": "#/$defs/tide" } }, "else": { "$ref": "#/$defs/tide" } },
                },
            },
            "crossing-or-reference": {
                "if": { "type": "object", "required": ["$ref"] },
                "then": { "$ref": "#/$defs/reference" },
                "else": { "$ref": "#/$defs/crossing" },
            },
            "crossing": {
                "type": "object",
                "properties": { "via": { "$ref": "#/$defs/crossing-or-reference" }, "quay": { "type": "string" } },
                "allOf": [{
                    "if": { "required": ["kind"], "properties": { "kind": { "const": "night" } } },
                    "then": { "$ref": "#/$defs/night-crossing" },
                }],
            },
            "night-crossing": { "type": "object" },
            "tide": { "type": "object" },
            "reference": { "type": "object" },
        },
    })
}

fn kind(schema: &Json) -> Result<Arc<DocumentKind>, DocumentError> {
    DocumentKind::new("timetable".into(), "$.boats", schema, 1).map(Arc::new)
}

fn run(data: DataDefinition, language: Language, source: &str) -> Report {
    let documents = vec![kind(&timetable()).expect("a schema")];
    let definition = Definition {
        data: Some(DataDefinition { documents, ..data }),
        message: "{key}|{value}|{pointer}|{problem}".into(),
        ..Definition::named("ferry:any", vec![language])
    };
    let rule = Arc::new(HouseRule::new(definition).expect("a rule"));
    let enabled = [EnabledHouse::new(RuleId(1000), &rule, &[]).expect("no options")];
    let dispatch = Dispatch::new(Vec::new()).with_house(&enabled);
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    run_on(
        &Input { path: "board/times.yaml", language, text: &text, tree: &tree, names: None, others: &Alone },
        &dispatch,
    )
}

/// The messages of what a rule finds, in order.
fn found(each: Option<&str>, at: &[&str], requirement: Requirement, source: &str) -> Vec<String> {
    let data = DataDefinition {
        each: each.map(str::to_string),
        at: at.iter().map(|path| (*path).to_string()).collect(),
        requirements: vec![requirement],
        ..DataDefinition::default()
    };
    run(data, Language::Yaml, source).findings.into_iter().map(|finding| finding.message).collect()
}

fn paths(paths: &[&str]) -> Vec<String> {
    paths.iter().map(|path| (*path).to_string()).collect()
}

/// Where parts of a name are.
fn parts(name: &str, source: &str) -> Vec<String> {
    let messages = found(Some(name), &[], Requirement::Has(paths(&["$.nothing"])), source);
    messages.iter().filter_map(|message| message.split('|').nth(2).map(str::to_string)).collect()
}

const TIMES: &str = "boats:
  heron:
    crossings:
    - {quay: north, kind: night}
    - {$ref: '#/x-spare'}
    - {$ref: '#/boats/heron/crossings/0'}
    tide: [{low: 1}, {low: 2}]
  curlew:
    crossings: [{via: {via: {$ref: '#/boats/curlew/crossings/0'}}}]
    tide: {low: 3}
x-spare: {quay: mill}
";

#[test]
fn the_definitions_of_a_schema_name_the_parts_of_a_document() {
    assert_eq!(parts("boat", TIMES), ["/boats/heron", "/boats/curlew"]);
    let crossings =
        ["/boats/heron/crossings/0", "/boats/curlew/crossings/0", "/boats/curlew/crossings/0/via", "/x-spare"];
    assert_eq!(parts("crossing", TIMES), crossings, "each once, and what references stand for too");
    assert_eq!(parts("night-crossing", TIMES), ["/boats/heron/crossings/0"]);
    assert_eq!(parts("tide", TIMES), ["/boats/heron/tide/0", "/boats/heron/tide/1", "/boats/curlew/tide"]);
    assert_eq!(parts("reference", TIMES).len(), 3);
    assert_eq!(parts("boat", "boat: {}\n"), Vec::<String>::new(), "it is no timetable");
}

#[test]
fn paths_lead_through_references() {
    let quays = found(Some("boat"), &["$.crossings[*].quay"], Requirement::Must(json!({ "const": "island" })), TIMES);
    let values: Vec<&str> = quays.iter().filter_map(|message| message.split('|').nth(1)).collect();
    assert_eq!(values, ["north", "mill"], "each place once, by whatever way");
    let none = found(Some("boat"), &[], Requirement::HasNo(paths(&["$.crossings[*].quay"])), TIMES);
    assert_eq!(none.len(), 3, "{none:?}");
}

#[test]
fn what_is_asked_of_places() {
    let keys = Requirement::KeyListedIn(paths(&["$.known.*"]));
    assert_eq!(
        found(None, &["$.boats.*"], keys, "known: {heron: 1}\nboats: {heron: 1, curlew: 2}\n"),
        ["curlew|2|/boats/curlew|\"curlew\" is not listed"]
    );
    let style = Requirement::NameStyle(None);
    let names = "boats: {low_tide: 1, high_tide: 2, mill_quay: 3, night_boat: 4, lastBoat: 5, '-1': 6, x: 7}\n";
    assert_eq!(found(None, &["$.boats.*"], style.clone(), names).len(), 1);
    assert_eq!(found(None, &["$.boats.*"], style, "boats: {low_tide: 1, lastBoat: 5}\n").len(), 0, "too few to tell");
    let kebab = Requirement::NameStyle(Some(NameStyle::LowerKebab));
    assert_eq!(found(None, &["$.boats.*"], kebab, "boats: {'/low-tide/{DAY}': 1, /low_tide: 2}\n").len(), 1);
    let source =
        "boats: {a: {$ref: '#/boats/b'}, b: {$ref: '#/x~1y'}, c: {$ref: '#name'}, d: {$ref: '#/x'}}\nx/y: {}\n";
    let resolves = found(None, &["$..['$ref']"], Requirement::Resolves, source);
    assert_eq!(resolves, ["$ref|#/x|/boats/d/$ref|nothing is at #/x"]);
    let based = "boats: {$id: 'urn:quay', a: {$ref: '#/nothing'}}\n";
    assert_eq!(found(None, &["$..['$ref']"], Requirement::Resolves, based).len(), 0, "it starts from elsewhere");
}

#[test]
fn other_files_decide_over_references_to_them() {
    let data = DataDefinition {
        at: vec!["$..['$ref']".into()],
        requirements: vec![Requirement::Resolves],
        ..DataDefinition::default()
    };
    let source = "a: {$ref: '../quay.yaml#/x'}\nb: {$ref: 'https://saltmarsh.example'}\nc: {$ref: '../../away'}\n";
    let report = run(data, Language::Yaml, source);
    let [Finding { unless: Some(Unless::Leads(there)), .. }] = &report.findings[..] else { panic!("{report:?}") };
    assert_eq!((there.path.as_str(), there.pointer.as_deref()), ("quay.yaml", Some("/x")));
}

#[test]
fn values_fit_schemas_of_their_document() {
    let fits = |schema: &str, value: &str| {
        let source =
            format!("boats: {{a: {{schema: {schema}, value: {value}}}}}\nx-low: {{type: integer, maximum: 9}}\n");
        let requirement = Requirement::Fits { values: paths(&["$.value"]), schema: "$.schema".into() };
        let found = found(None, &["$.boats.*"], requirement, &source);
        found.into_iter().map(|message| message.rsplit('|').next().unwrap_or_default().to_string()).collect::<Vec<_>>()
    };
    let right = [
        ("{type: string}", "low"),
        ("{type: number}", "3"),
        ("{type: integer}", "3.0"),
        ("{type: integer, nullable: true}", "null"),
        ("{type: [string, 'null']}", "null"),
        ("{enum: [1, 2]}", "2.0"),
        ("{type: file}", "3"),
        ("{}", "[1]"),
        ("true", "3"),
        ("{$ref: '#/x-low', type: string}", "3"),
        ("{$ref: 'other.yaml#/x'}", "3"),
        ("{minimum: 3}", "3"),
        ("{pattern: '(?=x)'}", "low"),
        ("{type: object, required: [a], properties: {a: {readOnly: true}}}", "{}"),
        ("{oneOf: [{type: string}, {}]}", "low"),
        ("{additionalProperties: {type: string}}", "{a: low}"),
        ("{prefixItems: [{type: string}], items: {type: string}}", "[1]"),
        ("{not: {type: string}}", "3"),
        ("{allOf: [{$ref: '#/boats/a/schema'}]}", "3"),
        ("3", "3"),
    ];
    for (schema, value) in right {
        assert_eq!(fits(schema, value), Vec::<String>::new(), "{schema} {value}");
    }
    let wrong = [
        ("{type: string}", "3", "this is a whole number, not a string"),
        ("{type: [string, 'null']}", "3.5", "this is a number, not a string or null"),
        ("{enum: [low, high]}", "mid", "\"mid\" is none of \"low\", \"high\""),
        ("{const: low}", "mid", "\"mid\" is none of \"low\""),
        ("{$ref: '#/x-low'}", "10", "10 is more than 9"),
        ("{minimum: 3, exclusiveMinimum: true}", "3", "3 is not more than 3"),
        ("{exclusiveMaximum: 3}", "3", "3 is not less than 3"),
        ("{maxLength: 2}", "low", "\"low\" has more characters than 2"),
        ("{minLength: 4}", "low", "\"low\" has fewer characters than 4"),
        ("{pattern: '^h'}", "low", "\"low\" does not match the pattern of its schema"),
        ("{type: array, items: {type: string}}", "[low, 3]", "this is a whole number, not a string"),
        ("{minItems: 2}", "[1]", "this has fewer elements than its schema asks for"),
        ("{maxItems: 1}", "[1, 2]", "this has more elements than its schema allows"),
        ("{required: [b]}", "{a: 1}", "\"b\" is missing"),
        ("{properties: {a: {}}, additionalProperties: false}", "{b: 1}", "no \"b\" is known here"),
        ("{properties: {a: false}}", "{a: 1}", "nothing may be here"),
        ("{allOf: [{type: string}]}", "3", "this is a whole number, not a string"),
        ("{oneOf: [{type: string}, {type: boolean}]}", "3", "this is none of the forms that its schema allows"),
        (
            "{anyOf: [{type: string}, {type: object, properties: {a: {type: string}}}]}",
            "{a: 3}",
            "this is a whole number, not a string",
        ),
        ("{not: {type: string}}", "low", "this is what its schema says it is not"),
    ];
    for (schema, value, problem) in wrong {
        assert_eq!(fits(schema, value), [problem], "{schema} {value}");
    }
}

#[test]
fn a_schema_that_tells_no_parts_is_refused() {
    let told = |schema: Json| match kind(&schema) {
        Err(DocumentError::Schema(message)) => message,
        other => panic!("{other:?}"),
    };
    assert!(told(json!({ "if": { "minimum": 3 }, "then": {} })).contains("parts are told apart by"));
    assert!(told(json!({ "if": { "properties": { "a": { "const": 1 } } } })).contains("parts are told apart by"));
    assert!(told(json!({ "$ref": "#/nowhere", "nowhere": {} })).contains("#/nowhere"));
    assert!(told(json!({ "type": "boat" })).contains("type"));
    let deep = (0..300).fold(json!({}), |inner, _| json!({ "items": inner }));
    assert!(told(deep).contains("within each other"));
    let circle = json!({ "$ref": "#/$defs/a", "$defs": { "a": { "allOf": [{ "$ref": "#/$defs/b" }] }, "b": { "$ref": "#/$defs/a" } } });
    assert!(kind(&circle).is_ok(), "it says nothing, and ends");
}

/// Documents that look like timetables, with references and aliases to anywhere.
fn document() -> impl Strategy<Value = String> {
    let value = prop_oneof![
        Just("{$ref: '#/boats'}".to_string()),
        Just("{$ref: '#/boats/a/crossings/0'}".to_string()),
        Just("*boat".to_string()),
        Just("{via: {quay: 3}}".to_string()),
        Just("{type: string, default: 3}".to_string()),
        Just("[[], {}, null]".to_string()),
    ];
    let boat = (proptest::collection::vec(value.clone(), 0..4), value)
        .prop_map(|(crossings, tide)| format!("{{crossings: [{}], tide: {tide}}}", crossings.join(", ")));
    (boat.clone(), boat).prop_map(|(one, other)| format!("boats:\n  a: &boat {one}\n  b: {other}\n"))
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::with_cases(200) })]

    /// Whatever leads where, each check ends, and its places are in the text.
    #[test]
    fn every_check_ends_whatever_leads_where(source in document(), each in prop_oneof![Just("boat"), Just("crossing"), Just("tide")]) {
        let all = vec![
            Requirement::Structure,
            Requirement::Must(json!({ "required": ["quay"] })),
            Requirement::MustNot(json!({ "type": "object" })),
            Requirement::Has(paths(&["$.via.via.via"])),
            Requirement::HasNo(paths(&["$..quay"])),
            Requirement::Unique("$.via".into()),
            Requirement::Resolves,
            Requirement::ListedIn(paths(&["$..quay"])),
            Requirement::KeyListedIn(paths(&["$.boats.*"])),
            Requirement::Fits { values: paths(&["$.default", "$.via"]), schema: "$".into() },
            Requirement::NameStyle(None),
            Requirement::PathParameters,
        ];
        let data = DataDefinition { each: Some(each.into()), requirements: all, ..DataDefinition::default() };
        for finding in run(data, Language::Yaml, &source).findings {
            prop_assert!(finding.span.end as usize <= source.len());
        }
    }
}
