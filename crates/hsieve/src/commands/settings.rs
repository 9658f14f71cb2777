//! `hsieve settings`

use std::path::Path;

use sieve_engine::discover::language_of_name;
use sieve_engine::files;
use sieve_engine::project::{Project, absolute};
use sieve_engine::settings::{
    Effective, FILE_NAME, Overrides, Packs, SettingsTree, Source, Sourced, level_by_default, schema,
};
use sieve_rules::catalogue::history::CURRENT;
use sieve_rules::{Concern, Level, Mesh, NAMED_KINDS, NameForm, NamingKey, RuleView, default_styles};
use sieve_syntax::language::Language;

use super::pack::origin;
use super::settings_change;
use crate::arguments::{SettingsArguments, SettingsCommand};
use crate::run::{project_of, shown};
use crate::screen::{FAINT, STRONG, Screen, counted, level_style, safe, styled, width};
use crate::status::Status;

/// Columns of the name of a setting or rule.
const NAME: usize = 26;

/// Columns of its value.
const VALUE: usize = 22;

/// Shows the settings in force, or changes them.
pub fn run(arguments: &SettingsArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    match &arguments.command {
        None => show(arguments, screen),
        Some(SettingsCommand::Set(arguments)) => settings_change::set(arguments, screen),
        Some(SettingsCommand::Upgrade(arguments)) => settings_change::upgrade(arguments, screen),
        Some(SettingsCommand::Schema) => {
            let schema = serde_json::to_string_pretty(&schema())?;
            screen.raw((schema + "\n").as_bytes())?;
            Ok(Status::Clean)
        }
    }
}

fn show(arguments: &SettingsArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let named = arguments.path.clone().unwrap_or_else(|| ".".into());
    let project = project_of(std::slice::from_ref(&named))?;
    let path = absolute(&project.folder, &named);
    if !path.exists() {
        anyhow::bail!("{}: there is no such file or folder", named.display());
    }
    let tree = SettingsTree::new(&project, None, Overrides::default()).map_err(|error| shown(&project, error))?;
    let settings = if path.is_dir() { tree.for_folder(&path) } else { tree.for_file(&path) };
    let settings = settings.map_err(|error| shown(&project, error))?;
    // Only some rules and styles hold for a file.
    let language =
        if path.is_file() { language_of_name(&path.to_string_lossy(), &files::read(&path)?, &settings) } else { None };
    let view = View { project: &project, settings: &settings, packs: tree.packs(), language };
    view.write(&path, screen)?;
    Ok(Status::Clean)
}

struct View<'v> {
    project: &'v Project,
    settings: &'v Effective,
    packs: &'v Packs,
    language: Option<Language>,
}

impl View<'_> {
    fn write(&self, path: &Path, screen: &mut Screen) -> anyhow::Result<()> {
        let about = self.project.shown(path);
        screen.line(format!("{} {}", styled(STRONG, "Settings in force for"), styled(STRONG, &about)))?;
        screen
            .line(styled(FAINT, &format!("* differs from the default; files named {FILE_NAME}, the nearest wins")))?;
        screen.gap()?;
        self.general(screen)?;
        self.naming(screen)?;
        self.components(screen)?;
        self.values(screen)?;
        let mut concerns = Concern::ALL.to_vec();
        concerns.sort_by_key(|concern| concern.word());
        for concern in concerns {
            self.concern(concern, screen)?;
        }
        self.bans(screen)?;
        let set = self.settings.rule_set();
        let others = set.iter().filter(|(_, rule)| !self.holds_for(*rule)).count();
        if others > 0 {
            screen.gap()?;
            let rules = counted(others, "rule for another language is", "rules for other languages are");
            screen.line(styled(FAINT, &format!("{rules} not shown")))?;
        }
        Ok(())
    }

    fn holds_for(&self, rule: RuleView<'_>) -> bool {
        self.language.is_none_or(|language| rule.languages.contains(&language))
    }

    fn general(&self, screen: &mut Screen) -> anyhow::Result<()> {
        screen.line(styled(STRONG, "general"))?;
        let settings = self.settings;
        self.row("baseline.strict", &settings.strict.value.to_string(), "false", &settings.strict.source, screen)?;
        let shared = settings.shared.value.as_deref().map_or("none".into(), |address| format!("{address:?}"));
        self.row("cache.shared", &shared, "none", &settings.shared.source, screen)?;
        let current = CURRENT.to_string();
        self.row("defaults", &settings.defaults.value.to_string(), &current, &settings.defaults.source, screen)?;
        self.row("fail-on", settings.fail_on.value.word(), "warning", &settings.fail_on.source, screen)?;
        let generated: Vec<String> =
            settings.generated.value.iter().flat_map(|patterns| patterns.texts().to_vec()).collect();
        self.row("files.generated", &listed(&generated), "[]", &settings.generated.source, screen)?;
        let languages: Vec<String> = settings
            .languages
            .value
            .iter()
            .map(|(patterns, language)| format!("{} = {}", patterns.texts().join(", "), language.name()))
            .collect();
        self.row(
            "files.languages",
            &format!("{{{}}}", languages.join(", ")),
            "{}",
            &settings.languages.source,
            screen,
        )?;
        self.row("files.largest", &settings.largest.value.to_string(), "10000000", &settings.largest.source, screen)?;
        let skip: Vec<String> = settings.skip.value.iter().flat_map(|patterns| patterns.texts().to_vec()).collect();
        self.row("files.skip", &listed(&skip), "[]", &settings.skip.source, screen)?;
        self.row("mesh", settings.mesh.value.word(), "medium", &settings.mesh.source, screen)?;
        let only = settings.only.value.as_ref().map_or("all".to_string(), |rules| {
            let names: Vec<String> =
                rules.iter().map(|rule| self.settings.rule_set().name(*rule).to_string()).collect();
            listed(&names)
        });
        self.row("only", &only, "all", &settings.only.source, screen)?;
        self.packs.list().iter().try_for_each(|pack| {
            let version = pack.version.as_deref().map_or(String::new(), |version| format!(" {version}"));
            let named = format!("{}{version}", pack.name);
            self.cells(
                "pack",
                &format!("{named:<VALUE$}"),
                &named,
                &named,
                &origin(pack, &self.project.shown(&pack.path)),
                screen,
            )
        })
    }

    /// What names look like, where settings say so.
    fn naming(&self, screen: &mut Screen) -> anyhow::Result<()> {
        // The form for a language counts before the general one.
        let is_hidden = |key: &NamingKey| {
            let own = NamingKey { language: self.language, ..*key };
            let counts = key.language == self.language || !self.settings.naming.contains_key(&own);
            self.language.is_some() && !(counts && key.language.is_none_or(|language| Some(language) == self.language))
        };
        let shown: Vec<_> = self.settings.naming.iter().filter(|(key, _)| !is_hidden(key)).collect();
        if shown.is_empty() {
            return Ok(());
        }
        screen.gap()?;
        screen.line(styled(STRONG, "names"))?;
        for (key, form) in shown {
            let by_default = key.language.map_or_else(NameForm::default, |language| {
                NameForm::of(default_styles(language, NAMED_KINDS[key.kind]))
            });
            let value = safe(&form.value.to_string()).to_string();
            self.row(&format!("naming.{key}"), &value, &by_default.to_string(), &form.source, screen)?;
        }
        Ok(())
    }

    /// What components put out, where settings say so.
    fn components(&self, screen: &mut Screen) -> anyhow::Result<()> {
        for (index, (name, element)) in self.settings.components.iter().enumerate() {
            if index == 0 {
                screen.gap()?;
                screen.line(styled(STRONG, "components"))?;
            }
            self.row(&format!("components.{name}"), &element.value, "unknown", &element.source, screen)?;
        }
        Ok(())
    }

    /// Which values something may have, where settings say so.
    fn values(&self, screen: &mut Screen) -> anyhow::Result<()> {
        for (index, (name, listed)) in self.settings.values.iter().enumerate() {
            if index == 0 {
                screen.gap()?;
                screen.line(styled(STRONG, "values"))?;
            }
            let allowed = listed.value.as_ref().map_or(&[][..], |listed| &listed.allowed);
            self.row(&safe(name), &safe(&self::listed(allowed)), "any", &listed.source, screen)?;
        }
        Ok(())
    }

    fn bans(&self, screen: &mut Screen) -> anyhow::Result<()> {
        for (index, ban) in self.settings.bans.iter().enumerate() {
            if index == 0 {
                screen.gap()?;
                screen.line(styled(STRONG, "bans"))?;
            }
            let because = styled(FAINT, &format!("because {}", safe(&ban.because)));
            screen.line(format!("* {:<NAME$} {}  {because}", ban.kind.word(), safe(&ban.name)))?;
        }
        Ok(())
    }

    fn concern(&self, concern: Concern, screen: &mut Screen) -> anyhow::Result<()> {
        let mut first = true;
        let set = self.settings.rule_set();
        for (id, rule) in set.iter().filter(|(_, rule)| rule.concern == concern && self.holds_for(*rule)) {
            if first {
                screen.gap()?;
                screen.line(styled(STRONG, concern.word()))?;
                first = false;
            }
            let setting = self.settings.rule(id);
            let default = level_by_default(set, id, Mesh::Medium, CURRENT);
            self.level_row(rule.name, &setting.level, default, screen)?;
            for (option, value) in rule.options().iter().zip(&setting.values) {
                let name = format!("  {}", option.name);
                self.row(&name, &value.value.to_string(), &option.default.to_string(), &value.source, screen)?;
            }
        }
        Ok(())
    }

    fn level_row(&self, name: &str, level: &Sourced<Level>, default: Level, screen: &mut Screen) -> anyhow::Result<()> {
        let word = level.value.word();
        let mut origin = self.origin(&level.source);
        if level.source.is_none() && level.value != default {
            let defaults = self.settings.defaults.value;
            let release = if defaults == CURRENT { String::new() } else { format!(" of {defaults}") };
            origin = format!("from the {} mesh{release}", self.settings.mesh.value);
        }
        let padded = styled(level_style(level.value), &format!("{word:<VALUE$}"));
        self.cells(name, &padded, word, default.word(), &origin, screen)
    }

    fn row(
        &self,
        name: &str,
        value: &str,
        default: &str,
        source: &Option<Source>,
        screen: &mut Screen,
    ) -> anyhow::Result<()> {
        self.cells(name, &format!("{value:<VALUE$}"), value, default, &self.origin(source), screen)
    }

    fn cells(
        &self,
        name: &str,
        padded: &str,
        value: &str,
        default: &str,
        origin: &str,
        screen: &mut Screen,
    ) -> anyhow::Result<()> {
        let changed = value != default;
        let mark = if changed { styled(STRONG, "*") } else { " ".into() };
        let default = if changed { format!("  the default is {default}") } else { String::new() };
        let gap = if width(value) > VALUE { "  " } else { "" };
        screen.line(format!("{mark} {name:<NAME$} {padded}{gap}{origin}{}", styled(FAINT, &default)))
    }

    fn origin(&self, source: &Option<Source>) -> String {
        match source {
            None => styled(FAINT, "default"),
            Some(source) => format!("{}:{}", self.project.shown(&source.path), source.line),
        }
    }
}

fn listed(texts: &[String]) -> String {
    let quoted: Vec<String> = texts.iter().map(|text| format!("{text:?}")).collect();
    format!("[{}]", quoted.join(", "))
}
