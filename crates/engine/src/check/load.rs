//! Reads a file that is to be sifted or fixed, unless it is to be left out.

use std::path::PathBuf;

use sieve_rules::traits_of;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind, Tree};

use crate::files::FileError;
use crate::outcome::LeftOut;
use crate::project::Project;
use crate::workspace::discover::{Candidate, is_bundle, is_compiled, is_packed, says_generated, says_made_page};

/// The bytes of a file.
///
/// # Errors
/// When it cannot be read; the error names it as it is shown.
pub(crate) fn bytes_of(candidate: &Candidate, project: &Project) -> Result<Result<Vec<u8>, LeftOut>, FileError> {
    if !candidate.named && project.files.size(&candidate.path) > candidate.settings.largest.value {
        return Ok(Err(LeftOut::TooLarge));
    }
    project.files.read(&candidate.path, u64::MAX).map(Ok).map_err(|mut error| {
        error.path = PathBuf::from(&*candidate.shown);
        error
    })
}

/// The text of a file, unless it is to be left out.
///
/// # Errors
/// When it cannot be read; the error names it as it is shown.
pub(crate) fn text(candidate: &Candidate, project: &Project) -> Result<Result<Text, LeftOut>, FileError> {
    Ok(bytes_of(candidate, project)?.and_then(|bytes| text_of(candidate, bytes)))
}

/// The text of a file, unless its bytes are no text or say that a program made them.
pub(crate) fn text_of(candidate: &Candidate, bytes: Vec<u8>) -> Result<Text, LeftOut> {
    let text = candidate.language.decode(bytes).map_err(|_| LeftOut::NotUtf8)?;
    if candidate.language.is_foreign(text.source()) {
        return Err(LeftOut::OtherDialect);
    }
    let made = || {
        let is_page = traits_of(candidate.language).is_page;
        says_generated(text.source())
            || is_page && says_made_page(text.source())
            || is_packed(candidate.language, &text)
            || is_bundle(candidate.language, &text)
            || is_compiled(candidate.language, &text)
    };
    if !candidate.named && made() { Err(LeftOut::Generated) } else { Ok(text) }
}

/// The tree of a text, unless what breaks it are the marks of a template.
pub(crate) fn tree_of(candidate: &Candidate, text: &Text) -> Result<Tree, LeftOut> {
    let tree = candidate.language.parse(text);
    // A name that is to be filled in itself says so too.
    let is_template = candidate.shown.contains("{{")
        || !tree.faults().is_empty() && is_filled_in(&candidate.shown)
        || is_template(candidate.language, text, &tree);
    if !candidate.named && is_template { Err(LeftOut::Template) } else { Ok(tree) }
}

/// Whether the extension says that something fills in the file: what that is may stand where code cannot.
fn is_filled_in(shown: &str) -> bool {
    [".in", ".tmpl", ".tpl", ".template"].iter().any(|extension| shown.ends_with(extension))
}

/// Whether the first fault of a file is where many template languages have what goes around code of their own. In data it may be told
/// behind that, on the same line.
fn is_template(language: Language, text: &Text, tree: &Tree) -> bool {
    if traits_of(language).is_page && is_template_of_page(text, tree) {
        return true;
    }
    let Some(fault) = tree.faults().first() else { return false };
    if !language.is_data() {
        return has_mark_around(language, text, fault.span.start)
            || is_at_gap(text, tree, fault.span.start)
            || sets_first(text.source())
            || text.source().get(fault.span.start as usize..).is_some_and(|rest| gap_at(rest).is_some());
    }
    let lines = text.lines();
    let number = lines.line_of(fault.span.start);
    let marks = |number: u32| {
        let line = text.slice(lines.line(text.source(), number));
        ["{{", "{%", "<%"].iter().any(|mark| line.contains(mark)) || is_control_line(line)
    };
    marks(number) || number > 1 && marks(number - 1)
}

/// Whether an expression of a template stands for a whole attribute or a part of a name, or a gap for whole lines.
fn is_template_of_page(text: &Text, tree: &Tree) -> bool {
    let is_expression = |attribute: NodeRef<'_>| {
        let name = attribute.child(Role::Name).map_or("", |name| text.slice(name.span()));
        name.starts_with("${")
    };
    let source = text.source();
    let is_after_name = |at: usize| {
        let name = source[..at].trim_end_matches(|letter: char| letter.is_ascii_alphanumeric());
        name.len() < at && name.ends_with('<')
    };
    tree.nodes_of(Kind::Attribute).any(is_expression)
        || source.match_indices("${").any(|(at, _)| is_after_name(at))
        || source.contains('%') && source.lines().any(|line| gap_at(line.trim()).is_some_and(str::is_empty))
}

/// What is behind `%TIDE_TABLE%`, which a program fills in, where that is at the start.
fn gap_at(text: &str) -> Option<&str> {
    let rest = text.strip_prefix('%')?;
    let end = rest.find(|letter: char| letter != '_' && !letter.is_ascii_uppercase())?;
    rest[end..].strip_prefix('%').filter(|_| end > 0)
}

/// Whether a line steers a template around it: `% if low:`.
fn is_control_line(line: &str) -> bool {
    let word = line.trim().strip_prefix('%').map(|rest| rest.trim_start().trim_end_matches(':'));
    let word = word.and_then(|rest| rest.split_whitespace().next());
    word.is_some_and(|word| matches!(word, "if" | "elif" | "else" | "endif" | "for" | "endfor" | "while" | "endwhile"))
}

/// Whether a file begins with variables of a template: `#set( $low = '#' )`. No language has such a line.
fn sets_first(source: &str) -> bool {
    let first = source.trim_start_matches(['\u{feff}', ' ', '\t', '\r', '\n']);
    first.strip_prefix("#set").is_some_and(|rest| rest.trim_start().starts_with('('))
}

/// Whether code breaks at `${tide}`, for which a program puts a word: at the bracket behind a name of one sign, or at a sign that has no
/// meaning. Where strings hold expressions so, and in shells, the two are one token.
fn is_at_gap(text: &Text, tree: &Tree, start: u32) -> bool {
    let is_mark = |at: u32| text.source().get(at as usize..).is_some_and(|rest| rest.starts_with("${"));
    let token_at = |at: u32| tree.token_kind(tree.token_at(at));
    match token_at(start) {
        TokenKind::BraceOpen => {
            start.checked_sub(1).is_some_and(|before| is_mark(before) && token_at(before) == TokenKind::Name)
        }
        TokenKind::Unknown | TokenKind::Name => is_mark(start),
        _ => false,
    }
}

/// Whether the marks of a template language are around a place in code.
fn has_mark_around(language: Language, text: &Text, start: u32) -> bool {
    let source = text.source().as_bytes();
    let end = (start as usize + 2).min(source.len());
    let around = &source[(start.saturating_sub(1) as usize).min(end)..end];
    // Elsewhere blocks and literals hold one another directly.
    let doubled = language.spec().lines_matter || !language.is_code();
    // `{{#each quays}}`: no code goes on so.
    let begins_section = || {
        let from = (start.saturating_sub(2) as usize).min(source.len());
        source[from..].windows(3).take(3).any(|mark| matches!(mark, b"{{#" | b"{{/" | b"{{^" | b"{{>"))
    };
    around.windows(2).any(|pair| pair == b"{%" || pair == b"<%" || doubled && pair == b"{{") || begins_section()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn is_template(language: Language, source: &str) -> bool {
        let text = Text::new(source.to_string());
        super::is_template(language, &text, &language.parse(&text))
    }

    #[test]
    fn a_template_is_told_by_what_breaks_it() {
        assert!(is_template(Language::Python, "import {{ quay }}\n"));
        assert!(is_template(Language::Python, "x = 1\n{% if tide %}\nx = 2\n{% endif %}\n"));
        assert!(is_template(Language::JavaScript, "<% if (tide) { %>\nsail();\n<% } %>\n"));
        assert!(is_template(Language::JavaScript, "const quays = [%QUAYS%];\n"));
        assert!(!is_template(Language::JavaScript, "const low = % tide;\n"));
        assert!(is_template(Language::Java, "package ${folder};\n\nclass ${name} {\n}\n"));
        assert!(is_template(Language::JavaScript, "const ${name} = 3;\n"));
        assert!(is_template(Language::Python, "class ${name}:\n    pass\n"));
        assert!(is_template(Language::Java, "#set( $mark = '#' )\npackage tides;\n\nclass Low {\n"));
        assert!(!is_template(Language::JavaScript, "const low = `${`;\n"));
        assert!(!is_template(Language::Shell, "echo ${\n"));
        assert!(is_template(Language::Rust, "impl Quay {\n  {{#each methods}}\n  fn {{name}}() {}\n  {{/each}}\n}\n"));
        assert!(!is_template(Language::Rust, "fn sail() {\n    moor({{ 1 }\n}\n"));
        assert!(is_template(Language::Html, "<p><option${{'a': \"b\",\n 'c': d}|attr}>a</option></p>\n"));
        assert!(is_template(Language::Html, "<p><tr ${{'class': 'low' if low}|attr}>a</tr></p>\n"));
        assert!(is_template(Language::Html, "<script>\n  %TIDE_TABLE%\n</script>\n"));
        assert!(!is_template(Language::Html, "<p title=\"${low}\">5 % of ${all}</p>\n"));
        assert!(is_template(Language::Css, "{{ id }}.quay {\n  color: red;\n}\n"));
        assert!(!is_template(Language::Python, "x = '{% if tide %}'\ny = (1\n"));
        assert!(!is_template(Language::JavaScript, "if (x) {{ sail( }}\n"));
        assert!(is_template(Language::Yaml, "name: {{ .Values.name }}-tide\n"));
        assert!(is_template(Language::Yaml, "quay:\n{{- if .Values.low }}\n  low: 1\n{{- end }}\n"));
        assert!(is_template(Language::Json, "{\"a\": {{ quay }}}\n"));
        assert!(is_template(Language::Yaml, "quay:\n  % if low:\n  name: ${low}\n  % endif\n"));
        assert!(!is_template(Language::Yaml, "quay:\n  % of low: [\n"));
        assert!(!is_template(Language::Yaml, "name: \"{{ quay }}\"\n\nlow: [1\nhigh: 2\n"));
    }
}
