//! `hsieve fix`

use sieve_engine::fix::{self, FixOutcome, FixedFile, unified_diff};
use sieve_engine::sift::Wants;
use sieve_rules::catalogue;

use crate::arguments::FixArguments;
use crate::run::{Setup, shown};
use crate::screen::{FAINT, STRONG, Screen, counted, safe, styled};
use crate::status::Status;

/// Applies exact fixes, or shows what they would change.
pub fn run(arguments: &FixArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let setup = Setup::new(&arguments.common)?;
    let planned = setup.with_request(Wants::default(), fix::plan).map_err(|error| shown(&setup.project, error))?;
    let status =
        if arguments.preview { preview(&planned, screen)? } else { apply(&planned, arguments.common.quiet, screen)? };
    for (path, blame) in &planned.blamed {
        eprintln!("hsieve: {}: {blame}", safe(path));
    }
    for error in &planned.errors {
        eprintln!("hsieve: {error}");
    }
    Ok(if planned.errors.is_empty() { status } else { Status::Failed })
}

fn preview(planned: &FixOutcome, screen: &mut Screen) -> anyhow::Result<Status> {
    for file in &planned.files {
        let diff = unified_diff(&file.shown, &file.before, &file.after);
        if screen.in_colour() { screen.line(coloured(&diff))? } else { screen.raw(&diff)? }
    }
    Ok(if planned.files.is_empty() { Status::Clean } else { Status::Findings })
}

/// The diff for eyes: what goes and what comes in different colours.
fn coloured(diff: &[u8]) -> String {
    let text = String::from_utf8_lossy(diff);
    let lines: Vec<String> = text.lines().map(coloured_line).collect();
    lines.join("\n")
}

fn coloured_line(line: &str) -> String {
    use anstyle::{AnsiColor, Style};
    let colour = |colour: AnsiColor| Style::new().fg_color(Some(colour.into()));
    let line = safe(line);
    let style = match line.as_bytes().first() {
        _ if line.starts_with("--- ") || line.starts_with("+++ ") => STRONG,
        Some(b'@') => FAINT,
        Some(b'-') => colour(AnsiColor::Red),
        Some(b'+') => colour(AnsiColor::Green),
        _ => return line,
    };
    let text = line.trim_end_matches([' ', '\t']);
    let blanks = &line[text.len()..];
    // Blanks that come or go at the end of a line would not be seen otherwise.
    let blanks = if matches!(line.as_bytes().first(), Some(b'-' | b'+')) {
        styled(style.invert(), blanks)
    } else {
        String::new()
    };
    styled(style, text) + &blanks
}

fn apply(planned: &FixOutcome, quiet: bool, screen: &mut Screen) -> anyhow::Result<Status> {
    let mut status = Status::Clean;
    let mut written = 0;
    let mut applied = 0;
    for file in &planned.files {
        if let Err(error) = fix::write(file) {
            eprintln!("hsieve: {error}");
            status = Status::Failed;
            continue;
        }
        written += 1;
        applied += file.fixed.applied.values().sum::<usize>();
        if !quiet {
            screen.line(described(file))?;
        }
    }
    if !quiet {
        let files = counted(written, "file", "files");
        let fixes = counted(applied, "fix", "fixes");
        let looked_at = counted(planned.looked_at, "file", "files");
        let text = if applied == 0 { "Nothing to fix".to_string() } else { format!("Applied {fixes} in {files}") };
        screen.line(format!("{}{}", styled(STRONG, &text), styled(FAINT, &format!(", of {looked_at} looked at"))))?;
    }
    Ok(status)
}

fn described(file: &FixedFile) -> String {
    let rules: Vec<String> =
        file.fixed.applied.iter().map(|(rule, count)| format!("{count} {}", catalogue::rule(*rule).name)).collect();
    format!("fixed  {}  {}", styled(STRONG, &safe(&file.shown)), rules.join(", "))
}
