//! Which types have the methods of which interfaces: by their names, and by how many parameters and results they have.

use std::collections::BTreeSet;

use sieve_meaning::go_interfaces::{RequiredMethod, library_interfaces};
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::expression::types_in;
use super::lookup::{DEEPEST, Found, Member, Owner, embedded_in};
use super::project::{Known, PackageId, Project, TypeId};
use crate::rename::lineage::Lineage;
use crate::rename::package::is_public;

/// A type or an interface that has the member.
pub(super) struct Having<'v> {
    of: Known<'v>,
    owner: Owner,
    /// The methods that it asks for, if it is an interface.
    asks: Option<Vec<Asked<'v>>>,
}

/// A method that an interface requires.
#[derive(Clone, Copy)]
struct Asked<'v> {
    name: &'v str,
    parameters: usize,
    results: usize,
    /// The package whose types alone can have it; nothing for a public one.
    within: Option<PackageId>,
}

impl<'v> Project<'v> {
    /// The owners whose member of a name has to keep the name of that of one of them: a type that has the methods of an interface, and the
    /// interface, in any number of steps; with the types and interfaces that have one of these members.
    pub(super) fn family(&self, start: Owner, name: &str) -> (BTreeSet<Owner>, Vec<Having<'v>>) {
        let mut having = self.having(name);
        let mut lineage = Lineage::of(having.len());
        for (one, of) in having.iter().enumerate() {
            for (other, interface) in having.iter().enumerate() {
                if of.owner == interface.owner || self.implements(of.of, interface) {
                    lineage.add(one, other);
                }
            }
        }
        let first = having.iter().position(|having| having.owner == start);
        let all = first.into_iter().flat_map(|first| lineage.family(first)).map(|one| having[one].owner);
        let related: BTreeSet<Owner> = std::iter::once(start).chain(all).collect();
        having.retain(|having| related.contains(&having.owner));
        (related, having)
    }

    /// The types and interfaces that have a method of that name.
    fn having(&self, name: &str) -> Vec<Having<'v>> {
        let types = (0..self.types.len()).map(Known::Type);
        let written = self.views.iter().enumerate().flat_map(|(file, view)| {
            let bodies = view.file.tree.nodes_of_any(&[Kind::InterfaceType, Kind::ObjectType]);
            let nameless = bodies.into_iter().filter(move |body| self.made_of(file, body.id()).is_none());
            nameless.map(move |body| Known::Written(file, body))
        });
        let has = |of: Known<'v>| match self.lookup(of, name) {
            Found::Member(member) if member.is_method() => {
                Some(Having { of, owner: member.owner, asks: self.asked_by(of) })
            }
            _ => None,
        };
        types.chain(written).filter_map(has).collect()
    }

    /// The methods that an interface asks for; nothing for another type. What is embedded and not known may ask for more.
    fn asked_by(&self, of: Known<'v>) -> Option<Vec<Asked<'v>>> {
        self.interface(of)?;
        let mut found = Vec::new();
        let mut level = vec![of];
        for _ in 0..DEEPEST {
            let bodies: Vec<(usize, NodeRef<'v>)> = level.into_iter().filter_map(|of| self.interface(of)).collect();
            level = Vec::new();
            for (file, part) in bodies
                .into_iter()
                .flat_map(|(file, body)| body.children_in(Role::Statement).map(move |part| (file, part)))
            {
                match part.child(Role::Name).filter(|_| part.kind() == Kind::Function) {
                    Some(name) => found.push(self.asked(file, part, name)),
                    None => level.push(self.written(file, part)),
                }
            }
        }
        Some(found)
    }

    fn interface(&self, of: Known<'v>) -> Option<(usize, NodeRef<'v>)> {
        match self.underlying(of) {
            Known::Written(file, body) if body.kind() == Kind::InterfaceType => Some((file, body)),
            _ => None,
        }
    }

    fn asked(&self, file: usize, method: NodeRef<'v>, name: NodeRef<'v>) -> Asked<'v> {
        let (parameters, results) = arity(method);
        let name = self.slice(file, name);
        let within = (!is_public(name)).then(|| self.package_of[file]);
        Asked { name, parameters, results, within }
    }

    /// Whether a type, or an interface, has all methods that an interface asks for.
    fn implements(&self, of: Known<'v>, interface: &Having<'v>) -> bool {
        let Some(asked) = &interface.asks else { return false };
        asked.iter().all(|asked| self.has_method(of, *asked))
    }

    /// Whether a type has such a method, or may have it from what is embedded in it.
    fn has_method(&self, of: Known<'v>, asked: Asked<'_>) -> bool {
        match self.lookup(of, asked.name) {
            Found::Member(member) => {
                let is_seen = asked.within.is_none_or(|package| package == self.package_of[member.file]);
                is_seen && member.is_method() && arity(member.holder) == (asked.parameters, asked.results)
            }
            Found::Foreign => asked.within.is_none() && self.embeds_foreign(of),
            Found::Unknown => true,
        }
    }

    /// Whether methods of other packages may be promoted to a type.
    fn embeds_foreign(&self, of: Known<'v>) -> bool {
        let mut waiting = vec![of];
        let mut seen: BTreeSet<TypeId> = BTreeSet::new();
        while let Some(of) = waiting.pop() {
            if matches!(of, Known::Type(of) if !seen.insert(of)) {
                continue;
            }
            let Known::Written(file, body) = self.underlying(of) else { continue };
            for written in body.children_in(Role::Statement).filter_map(embedded_in) {
                match self.written(file, written) {
                    known @ Known::Type(_) => waiting.push(known),
                    Known::Foreign if is_lock(self.slice(file, written)) => {}
                    _ => return true,
                }
            }
        }
        false
    }

    /// The least interface of the library with a method called `new` of which one of some types has all methods, if its method that is
    /// called `old` were called `new`.
    pub(super) fn library_asks(&self, having: &[Having<'v>], old: &str, new: &str) -> Option<String> {
        let interfaces = library_interfaces().iter().filter(|methods| methods.iter().any(|one| one.name == new));
        let fits = |methods: &&Vec<RequiredMethod>| {
            having.iter().any(|having| {
                methods.iter().all(|asked| {
                    let RequiredMethod { name, parameters, results } = *asked;
                    let name = if name == new { old } else { name };
                    self.has_method(having.of, Asked { name, parameters, results, within: None })
                })
            })
        };
        let found = interfaces.filter(fits).min_by_key(|methods| methods.len())?;
        Some(found.iter().map(|one| one.name).collect::<Vec<_>>().join(", "))
    }

    /// A member that a type which has the member would have twice under the new name.
    pub(super) fn taken(&self, related: &BTreeSet<Owner>, old: &str, new: &str) -> Option<Member<'v>> {
        let types = (0..self.types.len()).map(Known::Type);
        let bodies = related.iter().filter_map(|owner| match owner {
            Owner::Body(file, body) => Some(Known::Written(*file, self.views[*file].file.tree.node(*body))),
            Owner::Type(_) => None,
        });
        types.chain(bodies).find_map(|of| match (self.lookup(of, old), self.lookup(of, new)) {
            (Found::Member(member), Found::Member(other)) if related.contains(&member.owner) => Some(other),
            _ => None,
        })
    }
}

/// How many parameters and results a function has.
fn arity(function: NodeRef<'_>) -> (usize, usize) {
    let count = |role: Role| function.child(role).map_or(0, |list| types_in(list).count());
    (count(Role::Parameters), count(Role::Returns))
}

/// What is often embedded and has methods of its own kind alone.
fn is_lock(written: &str) -> bool {
    matches!(written, "sync.Mutex" | "sync.RWMutex" | "*sync.Mutex" | "*sync.RWMutex")
}
