//! `hsieve hook`

use anyhow::Context;
use sieve_engine::git::{Git, GitError, Hook, HookState, Hooks};

use crate::arguments::{Common, HookArguments, HookCommand, HookNames, HookRun, SiftArguments};
use crate::commands::sift;
use crate::run::here;
use crate::screen::{FAINT, STRONG, Screen, TYPED, safe, styled};
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

/// The repository here, and its hooks.
fn hooks() -> anyhow::Result<(Git, Hooks)> {
    let found = Git::around(&here()?.folder).and_then(|git| Ok((git.clone(), Hooks::of(&git)?)));
    match found {
        Ok(found) => Ok(found),
        Err(error @ GitError::Outside(_)) => usage(error.to_string()),
        Err(error) => Err(error.into()),
    }
}

fn install(names: &HookNames, screen: &mut Screen) -> anyhow::Result<Status> {
    let (git, hooks) = hooks()?;
    put_in(&git, &hooks, &chosen(names), screen)?;
    screen
        .line(styled(FAINT, "They sift what is staged or about to be pushed; `hsieve hook remove` takes them out."))?;
    Ok(Status::Clean)
}

/// Puts hooks in, and says what became of each.
pub fn put_in(git: &Git, hooks: &Hooks, chosen: &[Hook], screen: &mut Screen) -> anyhow::Result<()> {
    let program = std::env::current_exe().context("the program does not find itself")?;
    for hook in chosen {
        let what = match hooks.install(*hook, &program)? {
            HookState::Joined => "put in, before what the hook did already",
            HookState::Wrapped => "put in; the program that was the hook is called after it",
            HookState::Renewed => "was there, and is made anew",
            _ => "put in",
        };
        screen.line(format!("{}  {what}", styled(STRONG, &format!("hook before {}", hook.word()))))?;
    }
    if !hooks.folder.starts_with(&git.root) {
        let folder = safe(&hooks.folder.display().to_string());
        screen.line(format!("git is set to look for hooks in {folder}: other repositories may share them."))?;
    }
    Ok(())
}

fn remove(names: &HookNames, screen: &mut Screen) -> anyhow::Result<Status> {
    let (_, hooks) = hooks()?;
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
    let mut sifting = SiftArguments::default();
    let before_commit = arguments.when == Hook::Commit.word();
    sifting.common = Common { staged: before_commit, ..Common::default() };
    if !before_commit {
        // Where nothing was pushed yet, everything is new.
        let git = Git::around(&here()?.folder)?;
        sifting.common.changed = git.pushed_to()?.map(Some);
    }
    let status = sift::run(&sifting, screen)?;
    screen.finish()?;
    if status == Status::Findings {
        let typed = |command: &str| styled(TYPED, command);
        let (what, skip) =
            if before_commit { ("commit", "git commit --no-verify") } else { ("push", "git push --no-verify") };
        anstream::eprintln!("\n{}", styled(STRONG, &format!("The {what} is stopped.")));
        anstream::eprintln!(
            "  mend it      {}  applies the exact fixes; stage the files again",
            typed("hsieve fix --changed")
        );
        anstream::eprintln!("  exempt it    {}", typed("hsieve waive FILE:LINE RULE --because TEXT"));
        anstream::eprintln!("  go on        {}  just this once", typed(skip));
    }
    Ok(status)
}
