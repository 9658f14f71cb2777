//! Leaving: `return`, `throw`, `break`, `continue`, and what they pass on their way out.

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::Builder;
use crate::flow::graph::{BlockId, EdgeKind};

/// Something that a jump out of a statement may meet, the innermost last.
pub(super) enum Frame<'t> {
    /// A loop, a choice or a labelled statement: where `break` and `continue` lead.
    Target { labels: Vec<&'t str>, plain_break: bool, on_break: BlockId, on_continue: Option<BlockId> },
    /// A choice that is an expression: where its value leads.
    Choice { after: BlockId },
    /// A `finally`, which every jump out of its statement runs first.
    Finally { pending: Vec<(Jump<'t>, BlockId)> },
    /// Code that runs in a copy of the program.
    Isolated { end: BlockId },
}

/// A way of leaving.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Jump<'t> {
    Return,
    /// Ends the whole program.
    Exit,
    Break(Option<&'t str>),
    Continue(Option<&'t str>),
    /// Gives the value of a choice.
    Yield,
}

impl<'t> Builder<'t, '_> {
    pub(super) fn on_jump(&mut self, node: NodeRef<'t>) {
        for part in node.children().filter(|part| part.role() != Role::Label) {
            self.value(part);
        }
        let label = node.child(Role::Label).map(|label| self.text(label));
        match node.kind() {
            Kind::Return => self.leave(Jump::Return),
            Kind::Break => self.leave(Jump::Break(label)),
            Kind::Continue => self.leave(Jump::Continue(label)),
            Kind::Yield => match node.significant_tokens().nth(1) {
                // A generator goes on behind what it yields.
                Some((_, TokenKind::Return)) => {}
                _ => self.leave(Jump::Yield),
            },
            _ => {
                self.may_raise();
                self.current = self.open();
            }
        }
    }

    /// Leaves by a jump, as far as the next `finally` if there is one. What follows is reached by no way. Where there is nothing to
    /// leave, the code goes on: a shell only complains.
    pub(super) fn leave(&mut self, jump: Jump<'t>) {
        for index in (0..self.frames.len()).rev() {
            let current = self.current;
            let target = match &mut self.frames[index] {
                Frame::Finally { pending } => {
                    pending.push((jump, current));
                    self.current = self.open();
                    return;
                }
                // A copy of the shell is in no loop, and is left by what leaves the function or the script.
                Frame::Isolated { end } => match jump {
                    Jump::Exit => Some(*end),
                    Jump::Return if self.owner.kind().is_function() => Some(*end),
                    _ => return,
                },
                Frame::Choice { after } => (jump == Jump::Yield).then_some(*after),
                Frame::Target { labels, plain_break, on_break, on_continue } => match jump {
                    Jump::Break(None) if *plain_break => Some(*on_break),
                    Jump::Break(Some(label)) if labels.contains(&label) => Some(*on_break),
                    Jump::Continue(None) => *on_continue,
                    Jump::Continue(Some(label)) if labels.contains(&label) => *on_continue,
                    _ => None,
                },
            };
            if let Some(target) = target {
                self.graph.connect(current, target, EdgeKind::Open);
                self.current = self.open();
                return;
            }
        }
        let leaves = match jump {
            Jump::Return => self.owner.kind().is_function(),
            Jump::Exit => true,
            Jump::Break(_) | Jump::Continue(_) | Jump::Yield => false,
        };
        if leaves {
            self.current = self.open();
        }
    }
}
