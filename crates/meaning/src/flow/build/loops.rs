//! Loops, and labels, which name them.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::Builder;
use super::jump::Frame;
use crate::flow::graph::{BlockId, EdgeKind};

impl<'t> Builder<'t, '_> {
    pub(super) fn on_while(&mut self, node: NodeRef<'t>) {
        let after = self.open();
        let head = self.go_on(EdgeKind::Open);
        let Some(condition) = node.child(Role::Condition) else { return };
        let (holds, fails) = self.condition(condition);
        self.current = holds;
        self.round(node, after, head, |builder| builder.body(node));
        self.repeat(head);
        self.current = fails;
        self.end_of_loop(node, after);
    }

    pub(super) fn on_do_while(&mut self, node: NodeRef<'t>) {
        let after = self.open();
        let asks = self.open();
        let head = self.go_on(EdgeKind::Open);
        self.round(node, after, asks, |builder| builder.body(node));
        let ran = self.current;
        self.graph.connect(ran, asks, EdgeKind::Open);
        self.current = asks;
        self.go_on(EdgeKind::Open);
        if let Some(condition) = node.child(Role::Condition) {
            let (holds, fails) = self.condition(condition);
            self.current = holds;
            self.repeat(head);
            self.graph.connect(fails, after, EdgeKind::Open);
        }
        self.current = after;
    }

    /// A loop over the elements of something, or one that counts.
    pub(super) fn on_for(&mut self, node: NodeRef<'t>) {
        for part in node.children().filter(|part| matches!(part.role(), Role::Iterable | Role::Start)) {
            self.value(part);
        }
        self.may_raise();
        let after = self.open();
        let head = self.go_on(EdgeKind::Open);
        let counts = node.child(Role::Iterable).is_none() && node.child(Role::Target).is_none();
        let (holds, fails) = match node.child(Role::Condition) {
            Some(condition) => self.condition(condition),
            None => {
                let head = self.current;
                let round = self.go_on(EdgeKind::Open);
                let over = self.open();
                // Without a condition and without elements a loop ends only from within.
                if !counts {
                    self.graph.connect(head, over, EdgeKind::Open);
                }
                (round, over)
            }
        };
        self.current = holds;
        let next = self.open();
        self.round(node, after, next, |builder| {
            if let Some(target) = node.child(Role::Target) {
                builder.value(target);
            }
            builder.body(node);
        });
        let ran = self.current;
        self.graph.connect(ran, next, EdgeKind::Open);
        self.current = next;
        self.go_on(EdgeKind::Open);
        if let Some(step) = node.child(Role::Step) {
            self.value(step);
        }
        self.may_raise();
        self.repeat(head);
        self.current = fails;
        self.end_of_loop(node, after);
    }

    /// One round of a loop, in which `break` and `continue` know where to go.
    fn round(&mut self, node: NodeRef<'t>, on_break: BlockId, on_continue: BlockId, run: impl FnOnce(&mut Self)) {
        let labels = self.labels_of(node);
        self.frames.push(Frame::Target { labels, plain_break: true, on_break, on_continue: Some(on_continue) });
        run(self);
        self.frames.pop();
    }

    fn body(&mut self, node: NodeRef<'t>) {
        if let Some(body) = node.child(Role::Body) {
            self.statement_or_value(body);
        }
    }

    fn repeat(&mut self, head: BlockId) {
        let current = self.current;
        self.graph.connect(current, head, EdgeKind::Open);
    }

    /// The loop has run out: whoever wrote it may know that it had a round that set what is used later.
    fn end_of_loop(&mut self, node: NodeRef<'t>, after: BlockId) {
        if let Some(otherwise) = node.child(Role::Else) {
            self.go_on(EdgeKind::Open);
            self.statement_or_value(otherwise);
        }
        let over = self.current;
        self.graph.connect(over, after, self.doubtful(node));
        self.current = after;
    }

    pub(super) fn on_labeled(&mut self, node: NodeRef<'t>) {
        let Some(body) = node.child(Role::Body) else { return };
        let after = self.open();
        let labels = node.child(Role::Label).map(|label| self.text(label)).into_iter().collect();
        self.frames.push(Frame::Target { labels, plain_break: false, on_break: after, on_continue: None });
        self.statement_or_value(body);
        self.frames.pop();
        let ran = self.current;
        self.graph.connect(ran, after, EdgeKind::Open);
        self.current = after;
    }

    /// The labels that are directly before a loop.
    fn labels_of(&self, node: NodeRef<'t>) -> Vec<&'t str> {
        let labelled = node.ancestors().take_while(|around| around.kind() == Kind::Labeled);
        labelled.filter_map(|around| around.child(Role::Label)).map(|label| self.text(label)).collect()
    }
}
