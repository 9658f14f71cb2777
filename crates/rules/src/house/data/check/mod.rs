//! Runs a data rule over a file.

mod fits;
mod listed;
mod names;
mod parameters;
mod presence;
mod reference;
mod schemas;
mod unique;

use rustc_hash::FxHashSet;
use sieve_meaning::data::path::{Path, TooManySteps};
use sieve_meaning::data::{PartId, Scalar, Shape, Steps, TooLarge, Value};
use sieve_syntax::text::Span;

use super::message::{DataMessage, Filling};
use super::{DataCheck, DocumentKind, Requirement, all, one};
use crate::house::HouseError;
use crate::house::error::Part;
use crate::interface::{File, FileReference, Finding, NameStyle, Related, Report, RuleId, Unless, Unsure};
use crate::query::QueryError;
use crate::schema::{MOST, Problem, TOO_LARGE, cut};
use schemas::PlaceSchema;

/// How many steps one rule may take in one document: all of its places share them.
const MOST_FOR_ALL: usize = 4 * MOST;

/// One thing that is asked of each place, ready to be used.
pub(super) enum Check {
    Structure,
    Must(PlaceSchema),
    MustNot(PlaceSchema),
    Has(Vec<Path>),
    HasNo(Vec<Path>),
    Unique(Path),
    RefersTo(Path),
    Resolves,
    MatchesFile(DataMessage),
    ListedIn(Vec<Path>),
    KeyListedIn(Vec<Path>),
    Fits { values: Vec<Path>, schema: Path },
    NameStyle(Option<NameStyle>),
    PathParameters,
}

impl Check {
    /// Reads what a pack asks.
    pub(super) fn new(requirement: &Requirement) -> Result<Check, HouseError> {
        let key = requirement.key();
        let schema = |schema| {
            let wrong = |message| HouseError { part: Part::Data(key), error: QueryError::new(0..0, message) };
            PlaceSchema::new(schema).map_err(wrong)
        };
        Ok(match requirement {
            Requirement::Structure => Check::Structure,
            Requirement::Must(json) => Check::Must(schema(json)?),
            Requirement::MustNot(json) => Check::MustNot(schema(json)?),
            Requirement::Has(paths) => Check::Has(all(key, paths)?),
            Requirement::HasNo(paths) => Check::HasNo(all(key, paths)?),
            Requirement::Unique(path) => Check::Unique(one(key, path)?),
            Requirement::RefersTo(path) => Check::RefersTo(one(key, path)?),
            Requirement::Resolves => Check::Resolves,
            Requirement::MatchesFile(named) => {
                let wrong = |error| HouseError { part: Part::Data(key), error };
                Check::MatchesFile(DataMessage::new(named).map_err(wrong)?)
            }
            Requirement::ListedIn(paths) => Check::ListedIn(all(key, paths)?),
            Requirement::KeyListedIn(paths) => Check::KeyListedIn(all(key, paths)?),
            Requirement::Fits { values, schema } => {
                Check::Fits { values: all(key, values)?, schema: one(key, schema)? }
            }
            Requirement::NameStyle(style) => Check::NameStyle(*style),
            Requirement::PathParameters => Check::PathParameters,
        })
    }

    fn run<'d, 't>(&self, places: &Places<'_, 'd, 't>) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
        match self {
            Check::Structure => schemas::structure(places),
            Check::Must(schema) => schemas::must(places, schema),
            Check::MustNot(schema) => schemas::must_not(places, schema),
            Check::Has(paths) => presence::has(places, paths),
            Check::HasNo(paths) => presence::has_no(places, paths),
            Check::Unique(path) => unique::unique(places, path),
            Check::RefersTo(path) => reference::refers_to(places, path),
            Check::Resolves => Ok(reference::resolves(places)),
            Check::MatchesFile(named) => Ok(reference::matches_file(places, named)),
            Check::ListedIn(paths) => listed::values(places, paths),
            Check::KeyListedIn(paths) => listed::keys(places, paths),
            Check::Fits { values, schema } => fits::fits(places, values, schema),
            Check::NameStyle(Some(style)) => Ok(names::of_style(places, *style)),
            Check::NameStyle(None) => Ok(names::consistent(places)),
            Check::PathParameters => parameters::path_parameters(places),
        }
    }
}

/// The places of a rule in one document.
struct Places<'p, 'd, 't> {
    /// The path of the file, from the root of the code base.
    path: &'p str,
    document: Value<'d, 't>,
    /// What the document is. Where that is known, references in it are followed.
    kind: Option<&'p DocumentKind>,
    list: Vec<Value<'d, 't>>,
    /// How much more of it may be inspected.
    steps: Steps,
}

impl<'d, 't> Places<'_, 'd, 't> {
    /// What a path leads to from a place.
    fn find(&self, path: &Path, from: Value<'d, 't>) -> Result<Vec<Value<'d, 't>>, TooManySteps> {
        path.find_with(from, self.kind.map(|_| self.document), &self.steps)
    }

    /// What one of some paths leads to from a place.
    fn find_all(&self, paths: &[Path], from: Value<'d, 't>) -> Result<Vec<Value<'d, 't>>, TooManySteps> {
        let mut found = Vec::new();
        for path in paths {
            found.extend(self.find(path, from)?);
        }
        Ok(found)
    }

    /// The value at a place; nothing where it is a reference that leads out of the document.
    fn value(&self, place: Value<'d, 't>) -> Option<Value<'d, 't>> {
        if self.kind.is_some() { place.followed(self.document) } else { Some(place) }
    }
}

/// What a rule has against a place.
struct Complaint<'d, 't> {
    place: Value<'d, 't>,
    span: Span,
    problem: String,
    related: Option<(Span, &'static str)>,
    /// What may be there after all, in another file.
    unless: Option<FileReference>,
}

impl<'d, 't> Complaint<'d, 't> {
    /// A complaint about the value of a place.
    fn about(place: Value<'d, 't>, problem: String) -> Complaint<'d, 't> {
        Complaint { place, span: place.span(), problem, related: None, unless: None }
    }

    /// A complaint about what is wrong somewhere within a place.
    fn within(place: Value<'d, 't>, problem: Problem) -> Complaint<'d, 't> {
        Complaint { span: problem.span, ..Complaint::about(place, problem.message) }
    }

    /// A complaint about a place as a whole, put at its key.
    fn about_whole(place: Value<'d, 't>) -> Complaint<'d, 't> {
        Complaint { span: head_of(place), ..Complaint::about(place, String::new()) }
    }
}

impl DataCheck {
    /// Reports the places of a file that are not as they must be.
    pub(in crate::house) fn report(&self, rule: RuleId, file: File<'_>, report: &mut Report) {
        let Some(data) = file.values() else { return };
        for (index, document) in data.documents().enumerate() {
            match self.complaints(file, index, document) {
                Ok(complaints) => {
                    report.findings.extend(complaints.iter().map(|complaint| self.finding(rule, complaint)));
                }
                Err(TooMuch) => {
                    report.unsure.push(Unsure { rule, span: start_of(document.span()), reason: TOO_LARGE });
                }
            }
        }
    }

    fn finding(&self, rule: RuleId, complaint: &Complaint<'_, '_>) -> Finding {
        let place = complaint.place;
        let value = place.scalar().map(|scalar| shown(&scalar)).unwrap_or_default();
        let filling = Filling {
            key: place.key().unwrap_or_default(),
            value: &value,
            pointer: &|| place.pointer(),
            problem: &complaint.problem,
        };
        let related =
            complaint.related.into_iter().map(|(span, label)| Related::Here { span, label: label.to_string() });
        Finding {
            rule,
            span: complaint.span,
            message: self.message.fill(&filling),
            advice: self.advice.as_ref().map(|advice| advice.fill(&filling).into()),
            related: related.collect(),
            fix: None,
            anchor: None,
            unless: complaint.unless.clone().map(Unless::Leads),
        }
    }

    fn complaints<'d, 't>(
        &self,
        file: File<'_>,
        index: usize,
        document: Value<'d, 't>,
    ) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
        let Some(places) = self.places(file, index, document)? else { return Ok(Vec::new()) };
        let mut found = Vec::new();
        for check in &self.checks {
            found.extend(check.run(&places)?);
        }
        found.sort_by_key(|complaint| complaint.span);
        Ok(found)
    }

    /// The places in a document; nothing where it is not concerned.
    fn places<'p, 'd, 't>(
        &'p self,
        file: File<'p>,
        index: usize,
        document: Value<'d, 't>,
    ) -> Result<Option<Places<'p, 'd, 't>>, TooMuch> {
        let steps = Steps::new(MOST_FOR_ALL);
        if let Some(when) = &self.when
            && when.find_with(document, None, &steps)?.is_empty()
        {
            return Ok(None);
        }
        let kind = self.kind_of(document, &steps)?;
        let mut places = Places { path: file.path, document, kind, list: vec![document], steps };
        if let Some(name) = &self.each {
            let Some(kind) = kind else { return Ok(None) };
            let parts = file.parts(index, kind.digest, || kind.shape.parts(document, MOST)).ok_or(TooMuch)?;
            let parts = parts.get(name.as_str()).map(Vec::as_slice).unwrap_or_default();
            places.list = parts.iter().map(|id| document.of_same_file(*id)).collect();
        }
        if let Some(only_where) = &self.only_where {
            let mut concerned = Vec::new();
            for place in &places.list {
                if !places.find(only_where, *place)?.is_empty() {
                    concerned.push(*place);
                }
            }
            places.list = concerned;
        }
        if !self.at.is_empty() {
            let mut at = Vec::new();
            for place in &places.list {
                at.extend(places.find_all(&self.at, *place)?);
            }
            places.list = at;
        }
        // What several ways lead to is one place.
        let mut seen: FxHashSet<PartId> = FxHashSet::default();
        places.list.retain(|place| seen.insert(place.resolved().id()));
        Ok(Some(places))
    }

    /// What a document is, of all that the pack describes.
    fn kind_of(&self, document: Value<'_, '_>, steps: &Steps) -> Result<Option<&DocumentKind>, TooManySteps> {
        for kind in &self.documents {
            if !kind.when.find_with(document, None, steps)?.is_empty() {
                return Ok(Some(kind));
            }
        }
        Ok(None)
    }
}

/// A document that was not checked to its end.
struct TooMuch;

impl From<TooManySteps> for TooMuch {
    fn from(_: TooManySteps) -> TooMuch {
        TooMuch
    }
}

impl From<TooLarge> for TooMuch {
    fn from(_: TooLarge) -> TooMuch {
        TooMuch
    }
}

/// The key of what holds others; a scalar itself.
fn head_of(place: Value<'_, '_>) -> Span {
    match place.shape() {
        Shape::Object | Shape::List => place.key_span().unwrap_or_else(|| start_of(place.span())),
        Shape::Scalar | Shape::Unknown => place.span(),
    }
}

fn start_of(span: Span) -> Span {
    Span::new(span.start, span.end.min(span.start + 1))
}

fn shown(scalar: &Scalar) -> String {
    cut(&match scalar {
        Scalar::Null => "null".to_string(),
        Scalar::Boolean(value) => value.to_string(),
        Scalar::Whole(value) => value.to_string(),
        Scalar::Real(value) => value.to_string(),
        Scalar::String(value) => value.clone(),
    })
}
