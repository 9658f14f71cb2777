//! The islands of a page ("Scripting", "The style element", "Event handler content attributes", "Style attributes", HTML, 4.12, 4.2.6,
//! 8.1.8.1, 3.2.6.7).

use super::attribute_value;
use super::template::is_filled_in;
use crate::text::{Span, Text};
use crate::tree::{Kind, NodeRef, Part, Role, Stretch, Tree};
use crate::{css, javascript, json};

/// What a page holds in one other language.
#[derive(Debug)]
pub struct Island {
    /// The language.
    pub held: Held,
    /// The whole page, everything but the stretches in the language being trivia.
    pub tree: Tree,
    /// The stretches, in order.
    pub stretches: Vec<Stretch>,
}

/// The languages that a page may hold.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Held {
    /// Scripts and handlers.
    JavaScript,
    /// Scripts that say so.
    TypeScript,
    /// Style sheets and `style` attributes.
    Css,
    /// Data for scripts.
    Json,
}

/// What a page holds in other languages. The scripts that share one scope are one layer, as are all style sheets, and all style attributes.
pub fn islands(text: &Text, tree: &Tree) -> Vec<Island> {
    let mut islands = Islands { text, scripts: Vec::new(), sheets: Vec::new(), styles: Vec::new(), own: Vec::new() };
    for node in tree.nodes() {
        match node.kind() {
            Kind::RawText => islands.element(node),
            Kind::Attribute => islands.attribute(node),
            _ => {}
        }
    }
    islands.joined()
}

struct Islands<'t> {
    text: &'t Text,
    scripts: Vec<Part>,
    sheets: Vec<Part>,
    styles: Vec<Part>,
    /// What shares nothing with others.
    own: Vec<(Held, Part)>,
}

impl Islands<'_> {
    fn element(&mut self, content: NodeRef<'_>) {
        let Some(start) = content.parent().and_then(|element| element.child(Role::Start)) else { return };
        let Some(name) = start.child(Role::Name) else { return };
        match self.text.slice(name.span()) {
            name if name.eq_ignore_ascii_case("script") => self.script(content, start),
            name if name.eq_ignore_ascii_case("style") && self.is_style(start) => {
                self.add(content.span(), css::parse, &[], |islands, part| islands.sheets.push(part));
            }
            _ => {}
        }
    }

    fn is_style(&self, start: NodeRef<'_>) -> bool {
        let language = self.value_of(start, "type").or_else(|| self.value_of(start, "lang"));
        language.is_none_or(|language| matches!(&*language, "" | "text/css" | "css"))
    }

    /// "Prepare the script element": what its type says is in it.
    fn script(&mut self, content: NodeRef<'_>, start: NodeRef<'_>) {
        if self.value_of(start, "src").is_some() {
            return;
        }
        let span = content.span();
        let own = |language| move |islands: &mut Self, part| islands.own.push((language, part));
        let typed = self.value_of(start, "type");
        let language = self.value_of(start, "lang");
        match (typed.as_deref().unwrap_or_default(), language.as_deref()) {
            (_, Some("ts" | "typescript")) => {
                self.add(span, javascript::parse_typescript, &[], own(Held::TypeScript));
            }
            (_, Some(_)) => {}
            ("", _) => self.add(span, javascript::parse, &[], |islands, part| islands.scripts.push(part)),
            ("module", _) => self.add(span, javascript::parse, &[], own(Held::JavaScript)),
            ("importmap" | "speculationrules" | "application/json" | "application/ld+json" | "text/json", _) => {
                let parse: fn(&Text) -> Tree = |text| json::parse(text, json::Dialect::Strict);
                self.add(span, parse, &[], own(Held::Json));
            }
            (typed, _) if is_javascript(typed) => {
                self.add(span, javascript::parse, &[], |islands, part| islands.scripts.push(part));
            }
            _ => {}
        }
    }

    /// The value of an attribute of a start tag, in small letters and without whitespace around it.
    fn value_of(&self, start: NodeRef<'_>, name: &str) -> Option<String> {
        let is_it = |attribute: &NodeRef<'_>| {
            let own = attribute.child(Role::Name).map(|own| self.text.slice(own.span()));
            own.is_some_and(|own| own.eq_ignore_ascii_case(name))
        };
        let attribute = start.children_in(Role::Attribute).find(is_it)?;
        let value = attribute.child(Role::Value).map(|value| attribute_value(self.text.slice(value.span())));
        Some(value.unwrap_or_default().trim().to_ascii_lowercase())
    }

    /// `style="…"` and `onclick="…"`. What is written with character references is not looked into: its places would be others.
    fn attribute(&mut self, attribute: NodeRef<'_>) {
        let (Some(name), Some(value)) = (attribute.child(Role::Name), attribute.child(Role::Value)) else { return };
        let name = self.text.slice(name.span());
        let is_style = name.eq_ignore_ascii_case("style");
        if !is_style && !is_handler(name) {
            return;
        }
        let written = self.text.slice(value.span());
        let quotes = u32::from(written.starts_with(['"', '\'']));
        let span = value.span();
        if span.len() <= 2 * quotes || has_reference(written) {
            return;
        }
        let inner = Span::new(span.start + quotes, span.end - quotes);
        if is_style {
            self.add(inner, css::parse_declarations, &[(Kind::Block, Role::Statement)], |islands, part| {
                islands.styles.push(part)
            });
        } else {
            self.add(inner, javascript::parse, HANDLER, |islands, part| islands.scripts.push(part));
        }
    }

    /// Parses a stretch as if it were alone. What a template fills in so that it cannot be understood is left out.
    fn add(
        &mut self,
        span: Span,
        parse: impl Fn(&Text) -> Tree,
        around: &'static [(Kind, Role)],
        put: impl FnOnce(&mut Self, Part),
    ) {
        let source = self.text.slice(span);
        let tree = parse(&Text::new(source.to_string()));
        if tree.faults().is_empty() || !is_filled_in(source) {
            put(self, Part { start: span.start, tree, around });
        }
    }

    fn joined(self) -> Vec<Island> {
        let length = self.text.source().len() as u32;
        let shared = [(Held::JavaScript, self.scripts), (Held::Css, self.sheets), (Held::Css, self.styles)];
        let shared = shared.into_iter().filter(|(_, parts)| !parts.is_empty());
        let own = self.own.into_iter().map(|(held, part)| (held, vec![part]));
        let island = |(held, parts): (Held, Vec<Part>)| {
            let stretches = parts.iter().map(Part::stretch).collect();
            Island { held, tree: Tree::joined(parts, length), stretches }
        };
        shared.chain(own).map(island).collect()
    }
}

/// Whether a value may hold a character reference: an ampersand with a letter, a digit or a number sign behind it.
fn has_reference(value: &str) -> bool {
    let next =
        |at: usize| value.as_bytes().get(at + 1).is_some_and(|next| next.is_ascii_alphanumeric() || *next == b'#');
    memchr::memchr_iter(b'&', value.as_bytes()).any(next)
}

/// What runs when something happens is a function's body.
const HANDLER: &[(Kind, Role)] = &[(Kind::Lambda, Role::Statement), (Kind::Block, Role::Body)];

/// Whether an attribute holds what runs when something happens.
fn is_handler(name: &str) -> bool {
    name.len() > 4
        && name.get(..2).is_some_and(|start| start.eq_ignore_ascii_case("on"))
        && name.bytes().all(|byte| byte.is_ascii_alphabetic())
}

/// "JavaScript MIME type" (MIME Sniffing), by its essence.
fn is_javascript(typed: &str) -> bool {
    let essence = typed.split(';').next().unwrap_or_default().trim();
    let Some((family, name)) = essence.split_once('/') else { return false };
    let name = name.strip_prefix("x-").unwrap_or(name);
    matches!(family, "text" | "application") && matches!(name, "javascript" | "ecmascript" | "jscript" | "livescript")
}
