//! The code around a finding, with what each token is to the eye.

use std::path::Path;

use sieve_engine::discover::language_of_name;
use sieve_engine::files;
use sieve_engine::fix::{apply_edits, unified_diff};
use sieve_engine::outcome::Finding;
use sieve_engine::settings::Effective;
use sieve_rules::Edit;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::TokenClass;

/// Larger files are not shown, in bytes.
const LARGEST: u64 = 16 << 20;

/// Bytes of a line that are shown around a place in it: no terminal has room for more.
const AROUND: u32 = 1000;

/// A file as it was read last.
#[derive(Debug)]
pub struct Source {
    text: Text,
    /// Where the tokens begin, and what they are.
    tokens: Vec<(u32, TokenClass)>,
}

/// A part of a line.
#[derive(Debug, PartialEq, Eq)]
pub struct Part<'s> {
    /// Its bytes.
    pub span: Span,
    /// Its characters.
    pub text: &'s str,
    /// What it is.
    pub class: TokenClass,
}

impl Source {
    /// Reads a file, which is shown so and has these settings. One without a language has plain tokens alone.
    pub fn read(path: &Path, shown: &str, settings: &Effective) -> Option<Source> {
        let bytes = files::read_bounded(path, LARGEST).ok()?;
        let language = language_of_name(shown, &bytes, settings);
        let Some(language) = language else {
            let text = Text::new(String::from_utf8(bytes).ok()?);
            return Some(Source { text, tokens: Vec::new() });
        };
        let text = language.decode(bytes).ok()?;
        let tree = language.parse(&text);
        let tokens = tree.tokens().iter().map(|token| (token.start, token.kind.class())).collect();
        Some(Source { text, tokens })
    }

    /// How many lines there are.
    pub fn count(&self) -> u32 {
        self.text.lines().count()
    }

    /// The parts of a line near a place in it, in bytes.
    pub fn line(&self, line: u32, near: u32) -> Vec<Part<'_>> {
        let whole = self.text.lines().line(self.text.source(), line);
        let source = self.text.source();
        let near = near.clamp(whole.start, whole.end);
        let start = source.floor_char_boundary(near.saturating_sub(AROUND).max(whole.start) as usize) as u32;
        let end = source.floor_char_boundary((near + AROUND).min(whole.end) as usize) as u32;
        let mut parts = Vec::new();
        let mut at = start;
        let mut token = self.tokens.partition_point(|(begin, _)| *begin <= start);
        while at < end {
            let class = token.checked_sub(1).map_or(TokenClass::Plain, |token| self.tokens[token].1);
            let next = self.tokens.get(token).map_or(end, |(begin, _)| (*begin).min(end));
            if next > at {
                let span = Span::new(at, next);
                parts.push(Part { span, text: self.text.slice(span).trim_end_matches(['\r', '\n']), class });
            }
            at = next;
            token += 1;
        }
        parts
    }

    /// What the fix of a finding would change, as lines of a diff without heads, with at most so many lines less one around each change;
    /// nothing where the finding is not in this text.
    pub fn diff(&self, finding: &Finding, around: usize) -> Vec<String> {
        let Some(fix) = &finding.fix else { return Vec::new() };
        let source = self.text.source();
        let fits = |edit: &Edit| {
            let (start, end) = (edit.span.start as usize, edit.span.end as usize);
            end <= source.len() && source.is_char_boundary(start) && source.is_char_boundary(end)
        };
        if !fix.edits.iter().all(fits) {
            return Vec::new();
        }
        let after = apply_edits(source, &fix.edits.iter().collect::<Vec<_>>());
        let diff = unified_diff(b"", source.as_bytes(), after.as_bytes());
        let diff = String::from_utf8_lossy(&diff);
        let lines: Vec<&str> = diff.lines().skip(2).filter(|line| !line.starts_with("@@")).collect();
        let is_change = |at: &usize| lines[*at].starts_with(['+', '-']);
        let changes: Vec<usize> = (0..lines.len()).filter(is_change).collect();
        let is_near = |at: &usize| {
            let next = changes.partition_point(|change| *change < *at);
            let nearest = changes.get(next).into_iter().chain(next.checked_sub(1).map(|before| &changes[before]));
            nearest.into_iter().any(|change| change.abs_diff(*at) < around)
        };
        (0..lines.len()).filter(is_near).map(|at| lines[at].to_string()).collect()
    }
}
