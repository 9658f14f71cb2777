//! "Conditional compilation": which stretches of a text are parsed, and which are left out.

mod condition;
mod line;

use std::collections::HashSet;

use condition::holds;
use line::{Line, Shape, Word, lines};

/// The stretches of a text that are left out, and the directives that belong to no other.
#[derive(Debug, Clone, Default)]
pub(super) struct LeftOut {
    /// Where each begins, behind a directive's line, and where it ends: in their order, and apart.
    stretches: Vec<(usize, usize)>,
    /// Where directives are that are alone, and what is wrong with each.
    alone: Vec<(usize, &'static str)>,
}

impl LeftOut {
    /// The end of the stretch that begins at an offset, if one does.
    pub(super) fn from(&self, offset: usize) -> Option<usize> {
        let index = self.stretches.binary_search_by_key(&offset, |stretch| stretch.0).ok()?;
        Some(self.stretches[index].1)
    }

    /// What is wrong with the directive at an offset.
    pub(super) fn wrong_at(&self, offset: usize) -> Option<&'static str> {
        let index = self.alone.binary_search_by_key(&offset, |alone| alone.0).ok()?;
        Some(self.alone[index].1)
    }
}

/// Which branches are parsed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
enum Choice {
    /// All, where each is whole in itself; else the one that is compiled.
    #[default]
    Whole,
    /// The one that is compiled where nothing is defined but what the text defines.
    Compiled,
    /// The first one.
    First,
}

/// What may be left out of a text, the best first.
pub(super) fn choices(source: &str) -> impl Iterator<Item = LeftOut> {
    let lines = lines(source);
    let is_plain = !lines.iter().any(|line| matches!(line.word, Word::If(_)));
    let choices = if is_plain { &[Choice::Whole][..] } else { &[Choice::Whole, Choice::Compiled, Choice::First] };
    choices.iter().map(move |choice| left_out(&lines, *choice))
}

/// A group of branches that has begun.
struct Group {
    /// Where its `#if` is.
    hash: usize,
    /// Whether code around it is compiled.
    is_around: bool,
    /// Whether a branch that is compiled was seen.
    is_taken: bool,
    has_else: bool,
    branches: Vec<Branch>,
    /// What the code around was like where it began.
    before: Shape,
}

/// A branch of a group.
struct Branch {
    start: usize,
    end: usize,
    is_compiled: bool,
    shape: Shape,
}

impl Branch {
    /// One that begins at an offset.
    fn at(start: usize, is_compiled: bool) -> Branch {
        Branch { start, end: start, is_compiled, shape: Shape::default() }
    }
}

/// What is left out by a choice.
fn left_out(lines: &[Line<'_>], choice: Choice) -> LeftOut {
    let mut walk = Walk { choice, ..Walk::default() };
    for line in lines {
        walk.shape.join(line.before);
        walk.take(line);
    }
    walk.finish()
}

/// A walk over the lines for the preprocessor.
#[derive(Default)]
struct Walk<'s> {
    choice: Choice,
    symbols: HashSet<&'s str>,
    groups: Vec<Group>,
    /// Where regions began, and in how many groups each is.
    regions: Vec<(usize, usize)>,
    /// What the code since the innermost branch began is like.
    shape: Shape,
    found: LeftOut,
}

impl<'s> Walk<'s> {
    fn take(&mut self, line: &Line<'s>) {
        let is_active = self.groups.last().is_none_or(|group| group.is_around && group.is_active());
        match line.word {
            Word::Define(name) if is_active => drop(self.symbols.insert(name)),
            Word::Undef(name) if is_active => drop(self.symbols.remove(name)),
            Word::Define(_) | Word::Undef(_) | Word::Other => {}
            Word::Region => self.regions.push((line.hash, self.groups.len())),
            Word::EndRegion => {
                let depth = self.groups.len();
                if self.regions.pop_if(|region| region.1 == depth).is_none() {
                    self.alone(line, "this '#endregion' ends no region");
                }
            }
            Word::If(condition) => self.begin(line, condition, is_active),
            Word::Elif(_) | Word::Else => self.next_branch(line),
            Word::Endif => match self.groups.pop() {
                Some(mut group) => {
                    group.end_branch(line.start, std::mem::take(&mut self.shape));
                    self.shape = group.close(self.choice, &mut self.found.stretches);
                }
                None => self.alone(line, "there is no '#if' before this '#endif'"),
            },
        }
    }

    fn alone(&mut self, line: &Line<'_>, wrong: &'static str) {
        self.found.alone.push((line.hash, wrong));
    }

    fn begin(&mut self, line: &Line<'_>, condition: &str, is_around: bool) {
        let holds = holds(condition, &self.symbols);
        if holds.is_none() && is_around {
            self.alone(line, "this condition cannot be read");
        }
        let is_compiled = holds == Some(true);
        self.groups.push(Group {
            hash: line.hash,
            is_around,
            is_taken: is_compiled,
            has_else: false,
            branches: vec![Branch::at(line.end, is_compiled)],
            before: std::mem::take(&mut self.shape),
        });
    }

    /// `#elif`, `#else`
    fn next_branch(&mut self, line: &Line<'_>) {
        let Some(group) = self.groups.last_mut().filter(|group| !group.has_else) else {
            return self.alone(line, "there is no '#if' before this branch");
        };
        group.end_branch(line.start, std::mem::take(&mut self.shape));
        let is_compiled = !group.is_taken
            && match line.word {
                Word::Elif(condition) => holds(condition, &self.symbols) == Some(true),
                _ => true,
            };
        group.is_taken |= is_compiled;
        group.has_else = line.word == Word::Else;
        group.branches.push(Branch::at(line.end, is_compiled));
    }

    /// What was found, in the order of the text, each stretch apart from the others.
    fn finish(self) -> LeftOut {
        let mut found = self.found;
        found.alone.extend(self.groups.iter().map(|group| (group.hash, "this '#if' has no '#endif'")));
        found.alone.extend(self.regions.iter().map(|region| (region.0, "this region has no '#endregion'")));
        found.alone.sort_unstable();
        found.stretches.sort_unstable_by_key(|stretch| (stretch.0, std::cmp::Reverse(stretch.1)));
        let mut end = 0;
        found.stretches.retain(|stretch| {
            let is_apart = stretch.0 >= end && stretch.1 > stretch.0;
            end = if is_apart { stretch.1 } else { end };
            is_apart
        });
        found
    }
}

impl Group {
    /// Whether the branch that is read is compiled.
    fn is_active(&self) -> bool {
        self.branches.last().is_some_and(|branch| branch.is_compiled)
    }

    fn end_branch(&mut self, end: usize, shape: Shape) {
        if let Some(last) = self.branches.last_mut() {
            last.end = end;
            last.shape = shape;
        }
    }

    /// Leaves out what is not chosen, and gives what the code is like up to here.
    fn close(self, choice: Choice, stretches: &mut Vec<(usize, usize)>) -> Shape {
        let mut shape = self.before;
        let are_whole = shape.may_be_followed() && self.branches.iter().all(|branch| branch.shape.is_whole());
        let parses = |index: usize, branch: &Branch| match choice {
            Choice::Whole if are_whole => true,
            Choice::Whole | Choice::Compiled => branch.is_compiled,
            Choice::First => index == 0,
        };
        for (index, branch) in self.branches.iter().enumerate() {
            if parses(index, branch) {
                shape.join(branch.shape);
            } else {
                stretches.push((branch.start, branch.end));
            }
        }
        shape
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// What is left out of a text at first, with the lines joined.
    fn first(source: &str) -> Vec<&str> {
        let left_out = choices(source).next().expect("a choice");
        left_out.stretches.iter().map(|(start, end)| source[*start..*end].trim()).collect()
    }

    #[test]
    fn branches_that_are_whole_are_all_parsed() {
        assert!(first("class Quay {\n#if TIDES\n  int tide;\n#else\n  int berth;\n#endif\n}\n").is_empty());
        assert!(first("Sail(low,\n#if TIDES\n  high,\n#endif\n  quay);\n").is_empty());
    }

    #[test]
    fn of_others_the_one_that_is_compiled_is_parsed() {
        let source = "#if TIDES\nclass Quay : Tide\n#elif !TIDES && (true)\nclass Quay\n#endif\n{ }\n";
        assert_eq!(first(source), ["class Quay : Tide"]);
        assert_eq!(first(&format!("#define TIDES\n{source}")), ["class Quay"]);
        assert_eq!(
            first("int tide =\n#if LOW\n1\n#if NEAP\n+ 1\n#endif\n#else\n2\n#endif\n;\n"),
            ["1\n#if NEAP\n+ 1\n#endif"]
        );
    }

    #[test]
    fn directives_in_strings_and_comments_are_none() {
        assert!(lines("/*\n#if LOW\n*/ @\"\n#if LOW\n\" \"\"\"\n#if LOW\n\"\"\"").is_empty());
    }

    #[test]
    fn directives_that_are_alone_are_known() {
        for source in ["#endif\n", "#if A\n", "#else\n", "#if A\n#else\n#else\n#endif\n", "#region a\n", "#endregion\n"]
        {
            assert_eq!(choices(source).next().expect("a choice").alone.len(), 1, "{source}");
        }
    }
}
