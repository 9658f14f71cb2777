//! `hsieve tree`

use std::path::Path;

use serde_json::{Value, json};
use sieve_engine::files;
use sieve_syntax::language::{Language, views};
use sieve_syntax::text::{Place, Span, Text};
use sieve_syntax::tree::{Fault, Kind, NodeRef, Tree};

use super::rules::settings_here;
use crate::arguments::TreeArguments;
use crate::output::document_text;
use crate::screen::{FAINT, STRONG, Screen, complain, safe, styled};
use crate::status::{Status, usage};

/// The most characters of a node's text that are shown.
const LONGEST_TEXT: usize = 48;

/// Shows a tree.
pub fn run(arguments: &TreeArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let place = arguments.place.as_deref();
    if arguments.kinds {
        return kinds(place, &arguments.output, screen);
    }
    let (path, line, column) = parts(place.unwrap_or_default());
    let (language, text) = text_at(path)?;
    let tree = language.parse(&text);
    let layers = language.layers(&text, &tree);
    let all: Vec<(Language, &Tree)> = views(language, &tree, &layers).collect();
    let mut parts = Vec::new();
    for (language, tree) in &all {
        let shown = Shown { text: &text, tree };
        let nodes = match line {
            None => tree.nodes().collect(),
            Some(line) => shown.at(path, line, column)?,
        };
        // Of a layer, what is around a place is the page.
        let is_elsewhere = |nodes: &[NodeRef<'_>]| nodes.iter().all(|node| node.parent().is_none());
        if !parts.is_empty() && line.is_some() && is_elsewhere(&nodes) {
            continue;
        }
        parts.push((*language, shown, nodes));
    }
    if arguments.output == "json" {
        let mut parts = parts.into_iter().map(|(language, shown, nodes)| {
            let nodes: Vec<Value> = nodes.iter().map(|node| shown.as_json(*node)).collect();
            json!({ "language": language.name(), "nodes": nodes })
        });
        let mut document = parts.next().unwrap_or_default();
        document["tool"] = json!("honest-sieve");
        document["form"] = json!(1);
        document["layers"] = parts.collect();
        screen.raw(document_text(&document)?.as_bytes())?;
    } else {
        for (index, (language, shown, nodes)) in parts.iter().enumerate() {
            if index > 0 {
                screen.line(format!("\nin it, {}:", language.spec().title))?;
            }
            shown.write(nodes, line.is_some(), screen)?;
        }
    }
    let faults: Vec<&Fault> = all.iter().flat_map(|(_, tree)| tree.faults()).collect();
    for fault in &faults {
        let place = text.place(fault.span.start);
        complain(format!("{path}:{}:{}: {}", place.line, place.column, fault.problem));
    }
    Ok(if faults.is_empty() { Status::Clean } else { Status::Findings })
}

/// The text of a file, and its language by the settings that hold here.
pub(super) fn text_at(path: &str) -> anyhow::Result<(Language, Text)> {
    let bytes = files::read(Path::new(path))?;
    let settings = settings_here()?;
    let Some(language) = sieve_engine::discover::language_of_name(path, &bytes, &settings) else {
        let known: Vec<&str> = Language::ALL.iter().map(|language| language.spec().title).collect();
        return usage(format!("{path}: the language of this file is not known; there are: {}", known.join(", ")));
    };
    let text = language.decode(bytes).map_err(|error| anyhow::anyhow!("{path}: the file {error}"))?;
    Ok((language, text))
}

/// `FILE`, `FILE:LINE` or `FILE:LINE:COLUMN`; a file whose name looks so is taken as it is.
pub(super) fn parts(place: &str) -> (&str, Option<u32>, Option<u32>) {
    if Path::new(place).exists() {
        return (place, None, None);
    }
    let split = |text: &'_ str| -> Option<(usize, u32)> {
        let (before, number) = text.rsplit_once(':')?;
        Some((before.len(), number.parse().ok()?))
    };
    match split(place) {
        None => (place, None, None),
        Some((end, last)) => match split(&place[..end]) {
            Some((before, line)) => (&place[..before], Some(line), Some(last)),
            None => (&place[..end], Some(last), None),
        },
    }
}

/// The kinds of nodes that there are, in one language or in any.
fn kinds(language: Option<&str>, output: &str, screen: &mut Screen) -> anyhow::Result<Status> {
    let languages = match language {
        None => Language::ALL.to_vec(),
        Some(name) => match Language::named(name) {
            Some(language) => vec![language],
            None => {
                let known: Vec<&str> = Language::ALL.iter().map(|language| language.name()).collect();
                return usage(format!("no language is called \"{}\"; there are: {}", safe(name), known.join(", ")));
            }
        },
    };
    let having = |kind: Kind| languages.iter().copied().filter(|language| language.produces(kind)).collect::<Vec<_>>();
    let listed: Vec<(Kind, Vec<Language>)> =
        Kind::ALL.iter().map(|kind| (*kind, having(*kind))).filter(|(_, having)| !having.is_empty()).collect();
    if output == "json" {
        let rows = listed.iter().map(|(kind, having)| {
            let names: Vec<&str> = having.iter().map(|language| language.name()).collect();
            let roles: Vec<&str> = kind.roles().iter().map(|role| role.name()).collect();
            json!({ "kind": kind.name(), "about": kind.about(), "roles": roles, "languages": names })
        });
        let document = json!({ "tool": "honest-sieve", "form": 1, "kinds": rows.collect::<Vec<Value>>() });
        screen.raw(document_text(&document)?.as_bytes())?;
        return Ok(Status::Clean);
    }
    let widest = listed.iter().map(|(kind, _)| kind.name().len()).max().unwrap_or(0);
    for (kind, having) in listed {
        let roles: Vec<&str> = kind.roles().iter().map(|role| role.name()).collect();
        let gap = " ".repeat(widest - kind.name().len());
        screen.line(format!("{}{gap}  {}", styled(STRONG, kind.name()), kind.about()))?;
        let mut more = roles.join(" ");
        if language.is_none() && having.len() < Language::ALL.len() {
            let names: Vec<&str> = having.iter().map(|language| language.name()).collect();
            more += &format!("{}in {}", if roles.is_empty() { "" } else { "  · " }, names.join(", "));
        }
        if !more.is_empty() {
            screen.line(format!("{}  {}", " ".repeat(widest), styled(FAINT, &more)))?;
        }
    }
    Ok(Status::Clean)
}

struct Shown<'s> {
    text: &'s Text,
    tree: &'s Tree,
}

impl<'s> Shown<'s> {
    /// The nodes around a place from the outermost inwards, or those that begin on a line.
    fn at(&self, path: &str, line: u32, column: Option<u32>) -> anyhow::Result<Vec<NodeRef<'s>>> {
        let place = Place { line, column: column.unwrap_or(1) };
        let count = self.text.lines().count();
        let Some(offset) = self.text.lines().offset(self.text.source(), place).filter(|_| line <= count.max(1)) else {
            return usage(match column {
                Some(column) if line <= count => format!("{path}: line {line} has no column {column}"),
                _ => format!("{path}: there is no line {line}; the file has {count}"),
            });
        };
        if column.is_some() {
            let innermost = self.tree.covering(Span::new(offset, offset + 1));
            let mut nodes: Vec<NodeRef<'s>> = std::iter::once(innermost).chain(innermost.ancestors()).collect();
            nodes.reverse();
            return Ok(nodes);
        }
        let begins =
            |node: &NodeRef<'s>| self.text.lines().line_of(node.span().start) == line && !node.span().is_empty();
        Ok(self.tree.nodes().filter(begins).collect())
    }

    fn write(&self, nodes: &[NodeRef<'_>], with_place: bool, screen: &mut Screen) -> anyhow::Result<()> {
        let mut depths: Vec<usize> = vec![0; self.tree.nodes().len()];
        for node in self.tree.nodes().skip(1) {
            depths[node.id().index()] = node.parent().map_or(0, |parent| depths[parent.id().index()] + 1);
        }
        let least = nodes.iter().map(|node| depths[node.id().index()]).min().unwrap_or(0);
        for node in nodes {
            let depth = depths[node.id().index()] - if with_place { least } else { 0 };
            self.row(*node, depth, screen)?;
        }
        Ok(())
    }

    fn row(&self, node: NodeRef<'_>, depth: usize, screen: &mut Screen) -> anyhow::Result<()> {
        let place = self.text.place(node.span().start);
        let at = format!("{:>10}", format!("{}:{}", place.line, place.column));
        let role = if node.parent().is_some() { format!("{}: ", node.role()) } else { String::new() };
        let indent = "  ".repeat(depth.min(40));
        let kind = styled(STRONG, node.kind().name());
        screen.line(format!("{}  {indent}{}{kind}  {}", styled(FAINT, &at), styled(FAINT, &role), self.snippet(node)))
    }

    /// The first line of a node's text, cut where it is long.
    fn snippet(&self, node: NodeRef<'_>) -> String {
        let text = self.text.slice(node.span());
        let line = text.lines().next().unwrap_or_default();
        let mut short: String = line.chars().take(LONGEST_TEXT).collect();
        if short.len() < text.len() {
            short.push('…');
        }
        safe(&short.replace('\t', " "))
    }

    fn as_json(&self, node: NodeRef<'_>) -> Value {
        let span = node.span();
        let place = |offset| {
            let place = self.text.place(offset);
            json!({ "line": place.line, "column": place.column, "byte": offset })
        };
        json!({
            "id": node.id().0,
            "parent": node.parent().map(|parent| parent.id().0),
            "kind": node.kind().name(),
            "role": node.role().name(),
            "start": place(span.start),
            "end": place(span.end),
            "text": if node.children().next().is_none() { Value::from(self.text.slice(span)) } else { Value::Null },
        })
    }
}
