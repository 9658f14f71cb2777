//! A model of how code changes around recorded findings: edits that do not touch the flagged tokens never free an entry, edits
//! that touch them always do.

use proptest::prelude::*;
use proptest::sample::Index;
use sieve_engine::baseline::{Baseline, Entry, Matching, Scopes};
use sieve_engine::outcome::Finding;
use sieve_engine::project::Project;
use sieve_engine::run::{FileOutcome, Wants, sift_text};
use sieve_engine::settings::Overrides;
use sieve_rules::Mesh;
use sieve_syntax::text::Text;

use crate::bench::Bench;

/// Functions, each with findings of its own; `#` represents a number that makes them differ.
const FUNCTIONS: &[&str] = &[
    "def fare_#(adult, kinds=[]):\n    total = adult * 0.55\n    return adlut\n",
    "def sail_#(boat):\n    try:\n        boat.go()\n    except Exception:\n        pass\n",
    "def crew_#(boat):\n    if boat is \"Heron\":\n        return 7\n    return 9\n    boat.sail()\n",
    "def table_#():\n    return {\"a\": 1, \"b\": 2, \"a\": 3.5}\n",
    "def refund_#(left):\n    return left * 1.17 + left * 1.17\n",
];

/// What happens to a file over the years, without a flagged token being touched.
#[derive(Debug, Clone)]
enum Change {
    /// Lines that say nothing, before a function.
    Space(Index, &'static str),
    /// A function goes to another place.
    Move(Index, Index),
    /// A new function comes, without a finding that is like those there are.
    Add(Index),
    /// All is put into a block.
    Indent,
    /// The file gets another name.
    Rename,
    /// Lines end otherwise.
    LineEnds,
}

fn changes() -> impl Strategy<Value = Vec<Change>> {
    let space = (any::<Index>(), prop::sample::select(vec!["\n\n", "# the tide turns\n", "   \n"]));
    let change = prop_oneof![
        4 => space.prop_map(|(at, text)| Change::Space(at, text)),
        4 => (any::<Index>(), any::<Index>()).prop_map(|(from, to)| Change::Move(from, to)),
        2 => any::<Index>().prop_map(Change::Add),
        1 => Just(Change::Indent),
        1 => Just(Change::Rename),
        1 => Just(Change::LineEnds),
    ];
    prop::collection::vec(change, 1..8)
}

/// The code as a list of parts.
struct Code {
    parts: Vec<String>,
    renamed: bool,
    added: usize,
    crlf: bool,
}

impl Code {
    fn of(picks: &[usize]) -> Code {
        let part = |(number, pick): (usize, &usize)| FUNCTIONS[*pick].replace('#', &number.to_string());
        Code { parts: picks.iter().enumerate().map(part).collect(), renamed: false, added: 0, crlf: false }
    }

    fn source(&self) -> String {
        let source = self.parts.join("\n");
        if self.crlf { source.replace('\n', "\r\n") } else { source }
    }

    fn change(&mut self, change: &Change) {
        let count = self.parts.len();
        match change {
            Change::Space(at, text) => self.parts[at.index(count)].insert_str(0, text),
            Change::Move(from, to) => {
                let part = self.parts.remove(from.index(count));
                self.parts.insert(to.index(count), part);
            }
            Change::Add(at) => {
                // Another name each time: the same one twice would be a finding.
                self.added += 1;
                let bell = format!("def bell_{}():\n    return None\n", self.added);
                self.parts.insert(at.index(count + 1), bell);
            }
            Change::Indent => {
                let indent = |line: &str| if line.trim().is_empty() { "\n".into() } else { format!("    {line}") };
                let body: String = self.parts.join("\n").split_inclusive('\n').map(indent).collect();
                self.parts = vec![format!("if True:\n{body}")];
            }
            Change::Rename => self.renamed = true,
            Change::LineEnds => self.crlf = !self.crlf,
        }
    }
}

fn project() -> Project {
    Project::at(std::path::Path::new("/ferry"), std::path::Path::new("/ferry"))
}

fn findings(source: &str) -> Vec<Finding> {
    sifted(source).findings
}

fn sifted(source: &str) -> FileOutcome {
    let bench = Bench::new(Overrides {
        mesh: Some(Mesh::Fine),
        without: sieve_engine::settings::rules_named(&sieve_rules::RuleSet::built_in(), "layout"),
        ..Overrides::default()
    });
    let text = Text::new(source.to_string());
    let wants = Wants { identities: true, ..Wants::NONE };
    bench.with_subject(|subject| sift_text(&text, subject, wants, sieve_engine::today()))
}

/// Whatever the model adds has no doc string, and put into blocks again and again it is nested too deep, which the fine mesh tells.
fn is_of_model(finding: &Finding) -> bool {
    !["missing-doc", "deep-nesting"].contains(&sieve_rules::catalogue::rule(finding.rule).name)
}

fn taken(source: &str) -> Baseline {
    let mut baseline = Baseline::empty("/ferry/sieve-baseline.jsonl".into());
    let found: Vec<Finding> = findings(source).into_iter().filter(is_of_model).collect();
    baseline.add(&project(), found.iter(), &sieve_rules::RuleSet::built_in(), sieve_engine::today());
    baseline
}

fn gone(baseline: &Baseline, findings: &mut [Finding], scopes: Option<&Scopes>, renamed: bool) -> Vec<Entry> {
    let rules = sieve_rules::RuleSet::built_in();
    let mut matching = Matching::new(baseline, &rules);
    if renamed {
        findings.iter_mut().for_each(|finding| finding.path = "renamed.py".into());
        matching.match_elsewhere(&project(), findings);
    } else {
        matching.match_file("example.py", findings, scopes);
    }
    matching.free().cloned().collect()
}

/// The text with the first word or number of a stretch made longer.
fn touched(source: &str, finding: &Finding) -> Option<String> {
    let range = finding.span.range();
    let word = |character: char| character.is_alphanumeric() || character == '_';
    let start = range.start + source[range.clone()].find(word)?;
    let length = source[start..].find(|character| !word(character)).unwrap_or(source.len() - start);
    let more = if source[start..].starts_with(|first: char| first.is_ascii_digit()) { "7" } else { "_x" };
    Some(format!("{}{more}{}", &source[..start + length], &source[start + length..]))
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 300, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn what_does_not_touch_flagged_tokens_frees_nothing(
        picks in prop::collection::vec(0..FUNCTIONS.len(), 1..6),
        changes in changes(),
    ) {
        let mut code = Code::of(&picks);
        let baseline = taken(&code.source());
        changes.iter().for_each(|change| code.change(change));
        let source = code.source();
        let mut now: Vec<Finding> = findings(&source).into_iter().filter(is_of_model).collect();
        let gone = gone(&baseline, &mut now, sifted(&source).scopes.as_ref(), code.renamed);
        let new: Vec<&str> = now.iter().filter(|finding| finding.held.is_none()).map(|finding| finding.message.as_str()).collect();
        prop_assert!(gone.is_empty() && new.is_empty(), "{changes:?}\n{source}\ngone {gone:?}\nnew {new:?}");
    }

    #[test]
    fn what_touches_flagged_tokens_frees_their_entry(
        picks in prop::collection::vec(0..FUNCTIONS.len(), 1..6),
        choice in any::<Index>(),
    ) {
        let source = Code::of(&picks).source();
        let found: Vec<Finding> = findings(&source).into_iter().filter(is_of_model).collect();
        let finding = &found[choice.index(found.len())];
        let Some(after) = touched(&source, finding) else { return Ok(()) };
        let baseline = taken(&source);
        let mut now: Vec<Finding> = findings(&after).into_iter().filter(is_of_model).collect();
        let gone = gone(&baseline, &mut now, sifted(&after).scopes.as_ref(), false);
        let identity = finding.identity.as_ref().expect("identities were asked for");
        let rule = sieve_rules::catalogue::rule(finding.rule).name;
        let freed = gone.iter().any(|entry| entry.rule == rule && entry.code == identity.code);
        prop_assert!(freed, "{rule} {identity:?}\n{after}\ngone {gone:?}");
    }
}
