//! Pages: what they are made of, what is wrong with some, the element tree as another reader has it, hostile texts.

use proptest::prelude::*;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use crate::listed::{faults, files, parsed, parsed_source, told};
use crate::shape::shape;

fn page(source: &str) -> (Text, Tree) {
    parsed_source(Language::Html, source.to_string())
}

/// The elements below a node by their names, nested as they are, but for those that the standard implies: their content is their parent's.
fn elements(text: &Text, node: NodeRef<'_>, out: &mut String) {
    for element in node.children().filter(|child| child.kind() == Kind::Element) {
        let name = element.child(Role::Start).and_then(|start| start.child(Role::Name));
        let name = name.map(|name| text.slice(name.span()).to_ascii_lowercase()).unwrap_or_default();
        if matches!(name.as_str(), "html" | "head" | "body" | "tbody" | "colgroup") {
            elements(text, element, out);
        } else {
            out.push_str(&format!("({name}"));
            elements(text, element, out);
            out.push(')');
        }
    }
}

fn nested(source: &str) -> String {
    let (text, tree) = page(source);
    let mut out = String::new();
    elements(&text, tree.root(), &mut out);
    out
}

#[test]
fn pages_have_their_parts() {
    for (source, expected) in [
        ("", "file"),
        ("<!DOCTYPE html>\n<!-- tides -->\n", "file(doctype)"),
        (
            "<a href=x title='low' hidden>tide</a>",
            "file(element(start-tag(tag-name attribute(tag-name string) attribute(tag-name string) attribute(tag-name)) \
             markup-text end-tag(tag-name)))",
        ),
        ("a < b & c <3", "file(markup-text)"),
        (
            "<br><img src=a />",
            "file(element(start-tag(tag-name)) element(start-tag(tag-name attribute(tag-name string))))",
        ),
        ("<script>if (a </b) c</script>", "file(element(start-tag(tag-name) raw-text end-tag(tag-name)))"),
        ("<title>a <b></title>", "file(element(start-tag(tag-name) markup-text end-tag(tag-name)))"),
        (
            "<b {{ x }} class=\"a {{ 'b\"' }}\">{% if low %}{{ tide }}</b>",
            "file(element(start-tag(tag-name template-part attribute(tag-name string)) template-part template-part end-tag(tag-name)))",
        ),
        ("</b>", "file(end-tag(tag-name))"),
    ] {
        let (text, tree) = page(source);
        assert_eq!((faults(&text, &tree), shape(tree.root()).as_str()), (Vec::new(), expected), "{source}");
    }
}

#[test]
fn elements_end_where_the_standard_ends_them() {
    for (source, expected) in [
        ("<ul><li>a<li>b<ul><li>c</ul></ul>", "(ul(li)(li(ul(li))))"),
        ("<p>a<p>b<div>c</div>", "(p)(p)(div)"),
        ("<p><b>a<p>b", "(p(b))(p)"),
        ("<dl><dt>a<dd>b<dt>c</dl>", "(dl(dt)(dd)(dt))"),
        ("<table><tr><td>1<td>2<tr><th>3</table>", "(table(tr(td)(td))(tr(th)))"),
        ("<table><thead><tr><td>1<tbody><tr><td>2</table>", "(table(thead(tr(td)))(tr(td)))"),
        ("<select><option>a<option>b<optgroup><option>c</select>", "(select(option)(option)(optgroup(option)))"),
        ("<head><title>a</title><link><p>b", "(title)(link)(p)"),
        ("<svg><path/><g><title>a</title></g></svg><p>b", "(svg(path)(g(title)))(p)"),
        ("<svg><foreignObject><p>a<p>b</foreignObject></svg>", "(svg(foreignobject(p)(p)))"),
        ("<button><p>a</button><p>b", "(button(p))(p)"),
        ("<ruby>a<rp>(<rt>b<rp>)</ruby>", "(ruby(rp)(rt)(rp))"),
        ("<div><table><tr><td></div>a</table></div>", "(div(table(tr(td))))"),
    ] {
        assert_eq!(nested(source), expected, "{source}");
    }
}

#[test]
fn mistakes_are_told_one_by_one() {
    for (source, expected) in [
        ("<p>a<b", "1:5 the tag is never closed"),
        ("<p title=\"a>b</p>", "1:10 the value is never closed"),
        ("<p title=>b</p>", "1:10 a value is missing behind '='"),
        ("<p title=\"a\"\">b</p>", "1:13 a quote begins no attribute: one is missing or too many"),
        ("<p <b>c</b>", "1:1 the tag is never closed"),
        ("<p>a<!-- b", "1:5 the comment is never closed"),
    ] {
        let (text, tree) = page(source);
        let found = faults(&text, &tree);
        assert_eq!(found.first().map(String::as_str), Some(expected), "{source}: {found:?}");
    }
}

/// The elements of a page, without those that are implied; or that it is wrong. A page may lack a doctype.
const REFERENCE: &str = "
import sys, warnings, html5lib
warnings.simplefilter('ignore')
sys.setrecursionlimit(20000)
IMPLIED = {'html', 'head', 'body', 'tbody', 'colgroup'}
def write(node, out):
    for child in node:
        if isinstance(child.tag, str):
            name = child.tag.split('}')[-1].lower()
            if name in IMPLIED:
                write(child, out)
            else:
                out.append('(' + name)
                write(child, out)
                out.append(')')
for name in open(sys.argv[1]).read().splitlines():
    with open(name, encoding='utf-8', newline='') as file:
        parser = html5lib.HTMLParser(tree=html5lib.getTreeBuilder('etree'))
        root = parser.parse(file.read())
    out = []
    write([root], out)
    wrong = {error[1] for error in parser.errors} - {'expected-doctype-but-got-start-tag', 'unknown-doctype'}
    print('error' if wrong else ''.join(out) or '-')
";

#[test]
fn real_pages_have_the_elements_that_the_reference_has() {
    let files = files("html");
    if files.is_empty() {
        return;
    }
    assert!(files.len() > 300, "{} files", files.len());
    let (mut differ, mut compared) = (Vec::new(), 0);
    for (file, theirs) in files.iter().zip(told("python3", &["-c", REFERENCE], &files)) {
        let (text, tree) = parsed(Language::Html, file);
        if theirs == "error" {
            continue;
        }
        compared += 1;
        let mut ours = String::new();
        elements(&text, tree.root(), &mut ours);
        let found = faults(&text, &tree);
        if !found.is_empty() || ours != theirs && !(ours.is_empty() && theirs == "-") {
            differ.push(format!("{}: {found:?}", file.display()));
        }
    }
    assert!(compared > 200, "{compared} compared");
    assert!(differ.is_empty(), "{} of {compared}:\n{}", differ.len(), differ.join("\n"));
}

/// Each would take minutes, or much of the stack, if anything grew faster than the text.
#[test]
fn hostile_texts_are_read_to_their_end() {
    let repeated = |piece: &str| piece.repeat(100_000);
    let sources = [
        repeated("<a>"),
        repeated("<p>"),
        repeated("<p><b>"),
        repeated("<li><div>"),
        repeated("<table><tr><td>"),
        repeated("</a>"),
        repeated("<svg>"),
        repeated("<b></i>"),
        repeated("<"),
        repeated("<!"),
        repeated("<!--"),
        repeated("<!-- --!"),
        repeated("<?"),
        repeated("<%"),
        repeated("{{"),
        repeated("{%"),
        repeated("{{{"),
        repeated("{{a}}"),
        repeated("<a b"),
        repeated("<a b="),
        repeated("<a b='"),
        repeated("<script>"),
        repeated("<script><!--<script>"),
        repeated("<![CDATA["),
        format!("<svg>{}", repeated("<![CDATA[")),
        format!("<a b=\"{}\">", repeated("{{a}}")),
        format!("<a b=\"{}\">", repeated("{{a")),
        format!("<a {}>", repeated("{{a}} ")),
        format!("<a {}>", repeated("b=c ")),
        format!("<a b={}>", repeated("{{")),
        format!("<title>{}", repeated("<a>")),
    ];
    for source in sources {
        let (text, tree) = page(&source);
        Language::Html.layers(&text, &tree);
    }
}

pub const PIECES: &[&str] = &[
    "<a>",
    "</a>",
    "<p>",
    "</p>",
    "<li>",
    "<table>",
    "<tr>",
    "<td>",
    "</table>",
    "<br>",
    "<svg>",
    "</svg>",
    "<b",
    " c",
    "=",
    "'",
    "\"",
    ">",
    "/>",
    "<!--",
    "-->",
    "<!doctype html>",
    "<script>",
    "</script>",
    "<style>",
    "</style>",
    "a { x: 1 }",
    "let a = 1;",
    "{{",
    "}}",
    "{%",
    "%}",
    "<?",
    "?>",
    "onclick='a()'",
    " style=\"x: 1\"",
    "&amp;",
    "\n",
    " ",
    "é",
    "<title>",
    "</title>",
    "]]>",
    "<![CDATA[",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_text_gives_a_sound_tree(source in "\\PC{0,80}", pieces in prop::collection::vec(prop::sample::select(PIECES), 0..40)) {
        for source in [source, pieces.concat()] {
            page(&source);
        }
    }

    /// Whatever is in an element that is closed, the one behind it is understood.
    #[test]
    fn elements_stay_what_they_are_behind_any_other(pieces in prop::collection::vec(prop::sample::select(&["<b>", "</b>", "<p>", "<i>", "x", " "][..]), 0..12)) {
        let (_, tree) = page(&format!("<section>{}</section><h1>tide</h1>", pieces.concat()));
        let last = tree.root().children().last().map(shape).unwrap_or_default();
        prop_assert_eq!(last, "element(start-tag(tag-name) markup-text end-tag(tag-name))");
    }
}
