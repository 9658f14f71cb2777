//! The user's own editor, at a place.

use std::path::Path;
use std::process::Command;

/// How an editor takes the line, by its name; others get `+LINE`, which vi and most after it take.
const FORMS: &[(&[&str], fn(u32, &str) -> Vec<String>)] = &[
    (&["code", "codium", "code-oss"], |line, path| vec!["--wait".into(), "--goto".into(), format!("{path}:{line}")]),
    (&["hx", "helix", "zed", "subl"], |line, path| vec![format!("{path}:{line}")]),
    (&["kate"], |line, path| vec!["--block".into(), "--line".into(), line.to_string(), path.into()]),
];

/// Opens a file at a line and waits for the editor to end.
///
/// # Errors
/// When no editor is named, or it cannot be run.
pub fn open(path: &Path, line: u32) -> anyhow::Result<()> {
    let named = |name: &str| std::env::var(name).ok().filter(|value| !value.trim().is_empty());
    let Some(editor) = named("VISUAL").or_else(|| named("EDITOR")) else {
        anyhow::bail!("neither VISUAL nor EDITOR names an editor");
    };
    let status = command(&editor, path, line).status()?;
    anyhow::ensure!(status.success(), "the editor ended with {status}");
    Ok(())
}

/// The variable holds a command for a shell, with options, as other programs take it; the path is never read by that shell.
fn command(editor: &str, path: &Path, line: u32) -> Command {
    let program = editor.split_whitespace().next().unwrap_or(editor);
    let name = Path::new(program).file_name().and_then(|name| name.to_str()).unwrap_or(program);
    let mut command = Command::new("sh");
    command.arg("-c").arg(format!("{editor} \"$@\"")).arg("sh");
    match (FORMS.iter().find(|(names, _)| names.contains(&name)), path.to_str()) {
        (Some((_, form)), Some(path)) => command.args(form(line, path)),
        _ => command.arg(format!("+{line}")).arg(path),
    };
    command
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_line_is_given_as_the_editor_takes_it() {
        let arguments = |editor: &str| -> Vec<String> {
            let command = command(editor, Path::new("booking/$(fares).py"), 14);
            command.get_args().map(|argument| argument.to_string_lossy().into_owned()).collect()
        };
        assert_eq!(arguments("vi -R"), ["-c", "vi -R \"$@\"", "sh", "+14", "booking/$(fares).py"]);
        assert_eq!(arguments("/usr/bin/hx"), ["-c", "/usr/bin/hx \"$@\"", "sh", "booking/$(fares).py:14"]);
    }
}
