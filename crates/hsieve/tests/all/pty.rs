//! The built program on a pseudo-terminal, with what its screen shows.

use std::io::{Read, Write};
use std::sync::mpsc::{Receiver, channel};
use std::time::{Duration, Instant};

use assert_cmd::cargo::cargo_bin;
use portable_pty::{Child, CommandBuilder, MasterPty, PtySize, native_pty_system};

use crate::ferry::Ferry;

/// What has not come by then does not come.
const PATIENCE: Duration = Duration::from_secs(60);

/// A program on a terminal of its own.
pub struct Pty {
    master: Box<dyn MasterPty + Send>,
    keys: Box<dyn Write + Send>,
    child: Box<dyn Child + Send + Sync>,
    shown: Receiver<Vec<u8>>,
    parser: vt100::Parser,
    /// All that came, byte for byte.
    pub raw: Vec<u8>,
}

fn size(columns: u16, rows: u16) -> PtySize {
    PtySize { rows, cols: columns, pixel_width: 0, pixel_height: 0 }
}

impl Pty {
    /// Starts the program in a code base, with some variables on top of the usual ones.
    pub fn start(ferry: &Ferry, (columns, rows): (u16, u16), arguments: &[&str], variables: &[(&str, &str)]) -> Pty {
        let pair = native_pty_system().openpty(size(columns, rows)).expect("a pseudo-terminal");
        let mut command = CommandBuilder::new(cargo_bin!("hsieve"));
        command.args(arguments);
        command.cwd(ferry.path("."));
        for name in ["NO_COLOR", "VISUAL", "EDITOR"] {
            command.env_remove(name);
        }
        command.env("TERM", "xterm-256color");
        command.env("XDG_CACHE_HOME", ferry.path(".git/kept/cache"));
        command.env("XDG_STATE_HOME", ferry.path(".git/kept/state"));
        variables.iter().for_each(|(name, value)| command.env(name, value));
        let child = pair.slave.spawn_command(command).expect("the program starts");
        // Held open, it would keep the end of the output from being seen.
        drop(pair.slave);
        let mut output = pair.master.try_clone_reader().expect("its output");
        let keys = pair.master.take_writer().expect("its input");
        let (sender, shown) = channel();
        std::thread::spawn(move || {
            let mut buffer = [0; 8192];
            while let Ok(count @ 1..) = output.read(&mut buffer) {
                if sender.send(buffer[..count].to_vec()).is_err() {
                    break;
                }
            }
        });
        let parser = vt100::Parser::new(nonzero(rows), nonzero(columns), 0);
        Pty { master: pair.master, keys, child, shown, parser, raw: Vec::new() }
    }

    /// What the screen shows now, as far as it was read.
    pub fn screen(&self) -> String {
        self.parser.screen().contents()
    }

    /// The cells of the screen.
    pub fn cells(&self) -> &vt100::Screen {
        self.parser.screen()
    }

    /// Presses keys.
    pub fn press(&mut self, keys: &str) {
        self.keys.write_all(keys.as_bytes()).and_then(|()| self.keys.flush()).expect("it takes keys");
    }

    /// Waits until the screen is as wanted.
    #[track_caller]
    pub fn wait(&mut self, what: &str, wanted: impl Fn(&str) -> bool) {
        let until = Instant::now() + PATIENCE;
        while !wanted(&self.screen()) {
            match self.shown.recv_timeout(until.saturating_duration_since(Instant::now())) {
                Ok(bytes) => self.take(&bytes),
                Err(_) => panic!("it does not show {what}:\n{}", self.screen()),
            }
        }
    }

    /// Waits until the screen shows some words.
    #[track_caller]
    pub fn sees(&mut self, words: &str) {
        self.wait(words, |screen| screen.contains(words));
    }

    /// Presses keys and waits for words.
    #[track_caller]
    pub fn does(&mut self, keys: &str, words: &str) {
        self.press(keys);
        self.sees(words);
    }

    fn take(&mut self, bytes: &[u8]) {
        self.raw.extend_from_slice(bytes);
        self.parser.process(bytes);
    }

    /// Gives the terminal another size.
    pub fn resize(&mut self, columns: u16, rows: u16) {
        self.parser.screen_mut().set_size(nonzero(rows), nonzero(columns));
        self.master.resize(size(columns, rows)).expect("it is resized");
    }

    /// Waits for the end; gives the exit status and what is left on the screen.
    #[track_caller]
    pub fn end(mut self) -> (u32, String) {
        let until = Instant::now() + PATIENCE;
        while let Ok(bytes) = self.shown.recv_timeout(until.saturating_duration_since(Instant::now())) {
            self.take(&bytes);
        }
        assert!(Instant::now() < until, "it does not end:\n{}", self.screen());
        assert!(!self.parser.screen().alternate_screen(), "the terminal is not given back");
        assert!(!self.parser.screen().hide_cursor(), "the cursor is not given back");
        let status = self.child.wait().expect("it ended").exit_code();
        let screen = self.screen();
        (status, screen)
    }
}

impl Drop for Pty {
    fn drop(&mut self) {
        // Where a test failed it still runs.
        let _ = self.child.kill();
    }
}

fn nonzero(number: u16) -> std::num::NonZeroU16 {
    std::num::NonZeroU16::new(number).expect("a terminal has room")
}
