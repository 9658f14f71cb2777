//! Rules as pages of Markdown.

use sieve_rules::house::HouseRule;
use sieve_rules::{Check, Examples, Origin, Rule, RuleView};
use sieve_syntax::language::Language;

/// The page of any rule.
pub fn page(rule: RuleView<'_>) -> String {
    match rule.origin {
        Origin::BuiltIn(rule) => markdown(rule),
        Origin::House(house) => house_page(rule, house),
    }
}

/// The page of a rule in a pack.
fn house_page(rule: RuleView<'_>, house: &HouseRule) -> String {
    let mut page = format!("# {}\n\n{}.\n\n", rule.name, capitalised(rule.what));
    let languages: Vec<&str> = rule.languages.iter().map(|language| language.spec().title).collect();
    let fix = rule.fix.map_or("none", |fix| fix.word());
    page += "| level | mesh | certainty | fix | languages |\n|---|---|---|---|---|\n";
    page += &format!("| {} | {} | {} | {fix} | {} |\n\n", rule.level, rule.mesh, rule.certainty, languages.join(", "));
    if !rule.why.is_empty() {
        page += &format!("## Why\n\n{}\n\n", rule.why);
    }
    page += &format!("## What it finds\n\n```\n{}\n```\n\n", house.find.trim());
    for example in &house.examples {
        let title = if example.is_wrong { "Wrong" } else { "Right" };
        let line_end = if example.code.ends_with('\n') { "" } else { "\n" };
        page += &format!("## {title}\n\n```{}\n{}{line_end}```\n\n", example.language.name(), example.code);
    }
    page + &format!("## To live with it\n\n```toml\n[rules]\n{} = \"off\"\n```\n", key(rule.name))
}

/// The page of a rule in `docs/rules/`.
pub fn markdown(rule: &Rule) -> String {
    let mut page = format!("# {}\n\n{}.\n\n", rule.name, capitalised(rule.what));
    let fix = rule.fix.map_or("none", |fix| fix.word());
    let languages: Vec<&str> = rule.languages.iter().map(|language| language.spec().title).collect();
    page += "| concern | level | mesh | certainty | fix | languages |\n|---|---|---|---|---|---|\n";
    page += &format!(
        "| {} | {} | {} | {} | {fix} | {} |\n\n",
        rule.concern,
        rule.level,
        rule.mesh,
        rule.certainty,
        languages.join(", ")
    );
    page += &format!("## Why\n\n{}\n\n", rule.why);
    for examples in rule.examples {
        page += &examples_in(rule, examples);
    }
    page += &format!("## Where it stays silent\n\n{}\n\n", rule.silent);
    if !rule.options.is_empty() {
        page += "## Options\n\n| option | default | meaning |\n|---|---|---|\n";
        for option in rule.options {
            page += &format!(
                "| `{}` | `{}` | {}: {} |\n",
                option.name,
                option.default_value(),
                option.sort(),
                option.about
            );
        }
        page.push('\n');
    }
    if !rule.standards.is_empty() {
        page += &format!("## Standards\n\n{}\n\n", rule.standards.join("; "));
    }
    page += "## To live with it\n\n";
    if beside_code(rule).is_none() {
        page += &block(rule, rule.examples[0].language, &(waiver(rule) + "\n"));
    }
    page + &format!("```toml\n[rules]\n{} = \"off\"\n```\n", rule.name)
}

/// What is wrong and what is right in one language.
fn examples_in(rule: &Rule, examples: &Examples) -> String {
    let language = examples.language;
    let title = beside_code(rule).map_or(language.spec().title, |(title, _)| title);
    let mut part = format!("## Wrong in {title}\n\n");
    for wrong in examples.wrong {
        let places: Vec<String> = wrong.at.iter().map(|at| format!("`{at}`")).collect();
        part += &format!("Reported at {}:\n\n{}", places.join(", "), block(rule, language, wrong.code));
        if let Some(fixed) = wrong.fixed {
            part += &format!("After its fix:\n\n{}", block(rule, language, fixed));
        }
    }
    part += &format!("## Right in {title}\n\n");
    part.extend(examples.right.iter().filter(|right| !right.is_empty()).map(|right| block(rule, language, right)));
    part
}

fn block(rule: &Rule, language: Language, code: &str) -> String {
    let line_end = if code.ends_with('\n') { "" } else { "\n" };
    let language = beside_code(rule).map_or(language.name(), |(_, form)| form);
    format!("```{language}\n{code}{line_end}```\n\n")
}

fn capitalised(text: &str) -> String {
    let mut characters = text.chars();
    characters.next().map_or(String::new(), |first| first.to_uppercase().collect::<String>() + characters.as_str())
}

/// A rule's name as a key of TOML: a bare one has no colon.
pub fn key(name: &str) -> String {
    if name.contains(':') { format!("\"{name}\"") } else { name.to_string() }
}

/// What its places are in, and how that is shown, where it is no code and no waiver can be written in it.
pub fn beside_code(rule: &Rule) -> Option<(&'static str, &'static str)> {
    match rule.check {
        Check::Settings => Some(("settings", "toml")),
        Check::Paths => Some(("paths", "text")),
        _ => None,
    }
}

/// A waiver of a rule, in a comment of the code that it is about.
pub fn waiver(rule: &Rule) -> String {
    let languages = rule.examples.iter().map(|example| example.language).chain(rule.languages.iter().copied());
    waiver_in(languages, rule.name)
}

/// A waiver in a comment of the first of some languages that has any.
pub fn waiver_in(languages: impl IntoIterator<Item = Language>, rule: &str) -> String {
    let mut forms = languages.into_iter().flat_map(|language| language.spec().comment_forms());
    let (begin, end) = forms.next().unwrap_or(("#", ""));
    format!("{begin} sieve: waive {rule} because …{end}")
}
