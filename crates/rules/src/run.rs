//! Runs rules over one file: one scan of the tree, exported by the kinds that each rule asked for.

use std::cell::OnceCell;

use sieve_meaning::flow::{Flow, Flows};
use sieve_meaning::names::Names;
use sieve_meaning::names_of;
use sieve_meaning::project::{Alone, Callee, Calls, Others};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Fault, Kind, NodeRef, TokenId, TokenKind, Tree};

use crate::catalogue;
use crate::interface::{Check, Chosen, Concern, Context, File, Line, OptionValue, Report, Rule, RuleId, names_tests};
use crate::spacing::{self, SpacingSort};

/// A rule that is on, with the values of its options in the order of its facts.
#[derive(Debug, Clone)]
pub struct Enabled {
    /// The rule.
    pub rule: RuleId,
    /// The values of its options.
    pub values: Vec<OptionValue>,
}

type OnNode = fn(&mut Context, NodeRef);
type OnNodes = fn(&mut Context, &[NodeRef]);
type OnFlow = fn(&mut Context, &Flow);
type OnCall = fn(&mut Context, NodeRef, &Callee);
type OnToken = fn(&mut Context, TokenId);

/// The rules that are on for some files, sorted by what they check. Made once, used for many files.
#[derive(Debug)]
pub struct Dispatch {
    enabled: Vec<Enabled>,
    chosen: Chosen,
    by_kind: Vec<Vec<(usize, OnNode)>>,
    /// Rules that get all nodes of a kind at once, by their place in `gathering`.
    gathered: Vec<Vec<usize>>,
    gathering: Vec<(usize, OnNodes)>,
    by_spacing: Vec<(usize, SpacingSort)>,
    by_token: Vec<Vec<(usize, OnToken)>>,
    by_flow: Vec<(usize, OnFlow)>,
    by_call: Vec<(usize, OnCall)>,
    others: Vec<usize>,
    has_token_rules: bool,
    has_line_rules: bool,
    needs_names: bool,
}

impl Dispatch {
    /// Sorts rules by what they check.
    pub fn new(enabled: Vec<Enabled>) -> Dispatch {
        let mut dispatch = Dispatch {
            by_kind: vec![Vec::new(); Kind::ALL.len()],
            gathered: vec![Vec::new(); Kind::ALL.len()],
            gathering: Vec::new(),
            by_spacing: Vec::new(),
            by_token: vec![Vec::new(); 256],
            by_flow: Vec::new(),
            by_call: Vec::new(),
            others: Vec::new(),
            has_token_rules: false,
            has_line_rules: false,
            needs_names: false,
            enabled,
            chosen: Chosen::default(),
        };
        for index in 0..dispatch.enabled.len() {
            let rule = dispatch.rule(index);
            dispatch.needs_names |= rule.needs_names;
            match rule.check {
                Check::Nodes(kinds, function) | Check::Joined(kinds, function) => {
                    for kind in kinds {
                        dispatch.by_kind[*kind as usize].push((index, function));
                    }
                }
                Check::Tokens(kinds, function) => {
                    dispatch.has_token_rules = true;
                    for kind in kinds {
                        dispatch.by_token[*kind as usize].push((index, function));
                    }
                }
                Check::All(kinds, function) => {
                    for kind in kinds {
                        dispatch.gathered[*kind as usize].push(dispatch.gathering.len());
                    }
                    dispatch.gathering.push((index, function));
                }
                Check::Spacing(sort) => dispatch.by_spacing.push((index, sort)),
                Check::Flows(function) => dispatch.by_flow.push((index, function)),
                Check::Calls(function) => dispatch.by_call.push((index, function)),
                Check::Lines(_) => {
                    dispatch.has_line_rules = true;
                    dispatch.others.push(index);
                }
                _ => dispatch.others.push(index),
            }
        }
        dispatch
    }

    /// The same with what a team chose.
    pub fn choosing(self, chosen: Chosen) -> Dispatch {
        Dispatch { chosen, ..self }
    }

    /// Whether a rule that is on asks what names mean.
    pub fn needs_names(&self) -> bool {
        self.needs_names
    }

    fn rule(&self, index: usize) -> &'static Rule {
        catalogue::rule(self.enabled[index].rule)
    }

    fn context<'c>(&'c self, index: usize, file: File<'c>, report: &'c mut Report) -> Context<'c> {
        let enabled = &self.enabled[index];
        Context::new(file, enabled.rule, catalogue::rule(enabled.rule), &enabled.values, &self.chosen, report)
    }

    fn holds(&self, index: usize, file: File<'_>) -> bool {
        self.rule(index).languages.contains(&file.language)
    }
}

/// A file, understood as far as the rules that are on need.
#[derive(Debug, Clone, Copy)]
pub struct Input<'i> {
    /// Its path, with `/`, from the root of the code base.
    pub path: &'i str,
    /// Its language.
    pub language: Language,
    /// Its text.
    pub text: &'i Text,
    /// Its tree.
    pub tree: &'i Tree,
    /// Its names, where the rules need them.
    pub names: Option<&'i Names<'i>>,
    /// The files around it, which it asks what it does not know itself.
    pub others: &'i dyn Others,
}

/// Runs the rules over a file that is alone. Findings come in no particular order.
pub fn run(path: &str, language: Language, text: &Text, tree: &Tree, dispatch: &Dispatch) -> Report {
    let names = dispatch.needs_names.then(|| names_of(language, text, tree));
    run_on(&Input { path, language, text, tree, names: names.as_ref(), others: &Alone }, dispatch)
}

/// Runs the rules over a file. Findings come in no particular order.
pub fn run_on(input: &Input<'_>, dispatch: &Dispatch) -> Report {
    let Input { path, language, text, tree, names, others } = *input;
    let calls = names.map(|names| Calls::new(language, text, tree, names, others));
    let (unit, only_imports, words_in_text) = (OnceCell::new(), OnceCell::new(), OnceCell::new());
    let file = File {
        path,
        language,
        text,
        tree,
        names,
        calls: calls.as_ref(),
        is_test: names_tests(path),
        unit: &unit,
        only_imports: &only_imports,
        words_in_text: &words_in_text,
    };
    let mut report = Report::default();
    scan_nodes(file, dispatch, &mut report);
    scan_spacing(file, dispatch, &mut report);
    scan_flows(file, dispatch, &mut report);
    scan_calls(file, dispatch, &mut report);
    if dispatch.has_token_rules {
        scan_tokens(file, dispatch, &mut report);
    }
    if dispatch.has_line_rules {
        scan_lines(file, dispatch, &mut report);
    }
    for index in dispatch.others.iter().copied().filter(|index| dispatch.holds(*index, file)) {
        run_other(file, dispatch, index, &mut report);
    }
    if !tree.faults().is_empty() {
        without_layout_fixes(&mut report);
    }
    report
}

/// In a file with syntax faults it cannot be proved that a change of layout leaves the code as it is.
fn without_layout_fixes(report: &mut Report) {
    for finding in &mut report.findings {
        if catalogue::rule(finding.rule).concern == Concern::Layout {
            finding.fix = None;
        }
    }
}

fn scan_nodes(file: File<'_>, dispatch: &Dispatch, report: &mut Report) {
    let holds: Vec<bool> = (0..dispatch.enabled.len()).map(|index| dispatch.holds(index, file)).collect();
    let mut gathered: Vec<Vec<NodeRef>> = vec![Vec::new(); dispatch.gathering.len()];
    for node in file.tree.nodes() {
        for (index, function) in &dispatch.by_kind[node.kind() as usize] {
            if holds[*index] {
                function(&mut dispatch.context(*index, file, report), node);
            }
        }
        for gathering in &dispatch.gathered[node.kind() as usize] {
            if holds[dispatch.gathering[*gathering].0] {
                gathered[*gathering].push(node);
            }
        }
    }
    for ((index, function), nodes) in dispatch.gathering.iter().zip(&gathered) {
        if holds[*index] {
            function(&mut dispatch.context(*index, file, report), nodes);
        }
    }
}

fn scan_spacing(file: File<'_>, dispatch: &Dispatch, report: &mut Report) {
    let rules: Vec<_> = dispatch.by_spacing.iter().filter(|(index, _)| dispatch.holds(*index, file)).collect();
    if rules.is_empty() {
        return;
    }
    let operators = rules.iter().find(|(_, sort)| *sort == SpacingSort::Operator);
    let word = operators.map_or("", |(index, _)| dispatch.context(*index, file, report).word(spacing::ARITHMETIC));
    spacing::scan(file, spacing::around_arithmetic(word), |sort, spaced| {
        for (index, _) in rules.iter().filter(|(_, own)| *own == sort) {
            spacing::report(&mut dispatch.context(*index, file, report), spaced);
        }
    });
}

fn scan_flows(file: File<'_>, dispatch: &Dispatch, report: &mut Report) {
    let checks: Vec<_> = dispatch.by_flow.iter().filter(|(index, _)| dispatch.holds(*index, file)).collect();
    if checks.is_empty() {
        return;
    }
    let flows = Flows::new(file.language, file.text, file.tree, file.names);
    for flow in flows.owners().filter_map(|owner| flows.of(owner)) {
        for (index, function) in &checks {
            function(&mut dispatch.context(*index, file, report), &flow);
        }
    }
}

fn scan_calls(file: File<'_>, dispatch: &Dispatch, report: &mut Report) {
    let checks: Vec<_> = dispatch.by_call.iter().filter(|(index, _)| dispatch.holds(*index, file)).collect();
    let Some(calls) = file.calls.filter(|_| !checks.is_empty()) else { return };
    // Functions that are changed from outside take something else than their declarations say.
    let changes = ["__defaults__", "__kwdefaults__", "__code__"];
    if changes.iter().any(|name| memchr::memmem::find(file.text.source().as_bytes(), name.as_bytes()).is_some()) {
        return;
    }
    for call in file.tree.nodes().filter(|node| matches!(node.kind(), Kind::Call | Kind::New)) {
        let Some(callee) = calls.callee(call) else { continue };
        for (index, function) in &checks {
            function(&mut dispatch.context(*index, file, report), call, &callee);
        }
    }
}

fn scan_tokens(file: File<'_>, dispatch: &Dispatch, report: &mut Report) {
    for (id, token) in file.tree.tokens().iter().enumerate() {
        for (index, function) in &dispatch.by_token[token.kind as usize] {
            if dispatch.holds(*index, file) {
                function(&mut dispatch.context(*index, file, report), id as TokenId);
            }
        }
    }
}

fn scan_lines(file: File<'_>, dispatch: &Dispatch, report: &mut Report) {
    let checks: Vec<(usize, fn(&mut Context, Line))> = dispatch
        .others
        .iter()
        .filter(|index| dispatch.holds(**index, file))
        .filter_map(|index| match dispatch.rule(*index).check {
            Check::Lines(function) => Some((*index, function)),
            _ => None,
        })
        .collect();
    let lines = file.text.lines();
    for number in 1..=lines.count() {
        let line = Line { number, span: lines.line(file.text.source(), number) };
        for (index, function) in &checks {
            function(&mut dispatch.context(*index, file, report), line);
        }
    }
}

fn run_other(file: File<'_>, dispatch: &Dispatch, index: usize, report: &mut Report) {
    let mut context = dispatch.context(index, file, report);
    match dispatch.rule(index).check {
        Check::Bindings(function) => {
            for binding in context.names().bindings() {
                function(&mut context, binding);
            }
        }
        Check::References(function) => {
            for reference in context.names().references() {
                function(&mut context, reference);
            }
        }
        Check::Faults(function) => {
            for fault in file.tree.faults() {
                let fault: &Fault = fault;
                function(&mut context, fault);
            }
        }
        Check::File(function) => function(&mut context),
        Check::Copies(function) => report.windows = function(&mut context),
        Check::Nodes(..)
        | Check::Joined(..)
        | Check::All(..)
        | Check::Tokens(..)
        | Check::Spacing(_)
        | Check::Flows(_)
        | Check::Calls(_)
        | Check::Lines(_)
        | Check::Upkeep
        | Check::Settings
        | Check::Paths => {}
    }
}

/// A table indexed by the kind of a token has an entry for each.
const _: () = assert!((TokenKind::Yield as usize) < 256);
