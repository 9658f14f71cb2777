//! One tree of trees over stretches of a file: the file as one language sees it that has no more than these.

use std::sync::OnceLock;

use super::{Fault, Kind, Node, Role, Token, TokenKind, Tree};
use crate::text::Span;

/// A stretch of a file with a tree of its own.
#[derive(Debug)]
pub struct Part {
    /// Where the stretch begins in the file, in bytes.
    pub start: u32,
    /// Its tree, whose places are counted from there.
    pub tree: Tree,
    /// What its root becomes, from the outermost node to the one that holds its statements; nothing where these are the file's own.
    pub around: &'static [(Kind, Role)],
}

/// A stretch of a file in another language.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Stretch {
    /// Where it is.
    pub span: Span,
    /// It is the value of an attribute, in which the code around it has a say in how it is laid out.
    pub is_inline: bool,
}

impl Part {
    /// Where it is.
    pub fn stretch(&self) -> Stretch {
        let span = Span::new(self.start, self.start + self.tree.length);
        Stretch { span, is_inline: !self.around.is_empty() }
    }
}

impl Tree {
    /// The tree of a file of some length in bytes, of which only some stretches are understood, given in their order. What is between
    /// them is trivia.
    pub fn joined(parts: Vec<Part>, length: u32) -> Tree {
        let root = Node { kind: Kind::File, role: Role::Root, parent: 0, end: 0, first_token: 0, end_token: 0 };
        let (by_kind, begun) = (OnceLock::new(), OnceLock::new());
        let mut whole = Tree { nodes: vec![root], tokens: Vec::new(), length, faults: Vec::new(), by_kind, begun };
        let mut end = 0;
        for part in parts {
            whole.gap(end, part.start);
            end = part.start + part.tree.length;
            whole.add(part);
        }
        whole.gap(end, length);
        whole.tokens.push(Token { start: length, kind: TokenKind::EndOfFile });
        whole.nodes[0].end = whole.nodes.len() as u32;
        whole.nodes[0].end_token = whole.tokens.len() as u32;
        whole
    }

    fn gap(&mut self, from: u32, to: u32) {
        if to > from {
            self.tokens.push(Token { start: from, kind: TokenKind::Elsewhere });
        }
    }

    fn add(&mut self, part: Part) {
        let Part { start, tree, around } = part;
        let first_token = self.tokens.len() as u32;
        let own = tree.tokens.iter().filter(|token| token.kind != TokenKind::EndOfFile);
        self.tokens.extend(own.map(|token| Token { start: token.start + start, kind: token.kind }));
        let end_token = self.tokens.len() as u32;
        let shifted = |fault: Fault| {
            let Span { start: from, end } = fault.span;
            Fault { span: Span::new(from + start, end + start), problem: fault.problem }
        };
        self.faults.extend(tree.faults.into_iter().map(shifted));
        // The root gives way to what is put around its children.
        let end = self.nodes.len() + around.len() + tree.nodes.len() - 1;
        let mut holder = 0;
        for (kind, role) in around {
            let (kind, role, parent) = (*kind, *role, holder);
            holder = self.nodes.len() as u32;
            self.nodes.push(Node { kind, role, parent, end: end as u32, first_token, end_token });
        }
        let moved = self.nodes.len() as u32 - 1;
        self.nodes.extend(tree.nodes[1..].iter().map(|node| Node {
            parent: if node.parent == 0 { holder } else { node.parent + moved },
            end: node.end + moved,
            first_token: (node.first_token + first_token).min(end_token),
            end_token: (node.end_token + first_token).min(end_token),
            ..*node
        }));
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::language::Language;
    use crate::text::Text;

    #[test]
    fn parts_keep_their_places() {
        let source = "<b>a = 1<i>call(a)</i>";
        let part = |start: usize, end: usize, around: &'static [(Kind, Role)]| {
            let tree = Language::JavaScript.parse(&Text::new(source[start..end].to_string()));
            Part { start: start as u32, tree, around }
        };
        let parts = vec![part(3, 8, &[]), part(11, 18, &[(Kind::Lambda, Role::Statement), (Kind::Block, Role::Body)])];
        let tree = Tree::joined(parts, source.len() as u32);
        let text = |kind: Kind| {
            let node = tree.nodes().find(|node| node.kind() == kind).expect("it is there");
            &source[node.span().range()]
        };
        assert_eq!((text(Kind::Number), text(Kind::Call), text(Kind::Block)), ("1", "call(a)", "call(a)"));
        assert_eq!(tree.root().children().count(), 2);
        let joined: String =
            (0..tree.tokens().len() as u32).map(|token| &source[tree.token_span(token).range()]).collect();
        assert_eq!(joined, source);
        let call = tree.nodes().find(|node| node.kind() == Kind::Call).expect("it is there");
        let kinds: Vec<Kind> = call.ancestors().map(|node| node.kind()).collect();
        assert_eq!(kinds, [Kind::ExpressionStatement, Kind::Block, Kind::Lambda, Kind::File]);
    }
}
