//! What a variable, a constant or a function is, by what declares it.

use sieve_meaning::names::{BindingId, DeclarationKind};
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::expression::types_in;
use super::project::{Known, Project, is_type_name};

/// Constants are followed to one above that has a value through so many.
const LONGEST_GROUP: usize = 4096;

impl<'v> Project<'v> {
    /// What a place of the project declares; `used` is where it is asked for in the same file.
    pub(super) fn declared(&self, file: usize, id: BindingId, used: Option<NodeRef<'v>>, steps: usize) -> Known<'v> {
        let view = &self.views[file];
        let [only] = view.names.binding(id).declarations.as_slice() else { return Known::Unknown };
        let name = view.file.tree.node(only.node);
        let Some(holder) = name.parent() else { return Known::Unknown };
        match only.kind {
            kind if is_type_name(kind) => self.named_type(file, name).unwrap_or(Known::Unknown),
            DeclarationKind::Function => Known::Written(file, holder),
            DeclarationKind::Parameter => holder.child(Role::Type).map_or(Known::Unknown, |of| self.written(file, of)),
            DeclarationKind::LoopTarget => self.of_loop(file, holder, name, steps),
            DeclarationKind::Assignment | DeclarationKind::Unpacking => {
                let guard = holder.child(Role::Value).filter(|value| value.kind() == Kind::TypeGuard);
                match guard.zip(used) {
                    Some((guard, used)) => self.of_case(file, holder, guard, used, steps),
                    None => self.assigned(file, holder, name, steps),
                }
            }
            _ => Known::Unknown,
        }
    }

    /// `for index, quay := range quays`
    fn of_loop(&self, file: usize, whole: NodeRef<'v>, name: NodeRef<'v>, steps: usize) -> Known<'v> {
        let place = whole.children_in(Role::Target).position(|target| target == name);
        let Some((place, over)) = place.zip(whole.child(Role::Iterable)) else { return Known::Unknown };
        let over = self.underlying(self.follow(file, over, steps));
        match over {
            Known::Written(at, of) => match of.kind() {
                Kind::ChannelType => self.element(over),
                Kind::FunctionType | Kind::Function | Kind::Lambda => self.given_to_body(at, of, place),
                _ if place == 0 => self.key(over),
                _ => self.element(over),
            },
            Known::Foreign => Known::Foreign,
            _ => Known::Unknown,
        }
    }

    /// What a function that is gone through gives to the body: the parameters of its own only parameter.
    fn given_to_body(&self, file: usize, function: NodeRef<'v>, place: usize) -> Known<'v> {
        let body = function.child(Role::Parameters).and_then(|list| types_in(list).next());
        let Some(Known::Written(at, body)) = body.map(|body| self.underlying(self.written(file, body))) else {
            return Known::Unknown;
        };
        let given = body.child(Role::Parameters).and_then(|list| types_in(list).nth(place));
        given.map_or(Known::Unknown, |given| self.written(at, given))
    }

    /// What a name stands for in a case of a choice by its type: the only type of the case, or what is asked.
    fn of_case(
        &self,
        file: usize,
        holder: NodeRef<'v>,
        guard: NodeRef<'v>,
        used: NodeRef<'v>,
        steps: usize,
    ) -> Known<'v> {
        let choice = holder.parent();
        let case = used.levels().find(|(_, around)| Some(*around) == choice).map(|(case, _)| case);
        let mut patterns = case.into_iter().flat_map(|case| case.children_in(Role::Pattern));
        match (patterns.next(), patterns.next()) {
            (Some(only), None) if self.slice(file, only) != "nil" => self.written(file, only),
            _ => self.follow(file, guard, steps),
        }
    }

    /// What is put into a variable by its declaration.
    fn assigned(&self, file: usize, declaration: NodeRef<'v>, name: NodeRef<'v>, steps: usize) -> Known<'v> {
        let Some(place) = declaration.children_in(Role::Target).position(|target| target == name) else {
            return Known::Unknown;
        };
        let says = |item: &NodeRef<'v>| item.child(Role::Type).is_some() || item.child(Role::Value).is_some();
        // A constant without a value has that of the one above.
        let above = std::iter::successors(Some(declaration), |item| item.previous_sibling()).take(LONGEST_GROUP);
        let Some(declaration) = above.into_iter().find(says) else {
            return Known::Unknown;
        };
        if let Some(written) = declaration.child(Role::Type) {
            return self.written(file, written);
        }
        let values: Vec<NodeRef<'v>> = declaration.children_in(Role::Value).collect();
        let targets = declaration.children_in(Role::Target).count();
        match values.as_slice() {
            [only] if targets > 1 && only.kind() == Kind::Call => self.result(file, *only, place, steps),
            // Whether there is such an element, or whether it is of such a type.
            [_] if place > 0 => Known::Foreign,
            [only] => self.follow(file, *only, steps),
            several => several.get(place).map_or(Known::Unknown, |value| self.follow(file, *value, steps)),
        }
    }
}
