//! What rules work out once and ask again: of a whole file, or of a node that many others lie in.

use std::any::{Any, TypeId};
use std::cell::RefCell;
use std::rc::Rc;

use rustc_hash::FxHashMap;
use sieve_syntax::tree::NodeId;

/// Answers by their types, those of nodes by the nodes too. Each rule or helper has types of its own, so that no room but its own has to
/// know of what it remembers.
#[derive(Default)]
pub(crate) struct Memo(RefCell<FxHashMap<(TypeId, Option<NodeId>), Rc<dyn Any>>>);

impl std::fmt::Debug for Memo {
    fn fmt(&self, out: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(out, "Memo({} answers)", self.0.borrow().len())
    }
}

impl Memo {
    /// The answer of a type, worked out when it is asked for first.
    pub(crate) fn once<T: 'static>(&self, node: Option<NodeId>, work: impl FnOnce() -> T) -> Rc<T> {
        let key = (TypeId::of::<T>(), node);
        let known = self.0.borrow().get(&key).cloned();
        // Working out one answer may ask for others.
        let answer = known.unwrap_or_else(|| {
            let made: Rc<dyn Any> = Rc::new(work());
            self.0.borrow_mut().entry(key).or_insert(made).clone()
        });
        answer.downcast().unwrap_or_else(|_| unreachable!("answers are kept by their types"))
    }
}

#[cfg(test)]
mod tests {
    use std::cell::Cell;

    use super::*;

    #[derive(Debug, PartialEq)]
    struct Depth(u32);
    struct Width(u32);

    #[test]
    fn answers_are_worked_out_once_for_each_type_and_node() {
        let memo = Memo::default();
        let worked = Cell::new(0);
        let depth = |node: Option<NodeId>, value: u32| {
            memo.once(node, || {
                worked.set(worked.get() + 1);
                Depth(value)
            })
        };
        assert_eq!(*depth(None, 1), Depth(1));
        assert_eq!(*depth(None, 2), Depth(1), "it is known");
        assert_eq!(*depth(Some(NodeId(0)), 3), Depth(3));
        assert_eq!(*depth(Some(NodeId(7)), 4), Depth(4));
        assert_eq!(memo.once(None, || Width(5)).0, 5);
        assert_eq!(worked.get(), 3);
    }

    #[test]
    fn an_answer_may_ask_for_others_and_for_itself() {
        let memo = Memo::default();
        let outer = memo.once(None, || Depth(memo.once(None, || Width(2)).0 + memo.once(None, || Depth(3)).0));
        assert_eq!(*outer, Depth(3), "the first answer that was finished stays");
    }
}
