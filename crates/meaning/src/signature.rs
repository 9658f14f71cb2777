//! Signatures of functions, and whether a call fits one.

use serde::{Deserialize, Serialize};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

/// How an argument reaches a parameter.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub enum Passing {
    /// By its position only.
    Position,
    /// By position or by name.
    Either,
    /// By name only.
    Name,
    /// Takes all positions that are left.
    AllPositions,
    /// Takes all names that are left.
    AllNames,
}

/// One parameter.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub struct Parameter {
    /// Its name; empty for a pattern.
    pub name: String,
    /// How arguments reach it.
    pub passing: Passing,
    /// Whether a call must give it.
    pub is_needed: bool,
}

/// What a function takes.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Default, Serialize, Deserialize)]
pub struct Signature {
    /// The parameters in their order.
    pub parameters: Vec<Parameter>,
}

/// What a call gives.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Given<'t> {
    /// How many arguments are by position.
    pub positions: usize,
    /// The names of the others.
    pub names: Vec<&'t str>,
    /// Whether a list of unknown length is spread out among the positions.
    pub spreads_positions: bool,
    /// Whether a mapping is spread out among the names.
    pub spreads_names: bool,
}

/// Why a call does not fit.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Misfit<'s> {
    /// More positions than the function takes: how many it takes at most.
    TooMany(usize),
    /// These parameters get nothing.
    Missing(Vec<&'s str>),
    /// No parameter has this name.
    UnknownName(usize),
    /// The parameter gets a value by its position as well.
    Twice(&'s str),
}

impl Signature {
    /// What takes anything.
    pub fn any() -> Signature {
        let all = |passing| Parameter { name: String::new(), passing, is_needed: false };
        Signature { parameters: vec![all(Passing::AllPositions), all(Passing::AllNames)] }
    }

    /// Reads the parameters of a function.
    pub fn of(language: Language, text: &Text, function: NodeRef<'_>) -> Signature {
        let parameters = function.child(Role::Parameters).into_iter().flat_map(|all| all.children());
        match language {
            Language::Python => python(text, parameters),
            _ => javascript(text, function, parameters),
        }
    }

    /// The same without the first parameter, which the language fills in itself.
    pub fn bound(mut self) -> Signature {
        let takes = |parameter: &Parameter| matches!(parameter.passing, Passing::Position | Passing::Either);
        if self.parameters.first().is_some_and(takes) {
            self.parameters.remove(0);
        }
        self
    }

    /// How many positions it takes at most; `None` for any number.
    pub fn most_positions(&self) -> Option<usize> {
        let takes_all = self.parameters.iter().any(|parameter| parameter.passing == Passing::AllPositions);
        (!takes_all).then(|| self.by_position().count())
    }

    fn by_position(&self) -> impl Iterator<Item = &Parameter> {
        self.parameters.iter().filter(|one| matches!(one.passing, Passing::Position | Passing::Either))
    }

    /// Whether a call fits.
    ///
    /// # Errors
    /// The first reason why it does not.
    pub fn check<'s>(&'s self, given: &Given<'_>) -> Result<(), Misfit<'s>> {
        if let Some(most) = self.most_positions().filter(|most| given.positions > *most) {
            return Err(Misfit::TooMany(most));
        }
        let takes_all_names = self.parameters.iter().any(|one| one.passing == Passing::AllNames);
        for (index, name) in given.names.iter().enumerate() {
            let named = self
                .parameters
                .iter()
                .find(|one| one.name == **name && matches!(one.passing, Passing::Either | Passing::Name));
            match named {
                None if !takes_all_names => return Err(Misfit::UnknownName(index)),
                Some(parameter) if self.by_position().take(given.positions).any(|one| one == parameter) => {
                    return Err(Misfit::Twice(&parameter.name));
                }
                _ => {}
            }
        }
        let missing = self.missing(given);
        if missing.is_empty() { Ok(()) } else { Err(Misfit::Missing(missing)) }
    }

    fn missing<'s>(&'s self, given: &Given<'_>) -> Vec<&'s str> {
        let mut position = 0;
        let mut missing = Vec::new();
        for parameter in &self.parameters {
            let by_position = matches!(parameter.passing, Passing::Position | Passing::Either);
            let gets_position = by_position && (position < given.positions || given.spreads_positions);
            position += usize::from(by_position);
            let by_name = parameter.passing != Passing::Position
                && (given.spreads_names || given.names.contains(&parameter.name.as_str()));
            if parameter.is_needed && !gets_position && !by_name {
                missing.push(parameter.name.as_str());
            }
        }
        missing
    }
}

impl<'t> Given<'t> {
    /// Reads the arguments of a call. A comma after the last one is no argument.
    pub fn by(text: &'t Text, call: NodeRef<'_>) -> Given<'t> {
        let mut given = Given::default();
        for argument in call.child(Role::Arguments).into_iter().flat_map(|all| all.children()) {
            match argument.kind() {
                Kind::KeywordArgument => {
                    let name = argument.child(Role::Name).map_or("", |name| text.slice(name.span()));
                    given.names.push(name);
                }
                Kind::Spread if argument.first_token_kind() == TokenKind::StarStar => given.spreads_names = true,
                Kind::Spread => given.spreads_positions = true,
                _ => given.positions += 1,
            }
        }
        given
    }
}

/// Python Language Reference 3.14, 8.7 "Function definitions".
fn python<'t>(text: &Text, parameters: impl Iterator<Item = NodeRef<'t>>) -> Signature {
    let mut signature = Signature::default();
    let mut passing = Passing::Either;
    for parameter in parameters {
        let name = parameter.child(Role::Name).map(|name| text.slice(name.span()).to_string());
        match (parameter.first_token_kind(), name) {
            (TokenKind::Slash, _) => {
                for before in &mut signature.parameters {
                    before.passing = Passing::Position;
                }
            }
            (TokenKind::Star, None) => passing = Passing::Name,
            (TokenKind::Star, Some(name)) => {
                signature.parameters.push(Parameter { name, passing: Passing::AllPositions, is_needed: false });
                passing = Passing::Name;
            }
            (TokenKind::StarStar, Some(name)) => {
                signature.parameters.push(Parameter { name, passing: Passing::AllNames, is_needed: false });
            }
            (_, Some(name)) => {
                let is_needed = parameter.child(Role::Default).is_none();
                signature.parameters.push(Parameter { name, passing, is_needed });
            }
            (_, None) => {}
        }
    }
    signature
}

/// ECMAScript 2025, 15.1 "Parameter Lists". Without types every parameter may be left out.
fn javascript<'t>(text: &Text, function: NodeRef<'_>, parameters: impl Iterator<Item = NodeRef<'t>>) -> Signature {
    let tree = function.tree();
    let mut signature = Signature::default();
    for parameter in parameters {
        let name = parameter.child(Role::Name);
        let text_of = |node: NodeRef<'_>| text.slice(node.span()).to_string();
        let named = name.map(text_of).unwrap_or_default();
        // The type of the object that the function is called on is as a parameter.
        if named == "this" || parameter.child(Role::Name).is_some_and(|name| name.kind() == Kind::This) {
            continue;
        }
        let is_rest = parameter.significant_tokens().any(|(_, kind)| kind == TokenKind::Ellipsis)
            && text.slice(parameter.span()).starts_with("...");
        let passing = if is_rest { Passing::AllPositions } else { Passing::Position };
        let head = parameter.child(Role::Name).or_else(|| parameter.child(Role::Pattern));
        let behind = head.map(|head| tree.token_kind(head.token_range().end));
        let is_typed = parameter.child(Role::Type).is_some();
        let is_optional = behind == Some(TokenKind::Question) || parameter.child(Role::Default).is_some();
        let is_needed = is_typed && !is_optional && !is_rest;
        signature.parameters.push(Parameter { name: named, passing, is_needed });
    }
    signature
}
