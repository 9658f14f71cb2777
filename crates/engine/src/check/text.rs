//! Sifts one text: rules, then waivers, then what is to be said of the waivers.

use std::collections::BTreeSet;

use jiff::civil::Date;
use sieve_meaning::names::Names;
use sieve_meaning::names_of;
use sieve_rules as rules;
use sieve_rules::copies::Window;
use sieve_rules::{FileReference, FixKind, Share, Sizes, Unless, UsualStyle};
use sieve_syntax::language::{Layer, views};
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use crate::check::ask::{Found, Source, ask};
use crate::check::layers::sift_layers;
use crate::check::schemas::check_schemas;
use crate::check::view::View;
use crate::hold::baseline::{Identities, Scopes};
use crate::hold::waiver::{Waivers, hold_back, hold_by_settings, upkeep_findings};
use crate::join::{Facts, Waiting};
use crate::outcome::{Finding, UnsurePlace, WaiverNote};
use crate::subject::{Subject, Wants};

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
    let source = (text, tree);
    let (names, (mut report, asked)) =
        if is_shared(text, subject) { look_in_shares(source, subject) } else { look(source, subject, Share::Whole) };
    let view = View { text, tree, subject, wants, identities: &Identities::new(text, tree) };
    let by_schemas = check_schemas(&view);
    report.findings.extend(by_schemas.findings);
    report.unsure.extend(by_schemas.unsure);
    let mut waiting = Waiting::default();
    if subject.asks_others {
        drop_externally_used(&mut report, subject);
        drop_provided(&mut report, subject);
        drop_usual(&mut report, subject);
        drop_leading(&mut report, subject);
        review_public(&mut report, subject);
    } else {
        waiting = Waiting { schema: by_schemas.asked, ..Waiting::of(&report.findings) };
    }
    let names = names.as_ref().filter(|_| !subject.asks_others);
    let path = (!subject.asks_others).then(|| subject.rooted_path());
    let mut facts = asked.into_facts((path.as_deref(), text, tree), names, waiting);
    let mut findings: Vec<Finding> = report.findings.into_iter().map(|finding| view.finding(finding)).collect();
    let mut unsure: Vec<UnsurePlace> = report.unsure.iter().map(|unsure| view.unsure(unsure)).collect();
    let layers = subject.language.layers(text, tree);
    let within = sift_layers(&view, &layers);
    facts.note_islands(within.asked);
    findings.extend(within.findings);
    unsure.extend(within.unsure);
    unsure.sort_by_key(|place| (place.start, place.rule));
    let notes = held(&view, &layers, &mut findings, &unsure, today);
    FileOutcome {
        lines: text.lines().count() as usize,
        sizes: wants.sizes.then(|| Sizes::of(&subject.rooted_path(), subject.language, text, tree)),
        broken: views(subject.language, tree, &layers).any(|(_, tree)| !tree.faults().is_empty()),
        scopes: wants.identities.then(|| Scopes::of(text, tree)),
        unchanged: Vec::new(),
        facts,
        findings,
        unsure,
        waivers: notes,
        windows: report.windows,
    }
}

/// From how many bytes on threads share the rules of a text. Less than that is done before another thread has begun.
const SHARED: usize = 32 << 10;

/// Whether another thread may do a part of what is to be done for a text. Only threads of a pool of ours have enough stack for it.
fn is_shared(text: &Text, subject: &Subject<'_>) -> bool {
    let is_in_pool = || rayon::current_thread_index().is_some() && rayon::current_num_threads() > 1;
    subject.is_alone && text.source().len() >= SHARED && is_in_pool()
}

/// Runs all rules over a text on threads: while one finds out what names represent, others run the rules to which they are nothing.
fn look_in_shares<'s>(source: Source<'s>, subject: &Subject<'_>) -> (Option<Names<'s>>, Found) {
    let without = |share| move || run_share(source, subject, None, share);
    let ((names, mut found), others) = rayon::join(
        || look(source, subject, Share::Names),
        || rayon::join(without(Share::Nodes), without(Share::Text)),
    );
    for (report, asked) in [others.0, others.1] {
        found.0.add(report);
        found.1.add(asked);
    }
    (names, found)
}

/// Finds out what names represent, where a rule asks for that, and runs a share of the rules.
fn look<'s>(source: Source<'s>, subject: &Subject<'_>, share: Share) -> (Option<Names<'s>>, Found) {
    let needs_names = subject.settings.dispatch().needs_names();
    let names = needs_names.then(|| names_of(subject.language, source.0, source.1));
    let found = run_share(source, subject, names.as_ref(), share);
    (names, found)
}

fn run_share(source: Source<'_>, subject: &Subject<'_>, names: Option<&Names<'_>>, share: Share) -> Found {
    ask(source, subject, names, |input| rules::run_share_on(input, subject.settings.dispatch(), share))
}

/// Holds back what the waivers of a text and its settings cover, adds what is to be said of the waivers, and puts all in order; gives the
/// waivers as a list.
pub(super) fn held(
    view: &View<'_>,
    layers: &[Layer],
    findings: &mut Vec<Finding>,
    unsure: &[UnsurePlace],
    today: Date,
) -> Vec<WaiverNote> {
    let View { text, tree, subject, .. } = view;
    let trees = views(subject.language, tree, layers).map(|(_, tree)| tree);
    let mut waivers = Waivers::of(text, trees, subject.settings.rule_set(), today);
    hold_back(&mut waivers, text, findings, unsure);
    hold_by_settings(subject, (text, tree), findings, today);
    let upkeep = upkeep_findings(&waivers, text, subject.settings);
    findings.extend(upkeep.into_iter().map(|finding| view.finding(finding)));
    findings.sort_by(|one, other| {
        (one.start, one.rule, one.end, &one.message).cmp(&(other.start, other.rule, other.end, &other.message))
    });
    waivers.notes(text, subject.shown, subject.settings)
}

/// Findings that hold only if no other file uses a name through this one become undecided where one may.
fn drop_externally_used(report: &mut rules::Report, subject: &Subject<'_>) {
    let is_used = |name: &rules::ReexportedName| {
        subject.index.may_be_used(subject.project, subject.path, &name.module, &name.name)
    };
    let names = report.findings.iter().filter_map(|finding| used(finding));
    let used_groups: BTreeSet<u32> = names.filter(|name| is_used(name)).map(|name| name.group).collect();
    if used_groups.is_empty() {
        return;
    }
    let may_be_used = |finding: &rules::Finding| used(finding).is_some_and(|name| used_groups.contains(&name.group));
    // A name that is mentioned somewhere is used, as far as the rules for what nothing uses ask.
    let by_mention = |finding: &rules::Finding| used(finding).is_some_and(|name| name.module.is_empty());
    report.findings.retain(|finding| !(may_be_used(finding) && by_mention(finding)));
    leave_open(report, may_be_used, "another file may use the name");
}

/// The name that other files may use, where a finding waits for that.
fn used(finding: &rules::Finding) -> Option<&rules::ReexportedName> {
    finding.unless.as_ref()?.used()
}

/// A fix that takes away a name which code outside of the project may want is to be reviewed.
fn review_public(report: &mut rules::Report, subject: &Subject<'_>) {
    let is_public = |finding: &&mut rules::Finding| used(finding).is_some_and(|name| name.is_public);
    let mut public = report.findings.iter_mut().filter(is_public).peekable();
    if public.peek().is_none() || !subject.index.is_open(subject.project, subject.path) {
        return;
    }
    for finding in public {
        if let Some(fix) = &mut finding.fix {
            fix.kind = FixKind::Review;
        }
        finding.advice = Some("remove it, unless code outside of the project imports it from here".into());
    }
}

/// A name that nothing defines is undecided where something seems to provide it to all files, and so is a member that a file gives to a
/// module.
fn drop_provided(report: &mut rules::Report, subject: &Subject<'_>) {
    let is_provided = |finding: &rules::Finding, is_member: bool| {
        let name = finding.unless.as_ref().and_then(Unless::provided).filter(|name| name.starts_with('.') == is_member);
        name.is_some_and(|name| subject.index.free_names.is_provided(subject.project, subject.path, name))
    };
    leave_open(report, |finding| is_provided(finding, false), UnsurePlace::PROVIDED);
    leave_open(report, |finding| is_provided(finding, true), UnsurePlace::GIVEN);
}

/// Names of a style that nearly all of their sort have in the code base are as they are meant to be.
fn drop_usual(report: &mut rules::Report, subject: &Subject<'_>) {
    let is_usual = |usual: &UsualStyle| subject.index.styles.is_usual(subject.project, subject.language, usual);
    report.findings.retain(|finding| !finding.unless.as_ref().and_then(Unless::usual).is_some_and(is_usual));
}

/// References to other files that lead to something are no findings.
pub(super) fn drop_leading(report: &mut rules::Report, subject: &Subject<'_>) {
    let leads =
        |there: &FileReference| subject.index.references.leads(subject.project, &there.path, there.pointer.as_deref());
    report.findings.retain(|finding| !finding.unless.as_ref().and_then(Unless::leads).is_some_and(leads));
}

/// Findings of which others say that they may not hold become undecided places.
fn leave_open(report: &mut rules::Report, may_not_hold: impl Fn(&rules::Finding) -> bool, reason: &'static str) {
    let (undecided, held): (Vec<_>, Vec<_>) = std::mem::take(&mut report.findings).into_iter().partition(may_not_hold);
    report.findings = held;
    let place = |finding: rules::Finding| rules::Unsure { rule: finding.rule, span: finding.span, reason };
    report.unsure.extend(undecided.into_iter().map(place));
}
