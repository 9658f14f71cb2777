//! Data files: what is sifted, fixed and waived in them, and house rules about places of data.

use crate::ferry::Ferry;

/// The service of the ferries, with mistakes that its pack finds.
const SERVICE: &str = "openapi: 3.1.0
tags:
  - name: tides
paths:
  /tides:
    get:
      operationId: listTides
      tags: [tides]
      responses:
        '200': {description: fine}
  /quays/{name}:
    get:
      operationId: listTides
      tags: [quay]
      responses:
        '200':
          content:
            application/json:
              schema: {$ref: '#/components/schemas/Quai'}
        '429': {description: slower}
    delete:
      x-fee: \"4\"
      responses: {}
components:
  schemas:
    Quay: {type: object}
    tide_table: {type: array}
";

const PACK: &str = "pack = \"service\"

[[rule]]
name = \"says-too-many-requests\"
when = \"$.openapi\"
at = \"$.paths.*.*.responses\"
must = { required = [\"429\"] }
message = \"this operation does not describe a 429 response\"
advice = \"describe what a client gets that calls too often\"

[[rule.wrong]]
path = \"service.yaml\"
code = '''
openapi: 3.1.0
paths: {/tides: {get: {responses: {'200': {}}}}}
'''
at = [\"2:24\"]

[[rule.right]]
path = \"service.yaml\"
code = '''
paths: {/tides: {get: {responses: {'200': {}}}}}
'''

[[rule]]
name = \"one-operation\"
at = \"$.paths.*[?@.operationId]\"
unique = \"$.operationId\"
message = \"{problem}\"

[[rule]]
name = \"known-tag\"
at = \"$.paths.*.*.tags[*]\"
listed-in = \"$.tags[*].name\"
message = \"the tag {value} is declared nowhere\"

[[rule]]
name = \"known-reference\"
at = \"$..['$ref']\"
refers-to = \"$.components.schemas\"
message = \"{problem}\"

[[rule]]
name = \"schema-name\"
at = \"$.components.schemas.*\"
name-style = \"PascalCase\"
message = \"{key} at {pointer}: {problem}\"

[[rule]]
name = \"no-fee\"
at = \"$.paths.*.*\"
must = { properties = { x-fee = { type = \"integer\" } } }
must-not = { required = [\"x-free\"] }
message = \"{problem}\"
";

fn service() -> Ferry {
    Ferry::with(&[("sieve.toml", "packs = [\"./service.toml\"]\n"), ("service.toml", PACK), ("service.yaml", SERVICE)])
}

#[test]
fn house_rules_hold_places_of_data_to_what_they_say() {
    let ferry = service();
    let sifted = ferry.run(&["sift", "--output", "lines", "--quiet"]);
    let expected = [
        "service.yaml:9:7: warning: this operation does not describe a 429 response [service:says-too-many-requests]",
        "service.yaml:13:20: warning: \"listTides\" is there already [service:one-operation]",
        "service.yaml:14:14: warning: the tag quay is declared nowhere [service:known-tag]",
        "service.yaml:19:30: warning: nothing is at #/components/schemas/Quai [service:known-reference]",
        "service.yaml:22:14: warning: this is a string, not a whole number [service:no-fee]",
        "service.yaml:23:7: warning: this operation does not describe a 429 response [service:says-too-many-requests]",
        "service.yaml:27:5: warning: tide_table at /components/schemas/tide_table: \"tide_table\" is not in the style PascalCase [service:schema-name]",
    ];
    assert_eq!(sifted.out.lines().collect::<Vec<_>>(), expected, "{}", sifted.err);
    let tested = ferry.run(&["pack", "test"]);
    let row = tested.out.lines().find(|line| line.contains("says-too-many-requests")).expect("the rule");
    assert_eq!(row.split_whitespace().next(), Some("ok"), "{}", tested.out);
    let explained = ferry.run(&["explain", "service:says-too-many-requests"]);
    assert!(explained.out.contains("at         $.paths.*.*.responses"), "{}", explained.out);
    assert!(explained.out.contains("must       {\"required\":[\"429\"]}"), "{}", explained.out);
    let held = "# sieve: waive service:known-tag because the quay comes later\n      tags: [quay]";
    ferry.write("service.yaml", SERVICE.replace("tags: [quay]", held));
    let sifted = ferry.run(&["sift", "--output", "lines", "--quiet", "--only", "service:known-tag"]);
    assert_eq!((sifted.out.as_str(), sifted.status), ("", 0));
}

#[test]
fn mistakes_in_rules_about_data_are_told_with_their_places() {
    for (written, message) in [
        ("at = \"$.paths.\"\nmust = {}\n", "a name or '*' is behind a dot"),
        ("at = \"$.paths\"\n", "a rule about data needs `at` or `each`, and one of fits, has,"),
        ("must = {}\n", "a rule about data needs `at` or `each`"),
        ("at = \"$\"\nfind = 'call'\nmust = {}\n", "a rule about data has `at` or `each` instead of `find`"),
        ("at = \"$\"\nmust = { type = \"tide\" }\n", "\"tide\" is not valid"),
        ("at = \"$\"\nname-style = \"PascalCas\"\n", "PascalCase"),
        (
            "at = \"$\"\nmust = {}\nadvice = \"{keys}\"\n",
            "a place has no \"keys\": key, value, pointer, problem are known",
        ),
        ("at = \"$\"\nmust = { \"$ref\" = \"https://saltmarsh.example/schema\" }\n", "saltmarsh.example"),
    ] {
        let rule = format!("pack = \"service\"\n[[rule]]\nname = \"tide\"\nmessage = \"tide\"\n{written}");
        let ferry = Ferry::with(&[("sieve.toml", "packs = [\"./service.toml\"]\n"), ("service.toml", &rule)]);
        let sifted = ferry.run(&["sift"]);
        assert_eq!(sifted.status, 2, "{written}: {}{}", sifted.out, sifted.err);
        assert!(sifted.err.contains("service.toml:") && sifted.err.contains(message), "{written}: {}", sifted.err);
    }
}

#[test]
fn a_document_of_aliases_without_end_is_told_as_not_decided() {
    let mut bomb = "openapi: 3.1.0\na0: &a0 [x, x]\n".to_string();
    for level in 1..40 {
        bomb += &format!("a{level}: &a{level} [*a{}, *a{}]\n", level - 1, level - 1);
    }
    let pack = PACK.replace("$.paths.*.*.responses", "$..*");
    let ferry =
        Ferry::with(&[("sieve.toml", "packs = [\"./service.toml\"]\n"), ("service.toml", &pack), ("bomb.yaml", &bomb)]);
    let sifted = ferry.run(&["sift", "bomb.yaml", "--unsure", "--output", "lines"]);
    assert!(sifted.out.contains("its aliases stand for too much"), "{}{}", sifted.out, sifted.err);
}

#[test]
fn data_is_sifted_by_the_names_of_files() {
    let ferry = Ferry::with(&[
        ("sieve.toml", "mesh = \"fine\"\n"),
        ("quays.json", "{\"north\": 1, // low\n\"south\": 2,\n// high\n\"north\": 3}\n"),
        ("tsconfig.json", "{\n  // tides\n  \"quay\": [1,],\n}\n"),
        ("boats.toml", "[heron]\nlength = 12\n\n[heron]\n"),
        ("tides.yml", "low: &low 1\nhigh: *hgh\n"),
        ("package-lock.json", "{\"a\":1,\"a\":2}\n"),
        ("chart.yaml", "name: {{ .Values.name }}-tide\nlow: 1\n"),
    ]);
    let sifted = ferry.run(&["sift", "--output", "lines"]);
    let expected = [
        "boats.toml:4:2: warning: the key \"heron\" is there already, on line 1 [repeated-key]",
        "quays.json:1:14: error: JSON has no comments [broken-syntax]",
        "quays.json:4:1: warning: the key \"north\" is there already, on line 1 [repeated-key]",
        "tides.yml:1:6: warning: no alias stands for \"low\" [unused-anchor]",
        "tides.yml:2:7: error: nothing before this has the anchor &hgh [unknown-alias]",
    ];
    assert_eq!(sifted.out.lines().collect::<Vec<_>>(), expected, "{}", sifted.err);
    assert!(sifted.err.contains("1 generated, 1 template"), "{}", sifted.err);
    assert!(ferry.run(&["sift", "sieve.toml"]).err.contains("unknown language"), "settings are no data of the project");
}

#[test]
fn layout_fixes_keep_values_and_comments() {
    let files = [
        (
            "tides.yaml",
            "low: 1  \r\nnote: |  # kept\r\n  first \r\n\r\n\r\n\r\n  last\r\nlist: [1,2 , 3]\r\nhigh :   2 #tide of the day\r\n",
        ),
        ("quays.json", "{\"north\":1 ,\n\t\"south\" : [ 1,2],\n  \"low\": {\"a\": [1, 2]}}"),
        ("boats.toml", "heron = [1,2 ]\n\n\n\n\n\n[ tern ]\nnote = '''\na  \n\n\n\n\nb'''   "),
    ];
    let ferry = Ferry::with(&files);
    let read = "import sys, json, tomllib; print(json.dumps([json.load(open('quays.json')), tomllib.load(open('boats.toml', 'rb'))]))";
    let values = |ferry: &Ferry| {
        let output = std::process::Command::new("python3").args(["-c", read]).current_dir(ferry.path("")).output();
        String::from_utf8(output.expect("python3 runs").stdout).expect("text")
    };
    let before = values(&ferry);
    assert!(before.len() > 20);
    let fixed = ferry.run(&["fix", "--mesh", "fine", "--only", "layout"]);
    assert_eq!(values(&ferry), before, "{}", fixed.out);
    let yaml = ferry.read("tides.yaml");
    assert!(yaml.starts_with("low: 1\r\nnote: |  # kept\r\n  first \r\n\r\n\r\n\r\n  last\r\n"), "{yaml:?}");
    assert!(yaml.ends_with("list: [1, 2, 3]\r\nhigh: 2 # tide of the day\r\n"), "{yaml:?}");
    assert!(ferry.read("boats.toml").ends_with("b'''\n"));
    let again = ferry.run(&["fix", "--mesh", "fine", "--only", "layout"]);
    assert!(again.out.is_empty() || again.out.contains("othing"), "{}", again.out);
}

#[test]
fn waivers_are_comments_where_there_are_any() {
    let ferry = Ferry::with(&[
        ("tides.yaml", "low: &low 1\n"),
        ("quays.json", "{\"north\": 1, \"north\": 3}\n"),
        ("boats.toml", "heron = 1\nheron = 2\n"),
    ]);
    for place in ["tides.yaml:1", "boats.toml:2"] {
        let rule = if place.starts_with('t') { "unused-anchor" } else { "repeated-key" };
        let waived = ferry.run(&["waive", place, rule, "--because", "an editor wants it"]);
        assert_eq!(waived.status, 0, "{place}: {}", waived.err);
    }
    let refused = ferry.run(&["waive", "quays.json:1", "repeated-key", "--because", "an editor wants it"]);
    assert_eq!(refused.status, 2);
    let instead = "JSON has no comments; put a [[waive]] with this path into sieve.toml instead";
    assert!(refused.err.contains(instead), "{}", refused.err);
    ferry.write(
        "sieve.toml",
        "[[waive]]\nrules = [\"repeated-key\"]\npaths = [\"quays.json\"]\nbecause = \"an editor wants it\"\n",
    );
    let sifted = ferry.run(&["sift"]);
    assert_eq!((sifted.status, sifted.out.as_str()), (0, ""), "{}", sifted.err);
    assert!(sifted.err.contains("3 by waivers"), "{}", sifted.err);
}

const SCHEMA: &str = "type: object
required: [name]
additionalProperties: false
properties:
  name: {type: string}
  depth: {type: integer, minimum: 0}
  kind: {enum: [quay, buoy]}
  boats: {type: array, items: {$ref: '#/$defs/boat'}}
$defs:
  boat: {type: object, required: [length]}
";

#[test]
fn schemas_of_the_settings_hold_for_the_files_that_they_name() {
    let settings =
        "[[schema]]\npaths = [\"quays/*\"]\nschema = \"schemas/quay.yaml\"\nbecause = \"the board refuses to start\"\n";
    let ferry = Ferry::with(&[
        ("sieve.toml", settings),
        ("schemas/quay.yaml", SCHEMA),
        ("quays/north.yaml", "name: north\ndepth: -1\nkind: bouy\nboats:\n  - {}\n"),
        ("quays/south.json", "{\"depth\": \"low\", \"tide\": 3}\n"),
        ("quays/west.toml", "name = \"west\"\ndepth = 3\n\n[[boats]]\nlength = 12\n\n[[boats]]\nwidth = 3\n"),
        ("other.yaml", "tide: 1\n"),
    ]);
    let run = |arguments: &[&str]| ferry.run(&[&["sift", "--output", "lines", "--quiet"], arguments].concat());
    let expected = [
        "quays/north.yaml:2:8: error: -1 is less than 0 [schema-check]",
        "quays/north.yaml:3:7: error: \"bouy\" is none of \"quay\", \"buoy\"; did you mean \"buoy\"? [schema-check]",
        "quays/north.yaml:5:5: error: \"length\" is missing [schema-check]",
        "quays/south.json:1:1: error: \"name\" is missing [schema-check]",
        "quays/south.json:1:11: error: this is a string, not a whole number [schema-check]",
        "quays/south.json:1:18: error: no \"tide\" is known here [schema-check]",
        "quays/west.toml:7:1: error: \"length\" is missing [schema-check]",
    ];
    assert_eq!(run(&[]).out.lines().collect::<Vec<_>>(), expected);
    assert_eq!(run(&[]).out.lines().count(), expected.len(), "kept results are the same");
    let cards = ferry.run(&["sift", "--output", "cards"]);
    assert!(cards.out.contains("schemas/quay.yaml says what may be here: the board refuses to start"), "{}", cards.out);
    // Another schema is another result.
    ferry.write("schemas/quay.yaml", "type: object\n");
    assert_eq!((run(&[]).out.as_str(), run(&[]).status), ("", 0));
    for (schema, message) in [
        (None, "the schema schemas/quay.yaml: "),
        (Some("type: [\n"), "the schema schemas/quay.yaml: line 1: '[' is never closed"),
        (Some("type: boat\n"), "the schema schemas/quay.yaml: "),
        (Some("$ref: https://saltmarsh.example/quay\n"), "the schema schemas/quay.yaml: "),
    ] {
        match schema {
            Some(schema) => ferry.write("schemas/quay.yaml", schema),
            None => std::fs::remove_file(ferry.path("schemas/quay.yaml")).expect("removing"),
        }
        let wrong = ferry.run(&["sift"]);
        assert!(
            wrong.status == 2 && wrong.err.contains("sieve.toml:3:10") && wrong.err.contains(message),
            "{}",
            wrong.err
        );
    }
    ferry.write("sieve.toml", "[[schema]]\nschema = \"a.json\"\n");
    assert!(ferry.run(&["sift"]).err.contains("a schema needs `paths`, and `schema`"));
}

#[test]
fn lines_of_data_are_counted_apart_and_count_for_the_density() {
    let ferry =
        Ferry::with(&[("quays/low.json", "{\"a\": 1,\n\"a\": 2}\n"), ("board.py", "import os\n\nprint(os.name)\n")]);
    let counts = ferry.run(&["sift", "--output", "counts", "--color", "never"]);
    let row = |name: &str| {
        let mut rows = counts.out.lines().map(|line| line.split_whitespace().collect::<Vec<_>>());
        rows.find(|row| row.first() == Some(&name)).unwrap_or_else(|| panic!("{name}: {}", counts.out))
    };
    assert_eq!((row("code")[1], row("data")[1], row("quays")[1]), ("2", "2", "500.0"));
    assert_eq!(ferry.run(&["report", "--to", "report.html"]).status, 0);
    assert!(ferry.read("report.html").contains("500.0"), "the folder's density is in the report");
}

#[test]
fn a_waiver_holds_at_a_place_of_data() {
    let quays = "{\n  \"north\": {\"depth\": 1, \"depth\": 2},\n  \"south\": {\"depth\": 1, \"depth\": 2}\n}\n";
    let ferry = Ferry::with(&[("quays.json", quays)]);
    let refused = ferry.run(&["waive", "quays.json:2", "repeated-key", "--because", "it is read by hand"]);
    assert!(refused.err.contains("with this path and `at = '/north'` into sieve.toml"), "{}", refused.err);
    let waiver = "[[waive]]\nrules = [\"repeated-key\"]\npaths = [\"*.json\"]\nat = '/north'\nbecause = \"it is read by hand\"\n";
    ferry.write("sieve.toml", waiver);
    let sifted = ferry.run(&["sift", "--output", "lines"]);
    assert_eq!(sifted.out.lines().count(), 1, "{}", sifted.out);
    assert!(
        sifted.out.starts_with("quays.json:3:") && sifted.err.contains("1 by a waiver"),
        "{}{}",
        sifted.out,
        sifted.err
    );
    ferry.write("sieve.toml", waiver.replace("/north", "/east"));
    let sifted = ferry.run(&["sift", "--output", "lines"]);
    assert!(sifted.out.contains("sieve.toml:1:1") && sifted.out.contains("[stale-waiver]"), "{}", sifted.out);
    ferry.write("sieve.toml", waiver.replace("/north", "north"));
    let wrong = ferry.run(&["sift"]);
    assert!(
        wrong.status == 2 && wrong.err.contains("sieve.toml:4:6") && wrong.err.contains("a JSON Pointer"),
        "{}",
        wrong.err
    );
}

#[test]
fn a_file_names_its_own_schema() {
    let ferry = Ferry::in_git(&[
        ("config/desk.json", "{\n  \"$schema\": \"../schemas/desk.yaml\",\n  \"name\": 3\n}\n"),
        ("config/web.json", "{\"$schema\": \"https://saltmarsh.example/desk.json\", \"name\": 3}\n"),
        ("config/away.json", "{\"$schema\": \"../../desk.yaml\", \"name\": 3}\n"),
        ("schemas/desk.yaml", "properties: {name: {type: string}}\n"),
    ]);
    for _ in 0..2 {
        let sifted = ferry.run(&["sift", "--output", "lines"]);
        assert_eq!(sifted.out.lines().count(), 1, "{}", sifted.out);
        assert!(
            sifted.out.starts_with("config/desk.json:3:11: ") && sifted.out.contains("[schema-check]"),
            "{}",
            sifted.out
        );
    }
    ferry.commit("desk");
    ferry.write("schemas/desk.yaml", "properties: {name: {type: integer}}\n");
    let sifted = ferry.run(&["sift", "--output", "lines"]);
    assert_eq!((sifted.status, sifted.out.as_str()), (0, ""), "{}", sifted.err);
    ferry.write("schemas/desk.yaml", "properties: {name: {type: boolean}}\n");
    let changed = ferry.run(&["sift", "--changed", "HEAD", "--output", "lines"]);
    assert!(changed.out.is_empty(), "it was wrong before, too: {}", changed.out);
}

#[test]
fn mistakes_in_descriptions_of_documents_are_told_with_their_places() {
    let document = "[[document]]\nname = \"board\"\nwhen = \"$.board\"\nschema = \"board.yaml\"\n";
    let rule = "[[rule]]\nname = \"tide\"\nmessage = \"{problem}\"\n";
    let schema = "$defs: {quay: {type: object}}\nproperties: {board: {$ref: '#/$defs/quay'}}\n";
    for (written, schema, message) in [
        (
            format!("{document}{rule}each = \"quai\"\nhas = \"$.a\"\n"),
            schema,
            "a.toml:9:8: no schema of a [[document]] defines \"quai\"; the nearest is \"quay\"",
        ),
        (
            format!("{rule}structure = true\n"),
            schema,
            "`structure` is that of a [[document]] of the pack, and there is none",
        ),
        (document.replace("$.board", "$.board["), schema, "a.toml:4:"),
        (document.replace("board.yaml", "away.yaml"), schema, "the schema away.yaml: away.yaml cannot be read"),
        (document.replace("board.yaml", "../away.yaml"), schema, "../away.yaml is not beside the pack"),
        (
            document.replace("board.yaml", "built-in/openapi-4.yaml"),
            schema,
            "there is no built-in/openapi-4.yaml; there are built-in/asyncapi-2.yaml",
        ),
        (document.replace("when", "whenn"), schema, "a kind of document has no \"whenn\"; the nearest is \"when\""),
        (document.to_string(), "a: [\n", "the schema board.yaml: line 1"),
        (document.to_string(), "{if: {minimum: 3}}", "parts are told apart by"),
        (document.to_string(), "{patternProperties: {'(': true}}", "a.toml:5:10: the schema board.yaml"),
        (format!("{rule}at = '$'\nmust = \"away.json\"\n"), schema, "the schema away.json: away.json cannot be read"),
        (format!("{rule}at = '$'\nfits = {{ values = '$.a' }}\n"), schema, "`fits` needs `values` and `schema`"),
        (format!("{rule}at = [3]\nmust = {{}}\n"), schema, "a string is wanted here"),
    ] {
        let pack = format!("pack = \"board\"\n{written}");
        let ferry =
            Ferry::with(&[("sieve.toml", "packs = [\"./a.toml\"]\n"), ("a.toml", &pack), ("board.yaml", schema)]);
        let sifted = ferry.run(&["sift"]);
        assert!(sifted.status == 2 && sifted.err.contains(message), "{message}: {}{}", sifted.out, sifted.err);
    }
    let right = format!("pack = \"board\"\n{document}{rule}each = \"quay\"\nhas = \"$.depth\"\nmust = \"quay.json\"\n");
    let ferry = Ferry::with(&[
        ("sieve.toml", "packs = [\"./a.toml\"]\n"),
        ("a.toml", &right),
        ("board.yaml", schema),
        ("quay.json", "{\"required\": [\"name\"]}"),
        ("north.yaml", "board: {boats: 2}\n"),
    ]);
    let sifted = ferry.run(&["sift", "--output", "lines", "north.yaml"]);
    assert_eq!(sifted.out.lines().count(), 2, "{}{}", sifted.out, sifted.err);
    assert!(sifted.out.contains("north.yaml:1:1: warning: \"name\" is missing [board:tide]"), "{}", sifted.out);
    // What is beside a pack is part of it: another schema gives other findings in the next run.
    ferry.write("quay.json", "{\"required\": [\"boats\"]}");
    assert_eq!(ferry.run(&["sift", "--output", "lines", "north.yaml"]).out.lines().count(), 1);
    ferry.write("board.yaml", "$defs: {quay: {type: object}}\n");
    assert_eq!(ferry.run(&["sift", "--output", "lines", "north.yaml"]).out.lines().count(), 0);
}
