use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::{Tag, in_small_letters, value_of};
use crate::slip::{meant_or_listed, nearest};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "bad-value",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "a value that an attribute does not take",
    why: "Browsers take it as if it were not there, or use another value: a misspelt `type` makes a field for any text.",
    silent: "Where the value is filled in, and for attributes that take any text.",
    standards: &["HTML, Index of attributes"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong { code: "<input type=\"emial\" name=\"a\">\n", at: &["1:8"], fixed: None },
            Wrong { code: "<form method=\"psot\"></form>\n", at: &["1:7"], fixed: None },
            Wrong { code: "<th scope=\"column\">Low</th>\n", at: &["1:5"], fixed: None },
            Wrong { code: "<img src=\"a.png\" alt=\"\" loading=\"lazzy\">\n", at: &["1:25"], fixed: None },
        ],
        right: &[
            "<input type=\"EMAIL\"><input type=\"{{ kind }}\"><button type=\"submit\">Book</button>\n<form method=post><td scope></td><img loading=\"\" alt=\"\" src=\"a\"></form>\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], check),
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::of(context.file(), element) else { return };
    for (name, attribute) in tag.attributes() {
        let Some((_, _, words)) =
            VALUES.iter().find(|(of, own, _)| *own == name && (of.is_empty() || of.contains(&&*tag.name)))
        else {
            continue;
        };
        let value = value_of(context.file(), attribute);
        let Some(text) = value.text().map(str::trim).filter(|text| !text.is_empty()) else { continue };
        let word = in_small_letters(text);
        if words.contains(&&*word) {
            continue;
        }
        let meant = nearest(&word, words.iter().copied());
        context
            .report(attribute.span(), format!("{name} takes no value \"{text}\""))
            .advice(meant_or_listed(meant, words.iter().copied()));
    }
}

/// Elements, those that are meant by none being all, the names of attributes, and the values that they take (HTML, the index of attributes).
const VALUES: &[(&[&str], &str, &[&str])] = &[
    (
        &["input"],
        "type",
        &[
            "text",
            "button",
            "checkbox",
            "color",
            "date",
            "datetime-local",
            "email",
            "file",
            "hidden",
            "image",
            "month",
            "number",
            "password",
            "radio",
            "range",
            "reset",
            "search",
            "submit",
            "tel",
            "time",
            "url",
            "week",
            "datetime",
        ],
    ),
    (&["button"], "type", &["button", "submit", "reset", "menu"]),
    (&["form"], "method", &["get", "post", "dialog"]),
    (&["input", "button"], "formmethod", &["get", "post", "dialog"]),
    (&["form"], "enctype", &["application/x-www-form-urlencoded", "multipart/form-data", "text/plain"]),
    (&["th", "td"], "scope", &["row", "col", "rowgroup", "colgroup"]),
    (&["track"], "kind", &["subtitles", "captions", "descriptions", "chapters", "metadata"]),
    (&["img", "iframe"], "loading", &["lazy", "eager", "auto"]),
    (&["img"], "decoding", &["sync", "async", "auto"]),
    (&["audio", "video"], "preload", &["none", "metadata", "auto"]),
    (&["area"], "shape", &["circle", "circ", "default", "poly", "polygon", "rect", "rectangle"]),
    (&["textarea"], "wrap", &["soft", "hard", "off", "virtual", "physical"]),
    (&["audio", "img", "link", "script", "video"], "crossorigin", &["anonymous", "use-credentials", "true"]),
    (&["img", "link", "script"], "fetchpriority", &["high", "low", "auto"]),
    (&[], "dir", &["ltr", "rtl", "auto"]),
];
