//! What holds for any text and any choice of fixes.

use std::collections::BTreeSet;

use proptest::prelude::*;
use sieve_engine::baseline::{Baseline, Matching};
use sieve_engine::fix::apply_edits;
use sieve_engine::outcome::Finding;
use sieve_engine::project::Project;
use sieve_engine::run::{Wants, sift_text};
use sieve_engine::settings::Overrides;
use sieve_rules::{Edit, FixKind, Mesh, OptionDefault};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::bench::Bench;

/// Functions with trouble of all sorts, to be put together at will.
const PIECES: &[&str] = &[
    "import os\nimport json, sys\n",
    "from tides import high, low as l, (\n",
    "from quays import (\n    north,\n    south,  # the old one\n)\n",
    "def fare(adult, kinds=[]):\n    share = 0.55; total = 3\n    return adlut\n",
    "class Boat:\n    def sail(self): return self.go(7)\n",
    "if x: a(); b()\nelse: c()\n",
    "for boat in boats:\n    if boat is \"Heron\": continue\n    boat.sail()   \n",
    "def g():\n    try:\n        import a\n        import b\n    finally:\n        pass\n    return 1; return 2\n",
    "t = {\n  1: 'a',  \n  1: 'b',\n}\n",
    "x = 1  # sieve: waive magic-number, long-line because measured\n",
    "def h():\n\tif x:\n\t\ty(); z()\n\treturn '''  \n  text'''\n",
];

fn fine() -> Bench {
    Bench::new(Overrides { mesh: Some(Mesh::Fine), ..Overrides::default() })
}

fn source(picks: &[usize]) -> String {
    picks.iter().map(|pick| PIECES[*pick]).collect::<Vec<_>>().join("\n")
}

fn findings(bench: &Bench, source: &str) -> Vec<Finding> {
    let text = Text::new(source.to_string());
    let wants = Wants { identities: true, ..Wants::NONE };
    bench.with_subject(|subject| sift_text(&text, subject, wants, sieve_engine::today())).findings
}

fn faults(source: &str) -> usize {
    Language::Python.parse(&Text::new(source.to_string())).faults().len()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 120, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn fixing_is_idempotent_and_never_makes_a_file_worse(picks in prop::collection::vec(0..PIECES.len(), 1..8)) {
        let bench = fine();
        let source = source(&picks);
        let fixed = bench.fixed(Language::Python, &source);
        prop_assert!(faults(&fixed) <= faults(&source), "{source}\n---\n{fixed}");
        prop_assert_eq!(bench.fixed(Language::Python, &fixed), fixed);
    }

    #[test]
    fn any_one_fix_leaves_a_file_parsing(picks in prop::collection::vec(0..PIECES.len(), 1..6), choice in any::<prop::sample::Index>()) {
        let source = source(&picks);
        let fixes: Vec<Vec<Edit>> = findings(&fine(), &source)
            .into_iter()
            .filter_map(|finding| finding.fix)
            .filter(|fix| fix.kind == FixKind::Exact)
            .map(|fix| fix.edits)
            .collect();
        prop_assume!(!fixes.is_empty());
        let mut edits: Vec<&Edit> = fixes[choice.index(fixes.len())].iter().collect();
        edits.sort_by_key(|edit| edit.span);
        let fixed = apply_edits(&source, &edits);
        prop_assert!(faults(&fixed) <= faults(&source), "{source}\n---\n{fixed}");
    }

    #[test]
    fn a_baseline_holds_whatever_is_added_around(
        picks in prop::collection::vec(0..PIECES.len(), 1..6),
        at in any::<prop::sample::Index>(),
        blank in prop::sample::select(vec!["\n", "# a comment\n", "\n\n\n", "def new():\n    return None\n\n"]),
    ) {
        let bench = fine();
        // A file of nothing but imports may be the face of others, until something else is in it.
        let old = format!("TIDE = 3\n{}", source(&picks));
        let project = Project::at(std::path::Path::new("/ferry"), std::path::Path::new("/ferry"));
        let mut baseline = Baseline::empty("/ferry/sieve-baseline.jsonl".into());
        baseline.add(&project, findings(&bench, &old).iter(), &sieve_rules::RuleSet::built_in(), sieve_engine::today());

        // Between two pieces, where a line begins outside of brackets and strings.
        let mut parts: Vec<&str> = picks.iter().map(|pick| PIECES[*pick]).collect();
        prop_assume!(!parts.contains(&PIECES[1]));
        parts.insert(at.index(parts.len() + 1), blank);
        let mut now = findings(&bench, &format!("TIDE = 3\n{}", parts.join("\n")));
        Matching::new(&baseline, &sieve_rules::RuleSet::built_in()).match_file("example.py", &mut now, None);
        // Blank lines that are added are what that rule is about.
        let mut added = BTreeSet::from(["blank-lines"]);
        added.extend(blank.starts_with("def").then_some("missing-doc"));
        // What is between two imports is not around them: it makes two groups of one.
        added.extend((!blank.starts_with('\n')).then_some("import-order"));
        // What is added may also turn the habit of the file that some rules compare with.
        let follows_habit = |finding: &&Finding| {
            let options = sieve_rules::catalogue::rule(finding.rule).options;
            options.iter().any(|option| matches!(option.default, OptionDefault::Choice("as-is", _)))
        };
        let free: Vec<String> = now
            .iter()
            .filter(|finding| finding.held.is_none() && !follows_habit(finding))
            .map(|finding| sieve_rules::catalogue::rule(finding.rule).name.to_string())
            .filter(|rule| !added.contains(rule.as_str()))
            .collect();
        prop_assert!(free.is_empty(), "{free:?}");
    }
}
