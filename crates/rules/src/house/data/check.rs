//! Runs a data rule over a file.

use percent_encoding::percent_decode_str;
use rustc_hash::{FxHashMap, FxHashSet};
use sieve_meaning::data::path::TooManySteps;
use sieve_meaning::data::{PartId, Scalar, Shape, TooLarge, Value};
use sieve_syntax::text::Span;

use super::DataCheck;
use super::message::Filling;
use crate::interface::{File, Finding, Related, Report, RuleId, Unsure};
use crate::schema::{MOST, TOO_LARGE, cut};

/// What a rule has against a place.
struct Complaint<'d, 't> {
    place: Value<'d, 't>,
    span: Span,
    problem: String,
    related: Option<(Span, &'static str)>,
}

impl DataCheck {
    /// Reports the places of a file that are not as they must be.
    pub(in crate::house) fn report(&self, rule: RuleId, file: File<'_>, report: &mut Report) {
        let Some(data) = file.values() else { return };
        for document in data.documents() {
            match self.complaints(document) {
                Ok(complaints) => {
                    report.findings.extend(complaints.iter().map(|complaint| self.finding(rule, complaint)));
                }
                Err(TooMuch) => {
                    report.unsure.push(Unsure { rule, span: start_of(document.span()), reason: TOO_LARGE });
                }
            }
        }
    }

    fn finding(&self, rule: RuleId, complaint: &Complaint) -> Finding {
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
            unless: None,
        }
    }

    fn complaints<'d, 't>(&self, root: Value<'d, 't>) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
        if let Some(when) = &self.when
            && when.find(root, MOST)?.is_empty()
        {
            return Ok(Vec::new());
        }
        let mut seen: FxHashSet<PartId> = FxHashSet::default();
        let mut places = self.at.find(root, MOST)?;
        // What several ways lead to is one place.
        places.retain(|place| seen.insert(place.resolved().id()));
        let mut found = Vec::new();
        self.schemas(&places, &mut found)?;
        self.uniqueness(&places, &mut found)?;
        self.references(root, &places, &mut found)?;
        self.lists(root, &places, &mut found)?;
        self.names(&places, &mut found);
        found.sort_by_key(|complaint| complaint.span);
        Ok(found)
    }

    fn schemas<'d, 't>(&self, places: &[Value<'d, 't>], found: &mut Vec<Complaint<'d, 't>>) -> Result<(), TooMuch> {
        for place in places {
            if let Some(schema) = &self.must {
                for problem in schema.problems(*place, MOST)? {
                    let complaint =
                        Complaint { place: *place, span: problem.span, problem: problem.message, related: None };
                    found.push(complaint);
                }
            }
            if let Some(schema) = &self.must_not
                && schema.holds(*place, MOST)?
            {
                found.push(Complaint { place: *place, span: head_of(*place), problem: String::new(), related: None });
            }
        }
        Ok(())
    }

    /// The same value in two places.
    fn uniqueness<'d, 't>(&self, places: &[Value<'d, 't>], found: &mut Vec<Complaint<'d, 't>>) -> Result<(), TooMuch> {
        let Some(path) = &self.unique else { return Ok(()) };
        let mut first: FxHashMap<String, Span> = FxHashMap::default();
        for place in places {
            for value in path.find(*place, MOST)? {
                let name = value.to_json(MOST)?.to_string();
                match first.get(&name) {
                    Some(span) => {
                        let problem = format!("{} is there already", cut(&name));
                        let related = Some((*span, "the same value"));
                        found.push(Complaint { place: value, span: value.span(), problem, related });
                    }
                    None => drop(first.insert(name, value.span())),
                }
            }
        }
        Ok(())
    }

    /// References of the form `#/…` that lead to nothing, or to something else than they may.
    fn references<'d, 't>(
        &self,
        root: Value<'d, 't>,
        places: &[Value<'d, 't>],
        found: &mut Vec<Complaint<'d, 't>>,
    ) -> Result<(), TooMuch> {
        let Some(path) = &self.refers_to else { return Ok(()) };
        let allowed: FxHashSet<PartId> =
            path.find(root, MOST)?.into_iter().flat_map(Value::children).map(|value| value.resolved().id()).collect();
        for place in places {
            // Others lead out of the document.
            let Some(reference) = place.as_str() else { continue };
            let Some(pointer) = reference.strip_prefix('#') else { continue };
            // A fragment of a URI has escapes of its own (RFC 6901, 6).
            let target = root.at(&percent_decode_str(pointer).decode_utf8_lossy());
            let problem = match target {
                None => format!("nothing is at {}", cut(&reference)),
                Some(target) if !allowed.contains(&target.resolved().id()) => {
                    format!("{} is none of what may be referred to here", cut(&reference))
                }
                Some(_) => continue,
            };
            found.push(Complaint { place: *place, span: place.span(), problem, related: None });
        }
        Ok(())
    }

    /// Values that are on no list.
    fn lists<'d, 't>(
        &self,
        root: Value<'d, 't>,
        places: &[Value<'d, 't>],
        found: &mut Vec<Complaint<'d, 't>>,
    ) -> Result<(), TooMuch> {
        let Some(path) = &self.listed_in else { return Ok(()) };
        let mut known: FxHashSet<String> = FxHashSet::default();
        for value in path.find(root, MOST)? {
            known.insert(value.to_json(MOST)?.to_string());
        }
        for place in places {
            let name = place.to_json(MOST)?.to_string();
            if !known.contains(&name) {
                let problem = format!("{} is not listed", cut(&name));
                found.push(Complaint { place: *place, span: place.span(), problem, related: None });
            }
        }
        Ok(())
    }

    /// Names in another style.
    fn names<'d, 't>(&self, places: &[Value<'d, 't>], found: &mut Vec<Complaint<'d, 't>>) {
        let Some(style) = self.name_style else { return };
        for place in places {
            let (name, span) = match (place.key(), place.as_str()) {
                (Some(key), _) => (key.to_string(), place.key_span().unwrap_or_else(|| place.span())),
                (None, Some(value)) => (value, place.span()),
                (None, None) => continue,
            };
            if !style.fits(&name) {
                let problem = format!("\"{}\" is not in the style {}", cut(&name), style.word());
                found.push(Complaint { place: *place, span, problem, related: None });
            }
        }
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
