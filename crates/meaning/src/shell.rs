//! The shell's answers: the variables that are local to a function, and whether anything mentions them.
//!
//! Scopes are dynamic (bash, "Shell Functions"): a function that is called sees the variables of its caller, so that a local variable
//! may be used anywhere in the script. Code that comes from elsewhere makes it unknown.

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::text::{Span, WordBytes};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId};

use crate::names::{Collector, DeclarationKind, ScopeId, ScopeKind, Unknown};

/// Commands that make a variable local to the function that runs them.
const LOCAL: &[&str] = &["local", "declare", "typeset"];

/// Commands that run code from elsewhere, or text as code.
const FOREIGN: &[&str] = &["source", ".", "eval", "trap"];

/// Names, as the shell has them.
static WORDS: WordBytes = WordBytes::with(b"_", false);

/// Walks the tree once, and once over its tokens if a function has variables of its own.
pub(crate) fn collect<'t>(collector: &mut Collector<'t>) {
    let tree = collector.tree;
    let mut locals: FxHashMap<&'t str, Vec<ScopeId>> = FxHashMap::default();
    let mut told: FxHashSet<TokenId> = FxHashSet::default();
    for node in tree.nodes() {
        collector.arrive(node);
        match node.kind() {
            Kind::Function => {
                let scope = collector.open_scope(ScopeKind::Function, node, ScopeId::FILE);
                collector.enter(node, scope);
            }
            Kind::Command => on_command(collector, node, &mut locals, &mut told),
            Kind::Assignment => {
                told.extend(node.child(Role::Target).map(|target| target.token_range().start));
            }
            _ => {}
        }
    }
    // Whoever reads this file into a shell of his own has other functions there.
    if !collector.text.source().starts_with("#!") {
        mark_unknown(collector);
    }
    use_mentioned(collector, &locals, &told);
}

fn on_command<'t>(
    collector: &mut Collector<'t>,
    command: NodeRef<'t>,
    locals: &mut FxHashMap<&'t str, Vec<ScopeId>>,
    told: &mut FxHashSet<TokenId>,
) {
    let name = command.child(Role::Callee).map_or("", |callee| collector.node_text(callee));
    if FOREIGN.contains(&name) {
        mark_unknown(collector);
    }
    let scope = collector.current();
    if !LOCAL.contains(&name) || collector.scope(scope).kind != ScopeKind::Function {
        return;
    }
    let arguments: Vec<NodeRef<'t>> = command.children_in(Role::Argument).collect();
    // Exported, global, or another name for a variable elsewhere.
    let shared = |word: &NodeRef<'t>| {
        let text = collector.node_text(*word);
        text.starts_with(['-', '+']) && text.contains(['x', 'g', 'n', 'p', 'f', 'F'])
    };
    if arguments.iter().any(shared) {
        return;
    }
    for argument in arguments {
        let bound = if argument.kind() == Kind::Assignment { argument.child(Role::Target) } else { Some(argument) };
        let Some(bound) = bound else { continue };
        let text = collector.node_text(bound);
        // By custom, names in capitals belong to the environment of the programs that are called.
        if is_name(text) && text.contains(|letter: char| letter.is_ascii_lowercase()) {
            collector.bind(scope, text, bound, DeclarationKind::Assignment);
            told.insert(bound.token_range().start);
            let scopes = locals.entry(text).or_default();
            if scopes.last() != Some(&scope) {
                scopes.push(scope);
            }
        }
    }
}

fn mark_unknown(collector: &mut Collector<'_>) {
    for scope in collector.scope_ids() {
        collector.mark_may_use(scope, Unknown::OtherFile);
    }
}

fn is_name(text: &str) -> bool {
    text.starts_with(|first: char| first == '_' || first.is_ascii_alphabetic())
        && text.bytes().all(|byte| byte == b'_' || byte.is_ascii_alphanumeric())
}

/// A name of so many functions is followed from each mention to each function.
const MANY: usize = 100;

/// Every word of the script that is the name of a local variable counts as a use of it, but for where it gets a value.
fn use_mentioned<'t>(
    collector: &mut Collector<'t>,
    locals: &FxHashMap<&'t str, Vec<ScopeId>>,
    told: &FxHashSet<TokenId>,
) {
    if locals.is_empty() {
        return;
    }
    let tree = collector.tree;
    // Which lengths the names have, by their first letters: a look at it tells for most words that they are none.
    let mut lengths = [0_u64; 128];
    for name in locals.keys() {
        lengths[usize::from(name.as_bytes()[0] % 128)] |= 1 << (name.len() % 64);
    }
    // The names of many functions that are mentioned: that they are used is all that is said of them.
    let mut of_many: FxHashSet<&str> = FxHashSet::default();
    let may_be_local = |word: &[u8]| lengths[usize::from(word[0] % 128)] >> (word.len() % 64) & 1 == 1;
    let source = collector.text.source();
    for (id, kind, span) in tree.tokens_with_spans(0..tree.tokens().len() as TokenId) {
        // What is in comments and between words is no use.
        if kind.is_trivia() {
            continue;
        }
        WORDS.each(&source.as_bytes()[span.range()], |start, word| {
            if !may_be_local(word) {
                return;
            }
            let place = Span::new(span.start + start as u32, span.start + (start + word.len()) as u32);
            let name = &source[place.range()];
            let Some(scopes) = locals.get(name).filter(|_| !told.contains(&id)) else { return };
            if scopes.len() > MANY && !of_many.insert(name) {
                return;
            }
            for scope in scopes {
                collector.use_text(*scope, name, tree.root(), place, None);
            }
        });
    }
}
