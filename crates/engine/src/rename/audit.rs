//! What is left of the old name when all uses that are seen have changed. Whatever may still mean the renamed thing refuses the
//! renaming, with its place.
//!
//! A thing of a module can be reached through the module as a value: where that goes anywhere else than before a dot, it is not known
//! what happens to it. Names can also be put together from strings, and things can be found by conventions of their language.

use std::collections::BTreeSet;
use std::path::PathBuf;

use sieve_meaning::names::{BindingId, ScopeId};
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::import::modules_of;
use super::source::{Sources, View};
use super::traits::rename_traits_of;
use super::{CannotRename, Edits, Renamed};

/// Functions that find something by the text of its name.
pub(super) const LOOK_UP: &[&str] = &["getattr", "setattr", "hasattr", "delattr", "attrgetter", "methodcaller"];

/// A name that a module makes, and the modules through which others see it.
pub(super) struct Audit<'a, 's> {
    pub(super) sources: &'a Sources,
    pub(super) views: &'a [View<'s>],
    pub(super) modules: &'a BTreeSet<usize>,
    pub(super) old: &'a str,
}

type Verdict = Renamed<()>;

/// Refuses for the sake of a place.
pub(super) fn refused<T>(message: String, view: &View<'_>, span: Span) -> Renamed<T> {
    Err(CannotRename::Refused(message, vec![view.file.place(span)]))
}

/// What is said where it is not known whose member is used, with the place of another declaration of that name, if there is one.
pub(super) fn unknown_member(
    views: &[View<'_>],
    old: &str,
    other: Option<(usize, Span)>,
    unknown: &[(usize, Span)],
) -> CannotRename {
    let message = match other {
        None => format!("it is not known whose member \"{old}\" is here; --all-members takes all for the same"),
        Some(_) => format!("another type has a member \"{old}\" too, and it is not known whose is used"),
    };
    let place = |(file, span): &(usize, Span)| views[*file].file.place(*span);
    CannotRename::Refused(message, other.iter().chain(unknown).map(place).collect())
}

/// Files that are not changed for anybody must not need a change.
pub(super) fn read_only(views: &[View<'_>], edits: &Edits) -> Verdict {
    for (view, edits) in views.iter().zip(edits) {
        if let (Some(why), Some(edit)) = (view.file.read_only, edits.first()) {
            return refused(format!("a use is in a file that is {why}, and would have to change"), view, edit.span);
        }
    }
    Ok(())
}

/// Nor must they get another name.
pub(super) fn moved_files(views: &[View<'_>], moved: &[(PathBuf, PathBuf)]) -> Verdict {
    for view in views {
        let is_moved = || moved.iter().any(|(from, _)| *from == view.file.path);
        if let Some(why) = view.file.read_only.filter(|_| is_moved()) {
            return refused(format!("a file that is {why} would have to get another name"), view, Span::new(0, 0));
        }
    }
    Ok(())
}

/// Refuses where a name is put together at run time so that it may be the old one: `getattr(self, f"parse_{kind}")`.
pub(super) fn put_together(views: &[View<'_>], old: &str) -> Verdict {
    for view in views {
        if let Some(span) = beside_interpolation(view, old) {
            return refused(format!("a name that begins or ends with \"{old}\" is put together here"), view, span);
        }
        let calls = view.file.tree.nodes().filter(|node| matches!(node.kind(), Kind::Call | Kind::Subscript));
        for call in calls {
            let names = match call.kind() {
                Kind::Call => {
                    let callee = call.child(Role::Callee).map_or("", |callee| view.file.slice(callee));
                    let looks_up = LOOK_UP.contains(&callee.rsplit('.').next().unwrap_or_default());
                    call.child(Role::Arguments).filter(|_| looks_up)
                }
                _ => {
                    let object = call.child(Role::Object).map_or("", |object| view.file.slice(object));
                    let is_table = object.starts_with("globals") || object.ends_with("__dict__") || object == "this";
                    call.child(Role::Index).filter(|_| is_table)
                }
            };
            let Some(names) = names else { continue };
            for name in std::iter::once(names).chain(names.descendants()) {
                let Some((start, end)) = pattern_of(view, name) else { continue };
                let may_be = |word: &str| {
                    word.len() >= start.len() + end.len() && word.starts_with(&start) && word.ends_with(&end)
                };
                if (!start.is_empty() || !end.is_empty()) && (may_be(old) || is_found_as(views, &start, &end, old)) {
                    return refused(
                        format!("\"{old}\" may be looked up by a name that is put together here"),
                        view,
                        name.span(),
                    );
                }
            }
        }
    }
    Ok(())
}

/// A place where the name is right beside a value in a string, as in code that a program writes: `f"make_module{suffix}(context)"`.
fn beside_interpolation(view: &View<'_>, old: &str) -> Option<Span> {
    let source = view.file.text.source().as_bytes();
    let is_part =
        |byte: Option<&u8>| byte.is_some_and(|byte| byte.is_ascii_alphanumeric() || *byte == b'_' || *byte >= 0x80);
    memchr::memmem::find_iter(source, old.as_bytes()).find_map(|at| {
        let (before, end) = (at.checked_sub(1).and_then(|before| source.get(before)), at + old.len());
        let behind = source.get(end..).unwrap_or_default();
        let opens = behind.starts_with(b"${") || behind.starts_with(b"{") && !behind.starts_with(b"{{");
        let is_beside = opens && !is_part(before) || before == Some(&b'}') && !is_part(behind.first());
        let span = Span::new(at as u32, end as u32);
        let is_text = || view.file.tree.token_kind(view.file.tree.token_at(span.start)) == TokenKind::FormatText;
        (is_beside && is_text()).then_some(span)
    })
}

/// Whether what is renamed is a class whose methods use its name: `type(self).__name__`, `this.constructor.name`.
pub(super) fn shows_its_name(view: &View<'_>, target: &super::Target) -> bool {
    let super::TargetKind::Binding(id) = target.kind else { return false };
    let declared = view.names.binding(id).declarations.iter().map(|one| view.file.tree.node(one.node));
    let classes = declared.filter_map(NodeRef::parent).filter(|node| node.kind() == Kind::Class);
    let shows = |member: NodeRef<'_>| {
        let text = view.file.slice(member);
        member.kind() == Kind::Member && (text.ends_with(".__name__") || text.ends_with("constructor.name"))
    };
    classes.into_iter().any(|class| class.descendants().any(shows))
}

/// What a string begins and ends with of which the middle is only known at run time.
fn pattern_of(view: &View<'_>, node: NodeRef<'_>) -> Option<(String, String)> {
    let value = |node: NodeRef<'_>| view.file.language.string_value(view.file.slice(node));
    match node.kind() {
        Kind::FormatString | Kind::TemplateString => {
            let text = view.file.slice(node);
            let first = text.find(['"', '\'', '`'])?;
            let body = text[first..].trim_matches(['"', '\'', '`']);
            let open = body.find('{')?;
            let start = body[..open].trim_end_matches('$').to_string();
            let end = body.rfind('}').map_or(String::new(), |close| body[close + 1..].to_string());
            Some((start, end))
        }
        Kind::Binary => {
            let (left, right) = (node.child(Role::Left)?, node.child(Role::Right)?);
            match (left.kind(), right.kind()) {
                (Kind::String, Kind::String) => None,
                (Kind::String, _) => Some((value(left)?, String::new())),
                (_, Kind::String) => Some((String::new(), value(right)?)),
                _ => None,
            }
        }
        _ => None,
    }
}

/// Whether some function of the project is named after the old name by the pattern: `visit_Boat` for a class `Boat`.
fn is_found_as(views: &[View<'_>], start: &str, end: &str, old: &str) -> bool {
    let wanted = format!("{start}{old}{end}");
    views.iter().any(|view| {
        let functions = view.file.tree.nodes_of(Kind::Function);
        functions.filter_map(|function| function.child(Role::Name)).any(|name| view.file.slice(name) == wanted)
    })
}

impl Audit<'_, '_> {
    /// Refuses where the name may be reached in a way that nobody sees.
    pub(super) fn check(&self, home: usize, id: BindingId) -> Verdict {
        self.found_by_convention(home, id)?;
        for (file, view) in self.views.iter().enumerate() {
            self.paths_in_strings(view)?;
            self.loaded_at_run_time(file, view)?;
            self.module_as_value(file, view)?;
        }
        Ok(())
    }

    fn is_module(&self, file: usize, name: &str) -> bool {
        self.sources.module(file, name).is_some_and(|found| self.modules.contains(&found))
    }

    /// Fixtures are found by their names: tests name them as parameters.
    fn found_by_convention(&self, home: usize, id: BindingId) -> Verdict {
        let view = &self.views[home];
        for declaration in &view.names.binding(id).declarations {
            let Some(function) = view.file.tree.node(declaration.node).parent() else { continue };
            let decorator =
                function.children_in(Role::Decorator).find(|decorator| view.file.slice(*decorator).contains("fixture"));
            if let Some(decorator) = decorator {
                return refused(
                    format!("tests find \"{}\" by its name, through this", self.old),
                    view,
                    decorator.span(),
                );
            }
        }
        Ok(())
    }

    /// `"pkg.core.fare"` names the thing for whoever reads the string.
    fn paths_in_strings(&self, view: &View<'_>) -> Verdict {
        if memchr::memmem::find(view.file.text.source().as_bytes(), self.old.as_bytes()).is_none() {
            return Ok(());
        }
        for string in view.file.tree.nodes_of(Kind::String) {
            let Some(value) = view.file.language.string_value(view.file.slice(string)) else { continue };
            let Some(holder) = value.strip_suffix(self.old).and_then(|path| path.strip_suffix(['.', ':'])) else {
                continue;
            };
            let last = holder.rsplit(['.', '/']).next().unwrap_or_default();
            let is_named = |module: &usize| stem(&self.sources.files[*module].module) == last;
            if !last.is_empty() && self.modules.iter().any(is_named) {
                return refused(format!("a string names \"{}\" by its path", self.old), view, string.span());
            }
        }
        Ok(())
    }

    /// Modules that are loaded by an expression: what comes of it is not followed.
    fn loaded_at_run_time(&self, file: usize, view: &View<'_>) -> Verdict {
        let message = |what: &str| format!("\"{}\" may be used through {what}", self.old);
        for node in view.file.tree.nodes() {
            let (name, what) = match node.kind() {
                Kind::Call => {
                    let callee = node.child(Role::Callee).map_or("", |callee| view.file.slice(callee));
                    let loads =
                        matches!(callee.rsplit('.').next(), Some("import_module" | "__import__" | "importorskip"));
                    let argument = node.child(Role::Arguments).and_then(|arguments| arguments.children().next());
                    (argument.filter(|_| loads), "a module that is loaded by name")
                }
                Kind::Subscript => {
                    let object = node.child(Role::Object).map_or("", |object| view.file.slice(object));
                    (node.child(Role::Index).filter(|_| object.ends_with("sys.modules")), "the table of modules")
                }
                Kind::ImportCall => {
                    let argument = node.child(Role::Arguments).and_then(|arguments| arguments.children().next());
                    (argument, "a module that is loaded by name")
                }
                Kind::ImportType => (node.child(Role::Argument), "a type of a module"),
                Kind::Namespace => {
                    (node.child(Role::Name).filter(|name| name.kind() == Kind::String), "what adds to a module")
                }
                Kind::ExportAll if node.child(Role::Alias).is_some() => (
                    node.parent().and_then(|export| export.child(Role::Module)),
                    "a module that is exported as a value",
                ),
                _ => continue,
            };
            let Some(name) = name else { continue };
            let name = if name.kind() == Kind::LiteralType { name.children().next().unwrap_or(name) } else { name };
            let is_it = match view.file.language.string_value(view.file.slice(name)) {
                Some(module) if name.kind() == Kind::String => self.is_module(file, &module),
                // `__name__` is the file itself; anything else is not known, but its fixed part may tell.
                _ if view.file.slice(name) == "__name__" => self.modules.contains(&file),
                _ => pattern_of(view, name).is_some_and(|(start, end)| self.may_be_path(&start, &end)),
            };
            if is_it {
                return refused(message(what), view, node.span());
            }
        }
        Ok(())
    }

    /// Whether a path that begins and ends so may be that of one of the modules.
    fn may_be_path(&self, start: &str, end: &str) -> bool {
        self.modules.iter().any(|module| {
            let dotted = dotted(&self.sources.files[*module].module);
            !start.is_empty() && dotted.contains(start) && dotted.ends_with(end)
        })
    }

    /// The module anywhere else than before a dot: passed on, destructured, stored.
    fn module_as_value(&self, file: usize, view: &View<'_>) -> Verdict {
        let binds = |id: &BindingId| {
            let binding = view.names.binding(*id);
            binding.declarations.iter().any(|declaration| {
                let node = view.file.tree.node(declaration.node);
                let item =
                    if matches!(node.kind(), Kind::ImportItem | Kind::ImportAll) { Some(node) } else { node.parent() };
                item.is_some_and(|item| matches!(item.kind(), Kind::ImportItem | Kind::ImportAll))
            })
        };
        let imported: BTreeSet<BindingId> =
            view.names.bindings_with_ids().map(|(id, _)| id).filter(|id| binds(id)).collect();
        if imported.is_empty() {
            return Ok(());
        }
        for reference in view.names.references() {
            let sieve_meaning::names::Resolution::Binding(id) = reference.resolution else { continue };
            if !imported.contains(&id) {
                continue;
            }
            // Outwards as long as it represents a module: `ferry`, `ferry.booking`, `ferry.booking.fares`.
            let mut node = view.file.tree.node(reference.node);
            loop {
                // All names at once are not after this dot: `core.__dict__`.
                let is_table = |outer: NodeRef<'_>| {
                    outer.child(Role::Name).is_some_and(|name| view.file.slice(name) == "__dict__")
                };
                let before_dot = node
                    .parent()
                    .filter(|outer| outer.kind() == Kind::Member && node.role() == Role::Object && !is_table(*outer));
                let is_module =
                    modules_of(self.sources, self.views, file, node).iter().any(|found| self.modules.contains(found));
                let harmless = before_dot.is_some()
                    || node.parent().is_some_and(|outer| {
                        matches!(outer.kind(), Kind::Delete | Kind::ExpressionStatement | Kind::TypeQuery)
                    });
                if is_module && !harmless {
                    let message = format!("\"{}\" may be used through its module, which goes elsewhere here", self.old);
                    return refused(message, view, node.span());
                }
                let Some(outer) = before_dot else { break };
                node = outer;
            }
        }
        Ok(())
    }
}

/// The last name of a module's path.
fn stem(path: &str) -> &str {
    let path = path.trim_end_matches("/__init__.py").trim_end_matches("/index.ts").trim_end_matches("/index.js");
    path.rsplit('/').next().unwrap_or_default().split('.').next().unwrap_or_default()
}

/// A module's path as its language names it.
fn dotted(path: &str) -> String {
    path.trim_end_matches(".py").trim_end_matches("/__init__").replace('/', ".")
}

/// Refuses names to which the language gives a meaning of their own.
pub(super) fn special(language: Language, old: &str, new: &str, is_member: bool) -> Verdict {
    let has_meaning = |name: &str| (rename_traits_of(language).has_meaning)(name, is_member);
    for name in [old, new].into_iter().filter(|name| has_meaning(name)) {
        let message = format!("\"{name}\" has a meaning of its own in {}", language.spec().title);
        return Err(CannotRename::Wrong(message));
    }
    Ok(())
}

/// The scope of the whole file.
pub(super) fn is_of_file(view: &View<'_>, id: BindingId) -> bool {
    view.names.binding(id).scope == ScopeId::FILE
}

/// Uses of a member that are not after a dot: in the body of its class, by its name as a field, in lists of names.
pub(super) fn of_member(views: &[View<'_>], (class_file, class): (usize, NodeRef<'_>), old: &str) -> Verdict {
    let view = &views[class_file];
    for node in std::iter::once(class).chain(class.descendants()) {
        match node.kind() {
            Kind::String if view.file.language.string_value(view.file.slice(node)).as_deref() == Some(old) => {
                return refused(format!("the class names \"{old}\" in a string"), view, node.span());
            }
            Kind::Parameter if is_property(view, node, old) => {
                return refused(format!("a parameter declares \"{old}\" as a member"), view, node.span());
            }
            _ => {}
        }
    }
    let is_field = class.descendants().any(|node| {
        let target = node.child(Role::Target).or_else(|| node.child_of(Kind::Field, Role::Name));
        node.kind() == Kind::AnnotatedAssignment && target.is_some_and(|target| view.file.slice(target) == old)
    });
    let has_init = class.descendants().any(|node| {
        node.kind() == Kind::Function && node.child(Role::Name).is_some_and(|name| view.file.slice(name) == "__init__")
    });
    for other in views {
        for node in other.file.tree.nodes() {
            let named = |node: NodeRef<'_>| node.child(Role::Name).is_some_and(|name| other.file.slice(name) == old);
            match node.kind() {
                Kind::KeywordPattern if named(node) => {
                    return refused(format!("a pattern names \"{old}\""), other, node.span());
                }
                Kind::KeywordArgument if is_field && !has_init && named(node) => {
                    return refused(format!("the field \"{old}\" is given by its name here"), other, node.span());
                }
                _ => {}
            }
        }
    }
    mangled(views, class_file, class, old)
}

/// Whether a parameter of a constructor is a member, too ("Parameter Properties", TypeScript Handbook).
fn is_property(view: &View<'_>, parameter: NodeRef<'_>, old: &str) -> bool {
    let name = parameter.child(Role::Name).or_else(|| parameter.child(Role::Pattern));
    let Some(name) = name.filter(|name| view.file.slice(*name) == old) else { return false };
    let before = view.file.text.slice(Span::new(parameter.span().start, name.span().start));
    before.split_whitespace().any(|word| matches!(word, "private" | "public" | "protected" | "readonly" | "override"))
}

/// `_Boat__speed` is the member `__speed` of the class `Boat` ("Private name mangling", The Python Language Reference, 6.2.1).
fn mangled(views: &[View<'_>], class_file: usize, class: NodeRef<'_>, old: &str) -> Verdict {
    let Some(name) = class.child(Role::Name).filter(|_| old.starts_with("__")) else { return Ok(()) };
    let whole = format!("_{}{old}", views[class_file].file.slice(name).trim_start_matches('_'));
    for view in views {
        if let Some(at) = memchr::memmem::find(view.file.text.source().as_bytes(), whole.as_bytes()) {
            return refused(format!("\"{old}\" is used by its whole name here"), view, Span::at(at as u32));
        }
    }
    Ok(())
}
