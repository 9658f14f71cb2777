//! A line that is typed.

use ratatui::crossterm::event::{KeyCode, KeyEvent, KeyModifiers};

use crate::screen::is_unsafe;

/// The most characters of a line.
const LONGEST: usize = 400;

/// The line, and the place of the cursor in characters.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Input {
    characters: Vec<char>,
    at: usize,
}

/// What a key did to the line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Typed {
    /// It goes on.
    More,
    /// It is done.
    Done,
    /// It was given up.
    Cancelled,
}

impl Input {
    /// A line with something in it.
    pub fn with(text: &str) -> Input {
        let characters: Vec<char> = text.chars().collect();
        Input { at: characters.len(), characters }
    }

    /// What was typed.
    pub fn text(&self) -> String {
        self.characters.iter().collect()
    }

    /// The part before the cursor, and the part behind it.
    pub fn parts(&self) -> (String, String) {
        let (before, behind) = self.characters.split_at(self.at);
        (before.iter().collect(), behind.iter().collect())
    }

    /// Takes a key.
    pub fn key(&mut self, event: KeyEvent) -> Typed {
        let control = event.modifiers.contains(KeyModifiers::CONTROL);
        match event.code {
            KeyCode::Enter => return Typed::Done,
            KeyCode::Esc => return Typed::Cancelled,
            KeyCode::Char('c') if control => return Typed::Cancelled,
            KeyCode::Char('u') if control => drop(self.characters.drain(..std::mem::take(&mut self.at))),
            KeyCode::Char('w') if control => self.remove_word(),
            KeyCode::Char('a') if control => self.at = 0,
            KeyCode::Char('e') if control => self.at = self.characters.len(),
            KeyCode::Char(_) if control || event.modifiers.contains(KeyModifiers::ALT) => {}
            KeyCode::Char(character) => self.insert(character),
            KeyCode::Backspace if self.at > 0 => {
                self.at -= 1;
                self.characters.remove(self.at);
            }
            KeyCode::Delete if self.at < self.characters.len() => drop(self.characters.remove(self.at)),
            KeyCode::Left => self.at = self.at.saturating_sub(1),
            KeyCode::Right => self.at = (self.at + 1).min(self.characters.len()),
            KeyCode::Home => self.at = 0,
            KeyCode::End => self.at = self.characters.len(),
            _ => {}
        }
        Typed::More
    }

    fn insert(&mut self, character: char) {
        if !is_unsafe(character) && self.characters.len() < LONGEST {
            self.characters.insert(self.at, character);
            self.at += 1;
        }
    }

    fn remove_word(&mut self) {
        let end =
            self.characters[..self.at].iter().rposition(|character| !character.is_whitespace()).map_or(0, |at| at + 1);
        let start =
            self.characters[..end].iter().rposition(|character| character.is_whitespace()).map_or(0, |at| at + 1);
        self.characters.drain(start..self.at);
        self.at = start;
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn typed(input: &mut Input, keys: &[(KeyCode, KeyModifiers)]) {
        keys.iter().for_each(|(code, modifiers)| {
            input.key(KeyEvent::new(*code, *modifiers));
        });
    }

    #[test]
    fn a_line_is_edited_at_its_cursor() {
        let (none, control) = (KeyModifiers::NONE, KeyModifiers::CONTROL);
        let mut input = Input::with("the tide is ");
        typed(
            &mut input,
            &[(KeyCode::Char('w'), control), (KeyCode::Char('ö'), none), (KeyCode::Char('\u{202e}'), none)],
        );
        assert_eq!(input.text(), "the tide ö");
        typed(&mut input, &[(KeyCode::Home, none), (KeyCode::Delete, none), (KeyCode::Char('T'), none)]);
        assert_eq!(input.parts(), ("T".to_string(), "he tide ö".to_string()));
        typed(&mut input, &[(KeyCode::End, none), (KeyCode::Left, none), (KeyCode::Backspace, none)]);
        assert_eq!(input.parts(), ("The tide".to_string(), "ö".to_string()));
        typed(&mut input, &[(KeyCode::Char('u'), control), (KeyCode::Backspace, none)]);
        assert_eq!(input.text(), "ö");
    }
}
