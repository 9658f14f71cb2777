//! Builds the graph of one function or file: one function for each kind of statement.
//!
//! Statements run in the order of the text; expressions in the order in which the languages evaluate them. A `finally` is in the
//! graph once for each way of coming to it, so that a way in is never joined to a way out that belongs to another.

mod attempt;
mod choice;
mod expression;
mod jump;
mod loops;

use rustc_hash::FxHashSet;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use super::graph::{BlockId, EdgeKind, Event, Graph};
use super::variables::{Bound, Variables};
use crate::table::{Values, meaning_of};
use jump::Frame;

/// More blocks than this for each node are not built: code in many a `finally` within another.
const MOST_BLOCKS_PER_NODE: usize = 4;

pub(super) struct Builder<'t, 'v> {
    language: Language,
    text: &'t Text,
    /// A compiler follows variables: it takes every way for one that can be gone, whatever the author knows.
    takes_every_way: bool,
    variables: &'v Variables,
    /// Statements that are calls which never come back.
    endings: &'v FxHashSet<NodeId>,
    /// Whether the function has variables that matter, so that expressions must be looked into.
    looks_into_expressions: bool,
    owner: NodeRef<'t>,
    graph: Graph,
    current: BlockId,
    frames: Vec<Frame<'t>>,
    /// Where an error goes that is raised here; nowhere within the function if none.
    landing: Option<BlockId>,
    /// The block that already leads to a landing: what it binds later must not seem bound there.
    raised: Option<(BlockId, BlockId)>,
    most_blocks: usize,
    /// The file has no syntax faults, and no statements are in its expressions.
    is_whole: bool,
    is_broken: bool,
}

/// Builds the graph of the code that belongs to `owner`; nothing where it would be too large, or the code is damaged.
pub(super) fn build<'t>(
    language: Language,
    text: &'t Text,
    owner: NodeRef<'t>,
    variables: &Variables,
    endings: &FxHashSet<NodeId>,
) -> Option<Graph> {
    let mut graph = Graph::default();
    let entry = graph.open();
    let nodes = (owner.end().0 - owner.id().0) as usize;
    let mut builder = Builder {
        language,
        text,
        takes_every_way: meaning_of(language).values == Values::ByCompiler,
        variables,
        endings,
        looks_into_expressions: !variables.of_owner(owner.id()).is_empty(),
        owner,
        graph,
        current: entry,
        frames: Vec::new(),
        landing: None,
        raised: None,
        most_blocks: (nodes + 16) * MOST_BLOCKS_PER_NODE,
        is_whole: owner.tree().faults().is_empty() && language != Language::Shell,
        is_broken: false,
    };
    match owner.child(Role::Body) {
        Some(body) if owner.kind() != Kind::File => builder.statement_or_value(body),
        _ => builder.statements(owner),
    }
    (!builder.is_broken).then_some(builder.graph)
}

impl<'t> Builder<'t, '_> {
    fn text(&self, node: NodeRef<'t>) -> &'t str {
        self.text.slice(node.span())
    }

    fn is_shell(&self) -> bool {
        self.language == Language::Shell
    }

    // Edges and blocks.

    /// A way that the author may know to be never taken.
    fn doubtful(&self, statement: NodeRef<'t>) -> EdgeKind {
        if self.takes_every_way { EdgeKind::Open } else { EdgeKind::Doubtful(statement.id()) }
    }

    /// A new block that nothing leads to yet.
    fn open(&mut self) -> BlockId {
        if self.graph.len() > self.most_blocks {
            self.is_broken = true;
        }
        self.graph.open()
    }

    /// Goes on in a new block, after the current one.
    fn go_on(&mut self, edge: EdgeKind) -> BlockId {
        let from = self.current;
        let next = self.open();
        self.graph.connect(from, next, edge);
        self.current = next;
        next
    }

    /// Goes on in a new block that the ends of others lead to.
    fn join(&mut self, ends: &[(BlockId, EdgeKind)]) {
        let next = self.open();
        for (end, edge) in ends {
            self.graph.connect(*end, next, *edge);
        }
        self.current = next;
    }

    fn push(&mut self, event: Event) {
        self.graph.push(self.current, event);
    }

    /// What was met may raise an error here.
    fn may_raise(&mut self) {
        let Some(landing) = self.landing else { return };
        if self.raised != Some((self.current, landing)) {
            self.graph.connect(self.current, landing, EdgeKind::Open);
            self.raised = Some((self.current, landing));
        }
    }

    /// A name is met: a variable of the function may be read or get a value.
    fn name(&mut self, node: NodeRef<'t>) {
        let Some(at) = self.variables.at.get(&node.id()).copied() else { return };
        if self.variables.all[at.variable as usize].owner != self.owner.id() {
            return;
        }
        if at.uses {
            self.push(Event::Use(at.variable, node.id()));
        }
        match at.binds {
            Some(Bound::Set) => self.change(Event::Bind(at.variable)),
            Some(Bound::Unset) => self.change(Event::Unbind(at.variable)),
            None => {}
        }
    }

    /// Changes what variables have, after whatever the block has already raised.
    fn change(&mut self, event: Event) {
        if self.raised.is_some_and(|(block, _)| block == self.current) {
            self.go_on(EdgeKind::Open);
        }
        self.push(event);
    }

    /// A block begins whose own variables have no value yet.
    fn forget(&mut self, scope: NodeRef<'t>) {
        for variable in self.variables.of_block.get(&scope.id()).into_iter().flatten() {
            self.change(Event::Unbind(*variable));
        }
    }

    // Statements.

    fn statements(&mut self, block: NodeRef<'t>) {
        self.forget(block);
        for statement in block.children_in(Role::Statement) {
            if self.is_broken {
                return;
            }
            let in_background = self.is_shell() && runs_in_background(statement);
            if in_background {
                self.isolated(|builder| builder.statement(statement));
            } else {
                self.statement(statement);
            }
        }
    }

    /// The body of something: a block, a statement alone, or the value of a short function.
    fn statement_or_value(&mut self, body: NodeRef<'t>) {
        match body.kind() {
            Kind::Block => self.statements(body),
            kind if kind.is_statement() => self.statement(body),
            _ => self.value(body),
        }
    }

    fn statement(&mut self, node: NodeRef<'t>) {
        self.push(Event::Statement(node.id()));
        match node.kind() {
            Kind::Block => self.statements(node),
            Kind::If => self.on_if(node),
            Kind::Match => self.on_match(node),
            Kind::Select => self.on_select(node),
            Kind::While => self.on_while(node),
            Kind::DoWhile => self.on_do_while(node),
            Kind::For => self.on_for(node),
            Kind::Labeled => self.on_labeled(node),
            Kind::Try => self.on_try(node),
            Kind::With => self.on_with(node),
            Kind::Return | Kind::Throw | Kind::Break | Kind::Continue | Kind::Yield => self.on_jump(node),
            Kind::Assert => self.on_assert(node),
            Kind::Class => self.on_class(node),
            Kind::Function if self.is_shell() => {}
            Kind::Redirected | Kind::CommandGroup => {
                for part in node.children() {
                    self.statement_or_value(part);
                }
            }
            Kind::Subshell | Kind::Pipeline | Kind::Coprocess => self.isolated(|builder| {
                for part in node.children() {
                    builder.isolated(|builder| builder.statement_or_value(part));
                }
            }),
            Kind::Command => self.on_command(node),
            Kind::Logical if self.is_shell() => self.on_command_list(node),
            Kind::Namespace | Kind::Interface | Kind::Enum => {}
            // What it represents is evaluated when it is asked for.
            Kind::TypeAlias => node.children_in(Role::Name).for_each(|name| self.value(name)),
            // Where a jump leads by a label is not followed.
            Kind::Error | Kind::Opaque | Kind::Goto => self.is_broken = true,
            _ => self.on_simple(node),
        }
    }

    fn on_simple(&mut self, node: NodeRef<'t>) {
        self.value(node);
        if self.endings.contains(&node.id()) {
            self.may_raise();
            self.current = self.open();
        } else if self.diverges(node) {
            self.go_on(EdgeKind::Unlikely);
        }
    }

    /// The body of a class runs at once where the class is; in languages whose members are no statements it does not.
    fn on_class(&mut self, node: NodeRef<'t>) {
        for role in [Role::Decorator, Role::Arguments] {
            for part in node.children_in(role) {
                self.value(part);
            }
        }
        if self.language == Language::Python
            && let Some(body) = node.child(Role::Body)
        {
            self.statements(body);
        }
        if let Some(name) = node.child(Role::Name) {
            self.name(name);
        }
    }

    fn on_assert(&mut self, node: NodeRef<'t>) {
        let Some(condition) = node.child(Role::Condition) else { return };
        let (holds, fails) = self.condition(condition);
        self.current = fails;
        if let Some(message) = node.child(Role::Message) {
            self.value(message);
        }
        self.may_raise();
        // Asserts can be switched off.
        let fails = self.current;
        self.join(&[(holds, EdgeKind::Open), (fails, EdgeKind::Unlikely)]);
    }

    /// Code that runs beside the rest, or in a copy of it: what leaves in it leaves only that.
    fn isolated(&mut self, run: impl FnOnce(&mut Self)) {
        let end = self.open();
        let before = self.current;
        self.frames.push(Frame::Isolated { end });
        run(self);
        self.frames.pop();
        let ran = self.current;
        self.graph.connect(ran, end, EdgeKind::Open);
        self.graph.connect(before, end, EdgeKind::Unlikely);
        self.current = end;
    }

    fn on_command(&mut self, node: NodeRef<'t>) {
        let name = node.child(Role::Callee).map_or("", |callee| self.text(callee));
        if name == "exit" {
            self.leave(jump::Jump::Exit);
        }
    }

    /// Commands joined by `&&` and `||`: each of them may run or not.
    fn on_command_list(&mut self, node: NodeRef<'t>) {
        for operand in node.children_in(Role::Operand) {
            let before = self.current;
            self.go_on(EdgeKind::Open);
            self.statement_or_value(operand);
            let ran = self.current;
            self.join(&[(before, EdgeKind::Open), (ran, EdgeKind::Open)]);
        }
    }

    /// A statement that is a call which may never come back: all that is known of it is its name.
    fn may_diverge(&self, statement: NodeRef<'t>) -> bool {
        !self.takes_every_way && called_by(statement).is_some_and(|call| !self.surely_returns(call))
    }

    /// A statement that is a call which everybody knows to end the program, or the test.
    fn diverges(&self, statement: NodeRef<'t>) -> bool {
        let callee = called_by(statement).and_then(|call| call.child(Role::Callee));
        callee.is_some_and(|callee| !self.takes_every_way && LEAVING_CALLS.contains(&self.text(callee)))
    }

    /// Calls of which everybody knows that they come back. Of others only their code could tell.
    fn surely_returns(&self, call: NodeRef<'t>) -> bool {
        let Some(callee) = call.child(Role::Callee) else { return false };
        let last = if callee.kind() == Kind::Member { callee.child(Role::Name) } else { Some(callee) };
        let last = last.map_or("", |name| self.text(name));
        let object = callee.child(Role::Object).map_or("", |object| self.text(object)).to_ascii_lowercase();
        let tells = object.contains("log") || object.contains("warn") || object == "console";
        tells
            || matches!(
                last,
                "print"
                    | "append"
                    | "extend"
                    | "add"
                    | "update"
                    | "insert"
                    | "pop"
                    | "remove"
                    | "clear"
                    | "write"
                    | "writelines"
                    | "flush"
                    | "close"
                    | "warn"
                    | "warning"
                    | "info"
                    | "debug"
                    | "exception"
                    | "sleep"
                    | "print_exc"
                    | "setdefault"
                    | "sort"
                    | "reverse"
                    | "push"
                    | "set"
            )
    }
}

/// Calls that end the program or the test they are in, by all that is known of their names.
const LEAVING_CALLS: &[&str] = &[
    "sys.exit",
    "os._exit",
    "os.abort",
    "exit",
    "quit",
    "process.exit",
    "self.fail",
    "self.skipTest",
    "pytest.fail",
    "pytest.skip",
];

/// The call that a statement consists of.
pub(super) fn called_by(statement: NodeRef<'_>) -> Option<NodeRef<'_>> {
    let value = statement.child_of(Kind::ExpressionStatement, Role::Value)?;
    let call = if value.kind() == Kind::Await { value.child(Role::Value)? } else { value };
    (call.kind() == Kind::Call).then_some(call)
}

/// Whether a command of a shell ends with a lone `&`.
fn runs_in_background(statement: NodeRef<'_>) -> bool {
    let tree = statement.tree();
    let behind = (statement.token_range().end..).map(|token| tree.token_kind(token));
    behind.into_iter().find(|kind| *kind != TokenKind::Blank) == Some(TokenKind::Ampersand)
}
