//! What is given to macros, word by word: what the words mean is up to the macro, unless everybody knows it.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::names::{Collector, DeclarationKind, Namespace, Reach, ScopeId};

/// Macros of the library whose arguments are values ("Macros", The Rust Standard Library).
const OF_VALUES: &[&str] = &[
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
    let is_known = holder.kind() == Kind::MacroCall && takes_values(collector, holder, node);
    let tokens: Vec<TokenId> = node.significant_tokens().map(|(token, _)| token).collect();
    for (index, token) in tokens.iter().enumerate() {
        let around = Around { collector, tokens: &tokens, index };
        match collector.tree.token_kind(*token) {
            TokenKind::Name => {
                if let Some(namespace) = around.namespace(is_known) {
                    use_word(collector, namespace, node, collector.tree.token_span(*token), is_known);
                }
            }
            TokenKind::String => use_in_string(collector, node, collector.tree.token_span(*token), is_known),
            _ => {}
        }
    }
}

/// Whether all arguments are values, in which nothing is declared.
fn takes_values(collector: &Collector<'_>, call: NodeRef<'_>, tokens: NodeRef<'_>) -> bool {
    let is_one = call.child(Role::Callee).is_some_and(|callee| {
        let text = collector.text.slice(callee.span());
        OF_VALUES.contains(&text.rsplit("::").next().unwrap_or_default().trim())
    });
    is_one
        && tokens.significant_tokens().all(|(_, kind)| {
            !matches!(
                kind,
                TokenKind::Let
                    | TokenKind::Bar
                    | TokenKind::BarBar
                    | TokenKind::FatArrow
                    | TokenKind::BraceOpen
                    | TokenKind::For
            )
        })
}

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

    /// What a word may be the name of; nothing for one that is the name of a field, or found in a module or a type.
    fn namespace(&self, is_known: bool) -> Option<Namespace> {
        match (self.kind(-1), self.kind(1)) {
            (Some(TokenKind::Dot | TokenKind::ColonColon), _) if is_known => None,
            // `println!("{low}", low = tide.low)`
            (Some(TokenKind::Comma), Some(TokenKind::Assign)) if is_known => None,
            (_, Some(TokenKind::Exclamation)) => Some(Namespace::Macros),
            (_, Some(TokenKind::ColonColon)) => Some(Namespace::Types),
            _ => Some(Namespace::Values),
        }
    }
}

fn use_word<'t>(collector: &mut Collector<'t>, namespace: Namespace, node: NodeRef<'t>, span: Span, is_known: bool) {
    let reach = if namespace == Namespace::Values { Reach::Anything } else { Reach::Scopes };
    let scope = if namespace == Namespace::Macros { ScopeId::FILE } else { collector.current() };
    collector.use_within((namespace, reach), scope, node, span);
    if !is_known {
        collector.doubt_last();
    }
}

/// `"{low} of {high:>width$}"`: names in braces, and those before a dollar sign ("Syntax", std::fmt).
fn use_in_string<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, span: Span, is_known: bool) {
    let text = collector.text.slice(span);
    let mut rest = 0;
    while let Some(open) = text[rest..].find('{').map(|at| rest + at) {
        if text[open + 1..].starts_with('{') {
            rest = open + 2;
            continue;
        }
        let end = text[open..].find('}').map_or(text.len(), |at| open + at);
        for (at, word) in words(&text[open + 1..end]) {
            let start = span.start + (open + 1 + at) as u32;
            use_word(collector, Namespace::Values, node, Span::new(start, start + word.len() as u32), is_known);
        }
        rest = end;
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
        let start = how[..dollar].char_indices().rev().take_while(|(_, letter)| is_part(*letter)).last();
        if let Some((start, _)) = start.filter(|(start, _)| is_name(&how[*start..dollar])) {
            found.push((name.len() + 1 + start, &how[start..dollar]));
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
        assert_eq!(words("\"a\": 1"), []);
    }
}
