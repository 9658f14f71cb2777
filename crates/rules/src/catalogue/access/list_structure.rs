use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "list-structure",
    what: "an item outside of a list, or something else than an item directly in one",
    why: "A screen reader says how many items a list has, and which one it is at. Where the elements do not fit, it says nothing or counts wrong, and people \
          who hear the page miss what belongs together. To see it, let a screen reader list the lists.",
    silent: "Where a role makes something else of either, and where a component or a template may be around or between.",
    standards: &["WCAG 2.2 A, 1.3.1 Info and Relationships"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[
                Wrong { code: "<div><li>North</li></div>\n", at: &["1:6"], fixed: None },
                Wrong { code: "<ul><div>North</div></ul>\n", at: &["1:5"], fixed: None },
                Wrong { code: "<section><div><dt>Low</dt></div></section>\n", at: &["1:15"], fixed: None },
            ],
            right: &[
                "<ul><li>North<li>South</ul><menu><li>a</menu>\n<ul>{% for q in quays %}<li>{{ q }}</li>{% endfor %}</ul>\n",
                "<dl><div><dt>Low<dd>1 m</div></dl>\n<ul role=\"tablist\"><div role=\"tab\">a</div></ul><li>Part of a page</li>\n",
                "<ul><script>a</script><template><p></template></ul>\n<div role=\"list\"><li>a</li></div>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong { code: "const quays = <ul><div>North</div></ul>;\n", at: &["1:19"], fixed: None }],
            right: &[
                "const quays = <ul>{quays.map(quay => <li>{quay}</li>)}</ul>;\nconst item = <li>North</li>;\nconst a = <List><li>b</li></List>;\nconst b = <ul><Item /></ul>;\n",
            ],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element) else { return };
    match &*tag.name {
        "li" | "dt" | "dd" => item(context, &tag),
        "ul" | "ol" | "dl" => list(context, &tag),
        _ => {}
    }
}

fn item(context: &mut Context, tag: &Tag<'_>) {
    let (Some(holder), true) = (tag.parent(), tag.value("role").is_absent()) else { return };
    let is_term = tag.name != "li";
    let fits = match &*holder.name {
        "ul" | "ol" | "menu" | "dir" => !is_term,
        // A group of terms may have a holder of its own.
        "div" if is_term => holder.parent().is_none_or(|list| list.name == "dl"),
        "dl" => is_term,
        "template" | "body" | "html" | "slot" => true,
        name => name.contains('-'),
    };
    let has_role = !holder.value("role").is_absent();
    // In code, what is around may be put into a list elsewhere.
    if !fits && !has_role {
        let wanted = if is_term { "<dl>" } else { "<ul> or <ol>" };
        context
            .report(tag.head(), format!("this <{}> is not in a list", tag.name))
            .advice(format!("put it directly into {wanted}"));
    }
}

fn list(context: &mut Context, tag: &Tag<'_>) {
    let file = context.file();
    if !tag.value("role").is_absent() {
        return;
    }
    for child in tag.children().filter(|child| child.kind() == Kind::Element) {
        let Some(child) = Tag::of(file, child) else { continue };
        let is_item = if tag.name == "dl" { matches!(&*child.name, "dt" | "dd" | "div") } else { child.name == "li" };
        let fits = is_item
            || matches!(&*child.name, "script" | "template" | "slot" | "style" | "noscript")
            || child.name.contains('-');
        // A list in a list that is no item of it is the commonest of all: browsers show it as it was meant.
        let is_list = matches!(&*child.name, "ul" | "ol");
        let has_role = !matches!(child.value("role"), Value::Absent);
        if !fits && !is_list && !has_role {
            let head = child.head();
            context
                .report(head, format!("this <{}> is directly in a list and is no item", child.name))
                .advice(if tag.name == "dl" { "put it into a <dd>" } else { "put it into an <li>" });
            return;
        }
    }
}
