//! Comments and strings that mention a name.

use memchr::memmem;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, Role, TokenId, TokenKind};

use super::Edits;
use super::source::{Source, Sources};

/// A place in a comment or a text where the old name is as a word.
#[derive(Debug)]
pub struct Mention {
    pub(super) file: usize,
    pub(super) span: Span,
    /// The place with its line, as it is shown.
    pub shown: String,
    /// Whether it is in a comment, which may hold code that was taken out.
    pub in_comment: bool,
}

/// Every mention, but for those that are uses already; only in a part of one file, if the name is seen only there.
pub(super) fn find(sources: &Sources, name: &str, edits: &Edits, within: Option<(usize, Span)>) -> Vec<Mention> {
    let mut found = Vec::new();
    let finder = memmem::Finder::new(name.as_bytes());
    for (file, source) in sources.files.iter().enumerate() {
        if source.read_only.is_some() || within.is_some_and(|(home, _)| home != file) {
            continue;
        }
        let bytes = source.text.source().as_bytes();
        let mut used: Vec<Span> = edits[file].iter().map(|edit| edit.span).collect();
        used.sort_unstable();
        for at in finder.find_iter(bytes) {
            let span = Span::new(at as u32, (at + name.len()) as u32);
            let is_part = |byte: Option<&u8>| {
                byte.is_some_and(|byte| byte.is_ascii_alphanumeric() || *byte == b'_' || *byte >= 0x80)
            };
            let is_word = !is_part(at.checked_sub(1).and_then(|before| bytes.get(before)))
                && !is_part(bytes.get(at + name.len()));
            let token: TokenId = source.tree.token_at(span.start);
            let in_comment = source.tree.token_kind(token) == TokenKind::Comment;
            let in_text = matches!(
                source.tree.token_kind(token),
                TokenKind::String | TokenKind::FormatText | TokenKind::MarkupText
            );
            let before = used.partition_point(|one| one.start <= span.start).checked_sub(1);
            let is_used = before.is_some_and(|index| span.end <= used[index].end);
            let is_outside = within.is_some_and(|(_, scope)| !scope.contains(span));
            if is_word && (in_comment || in_text && !names_other(source, span)) && !is_used && !is_outside {
                found.push(Mention { file, span, shown: source.place(span), in_comment });
            }
        }
    }
    found
}

/// Whether a string is the name of a module or a block, or a key: these name other things, whatever they are called.
fn names_other(source: &Source, span: Span) -> bool {
    let string = source.tree.covering(span);
    let holder = string.parent().map(|holder| holder.kind());
    let loads = || {
        let call = string.parent().and_then(|arguments| arguments.parent());
        let callee = call.and_then(|call| call.child(Role::Callee)).map_or("", |callee| source.slice(callee));
        matches!(callee, "require" | "import")
    };
    matches!(string.role(), Role::Module | Role::Key | Role::Label)
        || matches!(holder, Some(Kind::ImportCall | Kind::ImportType | Kind::Subscript))
        || loads()
}
