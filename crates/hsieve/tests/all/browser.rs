//! What rules about pages and style sheets say, and what Chromium does with these.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::process::Command;

use serde_json::Value;
use sieve_meaning::project::Alone;
use sieve_rules::Input;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::ferry::{Ferry, has, missing, repository};

/// Elements that need a name, one a line: some have one, in every way that there is, and some have none.
const ELEMENTS: &str = r#"<img src="a.png">
<img src="a.png" alt="Tide">
<img src="a.png" title="Tide">
<img src="a.png" aria-label="Tide">
<img src="a.png" aria-labelledby="named">
<img src="a.png" aria-labelledby="nothing">
<img src="a.png" aria-label="" title="Tide">
<svg role="img"><title>Tide</title><path d="M0 0"/></svg>
<svg role="img"><path d="M0 0"/></svg>
<svg role="img" aria-label="Tide"><path d="M0 0"/></svg>
<div role="img"></div>
<div role="img" aria-label="Tide"></div>
<button></button>
<button>Book</button>
<button><i></i></button>
<button> &nbsp; </button>
<button title="Book"><i></i></button>
<button aria-label="Book"><i></i></button>
<button aria-labelledby="named other"></button>
<button><img src="a.png" alt="Book"></button>
<button><img src="a.png" alt=""></button>
<button><span aria-hidden="true">x</span></button>
<button><span hidden>Book</span></button>
<button><span style="display: none">Book</span></button>
<button><span aria-label="Book"></span></button>
<button><svg><title>Book</title></svg></button>
<div role="button" tabindex="0"></div>
<div role="button" tabindex="0">Book</div>
<input type="button">
<input type="button" value="Book">
<input type="submit">
<input type="image" src="a.png" alt="Book">
<a href="/"></a>
<a href="/">Home</a>
<a href="/"><img src="a.png" alt="Home"></a>
<a href="/"><img src="a.png" alt=""></a>
<a href="/" aria-label="Home"><i></i></a>
<a href="/" title="Home"></a>
<a href="/"><b><i>Home</i></b></a>
<span role="link" tabindex="0"></span>
<input>
<input type="text" aria-label="Quay">
<input type="text" title="Quay">
<input type="text" placeholder="Quay">
<input type="text" id="labelled">
<input type="checkbox">
<input type="radio" aria-labelledby="named">
<select><option>low</option></select>
<select aria-label="Quay"><option>low</option></select>
<textarea></textarea>
<textarea title="Quay"></textarea>
<input type="range" id="empty">
<input type="reset" value="Anew">
<input type="image" src="a.png" title="Book">
<input type="search" placeholder="Quay" title="Tide">
<input type="checkbox" id="labelled2" aria-label="Quay">
<button aria-labelledby="hidden">Book</button>
<button>Book <b>the</b>
  ferry</button>
<button><img src="a.png" alt="Book">now</button>
<button>Book<span aria-hidden="true"> x</span></button>
<button title="Book">Go</button>
<a href="/">Low &amp; high</a>
<a href="/" title="Home">Tide <img src="a.png" alt="table"></a>
<a href="/"><span aria-label="Home">x</span> y</a>
<div role="button" tabindex="0" aria-labelledby="other named">Book</div>
<img src="a.png" alt="  Tide   table ">
<svg role="img" aria-labelledby="named"><title>Tide</title><path d="M0 0"/></svg>
<select title="Quay"><option>low</option></select>
<h2>Tides <i>today</i></h2>
"#;

const AROUND: [&str; 2] = [
    "<!doctype html><html lang=\"en\"><head><title>Names</title></head><body>\n",
    "<p id=\"named\">Tide</p><p id=\"other\">of the day</p><p id=\"hidden\" hidden>Book now</p><label for=\"labelled2\">Pier</label><label for=\"labelled\">Quay</label><label for=\"empty\"></label>\n</body></html>\n",
];

/// What Chromium says of a page and of style sheets; nothing where it is not installed.
fn browser(page: &Path, sheets: &[PathBuf]) -> Option<Value> {
    let folder = repository().join("crates/hsieve/tests/page");
    if !has("node") || !has("chromium") || !folder.join("node_modules").is_dir() {
        missing("chromium, or what drives it, is missing: npm install in crates/hsieve/tests/page");
        return None;
    }
    let keywords = repository().join("crates/rules/data/keywords.txt");
    let list = tempfile::NamedTempFile::new().expect("a file");
    let names: String = sheets.iter().map(|sheet| format!("{}\n", sheet.display())).collect();
    std::fs::write(list.path(), names).expect("a file");
    let output = Command::new("node")
        .arg(folder.join("browser.mjs"))
        .arg(page)
        .arg(list.path())
        .arg(keywords)
        .output()
        .expect("node");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    Some(serde_json::from_slice(&output.stdout).expect("JSON"))
}

#[test]
fn what_has_no_name_for_rules_has_none_in_the_browser() {
    // Each element says on which line it is.
    let numbered = ELEMENTS.lines().zip(2..).map(|(line, number)| {
        // A line may go on with the element before it.
        let Some(end) = line.find([' ', '>']).filter(|_| line.starts_with('<')) else { return format!("{line}\n") };
        format!("{} data-n=\"{number}\"{}\n", &line[..end], &line[end..])
    });
    let page = format!("{}{}{}", AROUND[0], numbered.collect::<String>(), AROUND[1]);
    let ferry = Ferry::with(&[("names.html", &page)]);
    let rules = "image-text,control-label,button-text,link-text";
    let ended = ferry.run(&["sift", "--output", "lines", "--only", rules]);
    let line_of = |line: &str| line.strip_prefix("names.html:")?.split(':').next()?.parse::<u32>().ok();
    let ours: BTreeSet<u32> = ended.out.lines().filter_map(line_of).collect();
    let Some(said) = browser(&ferry.path("names.html"), &[]) else { return };
    let names = said["names"].as_object().expect("names");
    assert_eq!(names.len(), ELEMENTS.lines().filter(|line| line.starts_with('<')).count());
    let unnamed = names.iter().filter(|(_, name)| name.as_str() == Some(""));
    let theirs: BTreeSet<u32> = unnamed.map(|(number, _)| number.parse().expect("a number")).collect();
    let line = |number: &u32| page.lines().nth(*number as usize - 1).unwrap_or_default().to_string();
    let only_ours: Vec<String> = ours.difference(&theirs).map(line).collect();
    let only_theirs: Vec<String> = theirs.difference(&ours).map(line).collect();
    assert!(only_ours.is_empty() && only_theirs.is_empty(), "ours: {only_ours:#?}\ntheirs: {only_theirs:#?}");
    assert!(theirs.len() > 10);
    let read_out = |name: &str| name.split_whitespace().collect::<Vec<_>>().join(" ");
    let text = Text::new(page.clone());
    let tree = Language::Html.parse(&text);
    let input =
        Input { path: "names.html", language: Language::Html, text: &text, tree: &tree, names: None, others: &Alone };
    let ours = input.accessible_names();
    let mut differing = Vec::new();
    for (number, name) in names {
        let line = number.parse().expect("a number");
        let start = text.lines().line(text.source(), line).start;
        let (own, theirs) = (ours.get(&start).map(|name| read_out(name)), read_out(name.as_str().unwrap_or_default()));
        // What a browser writes on a button by itself is in its own words.
        let is_own_word = page.lines().nth(line as usize - 1).is_some_and(|line| line.contains("type=\"submit\">"));
        if own.as_ref() != Some(&theirs) && !is_own_word {
            differing.push(format!("{number}: {own:?}, in the browser {theirs:?}"));
        }
    }
    assert!(differing.is_empty(), "{differing:#?}");
}

#[test]
fn sheets_have_the_rules_and_properties_that_the_browser_has() {
    let modules = repository().join("crates/syntax/tests/reference/node_modules");
    let sheets: Vec<PathBuf> = [
        "bootstrap/dist/css/bootstrap.css",
        "animate.css/animate.css",
        "material-design-lite/material.css",
        "uikit/dist/css/uikit.css",
    ]
    .iter()
    .map(|sheet| modules.join(sheet))
    .filter(|sheet| sheet.is_file())
    .collect();
    let ferry = Ferry::with(&[("empty.html", "<!doctype html><title>a</title>\n")]);
    let Some(said) = browser(&ferry.path("empty.html"), &sheets) else { return };
    for (sheet, theirs) in sheets.iter().zip(said["rules"].as_array().expect("counts")) {
        let text = Text::new(std::fs::read_to_string(sheet).expect("a sheet"));
        let tree = Language::Css.parse(&text);
        // A rule that begins with the prefix of another browser is dropped, and so is the name of the encoding.
        let is_kept =
            |rule: &str| !["@charset", "@-moz", "@-ms", "@-o", "@import"].iter().any(|word| rule.starts_with(word));
        let foreign = ["::-moz", ":-moz", "::-ms", ":-ms"];
        let ours = tree.root().children().map(|rule| text.slice(rule.span())).filter(|rule| {
            let selector = rule.split('{').next().unwrap_or_default();
            is_kept(rule) && !foreign.iter().any(|name| selector.contains(name))
        });
        assert_eq!(Some(ours.count() as u64), theirs.as_u64(), "{}", sheet.display());
    }
    no_word_that_the_browser_takes_is_unknown(&ferry, &said["values"]);
    // No property that the browser has is unknown.
    let words = [
        "css-text",
        "length",
        "parent-rule",
        "css-float",
        "get-property-priority",
        "get-property-value",
        "item",
        "remove-property",
        "set-property",
        "constructor",
    ];
    let properties = said["properties"].as_array().expect("properties").iter().filter_map(Value::as_str);
    let properties: Vec<&str> =
        properties.filter(|name| !words.contains(name) && !name.starts_with("webkit")).collect();
    assert!(properties.len() > 400, "{}", properties.len());
    let sheet: String = properties.iter().map(|name| format!("  {name}: inherit;\n")).collect();
    ferry.write("all.css", format!("a {{\n{sheet}}}\n"));
    let ended = ferry.run(&["sift", "--output", "lines", "--only", "unknown-property", "all.css"]);
    assert!(!ended.out.contains("unknown-property"), "{}", ended.out);
}

fn no_word_that_the_browser_takes_is_unknown(ferry: &Ferry, values: &Value) {
    let mut count = 0;
    let mut sheet = String::new();
    for (property, words) in values.as_object().expect("properties") {
        for word in words.as_array().expect("words").iter().filter_map(Value::as_str) {
            count += 1;
            sheet += &format!("a {{ {property}: {word} }}\n");
        }
    }
    assert!(count > 1000, "{count} values are taken");
    ferry.write("values.css", sheet);
    let ended = ferry.run(&["sift", "--output", "lines", "--only", "unknown-keyword-value", "values.css"]);
    assert!(!ended.out.contains("unknown-keyword-value"), "{}", ended.out);
}
