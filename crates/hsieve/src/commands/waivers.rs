//! `hsieve waivers`

use serde_json::{Value, json};
use sieve_engine::outcome::{WaiverNote, WaiverState};
use sieve_engine::sift::Wants;

use crate::arguments::WaiversArguments;
use crate::run::Setup;
use crate::screen::{FAINT, STRONG, Screen, counted, safe, styled, width};
use crate::status::Status;

/// Lists every waiver, what needs care first.
pub fn run(arguments: &WaiversArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let setup = Setup::new(&arguments.common)?;
    let outcome = setup.sift(Wants::default())?.outcome;
    if arguments.output == "json" {
        let list: Vec<Value> = outcome.waivers.iter().map(as_json).collect();
        let document = json!({ "tool": "honest-sieve", "form": 1, "waivers": list });
        screen.raw((serde_json::to_string_pretty(&document)? + "\n").as_bytes())?;
    } else {
        table(&outcome.waivers, screen)?;
    }
    for error in &outcome.errors {
        eprintln!("hsieve: {error}");
    }
    Ok(if outcome.errors.is_empty() { Status::Clean } else { Status::Failed })
}

fn as_json(note: &WaiverNote) -> Value {
    json!({
        "path": &*note.path,
        "line": note.line,
        "rules": note.names,
        "because": note.reason,
        "until": note.until.map(|day| day.to_string()),
        "holds": note.holds,
        "state": note.state.word(),
    })
}

fn table(waivers: &[WaiverNote], screen: &mut Screen) -> anyhow::Result<()> {
    let place = |note: &WaiverNote| format!("{}:{}", safe(&note.path), note.line);
    let places = waivers.iter().map(|note| width(&place(note))).max().unwrap_or(0);
    for note in waivers {
        let state = match note.state {
            WaiverState::Holds => format!("holds {:>3}", note.holds),
            other => format!("{:<9}", other.word()),
        };
        let state = if note.state < WaiverState::Unsure { styled(STRONG, &state) } else { styled(FAINT, &state) };
        let until = note.until.map_or(String::new(), |day| format!(" until {day}"));
        let reason =
            note.reason.as_deref().map_or("no reason given".to_string(), |reason| format!("because {}", safe(reason)));
        screen.line(format!(
            "{state}  {:<places$}  {}  {}",
            place(note),
            note.names.join(", "),
            styled(FAINT, &(reason + &until))
        ))?;
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
