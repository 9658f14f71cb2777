//! Why a member may not be renamed: code that is not seen may use it by its name, or the new name means something already.

use sieve_meaning::folder_module::FolderForm;
use sieve_meaning::{go_interfaces, is_of_library};
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::member::Target;
use super::project::Known;
use super::written::unquoted;
use crate::rename::Renamed;
use crate::rename::audit::refused;
use crate::rename::package::is_public;

impl Target<'_, '_> {
    /// Refuses what cannot be followed; `all_members` takes it that nothing outside of the project uses the name.
    pub(super) fn check(&self, all_members: bool) -> Renamed<()> {
        self.is_free()?;
        self.nothing_looks_it_up()?;
        self.no_compiler_uses_it()?;
        let is_field = self.declared.iter().any(|one| !one.is_method());
        if is_field {
            self.is_not_converted()?;
        } else {
            self.library_asks_not()?;
        }
        if all_members || !is_public(self.old) && !is_public(self.new) {
            return Ok(());
        }
        self.nothing_reads_it()?;
        if is_field || !is_public(self.old) { Ok(()) } else { self.no_other_package_asks() }
    }

    /// Refuses for the sake of a place, if there is one.
    fn unless_at(&self, found: Option<(usize, Span)>, message: impl FnOnce() -> String) -> Renamed<()> {
        found.map_or(Ok(()), |(file, span)| refused(message(), &self.project.views[file], span))
    }

    /// Refuses where a type that has the member has one of the new name.
    fn is_free(&self) -> Renamed<()> {
        let taken = self.project.taken(&self.related, self.old, self.new);
        let place = taken.map(|other| (other.file, other.name.span()));
        self.unless_at(place, || format!("the type has a member \"{}\" already", self.new))
    }

    /// The library takes types by the methods that they have.
    fn library_asks_not(&self) -> Renamed<()> {
        let declared = self.declared.first().map(|first| (first.file, first.name.span()));
        let library =
            format!("an interface of {}'s library asks for", self.project.views[0].file.language.spec().title);
        if let Some(methods) = self.project.library_asks(&self.having, self.old, self.old) {
            self.unless_at(declared, || format!("{library} it: {methods}"))?;
        }
        match self.project.library_asks(&self.having, self.old, self.new) {
            Some(methods) => {
                self.unless_at(declared, || format!("as \"{}\" it would be what {library}: {methods}", self.new))
            }
            None => Ok(()),
        }
    }

    /// Packages that are not seen may ask for a method by interfaces of their own.
    fn no_other_package_asks(&self) -> Renamed<()> {
        let other = self.import_of(|path| !is_of_library(self.project.views[0].file.language, path));
        self.unless_at(other, || {
            format!("this package may ask for \"{}\" by an interface; --all-members takes it that none does", self.old)
        })
    }

    /// What writes and reads values reads public fields by their names, unless a tag gives another one; templates call methods too.
    fn nothing_reads_it(&self) -> Renamed<()> {
        let has_tags = self.declared.iter().all(|one| !one.is_method() && one.holder.child(Role::Value).is_some());
        if has_tags {
            return Ok(());
        }
        let are_methods = self.declared.iter().all(|one| one.is_method());
        let reader = self.import_of(|path| {
            go_interfaces::reads_members_by_name(path) && (!are_methods || !path.starts_with("encoding/"))
        });
        self.unless_at(reader, || {
            format!("this package may read \"{}\" by its name; --all-members takes it that it does not", self.old)
        })
    }

    /// An import of a package outside of the project.
    fn import_of(&self, is_wanted: impl Fn(&str) -> bool) -> Option<(usize, Span)> {
        let project = self.project;
        project.views.iter().enumerate().find_map(|(file, view)| {
            let mut paths = view.import_items().filter_map(|item| item.child(Role::Module));
            let path = paths.find(|path| {
                let path = unquoted(view.file.slice(*path));
                is_wanted(path) && project.imported(path) == Known::Foreign
            })?;
            Some((file, path.span()))
        })
    }

    /// Strings that name it for a search at run time, or in a template.
    fn nothing_looks_it_up(&self) -> Renamed<()> {
        for view in self.project.views {
            let strings = view.file.tree.nodes_of(Kind::String);
            let mentions = strings.filter(|string| view.file.slice(*string).contains(self.old));
            for string in mentions {
                let text = view.file.slice(string);
                let callee = string.ancestors().nth(1).and_then(|call| call.child(Role::Callee));
                let callee =
                    callee.and_then(|callee| callee.child(Role::Name)).map_or("", |name| view.file.slice(name));
                let is_search = matches!(callee, "FieldByName" | "MethodByName") && unquoted(text) == self.old;
                if is_search || is_public(self.old) && is_in_template(text, self.old) {
                    return refused(format!("\"{}\" is looked up by name in a string", self.old), view, string.span());
                }
            }
        }
        Ok(())
    }

    /// Comments for the compiler, and what is written in another language: methods, and what uses the places of fields.
    fn no_compiler_uses_it(&self) -> Renamed<()> {
        for one in &self.declared {
            let view = &self.project.views[one.file];
            let is_bodiless = one.holder.child(Role::Receiver).is_some() && one.holder.child(Role::Body).is_none();
            if is_bodiless {
                return refused("the method is written in another language".into(), view, one.name.span());
            }
            let form = FolderForm::of(view.file.language);
            let other = form.and_then(|form| self.sources.beside(one.file, |name| form.may_have(name)));
            if let Some(other) = other.filter(|_| !one.is_method()) {
                let message = format!("\"{}\" may be used in {other}, which is not read", self.old);
                return refused(message, view, one.name.span());
            }
            if let Some(span) = form.and_then(|form| form.directive_with(view.file.text.source(), self.old)) {
                return refused(format!("a comment for the compiler mentions \"{}\"", self.old), view, span);
            }
        }
        Ok(())
    }

    /// Structs with the same fields can be converted to each other.
    fn is_not_converted(&self) -> Renamed<()> {
        let project = self.project;
        let owner_of = |known: Known<'_>| match known {
            Known::Written(file, body) if body.kind() == Kind::ObjectType => Some(project.owner(file, body)),
            _ => None,
        };
        for (file, view) in project.views.iter().enumerate() {
            for call in view.file.tree.nodes_of(Kind::Call) {
                let one = |list: NodeRef<'_>| list.children_in(Role::Argument).next().map(|one| one.id());
                let Some(argument) = call.child(Role::Arguments).and_then(one) else { continue };
                let callee = call.child(Role::Callee);
                let Some(to) = callee.and_then(|callee| project.named_type(file, callee)) else { continue };
                let Some(to) = owner_of(project.underlying(to)) else { continue };
                let from = project.underlying(project.expression(file, view.file.tree.node(argument)));
                let is_other = owner_of(from)
                    .is_some_and(|from| from != to && (self.related.contains(&to) || self.related.contains(&from)));
                if is_other {
                    return refused("structs with the same fields are converted here".into(), view, call.span());
                }
            }
        }
        Ok(())
    }
}

/// Whether a text is a template that takes a member of a value: `{{.Depth}}`. Templates see public members alone.
fn is_in_template(text: &str, member: &str) -> bool {
    let is_part = |letter: Option<char>| letter.is_some_and(|letter| letter.is_alphanumeric() || letter == '_');
    let is_member = |at: usize| text[..at].ends_with('.') && !is_part(text[at + member.len()..].chars().next());
    text.contains("{{") && text.match_indices(member).any(|(at, _)| is_member(at))
}
