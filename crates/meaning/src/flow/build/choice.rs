//! Choices: `if` and its like, and choices by patterns or values.

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::Builder;
use super::jump::Frame;
use crate::flow::graph::{BlockId, EdgeKind};
use crate::table::{Cases, meaning_of};

impl<'t> Builder<'t, '_> {
    /// An `if` with all its further conditions, however many.
    pub(super) fn on_if(&mut self, first: NodeRef<'t>) {
        let mut ends = Vec::new();
        let mut node = first;
        let mut conditions = 0;
        loop {
            if let Some(start) = node.child(Role::Start) {
                self.value(start);
            }
            let Some(condition) = node.child(Role::Condition) else { return };
            let (holds, fails) = self.condition(condition);
            conditions += 1;
            self.current = holds;
            self.branch(first, node.child(Role::Body), &mut ends);
            self.current = fails;
            match node.child(Role::Else) {
                Some(next) if next.kind() == Kind::If => node = next,
                Some(last) => {
                    self.branch(first, Some(last), &mut ends);
                    break;
                }
                // Several conditions may be all that can be.
                None => {
                    let edge = if conditions > 1 { self.doubtful(first) } else { EdgeKind::Open };
                    ends.push((self.current, edge));
                    break;
                }
            }
        }
        self.join(&ends);
    }

    /// One of several blocks. Where its last statement is a call, that may be one which never comes back.
    pub(super) fn branch(
        &mut self,
        whole: NodeRef<'t>,
        body: Option<NodeRef<'t>>,
        ends: &mut Vec<(BlockId, EdgeKind)>,
    ) {
        let Some(body) = body else {
            ends.push((self.current, EdgeKind::Open));
            return;
        };
        self.statement_or_value(body);
        let last = body.children_in(Role::Statement).last().unwrap_or(body);
        let edge = if self.may_diverge(last) { self.doubtful(whole) } else { EdgeKind::Open };
        ends.push((self.current, edge));
    }

    /// Cases are tried in their order; one runs into the next where the language lets it.
    pub(super) fn on_match(&mut self, node: NodeRef<'t>) {
        for part in node.children().filter(|part| matches!(part.role(), Role::Start | Role::Subject)) {
            self.value(part);
        }
        self.forget(node);
        let after = self.open();
        let gives_value = self.gives_value(node);
        if gives_value {
            self.frames.push(Frame::Choice { after });
        }
        match meaning_of(self.language).cases {
            Cases::None => self.on_patterns(node, after),
            Cases::BehindColon if !has_arrows(node) => self.with_break(after, |builder| builder.on_switch(node, after)),
            Cases::All => self.with_break(after, |builder| builder.on_switch(node, after)),
            Cases::WhereSaid | Cases::BehindColon => {
                self.with_break(after, |builder| builder.on_cases(node, after));
            }
        }
        if gives_value {
            self.frames.pop();
        }
        self.current = after;
    }

    /// A choice by which channel is ready: without a default it waits until one is.
    pub(super) fn on_select(&mut self, node: NodeRef<'t>) {
        let after = self.open();
        self.with_break(after, |builder| builder.on_cases(node, after));
        self.current = after;
    }

    /// What a plain `break` leaves, and nothing goes on with.
    fn with_break(&mut self, after: BlockId, run: impl FnOnce(&mut Self)) {
        self.frames.push(Frame::Target { labels: Vec::new(), plain_break: true, on_break: after, on_continue: None });
        run(self);
        self.frames.pop();
    }

    /// Cases of which one is taken; it goes on with the next one only where it says so.
    fn on_cases(&mut self, node: NodeRef<'t>, after: BlockId) {
        let cases = self.entries(node, after);
        for (index, (case, entry)) in cases.iter().enumerate() {
            self.begin(*entry);
            let body = case.child(Role::Body);
            let last = body.and_then(|body| body.children_in(Role::Statement).last());
            let mut ends = Vec::new();
            self.branch(node, body, &mut ends);
            let falls = last.is_some_and(|last| last.kind() == Kind::Fallthrough);
            let next = cases.get(index + 1).filter(|_| falls).map_or(after, |(_, entry)| *entry);
            for (end, edge) in ends {
                self.graph.connect(end, next, edge);
            }
        }
    }

    /// The cases, each with the block that its values lead to. The default is for what is left; without one that is passed over, unless
    /// the choice waits for a case.
    fn entries(&mut self, node: NodeRef<'t>, after: BlockId) -> Vec<(NodeRef<'t>, BlockId)> {
        let mut cases = Vec::new();
        let mut default = None;
        for case in node.children_in(Role::Case) {
            let entry = self.open();
            cases.push((case, entry));
            for value in case.children_in(Role::Pattern) {
                self.value(value);
            }
            if let Some(guard) = case.child(Role::Guard) {
                self.value(guard);
            }
            if case.child(Role::Pattern).is_none_or(|_| takes_all(self, case)) {
                default = Some(entry);
                continue;
            }
            let current = self.current;
            self.graph.connect(current, entry, EdgeKind::Open);
            self.go_on(EdgeKind::Open);
        }
        let none_fits = self.current;
        match default {
            Some(entry) => self.graph.connect(none_fits, entry, EdgeKind::Open),
            None if node.kind() == Kind::Select || self.gives_value(node) => {}
            None if node.child(Role::Subject).is_some_and(|subject| self.may_be_constant(subject)) => {
                self.graph.connect(none_fits, after, EdgeKind::Doubtful(self.owner.id()));
            }
            // Where a pattern is among its cases, a compiler may know that there are no others.
            None if cases.iter().any(|(case, _)| !tells_values(*case)) => {
                self.graph.connect(none_fits, after, EdgeKind::Doubtful(node.id()));
            }
            None => self.graph.connect(none_fits, after, self.doubtful(node)),
        }
        cases
    }

    /// Whether a choice is an expression of a language in which one case of such always fits.
    fn gives_value(&self, node: NodeRef<'t>) -> bool {
        self.takes_every_way && node.role() != Role::Statement && !matches!(node.role(), Role::Body | Role::Else)
    }

    /// Goes on at an entry, which was opened before other blocks got events: a block's events are side by side.
    fn begin(&mut self, entry: BlockId) {
        self.current = entry;
        self.go_on(EdgeKind::Open);
    }

    fn on_patterns(&mut self, node: NodeRef<'t>, after: BlockId) {
        for case in node.children_in(Role::Case) {
            let untried = self.current;
            self.go_on(EdgeKind::Open);
            for pattern in case.children_in(Role::Pattern) {
                self.value(pattern);
            }
            let mut fails = vec![(untried, EdgeKind::Open)];
            if let Some(guard) = case.child(Role::Guard) {
                let (holds, refused) = self.condition(guard);
                fails.push((refused, EdgeKind::Open));
                self.current = holds;
            }
            let mut ends = Vec::new();
            self.branch(node, case.child(Role::Body), &mut ends);
            for (end, edge) in ends {
                self.graph.connect(end, after, edge);
            }
            if takes_all(self, case) {
                fails.remove(0);
            }
            self.join(&fails);
        }
        let current = self.current;
        self.graph.connect(current, after, EdgeKind::Doubtful(node.id()));
    }

    fn on_switch(&mut self, node: NodeRef<'t>, after: BlockId) {
        let mut before = None;
        for (case, entry) in self.entries(node, after) {
            if let Some(before) = before {
                self.graph.connect(before, entry, EdgeKind::Open);
            }
            self.begin(entry);
            if let Some(body) = case.child(Role::Body) {
                self.statements(body);
            }
            before = Some(self.current);
        }
        if let Some(last) = before {
            self.graph.connect(last, after, EdgeKind::Open);
        }
    }
}

/// Whether a case asks for values alone, and for no types or patterns.
fn tells_values(case: NodeRef<'_>) -> bool {
    let is_value = |pattern: NodeRef<'_>| {
        matches!(
            pattern.kind(),
            Kind::Name | Kind::Member | Kind::Number | Kind::String | Kind::Group | Kind::Binary | Kind::Unary
        )
    };
    case.children_in(Role::Pattern).all(is_value)
}

/// Whether an arrow is before what a case runs, and no colon.
fn has_arrows(choice: NodeRef<'_>) -> bool {
    let body = choice.children_in(Role::Case).find_map(|case| case.child(Role::Body));
    body.is_some_and(|body| matches!(body.kind_before(), TokenKind::Arrow | TokenKind::FatArrow))
}

/// Whether a case takes whatever the others left.
fn takes_all(builder: &Builder<'_, '_>, case: NodeRef<'_>) -> bool {
    let all = case.children_in(Role::Pattern).any(|pattern| match pattern.kind() {
        Kind::CapturePattern => pattern.child(Role::Type).is_none_or(|of| builder.text(of) == "var"),
        Kind::WildcardPattern => true,
        Kind::Word => builder.text.slice(pattern.span()) == "*",
        _ => false,
    });
    all && case.child(Role::Guard).is_none()
}
