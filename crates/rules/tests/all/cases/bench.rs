//! Runs one rule over code in which the places of findings are marked.

use sieve_rules::{Ban, BanKind, Dispatch, Enabled, OptionValue, Report, TeamPolicy, catalogue, run};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// What comes before the first character of each finding.
const MARK: char = '«';

/// One rule with its options in one language.
pub struct Bench {
    name: &'static str,
    language: Language,
    path: String,
    set: Vec<(&'static str, OptionValue)>,
    bans: Vec<Ban>,
}

impl Bench {
    /// A rule with default options.
    pub fn of(name: &'static str, language: Language) -> Bench {
        let path = format!("booking/fares.{}", language.spec().extensions[0]);
        Bench { name, language, path, set: Vec::new(), bans: Vec::new() }
    }

    pub fn python(name: &'static str) -> Bench {
        Bench::of(name, Language::Python)
    }

    pub fn javascript(name: &'static str) -> Bench {
        Bench::of(name, Language::JavaScript)
    }

    pub fn typescript(name: &'static str) -> Bench {
        Bench::of(name, Language::TypeScript)
    }

    pub fn shell(name: &'static str) -> Bench {
        Bench::of(name, Language::Shell)
    }

    /// The same in a file of another name.
    pub fn at(self, path: &str) -> Bench {
        Bench { path: path.to_string(), ..self }
    }

    /// The same with another value of an option.
    pub fn with(mut self, option: &'static str, value: OptionValue) -> Bench {
        self.set.push((option, value));
        self
    }

    /// The same with something banned.
    pub fn banning(mut self, kind: BanKind, name: &str) -> Bench {
        self.bans.push(Ban { kind, name: name.into(), because: "the crew said so".into() });
        self
    }

    /// What the rule says of some code.
    pub fn run(&self, code: &str) -> Report {
        let id = catalogue::named(self.name).unwrap_or_else(|| panic!("no rule is called {}", self.name));
        let options = catalogue::rule(id).options;
        for (name, _) in &self.set {
            assert!(options.iter().any(|option| option.name == *name), "{} has no option {name}", self.name);
        }
        let value = |option: &sieve_rules::OptionFacts| {
            let set = self.set.iter().find(|(name, _)| *name == option.name);
            set.map_or_else(|| option.default_value(), |(_, value)| value.clone())
        };
        let enabled = Enabled { rule: id, facts: catalogue::rule(id), values: options.iter().map(value).collect() };
        let chosen = TeamPolicy { bans: self.bans.clone(), ..TeamPolicy::default() };
        let text = Text::new(code.to_string());
        let tree = self.language.parse(&text);
        let is_about_faults = catalogue::rule(id).concern == sieve_rules::Concern::Syntax;
        assert!(
            is_about_faults || tree.faults().is_empty(),
            "the code of a case is broken: {:?}\n{code}",
            tree.faults()
        );
        let dispatch = Dispatch::new(vec![enabled]).with_policy(chosen);
        let mut report = run(&self.path, self.language, &text, &tree, &dispatch);
        report.findings.sort_by_key(|finding| finding.span);
        report
    }

    /// Asserts that there are findings at the marks, and nowhere else.
    #[track_caller]
    pub fn finds(&self, marked: &str) {
        let marked = dedent(marked);
        assert_eq!(self.marked(&marked.replace(MARK, "")), marked, "{}: found instead of marked", self.name);
    }

    /// Some code with marks where the findings are.
    pub fn marked(&self, code: &str) -> String {
        let mut found = String::new();
        let mut starts: Vec<usize> =
            self.run(code).findings.iter().map(|finding| finding.span.start as usize).collect();
        starts.sort_unstable();
        let mut from = 0;
        for start in starts {
            found += &code[from..start];
            found.push(MARK);
            from = start;
        }
        found + &code[from..]
    }

    /// Asserts that nothing is found in any of these.
    #[track_caller]
    pub fn passes(&self, codes: &[&str]) {
        for code in codes {
            assert!(!code.contains(MARK), "what passes has no marks");
            self.finds(code);
        }
    }

    /// Asserts that nothing is found, and for which reasons places are counted as undecided, in the order of the text.
    #[track_caller]
    pub fn doubts(&self, code: &str, reasons: &[&str]) {
        let report = self.run(&dedent(code));
        assert!(report.findings.is_empty(), "{}: {:?}", self.name, report.findings);
        let mut unsure: Vec<_> = report.unsure.iter().map(|place| (place.span, place.reason)).collect();
        unsure.sort_unstable();
        let said: Vec<&str> = unsure.into_iter().map(|(_, reason)| reason).collect();
        assert_eq!(said, reasons, "{}: {code}", self.name);
    }

    /// Asserts what the findings say, in the order of the text.
    #[track_caller]
    pub fn says(&self, code: &str, messages: &[&str]) {
        let report = self.run(&dedent(code));
        let said: Vec<&str> = report.findings.iter().map(|finding| finding.message.as_str()).collect();
        assert_eq!(said, messages, "{}", self.name);
    }

    /// Asserts what the code becomes when the fixes of all findings are applied.
    #[track_caller]
    pub fn fixes(&self, before: &str, after: &str) {
        let before = dedent(before);
        let mut edits: Vec<_> = self
            .run(&before)
            .findings
            .into_iter()
            .filter_map(|finding| finding.fix)
            .flat_map(|fix| fix.edits)
            .collect();
        edits.sort_by_key(|edit| std::cmp::Reverse(edit.span));
        edits.dedup();
        let mut fixed = before;
        for edit in edits {
            fixed.replace_range(edit.span.start as usize..edit.span.end as usize, &edit.text);
        }
        assert_eq!(fixed, dedent(after), "{}", self.name);
    }

    /// Asserts that something is found, and that no finding has a fix.
    #[track_caller]
    pub fn leaves(&self, code: &str) {
        let report = self.run(&dedent(code));
        assert!(!report.findings.is_empty(), "{}: nothing found", self.name);
        let fixed = report.findings.iter().find(|finding| finding.fix.is_some());
        assert!(fixed.is_none(), "{}: {fixed:?}", self.name);
    }
}

/// A text without the indentation that all of its lines share, and without its first and last line if they are empty.
fn dedent(text: &str) -> String {
    let Some(body) = text.strip_prefix('\n') else { return text.to_string() };
    let lines = || body.lines();
    let indent = |line: &str| line.len() - line.trim_start_matches(' ').len();
    let shared = lines().filter(|line| !line.trim().is_empty()).map(indent).min().unwrap_or(0);
    let mut out: String = lines().map(|line| line.get(shared..).unwrap_or("").to_string() + "\n").collect();
    if out.ends_with("\n\n") && body.ends_with(' ') {
        out.pop();
    }
    out
}
