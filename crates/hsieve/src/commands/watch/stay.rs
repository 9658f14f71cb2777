//! Changes told on a screen that stays: what was saved last comes first.

use std::sync::mpsc::{Receiver, channel};

use ratatui::crossterm::event::{self, Event, KeyCode, KeyEventKind, KeyModifiers};
use sieve_engine::fix::FixingRun;

use super::known::{Difference, Known};
use super::look::{Teller, Watch};
use super::picture;
use super::view::View;
use super::watcher::{Changed, Watcher};
use crate::screen::counted;
use crate::status::Status;
use crate::terminal::{FullScreen, Palette};

/// The screen.
pub struct Stay {
    terminal: FullScreen,
    palette: Palette,
    keys: Receiver<Event>,
    view: View,
}

impl Stay {
    /// Takes the terminal, and reads its keys from now on.
    pub fn take(palette: Palette, watcher: &Watcher) -> anyhow::Result<Stay> {
        let terminal = FullScreen::take()?;
        let (sender, keys) = channel();
        let (wake, pending) = (watcher.waker(), watcher.pending());
        std::thread::spawn(move || {
            while let Ok(event) = event::read() {
                // Who leaves does not wait for a look at everything.
                let leaves = matches!(event, Event::Key(key) if key.code == KeyCode::Char('q') || is_break(key));
                pending.fetch_or(leaves, std::sync::atomic::Ordering::Relaxed);
                if sender.send(event).is_err() {
                    break;
                }
                wake();
            }
        });
        Ok(Stay { terminal, palette, keys, view: View::default() })
    }

    /// Shows what changes until the user leaves.
    pub fn go_on(mut self, watch: &mut Watch, why: Option<String>) -> anyhow::Result<Status> {
        why.into_iter().for_each(|why| self.view.complain(why));
        loop {
            self.draw(&watch.known)?;
            let changed = watch.watcher.wait();
            if self.take_keys(watch)? {
                return Ok(Status::Clean);
            }
            if let Some(changed) = changed.filter(|_| !self.view.is_paused) {
                watch.look(&changed, &mut self)?;
            }
        }
    }

    fn draw(&mut self, known: &Known) -> anyhow::Result<()> {
        let (view, palette) = (&mut self.view, self.palette);
        Ok(self.terminal.draw(|frame| picture::draw(frame, view, known, palette))?)
    }

    /// Does what the keys say that were pressed; whether the user leaves.
    fn take_keys(&mut self, watch: &mut Watch) -> anyhow::Result<bool> {
        while let Ok(event) = self.keys.try_recv() {
            let key = match event {
                Event::Key(key) if key.kind != KeyEventKind::Release => key,
                Event::Resize(..) => {
                    self.terminal.begin_again()?;
                    continue;
                }
                _ => continue,
            };
            let page = self.view.page.saturating_sub(1).max(1);
            let asked = self.view.asked.take();
            match key.code {
                KeyCode::Char('y') if asked.is_some() => self.fix(watch)?,
                _ if asked.is_some() => self.view.say("not applied"),
                KeyCode::Char('q') => return Ok(true),
                _ if is_break(key) => return Ok(true),
                KeyCode::Char('z') if key.modifiers.contains(KeyModifiers::CONTROL) => self.terminal.stop()?,
                KeyCode::Char('a') => (self.view.shows_all, self.view.top) = (!self.view.shows_all, 0),
                KeyCode::Char('p') => self.pause(watch)?,
                KeyCode::Char('f') => self.view.ask(&watch.known),
                KeyCode::Down | KeyCode::Char('j') => self.view.top += 1,
                KeyCode::Up | KeyCode::Char('k') => self.view.top = self.view.top.saturating_sub(1),
                KeyCode::PageDown | KeyCode::Char(' ') => self.view.top += page,
                KeyCode::PageUp => self.view.top = self.view.top.saturating_sub(page),
                KeyCode::Home => self.view.top = 0,
                KeyCode::End => self.view.top = usize::MAX / 2,
                _ => {}
            }
        }
        Ok(false)
    }

    fn pause(&mut self, watch: &mut Watch) -> anyhow::Result<()> {
        self.view.is_paused = !self.view.is_paused;
        if self.view.is_paused {
            self.view.say("changes wait until p is pressed again");
            return Ok(());
        }
        self.view.say("looked at what changed meanwhile");
        watch.look(&Changed { anything: true, ..Changed::default() }, self)
    }

    /// Applies the exact fixes of what is shown.
    fn fix(&mut self, watch: &mut Watch) -> anyhow::Result<()> {
        let mut files = Vec::new();
        for shown in self.view.shown(&watch.known) {
            let path = watch.workspace.project().path_of(&shown);
            let fixed = watch.workspace.fixed(&path, &[]);
            files.extend(fixed.ok().flatten().filter(|file| file.before != file.after));
        }
        let written = FixingRun::begin(watch.workspace.project(), true).and_then(|run| run.write_all(&files));
        match written {
            Err(error) => self.view.complain(format!("nothing was fixed: {error}")),
            Ok(written) if !written.errors.is_empty() => self.view.complain(written.errors[0].to_string()),
            Ok(written) => {
                let applied: usize = written.files.iter().flat_map(|file| file.fixed.applied.values()).sum();
                let files = counted(written.files.len(), "file", "files");
                let fixes = counted(applied, "fix", "fixes");
                self.view.say(&format!("applied {fixes} in {files}; hsieve fix --undo takes them back"));
            }
        }
        Ok(())
    }
}

fn is_break(key: event::KeyEvent) -> bool {
    key.code == KeyCode::Char('c') && key.modifiers.contains(KeyModifiers::CONTROL)
}

impl Teller for Stay {
    fn tell(&mut self, changed: &[String], difference: &Difference, known: &Known) -> anyhow::Result<()> {
        self.view.take(changed, difference);
        self.draw(known)
    }

    fn complain(&mut self, words: String) {
        self.view.complain(words);
    }
}
