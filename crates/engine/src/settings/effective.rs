//! The settings in force for a file, each value with where it comes from.

use std::collections::BTreeMap;
use std::path::PathBuf;
use std::sync::Arc;

use jiff::civil::Date;
use sieve_rules::catalogue::history::{self, CURRENT, Defaults, Release};
use sieve_rules::house::EnabledHouse;
use sieve_rules::{
    Certainty, Dispatch, Enabled, Level, ListedValues, Mesh, NameForm, Naming, NamingKey, OptionValue, RuleId, RuleSet,
    RuleView, TeamPolicy,
};
use sieve_syntax::language::Language;

use super::SettingsError;
use super::file::{BanEntry, Patterns, Placed, SettingsFile};
use super::placed::{PlacedPatterns, PlacedSchema};
use crate::project::{Project, relative};

/// Which line of which file set a value.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Source {
    /// The settings file.
    pub path: PathBuf,
    /// The line, from 1.
    pub line: u32,
}

impl Source {
    /// The same text wherever the code base is.
    fn fingerprint(&self, project: &Project) -> String {
        format!("{:?} {}", relative(&project.root, &self.path), self.line)
    }
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

/// The settings in force for the files of a folder.
#[derive(Debug)]
pub struct Effective {
    /// The release whose defaults hold.
    pub defaults: Sourced<Release>,
    /// How fine to sift.
    pub mesh: Sourced<Mesh>,
    /// The level that fails a run.
    pub fail_on: Sourced<Level>,
    /// The only rules that are on, if only some are to be.
    pub only: Sourced<Option<Vec<RuleId>>>,
    /// Whether entries of the baseline that are gone fail a run.
    pub strict: Sourced<bool>,
    /// The address of a cache that machines share; counts at the root of a code base.
    pub shared: Sourced<Option<String>>,
    /// The forms of names that settings give.
    pub naming: BTreeMap<NamingKey, Sourced<NameForm>>,
    /// The elements that components put out, by the names of the components.
    pub components: BTreeMap<String, Sourced<String>>,
    /// Which values something may have, by what it is called.
    pub values: BTreeMap<String, Sourced<Option<ListedValues>>>,
    /// What is not to be used.
    pub bans: Vec<BanEntry>,
    /// How much the baseline may hold.
    pub budgets: Vec<Budget>,
    /// Schemas of data.
    pub schemas: Vec<PlacedSchema>,
    /// Files larger than this, in bytes, are left out.
    pub largest: Sourced<u64>,
    /// Files that are not sifted.
    pub skip: Sourced<Vec<PlacedPatterns>>,
    /// Files that count as generated.
    pub generated: Sourced<Vec<PlacedPatterns>>,
    /// Files whose language is set.
    pub languages: Sourced<Vec<(PlacedPatterns, Language)>>,
    set: Arc<RuleSet>,
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

impl Aside {
    /// The same text wherever the code base is.
    fn fingerprint(&self, project: &Project) -> String {
        format!("{:?} {:?} {}", self.level, self.because, self.source.fingerprint(project))
    }
}

/// A waiver in the settings that fits a file.
#[derive(Debug, Clone)]
pub struct SettingsWaiver {
    /// What it is for, as it is written: rules and concerns.
    pub names: Vec<String>,
    /// The rules that it is for.
    pub rules: Vec<RuleId>,
    /// Why.
    pub because: String,
    /// The last day on which it holds.
    pub until: Option<Date>,
    /// The JSON Pointer to the place of data that it is for; nothing for one that is for whole files.
    pub pointer: Option<String>,
    /// Where it is.
    pub source: Source,
}

/// How many entries of the baseline some rules may have in some paths.
#[derive(Debug, Clone)]
pub struct Budget {
    /// The paths; all if nothing.
    pub paths: Option<PlacedPatterns>,
    /// The rules; all if nothing.
    pub rules: Option<Vec<RuleId>>,
    /// How many there may be.
    pub most: u64,
    /// Where it is.
    pub source: Source,
    /// Where the number is in the text of the settings file.
    pub most_span: sieve_syntax::text::Span,
}

impl Budget {
    /// Whether an entry of the baseline counts, by its rule and the absolute path of its file.
    pub fn counts(&self, rule: Option<RuleId>, path: &std::path::Path) -> bool {
        let of_rules = self.rules.as_ref().is_none_or(|rules| rule.is_some_and(|rule| rules.contains(&rule)));
        of_rules && self.paths.as_ref().is_none_or(|paths| paths.fit(path))
    }
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
    /// The release whose defaults hold.
    pub defaults: Option<Release>,
}

impl Effective {
    /// The defaults, then each file from the outermost to the innermost with its scopes, then the command line.
    pub(super) fn of(links: &[Link], overrides: &Overrides, set: &Arc<RuleSet>) -> Result<Effective, SettingsError> {
        let mut defaults = Sourced::default_of(CURRENT);
        let mut only = Sourced::default_of(None);
        let mut strict = Sourced::default_of(false);
        let mut shared = Sourced::default_of(None);
        let mut naming: BTreeMap<NamingKey, Sourced<NameForm>> = BTreeMap::new();
        let mut components: BTreeMap<String, Sourced<String>> = BTreeMap::new();
        let mut values: BTreeMap<String, Sourced<Option<ListedValues>>> = BTreeMap::new();
        let mut bans: Vec<BanEntry> = Vec::new();
        let mut budgets = Vec::new();
        let mut schemas = Vec::new();
        let mut mesh = Sourced::default_of(Mesh::Medium);
        let mut fail_on = Sourced::default_of(Level::Warning);
        let mut largest = Sourced::default_of(10_000_000);
        let mut skip = Sourced::default_of(Vec::new());
        let mut generated = Sourced::default_of(Vec::new());
        let mut languages = Sourced::default_of(Vec::new());
        for Link { file, scopes, .. } in links {
            let folder = file.folder().to_path_buf();
            let place =
                |patterns: &Patterns| PlacedPatterns { folder: folder.clone(), patterns: Arc::new(patterns.clone()) };
            defaults.set(file, &file.defaults, |release| *release);
            only.set(file, &file.only, |rules| Some(rules.clone()));
            strict.set(file, &file.strict, |strict| *strict);
            shared.set(file, &file.shared, |address| Some(address.clone()));
            let scoped = scopes.iter().flat_map(|index| &file.scopes[*index].naming);
            for (key, form) in file.naming.iter().chain(scoped) {
                let named = naming.entry(*key).or_insert_with(|| Sourced::default_of(NameForm::default()));
                named.set(file, &Some(form.clone()), NameForm::clone);
            }
            for (name, element) in &file.components {
                let one = components.entry(name.clone()).or_insert_with(|| Sourced::default_of(String::new()));
                one.set(file, &Some(element.clone()), String::clone);
            }
            let scoped = scopes.iter().flat_map(|index| &file.scopes[*index].values);
            for (name, listed) in file.values.iter().chain(scoped) {
                let one = values.entry(name.clone()).or_insert_with(|| Sourced::default_of(None));
                one.set(file, &Some(listed.clone()), |listed| Some(listed.clone()));
            }
            bans.extend(file.bans.iter().cloned());
            budgets.extend(file.budgets.iter().map(|budget| Budget {
                paths: budget.patterns.as_ref().map(place),
                rules: budget.rules.clone(),
                most: budget.most,
                source: Source { path: file.path.clone(), line: budget.line },
                most_span: budget.most_span,
            }));
            schemas.extend(file.schemas.iter().filter_map(|entry| PlacedSchema::of(entry, place(&entry.patterns))));
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
        if let Some(release) = overrides.defaults {
            defaults = Sourced::default_of(release);
        }
        let basis = Basis { mesh: mesh.value, release: defaults.value };
        let one = |(id, rule)| rule_setting(id, rule, basis, links, overrides);
        let rules: Vec<RuleSetting> = set.iter().map(one).collect();
        let aside: BTreeMap<RuleId, Aside> = set
            .iter()
            .filter(|(id, _)| rules[id.0 as usize].level.value == Level::Off)
            .filter_map(|(id, rule)| Some((id, set_aside(id, rule, basis, links, overrides)?)))
            .collect();
        let chosen = TeamPolicy {
            bans: bans.iter().map(BanEntry::to_ban).collect(),
            naming: Naming { forms: naming.iter().map(|(key, form)| (*key, form.value.clone())).collect() },
            components: components.iter().map(|(name, element)| (name.clone(), element.value.clone())).collect(),
            values: values.values().filter_map(|listed| listed.value.clone()).collect(),
        };
        let on = On { set, rules: &rules, aside: &aside };
        let dispatch = Dispatch::new(on.built_in()).with_policy(chosen).with_house(&on.house()?);
        let waivers = links.iter().flat_map(waivers_of).collect();
        Ok(Effective {
            defaults,
            mesh,
            fail_on,
            only,
            strict,
            shared,
            naming,
            components,
            values,
            bans,
            budgets,
            schemas,
            largest,
            skip,
            generated,
            languages,
            set: Arc::clone(set),
            rules,
            aside,
            waivers,
            dispatch,
        })
    }

    /// The rules that there are.
    pub fn rule_set(&self) -> &Arc<RuleSet> {
        &self.set
    }

    /// What holds back the findings of a rule that a scope switches off.
    pub fn aside(&self, rule: RuleId) -> Option<&Aside> {
        self.aside.get(&rule)
    }

    /// The waivers of the settings that fit the file.
    pub fn waivers(&self) -> &[SettingsWaiver] {
        &self.waivers
    }

    /// All that decides over what the rules of packs find in a file in a language, as a text to be hashed; empty where none is on.
    pub(crate) fn house_fingerprint(&self, language: Language, project: &Project) -> String {
        let folder = relative(&project.root, &project.folder);
        let on = self.set.iter().zip(&self.rules).filter_map(|((id, rule), setting)| {
            let house = rule.as_house().filter(|house| house.languages.contains(&language))?;
            let aside = self.aside.get(&id).map(|aside| (aside.fingerprint(project), &folder));
            let is_on = setting.level.value != Level::Off || aside.is_some();
            let values = || setting.values.iter().map(|value| &value.value).collect::<Vec<_>>();
            let said = || (house.name.as_str(), setting.level.value, values(), house.digest.as_str(), aside);
            is_on.then(|| format!("{:?}\n", said()))
        });
        on.collect()
    }

    /// What the names of rules of packs in waivers stand for, as a text to be hashed: which there are, and which are on.
    pub(crate) fn house_names(&self) -> String {
        let on = self.set.iter().zip(&self.rules).filter(|((_, rule), _)| rule.as_house().is_some());
        on.map(|((_, rule), setting)| format!("{} {}\n", rule.name, setting.level.value)).collect()
    }

    /// All that decides over the findings of a file, but for the rules of packs, as a text to be hashed: the same wherever the code base
    /// is. What holds findings back is relative to the working folder, and may end on a day.
    pub(crate) fn fingerprint(&self, project: &Project, today: Date) -> String {
        let built_in = self.set.iter().zip(&self.rules).filter(|((_, rule), _)| rule.as_built_in().is_some());
        let rules: Vec<(Level, Vec<&OptionValue>)> = built_in
            .map(|(_, setting)| (setting.level.value, setting.values.iter().map(|value| &value.value).collect()))
            .collect();
        let active = |waiver: &&SettingsWaiver| waiver.until.is_none_or(|last| last >= today);
        // The rules follow from the names: those of packs have a fingerprint of their own.
        let said =
            |one: &SettingsWaiver| (one.names.clone(), one.because.clone(), one.until, one.source.fingerprint(project));
        let waivers: Vec<_> = self.waivers.iter().filter(active).map(said).collect();
        let built_in = |rule: &RuleId| self.set.house_rule(*rule).is_none();
        let aside = self.aside.iter().filter(|(rule, _)| built_in(rule));
        let aside: Vec<(&RuleId, String)> = aside.map(|(rule, aside)| (rule, aside.fingerprint(project))).collect();
        let styles: Vec<(String, String)> =
            self.naming.iter().map(|(key, form)| (key.to_string(), form.value.to_string())).collect();
        let folder = relative(&project.root, &project.folder);
        let held = if aside.is_empty() && waivers.is_empty() { String::new() } else { format!("{folder:?}") };
        let components: Vec<(&String, &String)> =
            self.components.iter().map(|(name, element)| (name, &element.value)).collect();
        let values: Vec<_> =
            self.values.iter().map(|(name, one)| (name, one.value.as_ref().map(|one| &one.allowed))).collect();
        let schemas: Vec<String> = self.schemas.iter().map(PlacedSchema::fingerprint).collect();
        format!(
            "{rules:?} {aside:?} {waivers:?} {styles:?} {:?} {held} {} {schemas:?} {components:?} {values:?}",
            self.bans, self.largest.value
        )
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

    /// Whether patterns in the settings decide what happens to a file. All lists are asked, so that each learns what it fits.
    fn look_at(patterns: &[PlacedPatterns], path: &std::path::Path) -> bool {
        patterns.iter().fold(false, |fits, patterns| patterns.fit(path) || fits)
    }

    /// The schemas of a file, by its absolute path.
    pub(crate) fn schemas_of(&self, path: &std::path::Path) -> impl Iterator<Item = &PlacedSchema> {
        self.schemas.iter().filter(move |schema| schema.paths.fit(path))
    }

    /// Lets the patterns of budgets and schemas learn that a file is there.
    pub(crate) fn show_to_budgets(&self, path: &std::path::Path) {
        for schema in &self.schemas {
            schema.paths.fit(path);
        }
        for paths in self.budgets.iter().filter_map(|budget| budget.paths.as_ref()) {
            paths.fit(path);
        }
    }

    /// Whether the settings skip a file, by its absolute path.
    pub fn skips(&self, path: &std::path::Path) -> bool {
        Effective::look_at(&self.skip.value, path)
    }

    /// Whether the settings call a file generated, by its absolute path.
    pub fn calls_generated(&self, path: &std::path::Path) -> bool {
        Effective::look_at(&self.generated.value, path)
    }

    /// The language that the settings give to a file, by its absolute path.
    pub fn language_of(&self, path: &std::path::Path) -> Option<Language> {
        let fitting = self.languages.value.iter().filter(|(patterns, _)| patterns.fit(path));
        fitting.map(|(_, language)| *language).fold(None, |first, language| first.or(Some(language)))
    }
}

fn waivers_of(link: &Link) -> impl Iterator<Item = SettingsWaiver> + '_ {
    link.waives.iter().map(|index| {
        let entry = &link.file.waives[*index];
        let source = Source { path: link.file.path.clone(), line: entry.line };
        let (names, rules, because) = (entry.names.clone(), entry.rules.clone(), entry.because.clone());
        SettingsWaiver { names, rules, because, until: entry.until, pointer: entry.pointer.clone(), source }
    })
}

/// The last scope that switches a rule off, if the rule would be on without scopes.
fn set_aside(id: RuleId, rule: RuleView<'_>, basis: Basis, links: &[Link], overrides: &Overrides) -> Option<Aside> {
    let bare: Vec<Link> = links.iter().map(|link| Link { scopes: Vec::new(), ..link.clone() }).collect();
    let level = rule_setting(id, rule, basis, &bare, overrides).level.value;
    let scopes = links.iter().flat_map(|link| link.scopes.iter().map(move |index| (link, &link.file.scopes[*index])));
    let (link, scope, placed) = scopes
        .filter_map(|(link, scope)| Some((link, scope, scope.rules.get(&id)?.level.as_ref()?)))
        .last()
        .filter(|(.., placed)| level != Level::Off && placed.value == Level::Off)?;
    let source = Source { path: link.file.path.clone(), line: placed.line };
    Some(Aside { level, because: scope.because.clone(), source })
}

/// What the level of a rule follows from where nothing names it.
#[derive(Debug, Clone, Copy)]
struct Basis {
    mesh: Mesh,
    release: Release,
}

impl Basis {
    /// The level of a rule by the defaults of the release, and the level it has once it is switched on.
    fn levels(self, id: RuleId, facts: RuleView<'_>) -> (Level, Level) {
        let then = match facts.as_house() {
            // A pack has versions of its own.
            Some(_) => Defaults { level: facts.level, mesh: Some(facts.mesh) },
            None => history::defaults_in(id, self.release),
        };
        let caught = then.mesh.is_some_and(|mesh| mesh <= self.mesh) && facts.certainty != Certainty::Guess;
        (if caught { then.level } else { Level::Off }, then.level)
    }
}

/// The level of a rule that no setting changes, for a mesh and the defaults of a release.
pub fn level_by_default(set: &RuleSet, id: RuleId, mesh: Mesh, release: Release) -> Level {
    Basis { mesh, release }.levels(id, set.rule(id)).0
}

fn rule_setting(id: RuleId, facts: RuleView<'_>, basis: Basis, links: &[Link], overrides: &Overrides) -> RuleSetting {
    let (by_default, switched_on) = basis.levels(id, facts);
    let mut level = Sourced::default_of(by_default);
    let mut values: Vec<Sourced<OptionValue>> =
        facts.options().into_iter().map(|option| Sourced::default_of(option.default)).collect();
    for Link { file, scopes, .. } in links {
        let chosen = if level.value == Level::Off { switched_on } else { level.value };
        level.set(file, &file.only, |only| if only.contains(&id) { chosen } else { Level::Off });
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
            level = Sourced::default_of(switched_on);
        }
    }
    if overrides.without.contains(&id) {
        level = Sourced::default_of(Level::Off);
    }
    RuleSetting { level, values }
}

/// The rules that are on, or set aside: those run too.
struct On<'o> {
    set: &'o RuleSet,
    rules: &'o [RuleSetting],
    aside: &'o BTreeMap<RuleId, Aside>,
}

impl On<'_> {
    /// Each with the values of its options.
    fn all(&self) -> impl Iterator<Item = (RuleId, RuleView<'_>, &[Sourced<OptionValue>])> {
        let is_on =
            |id: &RuleId, setting: &RuleSetting| setting.level.value != Level::Off || self.aside.contains_key(id);
        let on = self.set.iter().zip(self.rules).filter(move |((id, _), setting)| is_on(id, setting));
        on.map(|((id, rule), setting)| (id, rule, setting.values.as_slice()))
    }

    fn built_in(&self) -> Vec<Enabled> {
        let one = |(rule, view, values): (RuleId, RuleView<'_>, &[Sourced<OptionValue>])| {
            Some(Enabled { rule, facts: view.as_built_in()?, values: plain(values) })
        };
        self.all().filter_map(one).collect()
    }

    fn house(&self) -> Result<Vec<EnabledHouse>, SettingsError> {
        let houses = self.all().filter_map(|(id, _, values)| Some((id, self.set.house_rule(id)?, values)));
        houses
            .map(|(id, rule, values)| {
                EnabledHouse::new(id, rule, &plain(values)).map_err(|error| {
                    // What the values are was checked where they are written: they may be wrong together.
                    let source = values.iter().find_map(|value| value.source.clone());
                    let path = source.map(|source| source.path).unwrap_or_default();
                    SettingsError { path, place: None, message: format!("{} cannot be used so: {error}", rule.name) }
                })
            })
            .collect()
    }
}

fn plain(values: &[Sourced<OptionValue>]) -> Vec<OptionValue> {
    values.iter().map(|value| value.value.clone()).collect()
}
