//! `hsieve find`: places that a query matches, and queries that match a place.

use std::collections::BTreeMap;
use std::io::IsTerminal;

use serde_json::{Value, json};
use sieve_engine::find::{Found, FoundPlace, Keep, Search, find, queries_like};
use sieve_engine::outcome::folder_of;
use sieve_engine::run::Wants;
use sieve_rules::query::{Query, QueryError};
use sieve_syntax::language::Language;
use sieve_syntax::text::Place;

use super::tree::{parts, text_at};
use crate::arguments::{Common, FindArguments};
use crate::output::document_text;
use crate::run::{Setup, here, shown};
use crate::screen::{FAINT, STRONG, Screen, TYPED, complain, complain_styled, counted, grouped, safe, styled, width};
use crate::status::{Status, usage, usage_in_lines};

/// The most characters of a place's code that are shown.
const LONGEST_CODE: usize = 100;

/// Finds.
pub fn run(arguments: &FindArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    if let Some(place) = &arguments.like {
        return like(arguments, place, screen);
    }
    let source = arguments.query.as_deref().unwrap_or_default();
    let query = Query::new(source, Language::ALL).or_else(|error| wrong(source, &error))?;
    let keep = if arguments.count && form(arguments) != "json" { Keep::Counts } else { Keep::Places };
    let search = search(arguments, arguments.paths.clone(), &[query], keep)?;
    let found = &search.found[0];
    match form(arguments) {
        "json" => screen.raw(document_text(&as_json(source, &search, found))?.as_bytes())?,
        _ if arguments.count => counts(found, screen)?,
        "lines" => lines(arguments, found, screen)?,
        _ => cards(arguments, found, screen)?,
    }
    // The last words come after what was found.
    screen.finish()?;
    account(&search, found);
    search.errors.iter().for_each(|error| complain(error.from_here()));
    Ok(match found.counts.is_empty() {
        _ if !search.errors.is_empty() => Status::Failed,
        true => Status::Findings,
        false => Status::Clean,
    })
}

fn form(arguments: &FindArguments) -> &str {
    let usual = if std::io::stdout().is_terminal() { "cards" } else { "lines" };
    arguments.output.as_deref().unwrap_or(usual)
}

fn search(
    arguments: &FindArguments,
    paths: Vec<std::path::PathBuf>,
    queries: &[Query],
    keep: Keep,
) -> anyhow::Result<Search> {
    let common = Common { paths, threads: arguments.threads, ..Common::default() };
    let setup = Setup::new(&common)?;
    Ok(setup
        .with_request(Wants::default(), |request| find(request, queries, keep))
        .map_err(|error| shown(&setup.project, error))?)
}

/// What is wrong with a query, with the place in it marked.
fn wrong<T>(source: &str, error: &QueryError) -> anyhow::Result<T> {
    let start = source[..error.place.start].rfind('\n').map_or(0, |end| end + 1);
    let end = source[error.place.start..].find('\n').map_or(source.len(), |length| error.place.start + length);
    let before = width(&safe(&source[start..error.place.start]));
    let marked = width(&safe(&source[error.place.start..error.place.end.min(end)])).max(1);
    usage_in_lines(vec![
        format!("the query is wrong: {error}"),
        format!("  {}", &source[start..end]),
        format!("  {}{}", " ".repeat(before), "~".repeat(marked)),
    ])
}

fn lines(arguments: &FindArguments, found: &Found, screen: &mut Screen) -> anyhow::Result<()> {
    let mut row = |place: &FoundPlace, word: &str| {
        let (path, start) = (safe(&place.path), place.start);
        screen.line(format!("{path}:{}:{}: {word}{}", start.line, start.column, code(place)))
    };
    found.places.iter().try_for_each(|place| row(place, ""))?;
    let unsure = found.unsure.iter().filter(|_| arguments.unsure);
    unsure.into_iter().try_for_each(|place| row(place, "unsure: "))
}

fn cards(arguments: &FindArguments, found: &Found, screen: &mut Screen) -> anyhow::Result<()> {
    let mut files: BTreeMap<&str, Vec<(&FoundPlace, bool)>> = BTreeMap::new();
    found.places.iter().for_each(|place| files.entry(&*place.path).or_default().push((place, true)));
    if arguments.unsure {
        found.unsure.iter().for_each(|place| files.entry(&*place.path).or_default().push((place, false)));
    }
    for (index, (path, mut places)) in files.into_iter().enumerate() {
        if index > 0 {
            screen.gap()?;
        }
        screen.line(styled(STRONG, &safe(path)))?;
        places.sort_by_key(|(place, _)| place.span.start);
        for (place, is_sure) in places {
            let at = format!("{:>9}", format!("{}:{}", place.start.line, place.start.column));
            let note = if is_sure { String::new() } else { styled(FAINT, "   cannot be known").to_string() };
            screen.line(format!("{}  {}{note}", styled(FAINT, &at), code(place)))?;
        }
    }
    if found.places.is_empty() { Ok(()) } else { screen.gap() }
}

/// The first line of what was found, cut where it is long.
fn code(place: &FoundPlace) -> String {
    let mut short: String = place.code.trim_end().chars().take(LONGEST_CODE).collect();
    if place.end.line > place.start.line || place.code.chars().count() > LONGEST_CODE {
        short.push_str(" …");
    }
    safe(&short.replace('\t', " "))
}

fn counts(found: &Found, screen: &mut Screen) -> anyhow::Result<()> {
    let by_folder = by_folder(found);
    let widest = by_folder.keys().map(|folder| width(&safe(folder))).max().unwrap_or(0);
    for (folder, count) in by_folder {
        let folder = safe(folder);
        let gap = " ".repeat(widest - width(&folder));
        screen.line(format!("{}{gap}  {:>7}", styled(STRONG, &folder), grouped(count)))?;
    }
    Ok(())
}

fn by_folder(found: &Found) -> BTreeMap<&str, usize> {
    let mut folders = BTreeMap::new();
    found.counts.iter().for_each(|(path, count)| *folders.entry(folder_of(path)).or_insert(0) += count);
    folders
}

/// How much was found, and in how much.
fn account(search: &Search, found: &Found) {
    let of = counted(search.files, "file", "files");
    match found.count() {
        0 => complain_styled(&format!("Found nothing in {of}")),
        places => {
            let places = counted(places, "place", "places");
            complain_styled(&format!("Found {places} in {} of {of}", grouped(found.counts.len())));
        }
    }
    if found.unsure_count > 0 {
        let unsure = counted(found.unsure_count, "place", "places");
        complain_styled(&format!("  unsure  {unsure} of which it cannot be known; --unsure shows them"));
    }
}

fn as_json(source: &str, search: &Search, found: &Found) -> Value {
    let place = |place: Place, byte: u32| json!({ "line": place.line, "column": place.column, "byte": byte });
    let listed = |places: &[FoundPlace]| -> Vec<Value> {
        let one = |found: &FoundPlace| {
            json!({
                "path": &*found.path,
                "start": place(found.start, found.span.start),
                "end": place(found.end, found.span.end),
                "code": found.code,
            })
        };
        places.iter().map(one).collect()
    };
    json!({
        "tool": "honest-sieve",
        "form": 1,
        "query": source,
        "found": listed(&found.places),
        "unsure": listed(&found.unsure),
        "folders": by_folder(found),
        "files": search.files,
    })
}

/// Queries that match a place, each with how often it does here.
fn like(arguments: &FindArguments, place: &str, screen: &mut Screen) -> anyhow::Result<Status> {
    let written = ladder_at(place)?;
    let queries: Vec<Query> = written.iter().filter_map(|query| Query::new(query, Language::ALL).ok()).collect();
    let paths = arguments.query.iter().map(std::path::PathBuf::from).chain(arguments.paths.clone()).collect();
    let search = search(arguments, paths, &queries, Keep::Counts)?;
    if form(arguments) == "json" {
        let rows = queries.iter().zip(&search.found);
        let rows: Vec<Value> =
            rows.map(|(query, found)| json!({ "query": query.to_string(), "places": found.count() })).collect();
        let document =
            json!({ "tool": "honest-sieve", "form": 1, "like": place, "queries": rows, "files": search.files });
        screen.raw(document_text(&document)?.as_bytes())?;
    } else {
        complain_styled(&format!("Places in {}, from general to exact", counted(search.files, "file", "files")));
        let widest = queries.iter().map(|query| width(&query.to_string())).max().unwrap_or(0);
        for (query, found) in queries.iter().zip(&search.found) {
            let query = query.to_string();
            let gap = " ".repeat(widest - width(&query));
            screen.line(format!("  {}{gap}  {:>7}", styled(TYPED, &safe(&query)), grouped(found.count())))?;
        }
    }
    search.errors.iter().for_each(|error| complain(error.from_here()));
    Ok(if search.errors.is_empty() { Status::Clean } else { Status::Failed })
}

/// The queries that match the code at a place, from general to exact.
fn ladder_at(place: &str) -> anyhow::Result<Vec<String>> {
    let (path, line, column) = parts(place);
    let Some(line) = line else { return usage(format!("{place}: the place needs a line: {place}:LINE")) };
    let (language, text) = text_at(path)?;
    let at = column.map_or(String::new(), |column| format!(", column {column}"));
    queries_like(&here()?, language, path, &text, line, column)
        .map_or_else(|| usage(format!("{path}: nothing is at line {line}{at}")), Ok)
}
