//! `hsieve init`: checks the code base, proposes settings that agree with it, and offers what makes them work by themselves.

use std::collections::BTreeMap;
use std::path::Path;

use sieve_engine::baseline::{Attributes, Baseline};
use sieve_engine::files;
use sieve_engine::git::{Git, Hook, Hooks};
use sieve_engine::habits::{self, Habits};
use sieve_engine::outcome::{Outcome, UnsurePlace};
use sieve_engine::project::Project;
use sieve_engine::run::Wants;
use sieve_engine::settings::FILE_NAME;

use super::init_ci::{self, Written};
use super::init_proposal::{EDITOR_FILE, LENGTHS, Proposal};
use crate::arguments::{Common, InitArguments};
use crate::ask;
use crate::commands::hook::put_in;
use crate::run::{Setup, shown};
use crate::screen::{FAINT, STRONG, Screen, TYPED, counted, grouped, styled};
use crate::status::{Status, usage};

/// A step for every system that runs shell commands on what is proposed for the main line.
const CI_STEP: &str = "hsieve sift --changed origin/main --output lines";

/// What proposes an extension in a folder, and which.
const EXTENSIONS_FILE: &str = ".vscode/extensions.json";
const EXTENSIONS: &str = "{\n  \"recommendations\": [\"honest-sieve.honest-sieve\"]\n}\n";

/// Looks, proposes, asks, and writes what was agreed to.
pub fn run(arguments: &InitArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let setup = Setup::new(&Common::default())?;
    let path = setup.project.folder.join(FILE_NAME);
    if let Some(word) = arguments.with.as_deref().filter(|_| path.exists()) {
        write_job(&setup.project, word, screen)?;
        return Ok(Status::Clean);
    }
    if path.exists() {
        return usage(format!("{FILE_NAME} is here already; `hsieve settings set` changes it"));
    }
    let habits = setup.with_request(Wants::default(), habits::look).map_err(|error| shown(&setup.project, error))?;
    if habits.languages.is_empty() {
        return usage("there is no source here in a language that is known");
    }
    let outcome = setup.sift(Wants::IDENTITIES)?.outcome;
    let provided = provided(&setup.project, &outcome);
    let proposal = Proposal::of(&habits, &outcome, &provided);
    saw(&habits, &outcome, screen)?;
    screen.gap()?;
    screen.line(styled(STRONG, &format!("Proposed {FILE_NAME}")))?;
    for line in proposal.settings.lines() {
        screen.line(format!("  {}", styled(if line.starts_with('#') { FAINT } else { TYPED }, line)))?;
    }
    screen.gap()?;
    let mut asked = Asked { arguments, screen };
    if !asked.agree(&format!("Write {FILE_NAME}?"))? {
        asked.screen.line("Nothing was written; with --yes it is.")?;
        return Ok(Status::Clean);
    }
    files::write(&path, proposal.settings.as_bytes())?;
    asked.wrote(FILE_NAME, "")?;
    asked.baseline(&setup.project)?;
    asked.hook(&setup.project)?;
    asked.editor(&setup.project.folder, &proposal)?;
    asked.language_server(&setup.project.folder)?;
    match &arguments.with {
        Some(word) => write_job(&setup.project, word, screen)?,
        None => asked.ci()?,
    }
    screen.gap()?;
    screen.line(format!("{} shows what is left.", styled(TYPED, "hsieve sift")))?;
    Ok(Status::Clean)
}

/// Writes the job that a word names, and says what is left to do.
fn write_job(project: &Project, word: &str, screen: &mut Screen) -> anyhow::Result<()> {
    let (files, left) = init_ci::write(&project.root, word)?;
    for file in files {
        let (what, name) = match file {
            Written::New(name) => ("wrote", name),
            Written::Kept(name) => ("kept", name),
        };
        let aside = if what == "kept" { "as it was: it was there already" } else { "" };
        screen.line(format!("{}  {}", styled(STRONG, &format!("{what} {name}")), styled(FAINT, aside)))?;
    }
    screen.line(format!("Left to do: {left}."))
}

/// Fewer uses than this do not make a name that nothing defines one of the whole code base.
const FEWEST_USES: usize = 3;

/// The names that something outside of the code base gives to its files, with how often they are used.
fn provided(project: &Project, outcome: &Outcome) -> BTreeMap<String, usize> {
    let mut places: BTreeMap<&str, Vec<(u32, u32)>> = BTreeMap::new();
    for place in outcome.unsure.iter().filter(|place| place.reason == UnsurePlace::PROVIDED) {
        places.entry(&*place.path).or_default().push((place.start.line, place.start.column));
    }
    let mut names = BTreeMap::new();
    for (path, places) in places {
        let Ok(bytes) = files::read(&project.folder.join(path)) else { continue };
        let source = String::from_utf8_lossy(&bytes);
        let lines: Vec<&str> = source.lines().collect();
        for (line, column) in places {
            let Some(text) = lines.get(line as usize - 1) else { continue };
            let is_part = |letter: &char| letter.is_alphanumeric() || *letter == '_';
            let name: String = text.chars().skip(column as usize - 1).take_while(is_part).collect();
            *names.entry(name).or_insert(0) += 1;
        }
    }
    names.retain(|name, uses| !name.is_empty() && *uses >= FEWEST_USES);
    names
}

/// What was seen, in a few lines.
fn saw(habits: &Habits, outcome: &Outcome, screen: &mut Screen) -> anyhow::Result<()> {
    screen.line(styled(STRONG, "What is here"))?;
    let mut row = |label: &str, words: String| screen.line(format!("  {label:<10}  {words}"));
    for (language, (files, lines)) in &habits.languages {
        let indented = match habits.indent_of(*language) {
            Some((0, _)) => ", indented by tabs".to_string(),
            Some((width, _)) => format!(", indented by {}", counted(width, "space", "spaces")),
            None => String::new(),
        };
        let (files, lines) = (counted(*files, "file", "files"), counted(*lines, "line", "lines"));
        row(language.name(), format!("{files}, {lines}{indented}"))?;
    }
    if let Some(longest) = habits.usual_length(LENGTHS) {
        row("lines", format!("{} longer than {longest} characters", grouped(habits.longer_than(longest))))?;
    }
    let (double, single) = habits.quotes;
    if double + single > 0 {
        row("quotes", format!("{} double, {} single", grouped(double), grouped(single)))?;
    }
    for habit in habits.name_styles() {
        let share = habit.with * 100 / habit.all.max(1);
        let names = counted(habit.all, "name tells", "names tell");
        let kind = format!("{} {}", habit.language.name(), habit.kind);
        row("names", format!("{kind:<22} {} {share} %, {names}", habit.style))?;
    }
    for (cause, count) in outcome.left_out_by_cause() {
        row("left out", format!("{} {}", counted(count, "file", "files"), cause.describe()))?;
    }
    let caught = outcome.caught().count();
    row("findings", format!("{} with the medium mesh", grouped(caught)))
}

/// Questions, answered on a terminal or by the options.
struct Asked<'a> {
    arguments: &'a InitArguments,
    screen: &'a mut Screen,
}

impl Asked<'_> {
    /// Asks a question; with `--yes` the answer is yes, at the end of the input no.
    fn agree(&mut self, question: &str) -> anyhow::Result<bool> {
        if self.arguments.yes {
            return Ok(true);
        }
        ask::agree(question, self.screen)
    }

    fn wrote(&mut self, name: &str, what: &str) -> anyhow::Result<()> {
        self.screen.line(format!("{}  {}", styled(STRONG, &format!("wrote {name}")), styled(FAINT, what)))
    }

    fn leaves_out(&self, what: &str) -> bool {
        self.arguments.without.iter().any(|word| word == what)
    }

    /// With the new settings the findings may be others: they are looked for again.
    fn baseline(&mut self, project: &Project) -> anyhow::Result<()> {
        let setup = Setup::new(&Common::default())?;
        let outcome = setup.sift(Wants::IDENTITIES)?.outcome;
        let findings = outcome.caught().count();
        if findings == 0 || setup.baseline.is_some() || self.leaves_out("baseline") {
            return Ok(());
        }
        let what = counted(findings, "old finding", "old findings");
        if self.agree(&format!("Record {what} in a baseline, so that only new ones fail a run?"))? {
            let mut baseline = Baseline::empty(Baseline::path_in(project));
            let added = baseline.add(project, outcome.caught(), &outcome.rules, setup.today);
            baseline.write()?;
            let shown = project.shown(&baseline.path);
            self.wrote(&shown, &counted(added, "finding recorded", "findings recorded"))?;
            if let Some(attributes) = Attributes::lacking(&baseline.path)
                && self.agree(Attributes::QUESTION)?
            {
                attributes.write()?;
                self.wrote(&project.shown(&attributes.path), "")?;
            }
        }
        Ok(())
    }

    fn hook(&mut self, project: &Project) -> anyhow::Result<()> {
        let Ok(git) = Git::around(&project.folder) else { return Ok(()) };
        if self.leaves_out("hook") || !self.agree("Put a hook into git that sifts what is about to be committed?")? {
            return Ok(());
        }
        put_in(&Hooks::of(&git)?, &[Hook::Commit], self.screen)
    }

    fn editor(&mut self, folder: &Path, proposal: &Proposal) -> anyhow::Result<()> {
        let path = folder.join(EDITOR_FILE);
        if path.exists() || self.leaves_out("editor") {
            return Ok(());
        }
        if self.agree(&format!("Write {EDITOR_FILE}, so that editors indent and end lines as the code does?"))? {
            files::write(&path, proposal.editor.as_bytes())?;
            self.wrote(EDITOR_FILE, "")?;
        }
        Ok(())
    }

    /// Editors have settings of each user; only one family proposes extensions to all who open a folder.
    fn language_server(&mut self, folder: &Path) -> anyhow::Result<()> {
        if self.leaves_out("editor") {
            return Ok(());
        }
        let path = folder.join(EXTENSIONS_FILE);
        if folder.join(".vscode").is_dir()
            && !path.exists()
            && self.agree(&format!(
                "Write {EXTENSIONS_FILE}, so that the extension is proposed to all who open the folder?"
            ))?
        {
            files::write(&path, EXTENSIONS.as_bytes())?;
            self.wrote(EXTENSIONS_FILE, "")?;
        }
        self.screen.gap()?;
        self.screen.line("Editors show findings while code is written; what they start is")?;
        self.screen.line(format!(
            "  {}   {}",
            styled(TYPED, "hsieve lsp"),
            styled(FAINT, "(the guide has a page on editors)")
        ))
    }

    /// The step is only shown: where it belongs depends on what runs it.
    fn ci(&mut self) -> anyhow::Result<()> {
        if self.leaves_out("ci") {
            return Ok(());
        }
        self.screen.gap()?;
        self.screen.line("For a job that checks what is proposed, in a full clone:")?;
        self.screen.line(format!("  {}", styled(TYPED, CI_STEP)))?;
        self.screen.line("A whole job, with results for the code host:")?;
        let words = styled(FAINT, "(or ci=github, ci=gitlab)");
        self.screen.line(format!("  {}   {words}", styled(TYPED, "hsieve init --with ci=shell")))
    }
}
