//! Types, as far as they are followed.

use sieve_meaning::names::BindingId;

/// What a value is. References are what they refer to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum Type {
    /// A type or a trait of the project, by its file and its binding, with its arguments.
    Own(usize, BindingId, Vec<Type>),
    /// A type of the library or of another package, by the last word of its name.
    Other(String, Vec<Type>),
    Tuple(Vec<Type>),
    /// An array or a slice.
    List(Box<Type>),
    /// The parameter of a type or a function.
    Parameter(usize, BindingId),
    /// A function, by its result.
    Function(Box<Type>),
    Unknown,
}

/// A type has so many parts.
const MOST_PARTS: usize = 200;

impl Type {
    pub(super) fn other(name: &str, arguments: Vec<Type>) -> Type {
        Type::Other(name.to_string(), arguments)
    }

    /// The type, or nothing that is known where it has more parts than anybody writes: tuples of tuples may double from line to line.
    pub(super) fn or_unknown(self) -> Type {
        if self.parts_within(MOST_PARTS).is_some() { self } else { Type::Unknown }
    }

    /// How many more parts there may be than those of the type; nothing where it has too many.
    fn parts_within(&self, most: usize) -> Option<usize> {
        let rest = most.checked_sub(1)?;
        let all = |types: &[Type], rest: usize| types.iter().try_fold(rest, |rest, one| one.parts_within(rest));
        match self {
            Type::Own(_, _, inner) | Type::Other(_, inner) | Type::Tuple(inner) => all(inner, rest),
            Type::List(inner) | Type::Function(inner) => inner.parts_within(rest),
            Type::Parameter(..) | Type::Unknown => Some(rest),
        }
    }

    /// Parameters with the arguments for them. Where there are none, it is not known what they are.
    pub(super) fn bound(parameters: Vec<Type>, arguments: &[Type]) -> Vec<(Type, Type)> {
        let argument = |index: usize| arguments.get(index).cloned().unwrap_or(Type::Unknown);
        parameters.into_iter().enumerate().map(|(index, parameter)| (parameter, argument(index))).collect()
    }

    /// The type with arguments in the place of parameters.
    pub(super) fn with(self, parameters: &[(Type, Type)]) -> Type {
        let all = |types: Vec<Type>| types.into_iter().map(|one| one.with(parameters)).collect();
        match self {
            Type::Own(file, id, arguments) => Type::Own(file, id, all(arguments)),
            Type::Other(name, arguments) => Type::Other(name, all(arguments)),
            Type::Tuple(elements) => Type::Tuple(all(elements)),
            Type::List(element) => Type::List(Box::new(element.with(parameters))),
            Type::Function(result) => Type::Function(Box::new(result.with(parameters))),
            Type::Parameter(..) => match parameters.iter().find(|(parameter, _)| *parameter == self) {
                Some((_, argument)) => argument.clone(),
                None => self,
            },
            Type::Unknown => Type::Unknown,
        }
    }
}
