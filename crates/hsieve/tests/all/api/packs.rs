//! The three packs, run on descriptions.

use crate::ferry::Ferry;

/// A description in two files, with references between them and in a circle.
const TIDES: &str = "openapi: 3.0.3
info: {title: Tides, version: '1'}
paths:
  /quays/{quay}/tides:
    get:
      operationId: tides
      parameters:
      - $ref: '#/components/parameters/quay'
      responses:
        '200':
          description: All
          content:
            application/json:
              schema: {$ref: '#/components/schemas/Tide'}
              example: {height: 3, next: {height: high}}
components:
  parameters:
    quay: {name: quay, in: path, required: true, schema: {type: string}}
  schemas:
    Tide:
      type: object
      properties:
        height: {type: number}
        next: {$ref: '#/components/schemas/Tide'}
";

fn found(ferry: &Ferry, pack: &str) -> Vec<String> {
    let only = format!("{pack}:*");
    let ended = ferry.run(&["sift", "--mesh", "fine", "--pack", pack, "--only", &only, "--output", "lines"]);
    let found: Vec<String> = ended.out.lines().map(str::to_string).filter(|line| line.contains(pack)).collect();
    assert!(ended.status <= 1, "{}{}", ended.out, ended.err);
    found
}

#[test]
fn references_are_followed_in_circles_and_the_smallest_value_is_told() {
    let ferry = Ferry::empty();
    ferry.write("api/tides.yaml", TIDES);
    let found = found(&ferry, "api-valid");
    let [only] = &found[..] else { panic!("{found:#?}") };
    assert!(only.starts_with("api/tides.yaml:15:") && only.contains("this is a string, not a number"), "{only}");
}

#[test]
fn references_that_lead_to_each_other_end() {
    let ferry = Ferry::empty();
    let circle = TIDES.replace("    Tide:\n      type: object\n", "    Tide: {$ref: '#/components/schemas/Ebb'}\n    Ebb: {$ref: '#/components/schemas/Tide'}\n    Flood:\n      allOf: [{$ref: '#/components/schemas/Flood'}]\n      example: 3\n");
    ferry.write("api/tides.yaml", circle);
    for pack in ["api-valid", "api-useful", "api-secure"] {
        found(&ferry, pack);
    }
}

#[test]
fn other_documents_and_hostile_ones_are_left_alone() {
    let ferry = Ferry::empty();
    ferry.write("settings.yaml", "info: {title: 3}\npaths: {/tides: {get: {}}}\n");
    ferry.write("version.yaml", "version: 3.0.1\npaths: 3\n");
    assert_eq!(found(&ferry, "api-valid"), Vec::<String>::new());
    ferry.write(
        "null.json",
        "{\"openapi\": \"3.0.0\", \"info\": null, \"paths\": [[[[1]]]], \"components\": {\"schemas\": 3}}",
    );
    ferry.write(
        "deep.json",
        format!("{{\"openapi\": \"3.0.0\", \"paths\": {}1{}}}", "{\"/a\":".repeat(500), "}".repeat(500)),
    );
    let bomb: String = (1..40).map(|n| format!("  b{n}: &b{n} [{}]\n", format!("*b{}, ", n - 1).repeat(9))).collect();
    ferry.write("bomb.yaml", format!("openapi: 3.0.0\nx-bomb:\n  b0: &b0 [1]\n{bomb}"));
    for pack in ["api-valid", "api-useful", "api-secure"] {
        found(&ferry, pack);
    }
}

#[test]
fn references_lead_to_other_files_and_to_values_in_them() {
    let description = TIDES
        .replace("#/components/parameters/quay", "shared/quay.yaml#/parameters/quay")
        .replace("schema: {$ref: '#/components/schemas/Tide'}", "schema: {$ref: './shared/tide.json'}");
    let ferry = Ferry::in_git(&[
        ("api/tides.yaml", description.as_str()),
        (
            "api/shared/quay.yaml",
            "parameters:\n  quay: {name: quay, in: path, required: true, schema: {type: string}}\n",
        ),
        ("api/shared/tide.json", "{\"type\": \"object\"}\n"),
    ]);
    for _ in 0..2 {
        assert_eq!(found(&ferry, "api-valid"), Vec::<String>::new(), "both are there");
    }
    ferry.commit("tides");
    ferry.write("api/shared/quay.yaml", "parameters:\n  quays: {}\n");
    std::fs::remove_file(ferry.path("api/shared/tide.json")).expect("it was there");
    let broken = found(&ferry, "api-valid");
    assert_eq!(broken.len(), 2, "{broken:#?}");
    assert!(
        broken[0].contains("api/tides.yaml:8:15: error: nothing is at shared/quay.yaml#/parameters/quay"),
        "{broken:#?}"
    );
    assert!(broken[1].contains("nothing is at ./shared/tide.json"), "{broken:#?}");
    let only = ["sift", "--pack", "api-valid", "--only", "api-valid:*", "--output", "lines", "--changed", "HEAD"];
    let changed = ferry.run(&only);
    assert!(changed.out.contains("shared/quay.yaml#/parameters/quay"), "{}", changed.out);
    assert_eq!(changed.out.lines().count(), 1, "what a change brings to other files: {}{}", changed.out, changed.err);
}

#[test]
fn values_name_files() {
    let pack = "pack = \"board\"

[[rule]]
name = \"page\"
at = '$.pages[*]'
matches-file = \"docs/{value}.md\"
message = \"{problem}\"

[[rule]]
name = \"beside\"
at = '$.icons.*'
matches-file = \"./{value}\"
message = \"{key}: {problem}\"
";
    let ferry = Ferry::with(&[
        ("lint/pack.toml", pack),
        ("docs/tides.md", "# Tides\n"),
        ("web/icon.svg", "<svg/>\n"),
        (
            "web/board.yaml",
            "pages: [tides, quays, ../../away]\nicons: {tide: icon.svg, quay: ../web/icon.svg, boat: boat.svg}\n",
        ),
    ]);
    ferry.write("sieve.toml", "packs = [\"./lint/pack.toml\"]\n");
    let sifted = ferry.run(&["sift", "--output", "lines", "web"]);
    let found: Vec<&str> = sifted.out.lines().collect();
    let [quays, boat] = found[..] else { panic!("{found:#?} {}", sifted.err) };
    assert!(quays.contains("1:16") && quays.contains("there is no file docs/quays.md"), "{quays}");
    assert!(boat.contains("boat: there is no file web/boat.svg"), "{boat}");
}
