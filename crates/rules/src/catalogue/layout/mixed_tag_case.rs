use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::habit::chosen;
use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};
use crate::markup::Tag;
use crate::markup::elements::attributes_of;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "mixed-tag-case",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: Some(FixKind::Exact),
    what: "a tag or an attribute whose name is not in the case that the others of the page are in",
    why: "Browsers read both in the same way, but a search finds one of them alone, and readers ask what the difference means.",
    silent: "In a page where neither is usual; within `svg` and `math`; names that HTML does not know, which templates of frameworks write as they need them.",
    standards: &[],
    options: &[OptionFacts {
        name: "case",
        default: OptionDefault::Choice("as-is", &["as-is", "lower", "upper"]),
        about: "the case that names are to be in: as-is is what the page mostly has",
    }],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong {
                code: "<ul>\n<li>low</li>\n<LI>high</LI>\n</ul>\n",
                at: &["3:2"],
                fixed: Some("<ul>\n<li>low</li>\n<li>high</li>\n</ul>\n"),
            },
            Wrong {
                code: "<p id=\"a\" CLASS=\"b\" onClick=\"sail()\">low</p>\n",
                at: &["1:11", "1:21"],
                fixed: Some("<p id=\"a\" class=\"b\" onclick=\"sail()\">low</p>\n"),
            },
        ],
        right: &[
            "<P ID=\"a\">low</P>\n<p id=\"b\">high</p>\n",
            "<p ngModel=\"fare\" fareName=\"x\">low</p>\n<svg viewBox=\"0 0 1 1\"><linearGradient/></svg>\n",
        ],
    }],
    needs_names: false,
    check: Check::All(&[Kind::Element], check),
};

fn check(context: &mut Context, elements: &[NodeRef]) {
    let file = context.file();
    let tags: Vec<Tag> = elements.iter().filter_map(|element| Tag::of(file, *element)).collect();
    let is_lower: Vec<bool> = tags.iter().flat_map(|tag| case_of(name_of(tag.start(), file)?.1)).collect();
    let Some(wants_lower) = chosen(context, "case", "lower", &is_lower) else { return };
    for tag in tags.iter().filter(|tag| has_other_case(tag, wants_lower)) {
        if tag.around().flatten().chain([tag.clone()]).any(|around| matches!(&*around.name, "svg" | "math")) {
            continue;
        }
        on_tag(context, tag, wants_lower);
    }
}

/// Whether a name is in small letters; nothing where it has letters of both cases.
fn case_of(name: &str) -> Option<bool> {
    let has_lower = name.bytes().any(|byte| byte.is_ascii_lowercase());
    let has_upper = name.bytes().any(|byte| byte.is_ascii_uppercase());
    (has_lower != has_upper).then_some(has_lower)
}

/// The name of a tag or of an attribute.
fn name_of<'f>(named: NodeRef<'f>, file: File<'f>) -> Option<(NodeRef<'f>, &'f str)> {
    let name = named.child(Role::Name)?;
    Some((name, file.node_text(name)))
}

/// The cheap test: whether any name has a letter of the other case.
fn has_other_case(tag: &Tag, wants_lower: bool) -> bool {
    let is_other = |byte: u8| if wants_lower { byte.is_ascii_uppercase() } else { byte.is_ascii_lowercase() };
    let attributes = tag.start().children_in(Role::Attribute);
    let names = [tag.start()].into_iter().chain(attributes).filter_map(|named| name_of(named, tag.file));
    names.into_iter().any(|(_, name)| name.bytes().any(is_other))
}

fn on_tag(context: &mut Context, tag: &Tag, wants_lower: bool) {
    let file = tag.file;
    let right = |name: &str| if wants_lower { name.to_ascii_lowercase() } else { name.to_ascii_uppercase() };
    let end = tag.element.child(Role::End).and_then(|end| name_of(end, file));
    if let Some((start, name)) = name_of(tag.start(), file)
        && case_of(name).is_some_and(|is_lower| is_lower != wants_lower)
    {
        let names = [Some((start, name)), end].into_iter().flatten();
        let edits = names.map(|(node, name)| Edit::replace(node.span(), right(name))).collect();
        report(context, start, name, &right(name), edits);
    }
    for attribute in tag.start().children_in(Role::Attribute) {
        let Some((node, name)) = name_of(attribute, file) else { continue };
        let wanted = right(name);
        if wanted != name && is_of_html(tag, &name.to_ascii_lowercase()) {
            report(context, node, name, &wanted, vec![Edit::replace(node.span(), wanted.clone())]);
        }
    }
}

/// Whether HTML knows an attribute: else its case may mean something to a script.
fn is_of_html(tag: &Tag, name: &str) -> bool {
    let is_handler = name.starts_with("on") && name.bytes().all(|byte| byte.is_ascii_lowercase());
    is_handler || attributes_of(&tag.name).any(|known| known == name)
}

fn report(context: &mut Context, place: NodeRef, name: &str, right: &str, edits: Vec<Edit>) {
    context
        .report(place.span(), format!("{name} is written in another case than the names around it"))
        .advice(format!("write {right}"))
        .fix(edits);
}
