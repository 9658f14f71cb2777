//! Pages and style sheets: mistakes that hide, and what only looks like one.

use sieve_syntax::language::Language;

use crate::bench::Bench;

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
