//! Runs the rules over files: read, parse, check, hold back; many files at once, one outcome.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use jiff::civil::Date;
use rayon::prelude::*;
use sieve_rules as rules;
use sieve_rules::{Level, catalogue};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::baseline::{Baseline, Entry, Matching};
use crate::discover::{self, Candidate, Discovery, says_generated};
use crate::elsewhere::Elsewhere;
use crate::files::{self, FileError};
use crate::outcome::{Finding, LeftOut, Outcome, UnsurePlace, WaiverNote};
use crate::project::Project;
use crate::settings::{Effective, SettingsError, SettingsTree, Source};
use crate::view::View;
use crate::waiver::{Waivers, add_settings_waivers, hold_back, hold_by_settings, settle_waivers, upkeep_findings};

/// Stack of a worker in bytes: room for the deepest nesting that parsers follow, in an unoptimised build too.
const WORKER_STACK: usize = 16 << 20;

/// Where and how to sift.
pub struct Request<'r> {
    /// The folders that paths are told from.
    pub project: &'r Project,
    /// The settings.
    pub settings: &'r SettingsTree,
    /// What to sift; the working folder if empty.
    pub paths: &'r [PathBuf],
    /// The baseline, if it counts.
    pub baseline: Option<&'r Baseline>,
    /// What each finding is to carry.
    pub wants: Wants,
    /// The day, for waivers that end.
    pub today: Date,
    /// How many files to sift at once; as many as there are cores if not given.
    pub threads: Option<usize>,
    /// Called with the number of files, and then once after each file.
    pub progress: &'r (dyn Progress + Sync),
}

/// What each finding is to carry besides its place.
#[derive(Debug, Clone, Copy, Default)]
pub struct Wants {
    /// The lines around it.
    pub excerpts: bool,
    /// What makes it the same in another version of the code.
    pub identities: bool,
}

/// Is told how far a run has come.
pub trait Progress {
    /// So many files will be sifted.
    fn start(&self, files: usize);
    /// One more file is done.
    fn step(&self);
}

/// Nobody watches.
pub struct Unwatched;

impl Progress for Unwatched {
    fn start(&self, _files: usize) {}
    fn step(&self) {}
}

/// An outcome, and the entries of the baseline that hold nothing any more.
#[derive(Debug)]
pub struct Sifted {
    /// What was found.
    pub outcome: Outcome,
    /// Entries that are gone.
    pub gone: Vec<Entry>,
}

/// Sifts everything below the request's paths.
///
/// # Errors
/// When a settings file is wrong. Files that cannot be read stand in the outcome.
pub fn sift(request: &Request<'_>) -> Result<Sifted, SettingsError> {
    let discovery = discover::discover(request.project, request.settings, request.paths)?;
    request.progress.start(discovery.files.len());
    let elsewhere = Elsewhere::default();
    let results = in_pool(request.threads, || {
        discovery
            .files
            .par_iter()
            .map(|candidate| one_file(request, candidate, &elsewhere))
            .collect::<Vec<FileResult>>()
    });
    Ok(gather(request, discovery, results))
}

/// Runs work on threads with enough stack for deep nesting.
pub(crate) fn in_pool<T: Send>(threads: Option<usize>, work: impl FnOnce() -> T + Send) -> T {
    let builder = rayon::ThreadPoolBuilder::new().stack_size(WORKER_STACK).num_threads(threads.unwrap_or(0));
    match builder.build() {
        Ok(pool) => pool.install(work),
        // Without threads of our own the work is done on those there are.
        Err(_) => work(),
    }
}

enum FileResult {
    Sifted(FileOutcome),
    LeftOut(LeftOut),
    Failed(FileError),
}

/// What the rules found in one file.
#[derive(Debug)]
pub struct FileOutcome {
    /// Its lines.
    pub lines: usize,
    /// Its findings, waived ones included, in order.
    pub findings: Vec<Finding>,
    /// Places that could not be decided.
    pub unsure: Vec<UnsurePlace>,
    /// The waivers in its comments.
    pub waivers: Vec<WaiverNote>,
}

fn one_file(request: &Request<'_>, candidate: &Candidate, elsewhere: &Elsewhere) -> FileResult {
    let result = match load(candidate) {
        Err(result) => result,
        Ok(text) => {
            let wants = Wants { identities: request.wants.identities || request.baseline.is_some(), ..request.wants };
            FileResult::Sifted(sift_text(
                &text,
                &Subject::of(candidate, elsewhere, request.project),
                wants,
                request.today,
            ))
        }
    };
    request.progress.step();
    result
}

/// Reads a file, unless it is to be left out.
fn load(candidate: &Candidate) -> Result<Text, FileResult> {
    let failed = |mut error: FileError| {
        error.path = PathBuf::from(&*candidate.shown);
        FileResult::Failed(error)
    };
    if !candidate.named
        && std::fs::metadata(&candidate.path).is_ok_and(|file| file.len() > candidate.settings.largest.value)
    {
        return Err(FileResult::LeftOut(LeftOut::TooLarge));
    }
    let bytes = files::read(&candidate.path).map_err(failed)?;
    let text = candidate.language.decode(bytes).map_err(|_| FileResult::LeftOut(LeftOut::NotUtf8))?;
    if !candidate.named && says_generated(text.source()) {
        return Err(FileResult::LeftOut(LeftOut::Generated));
    }
    Ok(text)
}

/// What a text is, and which settings hold for it.
pub struct Subject<'s> {
    /// Its path as it is shown.
    pub shown: Arc<str>,
    /// Its language.
    pub language: Language,
    /// The settings in force for it.
    pub settings: &'s Effective,
    /// Its absolute path, to look at the files beside it.
    pub path: &'s Path,
    /// What other files mention.
    pub elsewhere: &'s Elsewhere,
    /// The folders that paths are told from.
    pub project: &'s Project,
}

impl<'s> Subject<'s> {
    /// A line of a settings file, as it is shown.
    pub(crate) fn settings_place(&self, source: &Source) -> String {
        format!("{}:{}", self.project.shown(&source.path), source.line)
    }

    pub(crate) fn of(candidate: &'s Candidate, elsewhere: &'s Elsewhere, project: &'s Project) -> Subject<'s> {
        Subject {
            shown: Arc::clone(&candidate.shown),
            language: candidate.language,
            settings: &candidate.settings,
            path: &candidate.path,
            elsewhere,
            project,
        }
    }
}

/// Sifts one text.
pub fn sift_text(text: &Text, subject: &Subject<'_>, wants: Wants, today: Date) -> FileOutcome {
    let tree = subject.language.parse(text);
    let view = View { text, tree: &tree, subject, wants };
    let mut report = rules::run(&subject.shown, subject.language, text, &tree, subject.settings.dispatch());
    leave_what_others_use(&mut report, subject);
    let mut findings: Vec<Finding> = report.findings.into_iter().map(|finding| view.finding(finding)).collect();
    let mut waivers = Waivers::of(text, &tree, today);
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
    FileOutcome { lines: text.lines().count() as usize, findings, unsure, waivers: notes }
}

/// Findings that hold only if no other file uses a name through this one become undecided where one may.
fn leave_what_others_use(report: &mut rules::Report, subject: &Subject<'_>) {
    let used_groups: BTreeSet<u32> = report
        .findings
        .iter()
        .filter_map(|finding| finding.unless_used.as_ref())
        .filter(|name| subject.elsewhere.may_use(subject.path, &name.module, &name.name))
        .map(|name| name.group)
        .collect();
    let may_be_used =
        |finding: &rules::Finding| finding.unless_used.as_ref().is_some_and(|name| used_groups.contains(&name.group));
    let (undecided, held) = std::mem::take(&mut report.findings).into_iter().partition(may_be_used);
    report.findings = held;
    let undecided: Vec<rules::Finding> = undecided;
    let reason = "another file of the package may use the name through this one";
    report.unsure.extend(undecided.iter().map(|finding| rules::Unsure {
        rule: finding.rule,
        span: finding.span,
        reason,
    }));
}

fn gather(request: &Request<'_>, discovery: Discovery, results: Vec<FileResult>) -> Sifted {
    let mut outcome = Outcome { left_out: discovery.left_out, errors: discovery.errors, ..Outcome::default() };
    let mut matching = request.baseline.map(Matching::new);
    for (candidate, result) in discovery.files.iter().zip(results) {
        match result {
            FileResult::LeftOut(cause) => *outcome.left_out.entry(cause).or_insert(0) += 1,
            FileResult::Failed(error) => outcome.errors.push(error),
            FileResult::Sifted(mut file) => {
                if let (Some(matching), Some(baseline)) = (&mut matching, request.baseline) {
                    matching.match_file(&baseline.entry_path(request.project, &candidate.shown), &mut file.findings);
                }
                let mesh = candidate.settings.mesh.value;
                let (coarsest, finest) = outcome.mesh.unwrap_or((mesh, mesh));
                outcome.mesh = Some((coarsest.min(mesh), finest.max(mesh)));
                outcome.files += 1;
                outcome.lines += file.lines;
                outcome.sifted.push(Arc::clone(&candidate.shown));
                outcome.findings.extend(file.findings);
                outcome.unsure.extend(file.unsure);
                outcome.waivers.extend(file.waivers);
                add_settings_waivers(&mut outcome, request, candidate);
            }
        }
    }
    settle_waivers(&mut outcome, request.today);
    let gone = match (matching, request.baseline) {
        (Some(mut matching), Some(baseline)) => {
            matching.match_renamed(request.project, &mut outcome.findings);
            gone_entries(request, baseline, &matching, &discovery.files)
        }
        _ => Vec::new(),
    };
    outcome.gone_from_baseline = gone.len();
    Sifted { outcome, gone }
}

fn gone_entries(
    request: &Request<'_>,
    baseline: &Baseline,
    matching: &Matching<'_>,
    files: &[Candidate],
) -> Vec<Entry> {
    let sifted: std::collections::HashMap<String, &Candidate> =
        files.iter().map(|file| (baseline.entry_path(request.project, &file.shown), file)).collect();
    let any = files.first();
    let ran = |rule: &str| {
        catalogue::named(rule).is_none_or(|rule| any.is_some_and(|file| file.settings.level(rule) != Level::Off))
    };
    matching.gone(|path| sifted.contains_key(path), ran)
}
