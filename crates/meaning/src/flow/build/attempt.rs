//! `try` with handlers and `finally`, and resources that are closed after a block.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::Builder;
use super::jump::Frame;
use crate::flow::graph::{BlockId, EdgeKind, Event};
use crate::flow::variables::Bound;

impl<'t> Builder<'t, '_> {
    pub(super) fn on_try(&mut self, node: NodeRef<'t>) {
        let Some(last) = node.child(Role::Finally) else { return self.on_handled(node) };
        let outer = self.landing;
        let landing = self.open();
        self.landing = Some(landing);
        self.interruptible(landing);
        self.frames.push(Frame::Finally { pending: Vec::new() });
        self.on_handled(node);
        let Some(Frame::Finally { pending }) = self.frames.pop() else { return };
        self.landing = outer;
        let ran = self.current;

        // An error that nothing here handled goes on after the `finally`.
        if self.graph.is_entered(landing) {
            self.current = landing;
            self.go_on(EdgeKind::Open);
            self.statement_or_value(last);
            self.may_raise();
        }
        let mut jumps: Vec<(super::jump::Jump<'t>, Vec<(BlockId, EdgeKind)>)> = Vec::new();
        for (jump, from) in pending {
            match jumps.iter_mut().find(|(known, _)| *known == jump) {
                Some((_, froms)) => froms.push((from, EdgeKind::Open)),
                None => jumps.push((jump, vec![(from, EdgeKind::Open)])),
            }
        }
        for (jump, froms) in jumps {
            self.join(&froms);
            self.statement_or_value(last);
            self.leave(jump);
        }
        self.current = ran;
        self.go_on(EdgeKind::Open);
        self.statement_or_value(last);
    }

    /// Whatever runs can be interrupted.
    fn interruptible(&mut self, landing: BlockId) {
        let current = self.current;
        let edge = if self.takes_every_way { EdgeKind::Open } else { EdgeKind::Unlikely };
        self.graph.connect(current, landing, edge);
    }

    /// The block, its handlers, and what runs when nothing was raised.
    fn on_handled(&mut self, node: NodeRef<'t>) {
        let outer = self.landing;
        let has_handlers = node.child(Role::Handler).is_some();
        let landing = self.open();
        if has_handlers {
            self.landing = Some(landing);
            self.interruptible(landing);
        }
        self.go_on(EdgeKind::Open);
        if let Some(body) = node.child(Role::Body) {
            self.statements(body);
        }
        if has_handlers {
            // Whatever raises, it may be the last of it.
            let ran = self.current;
            self.graph.connect(ran, landing, EdgeKind::Open);
        }
        self.landing = outer;
        let mut ends = Vec::new();
        if let Some(otherwise) = node.child(Role::Else) {
            self.go_on(EdgeKind::Open);
            self.statement_or_value(otherwise);
        }
        // Where only handlers set what is used later, the block is most likely there to raise.
        let edge = if has_handlers { self.doubtful(node) } else { EdgeKind::Open };
        ends.push((self.current, edge));
        let mut catches_all = !has_handlers;
        for handler in node.children_in(Role::Handler) {
            self.join(&[(landing, EdgeKind::Open)]);
            catches_all |= self.on_handler(node, handler, &mut ends);
        }
        if let (false, Some(outer)) = (catches_all, self.landing) {
            self.graph.connect(landing, outer, EdgeKind::Open);
        }
        self.join(&ends);
    }

    /// Gives whether the handler takes every error.
    fn on_handler(&mut self, whole: NodeRef<'t>, handler: NodeRef<'t>, ends: &mut Vec<(BlockId, EdgeKind)>) -> bool {
        let exception = handler.child(Role::Exception);
        if let Some(exception) = exception {
            self.value(exception);
        }
        self.forget(handler);
        let name = handler.child(Role::Name).or_else(|| handler.child(Role::Pattern));
        if let Some(name) = name {
            self.value(name);
        }
        if let Some(guard) = handler.child(Role::Guard) {
            let (holds, refused) = self.condition(guard);
            if let Some(outer) = self.landing {
                self.graph.connect(refused, outer, EdgeKind::Open);
            }
            self.current = holds;
        }
        self.branch(whole, handler.child(Role::Body), ends);
        // What an error was caught as is gone after its handler.
        if let Some(at) = name.and_then(|name| self.variables.at.get(&name.id()))
            && at.binds == Some(Bound::Set)
            && self.variables.all[at.variable as usize].owner == self.owner.id()
            && let Some((end, _)) = ends.last_mut()
        {
            self.current = *end;
            self.change(Event::Unbind(at.variable));
            *end = self.current;
        }
        exception.is_none_or(|exception| self.text(exception) == "BaseException")
    }

    /// A resource may swallow what its block raises.
    pub(super) fn on_with(&mut self, node: NodeRef<'t>) {
        for item in node.children_in(Role::Item) {
            self.value(item);
            self.may_raise();
        }
        if node.child(Role::Item).is_none() {
            // The object whose members become names.
            for part in node.children().filter(|part| part.role() != Role::Body) {
                self.value(part);
            }
        }
        let before = self.current;
        self.go_on(EdgeKind::Open);
        if let Some(body) = node.child(Role::Body) {
            self.statement_or_value(body);
        }
        let ran = self.current;
        let may_swallow = node.children_in(Role::Item).any(|item| item.kind() == Kind::WithItem);
        let mut ends = vec![(ran, EdgeKind::Open)];
        if may_swallow {
            ends.push((before, EdgeKind::Unlikely));
        }
        self.join(&ends);
    }
}
