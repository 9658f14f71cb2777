//! The settings that `hsieve init` proposes: those that agree with the code as it is, each with what was seen.

use std::collections::BTreeMap;

use sieve_engine::habits::Habits;
use sieve_engine::outcome::Outcome;
use sieve_rules::catalogue::history::CURRENT;
use sieve_rules::{Level, RuleId, catalogue};

use crate::screen::{counted, grouped};

/// The file in which editors look for how to indent, by the EditorConfig specification 0.17.
pub const EDITOR_FILE: &str = ".editorconfig";

/// The lengths that people agree on.
pub const LENGTHS: &[usize] = &[80, 100, 120, 140, 160];

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
    pub fn of(habits: &Habits, outcome: &Outcome) -> Proposal {
        let mut settings = format!(
            "# The release whose names and defaults these settings were written for.\ndefaults = \"{CURRENT}\"\n\n\
             # How fine to sift: coarse, medium or fine.\nmesh = \"medium\"\n"
        );
        let rules = format!("{}{}", line_length(habits), noisy(outcome));
        if !rules.is_empty() {
            settings += &format!("\n[rules]\n{rules}");
        }
        let styles = habits.name_styles();
        if !styles.is_empty() {
            settings += "\n# Nearly all names keep to these styles already.\n[naming]\n";
            for (sort, style, count) in styles {
                let names = counted(count, "name tells", "names tell");
                settings += &format!(
                    "{sort} = \"{style}\"{:pad$}# {names}\n",
                    "",
                    pad = 24 - (sort.len() + style.word().len())
                );
            }
        }
        Proposal { settings, editor: editor(habits) }
    }
}

fn line_length(habits: &Habits) -> String {
    let Some(longest) = habits.usual_length(LENGTHS) else { return String::new() };
    let longer = match habits.longer_than(longest) {
        0 => "No line is longer".to_string(),
        count => format!("All but {} keep to this", counted(count, "line", "lines")),
    };
    format!("# {longer}. The rule belongs to the fine mesh.\nlong-line = {{ limit = {longest} }}\n")
}

/// A rule that would drown all others becomes a note until it is paid off.
fn noisy(outcome: &Outcome) -> String {
    let mut counts: BTreeMap<RuleId, usize> = BTreeMap::new();
    for finding in outcome.caught().filter(|finding| finding.level > Level::Note) {
        *counts.entry(finding.rule).or_insert(0) += 1;
    }
    let all: usize = counts.values().sum();
    let loud = counts.iter().filter(|(_, count)| **count >= NOISY && **count * NOISY_SHARE >= all);
    loud.map(|(rule, count)| {
        let rule = catalogue::rule(*rule);
        format!(
            "# {} findings, a third of all or more: a note, until they are fewer.\n{} = \"note\"\n",
            grouped(*count),
            rule.name
        )
    })
    .collect()
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
        let endings = language.facts().extensions.join(",");
        let pattern = if endings.contains(',') { format!("[*.{{{endings}}}]") } else { format!("[*.{endings}]") };
        text += &format!("\n{pattern}\n");
        text += &match most(&habits.indents) {
            Some(0) => "indent_style = tab\n".to_string(),
            Some(width) => format!("indent_style = space\nindent_size = {width}\n"),
            None => String::new(),
        };
        if let Some(longest) = habits.usual_length(LENGTHS) {
            text += &format!("max_line_length = {longest}\n");
        }
    }
    text
}
