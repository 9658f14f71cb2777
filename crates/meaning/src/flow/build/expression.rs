//! Expressions: their parts in the order in which they are evaluated, and conditions with a way out for each answer.

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::Builder;
use crate::flow::graph::{BlockId, EdgeKind, Event};

impl<'t> Builder<'t, '_> {
    /// Evaluates an expression, a target or a pattern. Where no variable matters, all that counts is that it may raise.
    pub(super) fn value(&mut self, node: NodeRef<'t>) {
        if !self.looks_into_expressions {
            if self.landing.is_some() && may_raise_at_all(node) {
                self.may_raise();
            }
            return;
        }
        // What nobody waits for, and what says nothing of a variable, may be left out.
        if self.landing.is_none() && self.is_whole && !self.variables.is_met_in(node) {
            return;
        }
        match node.kind() {
            Kind::Name => self.name(node),
            Kind::Function | Kind::Lambda => self.on_inner_function(node),
            Kind::Class => self.on_class(node),
            Kind::ClassExpression => self.parts(node, &[Role::Arguments]),
            Kind::Assignment | Kind::NamedExpression | Kind::AnnotatedAssignment => self.on_assignment(node),
            Kind::CompoundAssignment => {
                self.parts(node, &[Role::Value, Role::Target]);
                self.may_raise();
            }
            Kind::Conditional => self.on_conditional(node),
            Kind::Logical => self.on_logical(node),
            Kind::Comprehension => self.on_comprehension(node),
            Kind::DefaultPattern => self.on_default(node),
            Kind::Block => self.statements(node),
            Kind::Match => self.on_match(node),
            Kind::Import => {
                self.may_raise();
                for item in node.children_in(Role::Item) {
                    self.name(item);
                }
            }
            Kind::Delete => {
                self.parts(node, &[Role::Target]);
                self.may_raise();
            }
            Kind::Error | Kind::Opaque => self.is_broken = true,
            kind if says_only_types(kind) => {}
            kind => {
                for part in node.children().filter(|part| !is_type(*part)) {
                    self.value(part);
                }
                if may_raise(kind) {
                    self.may_raise();
                }
            }
        }
    }

    fn parts(&mut self, node: NodeRef<'t>, roles: &[Role]) {
        for role in roles {
            for part in node.children_in(*role) {
                self.value(part);
            }
        }
    }

    /// A function is made here and runs later; what its parameters are given by default may be worked out at once.
    fn on_inner_function(&mut self, node: NodeRef<'t>) {
        self.parts(node, &[Role::Decorator]);
        if self.language == sieve_syntax::language::Language::Python {
            for parameter in node.child(Role::Parameters).into_iter().flat_map(|all| all.children()) {
                self.parts(parameter, &[Role::Default]);
            }
        }
        if let Some(name) = node.child_of(Kind::Function, Role::Name) {
            self.name(name);
        }
        if node.kind() == Kind::Lambda {
            self.captures(node);
        }
    }

    /// What a lambda uses of the variables around it has its value when the lambda is made, as compilers have it.
    fn captures(&mut self, lambda: NodeRef<'t>) {
        if !self.takes_every_way {
            return;
        }
        let variables = self.variables;
        for place in variables.places_in(lambda) {
            let at = variables.at[place];
            if at.uses && variables.all[at.variable as usize].owner == self.owner.id() {
                self.push(Event::Use(at.variable, *place));
            }
        }
    }

    fn on_assignment(&mut self, node: NodeRef<'t>) {
        let value = node.child(Role::Value);
        if let Some(value) = value {
            self.value(value);
        }
        if value.is_none() && node.kind() == Kind::AnnotatedAssignment && node.role() != Role::Item {
            return;
        }
        for target in node.children_in(Role::Target) {
            if target.kind() != Kind::Name {
                self.may_raise();
            }
            self.value(target);
        }
    }

    fn on_conditional(&mut self, node: NodeRef<'t>) {
        let Some(condition) = node.child(Role::Condition) else { return };
        let (holds, fails) = self.condition(condition);
        self.current = holds;
        self.parts(node, &[Role::Value]);
        let one = self.current;
        self.current = fails;
        self.parts(node, &[Role::Else]);
        let other = self.current;
        self.join(&[(one, EdgeKind::Open), (other, EdgeKind::Open)]);
    }

    fn on_logical(&mut self, node: NodeRef<'t>) {
        let (holds, fails) = self.condition(node);
        self.join(&[(holds, EdgeKind::Open), (fails, EdgeKind::Open)]);
    }

    fn on_default(&mut self, node: NodeRef<'t>) {
        let before = self.current;
        self.go_on(EdgeKind::Open);
        self.parts(node, &[Role::Default]);
        let given = self.current;
        self.join(&[(before, EdgeKind::Open), (given, EdgeKind::Open)]);
        self.parts(node, &[Role::Pattern]);
    }

    /// What a comprehension binds with `:=` may stay unbound: it may have nothing to go over. A generator runs later.
    fn on_comprehension(&mut self, node: NodeRef<'t>) {
        let mut clauses = node.children_in(Role::Clause);
        if let Some(first) = clauses.next().and_then(|clause| clause.child(Role::Iterable)) {
            self.value(first);
        }
        self.may_raise();
        if !matches!(node.first_token_kind(), TokenKind::BracketOpen | TokenKind::BraceOpen) {
            return self.on_generator(node);
        }
        let before = self.current;
        self.go_on(EdgeKind::Open);
        for (index, clause) in node.children_in(Role::Clause).enumerate() {
            if index > 0 {
                self.parts(clause, &[Role::Iterable]);
            }
            self.parts(clause, &[Role::Target]);
            for condition in clause.children_in(Role::Condition) {
                let (holds, _) = self.condition(condition);
                self.current = holds;
            }
        }
        self.parts(node, &[Role::Element]);
        let ran = self.current;
        self.join(&[(ran, EdgeKind::Open), (before, EdgeKind::Doubtful(node.id()))]);
    }

    /// What a generator assigns outside of itself: `any((quay := one).is_open for one in quays)`. It runs when it is asked, if at all.
    fn on_generator(&mut self, node: NodeRef<'t>) {
        let assigns = |part: &NodeRef<'t>| part.kind() == Kind::NamedExpression;
        let named: Vec<NodeRef<'t>> = node.descendants().take(MOST_NODES_OF_GENERATOR).filter(assigns).collect();
        if named.is_empty() {
            return;
        }
        let before = self.current;
        self.go_on(EdgeKind::Open);
        for assignment in named {
            self.parts(assignment, &[Role::Target]);
        }
        let ran = self.current;
        self.join(&[(ran, EdgeKind::Open), (before, EdgeKind::Doubtful(node.id()))]);
    }

    // Conditions.

    /// Evaluates a condition; gives where it goes on if it holds, and where if not.
    pub(super) fn condition(&mut self, node: NodeRef<'t>) -> (BlockId, BlockId) {
        match node.kind() {
            Kind::Group => match node.child(Role::Value) {
                Some(inner) => self.condition(inner),
                None => self.branch_on(node),
            },
            Kind::Unary if matches!(node.first_token_kind(), TokenKind::Not | TokenKind::Exclamation) => {
                match node.child(Role::Operand) {
                    Some(inner) if !self.is_shell() => {
                        let (holds, fails) = self.condition(inner);
                        (fails, holds)
                    }
                    _ => self.branch_on(node),
                }
            }
            Kind::Logical if !self.is_shell() => self.logical_condition(node),
            Kind::Conditional => self.chosen_condition(node),
            _ => self.branch_on(node),
        }
    }

    /// `low ? shallow : deep` as a condition: each of its values is one.
    fn chosen_condition(&mut self, node: NodeRef<'t>) -> (BlockId, BlockId) {
        let parts = (node.child(Role::Condition), node.child(Role::Value), node.child(Role::Else));
        let (Some(condition), Some(one), Some(other)) = parts else { return self.branch_on(node) };
        let (holds, fails) = self.condition(condition);
        self.current = holds;
        let (holds, one_fails) = self.condition(one);
        self.current = fails;
        let (other_holds, fails) = self.condition(other);
        self.join(&[(holds, EdgeKind::Open), (other_holds, EdgeKind::Open)]);
        let holds = self.current;
        self.join(&[(one_fails, EdgeKind::Open), (fails, EdgeKind::Open)]);
        (holds, self.current)
    }

    /// `and`, `or` and their like: each operand is asked only if those before do not decide.
    fn logical_condition(&mut self, node: NodeRef<'t>) -> (BlockId, BlockId) {
        let operands: Vec<NodeRef<'t>> = node.children_in(Role::Operand).collect();
        let operator = operands.first().map(|first| first.kind_behind());
        let (mut holding, mut failing) = (Vec::new(), Vec::new());
        for (index, operand) in operands.iter().enumerate() {
            let (holds, fails) = self.condition(*operand);
            let is_last = index + 1 == operands.len();
            match operator {
                Some(TokenKind::And | TokenKind::AndAnd) => {
                    failing.push((fails, EdgeKind::Open));
                    self.current = holds;
                    if is_last {
                        holding.push((holds, EdgeKind::Open));
                    }
                }
                Some(TokenKind::Or | TokenKind::BarBar) => {
                    holding.push((holds, EdgeKind::Open));
                    self.current = fails;
                    if is_last {
                        failing.push((fails, EdgeKind::Open));
                    }
                }
                // `??` asks for something else than whether it holds.
                _ => {
                    holding.push((holds, EdgeKind::Open));
                    holding.push((fails, EdgeKind::Open));
                    failing.clone_from(&holding);
                    self.join(&holding.clone());
                }
            }
        }
        self.join(&holding);
        let holds = self.current;
        self.join(&failing);
        (holds, self.current)
    }

    /// A condition without parts: both ways are open, unless it is a constant.
    fn branch_on(&mut self, node: NodeRef<'t>) -> (BlockId, BlockId) {
        if self.is_shell() && node.kind() == Kind::Block {
            self.statements(node);
        } else {
            self.value(node);
        }
        let from = self.current;
        let (holds, fails) = (self.open(), self.open());
        let constant = self.constant(node);
        if constant.is_none() && self.may_be_constant(node) {
            let edge = EdgeKind::Doubtful(self.owner.id());
            self.graph.connect(from, holds, edge);
            self.graph.connect(from, fails, edge);
            return (holds, fails);
        }
        if constant != Some(false) {
            self.graph.connect(from, holds, EdgeKind::Open);
        } else {
            self.graph.connect(from, holds, EdgeKind::Unlikely);
        }
        if constant != Some(true) {
            self.graph.connect(from, fails, EdgeKind::Open);
        } else if node.role() != Role::Condition
            || !node.parent().is_some_and(|parent| matches!(parent.kind(), Kind::While | Kind::DoWhile | Kind::For))
        {
            // Only a loop without an end is written so on purpose; elsewhere a constant is a switch that may be turned.
            self.graph.connect(from, fails, EdgeKind::Unlikely);
        }
        (holds, fails)
    }

    /// Whether a compiler that follows variables may know the value of a condition: it is a constant, or has the name of one.
    pub(super) fn may_be_constant(&self, node: NodeRef<'t>) -> bool {
        if self.variables.constants.contains(&node.id()) {
            return true;
        }
        let name = if node.kind() == Kind::Member { node.child(Role::Name) } else { Some(node) };
        let name = name.filter(|name| self.takes_every_way && name.kind() == Kind::Name);
        name.is_some_and(|name| !self.text(name).contains(char::is_lowercase))
    }

    /// What a condition that is a constant says.
    fn constant(&self, node: NodeRef<'t>) -> Option<bool> {
        match node.kind() {
            Kind::Boolean => Some(matches!(node.first_token_kind(), TokenKind::True | TokenKind::TrueWord)),
            Kind::Number => match self.text(node) {
                "1" => Some(true),
                "0" => Some(false),
                _ => None,
            },
            Kind::Block if self.is_shell() => match self.text(node).trim_end_matches([';', ' ', '\n']) {
                "true" | ":" => Some(true),
                "false" => Some(false),
                _ => None,
            },
            _ => None,
        }
    }
}

fn says_only_types(kind: Kind) -> bool {
    (Kind::NamedType as u16..=Kind::TypePredicate as u16).contains(&(kind as u16))
        || matches!(kind, Kind::Interface | Kind::TypeAlias | Kind::IndexSignature)
}

/// So many nodes of a generator are looked at, as generators may be in each other.
const MOST_NODES_OF_GENERATOR: usize = 200;

/// Parts of a type say nothing of what runs.
fn is_type(part: NodeRef<'_>) -> bool {
    matches!(part.role(), Role::Type | Role::Returns | Role::TypeArguments | Role::TypeParameters)
}

/// What is likely to raise. Nearly everything may; to count it all would say of nearly nothing that it surely happens.
fn may_raise(kind: Kind) -> bool {
    matches!(
        kind,
        Kind::Call
            | Kind::New
            | Kind::TaggedTemplate
            | Kind::ImportCall
            | Kind::Subscript
            | Kind::Await
            | Kind::Yield
            | Kind::YieldFrom
            | Kind::Comprehension
            | Kind::Import
            | Kind::Delete
            | Kind::Element
    )
}

/// Whether something in a node may raise, functions made in it left aside.
fn may_raise_at_all(node: NodeRef<'_>) -> bool {
    std::iter::once(node).chain(node.descendants()).any(|part| may_raise(part.kind()) && part.kind() != Kind::Function)
}
