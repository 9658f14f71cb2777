//! The keys: what each does, and how help names it.

use ratatui::crossterm::event::{KeyCode, KeyEvent, KeyModifiers};

/// What a key does.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Command {
    /// The cursor goes down by so many findings, or up.
    Move(isize),
    /// The cursor goes by a page, down or up.
    Page(isize),
    /// The cursor goes to the first finding, or to the last.
    Jump { to_end: bool },
    /// The cursor goes to the next finding that is open.
    NextOpen,
    /// What is said of the finding is scrolled, down or up.
    Scroll(isize),
    /// Keys reach further.
    Reach,
    /// Applies the fix.
    Fix,
    /// Asks for a reason and waives.
    Waive,
    /// Records in the baseline.
    Record,
    /// Asks for a level and for where it is to hold.
    Level,
    /// Passes over it.
    Skip,
    /// Takes the last action back.
    Undo,
    /// Opens the file in the editor.
    Edit,
    /// Types words that findings must have.
    Filter,
    /// Groups by something else.
    Group,
    /// Shows what is done, or not.
    HideDone,
    /// Looks at the files again.
    Look,
    /// Shows the keys.
    Help,
    /// Clears the filter and the reach.
    Clear,
    /// Leaves.
    Quit,
    /// Stops the program, for the shell.
    Stop,
}

/// A command with its keys.
pub struct Binding {
    /// The command.
    pub command: Command,
    /// The keys as they are read.
    keys: &'static [(KeyCode, KeyModifiers)],
    /// The keys as they are written.
    pub name: &'static str,
    /// What it does, for help; empty where another line says it as well.
    pub about: &'static str,
    /// The word in the last line of the screen, if it is there.
    pub short: &'static str,
}

const NONE: KeyModifiers = KeyModifiers::NONE;
const CONTROL: KeyModifiers = KeyModifiers::CONTROL;

const fn binding(
    command: Command,
    keys: &'static [(KeyCode, KeyModifiers)],
    name: &'static str,
    about: &'static str,
    short: &'static str,
) -> Binding {
    Binding { command, keys, name, about, short }
}

/// Every binding, in the order of the help.
pub const BINDINGS: &[Binding] = &[
    binding(Command::Fix, &[(KeyCode::Char('f'), NONE)], "f", "apply the fix", "fix"),
    binding(
        Command::Waive,
        &[(KeyCode::Char('w'), NONE)],
        "w",
        "waive it, with a reason and perhaps a last day",
        "waive",
    ),
    binding(Command::Record, &[(KeyCode::Char('b'), NONE)], "b", "record it in the baseline", "record"),
    binding(
        Command::Level,
        &[(KeyCode::Char('l'), NONE)],
        "l",
        "change the level of its rule in the file, the folder or everywhere",
        "level",
    ),
    binding(Command::Skip, &[(KeyCode::Char('s'), NONE)], "s", "skip it", "skip"),
    binding(
        Command::Undo,
        &[(KeyCode::Char('u'), NONE)],
        "u",
        "undo the last of these; again for the one before",
        "undo",
    ),
    binding(
        Command::Reach,
        &[(KeyCode::Tab, NONE)],
        "Tab",
        "let the next act on all of its rule: in the file, then everywhere",
        "reach",
    ),
    binding(Command::Edit, &[(KeyCode::Char('e'), NONE)], "e", "open the place in $VISUAL or $EDITOR", "edit"),
    binding(
        Command::Move(1),
        &[(KeyCode::Down, NONE), (KeyCode::Char('j'), NONE)],
        "↓ ↑ or j k",
        "next finding, previous finding",
        "",
    ),
    binding(Command::Move(-1), &[(KeyCode::Up, NONE), (KeyCode::Char('k'), NONE)], "", "", ""),
    binding(Command::NextOpen, &[(KeyCode::Char('n'), NONE)], "n", "next finding with which nothing was done", ""),
    binding(
        Command::Page(1),
        &[(KeyCode::PageDown, NONE), (KeyCode::Char(' '), NONE)],
        "PgDn PgUp",
        "a page down, a page up",
        "",
    ),
    binding(Command::Page(-1), &[(KeyCode::PageUp, NONE)], "", "", ""),
    binding(Command::Jump { to_end: false }, &[(KeyCode::Home, NONE)], "Home End", "first finding, last finding", ""),
    binding(Command::Jump { to_end: true }, &[(KeyCode::End, NONE)], "", "", ""),
    binding(
        Command::Scroll(1),
        &[(KeyCode::Right, NONE), (KeyCode::Char('J'), NONE)],
        "→ ← or J K",
        "scroll what is said of the finding",
        "",
    ),
    binding(Command::Scroll(-1), &[(KeyCode::Left, NONE), (KeyCode::Char('K'), NONE)], "", "", ""),
    binding(Command::Filter, &[(KeyCode::Char('/'), NONE)], "/", "list only findings with some words", "filter"),
    binding(Command::Group, &[(KeyCode::Char('g'), NONE)], "g", "group by file, by rule, by owner", "group"),
    binding(Command::HideDone, &[(KeyCode::Char('h'), NONE)], "h", "hide what is done, or show it", ""),
    binding(Command::Look, &[(KeyCode::Char('r'), NONE)], "r", "look at the files again", ""),
    binding(Command::Clear, &[(KeyCode::Esc, NONE)], "Esc", "act on one finding again, list all", ""),
    binding(Command::Help, &[(KeyCode::Char('?'), NONE)], "?", "", "help"),
    binding(
        Command::Quit,
        &[(KeyCode::Char('q'), NONE), (KeyCode::Char('c'), CONTROL)],
        "q",
        "leave; what was done stays done, and is listed",
        "quit",
    ),
    binding(Command::Stop, &[(KeyCode::Char('z'), CONTROL)], "", "", ""),
];

/// What a key does, if anything. That a letter needed Shift is in the letter already.
pub fn command_of(event: KeyEvent) -> Option<Command> {
    let pressed = (event.code, event.modifiers - KeyModifiers::SHIFT);
    BINDINGS.iter().find(|binding| binding.keys.contains(&pressed)).map(|binding| binding.command)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_guide_has_every_key() {
        let guide = include_str!("../../../../docs/guide/triage.md");
        let rows: Vec<String> = BINDINGS
            .iter()
            .filter(|binding| !binding.about.is_empty())
            .map(|binding| format!("| `{}` | {} |", binding.name, binding.about))
            .collect();
        assert!(guide.contains(&rows.join("\n")), "{}", rows.join("\n"));
    }

    #[test]
    fn no_key_does_two_things() {
        let mut keys: Vec<String> =
            BINDINGS.iter().flat_map(|binding| binding.keys).map(|key| format!("{key:?}")).collect();
        let all = keys.len();
        keys.sort();
        keys.dedup();
        assert_eq!(keys.len(), all);
    }
}
