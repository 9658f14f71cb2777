//! Pages and style sheets: mistakes that hide, and what only looks like one.

use sieve_rules::OptionValue;
use sieve_syntax::language::Language;

use crate::cases::bench::Bench;

fn html(rule: &'static str) -> Bench {
    Bench::of(rule, Language::Html)
}

fn css(rule: &'static str) -> Bench {
    Bench::of(rule, Language::Css)
}

#[test]
fn elements_are_closed() {
    html("unclosed-element").finds("<div>«<b>a</div>\n«<section>\n");
    html("unclosed-element").passes(&[
        "<p>a<p>b<ul><li>c</ul><br><hr/><input>",
        "<svg><g/><path/></svg><math><mi/></math>",
        "<?php if ($low): ?><div><?php endif; ?>",
        "{{#if low}}<div>{{/if}}",
    ]);
    html("unclosed-element").finds("<p>{{ tide }}</p>«<div>\n");
    html("stray-end-tag").finds("<p>a</p>«</div>«</br>\n");
    html("stray-end-tag").finds("<h2>a«</h3>\n");
    html("stray-end-tag").passes(&["<b><i>a</b></i>", "{% if low %}</div>{% endif %}", "<p>a</p>"]);
}

#[test]
fn ids_and_attributes_are_there_once() {
    html("repeated-id").finds("<p id=\"a\">x<p «id=\"a\">y<p «id=\"a\">z\n");
    html("repeated-id").passes(&[
        "<p id=a>x<p id=b>y",
        "<p id=\"{{ a }}\">x<p id=\"{{ a }}\">y",
        "<p id=\"\">x<p id=\"\">y",
    ]);
    html("repeated-attribute").finds("<p class=\"a\" «CLASS=\"b\">x\n");
    html("repeated-attribute").passes(&["<p class=\"a\" {% if b %}class=\"b\"{% endif %}>x"]);
}

#[test]
fn references_lead_somewhere() {
    let page = |body: &str| format!("<html lang=\"en\"><title>a</title>{body}</html>\n");
    html("dangling-reference").finds(&page("<a «href=\"#nroth\">a</a><h2 id=\"north\">b</h2>"));
    html("dangling-reference").finds(&page("<label «for=\"a\">a</label><input id=\"b\">"));
    html("dangling-reference").says(
        &page("<a href=\"#nroth\">a</a><h2 id=\"north\">b</h2>"),
        &["no element of this page has the id \"nroth\""],
    );
    for right in [
        "<a href=\"#\">a</a><a href=\"#top\">b</a><a href=\"#/route\">c</a>",
        "<a href=\"#x\">a</a><a name=\"x\"></a>",
        "<a href=\"#x\">a</a><script>draw()</script>",
        "<a href=\"#x\">a</a>{% include 'x' %}",
    ] {
        html("dangling-reference").passes(&[&page(right)]);
    }
    html("dangling-reference").passes(&["<a href=\"#x\">a</a>"]);
}

#[test]
fn elements_are_known_and_not_in_each_other() {
    html("unknown-element")
        .finds("«<sectoin>a</sectoin><quay></quay><ferry-board></ferry-board><svg><feBlend/></svg>\n");
    html("obsolete-element").finds("«<center>a</center>«<font>b</font><marquee>c</marquee>\n");
    html("bad-nesting").finds("<a href=\"/\">«<button>a</button></a><button>«<a href=\"/\">b</a></button>\n");
    html("bad-nesting")
        .passes(&["<label>a<input></label><a><button>b</button></a><button><input type=\"hidden\"></button>"]);
}

#[test]
fn addresses_are_safe() {
    html("javascript-address").finds("<a «href=\"javascript:book()\">a</a><a href=\"javascript:void(0)\">b</a>\n");
    html("mixed-content")
        .finds("<script «src=\"http://saltmarsh.example/a.js\"></script><a href=\"http://saltmarsh.example/\">b</a>\n");
}

#[test]
fn rules_hold_something() {
    css("empty-rule").fixes("c { y: 1 }\na {}\nb { x: 1 }\n@media print {\n}\n", "c { y: 1 }\nb { x: 1 }\n");
    css("empty-rule").passes(&["a { /* by the script */ }", "@layer base {}", "@keyframes ebb {}", "a { b: c }"]);
}

#[test]
fn declarations_have_an_effect() {
    css("repeated-declaration").finds("a { margin: 1px; color: red; «margin: 2px; «color: red }\n");
    css("repeated-declaration").passes(&[
        "a { height: 100vh; height: 100dvh }",
        "a { background: #fff; background: rgb(0 0 0 / 50%) }",
        "a { display: block; display: grid }",
        "a { margin: 1px; margin: 2px\\9 }",
        "a { margin: 1px } a { margin: 1px }",
    ]);
    css("shorthand-overrides").finds("a { «padding-left: 1px; padding: 0 }\n");
    css("shorthand-overrides").passes(&[
        "a { padding: 0; padding-left: 1px }",
        "a { padding-left: 1px !important; padding: 0 }",
        "a { padding-left: 1px; padding: 0; padding-left: 2px }",
    ]);
}

#[test]
fn names_are_those_of_the_specifications() {
    css("unknown-property")
        .says("a { colr: red; disply: none }", &["there is no property colr", "there is no property disply"]);
    css("unknown-property").passes(&[
        "a { -webkit-x: 1; --y: 2; *zoom: 1; _w: 1; COLOR: red; user-select: none; word-wrap: normal }",
        "@font-face { src: url(a); unicode-range: U+1 } @page { size: a4 } @counter-style x { system: cyclic }",
        "@tailwind { quay: 1 }",
    ]);
    css("unknown-unit").finds("a { margin: «1xp «2rme 3px 4Q 5dvh; --x: 1quay }\n");
    css("unknown-unit").passes(&["li:nth-child(2n+1) { a: b }", "@font-face { unicode-range: U+4E00-9FFF, U+0a }"]);
    css("unknown-pseudo").finds("a«:hoover, a«::befor, a:hover, a:before, a::-moz-x, a:global(b) {}\n");
    css("bad-colour").finds("a { color: «#ff; background: #abcd; border-color: «#12345z }\n#ff { color: red }\n");
}

#[test]
fn strings_of_one_expression_are_that_expression() {
    let hcl = |rule| Bench::of(rule, Language::Hcl);
    hcl("needless-template").fixes(
        "a = \"${var.b}\"\nc = [\"${f(1)}\", \"${d ? 1 : 2}\"]\ne = \"${d ? 1 : 2}\" == 1\ng = \"${~ var.h ~}\"\n",
        "a = var.b\nc = [f(1), d ? 1 : 2]\ne = (d ? 1 : 2) == 1\ng = var.h\n",
    );
    hcl("needless-template").passes(&[
        "a = \"${b}c\"\nd = { \"${e}\" = 1 }\nf = \"%{ if g }%{ endif }\"\nh = \"$${i}\"\nj = \"\"\n",
        "a = <<E\n${b}\nE\n",
    ]);
    hcl("needless-template").leaves("a = \"${f(\n  1)}\"\n");
    hcl("comment-marker").fixes("// a\nb = 1 // c\n# d\n/* e */\n", "# a\nb = 1 # c\n# d\n/* e */\n");
}

#[test]
fn zeros_need_no_unit() {
    css("zero-unit").fixes("a { margin: 0px -0.0em 1px; top: 0% }\n", "a { margin: 0 -0.0 1px; top: 0% }\n");
    css("zero-unit")
        .passes(&["a { flex: 1 0 0px; width: calc(0px + 1em); transition: 0s; --x: 0px; line-height: 0px }"]);
    css("missing-fallback-family")
        .finds("a { «font-family: Quay, Tide } b { font-family: Quay, serif } c { font-family: Quay }\n");
}

#[test]
fn attributes_have_values_that_they_take() {
    html("bad-value").finds(
        "<input «type=emial><button «type=\"sbumit\">a</button><form «method=\"psot\"><td «scope=\"column\"><p «dir=lr>\n",
    );
    html("bad-value").passes(&[
        "<input type=\" TEL \"><input type><input type=\"\"><input type=\"{{ kind }}\"><ferry-field type=\"quay\"></ferry-field>",
        "<form method=POST><ul type=\"square\"><ol type=a><script type=\"quay/board\"></script><link type=\"text/css\">",
        "<img loading=lazy alt=\"\" src=a crossorigin><svg><path fill=\"none\" wrap=\"b\"/></svg>",
    ]);
    html("empty-attribute").finds("<p «class>a</p><p «class=\" \" «id=\"\">b</p><label «for=''>c</label>\n");
    html("empty-attribute").passes(&[
        "<img alt=\"\" src=a><p hidden title=\"\" class=\"{{ a }}\" data-x=\"\"></p><input value=\"\" disabled>",
    ]);
    html("new-window-opener")
        .finds("<a href=\"//tides.example\" «target=_blank>a</a><a href=\"https://b.example\" «target=\"_blank\" rel=\"nofollow\">b</a>\n");
    html("new-window-opener").passes(&[
        "<a href=\"https://tides.example\" target=\"_blank\" rel=\"NOREFERRER\">a</a><a href=\"b\" target=\"_blank\">b</a>",
        "<a href=\"https://tides.example\" target=\"board\">a</a><a href=\"https://b\" target=_blank rel=\"{{ c }}\">b</a>",
    ]);
    html("inline-handler").finds("<body «onload=\"show()\"><a «ONCLICK=\"book()\">a</a></body>\n");
    html("inline-handler").passes(&["<a once=\"a\" on=\"b\" onclick>c</a><ferry-board onsail=\"a\"></ferry-board>"]);
}

#[test]
fn prefixes_stand_beside_the_plain_name() {
    css("lone-prefix").finds("a { «-webkit-transition: a 1s; -moz-transition: a 1s; «-ms-transform: none }\n");
    css("lone-prefix").passes(&[
        "a { -webkit-transition: a 1s; transition: a 1s } b { transform: none; -webkit-transform: none }",
        "a::-webkit-thumb { -webkit-transform: none } a:-moz-focus { b { -moz-transition: a 1s } }",
        "@supports (-webkit-appearance: none) { a { -webkit-transform: none } } @-moz-keyframes a { b { -moz-transform: c } }",
        "a { -webkit-line-clamp: 2; -webkit-box-orient: vertical; -webkit-backface-visibility: hidden; -webkit-filter: a }",
    ]);
}

#[test]
fn words_are_those_that_a_property_takes() {
    css("unknown-keyword-value").says(
        "a { text-align: centre; position: obsolute; font-style: none }",
        &[
            "text-align takes no value \"centre\"",
            "position takes no value \"obsolute\"",
            "font-style takes no value \"none\"",
        ],
    );
    css("unknown-keyword-value").passes(&[
        "a { text-align: CENTER; position: var(--a); display: -webkit-box; float: inherit; width: intrinsic; cursor: hand }",
        "a { color: quay; font-family: quay; animation-name: quay; grid-area: quay; --position: quay; list-style: quay }",
        "a { position: absolute !important; display: $quay; overflow: overlay; border-style: solid dashed }",
        "@viewport { width: device-width } a { visibility: \\68 idden; quay: tide; align-items: unsafe }",
    ]);
    css("custom-property-slip").finds(":root { --tide-low: 1px } a { margin: var(«--tide-lwo) }\n");
    css("custom-property-slip").passes(&[
        ":root { --tide-low: 1px } a { margin: var(--tide-high); top: var(--tide-lwo,); left: var(--tide-lwo) }",
        ":root { --tide-low: 1px } a { margin: var(--tide-lwo); padding: var(--tide-lwo) }",
        ":root { --a1: 1px } a { margin: var(--a2) }",
        ":root { --tide-1: 1px } a { margin: var(--tide-12) }",
    ]);
}

#[test]
fn sheets_can_be_changed() {
    css("repeated-selector")
        .finds("a,\nb { c: d } e { f: g } «a, b { h: i } @media x { a, b { c: d } «a,\tb { e: f } }\n");
    css("repeated-selector").passes(&["@keyframes a { from { b: c } from { d: e } }", "a { b: c } a b { d: e }"]);
    css("nested-rules").finds("a { b { c { «d { e { f: g } } } } }\n");
    css("nested-rules").passes(&["a { b { @media x { c { d: e } } } }"]);
    css("too-specific")
        .with("limit", OptionValue::Count(2))
        .finds("«.a .b[c] {} «.a:is(.b, .c.d) {} «a:hover:focus.b {}\n");
    css("too-specific")
        .with("limit", OptionValue::Count(2))
        .passes(&[".a .b {} .a:where(.b.c.d) {} .a::before {} #a #b .c {} a:not(.b) {}"]);
    css("mixed-colour-case").fixes(
        "a { color: #fff; top: #ABCDEF } b { color: #abc; c: #Ab0 }\n",
        "a { color: #fff; top: #abcdef } b { color: #abc; c: #ab0 }\n",
    );
    css("mixed-colour-case")
        .with("case", OptionValue::Word("upper".into()))
        .fixes("a { b: #fff }\n", "a { b: #FFF }\n");
    css("mixed-colour-case").passes(&["a { b: #FFF; c: #000 }", "a { b: #FFF; c: #aaa }", "#Ab { c: #zzZ }"]);
}

#[test]
fn infrastructure_is_closed_and_fixed() {
    let hcl = |rule| Bench::of(rule, Language::Hcl);
    hcl("floating-source").finds(
        "module \"a\" {\n  source = «\"git::ssh://git@saltmarsh.example/quay.git\"\n}\nmodule \"b\" {\n  source = «\"saltmarsh.example/quay.git?ref=HEAD\"\n}\n",
    );
    hcl("floating-source").passes(&[
        "module \"a\" {\n  source = \"git::https://saltmarsh.example/a.git//b?depth=1&ref=1a2b3c\"\n}\n",
        "module \"a\" {\n  source = \"./a\"\n}\nmodule \"b\" {\n  source = \"https://saltmarsh.example/a.zip\"\n}\n",
        "module \"a\" {\n  source = \"git::https://saltmarsh.example/${var.a}.git\"\n}\nb {\n  source = \"git::a\"\n}\n",
    ]);
    hcl("unpinned-version")
        .finds("module «\"a\" {\n  source = \"registry.saltmarsh.example/pier/quay/tide//deep\"\n}\n");
    hcl("open-to-all").finds(
        "r {\n  ingress {\n    from_port = 0\n    to_port = 0\n    cidr_blocks = [\"10.0.0.0/8\", «\"0.0.0.0/0\"]\n    ipv6_cidr_blocks = [«\"::/0\"]\n  }\n}\nresource \"pier_ingress_rule\" \"a\" {\n  from_port = 5432\n  cidr_ipv4 = «\"0.0.0.0/0\"\n}\n",
    );
    hcl("open-to-all").passes(&[
        "r {\n  egress {\n    from_port = 22\n    cidr_blocks = [\"0.0.0.0/0\"]\n  }\n}\n",
        "r {\n  ingress {\n    from_port = 443\n    to_port = 443\n    cidr_blocks = [\"0.0.0.0/0\"]\n  }\n}\n",
        "r {\n  ingress {\n    from_port = var.port\n    cidr_blocks = [\"0.0.0.0/0\"]\n  }\n}\n",
        "resource \"pier_route\" \"a\" {\n  port = 22\n  cidr_blocks = [\"0.0.0.0/0\"]\n}\n",
    ]);
    hcl("wide-permission").finds("a {\n  mode = «\"0666\"\n  b {\n    file_permission = «\"777\"\n  }\n}\n");
    hcl("wide-permission").passes(&["a {\n  mode = \"1777\"\n}\nb {\n  mode = \"tide\"\n}\nc {\n  mode = 0777\n}\n"]);
    hcl("repeated-attribute").finds("a {\n  b = 1\n  c {\n    b = 1\n    «b = 2\n  }\n  «b = 2\n}\n");
    hcl("repeated-key").finds("a = { b = 1, c = { b = 1 }, «b = 2, (c) = 3, \"d\" = 4, «\"d\" = 5 }\n");
    hcl("empty-list-comparison").finds("a = «var.b == [] ? 1 : 2\nc = «{} != local.d\ne = [] == []\nf = [1] == g\n");
}

#[test]
fn equals_signs_are_below_each_other_where_they_are_so_elsewhere() {
    let rule = || Bench::of("aligned-values", Language::Hcl);
    rule().fixes(
        "a {\n  bc = 1\n  d  = 2\n}\ne {\n  f   = 1\n  ghi = 2\n}\nj {\n  kl = 1\n  m = 2 # low\n  no   = 3\n}\n",
        "a {\n  bc = 1\n  d  = 2\n}\ne {\n  f   = 1\n  ghi = 2\n}\nj {\n  kl = 1\n  m  = 2 # low\n  no = 3\n}\n",
    );
    rule().with("values", OptionValue::Word("apart".into())).fixes("bc = 1\nd  = 2\n", "bc = 1\nd = 2\n");
    rule().with("values", OptionValue::Word("aligned".into())).fixes("bc = 1\nd = 2\n", "bc = 1\nd  = 2\n");
    rule().passes(&[
        "bc = 1\nd = 2\n",
        "bc = 1\nd  = 2\n",
        "bc = 1\nd  = 2\n\nef = 1\n# low\ng = [\n]\nh = 2\n",
        "a { bc = 1 }\nd { e = 2 }\n",
    ]);
}
