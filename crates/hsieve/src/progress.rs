//! A bar on the terminal for runs that take long enough to be noticed.

use std::io::IsTerminal;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use sieve_engine::run::Progress;

/// How long a run takes before the bar shows.
const PATIENCE: Duration = Duration::from_millis(500);

/// The bar.
pub struct Bar {
    bar: ProgressBar,
    started: Instant,
    shown: AtomicBool,
    may_show: bool,
}

impl Bar {
    /// A bar that shows only on a terminal, and not with `quiet`.
    pub fn new(quiet: bool) -> Bar {
        let bar = ProgressBar::with_draw_target(None, ProgressDrawTarget::hidden());
        let style = ProgressStyle::with_template("  sifting {bar:28} {pos} of {len} files");
        bar.set_style(style.unwrap_or_else(|_| ProgressStyle::default_bar()).progress_chars("▪▪·"));
        let may_show = !quiet && std::io::stderr().is_terminal();
        Bar { bar, started: Instant::now(), shown: AtomicBool::new(false), may_show }
    }

    /// Takes the bar away.
    pub fn clear(&self) {
        self.bar.finish_and_clear();
    }
}

impl Progress for Bar {
    fn start(&self, files: usize) {
        self.bar.set_length(files as u64);
    }

    fn step(&self) {
        self.bar.inc(1);
        if self.may_show && self.started.elapsed() > PATIENCE && !self.shown.swap(true, Ordering::Relaxed) {
            self.bar.set_draw_target(ProgressDrawTarget::stderr_with_hz(12));
        }
    }
}
