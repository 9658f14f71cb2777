//! `hsieve waive`

use std::path::Path;
use std::sync::Arc;

use sieve_engine::Date;
use sieve_engine::discover::language_of_name;
use sieve_engine::elsewhere::Elsewhere;
use sieve_engine::files;
use sieve_engine::outcome::Held;
use sieve_engine::project::absolute;
use sieve_engine::settings::{Overrides, SettingsTree, rules_named};
use sieve_engine::sift::{Subject, Wants, sift_text};
use sieve_engine::{NewWaiver, waive};
use sieve_rules::Mesh;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::arguments::WaiveArguments;
use crate::run::{here, shown, unknown_rule};
use crate::screen::{FAINT, STRONG, Screen, TYPED, counted, safe, styled};
use crate::status::{Status, usage};

/// Writes a waiver for a line.
pub fn run(arguments: &WaiveArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let asked = Asked::read(arguments)?;
    let name = asked.name;
    let project = here()?;
    let path = absolute(&project.folder, Path::new(name));
    let bytes = files::read(Path::new(name))?;
    let finest = Overrides { mesh: Some(Mesh::Fine), ..Overrides::default() };
    let settings =
        SettingsTree::new(&project.root, None, finest)?.for_file(&path).map_err(|error| shown(&project, error))?;
    let Some(language) = language_of_name(name, &bytes, &settings) else {
        return usage(format!("{name}: the language of this file is not known"));
    };
    let text = language.decode(bytes).map_err(|error| anyhow::anyhow!("{name}: the file {error}"))?;
    let (after, at) = asked.write(&text, language)?;
    let elsewhere = Elsewhere::default();
    let subject = Subject {
        shown: Arc::from(name),
        language,
        settings: &settings,
        path: &path,
        elsewhere: &elsewhere,
        project: &project,
    };
    let findings = sift_text(&after, &subject, Wants::default(), sieve_engine::today()).findings;
    let by_it = |held: &Held| matches!(held, Held::Waiver { line, .. } if *line == at);
    let held = findings.iter().filter(|finding| finding.held.as_ref().is_some_and(by_it)).count();
    screen.line(format!(
        "{}  {}",
        styled(STRONG, &format!("{}:{at}", safe(name))),
        styled(TYPED, &written_line(&after, at))
    ))?;
    let note = match held {
        0 => "It holds nothing back: is it the right line, and the right rule?".to_string(),
        count => format!("It holds back {}.", counted(count, "finding", "findings")),
    };
    screen.line(styled(FAINT, &note))?;
    Ok(Status::Clean)
}

/// What was asked for, checked.
struct Asked<'a> {
    name: &'a str,
    line: u32,
    rules: &'a [String],
    because: String,
    until: Option<Date>,
}

impl<'a> Asked<'a> {
    fn read(arguments: &'a WaiveArguments) -> anyhow::Result<Asked<'a>> {
        let place = arguments.place.rsplit_once(':').and_then(|(name, line)| Some((name, line.parse().ok()?)));
        let Some((name, line)) = place else {
            return usage(format!("{}: name a file and a line, such as booking/fares.py:14", arguments.place));
        };
        if let Some(unknown) = arguments.rules.iter().find(|rule| rules_named(rule).is_empty()) {
            return unknown_rule("", unknown);
        }
        // A line end in the reason would end the comment.
        let because = arguments.because.split_whitespace().collect::<Vec<_>>().join(" ");
        if because.is_empty() {
            return usage("--because is empty: say why, for whoever meets the waiver later");
        }
        let until = match arguments.until.as_deref().map(str::parse::<Date>) {
            None => None,
            Some(Ok(day)) => Some(day),
            Some(Err(_)) => return usage("--until is a day such as 2027-06-30"),
        };
        Ok(Asked { name, line, rules: &arguments.rules, because, until })
    }

    /// Writes the file; gives its new text, and the line of the waiver.
    fn write(&self, text: &Text, language: Language) -> anyhow::Result<(Text, u32)> {
        let new = NewWaiver { names: self.rules, because: &self.because, until: self.until };
        let (source, at) = match waive(language, text, self.line, &new) {
            Ok(written) => written,
            Err(error) => return usage(format!("{}:{}: {error}", self.name, self.line)),
        };
        let after = Text::with_encoding(source, text.encoding());
        let Some(bytes) = after.encode() else {
            let encoding = text.encoding().name();
            return usage(format!("{}: the reason has no form in the file's encoding, {encoding}", self.name));
        };
        files::write(Path::new(self.name), &bytes)?;
        Ok((after, at))
    }
}

fn written_line(text: &Text, line: u32) -> String {
    safe(text.slice(text.lines().line(text.source(), line)).trim())
}
