//! Every rule's examples: what is wrong is reported at exactly its places, what is right is not reported.

use sieve_rules::{
    Ban, BanKind, Check, Dispatch, Enabled, OptionFacts, OptionValue, Rule, RuleId, TeamPolicy, catalogue, run,
};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// What the examples of the rules of the concern `boundary` hold banned.
fn bans() -> Vec<Ban> {
    let ban = |kind, name: &str| Ban { kind, name: name.into(), because: "it is retired".into() };
    let import = ["tides.old", "old-tides"].map(|name| ban(BanKind::Import, name));
    let call = ["clock.now", "Date.now", "telnet"].map(|name| ban(BanKind::Call, name));
    let member = ["utcnow", "innerText"].map(|name| ban(BanKind::Member, name));
    import.into_iter().chain(call).chain(member).collect()
}

/// The value of an option in the examples: the default, or a version where one must be chosen for the rule to speak.
fn chosen(rule: &Rule, option: &OptionFacts) -> OptionValue {
    match (rule.name, option.name) {
        ("version-feature", "python") => OptionValue::Count(8),
        ("version-feature", "ecmascript") => OptionValue::Count(2020),
        _ => option.default_value(),
    }
}

fn places(id: RuleId, rule: &Rule, language: Language, code: &str) -> Vec<String> {
    let values = rule.options.iter().map(|option| chosen(rule, option)).collect();
    let dispatch = Dispatch::new(vec![Enabled { rule: id, facts: catalogue::rule(id), values }])
        .with_policy(TeamPolicy { bans: bans(), ..TeamPolicy::default() });
    let text = Text::new(code.to_string());
    let tree = language.parse(&text);
    // The example of a wrong name of a file tells the name in its first line.
    let told =
        code.split_once("This is ").and_then(|(_, rest)| rest.split_once(".\n")).map(|(path, _)| path.to_string());
    let path = told.unwrap_or_else(|| format!("booking/example.{}", language.spec().extensions[0]));
    let mut findings = run(&path, language, &text, &tree, &dispatch).findings;
    findings.sort_by_key(|finding| finding.span);
    findings
        .iter()
        .map(|finding| text.place(finding.span.start))
        .map(|at| format!("{}:{}", at.line, at.column))
        .collect()
}

#[test]
fn rules_report_their_wrong_examples_and_nothing_else() {
    let mut failures = Vec::new();
    let mut expect = |id, rule: &Rule, language, code: &str, wanted: &[&str]| {
        let found = places(id, rule, language, code);
        if found != wanted {
            failures.push(format!("{}: {found:?} instead of {wanted:?} in:\n{code}", rule.name));
        }
    };
    for (id, rule) in catalogue::rules().filter(|(_, rule)| {
        !matches!(rule.check, Check::Upkeep | Check::Settings | Check::Schemas | Check::Paths | Check::Joined(..))
    }) {
        // A build may leave out a language.
        for examples in rule.examples.iter().filter(|examples| Language::ALL.contains(&examples.language)) {
            for wrong in examples.wrong {
                expect(id, rule, examples.language, wrong.code, wrong.at);
            }
            for right in examples.right {
                expect(id, rule, examples.language, right, &[]);
            }
        }
    }
    assert!(failures.is_empty(), "{}", failures.join("\n"));
}
