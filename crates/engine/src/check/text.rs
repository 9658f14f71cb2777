//! Sifts one text: rules, then waivers, then what is to be said of the waivers.

use std::collections::BTreeSet;

use jiff::civil::Date;
use sieve_meaning::names_of;
use sieve_meaning::project::{Linker, Others, Summary};
use sieve_rules as rules;
use sieve_rules::copies::Window;
use sieve_rules::{Input, Sizes};
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use crate::check::view::View;
use crate::hold::baseline::Scopes;
use crate::hold::waiver::{Waivers, hold_back, hold_by_settings, upkeep_findings};
use crate::join::{Asked, Facts};
use crate::outcome::{Finding, UnsurePlace, WaiverNote};
use crate::subject::{Subject, Wants};
use crate::workspace::modules::ModulesOf;

/// What the rules found in one file.
#[derive(Debug)]
pub struct FileOutcome {
    /// Its lines.
    pub lines: usize,
    /// What its lines are, where that is asked for.
    pub sizes: Option<Sizes>,
    /// It has syntax faults, so that rules may be silent about it.
    pub broken: bool,
    /// The named things in it; only where findings are to be recognised.
    pub scopes: Option<Scopes>,
    /// Findings that were there before a change, where only changes count.
    pub unchanged: Vec<Finding>,
    /// What it says of itself and asks of others; nothing where others have answered.
    pub(crate) facts: Facts,
    /// Its findings, waived ones included, in order.
    pub findings: Vec<Finding>,
    /// Places that could not be decided.
    pub unsure: Vec<UnsurePlace>,
    /// The waivers in its comments.
    pub waivers: Vec<WaiverNote>,
    /// Code that may be in other files too.
    pub windows: Vec<Window>,
}

/// Sifts one text.
pub fn sift_text(text: &Text, subject: &Subject<'_>, wants: Wants, today: Date) -> FileOutcome {
    sift_tree(text, &subject.language.parse(text), subject, wants, today)
}

/// Sifts one text whose tree is known.
pub(crate) fn sift_tree(text: &Text, tree: &Tree, subject: &Subject<'_>, wants: Wants, today: Date) -> FileOutcome {
    let view = View { text, tree, subject, wants };
    let modules = ModulesOf::new(&subject.index.modules, subject.project, subject.language);
    let path = subject.rooted_path();
    let linker = Linker { language: subject.language, path: &path, modules: &modules };
    let asked = Asked::of(subject.language);
    let others: &dyn Others = if subject.asks_others { &linker } else { &asked };
    let dispatch = subject.settings.dispatch();
    let names = dispatch.needs_names().then(|| names_of(subject.language, text, tree));
    let input = Input { path: &path, language: subject.language, text, tree, names: names.as_ref(), others };
    let mut report = rules::run_on(&input, dispatch);
    let summary = names.filter(|_| !subject.asks_others).map(|names| Summary::of(subject.language, text, tree, &names));
    let mut exports = BTreeSet::new();
    if subject.asks_others {
        drop_externally_used(&mut report, subject);
    } else {
        let asked = report.findings.iter().filter_map(|finding| finding.unless_used.as_ref());
        exports.extend(asked.map(|name| (name.module.clone(), name.name.clone())));
    }
    let mut findings: Vec<Finding> = report.findings.into_iter().map(|finding| view.finding(finding)).collect();
    let mut waivers = Waivers::of(text, tree, today);
    hold_back(&mut waivers, text, &mut findings, &report.unsure);
    hold_by_settings(subject, &mut findings, today);
    let upkeep = upkeep_findings(&waivers, text, subject.settings);
    findings.extend(upkeep.into_iter().map(|finding| view.finding(finding)));
    findings.sort_by(|one, other| {
        (one.start, one.rule, one.end, &one.message).cmp(&(other.start, other.rule, other.end, &other.message))
    });
    let mut unsure: Vec<UnsurePlace> = report.unsure.iter().map(|unsure| view.unsure(unsure)).collect();
    unsure.sort_by_key(|place| (place.start, place.rule));
    let notes = waivers.notes(text, &subject.shown, subject.settings);
    FileOutcome {
        lines: text.lines().count() as usize,
        sizes: wants.sizes.then(|| Sizes::of(&subject.shown, subject.language, text, tree)),
        broken: !tree.faults().is_empty(),
        scopes: wants.identities.then(|| Scopes::of(text, tree)),
        unchanged: Vec::new(),
        facts: asked.into_facts((text, tree), summary, exports),
        findings,
        unsure,
        waivers: notes,
        windows: report.windows,
    }
}

/// Findings that hold only if no other file uses a name through this one become undecided where one may.
fn drop_externally_used(report: &mut rules::Report, subject: &Subject<'_>) {
    let is_used = |name: &rules::ReexportedName| {
        subject.index.may_be_used(subject.project, subject.path, &name.module, &name.name)
    };
    let names = report.findings.iter().filter_map(|finding| finding.unless_used.as_ref());
    let used_groups: BTreeSet<u32> = names.filter(|name| is_used(name)).map(|name| name.group).collect();
    if used_groups.is_empty() {
        return;
    }
    let may_be_used =
        |finding: &rules::Finding| finding.unless_used.as_ref().is_some_and(|name| used_groups.contains(&name.group));
    let (undecided, held): (Vec<_>, Vec<_>) = std::mem::take(&mut report.findings).into_iter().partition(may_be_used);
    report.findings = held;
    let reason = "another file may use the name";
    // A name that is mentioned somewhere is used, as far as the rules for what nothing uses ask.
    let by_mention =
        |finding: &&rules::Finding| finding.unless_used.as_ref().is_some_and(|name| name.module.is_empty());
    let undecided = undecided.iter().filter(|finding| !by_mention(finding));
    report.unsure.extend(undecided.map(|finding| rules::Unsure { rule: finding.rule, span: finding.span, reason }));
}
