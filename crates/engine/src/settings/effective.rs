//! The settings in force for a file, each value with where it comes from.

use std::collections::BTreeMap;
use std::path::PathBuf;
use std::sync::Arc;

use jiff::civil::Date;
use sieve_rules::{Dispatch, Enabled, Level, Mesh, OptionValue, RuleId, catalogue};
use sieve_syntax::language::Language;

use super::file::{Patterns, Placed, SettingsFile};

/// Which line of which file set a value.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Source {
    /// The settings file.
    pub path: PathBuf,
    /// The line, from 1.
    pub line: u32,
}

/// A value with where it comes from; nothing where it is the default.
#[derive(Debug, Clone)]
pub struct Sourced<T> {
    /// The value.
    pub value: T,
    /// What set it.
    pub source: Option<Source>,
}

impl<T> Sourced<T> {
    fn default_of(value: T) -> Sourced<T> {
        Sourced { value, source: None }
    }

    fn set<U>(&mut self, file: &SettingsFile, placed: &Option<Placed<U>>, convert: impl Fn(&U) -> T) {
        if let Some(placed) = placed {
            self.value = convert(&placed.value);
            self.source = Some(Source { path: file.path.clone(), line: placed.line });
        }
    }
}

/// A rule's level and options.
#[derive(Debug, Clone)]
pub struct RuleSetting {
    /// Its level; off where neither the mesh nor a setting switches it on.
    pub level: Sourced<Level>,
    /// Its options, in the order of its facts.
    pub values: Vec<Sourced<OptionValue>>,
}

/// Patterns with the folder that they start from.
#[derive(Debug, Clone)]
pub struct PlacedPatterns {
    /// The folder of the settings file.
    pub folder: PathBuf,
    /// The patterns.
    pub patterns: Arc<Patterns>,
}

impl PlacedPatterns {
    fn fit(&self, path: &std::path::Path) -> bool {
        path.strip_prefix(&self.folder).is_ok_and(|relative| {
            let relative = relative.to_string_lossy().replace('\\', "/");
            self.patterns.fit(&relative)
        })
    }

    /// The patterns as they are written.
    pub fn texts(&self) -> &[String] {
        &self.patterns.texts
    }
}

/// The settings in force for the files of a folder.
#[derive(Debug)]
pub struct Effective {
    /// How fine to sift.
    pub mesh: Sourced<Mesh>,
    /// The level that fails a run.
    pub fail_on: Sourced<Level>,
    /// Files larger than this, in bytes, are left out.
    pub largest: Sourced<u64>,
    /// Files that are not sifted.
    pub skip: Sourced<Vec<PlacedPatterns>>,
    /// Files that count as generated.
    pub generated: Sourced<Vec<PlacedPatterns>>,
    /// Files whose language is set.
    pub languages: Sourced<Vec<(PlacedPatterns, Language)>>,
    rules: Vec<RuleSetting>,
    aside: BTreeMap<RuleId, Aside>,
    waivers: Vec<SettingsWaiver>,
    dispatch: Dispatch,
}

/// A rule that a scope switches off: it runs all the same, so that what the scope holds back is counted.
#[derive(Debug, Clone)]
pub struct Aside {
    /// The level that it would have.
    pub level: Level,
    /// Why the scope is there.
    pub because: Option<String>,
    /// The line of the settings that switches it off.
    pub source: Source,
}

/// A waiver in the settings that fits a file.
#[derive(Debug, Clone)]
pub struct SettingsWaiver {
    /// What it is for.
    pub rules: Vec<RuleId>,
    /// Why.
    pub because: String,
    /// The last day on which it holds.
    pub until: Option<Date>,
    /// Where it stands.
    pub source: Source,
}

/// A settings file with the scopes and waivers in it that fit a file, by their indexes.
#[derive(Debug, Clone)]
pub(super) struct Link {
    pub(super) file: Arc<SettingsFile>,
    pub(super) scopes: Vec<usize>,
    pub(super) waives: Vec<usize>,
}

/// What a command line may say on top of all files.
#[derive(Debug, Default, Clone)]
pub struct Overrides {
    /// How fine to sift.
    pub mesh: Option<Mesh>,
    /// Only these rules, if any are given; they are on even if the settings switch them off.
    pub only: Vec<RuleId>,
    /// Not these rules.
    pub without: Vec<RuleId>,
}

impl Effective {
    /// The defaults, then each file from the outermost to the innermost with its scopes, then the command line.
    pub(super) fn of(links: &[Link], overrides: &Overrides) -> Effective {
        let mut mesh = Sourced::default_of(Mesh::Medium);
        let mut fail_on = Sourced::default_of(Level::Warning);
        let mut largest = Sourced::default_of(10_000_000);
        let mut skip = Sourced::default_of(Vec::new());
        let mut generated = Sourced::default_of(Vec::new());
        let mut languages = Sourced::default_of(Vec::new());
        for Link { file, .. } in links {
            let folder = file.path.parent().unwrap_or(std::path::Path::new("")).to_path_buf();
            let place =
                |patterns: &Patterns| PlacedPatterns { folder: folder.clone(), patterns: Arc::new(patterns.clone()) };
            mesh.set(file, &file.mesh, |mesh| *mesh);
            fail_on.set(file, &file.fail_on, |level| *level);
            largest.set(file, &file.largest, |bytes| *bytes);
            skip.set(file, &file.skip, |patterns| vec![place(patterns)]);
            generated.set(file, &file.generated, |patterns| vec![place(patterns)]);
            languages.set(file, &file.languages, |all| {
                all.iter().map(|(patterns, language)| (place(patterns), *language)).collect()
            });
        }
        if let Some(chosen) = overrides.mesh {
            mesh = Sourced::default_of(chosen);
        }
        let rules: Vec<RuleSetting> =
            catalogue::rules().map(|(id, _)| rule_setting(id, mesh.value, links, overrides)).collect();
        let aside: BTreeMap<RuleId, Aside> = catalogue::rules()
            .filter(|(id, _)| rules[id.0 as usize].level.value == Level::Off)
            .filter_map(|(id, _)| Some((id, set_aside(id, mesh.value, links, overrides)?)))
            .collect();
        let dispatch = Dispatch::new(enabled(&rules, &aside));
        let waivers = links.iter().flat_map(waivers_of).collect();
        Effective { mesh, fail_on, largest, skip, generated, languages, rules, aside, waivers, dispatch }
    }

    /// What holds back the findings of a rule that a scope switches off.
    pub fn aside(&self, rule: RuleId) -> Option<&Aside> {
        self.aside.get(&rule)
    }

    /// The waivers of the settings that fit the file.
    pub fn waivers(&self) -> &[SettingsWaiver] {
        &self.waivers
    }

    /// A rule's setting.
    pub fn rule(&self, rule: RuleId) -> &RuleSetting {
        &self.rules[rule.0 as usize]
    }

    /// The level of a rule.
    pub fn level(&self, rule: RuleId) -> Level {
        self.rule(rule).level.value
    }

    /// The rules that are on, made ready to run.
    pub fn dispatch(&self) -> &Dispatch {
        &self.dispatch
    }

    /// Whether the settings skip a file, by its absolute path.
    pub fn skips(&self, path: &std::path::Path) -> bool {
        self.skip.value.iter().any(|patterns| patterns.fit(path))
    }

    /// Whether the settings call a file generated, by its absolute path.
    pub fn calls_generated(&self, path: &std::path::Path) -> bool {
        self.generated.value.iter().any(|patterns| patterns.fit(path))
    }

    /// The language that the settings give to a file, by its absolute path.
    pub fn language_of(&self, path: &std::path::Path) -> Option<Language> {
        self.languages.value.iter().find(|(patterns, _)| patterns.fit(path)).map(|(_, language)| *language)
    }
}

fn waivers_of(link: &Link) -> impl Iterator<Item = SettingsWaiver> + '_ {
    link.waives.iter().map(|index| {
        let entry = &link.file.waives[*index];
        let source = Source { path: link.file.path.clone(), line: entry.line };
        SettingsWaiver { rules: entry.rules.clone(), because: entry.because.clone(), until: entry.until, source }
    })
}

/// The last scope that switches a rule off, if the rule would be on without scopes.
fn set_aside(id: RuleId, mesh: Mesh, links: &[Link], overrides: &Overrides) -> Option<Aside> {
    let bare: Vec<Link> = links.iter().map(|link| Link { scopes: Vec::new(), ..link.clone() }).collect();
    let level = rule_setting(id, mesh, &bare, overrides).level.value;
    let scopes = links.iter().flat_map(|link| link.scopes.iter().map(move |index| (link, &link.file.scopes[*index])));
    let (link, scope, placed) = scopes
        .filter_map(|(link, scope)| Some((link, scope, scope.rules.get(&id)?.level.as_ref()?)))
        .last()
        .filter(|(.., placed)| level != Level::Off && placed.value == Level::Off)?;
    let source = Source { path: link.file.path.clone(), line: placed.line };
    Some(Aside { level, because: scope.because.clone(), source })
}

fn rule_setting(id: RuleId, mesh: Mesh, links: &[Link], overrides: &Overrides) -> RuleSetting {
    let facts = catalogue::rule(id);
    let on = if facts.caught_by(mesh) { facts.level } else { Level::Off };
    let mut level = Sourced::default_of(on);
    let mut values: Vec<Sourced<OptionValue>> =
        facts.options.iter().map(|option| Sourced::default_of(option.default_value())).collect();
    for Link { file, scopes, .. } in links {
        let own = file.rules.get(&id);
        let scoped = scopes.iter().filter_map(|index| file.scopes[*index].rules.get(&id));
        for entry in own.into_iter().chain(scoped) {
            level.set(file, &entry.level, |level| *level);
            for (index, placed) in &entry.options {
                values[*index].set(file, &Some(placed.clone()), OptionValue::clone);
            }
        }
    }
    if !overrides.only.is_empty() {
        let chosen = overrides.only.contains(&id);
        if !chosen {
            level = Sourced::default_of(Level::Off);
        } else if level.value == Level::Off {
            level = Sourced::default_of(facts.level);
        }
    }
    if overrides.without.contains(&id) {
        level = Sourced::default_of(Level::Off);
    }
    RuleSetting { level, values }
}

fn enabled(rules: &[RuleSetting], aside: &BTreeMap<RuleId, Aside>) -> Vec<Enabled> {
    let on = catalogue::rules()
        .zip(rules)
        .filter(|((id, _), setting)| setting.level.value != Level::Off || aside.contains_key(id));
    on.map(|((rule, _), setting)| Enabled {
        rule,
        values: setting.values.iter().map(|value| value.value.clone()).collect(),
    })
    .collect()
}
