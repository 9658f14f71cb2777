//! What is given to macros, word by word: what the words mean is up to the macro, unless everybody knows it.

use rustc_hash::FxHashSet;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::names::{Collector, DeclarationKind, Namespace, Reach, ScopeId};

/// Macros of the library whose arguments are values ("Macros", The Rust Standard Library).
pub const MACROS_OF_VALUES: &[&str] = &[
    "assert",
    "assert_eq",
    "assert_ne",
    "dbg",
    "debug_assert",
    "debug_assert_eq",
    "debug_assert_ne",
    "eprint",
    "eprintln",
    "format",
    "format_args",
    "panic",
    "print",
    "println",
    "todo",
    "unimplemented",
    "unreachable",
    "vec",
    "write",
    "writeln",
];

/// Attributes of the language in which no item is named, and no string is code ("Built-in attributes index", The Rust Reference).
const ATTRIBUTES_WITHOUT_NAMES: &[&str] = &[
    "allow",
    "cfg",
    "deny",
    "deprecated",
    "doc",
    "expect",
    "forbid",
    "inline",
    "link",
    "must_use",
    "no_mangle",
    "path",
    "repr",
    "should_panic",
    "target_feature",
    "warn",
];

/// `macro_rules! name { … }`: what is in it may be used wherever the macro is.
pub(super) fn on_definition<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if let Some(name) = node.child(Role::Name) {
        let text = collector.node_text(name);
        collector.bind_in(Namespace::Macros, ScopeId::FILE, text, name, DeclarationKind::Function);
    }
}

/// The words in a pair of brackets. Those within others are met with the outermost.
pub(super) fn on_tokens<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(holder) = node.parent().filter(|holder| holder.kind() != Kind::TokenTree) else { return };
    let called = name_of(collector, holder);
    let is_definition = holder.kind() == Kind::MacroDefinition;
    let is_attribute = holder.kind() == Kind::Decorator;
    if is_attribute && ATTRIBUTES_WITHOUT_NAMES.contains(&called) {
        return;
    }
    let mut tokens: Vec<TokenId> = node.significant_tokens().map(|(token, _)| token).collect();
    if is_attribute && called == "cfg_attr" {
        tokens.drain(..first_comma(collector, &tokens));
    }
    let is_call = holder.kind() == Kind::MacroCall;
    let takes_values = is_call && MACROS_OF_VALUES.contains(&called) && are_values(collector, &tokens);
    let pattern = if is_call && called == "matches" { first_comma(collector, &tokens) } else { 0 };
    let is_subject = are_values(collector, &tokens[..pattern]);
    let named = named_arguments(collector, &tokens);
    for (index, token) in tokens.iter().enumerate() {
        let around = Around { collector, tokens: &tokens, index };
        let is_known = takes_values || index < pattern && is_subject || pattern > 0 && around.is_no_variable();
        match collector.tree.token_kind(*token) {
            TokenKind::Name => {
                if let Some(way) = around.way(is_known) {
                    use_word(collector, way, node, collector.tree.token_span(*token), is_known);
                }
                if is_definition {
                    collector.expand(collector.text.slice(collector.tree.token_span(*token)));
                }
            }
            // `#[serde(default = "low_water")]`: what reads an attribute may read its strings as code.
            TokenKind::String if is_attribute => {
                let span = collector.tree.token_span(*token);
                use_words(collector, node, span.start, collector.text.slice(span));
            }
            TokenKind::String => {
                use_in_string(collector, node, collector.tree.token_span(*token), is_known, &named);
            }
            _ => {}
        }
    }
}

/// The names that arguments have: `low` of `println!("{low}", low = tide.low)`.
fn named_arguments<'t>(collector: &Collector<'t>, tokens: &[TokenId]) -> FxHashSet<&'t str> {
    let kind = |token: TokenId| collector.tree.token_kind(token);
    let is_named = |three: &&[TokenId]| {
        kind(three[0]) == TokenKind::Comma && kind(three[1]) == TokenKind::Name && kind(three[2]) == TokenKind::Assign
    };
    let named = tokens.windows(3).filter(is_named);
    named.map(|three| collector.text.slice(collector.tree.token_span(three[1]))).collect()
}

/// The last word of the macro or the attribute that is given tokens.
fn name_of<'t>(collector: &Collector<'t>, holder: NodeRef<'t>) -> &'t str {
    let name = holder.child(Role::Callee).or_else(|| holder.child(Role::Value));
    let written = name.map_or("", |name| collector.text.slice(name.span()));
    written.rsplit("::").next().unwrap_or_default().trim()
}

/// The place of the first comma that is in no brackets within the outermost ones; that of the end if there is none.
fn first_comma(collector: &Collector<'_>, tokens: &[TokenId]) -> usize {
    let mut depth = 0;
    let mut kinds = tokens.iter().map(|token| collector.tree.token_kind(*token));
    let found = kinds.position(|kind| {
        depth += i32::from(kind.opens()) - i32::from(kind.closes());
        kind == TokenKind::Comma && depth == 1
    });
    found.unwrap_or(tokens.len())
}

/// Whether tokens are values, in which nothing is declared.
fn are_values(collector: &Collector<'_>, tokens: &[TokenId]) -> bool {
    tokens.iter().all(|token| {
        !matches!(
            collector.tree.token_kind(*token),
            TokenKind::Let
                | TokenKind::Bar
                | TokenKind::BarBar
                | TokenKind::FatArrow
                | TokenKind::BraceOpen
                | TokenKind::For
        )
    })
}

/// A value, or whatever else has the name.
const VALUE: (Namespace, Reach) = (Namespace::Values, Reach::Anything);

/// A word and those beside it.
struct Around<'a, 't> {
    collector: &'a Collector<'t>,
    tokens: &'a [TokenId],
    index: usize,
}

impl Around<'_, '_> {
    fn kind(&self, by: isize) -> Option<TokenKind> {
        let index = self.index.checked_add_signed(by)?;
        Some(self.collector.tree.token_kind(*self.tokens.get(index)?))
    }

    /// Whether a word of a pattern is no variable: it is a part of a path, or begins with a capital.
    fn is_no_variable(&self) -> bool {
        let is_colons = |by| self.kind(by) == Some(TokenKind::ColonColon);
        let word = self.collector.text.slice(self.collector.tree.token_span(self.tokens[self.index]));
        is_colons(-1) || is_colons(1) || word.starts_with(char::is_uppercase)
    }

    /// What a word may be the name of, and where that is looked for; nothing for one that is the name of a field, or found in what is not
    /// known.
    fn way(&self, is_known: bool) -> Option<(Namespace, Reach)> {
        match (self.kind(-1), self.kind(1)) {
            (Some(TokenKind::ColonColon), _) if self.kind(-2) == Some(TokenKind::Name) => {
                Some((Namespace::Values, Reach::Path))
            }
            (Some(TokenKind::Dot | TokenKind::ColonColon), _) if is_known => None,
            // `println!("{low}", low = tide.low)`
            (Some(TokenKind::Comma), Some(TokenKind::Assign)) if is_known => None,
            // What is not known may take a name apart from what is behind it.
            _ if !is_known => Some(VALUE),
            (_, Some(TokenKind::Exclamation)) => Some((Namespace::Macros, Reach::Scopes)),
            (_, Some(TokenKind::ColonColon)) => Some((Namespace::Types, Reach::Scopes)),
            _ => Some(VALUE),
        }
    }
}

fn use_word<'t>(
    collector: &mut Collector<'t>,
    (namespace, reach): (Namespace, Reach),
    node: NodeRef<'t>,
    span: Span,
    is_known: bool,
) {
    let scope = if namespace == Namespace::Macros { ScopeId::FILE } else { collector.current() };
    collector.use_within((namespace, reach), scope, node, span);
    if !is_known {
        collector.doubt_last();
    }
}

/// `"{low} of {high:>width$}"`: names in braces, and those before a dollar sign ("Syntax", std::fmt).
fn use_in_string<'t>(
    collector: &mut Collector<'t>,
    node: NodeRef<'t>,
    span: Span,
    is_known: bool,
    named: &FxHashSet<&str>,
) {
    let text = collector.text.slice(span);
    let mut rest = 0;
    while let Some(open) = text[rest..].find('{').map(|at| rest + at) {
        if text[open + 1..].starts_with('{') {
            rest = open + 2;
            continue;
        }
        let end = text[open..].find('}').map_or(text.len(), |at| open + at);
        if !is_known {
            use_words(collector, node, span.start + open as u32, &text[open..end]);
            rest = end;
            continue;
        }
        for (at, word) in words(&text[open + 1..end]).into_iter().filter(|(_, word)| !named.contains(word)) {
            let start = span.start + (open + 1 + at) as u32;
            use_word(collector, VALUE, node, Span::new(start, start + word.len() as u32), is_known);
        }
        rest = end;
    }
}

/// All names in what may be code for a macro: `{..quays}`.
fn use_words<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, start: u32, code: &'t str) {
    let is_part = |letter: char| letter.is_alphanumeric() || letter == '_';
    let mut rest = 0;
    for word in code.split(|letter| !is_part(letter)) {
        if word.starts_with(|first: char| first.is_alphabetic() || first == '_') {
            let at = start + rest as u32;
            use_word(collector, VALUE, node, Span::new(at, at + word.len() as u32), false);
        }
        rest += word.len() + code[rest + word.len()..].chars().next().map_or(0, char::len_utf8);
    }
}

/// The names in the braces of a format: the first word, and those with a dollar sign behind them.
fn words(format: &str) -> Vec<(usize, &str)> {
    let is_part = |letter: char| letter.is_alphanumeric() || letter == '_';
    let (name, how) = format.split_once(':').unwrap_or((format, ""));
    let mut found = Vec::new();
    let is_name =
        |word: &str| word.starts_with(|first: char| first.is_alphabetic() || first == '_') && word.chars().all(is_part);
    if is_name(name) {
        found.push((0, name));
    }
    for (dollar, _) in how.match_indices('$') {
        // A nought before a width fills with noughts.
        let word = how[..dollar].rsplit(|letter| !is_part(letter)).next().unwrap_or_default().trim_start_matches('0');
        if is_name(word) {
            found.push((name.len() + 1 + dollar - word.len(), word));
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn formats_hold_names() {
        assert_eq!(words("low"), [(0, "low")]);
        assert_eq!(words("low:>width$.2"), [(0, "low"), (5, "width")]);
        assert_eq!(words("0:?"), []);
        assert_eq!(words(":.deep$"), [(2, "deep")]);
        assert_eq!(words("low:0width$x"), [(0, "low"), (5, "width")]);
        assert_eq!(words("\"a\": 1"), []);
    }
}
