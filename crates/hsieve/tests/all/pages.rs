//! Pages and style sheets: what is sifted, fixed and waived in them, and in what they hold in other languages.

use crate::ferry::Ferry;

const BOARD: &str = "<!doctype html>
<html lang=\"en\">
<head>
  <title>Tides</title>
  <style>
    .quay { colr: navy }
    .tide {}
  </style>
</head>
<body onload=\"show(tide.low && tide.low)\">
  <h1>Tides</h1>
  <img src=\"north.jpg\">
  <p style=\"margin: 10xp\">Low at <b>6:10</b></p>
  <script>
    function show(tide) {
      const height = 3 ;
      return tide;
    }
  </script>
  <script type=\"application/json\">{\"low\": 1, \"low\": 2}</script>
</body>
</html>
";

fn lines(ferry: &Ferry, arguments: &[&str]) -> Vec<String> {
    let ended = ferry.run(arguments);
    let findings = ended.out.lines().take_while(|line| !line.starts_with("Sifted"));
    findings.filter(|line| !line.is_empty()).map(str::to_owned).collect()
}

#[test]
fn what_a_page_holds_is_sifted_at_its_places() {
    let ferry = Ferry::with(&[("board.html", BOARD)]);
    let found = lines(&ferry, &["sift", "--output", "lines"]);
    assert_eq!(
        found,
        [
            "board.html:6:13: warning: there is no property colr [unknown-property]",
            "board.html:7:5: warning: this rule holds nothing [empty-rule]",
            "board.html:10:32: warning: both sides of \"&&\" are tide.low [same-operands]",
            "board.html:12:3: warning: this image has no text [image-text]",
            "board.html:13:21: warning: there is no unit xp [unknown-unit]",
            "board.html:16:13: warning: \"height\" is assigned but never used [unused-variable]",
            "board.html:20:46: warning: the key \"low\" is there already, on line 20 [repeated-key]",
        ]
    );
}

#[test]
fn waivers_hold_in_each_language_of_a_page() {
    let waived = BOARD
        .replace("    .quay {", "    /* sieve: waive unknown-property because the board is old */\n    .quay {")
        .replace(
            "      const height",
            "      // sieve: waive unused-variable because it is shown later\n      const height",
        )
        .replace("  <img", "  <!-- sieve: waive image-text because the text stands beside it -->\n  <img")
        .replace("<body", "<!-- sieve: waive same-operands because it is a sample -->\n<body");
    let ferry = Ferry::with(&[("board.html", &waived)]);
    let found = lines(&ferry, &["sift", "--output", "lines"]);
    let rules: Vec<&str> = found.iter().filter_map(|line| line.rsplit_once('[').map(|(_, rule)| rule)).collect();
    assert_eq!(rules, ["empty-rule]", "unknown-unit]", "repeated-key]"], "{found:?}");
}

#[test]
fn fixes_change_what_is_held_and_nothing_else() {
    let ferry = Ferry::with(&[("board.html", BOARD)]);
    ferry.run(&["fix", "--mesh", "fine"]);
    let fixed = ferry.read("board.html");
    let expected = BOARD.replace("    .tide {}\n", "").replace("height = 3 ;", "height = 3;");
    assert_eq!(fixed, expected);
    assert_eq!(ferry.run(&["fix", "--mesh", "fine"]).status, 0);
    assert_eq!(ferry.read("board.html"), expected, "a second run is idle");
}

#[test]
fn a_standard_is_a_switch() {
    let ferry = Ferry::with(&[("board.html", BOARD)]);
    let only = lines(&ferry, &["sift", "--output", "lines", "--only", "WCAG 2.2 A"]);
    assert_eq!(only, ["board.html:12:3: warning: this image has no text [image-text]"]);
    ferry.write("sieve.toml", "[rules]\n\"WCAG 2.2 A\" = \"off\"\n");
    let without = lines(&ferry, &["sift", "--output", "lines"]);
    assert!(!without.iter().any(|line| line.contains("image-text")), "{without:?}");
}

#[test]
fn the_baseline_knows_what_is_in_a_script_when_the_page_around_it_changes() {
    let ferry = Ferry::with(&[("board.html", BOARD)]);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    ferry.write("board.html", BOARD.replace("<h1>Tides</h1>", "<h1>Tides of the day</h1>\n  <p>High at noon</p>"));
    assert_eq!(lines(&ferry, &["sift", "--output", "lines"]), [""; 0]);
    ferry.write("board.html", BOARD.replace("const height = 3", "const height = 4, depth = 5"));
    let found = lines(&ferry, &["sift", "--output", "lines"]);
    assert!(found.iter().all(|line| line.contains("unused-variable")) && !found.is_empty(), "{found:?}");
}

#[test]
fn queries_and_trees_look_into_what_a_page_holds() {
    let ferry = Ferry::with(&[("board.html", BOARD)]);
    let found = ferry.run(&["find", "function", "."]);
    assert!(found.out.contains("board.html:15:5"), "{}", found.out);
    let tree = ferry.run(&["tree", "board.html"]);
    for part in ["in it, JavaScript:", "in it, CSS:", "in it, JSON:", "function"] {
        assert!(tree.out.contains(part), "{part}: {}", tree.out);
    }
    let place = ferry.run(&["tree", "board.html:16:13"]);
    assert!(place.out.contains("raw-text") && place.out.contains("declaration"), "{}", place.out);
}

#[test]
fn waivers_are_written_in_the_form_of_the_language() {
    let ferry = Ferry::with(&[("board.html", BOARD), ("board.css", ".quay { colr: navy }\n")]);
    let waived = ferry.run(&["waive", "board.html:12", "image-text", "--because", "its text stands beside it"]);
    assert_eq!(waived.status, 0, "{}{}", waived.out, waived.err);
    let page = ferry.read("board.html");
    assert!(page.contains("<!-- sieve: waive image-text because its text stands beside it -->"), "{page}");
    let waived = ferry.run(&["waive", "board.css:1", "unknown-property", "--because", "old"]);
    assert_eq!(waived.status, 0, "{}{}", waived.out, waived.err);
    assert!(ferry.read("board.css").contains("/* sieve: waive unknown-property because old */"));
    let found = lines(&ferry, &["sift", "--output", "lines", "--only", "image-text,unknown-property"]);
    assert_eq!(found.len(), 1, "{found:?}");
}

/// A page that says which program made it is that program's, unless it is what the program makes pages from.
#[test]
fn pages_that_programs_made_are_left_out() {
    let page = |content: &str| format!("<html><head><meta name=\"generator\" content=\"{content}\"></head></html>\n");
    let ferry = Ferry::with(&[("made.html", &page("Tidebook 2")), ("base.html", &page("{{ tool }}"))]);
    let ended = ferry.run(&["sift", "--output", "lines"]);
    assert!(ended.out.contains("base.html:1:1") && !ended.out.contains("made.html"), "{}", ended.out);
    assert!(ended.err.contains("1 generated"), "{}", ended.err);
}

#[test]
fn components_are_the_elements_that_settings_say() {
    let board = "export const Board = () => <main><Picture src={quay} /><Link to=\"/tides\"><i /></Link><Link to=\"/\">Home</Link></main>;\n";
    let ferry = Ferry::with(&[("board.tsx", board)]);
    assert_eq!(lines(&ferry, &["sift", "--output", "lines", "--only", "access"]), [""; 0]);
    ferry.write("sieve.toml", "[components]\nPicture = \"img\"\nLink = \"a\"\n");
    let found = lines(&ferry, &["sift", "--output", "lines", "--only", "access"]);
    assert_eq!(
        found,
        [
            "board.tsx:1:34: warning: this image has no text [image-text]",
            "board.tsx:1:56: warning: this link does not say where it leads [link-text]",
        ]
    );
    let shown = ferry.run(&["settings", "board.tsx"]).out;
    assert!(shown.contains("components.Link") && shown.contains("sieve.toml:3"), "{shown}");
    ferry.write("sieve.toml", "[components]\nLink = \"anchor\"\n");
    let refused = ferry.run(&["sift"]);
    assert_eq!(refused.status, 2);
    assert!(refused.err.contains("sieve.toml:2:8: there is no element \"anchor\""), "{}", refused.err);
    ferry.write("sieve.toml", "[components]\nlink = \"a\"\n");
    assert!(ferry.run(&["sift"]).err.contains("\"link\" is not the name of a component"));
}

/// What a template decides is not known, and is no finding.
#[test]
fn templates_are_not_looked_into() {
    let page = "<ul>{% for quay in quays %}<li><a href=\"{{ quay.url }}\">{{ quay }}</a></li>{% endfor %}</ul>
<img src=\"{{ quay.picture }}\" {{ quay.rest }}>
<script>const quays = {{ quays }}; {% if low %}show(){% endif %}</script>
<div class=\"{% if low %}low\">{% else %}high\">{% endif %}</div>
";
    let ferry = Ferry::with(&[("quays.html", page)]);
    assert_eq!(lines(&ferry, &["sift", "--output", "lines"]), [""; 0]);
}
