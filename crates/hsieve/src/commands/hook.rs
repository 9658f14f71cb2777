//! `hsieve hook`

use std::io::Read;

use anyhow::Context;
use sieve_engine::git::{Git, GitError, Hook, HookError, HookState, Hooks, Since, pushed};

use crate::arguments::{HookArguments, HookCommand, HookNames, HookRun, SiftArguments};
use crate::commands::sift;
use crate::run::{Setup, here};
use crate::screen::{FAINT, STRONG, Screen, TYPED, complain_styled, styled};
use crate::status::{Status, usage};

/// Puts hooks in, takes them out, or is called by one.
pub fn run(arguments: &HookArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    match &arguments.command {
        HookCommand::Install(names) => install(names, screen),
        HookCommand::Remove(names) => remove(names, screen),
        HookCommand::Run(arguments) => called(arguments, screen),
    }
}

fn chosen(names: &HookNames) -> Vec<Hook> {
    let is_chosen = |hook: &&Hook| names.when.is_empty() || names.when.iter().any(|word| word == hook.word());
    Hook::ALL.iter().filter(is_chosen).copied().collect()
}

/// The hooks of the repository here.
fn hooks() -> anyhow::Result<Hooks> {
    match Git::around(&here()?.folder).map_err(HookError::Git).and_then(|git| Hooks::of(&git)) {
        Ok(found) => Ok(found),
        Err(error @ (HookError::Git(GitError::Outside(_)) | HookError::Managed(_))) => usage(error.to_string()),
        Err(error) => Err(error.into()),
    }
}

fn install(names: &HookNames, screen: &mut Screen) -> anyhow::Result<Status> {
    put_in(&hooks()?, &chosen(names), screen)?;
    screen
        .line(styled(FAINT, "They sift what is staged or about to be pushed; `hsieve hook remove` takes them out."))?;
    Ok(Status::Clean)
}

/// Puts hooks in, and says what became of each.
pub fn put_in(hooks: &Hooks, chosen: &[Hook], screen: &mut Screen) -> anyhow::Result<()> {
    let program = std::env::current_exe().context("the program does not find itself")?;
    for hook in chosen {
        let what = match hooks.install(*hook, &program)? {
            HookState::Joined => "put in, before what the hook did already",
            HookState::Wrapped => "put in; the program that was the hook is called after it",
            HookState::SetAside => "put in; the hook that was there is switched off and stays so",
            HookState::Renewed => "was there, and is made anew",
            _ => "put in",
        };
        screen.line(format!("{}  {what}", styled(STRONG, &format!("hook before {}", hook.word()))))?;
    }
    Ok(())
}

fn remove(names: &HookNames, screen: &mut Screen) -> anyhow::Result<Status> {
    let hooks = hooks()?;
    for hook in chosen(names) {
        let what = match hooks.remove(hook)? {
            HookState::Removed => "taken out",
            _ => "was not there",
        };
        screen.line(format!("{}  {what}", styled(STRONG, &format!("hook before {}", hook.word()))))?;
    }
    Ok(Status::Clean)
}

/// What a hook does: sifts, and says how to go on where something is found.
fn called(arguments: &HookRun, screen: &mut Screen) -> anyhow::Result<Status> {
    let before_commit = arguments.when == Hook::Commit.word();
    let checked = if before_commit { vec![Since::Staged] } else { about_to_be_pushed(arguments)? };
    let mut status = Status::Clean;
    for since in checked {
        let sifting = SiftArguments::default();
        let setup = Setup::since(&sifting.common, since)?;
        status = status.max(sift::with_setup(&sifting, setup, screen)?);
    }
    screen.finish()?;
    if status == Status::Findings {
        say_how_to_go_on(before_commit);
    }
    Ok(status)
}

/// What git says on standard input that it is about to push.
fn about_to_be_pushed(arguments: &HookRun) -> anyhow::Result<Vec<Since>> {
    let mut input = String::new();
    std::io::stdin().lock().read_to_string(&mut input).context("standard input cannot be read")?;
    let remote = arguments.words.first().map_or("origin", String::as_str);
    let git = Git::around(&here()?.folder)?;
    Ok(pushed(&git, remote, &input)?.into_iter().map(Since::Pushed).collect())
}

fn say_how_to_go_on(before_commit: bool) {
    let typed = |command: &str| styled(TYPED, command);
    let (what, skip) =
        if before_commit { ("commit", "git commit --no-verify") } else { ("push", "git push --no-verify") };
    let fix = if before_commit {
        ("hsieve fix --changed", "applies the exact fixes; stage the files again")
    } else {
        ("hsieve fix", "applies the exact fixes; commit them")
    };
    complain_styled(&format!("\n{}", styled(STRONG, &format!("The {what} is stopped."))));
    complain_styled(&format!("  fix it       {}  {}", typed(fix.0), fix.1));
    complain_styled(&format!("  exempt it    {}", typed("hsieve waive FILE:LINE RULE --because TEXT")));
    complain_styled(&format!("  go on        {}  just this once", typed(skip)));
}
