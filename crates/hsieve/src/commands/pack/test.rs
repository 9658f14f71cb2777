//! `hsieve pack test`

use std::time::Duration;

use sieve_engine::project::Project;
use sieve_engine::run::Wants;
use sieve_engine::settings::{Pack, PackSource, Packs};
use sieve_engine::trial::{self, Cost, Failure, Problem, Tried};
use sieve_rules::Level;

use crate::arguments::{Common, TestPackArguments};
use crate::run::{Setup, shown};
use crate::screen::{FAINT, STRONG, Screen, counted, level_style, safe, styled, width};
use crate::status::{Status, usage};

/// Columns before what is wrong with an example.
const INDENT: usize = 10;

/// Runs the examples of packs.
pub fn run(arguments: &TestPackArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let setup = Setup::new(&Common { pack: arguments.packs.clone(), quiet: true, ..Common::default() })?;
    let packs = setup.settings.packs();
    let tested = chosen(arguments, packs, &setup.project)?;
    let mut all_right = true;
    for (index, pack) in tested.iter().enumerate() {
        if index > 0 {
            screen.gap()?;
        }
        let tried = trial::examples(packs.rules(), &pack.name);
        let costs = match arguments.no_cost {
            true => Vec::new(),
            false => setup
                .with_request(Wants::NONE, |request| trial::costs(request, packs.rules(), &pack.name))
                .map_err(|error| shown(&setup.project, error))?,
        };
        let version = pack.version.as_deref().map_or(String::new(), |version| format!(" {version}"));
        let path = safe(&setup.project.shown(&pack.path));
        screen.line(format!("{}{version}  {}", styled(STRONG, &pack.name), styled(FAINT, &path)))?;
        results(pack, &tried, &costs, &setup.project, screen)?;
        all_right &= tried.iter().all(|one| one.failures.is_empty());
        sum(&tried, &costs, screen)?;
    }
    Ok(if all_right { Status::Clean } else { Status::Findings })
}

/// The packs that are named, or all of the settings that are files: the others are tested by those who write them.
fn chosen<'p>(arguments: &TestPackArguments, packs: &'p Packs, project: &Project) -> anyhow::Result<Vec<&'p Pack>> {
    let own = |pack: &&Pack| matches!(pack.source, PackSource::Path(_));
    if arguments.packs.is_empty() {
        let files: Vec<&Pack> = packs.list().iter().filter(own).collect();
        if files.is_empty() {
            return usage("the settings here name no pack that is a file; `hsieve pack new NAME` writes one");
        }
        return Ok(files);
    }
    let named: Vec<PackSource> = arguments.packs.iter().map(|word| PackSource::written(word)).collect();
    let is_named = |pack: &&Pack| {
        let by_path = |source: &PackSource| match source {
            PackSource::Path(path) => {
                let whole = sieve_engine::project::absolute(&project.folder, std::path::Path::new(path));
                pack.path == whole || pack.path.parent() == Some(&whole)
            }
            other => pack.source == *other,
        };
        named.iter().any(by_path)
    };
    Ok(packs.list().iter().filter(is_named).collect())
}

/// One line for each rule, and below it what is wrong with its examples.
pub(super) fn results(
    pack: &Pack,
    tried: &[Tried],
    costs: &[Cost],
    project: &Project,
    screen: &mut Screen,
) -> anyhow::Result<()> {
    let room = tried.iter().map(|one| width(own_name(one))).max().unwrap_or(0);
    for one in tried {
        let mark = match one.failures.is_empty() {
            true => styled(level_style(Level::Note), "ok    "),
            false => styled(level_style(Level::Error), "failed"),
        };
        let count = |is_wrong: bool| one.rule.examples.iter().filter(|example| example.is_wrong == is_wrong).count();
        let examples = format!("{} wrong, {} right", count(true), count(false));
        let cost = costs.iter().find(|cost| cost.rule == one.rule.name);
        let cost = cost
            .map_or(String::new(), |cost| format!("  {} per MB, {}", time(cost.per_megabyte), share(cost.of_parsing)));
        screen.line(format!("  {mark}  {:<room$}  {examples}{}", own_name(one), styled(FAINT, &cost)))?;
        for failure in &one.failures {
            show(failure, &project.shown(&pack.path), screen)?;
        }
    }
    Ok(())
}

fn own_name(one: &Tried) -> &str {
    one.rule.name.split_once(':').map_or(one.rule.name.as_str(), |(_, name)| name)
}

fn time(time: Duration) -> String {
    format!("{:.2} ms", time.as_secs_f64() * 1e3)
}

fn share(of_parsing: f64) -> String {
    format!("{:.1} % of parsing", of_parsing * 100.0)
}

/// What is wrong with an example, what was expected beside what was found.
fn show(failure: &Failure, path: &str, screen: &mut Screen) -> anyhow::Result<()> {
    let at = failure.line.map_or(String::new(), |line| format!("{}:{line}  ", safe(path)));
    let head = |what: &str| format!("{:INDENT$}{}{what}", "", styled(STRONG, &at));
    match &failure.problem {
        Problem::Lacks(kind) => screen.line(head(&format!("there is no {kind} example: [[rule.{kind}]]"))),
        Problem::NoPlaces { found } => {
            let found: Vec<String> = found.iter().map(|place| format!("{place:?}")).collect();
            screen.line(head(&format!("the example says no places; found: at = [{}]", found.join(", "))))
        }
        Problem::Faults(fault) => {
            screen.line(head(&format!("the example is not what its language allows: {}", safe(fault))))
        }
        Problem::BreaksSyntax(code) => {
            screen.line(head("the fix leaves code that its language does not allow:"))?;
            code.lines().try_for_each(|line| screen.line(format!("{:INDENT$}  {}", "", safe(line))))
        }
        Problem::Places { expected, found, unsure } => {
            screen.line(head("the places are others than expected"))?;
            places(&failure.code, expected, found, unsure, screen)
        }
        Problem::Fixed { expected, found: None } => {
            screen.line(head("no fix is offered; expected:"))?;
            expected.lines().try_for_each(|line| screen.line(format!("{:INDENT$}  {}", "", safe(line))))
        }
        Problem::Fixed { expected, found: Some(found) } => {
            screen.line(head("the fix makes something else of it"))?;
            beside(("expected", expected), ("found", found), screen)
        }
    }
}

/// The code, and beside each line the places in it that were expected and those that were found.
fn places(
    code: &str,
    expected: &[String],
    found: &[String],
    unsure: &[String],
    screen: &mut Screen,
) -> anyhow::Result<()> {
    let on_line = |places: &[String], line: usize| {
        let own = places.iter().filter(|place| place.split(':').next() == Some(&line.to_string()));
        own.cloned().collect::<Vec<_>>().join(" ")
    };
    let room = code.lines().map(width).max().unwrap_or(0).clamp(4, 60);
    screen
        .line(styled(FAINT, &format!("{:INDENT$}{:>4}  {:room$}  {:<10}  {:<10}", "", "", "", "expected", "found")))?;
    for (index, line) in code.lines().enumerate() {
        let number = index + 1;
        let (want, have) = (on_line(expected, number), on_line(found, number));
        let have = match on_line(unsure, number) {
            open if open.is_empty() => have,
            open => format!("{have} unsure {open}").trim().to_string(),
        };
        let differs = want != have;
        let marks = format!(
            "{:<10}  {:<10}",
            if want.is_empty() && differs { "–" } else { &want },
            if have.is_empty() && differs { "–" } else { &have }
        );
        let marks = marks.trim_end();
        let marks = if differs { styled(level_style(Level::Error), marks) } else { marks.to_string() };
        let pad = room.saturating_sub(width(line));
        screen.line(format!(
            "{:INDENT$}{}  {}{:pad$}  {}",
            "",
            styled(FAINT, &format!("{number:>4}")),
            safe(line),
            "",
            marks
        ))?;
    }
    Ok(())
}

/// Two codes side by side, with a mark between lines that differ.
fn beside((one, first): (&str, &str), (other, second): (&str, &str), screen: &mut Screen) -> anyhow::Result<()> {
    let (left, right): (Vec<&str>, Vec<&str>) = (first.lines().collect(), second.lines().collect());
    let room = left.iter().map(|line| width(line)).max().unwrap_or(0).clamp(8, 44);
    screen.line(styled(FAINT, &format!("{:INDENT$}  {one:<room$}     {other}", "")))?;
    for index in 0..left.len().max(right.len()) {
        let (left, right) =
            (left.get(index).copied().unwrap_or_default(), right.get(index).copied().unwrap_or_default());
        let mark = if left == right { " ".to_string() } else { styled(level_style(Level::Error), "≠") };
        let pad = room.saturating_sub(width(left));
        screen.line(format!("{:INDENT$}  {}{:pad$}  {mark}  {}", "", safe(left), "", safe(right)))?;
    }
    Ok(())
}

/// How many examples there were, and with what the cost was measured.
fn sum(tried: &[Tried], costs: &[Cost], screen: &mut Screen) -> anyhow::Result<()> {
    let examples: usize = tried.iter().map(|one| one.rule.examples.len()).sum();
    let failures: usize = tried.iter().map(|one| one.failures.len()).sum();
    let rules = counted(tried.len(), "rule", "rules");
    let told = match failures {
        0 => format!("{rules}, {}: all as they should be", counted(examples, "example", "examples")),
        _ => format!("{rules}, {}: {} not as expected", counted(examples, "example", "examples"), failures),
    };
    let measured = costs.iter().map(|cost| cost.bytes).max().unwrap_or(0) as f64 / 1e6;
    let measured = if measured > 0.0 {
        format!("; the cost is measured with {measured:.1} MB of the code here")
    } else {
        String::new()
    };
    screen.line(styled(FAINT, &format!("{told}{measured}")))
}
