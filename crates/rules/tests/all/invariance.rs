//! What makes no difference to a rule: every example is sifted again with other line ends, a comment at its end, an empty line at its top,
//! and under another name. The same places are reported.

use sieve_rules::{Ban, BanKind, Concern, Dispatch, Enabled, OptionValue, Rule, RuleId, TeamPolicy, catalogue, run};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// The places that a rule reports in some code, as line and column.
fn places(id: RuleId, rule: &Rule, language: Language, code: &str) -> Vec<(u32, u32)> {
    places_in(&format!("booking/example.{}", language.spec().extensions[0]), id, rule, language, code)
}

fn places_in(path: &str, id: RuleId, rule: &Rule, language: Language, code: &str) -> Vec<(u32, u32)> {
    let value = |option: &sieve_rules::OptionFacts| match (rule.name, option.name) {
        ("version-feature", "python") => OptionValue::Count(8),
        ("version-feature", "ecmascript") => OptionValue::Count(2020),
        _ => option.default_value(),
    };
    let ban = |kind, name: &str| Ban { kind, name: name.into(), because: "it is retired".into() };
    let bans = vec![
        ban(BanKind::Import, "tides.old"),
        ban(BanKind::Call, "clock.now"),
        ban(BanKind::Call, "Date.now"),
        ban(BanKind::Member, "innerText"),
    ];
    let values = rule.options.iter().map(value).collect();
    let dispatch = Dispatch::new(vec![Enabled { rule: id, facts: catalogue::rule(id), values }])
        .with_policy(TeamPolicy { bans, ..TeamPolicy::default() });
    let text = Text::new(code.to_string());
    let tree = language.parse(&text);
    let findings = run(path, language, &text, &tree, &dispatch).findings;
    let mut found: Vec<(u32, u32)> = findings
        .iter()
        .map(|finding| {
            let place = text.place(finding.span.start);
            (place.line, place.column)
        })
        .collect();
    found.sort_unstable();
    found
}

/// Each example of each rule for which the layout of a file makes no difference.
fn examples() -> impl Iterator<Item = (RuleId, &'static Rule, Language, &'static str)> {
    let rules = catalogue::rules().filter(|(_, rule)| rule.concern != Concern::Layout);
    rules.flat_map(|(id, rule)| {
        let of_build = rule.examples.iter().filter(|examples| Language::ALL.contains(&examples.language));
        of_build.flat_map(move |examples| {
            let wrong = examples.wrong.iter().map(|wrong| wrong.code);
            wrong.chain(examples.right.iter().copied()).map(move |code| (id, rule, examples.language, code))
        })
    })
}

/// Compares the places of each example with those of a changed one, which are moved down by some lines.
fn assert_same(lines: u32, change: impl Fn(Language, &str) -> Option<String>) {
    let (mut wrong, mut compared) = (Vec::new(), 0);
    for (id, rule, language, code) in examples() {
        let Some(changed) = change(language, code) else { continue };
        // What is said of a whole file stays at its beginning.
        let is_of_file = ["long-file", "missing-doc", "many-types-in-file"].contains(&rule.name);
        let moved =
            |(line, column)| if is_of_file && (line, column) == (1, 1) { (1, 1) } else { (line + lines, column) };
        let expected: Vec<(u32, u32)> = places(id, rule, language, code).into_iter().map(moved).collect();
        let found = places(id, rule, language, &changed);
        if found != expected {
            wrong.push(format!("{}: {changed:?}: {found:?}, not {expected:?}", rule.name));
        }
        compared += 1;
    }
    assert!(compared > 300, "only {compared} examples were compared");
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// Whether the first line of an example has a meaning of its own.
fn has_head(code: &str) -> bool {
    code.starts_with("#!") || code.contains("coding") || code.contains("This is ")
}

#[test]
fn line_ends_make_no_difference() {
    // In a shell a carriage return is a part of the last word.
    assert_same(0, |language, code| (language != Language::Shell).then(|| code.replace('\n', "\r\n")));
}

#[test]
fn a_comment_at_the_end_makes_no_difference() {
    assert_same(0, |language, code| {
        // What is not ended goes on into the comment.
        let is_whole = code.ends_with('\n') && language.parse(&Text::new(code.to_string())).faults().is_empty();
        let (mark, end) = match language.spec() {
            spec if spec.line_comment.is_empty() => spec.markup_comment.unwrap_or_default(),
            spec => (spec.line_comment, ""),
        };
        is_whole.then(|| format!("{code}\n{mark} low tide only{end}\n"))
    });
}

#[test]
fn an_empty_line_at_the_top_makes_no_difference() {
    assert_same(1, |_, code| (!has_head(code)).then(|| format!("\n{code}")));
}

/// Only rules about names may read the name of a file, as long as it is none of a test.
#[test]
fn another_file_name_in_the_same_language_makes_no_difference() {
    let same_places = |name: &str| {
        let (mut wrong, mut compared) = (Vec::new(), 0);
        for (id, rule, language, code) in examples().filter(|(.., code)| !has_head(code)) {
            let usual = format!("booking/example.{}", language.spec().extensions[0]);
            let other = format!("{name}.{}", language.spec().extensions[0]);
            let (one, two) = (places_in(&usual, id, rule, language, code), places_in(&other, id, rule, language, code));
            // Whether an import is a re-export depends on the package of the file.
            let may_differ = rule.concern == Concern::Naming || rule.name == "unused-import";
            if one != two && !may_differ {
                wrong.push(format!("{} in {other}: {two:?}, not {one:?}", rule.name));
            }
            compared += 1;
        }
        assert!(compared > 300 && wrong.is_empty(), "{compared} compared:\n{}", wrong.join("\n"));
    };
    same_places("deep/er/folder/quays");
    same_places("tidal-gauge");
}
