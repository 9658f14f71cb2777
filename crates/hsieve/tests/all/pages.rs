//! Pages and style sheets: what is sifted, fixed and waived in them, and in what they hold in other languages.

use crate::ferry::Ferry;
use crate::members::{refusal, renamed};

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

const MODULE: &str =
    "export function low(hour) {\n  return hour * 2;\n}\n\nexport async function high() {\n  return 1;\n}\n";
const PAGE_OF_MODULE: &str = "<!doctype html>
<html lang=\"en\">
<head><title>Tides</title></head>
<body>
<h1>Tides</h1>
<script type=\"module\">
import { low, hihg } from \"./scripts/tides.js\";
show(low(1, 2), hihg);
</script>
</body>
</html>
";

#[test]
fn scripts_of_a_page_know_the_modules_that_they_import() {
    let ferry = Ferry::in_git(&[("page.html", PAGE_OF_MODULE), ("scripts/tides.js", MODULE)]);
    let expected = [
        "page.html:7:15: error: ./scripts/tides.js has no \"hihg\" [missing-export]",
        "page.html:8:13: error: low takes 1 argument but is given 2 [argument-count]",
    ];
    let found = |options: &[&str]| {
        let all = ferry.findings(options);
        all.into_iter().filter(|line| line.starts_with("page.html")).collect::<Vec<_>>()
    };
    assert_eq!(found(&["--no-cache"]), expected, "cold");
    assert_eq!(found(&[]), expected);
    assert_eq!(found(&[]), expected, "warm");
    ferry.write("scripts/tides.js", MODULE.replace("high", "hihg").replace("low(hour)", "low(hour, day)"));
    assert_eq!(found(&[]), [""; 0], "the module changed");
    assert_eq!(ferry.commit("both fit").status, 0);
    ferry.write("scripts/tides.js", MODULE);
    assert_eq!(found(&["--changed"]), expected, "the change of the module brought them");
    ferry.git(&["add", "--all"]);
    ferry.write("scripts/tides.js", MODULE.replace("high", "hihg").replace("low(hour)", "low(hour, day)"));
    assert_eq!(found(&["--staged"]), expected, "what is staged is read from the index");
}

const SHOWN: &str = "<!doctype html>
<html lang=\"en\">
<head>
<title>Tides</title>
<script src=\"scripts/clock.js\"></script>
<script>function show(tide) { return tick(tide); }</script>
</head>
<body onload=\"show(low)\">
<p title=\"show\">show</p>
<script type=\"module\">
import { low } from \"./scripts/tides.js\";
show(low(3));
</script>
</body>
</html>
";

#[test]
fn names_are_renamed_in_the_scripts_of_a_page() {
    let files = [
        ("page.html", SHOWN),
        ("scripts/clock.js", "function tick(hour) {\n  return hour;\n}\n\ntick(1);\n"),
        ("scripts/tides.js", MODULE),
        ("other.html", "<p onclick=\"go()\">Quays</p>\n"),
    ];
    for place in ["page.html:6:18", "page.html:8:15", "page.html:12:1"] {
        let after = renamed(&files, place, "tell", &[]);
        let wanted = SHOWN.replace("show(", "tell(");
        assert_eq!(after[0], wanted, "{place}");
        assert_eq!(after[1..], files.map(|(_, text)| text)[1..], "{place}");
    }
    let after = renamed(&files, "scripts/tides.js:1:17", "ebb", &[]);
    assert_eq!(after[0], SHOWN.replace("{ low }", "{ ebb }").replace("low(3)", "ebb(3)"), "what a module imports");
    assert!(after[2].contains("function ebb("), "{}", after[2]);
    for place in ["scripts/clock.js:1:10", "page.html:6:39"] {
        let after = renamed(&files, place, "beat", &[]);
        assert_eq!(after[0], SHOWN.replace("tick(", "beat("), "{place}");
        assert_eq!(after[1].matches("beat(").count(), 2, "{place}");
    }
}

#[test]
fn what_no_script_of_a_page_knows_is_not_renamed() {
    let files = [
        ("page.html", SHOWN),
        ("other.html", "<p onclick=\"tick()\">Quays</p>\n"),
        ("scripts/clock.js", "function tick(hour) {\n  return hour;\n}\n"),
    ];
    for (place, new, why) in [
        ("scripts/clock.js:1:10", "beat", "it is not known whose name \"tick\" is in this page"),
        ("page.html:4:3", "head", "no script of the page is at page.html:4:3"),
        ("page.html:9:18", "head", "no script of the page is at page.html:9:18"),
        ("page.html:6:18", "low", "\"low\""),
    ] {
        let found = refusal(&files, place, new, &[]);
        assert!(found.contains(why), "{place} {new}: {found}");
    }
}
