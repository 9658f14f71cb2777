//! Gives a name another one, with every use that resolves to it, in all files of the project.
//!
//! What cannot be known is not guessed: a use through a star import, through a text, or of a member of an unknown object refuses the
//! whole renaming, with its place. Mentions in comments and strings are listed, and changed only when asked for.

mod address;
mod audit;
mod crates;
mod elsewhere;
mod hierarchy;
mod import;
mod lineage;
mod member;
mod mentions;
mod moved;
mod namespaced;
mod package;
mod packaged;
mod parameter;
mod script;
mod source;
mod spread;
mod structural;
mod traits;
mod type_origin;
mod typed;
mod undeclared;

use std::fmt;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use sieve_meaning::names::{BindingId, DeclarationKind, ScopeKind};
use sieve_rules::{Edit, traits_of};
use sieve_syntax::language::Language;
use sieve_syntax::text::{Place, Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, TokenKind};

use crate::files::FileError;
use crate::fix::{FixedFile, FixedText, apply_edits};
use crate::run::Request;
use crate::settings::SettingsError;
use address::Address;
use traits::rename_traits_of;

pub use mentions::Mention;
use source::{Sources, View};

/// What is to be renamed, and how far.
#[derive(Debug, Clone)]
pub struct RenameRequest<'w> {
    /// The file, absolute.
    pub path: &'w Path,
    /// The place of the name.
    pub place: Place,
    /// The new name.
    pub new: &'w str,
    /// Whether members of this name are taken for the same one, where it cannot be known whose they are.
    pub all_members: bool,
    /// Whether overrides in related classes are renamed too.
    pub family: bool,
    /// Whether mentions in comments and strings are changed too.
    pub mentions: bool,
    /// Whether the file that is named after it is to be renamed too, with the imports of it.
    pub with_file: bool,
}

/// A renaming, worked out and not written yet.
#[derive(Debug)]
pub struct Plan {
    /// The name as it is.
    pub old: String,
    /// The files that change, in the order of their paths.
    pub files: Vec<FixedFile>,
    /// How many places change, mentions included.
    pub places: usize,
    /// Where comments and strings mention the old name.
    pub mentions: Vec<Mention>,
    /// The file that is named after what is renamed, and what it would be called; nothing where it has to be called so.
    pub file: Option<(PathBuf, PathBuf)>,
}

/// Why a name is not renamed.
#[derive(Debug)]
pub enum CannotRename {
    /// Settings are wrong.
    Settings(SettingsError),
    /// A file cannot be read.
    File(FileError),
    /// The place or the new name is not right.
    Wrong(String),
    /// A use cannot be known, or the names would clash: what, and where.
    Refused(String, Vec<String>),
}

impl fmt::Display for CannotRename {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            CannotRename::Settings(error) => error.fmt(out),
            CannotRename::File(error) => error.fmt(out),
            CannotRename::Wrong(message) => out.write_str(message),
            CannotRename::Refused(message, places) => {
                write!(out, "{message}")?;
                places.iter().try_for_each(|place| write!(out, "\n  {place}"))
            }
        }
    }
}

impl std::error::Error for CannotRename {}

type Renamed<T> = Result<T, CannotRename>;

/// The edits of each file.
type Edits = Vec<Vec<Edit>>;

/// Puts the new name at places of files.
fn replace_all(places: &[(usize, Span)], new: &str, edits: &mut Edits) {
    for (file, span) in places {
        edits[*file].push(Edit::replace(*span, new));
    }
}

/// Works out a renaming. Writes nothing.
///
/// # Errors
/// When there is no name at the place, the new one is none, or a use cannot be known.
pub fn plan(request: &Request<'_>, asked: &RenameRequest<'_>) -> Renamed<Plan> {
    let sources = Sources::read(request, asked.path)?;
    let views = sources.views();
    let (home, target) = target(&sources, &views, asked)?;
    let old = target.name.clone();
    check_word(sources.files[home].language, asked.new, &old)?;
    let is_member = matches!(target.kind, TargetKind::Member);
    audit::special(sources.files[home].language, &old, asked.new, is_member)?;
    let mut edits: Edits = vec![Vec::new(); sources.files.len()];
    spread_target(&sources, &views, (home, &target), asked, &mut edits)?;
    audit::read_only(&views, &edits)?;
    let within = match target.kind {
        TargetKind::Binding(id) => scope_of(&views[home], home, id),
        TargetKind::Member | TargetKind::Address(_) => None,
    };
    let mut mentions = mentions::find(&sources, &old, &edits, within);
    if !asked.mentions && audit::shows_its_name(&views[home], &target) {
        let places: Vec<String> = mentions.iter().filter(|one| !one.in_comment).map(|one| one.shown.clone()).collect();
        if !places.is_empty() {
            let message = format!(
                "the class shows its name at run time, and strings mention \"{old}\"; --mentions changes them too"
            );
            return Err(CannotRename::Refused(message, places));
        }
    }
    if asked.mentions {
        for mention in &mentions {
            edits[mention.file].push(Edit::replace(mention.span, asked.new));
        }
    }
    mentions.retain(|_| !asked.mentions);
    let names_file = match &target.kind {
        TargetKind::Binding(id) => packaged::is_type(&views[home], *id) && audit::is_of_file(&views[home], *id),
        TargetKind::Member | TargetKind::Address(_) => false,
    };
    let (file, has_to_move) = file_of(request, &sources.files[home], names_file, &old, asked.new)?;
    let moved = file.as_ref().filter(|_| asked.with_file || has_to_move);
    if let Some((_, to)) = moved {
        moved::imports(&sources, &views, home, to, &mut edits)?;
    }
    let moved = match target.kind {
        TargetKind::Binding(id) if rename_traits_of(sources.files[home].language).has_unfollowed_paths => {
            crates::moves(&sources, &views, (home, id), (&old, asked.new))?
        }
        _ => moved.cloned().into_iter().collect(),
    };
    audit::moved_files(&views, &moved)?;
    let places = edits.iter().map(Vec::len).sum();
    let files = fixed_files(&sources, &edits, &moved)?;
    Ok(Plan { files, old, places, mentions, file: file.filter(|_| !has_to_move) })
}

/// Renames the target with all of its uses.
fn spread_target(
    sources: &Sources,
    views: &[View<'_>],
    (home, target): (usize, &Target),
    asked: &RenameRequest<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    let file = &sources.files[home];
    let refused = |what: &str| {
        let message = format!("{what} in {}", file.language.spec().title);
        audit::refused(message, &views[home], file.tree.node(target.node).span())
    };
    let traits = rename_traits_of(file.language);
    let keeps_members = traits.names_package || traits.opens_namespaces;
    match target.kind {
        TargetKind::Address(ref of) => address::spread(sources, views, of, asked, edits),
        TargetKind::Binding(id) if keeps_members && packaged::is_member(&views[home], id) => {
            typed::member(views, (home, id), asked, edits)
        }
        TargetKind::Member if keeps_members => typed::at_use(views, home, target.node, asked, edits),
        TargetKind::Binding(id) if namespaced::is_namespace(&views[home], id) => refused("namespaces are not followed"),
        TargetKind::Binding(id) => spread::binding(sources, views, (home, id), asked, edits),
        TargetKind::Member if traits.has_receivers => {
            structural::member(sources, views, (home, target.node), asked, edits)
        }
        TargetKind::Member if traits.has_unfollowed_paths => crates::member(sources, views, home, asked, edits),
        TargetKind::Member if !traits_of(file.language).follows_members => refused("members of types are not followed"),
        TargetKind::Member => member::member(sources, views, home, target.node, asked, edits),
    }
}

/// The file that is named after what is renamed, with the name that it would have, and whether it has to have that name. Only a type of the
/// whole file names it in a language with packages.
fn file_of(
    request: &Request<'_>,
    file: &source::Source,
    names_file: bool,
    old: &str,
    new: &str,
) -> Renamed<(Option<(PathBuf, PathBuf)>, bool)> {
    if !rename_traits_of(file.language).names_package {
        return Ok((named_after(&file.path, old, new), false));
    }
    let moved = same_name(&file.path, old, new).filter(|_| names_file);
    if let Some((_, to)) = moved.as_ref().filter(|(_, to)| to.exists()) {
        let message = format!("there is a file {} already", request.project.shown(to));
        return Err(CannotRename::Refused(message, Vec::new()));
    }
    Ok((moved, true))
}

/// The file and the part of it in which a name is seen that is not one of the whole file.
fn scope_of(view: &View<'_>, home: usize, id: BindingId) -> Option<(usize, Span)> {
    let scope = view.names.scope(view.names.binding(id).scope);
    (!audit::is_of_file(view, id)).then(|| (home, view.file.tree.node(scope.node).span()))
}

/// What is at the place.
struct Target {
    name: String,
    node: sieve_syntax::tree::NodeId,
    kind: TargetKind,
}

enum TargetKind {
    Binding(BindingId),
    Member,
    Address(Address),
}

/// The file of a place, and where in it that is; of the scripts of a page the one that the place is in.
fn home_of(sources: &Sources, asked: &RenameRequest<'_>) -> Renamed<(usize, u32)> {
    let wrong = |message: String| Err(CannotRename::Wrong(message));
    let Some(first) = sources.files.iter().find(|file| file.path == asked.path) else {
        return wrong(format!("{} is no file in which names are understood", asked.path.display()));
    };
    let Some(offset) = first.text.lines().offset(first.text.source(), asked.place) else {
        return wrong(format!("{} has no such place", first.shown));
    };
    let is_home = |file: &source::Source| {
        let holds = || !file.tree.token_kind(file.tree.token_at(offset)).is_trivia();
        file.path == asked.path && (file.page.is_none() || holds())
    };
    match sources.files.iter().position(is_home) {
        Some(home) => Ok((home, offset)),
        None => {
            let Place { line, column } = asked.place;
            wrong(format!("no script of the page is at {}:{line}:{column}", first.shown))
        }
    }
}

fn target(sources: &Sources, views: &[View<'_>], asked: &RenameRequest<'_>) -> Renamed<(usize, Target)> {
    let (home, offset) = home_of(sources, asked)?;
    let file = &sources.files[home];
    let token = file.tree.token_at(offset);
    let span = file.tree.token_span(token);
    let is_name = matches!(file.tree.token_kind(token), TokenKind::Name | TokenKind::PrivateName);
    let name = file.text.slice(span).trim_matches('"').to_string();
    if let Some((of, node)) = address::target(views, home, span)? {
        return Ok((home, Target { name, node, kind: TargetKind::Address(of) }));
    }
    if !is_name {
        return Err(CannotRename::Wrong(format!(
            "there is no name at {}:{}:{}",
            file.shown, asked.place.line, asked.place.column
        )));
    }
    let node = file.tree.covering(span);
    let view = &views[home];
    let traits = rename_traits_of(file.language);
    if (traits.names_package || traits.opens_namespaces)
        && let Some((origin, id)) = type_origin::origin(views, home, node)
    {
        return Ok((origin, Target { name, node: node.id(), kind: TargetKind::Binding(id) }));
    }
    if traits.has_unfollowed_paths
        && let Some((origin, id)) = crates::origin(sources, views, home, span)
    {
        return Ok((origin, Target { name, node: node.id(), kind: TargetKind::Binding(id) }));
    }
    if traits.has_unfollowed_paths && crates::may_be_member(view, node, span) {
        return Ok((home, Target { name, node: node.id(), kind: TargetKind::Member }));
    }
    if traits.has_receivers && structural::is_member(sources, views, home, node) {
        return Ok((home, Target { name, node: node.id(), kind: TargetKind::Member }));
    }
    declared_here(view, node, span, &name)?;
    let in_class = |id: &BindingId| view.names.scope(view.names.binding(*id).scope).kind == ScopeKind::Class;
    if let Some(id) = view.binding_of(node, span).filter(|id| !in_class(id)) {
        // What is imported is renamed where it is made.
        if let Some((origin, id)) = import::origin(sources, views, home, id) {
            return Ok((
                origin,
                Target { name: import::name_of(&views[origin], id), node: node.id(), kind: TargetKind::Binding(id) },
            ));
        }
        return Ok((home, Target { name, node: node.id(), kind: TargetKind::Binding(id) }));
    }
    if let Some((origin, id)) = import::through_module(sources, views, home, node) {
        return Ok((origin, Target { name, node: node.id(), kind: TargetKind::Binding(id) }));
    }
    if traits.is_in_pages
        && node.kind() == Kind::Name
        && let Some((origin, id)) = script::origin(views, home, &name)
    {
        return Ok((origin, Target { name, node: node.id(), kind: TargetKind::Binding(id) }));
    }
    if member::is_member(node) {
        return Ok((home, Target { name, node: node.id(), kind: TargetKind::Member }));
    }
    Err(CannotRename::Refused(format!("it is not known what \"{name}\" refers to here"), vec![file.place(span)]))
}

/// Refuses a name that is imported and not followed to where it is made.
fn declared_here(view: &View<'_>, node: NodeRef<'_>, span: Span, name: &str) -> Renamed<()> {
    let traits = rename_traits_of(view.file.language);
    let is_followed = !traits.names_package && !traits.has_unfollowed_paths;
    if is_followed || !view.binding_of(node, span).is_some_and(|id| view.is_import(id)) {
        return Ok(());
    }
    let whose = if traits.names_package { "outside of the project" } else { "elsewhere, and imports are not followed" };
    audit::refused(format!("\"{name}\" is declared {whose}"), view, span)
}

/// Whether the new name is a name of the language, and another one.
fn check_word(language: Language, new: &str, old: &str) -> Renamed<()> {
    if new == old {
        return Err(CannotRename::Wrong(format!("it is called \"{old}\" already")));
    }
    let text = Text::new(new.to_string());
    let tree = language.parse(&text);
    let kinds: Vec<TokenKind> = tree.tokens().iter().map(|token| token.kind).filter(|kind| !kind.is_layout()).collect();
    let is_name = matches!(kinds.as_slice(), [TokenKind::Name])
        || (old.starts_with('#') && new.starts_with('#') && new.len() > 1);
    if !is_name || rename_traits_of(language).contextual.contains(&new) {
        let message = format!("\"{new}\" cannot be a name in {}", language.spec().title);
        return Err(CannotRename::Wrong(message));
    }
    Ok(())
}

/// The file that has the name of what is renamed, in any style, and its name in the same style.
fn named_after(path: &Path, old: &str, new: &str) -> Option<(PathBuf, PathBuf)> {
    use sieve_rules::NameStyle;
    let (stem, ending) = path.file_name()?.to_str()?.split_once('.')?;
    let is_it = |style: &&NameStyle| style.write(old) == stem;
    let style = NameStyle::ALL.iter().find(is_it)?;
    let wanted = path.with_file_name(format!("{}.{ending}", style.write(new)));
    (old.starts_with(char::is_uppercase) && !wanted.exists()).then(|| (path.to_path_buf(), wanted))
}

/// The file that has just the name of a type, and its name after that.
fn same_name(path: &Path, old: &str, new: &str) -> Option<(PathBuf, PathBuf)> {
    let (stem, ending) = path.file_name()?.to_str()?.split_once('.')?;
    (stem == old).then(|| (path.to_path_buf(), path.with_file_name(format!("{new}.{ending}"))))
}

/// The files that change, and those that get another name.
fn fixed_files(sources: &Sources, edits: &Edits, moved: &[(PathBuf, PathBuf)]) -> Renamed<Vec<FixedFile>> {
    let mut fixed = Vec::new();
    // The scripts of a page are beside each other.
    let all: Vec<(&source::Source, &Vec<Edit>)> = sources.files.iter().zip(edits).collect();
    for of_file in all.chunk_by(|(one, _), (other, _)| one.path == other.path) {
        let (file, _) = of_file[0];
        let mut sorted: Vec<&Edit> = of_file.iter().flat_map(|(_, edits)| edits.iter()).collect();
        let moved_to = moved.iter().find(|(from, _)| *from == file.path).map(|(_, to)| to.clone());
        if sorted.is_empty() && moved_to.is_none() {
            continue;
        }
        sorted.sort_by_key(|edit| edit.span);
        sorted.dedup_by_key(|edit| edit.span);
        let text = Text::with_encoding(apply_edits(file.text.source(), &sorted), file.text.encoding());
        let refused = |why: &str| CannotRename::Refused(format!("{}: {why}", file.shown), Vec::new());
        if file.is_broken_by(&text) {
            return Err(refused("the new name would break the syntax"));
        }
        let Some(after) = text.encode() else { return Err(refused("the new name has no form in the file's encoding")) };
        let shown: Arc<str> = Arc::clone(&file.shown);
        fixed.push(FixedFile {
            path: file.path.clone(),
            shown,
            before: file.before.clone(),
            after,
            fixed: FixedText::default(),
            moved_to,
        });
    }
    Ok(fixed)
}

/// Whether a declaration is that of a parameter.
fn is_parameter(view: &View<'_>, id: BindingId) -> bool {
    view.names.binding(id).declarations.iter().any(|declaration| declaration.kind == DeclarationKind::Parameter)
}

/// Whether a node is a name by itself or the name of a member.
fn is_word(kind: Kind) -> bool {
    matches!(kind, Kind::Name | Kind::PropertyName | Kind::PrivateName)
}
