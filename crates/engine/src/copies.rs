//! Copies of code that go over files.

use std::sync::Arc;

use rayon::prelude::*;
use sieve_rules::copies::{Window, copies, windows};
use sieve_rules::{Level, OptionValue, RuleId, catalogue};
use sieve_syntax::text::Text;

use crate::discover::Candidate;
use crate::outcome::{Finding, Identity};
use crate::sift::load::{bytes_of, text_of};
use crate::sift::{Request, in_pool};

/// A finding for each stretch that stands in an earlier file too. Files in which the rule is off are not looked at.
pub(crate) fn copied(request: &Request<'_>, files: &[Candidate]) -> Vec<Finding> {
    let Some(rule) = catalogue::named("repeated-block") else { return Vec::new() };
    let on: Vec<&Candidate> = files.iter().filter(|file| file.settings.level(rule) != Level::Off).collect();
    if on.is_empty() {
        return Vec::new();
    }
    let read: Vec<Option<(Text, Vec<Window>)>> =
        in_pool(request.threads, || on.par_iter().map(|file| of_file(file, rule)).collect());
    let texts: Vec<(&Candidate, Text, Vec<Window>)> =
        on.into_iter().zip(read).filter_map(|(file, read)| read.map(|(text, windows)| (file, text, windows))).collect();
    let (mut all, mut of_files) = (Vec::new(), Vec::new());
    for (file, text, windows) in texts {
        of_files.push((file, text));
        all.push(windows);
    }
    let across = copies(&all).into_iter().filter(|copied| copied.file != copied.first_file);
    across
        .map(|copied| {
            let ((file, text), (first, first_text)) = (&of_files[copied.file], &of_files[copied.first_file]);
            let line = first_text.place(copied.first_start).line;
            let code = text.slice(copied.span).split_whitespace().collect::<Vec<_>>().join(" ");
            Finding {
                rule,
                level: file.settings.level(rule),
                path: Arc::clone(&file.shown),
                span: copied.span,
                start: text.place(copied.span.start),
                end: text.place(copied.span.end),
                message: format!("these statements stand in {}:{line} too", first.shown),
                advice: Some("give them a name of their own, and use it twice".into()),
                fix: None,
                held: None,
                identity: Some(Identity { within: String::new(), code }),
                excerpt: None,
            }
        })
        .collect()
}

fn of_file(file: &Candidate, rule: RuleId) -> Option<(Text, Vec<Window>)> {
    let text = text_of(file, bytes_of(file, None).ok()?.ok()?).ok()?;
    let least = match file.settings.rule(rule).values.first()?.value {
        OptionValue::Count(least) => least,
        _ => return None,
    };
    let windows = if sieve_rules::names_tests(&file.shown) || sieve_rules::only_describes(&file.shown) {
        Vec::new()
    } else {
        windows(&text, &file.language.parse(&text), least)
    };
    Some((text, windows))
}
