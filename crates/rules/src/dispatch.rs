//! The rules that are on, in one table for each language by what they ask to see.

use std::sync::OnceLock;

use rustc_hash::FxHashMap;
use sieve_meaning::flow::Flow;
use sieve_meaning::names::{Binding, Reference};
use sieve_meaning::project::Callee;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Fault, Kind, NodeRef, TokenId, TokenKind};

use crate::copies::Window;
use crate::house::{EnabledHouse, Ready};
use crate::interface::{Check, Concern, Context, Enabled, File, Line, Report, Rule, SpacingKind, TeamPolicy};

/// A rule's place in the list of those that are on, and its function.
pub(crate) type On<F> = (usize, F);

pub(crate) type OnNode = fn(&mut Context, NodeRef);
type OnNodes = fn(&mut Context, &[NodeRef]);
type OnFlow = fn(&mut Context, &Flow);
type OnCall = fn(&mut Context, NodeRef, &Callee);
type OnToken = fn(&mut Context, TokenId);
type OnLine = fn(&mut Context, Line);

/// Which of the rules are run: threads can share them for a long file.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Share {
    /// All of them.
    Whole,
    /// Those that ask what names represent, and what follows calls and control flow; with them those of packs.
    Names,
    /// Others that look at nodes.
    Nodes,
    /// Others that look at tokens, lines, or the file as a whole.
    Text,
}

impl Share {
    /// The shares that together are the whole. Names are nothing to any but the first.
    pub const ALL: [Share; 3] = [Share::Names, Share::Nodes, Share::Text];

    fn of(rule: &Rule) -> Share {
        match rule.check {
            _ if rule.needs_names => Share::Names,
            Check::Bindings(_) | Check::References(_) | Check::Flows(_) | Check::Calls(_) | Check::Joined(..) => {
                Share::Names
            }
            Check::Nodes(..) | Check::Named(..) | Check::All(..) => Share::Nodes,
            _ => Share::Text,
        }
    }

    fn has(self, rule: &Rule) -> bool {
        self == Share::Whole || self == Share::of(rule)
    }
}

/// The rules that are on for some files. Made once, used for many files.
#[derive(Debug)]
pub struct Dispatch {
    enabled: Vec<Enabled>,
    policy: TeamPolicy,
    tables: Vec<Table>,
    /// The same for each share, once a file is shared.
    shared: OnceLock<[Vec<Table>; Share::ALL.len()]>,
    house: Vec<Ready>,
    needs_names: bool,
}

/// What the rules that are on ask to see of files in one language.
#[derive(Debug)]
pub(crate) struct Table {
    /// By the kind of node.
    pub(crate) nodes: Vec<Vec<On<OnNode>>>,
    /// Rules that ask for calls and commands by name.
    pub(crate) named: Named,
    /// The kinds that a rule asks for in `nodes`.
    pub(crate) node_kinds: Vec<Kind>,
    /// Rules that get all nodes of their kinds at once.
    pub(crate) gathering: Vec<(usize, &'static [Kind], OnNodes)>,
    pub(crate) spacing: Vec<On<SpacingKind>>,
    /// By the kind of token; nothing at all if no rule asks for tokens.
    pub(crate) tokens: Vec<Vec<On<OnToken>>>,
    pub(crate) flows: Vec<On<OnFlow>>,
    pub(crate) calls: Vec<On<OnCall>>,
    pub(crate) lines: Vec<On<OnLine>>,
    pub(crate) bindings: Vec<On<fn(&mut Context, &Binding)>>,
    pub(crate) references: Vec<On<fn(&mut Context, &Reference)>>,
    pub(crate) faults: Vec<On<fn(&mut Context, &Fault)>>,
    pub(crate) files: Vec<On<fn(&mut Context)>>,
    pub(crate) copies: Vec<On<fn(&mut Context) -> Vec<Window>>>,
}

/// Rules that ask for calls and commands by name.
#[derive(Debug, Default)]
pub(crate) struct Named {
    /// Each with the kinds of calls that it asks for.
    rules: Vec<(On<OnNode>, &'static [Kind])>,
    /// The places of rules in that list, by the last parts of the names that they ask for.
    by_name: FxHashMap<&'static str, Vec<usize>>,
}

impl Named {
    /// The kinds of nodes that are selected by name.
    pub(crate) const KINDS: [Kind; 3] = [Kind::Call, Kind::New, Kind::Command];

    fn add(&mut self, on: On<OnNode>, kinds: &'static [Kind], names: &'static [&'static str]) {
        for name in names {
            let last = name.rsplit('.').next().unwrap_or(name);
            let rules = self.by_name.entry(last).or_default();
            if !rules.contains(&self.rules.len()) {
                rules.push(self.rules.len());
            }
        }
        self.rules.push((on, kinds));
    }

    /// Whether no rule asks for any.
    pub(crate) fn is_empty(&self) -> bool {
        self.rules.is_empty()
    }

    /// The rules that ask for a kind of call of something that has a name.
    pub(crate) fn of_name(&self, kind: Kind, name: &str) -> impl Iterator<Item = On<OnNode>> {
        let places = self.by_name.get(name).map_or(&[][..], Vec::as_slice);
        places
            .iter()
            .map(|place| &self.rules[*place])
            .filter(move |(_, kinds)| kinds.contains(&kind))
            .map(|(on, _)| *on)
    }

    /// All rules that ask for a kind of call.
    pub(crate) fn of_any(&self, kind: Kind) -> impl Iterator<Item = On<OnNode>> {
        self.rules.iter().filter(move |(_, kinds)| kinds.contains(&kind)).map(|(on, _)| *on)
    }
}

impl Dispatch {
    /// Sorts rules by what they check.
    pub fn new(enabled: Vec<Enabled>) -> Dispatch {
        let needs_names = enabled.iter().any(|enabled| enabled.facts.needs_names);
        let tables = Table::of_all(&enabled, Share::Whole);
        let (policy, shared, house) = (TeamPolicy::default(), OnceLock::new(), Vec::new());
        Dispatch { enabled, policy, tables, shared, house, needs_names }
    }

    /// The same with what a team chose.
    pub fn with_policy(self, policy: TeamPolicy) -> Dispatch {
        Dispatch { policy, ..self }
    }

    /// The same with rules of packs.
    pub fn with_house(self, enabled: &[EnabledHouse]) -> Dispatch {
        let needs_names = self.needs_names || enabled.iter().any(EnabledHouse::needs_names);
        let house = if enabled.is_empty() {
            Vec::new()
        } else {
            Language::ALL.iter().map(|language| Ready::new(*language, enabled)).collect()
        };
        Dispatch { house, needs_names, ..self }
    }

    /// The rules of packs that are on for a language, if any are.
    pub(crate) fn house(&self, language: Language, share: Share) -> Option<&Ready> {
        self.house.get(language as usize).filter(|_| matches!(share, Share::Whole | Share::Names))
    }

    /// Whether a rule of a pack that is on asks what names mean.
    pub fn house_needs_names(&self) -> bool {
        self.house.iter().any(Ready::needs_names)
    }

    /// Whether what a rule of a pack finds in data depends on which files there are, and on what is in them.
    pub fn house_asks_files(&self) -> bool {
        self.house.iter().any(Ready::asks_files)
    }

    /// Whether a rule that is on asks what names mean.
    pub fn needs_names(&self) -> bool {
        self.needs_names
    }

    /// The rules of a share that are on for a language.
    pub(crate) fn table(&self, language: Language, share: Share) -> &Table {
        let place = Share::ALL.iter().position(|one| *one == share);
        let shared = || self.shared.get_or_init(|| Share::ALL.map(|share| Table::of_all(&self.enabled, share)));
        let tables = place.map_or(&self.tables, |place| &shared()[place]);
        &tables[language as usize]
    }

    /// The concern of a rule that is on.
    pub(crate) fn concern(&self, index: usize) -> Concern {
        self.enabled[index].facts.concern
    }

    /// What a rule's function is given.
    #[inline]
    pub(crate) fn context<'c>(&'c self, index: usize, file: File<'c>, report: &'c mut Report) -> Context<'c> {
        Context::new(file, &self.enabled[index], &self.policy, report)
    }
}

impl Table {
    fn of_all(enabled: &[Enabled], share: Share) -> Vec<Table> {
        Language::ALL.iter().map(|language| Table::of(*language, enabled, share)).collect()
    }

    fn of(language: Language, enabled: &[Enabled], share: Share) -> Table {
        let mut table = Table {
            nodes: vec![Vec::new(); Kind::ALL.len()],
            named: Named::default(),
            node_kinds: Vec::new(),
            gathering: Vec::new(),
            spacing: Vec::new(),
            tokens: Vec::new(),
            flows: Vec::new(),
            calls: Vec::new(),
            lines: Vec::new(),
            bindings: Vec::new(),
            references: Vec::new(),
            faults: Vec::new(),
            files: Vec::new(),
            copies: Vec::new(),
        };
        for (index, enabled) in enabled.iter().enumerate() {
            let rule = enabled.facts;
            if rule.languages.contains(&language) && share.has(rule) {
                table.add(index, rule);
            }
        }
        let asks = |kind: &Kind| !table.nodes[*kind as usize].is_empty();
        table.node_kinds = Kind::ALL.iter().copied().filter(asks).collect();
        table
    }

    fn add(&mut self, index: usize, rule: &Rule) {
        match rule.check {
            Check::Nodes(kinds, function) | Check::Joined(kinds, function) => {
                for kind in kinds {
                    self.nodes[*kind as usize].push((index, function));
                }
            }
            Check::Named(kinds, names, function) => {
                for kind in kinds.iter().filter(|kind| !Named::KINDS.contains(kind)) {
                    self.nodes[*kind as usize].push((index, function));
                }
                self.named.add((index, function), kinds, names);
            }
            Check::All(kinds, function) => {
                self.gathering.push((index, kinds, function));
            }
            Check::Tokens(kinds, function) => {
                self.tokens.resize(TOKEN_KINDS, Vec::new());
                for kind in kinds {
                    self.tokens[*kind as usize].push((index, function));
                }
            }
            Check::Spacing(kind) => self.spacing.push((index, kind)),
            Check::Flows(function) => self.flows.push((index, function)),
            Check::Calls(function) => self.calls.push((index, function)),
            Check::Lines(function) => self.lines.push((index, function)),
            Check::Bindings(function) => self.bindings.push((index, function)),
            Check::References(function) => self.references.push((index, function)),
            Check::Faults(function) => self.faults.push((index, function)),
            Check::File(function) => self.files.push((index, function)),
            Check::Copies(function) => self.copies.push((index, function)),
            Check::Upkeep | Check::Settings | Check::Schemas | Check::Paths => {}
        }
    }
}

/// The length of a table with an entry for each kind of token.
const TOKEN_KINDS: usize = 256;

const _: () = assert!((TokenKind::Until as usize) < TOKEN_KINDS);
