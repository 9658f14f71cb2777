//! What pages hold in other languages: at its place, as if it were alone.

use proptest::prelude::*;
use sieve_syntax::language::{Language, Layer};
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, TokenKind};

use crate::html::PIECES;
use crate::listed::{files, parsed, parsed_source};
use crate::shape::{assert_kinds, assert_sound, shape};

fn layers(source: &str) -> (Text, Vec<Layer>) {
    let (text, tree) = parsed_source(Language::Html, source.to_string());
    let layers = Language::Html.layers(&text, &tree);
    for layer in &layers {
        assert_sound(&layer.tree, text.source());
        assert_kinds(layer.language, &layer.tree);
    }
    (text, layers)
}

fn shapes(source: &str) -> Vec<String> {
    let (_, layers) = layers(source);
    layers.iter().map(|layer| format!("{}: {}", layer.language.name(), shape(layer.tree.root()))).collect()
}

#[test]
fn scripts_of_a_page_are_one_layer() {
    let found = shapes(
        "<script>let tide = 1;</script>\n<p onclick='sail(tide)'>low</p><script type=text/javascript>sail;</script>",
    );
    let expected = "javascript: file(declaration(assignment(capture-pattern(name) number)) \
                    lambda(block(expression-statement(call(name arguments(name))))) expression-statement(name))";
    assert_eq!(found.len(), 1, "{found:?}");
    // The shape of a declaration is the language's own.
    assert!(found[0].ends_with(expected.split_once("lambda").map_or("", |(_, end)| end)), "{found:?}");
}

#[test]
fn each_language_has_its_layers() {
    let source = "<style>a { x: 1 }</style><style>b {}</style><p style='y: 2'><script type=module>a</script>\
                  <script type=\"application/ld+json\">{\"a\": 1}</script><script lang=ts>let a: b;</script>";
    let (_, found) = layers(source);
    let languages: Vec<&str> = found.iter().map(|layer| layer.language.name()).collect();
    assert_eq!(languages, ["css", "css", "javascript", "json", "typescript"]);
    let rules = found[0].tree.nodes().filter(|node| node.kind() == Kind::StyleRule).count();
    assert_eq!(rules, 2);
    assert_eq!(shape(found[1].tree.root()), "file(block(style-declaration(name style-value(number))))");
}

#[test]
fn what_is_no_code_or_has_other_places_is_left_alone() {
    for source in [
        "<script src=a.js>let tide</script>",
        "<script type=\"text/x-template\"><p></script>",
        "<script>{% if low %}let tide{% endif %}</script>",
        "<p onclick='a &amp;&amp; b()'>",
        "<p onclick='a &#38;&#38; b()'>",
        "<p style=''>",
        "<style lang=scss>a { b { c: d } }</style>",
        "<script></script>",
    ] {
        assert_eq!(shapes(source), [""; 0], "{source}");
    }
}

#[test]
fn places_are_those_of_the_page() {
    let source = "<p>é</p>\n<script>\n  sail(tide);\n</script>";
    let (text, found) = layers(source);
    let call = found[0].tree.nodes().find(|node| node.kind() == Kind::Call).expect("a call");
    assert_eq!(text.slice(call.span()), "sail(tide)");
    assert_eq!(text.lines().line_of(call.span().start), 3);
    let first = found[0].tree.tokens()[0];
    assert_eq!((first.start, first.kind), (0, TokenKind::Elsewhere));
}

/// The scripts and styles of real pages are what they are when each is alone.
#[test]
fn islands_are_parsed_as_if_they_were_alone() {
    let mut seen = 0;
    for file in files("html") {
        let (text, tree) = parsed(Language::Html, &file);
        for layer in Language::Html.layers(&text, &tree) {
            assert_sound(&layer.tree, text.source());
            let mut faults = 0;
            let mut shapes = Vec::new();
            for stretch in layer.stretches.iter().filter(|stretch| !stretch.is_inline) {
                let alone = layer.language.parse(&Text::new(text.slice(stretch.span).to_string()));
                faults += alone.faults().len();
                shapes.extend(alone.root().children().map(shape));
                seen += 1;
            }
            if layer.stretches.iter().any(|stretch| stretch.is_inline) {
                continue;
            }
            let own: Vec<String> = layer.tree.root().children().map(shape).collect();
            assert_eq!((own, layer.tree.faults().len()), (shapes, faults), "{}", file.display());
        }
    }
    assert!(seen > 100 || files("html").is_empty(), "{seen} islands");
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 1000, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn layers_of_any_page_are_sound(pieces in prop::collection::vec(prop::sample::select(PIECES), 0..40)) {
        layers(&pieces.concat());
    }
}
