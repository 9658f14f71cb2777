//! Code that is left out because of `#if`: it may use what is declared around it.

use sieve_syntax::tree::TokenKind;

use crate::names::{Collector, ScopeId, Unknown};

/// What is around code that is left out may be used there.
pub(super) fn collect(collector: &mut Collector<'_>) {
    let tree = collector.tree;
    let left_out = (0..tree.tokens().len() as u32).filter(|token| tree.token_kind(*token) == TokenKind::LeftOut);
    let spans: Vec<_> = left_out.map(|token| tree.token_span(token)).collect();
    if spans.is_empty() {
        return;
    }
    let scopes = collector.scopes_by_node();
    for span in spans {
        let node = tree.covering(span);
        let around = std::iter::once(node).chain(node.ancestors());
        let innermost = around.filter_map(|node| scopes.get(&node.id()).copied()).next().unwrap_or(ScopeId::FILE);
        for scope in collector.outwards(innermost) {
            collector.mark_may_use(scope, Unknown::LeftOut);
        }
    }
}
