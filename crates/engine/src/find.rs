//! Asks queries of a code base: one look at each file, whatever the number of queries.

use std::path::Path;
use std::sync::Arc;

use rayon::prelude::*;
use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_rules::Input;
use sieve_rules::query::{Matches, Query, ladder};
use sieve_syntax::language::{Language, views};
use sieve_syntax::text::{Place, Span, Text};
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Tree};

use crate::check::load;
use crate::files::FileError;
use crate::project::{Project, absolute, relative};
use crate::run::{Request, in_pool};
use crate::settings::SettingsError;
use crate::workspace::discover::{self, Candidate};
use crate::workspace::shares::in_shares;

/// Where a query matches.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct FoundPlace {
    /// The file, as it is shown.
    pub path: Arc<str>,
    /// Where the node begins.
    pub start: Place,
    /// Where it ends.
    pub end: Place,
    /// The same in bytes.
    pub span: Span,
    /// The first line of it, cut where it is very long.
    pub code: String,
}

/// The most characters of a place's code that are kept.
const LONGEST_CODE: usize = 300;

/// What one query matches.
#[derive(Debug, Default)]
pub struct Found {
    /// The places, in the order of paths and lines.
    pub places: Vec<FoundPlace>,
    /// Places of which it cannot be known.
    pub unsure: Vec<FoundPlace>,
    /// How many places are in each file that has some.
    pub counts: Vec<(Arc<str>, usize)>,
    /// How many there are of which it cannot be known.
    pub unsure_count: usize,
}

impl Found {
    /// Adds what a query matches in one tree of a file.
    fn add(&mut self, matches: &Matches, file: &FoundIn<'_>, keep: Keep) {
        let places = |nodes: &[NodeId]| if keep == Keep::Places { file.places(nodes) } else { Vec::new() };
        self.places.extend(places(&matches.found));
        self.unsure.extend(places(&matches.unsure));
        self.unsure_count += matches.unsure.len();
        match self.counts.last_mut() {
            _ if matches.found.is_empty() => {}
            Some((_, count)) => *count += matches.found.len(),
            None => self.counts.push((Arc::clone(file.path), matches.found.len())),
        }
    }

    /// Puts the places in their order.
    fn sort(&mut self) {
        self.places.sort_by_key(|place| (place.span.start, place.span.end));
        self.unsure.sort_by_key(|place| (place.span.start, place.span.end));
    }

    /// How many places there are.
    pub fn count(&self) -> usize {
        self.counts.iter().map(|(_, count)| count).sum()
    }
}

/// What is wanted of the places.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Keep {
    /// Each of them.
    Places,
    /// Only how many there are: a query may match everything.
    Counts,
}

/// What queries match in a code base.
#[derive(Debug, Default)]
pub struct Search {
    /// What each query matches.
    pub found: Vec<Found>,
    /// How many files were looked at.
    pub files: usize,
    /// What could not be read.
    pub errors: Vec<FileError>,
}

/// Asks queries of every file below a request's paths that would be sifted.
///
/// # Errors
/// When a settings file is wrong.
pub fn find(request: &Request<'_>, queries: &[Query], keep: Keep) -> Result<Search, SettingsError> {
    let discovery = discover::discover(&request.search())?;
    let results: Vec<Result<Vec<Found>, FileError>> = in_pool(request.threads, || {
        in_shares(&discovery.files).map(|file| in_file(file, request.project, queries, keep)).collect()
    });
    let mut search = Search { files: discovery.files.len(), errors: discovery.errors, ..Search::default() };
    search.found.resize_with(queries.len(), Found::default);
    for result in results {
        match result {
            Err(error) => search.errors.push(error),
            Ok(found) => {
                for (all, one) in search.found.iter_mut().zip(found) {
                    all.places.extend(one.places);
                    all.unsure.extend(one.unsure);
                    all.counts.extend(one.counts);
                    all.unsure_count += one.unsure_count;
                }
            }
        }
    }
    Ok(search)
}

/// What queries match in one file; nothing at all where none could match.
fn in_file(candidate: &Candidate, project: &Project, queries: &[Query], keep: Keep) -> Result<Vec<Found>, FileError> {
    let Ok(bytes) = load::bytes_of(candidate, project)? else { return Ok(Vec::new()) };
    let language = candidate.language;
    let is_for = |query: &Query| query.is_for(language) || language.spec().holds.iter().any(|held| query.is_for(*held));
    let asked: Vec<bool> = queries.iter().map(|query| is_for(query) && query.may_match(&bytes)).collect();
    if !asked.contains(&true) {
        return Ok(Vec::new());
    }
    let Ok(text) = load::text_of(candidate, bytes) else { return Ok(Vec::new()) };
    let Ok(tree) = load::tree_of(candidate, &text) else { return Ok(Vec::new()) };
    let path = relative(&project.root, &candidate.path).unwrap_or_else(|| shown(&candidate.path));
    let layers = language.layers(&text, &tree);
    let mut all: Vec<Found> = std::iter::repeat_with(Found::default).take(queries.len()).collect();
    for (language, tree) in views(language, &tree, &layers) {
        let needs_names = queries.iter().zip(&asked).any(|(query, asked)| *asked && query.needs_names());
        let names = needs_names.then(|| names_of(language, &text, tree));
        let input = Input { path: &path, language, text: &text, tree, names: names.as_ref(), others: &Alone };
        let file = FoundIn { path: &candidate.shown, text: &text, tree };
        let here =
            queries.iter().zip(&asked).zip(&mut all).filter(|((query, asked), _)| **asked && query.is_for(language));
        for ((query, _), found) in here {
            found.add(&query.matches(&input), &file, keep);
        }
    }
    all.iter_mut().filter(|_| !layers.is_empty()).for_each(Found::sort);
    Ok(all)
}

fn shown(path: &Path) -> String {
    path.to_string_lossy().into_owned()
}

struct FoundIn<'f> {
    path: &'f Arc<str>,
    text: &'f Text,
    tree: &'f Tree,
}

impl FoundIn<'_> {
    fn places(&self, nodes: &[NodeId]) -> Vec<FoundPlace> {
        let mut places: Vec<FoundPlace> = nodes.iter().map(|node| self.place(*node)).collect();
        places.sort_by_key(|place| (place.span.start, place.span.end));
        places
    }

    fn place(&self, node: NodeId) -> FoundPlace {
        let span = self.tree.node(node).span();
        let code = self.text.slice(span).chars().take_while(|letter| *letter != '\n').take(LONGEST_CODE).collect();
        let (start, end) = (self.text.place(span.start), self.text.place(span.end));
        FoundPlace { path: Arc::clone(self.path), start, end, span, code }
    }
}

/// Queries that match the code at a place, from general to exact; nothing where no code is. Without a column what begins on the line is
/// meant.
pub fn queries_like(
    project: &Project,
    language: Language,
    path: &str,
    text: &Text,
    line: u32,
    column: Option<u32>,
) -> Option<Vec<String>> {
    let tree = language.parse(text);
    let place = place_of(text, line, column)?;
    // A block begins where its first statement does.
    let begins = |node: &NodeRef<'_>| {
        let span = node.span();
        let is_part = !span.is_empty() && (span.end as usize) < text.source().len();
        span.start == place.start && is_part && node.kind() != Kind::Block
    };
    let whole = column.is_none().then(|| tree.nodes().find(begins).map(|node| node.span())).flatten();
    let names = names_of(language, text, &tree);
    let rooted = relative(&project.root, &absolute(&project.folder, Path::new(path)));
    let path = rooted.as_deref().unwrap_or(path);
    let input = Input { path, language, text, tree: &tree, names: Some(&names), others: &Alone };
    Some(ladder(&input, whole.unwrap_or(place)))
}

/// The place of a character, or of the first one of a line that is not whitespace.
fn place_of(text: &Text, line: u32, column: Option<u32>) -> Option<Span> {
    if line == 0 || line > text.lines().count() {
        return None;
    }
    let offset = match column {
        Some(column) => text.lines().offset(text.source(), Place { line, column })?,
        None => {
            let span = text.lines().line(text.source(), line);
            let code = text.slice(span);
            span.start + (code.len() - code.trim_start().len()) as u32
        }
    };
    let letter = text.source()[offset as usize..].chars().next().filter(|letter| !letter.is_whitespace())?;
    Some(Span::new(offset, offset + letter.len_utf8() as u32))
}
