use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_PAGES;
use crate::interface::{Check, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::hidden::is_hidden;
use crate::markup::name::{Name, name_without_content};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "landmark-unique",
    mesh: Mesh::Fine,
    level: Level::Note,
    what: "several parts of a page of one sort that nothing tells from each other, or a second main part",
    why: "A screen reader lists the parts of a page to jump to. Where two have the same name, people who hear the list have to try each. To see it, let a screen reader list the landmarks.",
    silent: "Where a part is hidden, and where a name is filled in; where each part is in one of several elements alike, of which scripts may show one at a time.",
    standards: &["WCAG 2.2 A, 1.3.1 Info and Relationships"],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong { code: "<nav>Quays</nav><main>Tides</main><nav>Fares</nav>\n", at: &["1:35"], fixed: None },
            Wrong { code: "<main>Tides</main><main>Fares</main>\n", at: &["1:19"], fixed: None },
        ],
        right: &[
            "<nav aria-label=\"Quays\">a</nav><nav aria-label=\"Fares\">b</nav><main>Tides</main><main hidden>Fares</main>\n",
            "<nav>Quays</nav><nav aria-label=\"Fares\">b</nav>\n",
            "<div class=\"page\"><main>Tides</main></div><div class=\"page\"><main>Fares</main></div>\n",
            "<nav aria-label=\"{{ a }}\">a</nav><nav aria-label=\"{{ b }}\">b</nav>\n",
        ],
    }],
    check: Check::All(&[Kind::Element], check),
    ..OF_PAGES
};

fn check(context: &mut Context, elements: &[NodeRef]) {
    let file = context.file();
    let mut seen: FxHashMap<(&str, String), Tag> = FxHashMap::default();
    for node in elements {
        let Some(tag) = Tag::of(file, *node) else { continue };
        let sort = match tag.role().as_deref() {
            Some("navigation") => "navigation",
            Some("main") => "main",
            _ => continue,
        };
        if is_hidden(&tag) != Some(false) {
            continue;
        }
        let name = match name_without_content(&tag) {
            Name::Is(name) => name.to_lowercase(),
            Name::None => String::new(),
            Name::Unknown => continue,
        };
        let key = (sort, if sort == "main" { String::new() } else { name });
        let place = tag.head();
        let Some(first) = seen.insert(key, tag.clone()).filter(|first| !are_in_views(first, &tag)) else { continue };
        let (message, advice) = if sort == "main" {
            ("this page has two main parts", "keep one, or hide the one that is not shown")
        } else {
            ("nothing tells this navigation from one above it", "name each: aria-label=\"…\"")
        };
        context.report(place, message).related(first.head(), "the other one").advice(advice);
    }
}

/// Whether two elements are each in one of several alike, of which scripts may show one at a time: beside each other, with the same name
/// and the same class or data.
fn are_in_views(first: &Tag<'_>, second: &Tag<'_>) -> bool {
    let mut paths = [first, second].map(|tag| tag.element.ancestors().collect::<Vec<NodeRef>>());
    paths.iter_mut().for_each(|path| path.reverse());
    let [one, other] = paths;
    let Some((one, other)) = one.into_iter().zip(other).find(|(one, other)| one != other) else { return false };
    let (Some(one), Some(other)) = (Tag::of(first.file, one), Tag::of(second.file, other)) else { return false };
    let says_view = |name: &str| name == "class" || name.starts_with("data-");
    one.name == other.name
        && one
            .attributes()
            .any(|(name, _)| says_view(&name) && one.value(&name).text().is_some_and(|own| other.value(&name).is(own)))
}
