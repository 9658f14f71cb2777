//! What a reader of YAML is told of a stream, in the form of the language's own test suite: one event a line.

use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, TokenKind, Tree};
use sieve_syntax::yaml::{block_value, string_value};

/// The events of a stream.
pub fn events(text: &Text, tree: &Tree) -> Vec<String> {
    let mut told = Told { text, events: vec!["+STR".to_string()], handles: Vec::new() };
    for document in tree.root().children().filter(|child| child.kind() == Kind::Document) {
        told.document(document);
    }
    told.events.push("-STR".to_string());
    told.events
}

struct Told<'t> {
    text: &'t Text,
    events: Vec<String>,
    /// The handles that the document declares, with what they are short for.
    handles: Vec<(&'t str, &'t str)>,
}

impl<'t> Told<'t> {
    fn document(&mut self, document: NodeRef<'t>) {
        let has = |kind| document.significant_tokens().any(|(_, other)| other == kind);
        self.handles = document
            .children()
            .filter(|child| child.kind() == Kind::Directive)
            .filter_map(|directive| {
                let mut words = self.text.slice(directive.span()).split_ascii_whitespace();
                (words.next() == Some("%TAG")).then(|| Some((words.next()?, words.next()?)))?
            })
            .collect();
        self.events.push(if has(TokenKind::DocumentStart) { "+DOC ---" } else { "+DOC" }.to_string());
        self.children(document);
        self.events.push(if has(TokenKind::DocumentEnd) { "-DOC ..." } else { "-DOC" }.to_string());
    }

    /// The nodes in another one, each with the tag and the anchor before it.
    fn children(&mut self, holder: NodeRef<'t>) {
        let (mut anchor, mut tag) = (String::new(), String::new());
        for child in holder.children() {
            let written = self.text.slice(child.span());
            match child.kind() {
                Kind::Anchor => anchor = format!(" {written}"),
                Kind::Tag => tag = format!(" <{}>", self.resolved(written)),
                Kind::Directive => {}
                _ => self.node(child, &format!("{}{}", std::mem::take(&mut anchor), std::mem::take(&mut tag))),
            }
        }
    }

    fn node(&mut self, node: NodeRef<'t>, properties: &str) {
        let written = self.text.slice(node.span());
        match node.kind() {
            Kind::Dictionary => self.collection(node, "MAP", " {}", properties),
            Kind::List => self.collection(node, "SEQ", " []", properties),
            Kind::Pair => self.children(node),
            Kind::Alias => self.events.push(format!("=ALI {written}")),
            _ => {
                let style = match written.chars().next() {
                    Some(style @ ('"' | '\'')) => style,
                    Some(style @ ('|' | '>')) if node.first_token_kind() == TokenKind::BlockScalar => style,
                    _ => ':',
                };
                let value = match style {
                    '|' | '>' => block_value(written, indent_of(self.text, node)),
                    _ => string_value(written).expect("escapes are right"),
                };
                let value = value.replace('\\', "\\\\").replace('\n', "\\n").replace('\t', "\\t");
                let value = value.replace('\u{8}', "\\b").replace('\r', "\\r");
                self.events.push(format!("=VAL{properties} {style}{value}"));
            }
        }
    }

    fn collection(&mut self, node: NodeRef<'t>, name: &str, flow: &str, properties: &str) {
        let style = if is_flow(node) { flow } else { "" };
        self.events.push(format!("+{name}{style}{properties}"));
        self.children(node);
        self.events.push(format!("-{name}"));
    }

    /// A tag with what its handle is short for.
    fn resolved(&self, tag: &str) -> String {
        if let Some(verbatim) = tag.strip_prefix("!<").and_then(|tag| tag.strip_suffix('>')) {
            return verbatim.to_string();
        }
        let end = tag[1..].find('!').map_or(1, |end| end + 2);
        let (handle, suffix) = tag.split_at(end);
        let prefix = self.handles.iter().find(|(known, _)| *known == handle).map(|(_, prefix)| *prefix);
        let prefix = prefix.unwrap_or(if handle == "!!" { "tag:yaml.org,2002:" } else { handle });
        format!("{prefix}{}", decoded(suffix))
    }
}

/// Characters that a tag writes by their codes.
fn decoded(suffix: &str) -> String {
    let mut bytes = Vec::new();
    let mut rest = suffix.as_bytes();
    while let Some((first, behind)) = rest.split_first() {
        let code = behind.get(..2).and_then(|code| u8::from_str_radix(std::str::from_utf8(code).ok()?, 16).ok());
        match code.filter(|_| *first == b'%') {
            Some(code) => {
                bytes.push(code);
                rest = &behind[2..];
            }
            None => {
                bytes.push(*first);
                rest = behind;
            }
        }
    }
    String::from_utf8(bytes).expect("characters")
}

/// Whether brackets are around a collection: its own, or those of one that holds it.
fn is_flow(node: NodeRef<'_>) -> bool {
    let has_brackets = |node: NodeRef<'_>| {
        matches!(node.kind(), Kind::List | Kind::Dictionary)
            && matches!(node.first_token_kind(), TokenKind::BraceOpen | TokenKind::BracketOpen)
            && node.children().next().is_none_or(|first| first.span().start > node.span().start)
    };
    has_brackets(node) || node.ancestors().any(has_brackets)
}

/// How far the collection that holds a node is indented.
fn indent_of(text: &Text, node: NodeRef<'_>) -> usize {
    let holder = node.ancestors().find(|around| matches!(around.kind(), Kind::List | Kind::Dictionary));
    holder.map_or(0, |holder| text.place(holder.span().start).column as usize - 1)
}
