use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_PAGES;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::name::{Name, content};
use crate::markup::page::{is_package_comment, page_of};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "page-title",
    what: "a page without a title, or with an empty one",
    why: "The title is the first that a screen reader says, and all that a tab, a bookmark or a list of results shows. People who cannot look over a page \
          do not know where they are. To see it, look at the tab.",
    silent: "In parts of pages, in `package.html`, of which the body goes into another page, and where a template may fill the head in.",
    standards: &["WCAG 2.2 A, 2.4.2 Page Titled"],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong {
                code: "<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n</head>\n<p>Tides</p>\n</html>\n",
                at: &["2:1"],
                fixed: None,
            },
            Wrong { code: "<html lang=\"en\"><head><title> </title></head></html>\n", at: &["1:23"], fixed: None },
        ],
        right: &[
            "<html lang=\"en\"><head><title>Tides</title></head></html>\n",
            "<html lang=\"en\"><head><title>{{ title }}</title></head></html>\n",
            "<html lang=\"en\"><head>{% block head %}{% endblock %}</head></html>\n",
            "<p>Tides</p>\n",
        ],
    }],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_PAGES
};

fn check(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(head) = Tag::shown(context, element).filter(|tag| tag.name == "head") else { return };
    if page_of(file).is_filled_in || is_package_comment(file) {
        return;
    }
    let title = head.children().filter_map(|child| Tag::of(file, child)).find(|tag| tag.name == "title");
    let advice = "say in <title> what the page is, the most particular words first";
    match title {
        Some(title) if content(&title, 1) == Name::None => {
            context.report(title.head(), "the title of this page is empty").advice(advice);
        }
        None if head.parent().is_some_and(|around| around.name == "html") => {
            context.report(head.head(), "this page has no title").advice(advice);
        }
        _ => {}
    }
}
