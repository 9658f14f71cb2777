//! `hsieve waivers`

use std::collections::{BTreeMap, HashMap};
use std::io::IsTerminal;
use std::sync::Arc;

use serde_json::{Value, json};
use sieve_engine::git::{Git, LineOrigin, line_origins};
use sieve_engine::outcome::{WaiverNote, WaiverState};
use sieve_engine::project::Project;
use sieve_engine::run::Wants;

use crate::arguments::WaiversArguments;
use crate::output::document_text;
use crate::run::Setup;
use crate::screen::{FAINT, STRONG, Screen, complain, counted, safe, styled, width};
use crate::status::Status;

/// Columns of a waiver's state.
const STATE: usize = 9;

/// Lists every waiver, what needs care first.
pub fn run(arguments: &WaiversArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let setup = Setup::new(&arguments.common)?;
    let outcome = setup.sift(Wants::default())?.outcome;
    let origins = Origins::of(&setup.project, &outcome.waivers);
    if arguments.output == "json" {
        let list: Vec<Value> = outcome.waivers.iter().map(|note| as_json(note, &origins)).collect();
        let document = json!({ "tool": "honest-sieve", "form": 1, "waivers": list });
        screen.raw(document_text(&document)?.as_bytes())?;
    } else {
        table(&outcome.waivers, &origins, screen)?;
    }
    for error in &outcome.errors {
        complain(error);
    }
    Ok(if outcome.errors.is_empty() { Status::Clean } else { Status::Failed })
}

/// Who wrote each waiver and when, as far as git knows.
struct Origins {
    by_place: HashMap<(Arc<str>, u32), LineOrigin>,
}

impl Origins {
    /// Asks git once for each file with waivers. Outside of a repository nothing is known.
    fn of(project: &Project, waivers: &[WaiverNote]) -> Origins {
        let mut lines: BTreeMap<Arc<str>, Vec<u32>> = BTreeMap::new();
        for note in waivers {
            lines.entry(Arc::clone(&note.path)).or_default().push(note.line);
        }
        let mut by_place = HashMap::new();
        if let Ok(git) = Git::around(&project.folder) {
            for (path, lines) in lines {
                let whole = project.path_of(&path);
                // A file that git does not know has no history to tell.
                let found = line_origins(&git, &whole, &lines).unwrap_or_default();
                by_place.extend(found.into_iter().map(|(line, origin)| ((Arc::clone(&path), line), origin)));
            }
        }
        Origins { by_place }
    }

    fn get(&self, note: &WaiverNote) -> Option<&LineOrigin> {
        self.by_place.get(&(Arc::clone(&note.path), note.line))
    }
}

fn as_json(note: &WaiverNote, origins: &Origins) -> Value {
    let origin = origins.get(note);
    json!({
        "path": &*note.path,
        "line": note.line,
        "rules": note.names,
        "because": note.reason,
        "since": origin.map(|origin| origin.day.to_string()),
        "by": origin.map(|origin| origin.author.as_str()),
        "until": note.until.map(|day| day.to_string()),
        "holds": note.holds,
        "state": note.state.word(),
    })
}

/// A waiver's state in its style, what it is for, and why.
fn row(note: &WaiverNote, origins: &Origins) -> (String, String, String) {
    let state = match note.state {
        WaiverState::Holds => format!("holds {:>3}", note.holds),
        other => format!("{:<STATE$}", other.word()),
    };
    let state = if note.state < WaiverState::Unsure { styled(STRONG, &state) } else { styled(FAINT, &state) };
    let reason = note.reason.as_deref();
    let reason = reason.map_or("no reason given".to_string(), |reason| format!("because {}", safe(reason)));
    let until = note.until.map_or(String::new(), |day| format!(" until {day}"));
    let since =
        origins.get(note).map_or(String::new(), |origin| format!(", since {} by {}", origin.day, safe(&origin.author)));
    (state, note.names.join(", "), reason + &until + &since)
}

fn table(waivers: &[WaiverNote], origins: &Origins, screen: &mut Screen) -> anyhow::Result<()> {
    let place = |note: &WaiverNote| format!("{}:{}", safe(&note.path), note.line);
    let places = waivers.iter().map(|note| width(&place(note))).max().unwrap_or(0);
    let rows: Vec<(String, String, String)> = waivers.iter().map(|note| row(note, origins)).collect();
    let columns = |(_, names, why): &(String, String, String)| STATE + places + width(names) + width(why) + 6;
    // All in the same form: on a terminal that is too narrow for one of them, reasons are on lines of their own.
    let two_lines = std::io::stdout().is_terminal() && rows.iter().any(|row| columns(row) > screen.width());
    for (note, (state, names, why)) in waivers.iter().zip(&rows) {
        let head = format!("{state}  {:<places$}  {names}", place(note));
        if two_lines {
            screen.line(head)?;
            screen.line(format!("{:STATE$}  {}", "", styled(FAINT, why)))?;
        } else {
            screen.line(format!("{head}  {}", styled(FAINT, why)))?;
        }
    }
    let count = |state: WaiverState| waivers.iter().filter(|note| note.state == state).count();
    let held: u32 = waivers.iter().map(|note| note.holds).sum();
    let mut words = vec![format!("{} held back", counted(held as usize, "finding", "findings"))];
    for state in [WaiverState::Expired, WaiverState::Stale, WaiverState::Unsure] {
        if count(state) > 0 {
            words.push(format!("{} {}", count(state), state.word()));
        }
    }
    if !waivers.is_empty() {
        screen.gap()?;
    }
    screen.line(format!("{}, {}", styled(STRONG, &counted(waivers.len(), "waiver", "waivers")), words.join(", ")))
}
