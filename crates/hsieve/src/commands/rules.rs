//! `hsieve rules`

use std::sync::Arc;

use serde_json::{Value, json};
use sieve_engine::settings::{Effective, Overrides, SettingsTree};
use sieve_rules::{Certainty, Concern, Level, Mesh, RuleId, RuleView};
use sieve_syntax::language::Language;

use crate::arguments::RulesArguments;
use crate::output::document_text;
use crate::run::{here, shown};
use crate::screen::{FAINT, STRONG, Screen, counted, level_style, styled, width, wrapped};
use crate::status::{Status, usage};

/// Lists rules.
pub fn run(arguments: &RulesArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let settings = settings_here()?;
    let rules: Vec<(RuleId, RuleView<'_>)> = settings
        .rule_set()
        .iter()
        .filter(|(id, rule)| arguments.words.iter().all(|word| fits(word, *rule, settings.level(*id))))
        .collect();
    if rules.is_empty() {
        return usage(format!(
            "no rule fits {}; a word is a concern, a level, a mesh, a certainty, a language, `fixable`, or a part of a name",
            arguments.words.join(" and ")
        ));
    }
    if arguments.output == "json" {
        let list: Vec<Value> = rules.iter().map(|(id, rule)| as_json(*rule, settings.level(*id))).collect();
        screen.raw(document_text(&list)?.as_bytes())?;
        return Ok(Status::Clean);
    }
    table(&rules, &settings, screen)?;
    Ok(Status::Clean)
}

/// The settings of the working folder.
pub fn settings_here() -> anyhow::Result<Arc<Effective>> {
    let project = here()?;
    let settings = SettingsTree::new(&project, None, Overrides::default()).map_err(|error| shown(&project, error))?;
    Ok(settings.for_folder(&project.folder).map_err(|error| shown(&project, error))?)
}

fn fits(word: &str, rule: RuleView<'_>, level: Level) -> bool {
    match word {
        "fixable" => rule.fix.is_some(),
        _ if Concern::named(word).is_some() => rule.concern.word() == word,
        _ if Level::named(word).is_some() => level.word() == word,
        _ if Mesh::named(word).is_some() => rule.mesh.word() == word,
        _ if Certainty::named(word).is_some() => rule.certainty.word() == word,
        _ if Language::named(word).is_some() => rule.languages.iter().any(|language| language.name() == word),
        _ => rule.name.contains(word),
    }
}

fn as_json(rule: RuleView<'_>, level: Level) -> Value {
    let options: Vec<Value> = rule
        .options()
        .iter()
        .map(|option| json!({ "name": option.name, "default": option.default.to_string(), "about": option.about }))
        .collect();
    json!({
        "rule": rule.name,
        "concern": rule.concern.word(),
        "level": level.word(),
        "mesh": rule.mesh.word(),
        "certainty": rule.certainty.word(),
        "languages": rule.languages.iter().map(|language| language.name()).collect::<Vec<_>>(),
        "fix": rule.fix.map(|fix| fix.word()),
        "what": rule.what,
        "options": options,
    })
}

fn table(rules: &[(RuleId, RuleView<'_>)], settings: &Effective, screen: &mut Screen) -> anyhow::Result<()> {
    let names = rules.iter().map(|(_, rule)| width(rule.name)).max().unwrap_or(0);
    let room = screen.width().saturating_sub(names + 34).max(24);
    let mut first = true;
    for concern in Concern::ALL {
        let group: Vec<&(RuleId, RuleView<'_>)> = rules.iter().filter(|(_, rule)| rule.concern == *concern).collect();
        if group.is_empty() {
            continue;
        }
        if !first {
            screen.gap()?;
        }
        first = false;
        screen.line(format!("{}  {}", styled(STRONG, concern.word()), styled(FAINT, concern.about())))?;
        for (id, rule) in group {
            row(*rule, settings.level(*id), names, room, screen)?;
        }
    }
    let on = rules.iter().filter(|(id, _)| settings.level(*id) != Level::Off).count();
    screen.gap()?;
    let mesh = settings.mesh.value;
    let finer = rules.iter().filter(|(_, rule)| !rule.is_caught_by(mesh) && rule.is_caught_by(Mesh::Fine)).count();
    let more = if finer == 0 { String::new() } else { format!("; a finer mesh catches {finer} more (--mesh fine)") };
    let all = counted(rules.len(), "rule", "rules");
    screen.line(styled(FAINT, &format!("{all}, {on} on here with the {mesh} mesh{more}")))
}

fn row(rule: RuleView<'_>, level: Level, names: usize, room: usize, screen: &mut Screen) -> anyhow::Result<()> {
    let level = styled(level_style(level), &format!("{:<7}", level.word()));
    let fix = rule.fix.map_or(String::new(), |fix| format!("fix {}", fix.word()));
    let tags = format!("{:<8} {:<10}", rule.certainty.word(), fix);
    let mut lines = wrapped(rule.what, room).into_iter();
    let what = lines.next().unwrap_or_default();
    screen.line(format!("  {level}  {:<names$}  {}  {what}", rule.name, styled(FAINT, &tags)))?;
    for line in lines {
        screen.line(format!("{:indent$}{line}", "", indent = names + 34))?;
    }
    Ok(())
}
