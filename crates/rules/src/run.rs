//! Runs rules over one file: one scan of the nodes, one of the tokens, one of the lines, whatever the number of rules.

use sieve_meaning::flow::Flows;
use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_syntax::language::{Language, Layer};
use sieve_syntax::text::{Marks, Text};
use sieve_syntax::tree::{Kind, Role, TokenId, Tree};

use crate::catalogue;
use crate::dispatch::{Dispatch, On, OnNode, Share, Table};
use crate::house::Ready;
use crate::input::Input;
use crate::interface::{Concern, Context, File, Line, Report, RuleId, SpacingKind};
use crate::shell::command_name;
use crate::spacing;

/// Runs the rules over a file that is alone. Findings come in no particular order.
pub fn run(path: &str, language: Language, text: &Text, tree: &Tree, dispatch: &Dispatch) -> Report {
    let names = dispatch.needs_names().then(|| names_of(language, text, tree));
    run_on(&Input { path, language, text, tree, names: names.as_ref(), others: &Alone }, dispatch)
}

/// Runs the rules over a file. Findings come in no particular order.
pub fn run_on(input: &Input<'_>, dispatch: &Dispatch) -> Report {
    run_share_on(input, dispatch, Share::Whole)
}

/// Runs a share of the rules over a file. Findings come in no particular order. Called once or twice for a file, and its cost is to be
/// seen in profiles.
#[inline(never)]
pub fn run_share_on(input: &Input<'_>, dispatch: &Dispatch, share: Share) -> Report {
    input.with_file(|file| Run::new(file, dispatch, share).report())
}

/// Runs the rules over what a file holds in another language, given as a tree of the whole file in which all else is trivia. What is
/// asked of whole files and of lines is not asked of it, nor layout where it is the value of an attribute.
pub fn run_on_layer(input: &Input<'_>, layer: &Layer, dispatch: &Dispatch) -> Report {
    let mut report = input.with_file(|file| Run { is_layer: true, ..Run::new(file, dispatch, Share::Whole) }.report());
    report.findings.retain(|finding| !(is_layout(finding.rule) && layer.is_inline(finding.span.start)));
    report
}

/// Runs the rules of packs alone over a file. Findings come in no particular order.
pub fn run_house_on(input: &Input<'_>, dispatch: &Dispatch) -> Report {
    let mut report = Report::default();
    if let Some(house) = dispatch.house(input.language, Share::Whole) {
        input.with_file(|file| house.check(file, &mut report));
    }
    report
}

/// In a file with syntax faults it cannot be proved that a change of layout leaves the code as it is.
fn without_layout_fixes(report: &mut Report) {
    for finding in report.findings.iter_mut().filter(|finding| is_layout(finding.rule)) {
        finding.fix = None;
    }
}

fn is_layout(rule: RuleId) -> bool {
    let is_built_in = usize::from(rule.0) < catalogue::rules().len();
    is_built_in && catalogue::rule(rule).concern == Concern::Layout
}

/// Functions that are changed from outside take something else than their declarations say.
static CHANGED_FUNCTIONS: Marks = Marks::new(&["__defaults__", "__kwdefaults__", "__code__"]);

/// One file, and the rules of a share that are on for its language.
struct Run<'r> {
    file: File<'r>,
    dispatch: &'r Dispatch,
    table: &'r Table,
    house: Option<&'r Ready>,
    /// The tree is of what a file holds in another language.
    is_layer: bool,
}

impl<'r> Run<'r> {
    fn new(file: File<'r>, dispatch: &'r Dispatch, share: Share) -> Run<'r> {
        let language = file.language;
        let (table, house) = (dispatch.table(language, share), dispatch.house(language, share));
        Run { file, dispatch, table, house, is_layer: false }
    }

    fn report(&self) -> Report {
        let mut report = Report::default();
        self.nodes(&mut report);
        self.named(&mut report);
        self.spacing(&mut report);
        self.flows(&mut report);
        self.calls(&mut report);
        self.tokens(&mut report);
        self.lines(&mut report);
        self.names(&mut report);
        self.whole(&mut report);
        if let Some(house) = self.house {
            house.check(self.file, &mut report);
        }
        if !self.file.tree.faults().is_empty() {
            without_layout_fixes(&mut report);
        }
        report
    }

    #[inline]
    fn context<'c>(&'c self, index: usize, report: &'c mut Report) -> Context<'c> {
        self.dispatch.context(index, self.file, report)
    }

    /// Calls each of some functions with a context and more.
    fn each<F: Copy>(&self, checks: &[On<F>], report: &mut Report, call: impl Fn(F, &mut Context<'_>)) {
        for (index, function) in checks {
            call(*function, &mut self.context(*index, report));
        }
    }

    /// Whether a rule may look at the root: what is only a part of a file has no name, no size and no description.
    fn suits_root(&self, index: usize) -> bool {
        let concern = self.dispatch.concern(index);
        !self.is_layer || !matches!(concern, Concern::Layout | Concern::Naming | Concern::Docs | Concern::Clarity)
    }

    /// Goes from rule to rule, and for each over the nodes of its kinds: so each does the same again and again, and none is asked of nodes
    /// that are nothing to it.
    fn nodes(&self, report: &mut Report) {
        let tree = self.file.tree;
        for kind in &self.table.node_kinds {
            let nodes = tree.nodes_of(*kind);
            if nodes.len() == 0 {
                continue;
            }
            for (index, function) in &self.table.nodes[*kind as usize] {
                if *kind != Kind::File || self.suits_root(*index) {
                    let mut context = self.context(*index, report);
                    for node in nodes.clone() {
                        function(&mut context, node);
                    }
                }
            }
        }
        for (index, kinds, function) in &self.table.gathering {
            let is_whole = self.suits_root(*index);
            let mut nodes = tree.nodes_of_any(kinds);
            nodes.retain(|node| is_whole || node.kind() != Kind::File);
            function(&mut self.context(*index, report), &nodes);
        }
    }

    /// Asks about calls those rules that ask for the name of what is called, and all where it may have another name here.
    fn named(&self, report: &mut Report) {
        let named = &self.table.named;
        if named.is_empty() {
            return;
        }
        for command in self.file.tree.nodes_of(Kind::Command) {
            let name = command_name(self.file, command);
            named.of_name(Kind::Command, name).for_each(|(index, function)| {
                function(&mut self.context(index, report), command);
            });
        }
        for kind in [Kind::Call, Kind::New] {
            for call in self.file.tree.nodes_of(kind) {
                let Some(callee) = call.child(Role::Callee) else { continue };
                let name = match callee.kind() {
                    Kind::Member => callee.child(Role::Name),
                    Kind::Name => Some(callee).filter(|name| !self.file.may_be_renamed(*name)),
                    _ => None,
                };
                let mut ask = |(index, function): On<OnNode>| function(&mut self.context(index, report), call);
                match name {
                    Some(name) => named.of_name(kind, self.file.node_text(name)).for_each(&mut ask),
                    None => named.of_any(kind).for_each(&mut ask),
                }
            }
        }
    }

    fn spacing(&self, report: &mut Report) {
        let rules = &self.table.spacing;
        if rules.is_empty() {
            return;
        }
        let operators = rules.iter().find(|(_, kind)| *kind == SpacingKind::Operator);
        let word = operators.map_or("", |(index, _)| self.context(*index, report).word(spacing::ARITHMETIC));
        spacing::scan(self.file, spacing::around_arithmetic(word), |kind, spaced| {
            for (index, _) in rules.iter().filter(|(_, own)| *own == kind) {
                spacing::report(&mut self.context(*index, report), spaced);
            }
        });
    }

    fn flows(&self, report: &mut Report) {
        if self.table.flows.is_empty() {
            return;
        }
        let flows = Flows::new(self.file.language, self.file.text, self.file.tree, self.file.names);
        for flow in flows.notable_owners().filter_map(|owner| flows.of(owner)) {
            self.each(&self.table.flows, report, |function, context| function(context, &flow));
        }
    }

    fn calls(&self, report: &mut Report) {
        let checks = &self.table.calls;
        let Some(calls) = self.file.calls.filter(|_| !checks.is_empty()) else { return };
        if CHANGED_FUNCTIONS.are_in(self.file.text.source()) {
            return;
        }
        let tree = self.file.tree;
        for call in tree.nodes_of(Kind::Call).chain(tree.nodes_of(Kind::New)) {
            let Some(callee) = calls.callee(call) else { continue };
            self.each(checks, report, |function, context| function(context, call, &callee));
        }
    }

    fn tokens(&self, report: &mut Report) {
        if self.table.tokens.is_empty() {
            return;
        }
        for (id, token) in self.file.tree.tokens().iter().enumerate() {
            for (index, function) in &self.table.tokens[token.kind as usize] {
                function(&mut self.context(*index, report), id as TokenId);
            }
        }
    }

    fn lines(&self, report: &mut Report) {
        if self.table.lines.is_empty() || self.is_layer {
            return;
        }
        let (lines, source) = (self.file.text.lines(), self.file.text.source());
        let all: Vec<Line> =
            (1..=lines.count()).map(|number| Line { number, span: lines.line(source, number) }).collect();
        for (index, function) in &self.table.lines {
            let mut context = self.context(*index, report);
            all.iter().for_each(|line| function(&mut context, *line));
        }
    }

    fn names(&self, report: &mut Report) {
        let Some(names) = self.file.names else { return };
        for (index, function) in &self.table.bindings {
            let mut context = self.context(*index, report);
            names.bindings().for_each(|binding| function(&mut context, binding));
        }
        for (index, function) in &self.table.references {
            let mut context = self.context(*index, report);
            names.references().for_each(|reference| function(&mut context, reference));
        }
    }

    fn whole(&self, report: &mut Report) {
        for fault in self.file.tree.faults() {
            self.each(&self.table.faults, report, |function, context| function(context, fault));
        }
        for (index, function) in self.table.files.iter().filter(|(index, _)| self.suits_root(*index)) {
            function(&mut self.context(*index, report));
        }
        for (index, function) in self.table.copies.iter().filter(|_| !self.is_layer) {
            let windows = function(&mut self.context(*index, report));
            report.windows = windows;
        }
    }
}
