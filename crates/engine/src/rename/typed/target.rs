//! The member to be renamed: the types that declare it, and why it may not be renamed.

use sieve_meaning::declared::visibility;
use sieve_meaning::names::{BindingId, DeclarationKind, Namespace, Resolution};
use sieve_meaning::project::words_before;
use sieve_meaning::renaming::{Clash, may_become, places};
use sieve_rules::Edit;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::types::{Known, TypeId, Types, simple_name};
use crate::rename::audit::refused;
use crate::rename::source::View;
use crate::rename::traits::rename_traits_of;
use crate::rename::undeclared::{is_taken, means_another};
use crate::rename::{CannotRename, Edits, Renamed, namespaced};

/// The member to be renamed.
pub(super) struct Target<'v> {
    pub(super) types: Types<'v>,
    pub(super) old: &'v str,
    pub(super) new: &'v str,
    pub(super) namespace: Namespace,
    /// The types that declare it, each with its binding there.
    pub(super) declaring: Vec<(TypeId, BindingId)>,
    /// All types whose objects may have it.
    pub(super) related: Vec<TypeId>,
}

/// The types whose member is meant. Several that inherit from each other need to be asked for.
pub(super) fn target<'v>(
    types: Types<'v>,
    namespace: Namespace,
    related: Vec<TypeId>,
    (old, new): (&'v str, &'v str),
    family: bool,
) -> Renamed<Target<'v>> {
    let declares = |of: &TypeId| Some((*of, types.declares(*of, namespace, old)?));
    let mut declaring: Vec<(TypeId, BindingId)> = related.iter().filter_map(declares).collect();
    declaring.sort_unstable_by_key(|(of, _)| *of);
    if declaring.len() > 1 && !family {
        let place = |(of, id): &(TypeId, BindingId)| {
            let view = types.view(*of);
            view.file.place(view.first_place(*id))
        };
        let message = "types that inherit from each other declare it; --family renames all of them".to_string();
        return Err(CannotRename::Refused(message, declaring.iter().map(place).collect()));
    }
    Ok(Target { types, old, new, namespace, declaring, related })
}

impl<'v> Target<'v> {
    /// Refuses where a base that is not seen may have the member too.
    pub(super) fn check_bases(&self) -> Renamed<()> {
        if self.declaring.iter().all(|(of, id)| self.overrides_nothing(*of, *id)) {
            return Ok(());
        }
        for of in &self.related {
            if let Some((file, base)) = self.types.foreign_base(*of, self.old) {
                let message = format!("a base of the type may have \"{}\" too", self.old);
                return refused(message, &self.types.views[file], base.span());
            }
        }
        Ok(())
    }

    /// Whether a member surely neither overrides nor implements one of a base: fields and static methods never do, and what overrides is
    /// not seen by fewer than what it overrides.
    fn overrides_nothing(&self, of: TypeId, id: BindingId) -> bool {
        let view = self.types.view(of);
        let is_interface = self.types.all[of].node.kind() == Kind::Interface;
        let names_package = rename_traits_of(view.file.language).names_package;
        let is_own = |holder: NodeRef<'_>| {
            let seen = visibility(&view.file.text, holder);
            let says = |word: &str| words_before(&view.file.text, holder).contains(&word);
            match holder.kind() {
                Kind::Field => true,
                _ if seen == Some("private") => true,
                _ if is_interface => false,
                _ if names_package => says("static") || seen.is_none(),
                _ => says("static") || !says("override") && seen != Some("public"),
            }
        };
        view.names.binding(id).declarations.iter().all(|one| {
            let mut around = view.file.tree.node(one.node).ancestors();
            let holder = around.find(|around| matches!(around.kind(), Kind::Field | Kind::Function | Kind::Property));
            holder.is_some_and(is_own)
        })
    }

    /// Refuses where a related type has a member of the new name.
    pub(super) fn check_new_name(&self) -> Renamed<()> {
        let taken = |of: &TypeId| Some((*of, self.types.declares(*of, self.namespace, self.new)?));
        match self.related.iter().find_map(taken) {
            Some((of, id)) => {
                let view = self.types.view(of);
                refused(format!("the type has a member \"{}\" already", self.new), view, view.first_place(id))
            }
            None => Ok(()),
        }
    }

    /// Refuses where a class without a name may override the member.
    pub(super) fn check_nameless(&self) -> Renamed<()> {
        for (file, view) in self.types.views.iter().enumerate() {
            for holder in view.file.tree.nodes_of_any(&[Kind::New, Kind::EnumMember]) {
                let Some(body) = holder.child(Role::Body) else { continue };
                let own = body.children().filter(|member| member.kind() == Kind::Function);
                let names = own.filter_map(|member| member.child(Role::Name));
                let Some(name) = names.into_iter().find(|name| view.file.slice(*name) == self.old) else { continue };
                let of = match holder.child(Role::Callee) {
                    Some(callee) => self.types.named(file, callee),
                    None => self.types.around(file, holder).map_or(Known::Unknown, Known::Of),
                };
                if self.is_ours(of) != Some(false) {
                    return refused("a class without a name overrides it".into(), view, name.span());
                }
            }
        }
        Ok(())
    }

    /// Renames what declares the member, with the uses in the same files that surely mean it.
    pub(super) fn declarations(&self, edits: &mut Edits) -> Renamed<()> {
        for (of, id) in &self.declaring {
            let file = self.types.all[*of].file;
            let view = self.types.view(*of);
            namespaced::not_in_other_part(self.types.views, file, *id)?;
            not_a_component(view, *id)?;
            self.not_its_type(file, *id)?;
            may_become(&view.names, *id, self.new).or_else(|clash| self.clash(file, *id, clash))?;
            let found = places(&view.file.tree, &view.names, *id);
            edits[file].extend(found.into_iter().map(|place| Edit::replace(place.span, self.new)));
        }
        Ok(())
    }

    /// Refuses where a member has the name of its type, which others declare, and a name before a dot may be either.
    fn not_its_type(&self, file: usize, id: BindingId) -> Renamed<()> {
        let view = &self.types.views[file];
        let declared = view.names.binding(id).declarations.iter().map(|one| view.file.tree.node(one.node));
        let mut written = declared
            .flat_map(|name| name.ancestors().take(2))
            .filter_map(|holder| holder.child(Role::Type).or_else(|| holder.child(Role::Returns)));
        let has_its_name = written.any(|written| {
            simple_name(view, written) == self.old && !matches!(self.types.named(file, written), Known::Of(_))
        });
        let of_it = view.names.references().filter(|one| has_its_name && one.resolution == Resolution::Binding(id));
        let mut before_dots = of_it.filter(|one| view.file.tree.node(one.node).role() == Role::Object);
        match before_dots.next() {
            Some(used) => refused(format!("this may be the type \"{}\" or the member", self.old), view, used.span),
            None => Ok(()),
        }
    }

    fn clash(&self, file: usize, id: BindingId, clash: Clash) -> Renamed<()> {
        let view = &self.types.views[file];
        match clash {
            Clash::Taken(other) => refused(is_taken(self.old, self.new), view, view.first_place(other)),
            Clash::Hides(used) => refused(means_another(self.old, self.new), view, used),
            // Objects are followed.
            Clash::Accessed => Ok(()),
            Clash::Doubtful => self.no_doubt(file, id),
            Clash::Unclear => {
                let message = format!("\"{}\" may be used in ways that the code does not show", self.old);
                refused(message, view, view.first_place(id))
            }
        }
    }

    /// Refuses where a use that may be of something else of this name is not surely the member.
    fn no_doubt(&self, file: usize, id: BindingId) -> Renamed<()> {
        let view = &self.types.views[file];
        let of_it = view.names.references().filter(|one| one.resolution == Resolution::Binding(id));
        for reference in of_it.filter(|one| one.is_doubtful) {
            let node = view.file.tree.node(reference.node);
            let Some(holder) = node.parent() else { continue };
            let known = match holder.kind() {
                // It also gives the element its name, which may be used behind a dot.
                Kind::Tuple | Kind::Composite => None,
                Kind::Member | Kind::Path if node.role() == Role::Name => {
                    holder.child(Role::Object).and_then(|object| self.is_ours(self.types.object(file, object)))
                }
                _ => self.alone(file, node),
            };
            if known != Some(true) {
                let message = format!("it is not known whether this is the member \"{}\"", self.old);
                return refused(message, view, reference.span);
            }
        }
        Ok(())
    }

    /// A type that is not related and declares a member of that name, too.
    pub(super) fn other_declaration(&self) -> Option<(usize, Span)> {
        let others = (0..self.types.all.len()).filter(|of| !self.related.contains(of));
        others.into_iter().find_map(|of| {
            let id = self.types.declares(of, self.namespace, self.old)?;
            Some((self.types.all[of].file, self.types.view(of).first_place(id)))
        })
    }
}

/// Components of records are parameters, fields and methods at once.
pub(super) fn not_a_component(view: &View<'_>, id: BindingId) -> Renamed<()> {
    let declarations = &view.names.binding(id).declarations;
    match declarations.iter().find(|one| one.kind == DeclarationKind::Parameter || is_component(view, one.node)) {
        Some(one) => {
            let span = view.file.tree.node(one.node).span();
            refused("components of records are not followed".into(), view, span)
        }
        None => Ok(()),
    }
}

fn is_component(view: &View<'_>, declared: NodeId) -> bool {
    let node = view.file.tree.node(declared);
    node.kind() == Kind::Parameter || node.parent().is_some_and(|holder| holder.kind() == Kind::Parameter)
}
