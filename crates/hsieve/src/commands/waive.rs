//! `hsieve waive`

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use sieve_engine::Index;
use sieve_engine::discover::language_of_name;
use sieve_engine::files;
use sieve_engine::fix::{FixedFile, FixedText, FixingRun};
use sieve_engine::outcome::Finding;
use sieve_engine::project::{Project, absolute};
use sieve_engine::run::{Subject, Wants, sift_text};
use sieve_engine::settings::{Effective, Overrides, SettingsTree, rules_named};
use sieve_engine::{Date, NewWaiver, day_named, waive};
use sieve_rules::{Mesh, RuleId, RuleSet};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use super::fix::show_diff;
use crate::arguments::WaiveArguments;
use crate::run::{project_of, shown, unknown_rule};
use crate::screen::{FAINT, STRONG, Screen, TYPED, complain, counted, safe, styled};
use crate::status::{Status, usage};

/// Writes a waiver for a line.
pub fn run(arguments: &WaiveArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let named: Vec<PathBuf> = place_of(&arguments.place).map(|(name, ..)| name.into()).into_iter().collect();
    let project = project_of(&named)?;
    let finest = Overrides { mesh: Some(Mesh::Fine), ..Overrides::default() };
    let settings = SettingsTree::new(&project, None, finest).map_err(|error| shown(&project, error))?;
    let asked = Asked::read(arguments, settings.rule_set())?;
    let path = absolute(&project.folder, Path::new(asked.name));
    let before = files::read(&path)?;
    let settings = settings.for_file(&path).map_err(|error| shown(&project, error))?;
    let Some(language) = language_of_name(asked.name, &before, &settings) else {
        return usage(format!("{}: the language of this file is not known", asked.name));
    };
    let text = match language.decode(before.clone()) {
        Ok(text) => text,
        Err(error) => return usage(format!("{}: the file {error}", asked.name)),
    };
    let place = Place { asked: &asked, path: &path, language, settings: &settings, project: &project };
    let (after, at, held) = place.waived(&text)?;
    let Some(bytes) = after.encode() else {
        let encoding = text.encoding().name();
        return usage(format!("{}: the reason has no form in the file's encoding, {encoding}", asked.name));
    };
    let file = FixedFile {
        path: path.clone(),
        shown: project.shown(&path).into(),
        before,
        after: bytes,
        fixed: FixedText::default(),
        moved_to: None,
    };
    if arguments.preview {
        show_diff(&file.diff(&project), screen)?;
        return Ok(Status::Findings);
    }
    let files = [file];
    let run = FixingRun::begin(&project, true)?;
    let written = run.write_all(&files)?;
    if let Some(error) = written.errors.first() {
        complain(error);
        return Ok(Status::Failed);
    }
    screen.line(format!(
        "{}  {}",
        styled(STRONG, &format!("{}:{at}", safe(asked.name))),
        styled(TYPED, &written_line(&after, at))
    ))?;
    screen.line(styled(FAINT, &format!("It holds back {}.", counted(held, "finding", "findings"))))?;
    Ok(Status::Clean)
}

/// What was asked for, checked.
struct Asked<'a> {
    name: &'a str,
    line: u32,
    column: Option<u32>,
    names: &'a [String],
    rules: BTreeSet<RuleId>,
    because: String,
    until: Option<Date>,
}

impl<'a> Asked<'a> {
    fn read(arguments: &'a WaiveArguments, rules: &RuleSet) -> anyhow::Result<Asked<'a>> {
        let Some((name, line, column)) = place_of(&arguments.place) else {
            return usage(format!("{}: name a file and a line, such as booking/fares.py:14", arguments.place));
        };
        if let Some(unknown) = arguments.rules.iter().find(|rule| rules_named(rules, rule).is_empty()) {
            return unknown_rule("", unknown, rules);
        }
        let rules = arguments.rules.iter().flat_map(|rule| rules_named(rules, rule)).collect();
        // A line end in the reason would end the comment.
        let because = arguments.because.split_whitespace().collect::<Vec<_>>().join(" ");
        if !because.chars().any(char::is_alphanumeric) {
            return usage("--because is empty: state the reason for later readers");
        }
        let until = match arguments.until.as_deref().map(|day| (day, day_named(day))) {
            None => None,
            Some((_, Some(day))) if day < sieve_engine::today() => {
                return usage(format!("--until {day} is over: the waiver would hold nothing back"));
            }
            Some((_, Some(day))) => Some(day),
            Some((_, None)) => return usage("--until is a day such as 2027-06-30"),
        };
        Ok(Asked { name, line, column, names: &arguments.rules, rules, because, until })
    }

    fn place(&self) -> String {
        let column = self.column.map_or(String::new(), |column| format!(":{column}"));
        format!("{}:{}{column}", self.name, self.line)
    }
}

/// `FILE:LINE` or `FILE:LINE:COLUMN`.
fn place_of(text: &str) -> Option<(&str, u32, Option<u32>)> {
    let (rest, last) = text.rsplit_once(':')?;
    let last: u32 = last.parse().ok()?;
    let with_column = rest.rsplit_once(':').and_then(|(name, line)| Some((name, line.parse().ok()?, Some(last))));
    Some(with_column.unwrap_or((rest, last, None)))
}

/// The file that a waiver is to be written in, and what it is sifted with.
struct Place<'p> {
    asked: &'p Asked<'p>,
    path: &'p PathBuf,
    language: Language,
    settings: &'p Effective,
    project: &'p Project,
}

impl Place<'_> {
    /// The text with the waiver, the waiver's line, and how many findings it holds back.
    fn waived(&self, text: &Text) -> anyhow::Result<(Text, u32, usize)> {
        let asked = self.asked;
        let before = self.findings(text);
        let there: Vec<&Finding> = before.iter().filter(|finding| finding.start.line == asked.line).collect();
        if let Some(column) = asked.column {
            let begins = |finding: &&&Finding| finding.start.column == column && asked.rules.contains(&finding.rule);
            if !there.iter().any(|finding| begins(&finding)) {
                return self.nothing(&there);
            }
        }
        let new = NewWaiver { names: asked.names, because: &asked.because, until: asked.until };
        let (source, at) = match waive(self.language, text, asked.line, &new) {
            Ok(written) => written,
            Err(error) => return usage(format!("{}:{}: {error}", asked.name, asked.line)),
        };
        let after = Text::with_encoding(source, text.encoding());
        let counts =
            |findings: &[Finding]| findings.iter().filter(|finding| asked.rules.contains(&finding.rule)).count();
        let held = counts(&before).saturating_sub(counts(&self.findings(&after)));
        // A rule that goes over files finds nothing in one alone.
        let over_files = asked.rules.iter().any(|rule| self.settings.rule_set().rule(*rule).goes_over_files());
        if held == 0 && !over_files { self.nothing(&there) } else { Ok((after, at, held)) }
    }

    /// The findings that nothing in the file or its settings holds back.
    fn findings(&self, text: &Text) -> Vec<Finding> {
        let index = Index::default();
        let subject = Subject {
            shown: &Arc::from(self.asked.name),
            language: self.language,
            settings: self.settings,
            path: self.path,
            index: &index,
            project: self.project,
            asks_others: true,
            is_alone: false,
        };
        let found = sift_text(text, &subject, Wants::default(), sieve_engine::today()).findings;
        found.into_iter().filter(|finding| finding.held.is_none()).collect()
    }

    /// Refuses, and says what there is instead.
    fn nothing<T>(&self, there: &[&Finding]) -> anyhow::Result<T> {
        let mut found: Vec<String> = there
            .iter()
            .map(|finding| {
                format!(
                    "{}:{} {}",
                    finding.start.line,
                    finding.start.column,
                    self.settings.rule_set().name(finding.rule)
                )
            })
            .collect();
        found.dedup();
        let instead = match found.is_empty() {
            true => "the line has no finding that is not held back already".to_string(),
            false => format!("the line has {}", found.join(", ")),
        };
        let names = self.asked.names.join(", ");
        usage(format!(
            "{}: nothing was written: a waiver of {names} would hold nothing back here; {instead}",
            self.asked.place()
        ))
    }
}

fn written_line(text: &Text, line: u32) -> String {
    safe(text.slice(text.lines().line(text.source(), line)).trim())
}
