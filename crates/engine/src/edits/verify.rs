//! Proves that a fixed text still says what it said.

use sieve_meaning::data::{Data, Scalar, Value};
use sieve_rules::traits_of;
use sieve_syntax::language::{Language, Layer, views};
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind, Tree};

/// Why a fixed text is discarded.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Broken {
    /// It has syntax faults that the text did not have.
    Syntax,
    /// A change of layout changed the code.
    Code,
    /// The code around a change is read otherwise.
    Elsewhere,
}

/// A file with all that it holds in other languages.
pub(crate) struct Whole<'t> {
    language: Language,
    pub(super) text: &'t Text,
    pub(super) tree: &'t Tree,
    pub(super) layers: Vec<Layer>,
}

impl<'t> Whole<'t> {
    /// A file by its text and its tree.
    pub(crate) fn of(language: Language, text: &'t Text, tree: &'t Tree) -> Whole<'t> {
        Whole { language, text, tree, layers: language.layers(text, tree) }
    }

    /// What it holds in one other language, as if that were a file.
    fn of_layer(&self, layer: &'t Layer) -> Whole<'t> {
        Whole { language: layer.language, text: self.text, tree: &layer.tree, layers: Vec::new() }
    }

    /// Its trees, one for each language.
    fn trees(&self) -> impl Iterator<Item = &Tree> {
        views(self.language, self.tree, &self.layers).map(|(_, tree)| tree)
    }

    /// Its values, where it is a file of data.
    fn data(&self) -> Data<'t> {
        Data::of(self.language, self.text, self.tree)
    }

    fn faults(&self) -> usize {
        self.trees().map(|tree| tree.faults().len()).sum()
    }
}

pub(crate) fn new_faults(before: &Whole<'_>, after: &Whole<'_>) -> Option<Broken> {
    (after.faults() > before.faults()).then_some(Broken::Syntax)
}

/// Whether two strings differ in layout alone: the same nodes, made of the same tokens. What may differ: semicolons
/// between statements, a comma after the last element, the parentheses around the only parameter of an arrow function, the quotes
/// of a text that stays the same, and the kind of the line ends. The same holds for what is in them in other languages.
pub(crate) fn code_stays(before: &Whole<'_>, after: &Whole<'_>) -> bool {
    if before.language.is_data() {
        return values_stay(before, after);
    }
    before.layers.len() == after.layers.len()
        && before.layers.iter().zip(&after.layers).all(|(one, other)| {
            one.language == other.language
                && one.stretches.len() == other.stretches.len()
                && code_stays(&before.of_layer(one), &after.of_layer(other))
        })
        && shape(before.tree).eq(shape(after.tree))
        && same_code(before, after)
}

/// Where the stretches in other languages begin, sorted.
fn starts(layers: &[Layer]) -> Vec<u32> {
    let mut starts: Vec<u32> =
        layers.iter().flat_map(|layer| &layer.stretches).map(|stretch| stretch.span.start).collect();
    starts.sort_unstable();
    starts
}

/// Whether two files of data hold the same values, with the same anchors, aliases and tags. How they are written is layout.
fn values_stay(before: &Whole<'_>, after: &Whole<'_>) -> bool {
    let (one, other) = (before.data(), after.data());
    let same = |one: Value<'_, '_>, other: Value<'_, '_>| {
        one.key() == other.key()
            && one.shape() == other.shape()
            && one.resolved().id() == other.resolved().id()
            && one.parent().map(Value::id) == other.parent().map(Value::id)
            && same_scalar(one.scalar(), other.scalar())
    };
    before.tree.faults().len() == after.tree.faults().len()
        && one.documents().map(Value::id).eq(other.documents().map(Value::id))
        && one.repeats().len() == other.repeats().len()
        && one.values().count() == other.values().count()
        && one.values().zip(other.values()).all(|(one, other)| same(one, other))
        && properties(before.text, before.tree).eq(properties(after.text, after.tree))
}

fn same_scalar(one: Option<Scalar>, other: Option<Scalar>) -> bool {
    match (one, other) {
        (Some(Scalar::Real(one)), Some(Scalar::Real(other))) => one.to_bits() == other.to_bits(),
        (one, other) => one == other,
    }
}

/// What is written before values, and stands for them.
fn properties<'t>(text: &'t Text, tree: &'t Tree) -> impl Iterator<Item = &'t str> {
    let is_one = |node: &NodeRef<'_>| matches!(node.kind(), Kind::Tag | Kind::Anchor | Kind::Alias | Kind::Directive);
    tree.nodes().filter(is_one).map(|node| text.slice(node.span()))
}

pub(crate) fn code_changed(before: &Whole<'_>, after: &Whole<'_>) -> Option<Broken> {
    let comments_of = |whole: &Whole<'_>| whole.trees().flat_map(|tree| comments(whole.text, tree)).collect::<Vec<_>>();
    (!code_stays(before, after) || comments_of(before) != comments_of(after)).then_some(Broken::Code)
}

fn shape(tree: &Tree) -> impl Iterator<Item = (Kind, Role, u32)> + '_ {
    tree.nodes().map(|node| (node.kind(), node.role(), node.end().0))
}

/// Whether the code of two files is the same, apart from stretches in other languages.
fn same_code(before: &Whole<'_>, after: &Whole<'_>) -> bool {
    let (own_starts, other_starts) = (starts(&before.layers), starts(&after.layers));
    let mut after_tokens = code((after.text, after.tree), &other_starts);
    let all_same = code((before.text, before.tree), &own_starts).all(|(kind, text)| {
        after_tokens
            .next()
            .is_some_and(|(other_kind, other)| kind == other_kind && same_token(before.language, kind, text, other))
    });
    all_same && after_tokens.next().is_none()
}

/// The tokens that are code, with their strings, but for those that hold stretches in other languages, which begin at some places.
fn code<'t>((text, tree): (&'t Text, &'t Tree), starts: &'t [u32]) -> impl Iterator<Item = (TokenKind, &'t str)> {
    let free = free_parentheses(tree);
    let is_elsewhere = move |token: TokenId| {
        let span = tree.token_span(token);
        starts.get(starts.partition_point(|start| *start < span.start)).is_some_and(|start| *start < span.end)
    };
    let solid = (0..tree.tokens().len() as TokenId).filter(move |token| {
        let kind = tree.token_kind(*token);
        !kind.is_trivia()
            && !kind.is_layout()
            && kind != TokenKind::Semicolon
            && !(kind == TokenKind::Comma && is_last_comma(tree, *token))
            && free.binary_search(token).is_err()
            && !is_elsewhere(*token)
    });
    solid.map(move |token| (tree.token_kind(token), text.slice(tree.token_span(token))))
}

/// Whether a comma is between the last element and the closing bracket; a comma after a hole of an array is more than that.
fn is_last_comma(tree: &Tree, comma: TokenId) -> bool {
    let solid = |token: &TokenId| !tree.token_kind(*token).is_trivia();
    let next = (comma + 1..tree.tokens().len() as TokenId).find(solid);
    let previous = (0..comma).rev().find(solid);
    let previous = previous.map(|token| tree.token_kind(token));
    next.is_some_and(|next| tree.token_kind(next).closes())
        && previous.is_some_and(|kind| kind != TokenKind::Comma && !kind.opens())
}

/// The parentheses of arrow functions that have one parameter and nothing else in them, sorted.
fn free_parentheses(tree: &Tree) -> Vec<TokenId> {
    let mut free = Vec::new();
    for parameters in tree.nodes_of(Kind::Parameters) {
        if !has_one_name(parameters) || parameters.first_token_kind() != TokenKind::ParenOpen {
            continue;
        }
        let range = parameters.token_range();
        free.extend([range.start, range.end - 1]);
    }
    free.sort_unstable();
    free
}

fn has_one_name(parameters: NodeRef<'_>) -> bool {
    let mut all = parameters.children();
    let (Some(one), None) = (all.next(), all.next()) else { return false };
    let of_arrow = parameters.parent().is_some_and(|lambda| lambda.kind() == Kind::Lambda);
    of_arrow && one.token_range().len() == 1 && one.first_token_kind() == TokenKind::Name
}

fn same_token(language: Language, kind: TokenKind, before: &str, after: &str) -> bool {
    if before == after {
        return true;
    }
    match kind {
        TokenKind::String => same_string(language, before, after),
        // The names of tags and attributes have no case (WHATWG HTML, "13.1.2 Elements").
        TokenKind::Name if traits_of(language).is_page => before.eq_ignore_ascii_case(after),
        TokenKind::FormatStart | TokenKind::FormatEnd if traits_of(language).prefixed_strings => {
            before.replace('\'', "\"") == after.replace('\'', "\"")
        }
        TokenKind::MarkupText | TokenKind::TemplatePart => before.replace("\r\n", "\n") == after.replace("\r\n", "\n"),
        TokenKind::FormatText if !language.spec().return_is_text => {
            before.replace("\r\n", "\n") == after.replace("\r\n", "\n")
        }
        _ => false,
    }
}

/// Whether two literals represent the same text and have the same prefix.
fn same_string(language: Language, before: &str, after: &str) -> bool {
    let split = |literal: &str| {
        literal.find(['"', '\'']).map(|at| (literal[..at].to_string(), literal[at..].replace("\r\n", "\n")))
    };
    let (Some((prefix, one)), Some((other_prefix, other))) = (split(before), split(after)) else { return false };
    if traits_of(language).runs_commands || prefix != other_prefix {
        return false;
    }
    match (language.string_value(before), language.string_value(after)) {
        (Some(value), Some(other_value)) => value.replace("\r\n", "\n") == other_value.replace("\r\n", "\n"),
        // A literal whose value cannot be known has the same one if only its quotes change, and it holds none.
        _ => {
            let content = |literal: &str| literal.trim_matches(['"', '\'']).to_string();
            one == other || content(&one) == content(&other) && !content(&one).contains(['"', '\''])
        }
    }
}

/// Comments without their whitespace and without their first mark: layout may set them apart from it, and choose it where a language has
/// two.
fn comments<'t>(text: &'t Text, tree: &'t Tree) -> impl Iterator<Item = String> + 't {
    let tokens = (0..tree.tokens().len() as TokenId).filter(|token| tree.token_kind(*token) == TokenKind::Comment);
    let words =
        |comment: &str| comment.strip_prefix("//").or_else(|| comment.strip_prefix('#')).unwrap_or(comment).to_string();
    tokens.map(move |token| words(text.slice(tree.token_span(token))).split_whitespace().collect())
}
