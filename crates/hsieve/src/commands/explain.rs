//! `hsieve explain`

use sieve_engine::settings::Effective;
use sieve_rules::house::HouseExample;
use sieve_rules::{Concern, Level, Origin, RuleView, Wrong};
use sieve_syntax::language::Language;

use super::rules::settings_here;
use crate::arguments::ExplainArguments;
use crate::output::page::{beside_code, key, page, waiver, waiver_in};
use crate::run::unknown_rule;
use crate::screen::{FAINT, STRONG, Screen, TYPED, cells, level_style, safe, styled, wrapped};
use crate::status::Status;

/// Columns before the text of each part.
const INDENT: usize = 2;

/// Explains a rule.
pub fn run(arguments: &ExplainArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let settings = settings_here()?;
    let set = settings.rule_set();
    let Some(known) = set.known(&arguments.rule) else {
        return match Concern::named(&arguments.rule) {
            Some(concern) => explain_concern(concern, &settings, screen),
            None => unknown_rule("", &arguments.rule, set),
        };
    };
    let id = known.rule;
    let rule = set.rule(id);
    if arguments.output == "markdown" {
        screen.raw(page(rule).as_bytes())?;
    } else {
        let values: Vec<String> = settings.rule(id).values.iter().map(|value| value.value.to_string()).collect();
        text(rule, settings.level(id), &values, screen)?;
    }
    Ok(Status::Clean)
}

/// What a concern is about, and its rules with their levels here.
fn explain_concern(concern: Concern, settings: &Effective, screen: &mut Screen) -> anyhow::Result<Status> {
    screen.line(format!("{}  {}", styled(STRONG, concern.word()), styled(FAINT, "a concern")))?;
    paragraph(concern.about(), screen.width().min(92) - INDENT, screen)?;
    heading("its rules", screen)?;
    let rules: Vec<_> = settings.rule_set().iter().filter(|(_, rule)| rule.concern == concern).collect();
    let names = rules.iter().map(|(_, rule)| rule.name.len()).max().unwrap_or(0);
    for (id, rule) in rules {
        let level = settings.level(id);
        let level = styled(level_style(level), &format!("{:<7}", level.word()));
        screen.line(format!("{:INDENT$}{:<names$}  {level}  {}", "", rule.name, rule.what))?;
    }
    screen.gap()?;
    screen.line(format!(
        "{} switches all of them off; the settings can name a concern wherever they name rules.",
        styled(TYPED, &format!("hsieve sift --without {concern}"))
    ))?;
    Ok(Status::Clean)
}

fn text(rule: RuleView<'_>, level: Level, values: &[String], screen: &mut Screen) -> anyhow::Result<()> {
    let columns = screen.width().min(92) - INDENT;
    let facts = format!("{}, {}, {} mesh", rule.concern, rule.certainty, rule.mesh);
    let level = styled(level_style(level), level.word());
    screen.line(format!("{}  {level} here  {}", styled(STRONG, rule.name), styled(FAINT, &facts)))?;
    paragraph(rule.what, columns, screen)?;
    let titles: Vec<&str> = rule.languages.iter().map(|language| language.spec().title).collect();
    let all = rule.languages.len() == Language::ALL.len();
    let languages = if all { "every language".to_string() } else { titles.join(", ") };
    screen.line(styled(FAINT, &format!("{:INDENT$}in {languages}", "")))?;
    if !rule.why.is_empty() {
        heading("why", screen)?;
        paragraph(rule.why, columns, screen)?;
    }
    if let Some(house) = rule.as_house() {
        heading("what it finds", screen)?;
        house.find.lines().try_for_each(|line| screen.line(format!("{:INDENT$}{}", "", safe(line))))?;
    }
    let shown = Shown::of(rule);
    let fits = |wrong: &&WrongCode<'_>| wrong.code.lines().all(|line| line.len() <= columns);
    for wrong in shown.wrong.iter().filter(fits).take(2) {
        heading(&format!("wrong{}", wrong.place), screen)?;
        wrong_code(wrong, screen)?;
        if let Some(fixed) = wrong.fixed {
            heading("after its fix", screen)?;
            code(fixed, screen)?;
        }
    }
    if let Some((right, place)) = shown.right.iter().find(|(right, _)| !right.is_empty()) {
        heading(&format!("right{place}"), screen)?;
        code(right, screen)?;
    }
    heading("where it stays silent", screen)?;
    paragraph(shown.silent, columns, screen)?;
    let options = rule.options();
    if !options.is_empty() {
        heading("options", screen)?;
        for (option, value) in options.iter().zip(values) {
            let default = option.default.to_string();
            let note = if default == *value { String::new() } else { format!(" (the default is {default})") };
            screen.line(format!("{:INDENT$}{} = {value}{}", "", option.name, styled(FAINT, &note)))?;
            paragraph_at(&format!("{}: {}", option.sort, option.about), columns, INDENT * 2, screen)?;
        }
    }
    for standard in rule.standards() {
        heading("standard", screen)?;
        paragraph(standard, columns, screen)?;
    }
    heading("to live with it", screen)?;
    if rule.as_built_in().is_none_or(|rule| beside_code(rule).is_none()) {
        screen.line(format!("{:INDENT$}{}", "", styled(TYPED, &shown.waiver)))?;
    }
    screen.line(
        format!("{:INDENT$}{}", "", styled(TYPED, &format!("{} = \"off\"", key(rule.name))))
            + "   in [rules] of sieve.toml",
    )
}

/// What is shown of a rule besides its facts.
struct Shown<'r> {
    wrong: Vec<WrongCode<'r>>,
    /// The code, and where it is, in words.
    right: Vec<(&'r str, String)>,
    silent: &'r str,
    waiver: String,
}

/// Code that a rule reports.
struct WrongCode<'r> {
    code: &'r str,
    at: Vec<&'r str>,
    fixed: Option<&'r str>,
    /// Where it is, in words.
    place: String,
}

impl<'r> Shown<'r> {
    /// A rule with its examples in one language.
    fn of(rule: RuleView<'r>) -> Shown<'r> {
        match rule.origin {
            Origin::BuiltIn(rule) => {
                let first = &rule.examples[0];
                let wrong = |one: &'static Wrong| WrongCode {
                    code: one.code,
                    at: one.at.to_vec(),
                    fixed: one.fixed,
                    place: String::new(),
                };
                let (wrong, right) = (
                    first.wrong.iter().map(wrong).collect(),
                    first.right.iter().map(|code| (*code, String::new())).collect(),
                );
                Shown { wrong, right, silent: rule.silent, waiver: waiver(rule) }
            }
            Origin::House(rule) => {
                let of_kind = |is_wrong: bool| rule.examples.iter().filter(move |one| one.is_wrong == is_wrong);
                let wrong = |one: &'r HouseExample| WrongCode {
                    code: &one.code,
                    at: one.at.iter().map(String::as_str).collect(),
                    fixed: one.fixed.as_deref(),
                    place: place_of(one),
                };
                Shown {
                    wrong: of_kind(true).map(wrong).collect(),
                    right: of_kind(false).map(|one| (one.code.as_str(), place_of(one))).collect(),
                    silent: if rule.is_about_data() {
                        "In documents that are too large, or whose aliases stand for too much, to be looked at to their end."
                    } else {
                        "Where it cannot be known what a name of the query stands for."
                    },
                    waiver: waiver_in(rule.languages.iter().copied(), &rule.name),
                }
            }
        }
    }
}

fn heading(text: &str, screen: &mut Screen) -> anyhow::Result<()> {
    screen.gap()?;
    screen.line(styled(STRONG, text))
}

fn paragraph(text: &str, columns: usize, screen: &mut Screen) -> anyhow::Result<()> {
    paragraph_at(text, columns, INDENT, screen)
}

fn paragraph_at(text: &str, columns: usize, indent: usize, screen: &mut Screen) -> anyhow::Result<()> {
    for line in wrapped(text, columns) {
        screen.line(format!("{:indent$}{line}", ""))?;
    }
    Ok(())
}

fn code(code: &str, screen: &mut Screen) -> anyhow::Result<()> {
    code.lines().try_for_each(|line| code_line(line, screen))
}

/// A line of code, as lines of files are shown.
fn code_line(line: &str, screen: &mut Screen) -> anyhow::Result<()> {
    let mut shown = " ".repeat(INDENT + 2);
    cells(line).into_iter().for_each(|cell| cell.show(&mut shown));
    screen.line(shown)
}

/// The code with a mark under each place that the rule reports.
fn wrong_code(wrong: &WrongCode<'_>, screen: &mut Screen) -> anyhow::Result<()> {
    for (index, line) in wrong.code.lines().enumerate() {
        code_line(line, screen)?;
        for (_, column) in places(wrong).filter(|(number, _)| *number == index + 1) {
            let mark = styled(level_style(Level::Warning), "~");
            let before: usize = cells(line).iter().take(column.saturating_sub(1)).map(|cell| cell.width).sum();
            screen.line(format!("{:indent$}{mark}", "", indent = INDENT + 2 + before))?;
        }
    }
    Ok(())
}

fn places<'w>(wrong: &'w WrongCode<'_>) -> impl Iterator<Item = (usize, usize)> + 'w {
    wrong
        .at
        .iter()
        .filter_map(|at| at.split_once(':'))
        .filter_map(|(line, column)| Some((line.parse().ok()?, column.parse().ok()?)))
}

/// Where an example is, if its rule minds that.
fn place_of(example: &HouseExample) -> String {
    if example.has_path { format!(", in {}", safe(&example.path)) } else { String::new() }
}
