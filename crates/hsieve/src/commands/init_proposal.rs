//! The settings that `hsieve init` proposes: those that agree with the code as it is, each with what was seen.

use std::collections::BTreeMap;

use sieve_engine::habits::{Habits, MOST};
use sieve_engine::outcome::Outcome;
use sieve_rules::catalogue::history::CURRENT;
use sieve_rules::{Level, RuleId, RuleView, default_styles};

use crate::screen::{counted, grouped};

/// The file in which editors look for how to indent, by the EditorConfig specification 0.17.
pub const EDITOR_FILE: &str = ".editorconfig";

/// The lengths that people agree on.
pub const LENGTHS: &[usize] = &[80, 100, 120, 140, 160];

/// The length that holds where no settings say otherwise.
const DEFAULT_LENGTH: usize = 100;

/// A rule with at least so many findings, and this share of all, would drown the others.
const NOISY: usize = 100;
const NOISY_SHARE: usize = 3;

/// What to write.
#[derive(Debug)]
pub struct Proposal {
    /// The text of the settings file.
    pub settings: String,
    /// The text of the editors' file.
    pub editor: String,
}

impl Proposal {
    /// Settings that agree with what was seen.
    ///
    /// `provided` are names that something outside of the code base gives to its files, with how often they are used.
    pub fn of(habits: &Habits, outcome: &Outcome, provided: &BTreeMap<String, usize>) -> Proposal {
        let mut settings = format!(
            "# The release whose names and defaults these settings were written for.\ndefaults = \"{CURRENT}\"\n"
        );
        let rules = format!("{}{}{}{}", line_length(habits), layout(habits), noisy(outcome, provided), known(provided));
        if !rules.is_empty() {
            settings += &format!("\n[rules]\n{rules}");
        }
        settings += &naming(habits);
        Proposal { settings, editor: editor(habits) }
    }
}

/// The share of a part, in words for a comment.
fn share(part: usize, all: usize, what: &str) -> String {
    format!("{} % of {} {what}", part * 100 / all.max(1), grouped(all))
}

/// Forms that nearly the whole code base has: without a setting each file would be compared with itself alone.
fn layout(habits: &Habits) -> String {
    let mut text = String::new();
    let mut choose = |rule: &str, option: &str, words: (&str, &str), counts: (usize, usize), what: &str| {
        let all = counts.0 + counts.1;
        let (word, most) = if counts.0 >= counts.1 { (words.0, counts.0) } else { (words.1, counts.1) };
        if most * 100 >= all * MOST && all >= FEWEST {
            text += &format!("# {}.\n{rule} = {{ {option} = \"{word}\" }}\n", share(most, all, what));
        }
    };
    choose("quote-style", "quotes", ("double", "single"), habits.quotes, "strings have such quotes");
    choose("semicolons", "end", ("always", "never"), habits.semicolons, "statements end so");
    let indents = habits.indents();
    let files: usize = indents.values().sum();
    let most = indents.iter().max_by_key(|(_, count)| **count);
    if let Some((width, count)) =
        most.filter(|(width, count)| **width > 0 && **width != 4 && **count * 100 >= files * MOST)
    {
        text += &format!("# {}.\nindent-width = {{ width = {width} }}\n", share(*count, files, "files have this step"));
    }
    text
}

/// Fewer places than this are no habit.
const FEWEST: usize = 10;

/// The styles of names that differ from the defaults of their language.
fn naming(habits: &Habits) -> String {
    let mut text = String::new();
    let mut last = None;
    for habit in habits.name_styles() {
        if default_styles(habit.language, habit.kind).contains(&habit.style) {
            continue;
        }
        if last != Some(habit.language) {
            text += &format!("\n[naming.{}]\n", habit.language.name());
            last = Some(habit.language);
        }
        let told = share(habit.with, habit.all, "names with a style of their own");
        text += &format!("{} = \"{}\"  # {told}\n", habit.kind, habit.style);
    }
    text
}

fn line_length(habits: &Habits) -> String {
    let Some(longest) = habits.usual_length(LENGTHS).filter(|longest| *longest != DEFAULT_LENGTH) else {
        return String::new();
    };
    let longer = match habits.longer_than(longest) {
        0 => "No line is longer".to_string(),
        count => format!("All but {} keep to this", counted(count, "line", "lines")),
    };
    format!("# {longer}. The rule belongs to the fine mesh.\nlong-line = {{ limit = {longest} }}\n")
}

/// A rule that would drown all others becomes a note until it is paid off; not one that learns names first.
fn noisy(outcome: &Outcome, provided: &BTreeMap<String, usize>) -> String {
    let mut counts: BTreeMap<RuleId, usize> = BTreeMap::new();
    for finding in outcome.caught().filter(|finding| finding.level > Level::Note) {
        *counts.entry(finding.rule).or_insert(0) += 1;
    }
    let all: usize = counts.values().sum();
    let loud = counts.iter().filter(|(_, count)| **count >= NOISY && **count * NOISY_SHARE >= all);
    let learns = |rule: &RuleView<'_>| rule.name == LEARNS && !provided.is_empty();
    let loud = loud.map(|(rule, count)| (outcome.rules.rule(*rule), count)).filter(|(rule, _)| !learns(rule));
    loud.map(|(rule, count)| {
        format!(
            "# {} findings, a third of all or more: a note, until they are fewer.\n{} = \"note\"\n",
            grouped(*count),
            rule.name
        )
    })
    .collect()
}

/// The rule whose option takes names.
const LEARNS: &str = "undefined-name";

/// Names that the files use and none defines: something gives them to all.
fn known(provided: &BTreeMap<String, usize>) -> String {
    if provided.is_empty() {
        return String::new();
    }
    let names: Vec<String> = provided.keys().map(|name| format!("{name:?}")).collect();
    let uses = grouped(provided.values().sum());
    format!(
        "# Several files use them, {uses} times in all, and none defines them.\n{LEARNS} = {{ known = [{}] }}\n",
        names.join(", ")
    )
}

/// How most files indent and end their lines.
fn editor(habits: &Habits) -> String {
    fn most<K: Copy + Ord>(counts: &BTreeMap<K, usize>) -> Option<K> {
        counts.iter().max_by_key(|(_, count)| **count).map(|(key, _)| *key)
    }
    let mut text = String::from("root = true\n\n[*]\ncharset = utf-8\ninsert_final_newline = true\n");
    if let Some(ending) = most(&habits.line_ends) {
        text += &format!("end_of_line = {ending}\n");
    }
    for language in habits.languages.keys() {
        let endings = language.spec().extensions.join(",");
        let pattern = if endings.contains(',') { format!("[*.{{{endings}}}]") } else { format!("[*.{endings}]") };
        text += &format!("\n{pattern}\n");
        text += &match habits.indent_of(*language) {
            Some((0, _)) => "indent_style = tab\n".to_string(),
            Some((width, _)) => format!("indent_style = space\nindent_size = {width}\n"),
            None => String::new(),
        };
        if let Some(longest) = habits.usual_length(LENGTHS) {
            text += &format!("max_line_length = {longest}\n");
        }
    }
    text
}
