//! What is on the screen, and what keys do to it.

use std::path::{Path, PathBuf};

use ratatui::crossterm::event::{KeyCode, KeyEvent};
use sieve_engine::day_named;
use sieve_rules::{FixKind, Level};

use super::acts::{Act, Somewhere};
use super::input::{Input, Typed};
use super::item::Item;
use super::items::{Id, Since};
use super::keys::{Command, command_of};
use super::list::{List, Reach};
use super::source::Source;
use super::work::Work;
use crate::screen::counted;

/// What the next key is for.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Mode {
    /// The list.
    List,
    /// Words for the filter.
    Filter(Input),
    /// The reason of a waiver.
    Reason(Input),
    /// Its last day, with the reason.
    Until(String, Input),
    /// A level.
    Level,
    /// Where the level is to hold.
    Place(Level),
    /// Why, for a level that does not hold everywhere.
    Because(Level, Somewhere, Input),
    /// Whether to apply fixes, so many of them not exact.
    Confirm(usize),
    /// The keys.
    Help,
}

/// What is to happen after a key, besides another picture.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum After {
    /// Nothing.
    Go,
    /// Something that takes a while.
    Work(Job),
    /// The editor, at a place.
    Edit(PathBuf, u32),
    /// The program stops for the shell.
    Stop,
    /// It ends.
    Quit,
}

/// Work on files.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Job {
    /// An action on what is reached.
    Act(Act),
    /// The last action is taken back.
    Undo,
    /// Files are looked at again.
    Look,
}

/// The screen's state.
pub struct Session {
    /// The findings and the code.
    pub work: Work,
    /// The list.
    pub list: List,
    /// How far keys reach.
    pub reach: Reach,
    /// What the next key is for.
    pub mode: Mode,
    /// What happened last, and whether it went wrong.
    pub message: Option<(String, bool)>,
    /// How far down what is said of the finding is scrolled, in lines.
    pub scroll: usize,
    /// Lines of the list in the last picture.
    pub page: usize,
    source: Option<(PathBuf, Option<Source>)>,
}

impl Session {
    /// The list of all findings, the first one under the cursor.
    pub fn new(work: Work) -> Session {
        let mut list = List::default();
        list.rebuild(&work.items, &work.rules);
        let (reach, mode) = (Reach::One, Mode::List);
        Session { work, list, reach, mode, message: None, scroll: 0, page: 1, source: None }
    }

    /// The finding under the cursor.
    pub fn current(&self) -> Option<&Item> {
        self.list.current().map(|id| self.work.items.get(id))
    }

    /// The findings that the next action is for.
    pub fn reached(&self) -> Vec<Id> {
        self.list.reached(&self.work.items, self.reach)
    }

    /// Reads the file of the finding under the cursor, unless it is the one that was read last.
    pub fn read_source(&mut self) {
        let Some(path) = self.current().map(|item| self.work.project().path_of(&item.finding.path)) else { return };
        if self.source.as_ref().is_none_or(|(known, _)| *known != path) {
            let source = self.work.source(&path);
            self.source = Some((path, source));
        }
    }

    /// The file that was read last.
    pub fn source(&self) -> Option<&Source> {
        self.source.as_ref()?.1.as_ref()
    }

    /// Takes a key.
    pub fn key(&mut self, event: KeyEvent) -> After {
        match std::mem::replace(&mut self.mode, Mode::List) {
            Mode::List => match command_of(event) {
                Some(command) => {
                    self.message = None;
                    self.run(command)
                }
                None => After::Go,
            },
            Mode::Help => After::Go,
            Mode::Filter(input) => self.filter(input, event),
            Mode::Confirm(_) => match event.code {
                KeyCode::Char('y') => After::Work(Job::Act(Act::Fix)),
                _ => self.say("not applied"),
            },
            Mode::Level => self.level(event),
            Mode::Place(level) => self.place(level, event),
            Mode::Reason(mut input) => match input.key(event) {
                Typed::More => self.ask(Mode::Reason(input)),
                Typed::Cancelled => self.say("not waived"),
                Typed::Done => self.reason(input),
            },
            Mode::Until(because, mut input) => match input.key(event) {
                Typed::More => self.ask(Mode::Until(because, input)),
                Typed::Cancelled => self.say("not waived"),
                Typed::Done => self.until(because, input),
            },
            Mode::Because(level, place, mut input) => match input.key(event) {
                Typed::More => self.ask(Mode::Because(level, place, input)),
                Typed::Cancelled => self.say("the level is as it was"),
                Typed::Done => {
                    let because = words(&input);
                    After::Work(Job::Act(Act::Level(level, place, Some(because).filter(|because| !because.is_empty()))))
                }
            },
        }
    }

    fn run(&mut self, command: Command) -> After {
        let page = self.page.saturating_sub(1).max(1) as isize;
        match command {
            Command::Move(by) => self.moved(|list, _| list.step(by)),
            Command::Page(by) => self.moved(|list, _| list.step(by * page)),
            Command::Jump { to_end } => self.moved(|list, _| list.jump(to_end)),
            Command::NextOpen => self.moved(|list, work| list.next_open(&work.items)),
            Command::Scroll(by) => self.scroll = self.scroll.saturating_add_signed(by),
            Command::Reach => self.reach = self.reach.next(),
            Command::Group => self.list.regroup(&self.work.items, &self.work.rules),
            Command::HideDone => {
                self.list.shows_done = !self.list.shows_done;
                self.rebuild();
            }
            Command::Clear => {
                self.reach = Reach::One;
                self.list.filter.clear();
                self.rebuild();
            }
            Command::Filter => return self.ask(Mode::Filter(Input::with(&self.list.filter))),
            Command::Help => return self.ask(Mode::Help),
            Command::Look => return After::Work(Job::Look),
            Command::Undo => return After::Work(Job::Undo),
            Command::Quit => return After::Quit,
            Command::Stop => return After::Stop,
            Command::Edit => return self.edit(),
            Command::Fix | Command::Waive | Command::Record | Command::Level | Command::Skip => {
                return self.begin(command);
            }
        }
        After::Go
    }

    /// Begins an action: at once, or with a question.
    fn begin(&mut self, command: Command) -> After {
        let reached = self.reached();
        if reached.is_empty() {
            return self.refuse("nothing is left to do here; u takes the last action back");
        }
        match command {
            Command::Fix => self.fix(&reached),
            Command::Waive => self.ask(Mode::Reason(Input::default())),
            Command::Level => self.ask(Mode::Level),
            Command::Record => After::Work(Job::Act(Act::Record)),
            _ => After::Work(Job::Act(Act::Skip)),
        }
    }

    fn fix(&mut self, reached: &[Id]) -> After {
        let fixes = reached.iter().filter_map(|id| self.work.items.get(*id).finding.fix.as_ref());
        let kinds: Vec<FixKind> = fixes.map(|fix| fix.kind).collect();
        let to_review = kinds.iter().filter(|kind| **kind == FixKind::Review).count();
        match (kinds.len(), to_review) {
            (0, _) => self.refuse("there is no fix: waive it (w), record it (b), or edit (e)"),
            // The one under the cursor has been seen.
            (1, _) | (_, 0) => After::Work(Job::Act(Act::Fix)),
            (_, to_review) => self.ask(Mode::Confirm(to_review)),
        }
    }

    fn filter(&mut self, mut input: Input, event: KeyEvent) -> After {
        let typed = input.key(event);
        self.list.filter = if typed == Typed::Cancelled { String::new() } else { input.text() };
        self.rebuild();
        if typed == Typed::More { self.ask(Mode::Filter(input)) } else { After::Go }
    }

    fn level(&mut self, event: KeyEvent) -> After {
        let level = match event.code {
            KeyCode::Char('e') => Level::Error,
            KeyCode::Char('w') => Level::Warning,
            KeyCode::Char('n') => Level::Note,
            KeyCode::Char('o') => Level::Off,
            _ => return self.say("the level is as it was"),
        };
        self.ask(Mode::Place(level))
    }

    fn place(&mut self, level: Level, event: KeyEvent) -> After {
        match event.code {
            KeyCode::Char('f') => self.ask(Mode::Because(level, Somewhere::File, Input::default())),
            KeyCode::Char('d') => self.ask(Mode::Because(level, Somewhere::Folder, Input::default())),
            KeyCode::Char('e') => After::Work(Job::Act(Act::Level(level, Somewhere::Everywhere, None))),
            _ => self.say("the level is as it was"),
        }
    }

    fn reason(&mut self, input: Input) -> After {
        let because = words(&input);
        if !because.chars().any(char::is_alphanumeric) {
            self.message = Some(("state the reason for later readers, or leave with Esc".into(), true));
            return self.ask(Mode::Reason(input));
        }
        self.message = None;
        self.ask(Mode::Until(because, Input::default()))
    }

    fn until(&mut self, because: String, input: Input) -> After {
        let day = words(&input);
        let wrong = match (day.as_str(), day_named(&day)) {
            ("", _) => return After::Work(Job::Act(Act::Waive(because, None))),
            (_, Some(day)) if day >= sieve_engine::today() => {
                return After::Work(Job::Act(Act::Waive(because, Some(day))));
            }
            (_, Some(_)) => "that day is over: the waiver would hold nothing back",
            (_, None) => "a day such as 2027-06-30, or nothing",
        };
        self.message = Some((wrong.into(), true));
        self.ask(Mode::Until(because, input))
    }

    /// Does some work, and says what came of it.
    pub fn work(&mut self, job: &Job) {
        let reached = self.reached();
        let mut undone = Vec::new();
        let done = match job {
            Job::Act(act) => self.work.act(act, &reached),
            Job::Undo => self.work.undo().map(|(words, ids)| {
                undone = ids;
                words
            }),
            Job::Look => self.work.look(&Since::default()).map(|_| "looked at the files again".to_string()),
        };
        let is_done = done.is_ok();
        self.message = Some(match done {
            Ok(message) => (message, false),
            Err(error) => (format!("{error:#}"), true),
        });
        self.source = None;
        self.rebuild();
        if let Some(first) = undone.first() {
            self.list.go_to(*first);
            self.scroll = 0;
        }
        if is_done && matches!(job, Job::Act(_)) {
            // What reaches far is asked for each time.
            self.reach = Reach::One;
            self.list.next_open(&self.work.items);
            self.scroll = 0;
        }
    }

    fn edit(&mut self) -> After {
        let Some(item) = self.current() else { return self.refuse("there is no finding to open") };
        After::Edit(self.work.project().path_of(&item.finding.path), item.finding.start.line)
    }

    /// After the editor.
    pub fn edited(&mut self, path: &Path, result: anyhow::Result<()>) {
        self.work.forget(path);
        self.work(&Job::Look);
        if let Err(error) = result {
            self.message = Some((format!("{error:#}"), true));
        }
    }

    fn moved(&mut self, how: impl FnOnce(&mut List, &Work)) {
        how(&mut self.list, &self.work);
        self.scroll = 0;
    }

    fn rebuild(&mut self) {
        self.list.rebuild(&self.work.items, &self.work.rules);
    }

    fn ask(&mut self, mode: Mode) -> After {
        self.mode = mode;
        After::Go
    }

    fn say(&mut self, words: &str) -> After {
        self.message = Some((words.into(), false));
        After::Go
    }

    fn refuse(&mut self, words: &str) -> After {
        self.message = Some((words.into(), true));
        After::Go
    }

    /// What the next action is for, in words.
    pub fn reach_in_words(&self) -> String {
        let Some(item) = self.current() else { return String::new() };
        let (rule, count) = (self.work.rules.name(item.finding.rule), self.reached().len());
        let findings = counted(count, "finding", "findings");
        match self.reach {
            Reach::One => "this finding".to_string(),
            Reach::InFile => format!("{findings} of {rule} in this file"),
            Reach::Everywhere => format!("{findings} of {rule} everywhere"),
        }
    }
}

/// What was typed, with single spaces.
fn words(input: &Input) -> String {
    input.text().split_whitespace().collect::<Vec<_>>().join(" ")
}
