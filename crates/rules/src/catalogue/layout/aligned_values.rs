use std::cmp::Ordering;

use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "aligned-values",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl],
    fix: Some(FixKind::Exact),
    what: "equals signs in lines below each other that are not aligned as those of the rest of the file are",
    why: "Names and values are read in columns, as the language has them by convention. One line out of place looks like one that means something else.",
    silent: "Between lines with an empty line, a comment or a value of several lines between them. In a file where most are not aligned, unless settings say which is wanted.",
    standards: &["HCL native syntax, Structural Elements"],
    options: &[OptionFacts {
        name: "values",
        default: OptionDefault::Choice("usual", &["usual", "aligned", "apart"]),
        about: "how equals signs stand: aligned, or one space from each name (apart); usual: as most lines of the file",
    }],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[Wrong {
            code: "board {\n  lines = 3\n  tide  = \"low\"\n}\n\nlamp {\n  colour = 3\n  on     = true\n}\n\nquay {\n  depth = 3\n  name = \"north\"\n  width = 2\n}\n",
            at: &["13:8"],
            fixed: Some(
                "board {\n  lines = 3\n  tide  = \"low\"\n}\n\nlamp {\n  colour = 3\n  on     = true\n}\n\nquay {\n  depth = 3\n  name  = \"north\"\n  width = 2\n}\n",
            ),
        }],
        right: &[
            "board {\n  lines = 3\n  tide = \"low\"\n}\n",
            "board {\n  lines = 3\n\n  tide = \"low\"\n  # Below the bridge.\n  colours = [\n    \"red\",\n  ]\n  depth = 2\n  width = 2\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::All(&[Kind::Assignment], check),
};

fn check(context: &mut Context, assignments: &[NodeRef]) {
    let file = context.file();
    let lines: Vec<Line> = assignments.iter().filter_map(|node| Line::of(file, *node)).collect();
    let groups: Vec<&[Line]> = lines.chunk_by(|one, next| one.is_above(next)).filter(|group| group.len() > 1).collect();
    let tell = |group: &[Line]| group.iter().any(|line| line.width != group[0].width);
    let is_aligned = |group: &[Line]| {
        let width = widest(group);
        group.iter().all(|line| line.width + line.gap.len() as usize == width + 1)
    };
    let is_apart = |group: &[Line]| group.iter().all(|line| line.gap.len() == 1);
    let count = |fits: &dyn Fn(&[Line]) -> bool| groups.iter().filter(|group| tell(group) && fits(group)).count();
    let wants_columns = match context.word("values") {
        "aligned" => true,
        "apart" => false,
        _ => match count(&is_aligned).cmp(&count(&is_apart)) {
            Ordering::Greater => true,
            Ordering::Less => false,
            Ordering::Equal => return,
        },
    };
    for group in groups {
        let most = if wants_columns { widest(group) } else { 0 };
        for line in group {
            let wanted = if wants_columns { most + 1 - line.width } else { 1 };
            if line.gap.len() as usize == wanted || line.gap.is_empty() {
                continue;
            }
            let message = if wants_columns {
                "this equals sign is not below the others"
            } else {
                "more than a space is before this equals sign"
            };
            context
                .report(line.sign, message)
                .advice(if wants_columns { "align it with the lines around it" } else { "leave one space" })
                .fix(vec![Edit::replace(line.gap, " ".repeat(wanted))]);
        }
    }
}

/// How many characters the longest name of some lines has.
fn widest(group: &[Line]) -> usize {
    group.iter().map(|line| line.width).max().unwrap_or_default()
}

/// An assignment on a line of its own.
struct Line {
    number: u32,
    holder: NodeId,
    /// How many characters its name has.
    width: usize,
    /// What is between the name and the sign.
    gap: Span,
    sign: Span,
}

impl Line {
    fn of(file: File<'_>, assignment: NodeRef) -> Option<Line> {
        let (target, value) = (assignment.child(Role::Target)?, assignment.child(Role::Value)?);
        let lines = file.text.lines();
        let (number, last) = (lines.line_of(assignment.span().start), lines.line_of(assignment.span().end));
        // Not what is behind the brace of a block of one line.
        let before = file.text.slice(Span::new(lines.full_line(number).start, target.span().start));
        let between = file.text.slice(Span::new(target.span().end, value.span().start));
        let at = target.span().end + between.find('=')? as u32;
        let gap = Span::new(target.span().end, at);
        let is_plain =
            number == last && before.trim().is_empty() && file.text.slice(gap).bytes().all(|byte| byte == b' ');
        is_plain.then(|| Line {
            number,
            holder: assignment.parent().map_or(assignment.id(), NodeRef::id),
            width: file.node_text(target).chars().count(),
            gap,
            sign: Span::new(at, at + 1),
        })
    }

    /// Whether another one is on the next line of the same block.
    fn is_above(&self, next: &Line) -> bool {
        self.holder == next.holder && self.number + 1 == next.number
    }
}
