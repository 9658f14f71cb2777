//! Settings while they are written: which keys, rules and values there are.

use std::path::Path;

use lsp_types::{CompletionItem, CompletionItemKind, CompletionParams, CompletionTextEdit, TextEdit};
use serde_json::Value;
use sieve_engine::settings::{self, FILE_NAME};
use sieve_rules::{Concern, Level, RuleSet};
use sieve_syntax::text::Span;

use super::hover;
use super::session::{Session, file_of};
use super::wire::Fault;

impl Session {
    /// What could be at a position of a settings file.
    pub(super) fn complete(&mut self, params: &CompletionParams) -> Result<Vec<CompletionItem>, Fault> {
        let at = &params.text_document_position;
        let path = file_of(&at.text_document.uri)?;
        if !is_settings(&path) {
            return Ok(Vec::new());
        }
        // While settings are wrong, the rules of this program are known all the same.
        let rules = self.rules_of(&path).unwrap_or_else(|_| RuleSet::built_in());
        let Some(document) = self.documents.get(&path) else { return Ok(Vec::new()) };
        let text = &document.text;
        let offset = self.able.units.offset(text, at.position);
        let line = text.lines().full_line(text.lines().line_of(offset));
        let before = text.slice(Span::new(line.start, offset));
        let above = text.slice(Span::new(0, line.start));
        let spot = Spot::of(above, before);
        let word = Span::new(offset - spot.word.len() as u32, offset);
        let range = self.able.units.range(text, word);
        let items = spot.proposals(&rules).into_iter().map(|proposal| CompletionItem {
            label: proposal.word.clone(),
            kind: Some(proposal.kind),
            detail: proposal.about,
            text_edit: Some(CompletionTextEdit::Edit(TextEdit::new(range, proposal.word))),
            ..CompletionItem::default()
        });
        Ok(items.collect())
    }

    /// What is said of the rule that is named at an offset of a settings file, and where its name is.
    pub(super) fn rule_named_at(&mut self, path: &Path, offset: u32) -> Option<(String, Span)> {
        if !is_settings(path) {
            return None;
        }
        let source = self.documents.get(path)?.text.source().to_string();
        let is_part = |one: char| one.is_ascii_alphanumeric() || one == '-' || one == ':';
        let (before, after) = source.split_at(offset as usize);
        let start = before.trim_end_matches(is_part).len();
        let end = source.len() - after.trim_start_matches(is_part).len();
        let index = self.folder_of(path);
        let settings = self.folders[index].near.settings().ok()?;
        let id = settings.rule_set().named(&source[start..end])?;
        let effective = settings.for_folder(path.parent()?).ok()?;
        Some((hover::of_rule(id, &effective), Span::new(start as u32, end as u32)))
    }
}

fn is_settings(path: &Path) -> bool {
    path.file_name().is_some_and(|name| name == FILE_NAME)
}

/// Where in a settings file something is written.
#[derive(Debug, PartialEq)]
struct Spot<'s> {
    /// The table that it is in.
    table: Vec<&'s str>,
    /// The key whose value it is; nothing where a key is written.
    key: Option<&'s str>,
    /// The name of a table is written.
    in_header: bool,
    /// What is there of the word.
    word: &'s str,
    /// Whether the word is in quotes.
    in_quotes: bool,
}

struct Proposal {
    word: String,
    kind: CompletionItemKind,
    about: Option<String>,
}

impl Proposal {
    fn new(word: impl Into<String>, kind: CompletionItemKind, about: Option<&str>) -> Proposal {
        Proposal { word: word.into(), kind, about: about.filter(|about| !about.is_empty()).map(str::to_string) }
    }
}

impl<'s> Spot<'s> {
    fn of(above: &'s str, before: &'s str) -> Spot<'s> {
        let header = above.lines().rev().map(str::trim).find(|line| line.starts_with('['));
        let table = header.map_or(Vec::new(), |header| parts(header.split(']').next().unwrap_or_default()));
        let is_part = |one: char| one.is_ascii_alphanumeric() || one == '-' || one == '_' || one == ':';
        let word = &before[before.trim_end_matches(is_part).len()..];
        let rest = &before[..before.len() - word.len()];
        let in_quotes = rest.matches('"').count() % 2 == 1;
        let trimmed = before.trim_start();
        if trimmed.starts_with('[') && !before.contains('=') {
            return Spot { table: parts(trimmed), key: None, in_header: true, word, in_quotes: false };
        }
        let (mut table, mut key) = (table, before.split_once('=').map(|(key, _)| key.trim().trim_matches('"')));
        // Within braces the key before them is a table of its own.
        if let Some(open) = before.rfind('{').filter(|open| !before[*open..].contains('}')) {
            let inner = &before[open + 1..];
            let last = inner.rsplit(',').next().unwrap_or(inner);
            table.extend(key);
            key = last.split_once('=').map(|(key, _)| key.trim().trim_matches('"'));
        }
        Spot { table, key, in_header: false, word, in_quotes }
    }

    fn proposals(&self, rules: &RuleSet) -> Vec<Proposal> {
        let schema = settings::schema();
        if self.in_header {
            let tables = properties(&schema).filter(|(_, value)| is_table(value));
            return tables.map(|(name, value)| Proposal::new(name, CompletionItemKind::MODULE, about(value))).collect();
        }
        let is_rules = self.table.last() == Some(&"rules");
        match self.key {
            None if is_rules => named(rules, false),
            None => {
                let table = self.table.iter().try_fold(&schema, |schema, name| inner(schema, name));
                let keys = table.into_iter().flat_map(properties);
                keys.map(|(name, value)| Proposal::new(name, CompletionItemKind::PROPERTY, about(value))).collect()
            }
            Some(_) if is_rules => {
                let levels = Level::ALL.iter().map(|level| self.quoted(level.word()));
                levels.map(|word| Proposal::new(word, CompletionItemKind::ENUM_MEMBER, None)).collect()
            }
            Some("only" | "rules") => named(rules, !self.in_quotes),
            Some(key) => {
                let table = self.table.iter().try_fold(&schema, |schema, name| inner(schema, name));
                let value = table.and_then(|table| inner(table, key));
                let words = value.and_then(|value| value.get("enum")).and_then(Value::as_array);
                let words = words.into_iter().flatten().filter_map(Value::as_str).map(|word| self.quoted(word));
                words.map(|word| Proposal::new(word, CompletionItemKind::ENUM_MEMBER, None)).collect()
            }
        }
    }

    fn quoted(&self, word: &str) -> String {
        if self.in_quotes { word.to_string() } else { format!("\"{word}\"") }
    }
}

/// Rules and concerns.
fn named(rules: &RuleSet, in_quotes: bool) -> Vec<Proposal> {
    let written = |name: &str| {
        let needs_quotes = in_quotes || name.contains(':');
        if needs_quotes { format!("\"{name}\"") } else { name.to_string() }
    };
    let concerns = Concern::ALL.iter().map(|concern| (concern.word(), CompletionItemKind::FOLDER, concern.about()));
    let rules = rules.iter().map(|(_, rule)| (rule.name, CompletionItemKind::VALUE, rule.what));
    concerns.chain(rules).map(|(name, kind, about)| Proposal::new(written(name), kind, Some(about))).collect()
}

fn parts(header: &str) -> Vec<&str> {
    let names = header.trim_start_matches('[').split('.').map(|name| name.trim().trim_matches('"'));
    names.filter(|name| !name.is_empty()).collect()
}

fn properties(schema: &Value) -> impl Iterator<Item = (&str, &Value)> {
    let own = schema.get("properties").or_else(|| schema.get("items").and_then(|items| items.get("properties")));
    own.and_then(Value::as_object).into_iter().flatten().map(|(name, value)| (name.as_str(), value))
}

fn inner<'v>(schema: &'v Value, name: &str) -> Option<&'v Value> {
    properties(schema).find(|(known, _)| *known == name).map(|(_, value)| value)
}

fn is_table(schema: &Value) -> bool {
    let items = schema.get("items").and_then(|items| items.get("type"));
    [schema.get("type"), items].into_iter().flatten().any(|kind| kind == "object")
}

fn about(schema: &Value) -> Option<&str> {
    schema.get("description").and_then(Value::as_str)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn words(above: &str, before: &str) -> Vec<String> {
        let proposals = Spot::of(above, before).proposals(&RuleSet::built_in());
        proposals.into_iter().map(|proposal| proposal.word).collect()
    }

    #[test]
    fn what_could_stand_at_a_place_is_proposed() {
        assert!(words("", "me").contains(&"mesh".to_string()));
        assert_eq!(words("", "mesh = "), ["\"coarse\"", "\"medium\"", "\"fine\""]);
        assert_eq!(words("", "mesh = \"c"), ["coarse", "medium", "fine"]);
        assert!(words("", "[").contains(&"rules".to_string()) && !words("", "[").contains(&"mesh".to_string()));
        assert!(words("mesh = \"fine\"\n[rules]\n", "unu").contains(&"unused-import".to_string()));
        assert!(words("[rules]\n", "unused-import = \"").contains(&"off".to_string()));
        assert!(words("[files]\n", "").contains(&"skip".to_string()));
        assert!(words("[[waive]]\n", "rules = [\"").contains(&"unused-import".to_string()));
        assert!(words("", "files = { ").contains(&"skip".to_string()));
    }
}
