//! Whitespace between the tokens of one line: one description for each language, read by all rules of spacing.
//!
//! Each token says what it wants on either side. Where the two tokens of a gap want different things, the stronger wish counts, and the
//! gap belongs to the rule of the token that has it. So no two rules ever mention the same gap.
//!
//! One scan of the tokens; no work in lines whose whitespace is as they should be.

mod curly;
mod data;
mod infrastructure;
mod javascript;
mod owners;
mod page;
mod python;
mod say;
mod shell;
mod style;

use std::cell::OnceCell;

use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{NodeRef, TokenId, TokenKind};

use crate::habit::is_clear;
use crate::interface::{File, SpacingKind};
use owners::Owners;
pub(crate) use say::report;

/// What a token wants beside itself, the stronger wishes later.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Want {
    /// Anything.
    Any,
    /// As much as on its other side.
    Even,
    /// One blank.
    One,
    /// No blank.
    None,
    /// What the file has inside of such brackets.
    Inside(Bracket),
    /// What the file has before such brackets, where something is called or looked up.
    Before(Bracket),
    /// What the file has after such marks.
    After(Mark),
}

/// A mark after which there is a space by habit.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Mark {
    /// `:`
    Colon,
    /// `,`
    Comma,
}

/// A kind of brackets.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Bracket {
    /// `( )`
    Round,
    /// `[ ]`
    Square,
    /// `{ }`
    Curly,
    /// `{ }` around statements.
    Block,
    /// `{ }` around the names of an import or an export.
    Names,
    /// `{ }` around the members of a type.
    Type,
}

/// How many sorts of brackets there are.
const BRACKETS: usize = 6;

/// What a token wants on either side.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Wants {
    kind: SpacingKind,
    before: Want,
    after: Want,
}

impl Wants {
    const fn new(kind: SpacingKind, before: Want, after: Want) -> Option<Wants> {
        Some(Wants { kind, before, after })
    }
}

/// A token and the gaps beside it that are its own and are not as it wants them.
#[derive(Debug, Clone, Copy)]
pub struct Spaced {
    /// The token.
    pub token: TokenId,
    /// The gap before it.
    pub before: Option<Gap>,
    /// The gap after it.
    pub after: Option<Gap>,
}

/// Whitespace between two tokens of one line.
#[derive(Debug, Clone, Copy)]
pub struct Gap {
    /// The whitespace.
    pub span: Span,
    /// How many there should be: none or one.
    pub wanted: u32,
}

/// How often a file has whitespace in some places, and how often none.
#[derive(Debug, Default, Clone, Copy)]
struct Habit {
    with: u32,
    without: u32,
}

impl Habit {
    /// How many spaces there are, if that is a habit.
    fn clear(self) -> Option<u32> {
        let Habit { with, without } = self;
        is_clear(with.max(without) as usize, (with + without) as usize).then_some(u32::from(with > without))
    }

    fn count(&mut self, has_it: bool) {
        *(if has_it { &mut self.with } else { &mut self.without }) += 1;
    }
}

/// How a file has the whitespace at its brackets, by their kind.
#[derive(Debug, Default)]
struct Habits {
    inside: [Habit; BRACKETS],
    before: [Habit; BRACKETS],
}

/// What a language's description checks.
pub(crate) struct View<'f> {
    file: File<'f>,
    owners: Owners,
    habits: OnceCell<Habits>,
    /// How the file has the whitespace after marks, by their kind: counted where a language asks for it.
    after_marks: OnceCell<[Habit; 2]>,
    /// What arithmetic wants on either side.
    arithmetic: Want,
    /// What tokens want in the language.
    wants_of: WantsOf,
}

type WantsOf = fn(&View<'_>, TokenId, TokenKind) -> Option<Wants>;

/// The description of each language.
fn wants_of(language: Language) -> WantsOf {
    match language {
        Language::Python => python::wants,
        Language::JavaScript | Language::TypeScript | Language::Tsx => javascript::wants,
        Language::Shell => shell::wants,
        Language::Json | Language::Jsonc | Language::Toml | Language::Yaml => data::wants,
        Language::Css => style::wants,
        Language::Html => page::wants,
        Language::Hcl => infrastructure::wants,
        // Their own formatters say how they are spaced, and nobody writes them otherwise.
        Language::Go | Language::Rust => |_, _, _| None,
        Language::Java | Language::CSharp => curly::wants,
    }
}

/// The option that says what arithmetic wants on either side.
pub(crate) const ARITHMETIC: &str = "arithmetic";

/// What a word of that option represents.
pub(crate) fn around_arithmetic(word: &str) -> Want {
    if word == "one" { Want::One } else { Want::Even }
}

/// An operator of arithmetic or of bits, where it has something on either side.
fn is_arithmetic(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::Plus
            | TokenKind::Minus
            | TokenKind::Star
            | TokenKind::StarStar
            | TokenKind::Slash
            | TokenKind::Percent
            | TokenKind::Ampersand
            | TokenKind::Bar
            | TokenKind::Caret
            | TokenKind::ShiftLeft
            | TokenKind::ShiftRight
            | TokenKind::ShiftRightZero
    )
}

/// The wish, but for an exception.
fn unless(want: Want, exception: bool) -> Want {
    if exception { Want::Any } else { want }
}

impl<'f> View<'f> {
    fn new(file: File<'f>, arithmetic: Want) -> View<'f> {
        View {
            file,
            owners: Owners::of(file.tree, file.traits.is_page),
            habits: OnceCell::new(),
            after_marks: OnceCell::new(),
            arithmetic,
            wants_of: wants_of(file.language),
        }
    }

    /// The innermost node that a token belongs to.
    fn owner(&self, token: TokenId) -> NodeRef<'f> {
        self.file.tree.node(self.owners.owner(token))
    }

    /// The kind of the next token that is no blank, line end or comment.
    fn next_significant(&self, token: TokenId) -> TokenKind {
        let tree = self.file.tree;
        (token + 1..).map(|next| tree.token_kind(next)).find(|kind| !kind.is_trivia()).unwrap_or(TokenKind::EndOfFile)
    }

    fn previous_significant(&self, token: TokenId) -> TokenKind {
        let tree = self.file.tree;
        let before = (0..token).rev().map(|before| tree.token_kind(before));
        before.into_iter().find(|kind| !kind.is_trivia()).unwrap_or(TokenKind::EndOfFile)
    }

    fn wants(&self, token: TokenId) -> Option<Wants> {
        let kind = self.file.tree.token_kind(token);
        if kind <= TokenKind::FormatEnd || self.owners.is_held(token) {
            return None;
        }
        (self.wants_of)(self, token, kind)
    }

    /// How many spaces the file mostly has inside of such brackets that begin and end on one line.
    fn inside(&self, bracket: Bracket) -> Option<u32> {
        let habit = self.habits().inside[bracket as usize];
        match bracket {
            Bracket::Block => habit.clear(),
            Bracket::Curly | Bracket::Names | Bracket::Type => Some(u32::from(habit.with >= habit.without)),
            Bracket::Round | Bracket::Square => Some(u32::from(habit.with > habit.without)),
        }
    }

    /// How many spaces the file has before such brackets, where it has a habit.
    fn before(&self, bracket: Bracket) -> Option<u32> {
        self.habits().before[bracket as usize].clear()
    }

    /// How many spaces the file has after such marks, where it has a habit.
    fn after(&self, mark: Mark) -> Option<u32> {
        self.after_marks.get_or_init(|| self.count_after_marks())[mark as usize].clear()
    }

    fn count_after_marks(&self) -> [Habit; 2] {
        let mut habits = [Habit::default(); 2];
        for token in 0..self.file.tree.tokens().len() as TokenId {
            if matches!(self.file.tree.token_kind(token), TokenKind::Colon | TokenKind::Comma)
                && let Some(Want::After(mark)) = self.wants(token).map(|wants| wants.after)
                && let Beside::Blanks(gap, _) = beside(self.file, token, true)
            {
                habits[mark as usize].count(!gap.is_empty());
            }
        }
        habits
    }

    fn habits(&self) -> &Habits {
        self.habits.get_or_init(|| self.count_habits())
    }

    fn count_habits(&self) -> Habits {
        let mut habits = Habits::default();
        let tree = self.file.tree;
        for token in 0..tree.tokens().len() as TokenId {
            if !tree.token_kind(token).opens() || self.owners.is_held(token) {
                continue;
            }
            let Some(wants) = self.wants(token) else { continue };
            if let Want::Inside(bracket) = wants.after {
                let habit = &mut habits.inside[bracket as usize];
                match tree.token_kind(token + 1) {
                    TokenKind::Blank if tree.token_kind(token + 2).is_trivia() => {}
                    TokenKind::Blank => habit.count(true),
                    kind if kind.is_trivia() || kind.closes() => {}
                    _ => habit.count(false),
                }
            }
            if let Want::Before(bracket) = wants.before
                && let Beside::Blanks(gap, _) = beside(self.file, token, false)
            {
                habits.before[bracket as usize].count(!gap.is_empty());
            }
        }
        habits
    }
}

/// Gaps of one line.
enum Beside {
    /// A line ends or begins there, or a comment is there.
    Edge,
    /// Whitespace, perhaps none, and then a token.
    Blanks(Span, TokenId),
}

/// A file whose lines have more bytes than this on average was not laid out by people.
const LONG_LINES: usize = 250;

/// Finds every token with gaps that are not as wanted. Called once for a file, and its cost is to be seen in profiles.
#[inline(never)]
pub(crate) fn scan(file: File<'_>, arithmetic: Want, mut each: impl FnMut(SpacingKind, Spaced)) {
    if file.text.source().len() > LONG_LINES * file.text.lines().count() as usize {
        return;
    }
    let view = View::new(file, arithmetic);
    for (token, kind) in file.tree.tokens().iter().map(|token| token.kind).enumerate() {
        // Names, literals and what is between tokens want nothing.
        if kind <= TokenKind::FormatEnd {
            continue;
        }
        let token = token as TokenId;
        let Some(own) = view.wants(token) else { continue };
        let spaced = Spaced { token, before: gap_before(&view, token, own), after: gap_after(&view, token, own) };
        if spaced.before.is_some() || spaced.after.is_some() {
            each(own.kind, spaced);
        }
    }
}

/// The gap before a token, if it is not as it wants it. The token before has the gap if it wants something else as strongly.
fn gap_before(view: &View<'_>, token: TokenId, own: Wants) -> Option<Gap> {
    if own.before == Want::Any {
        return None;
    }
    let Beside::Blanks(span, other) = beside(view.file, token, false) else { return None };
    let wanted = wanted(view, own.before, own, span, || beside(view.file, token, true))?;
    let is_others = || view.wants(other).is_some_and(|other| other.after >= own.before);
    (!is_others() && !is_meant(view.file, span, wanted)).then_some(Gap { span, wanted })
}

/// The gap after a token, if it is not as it wants it.
fn gap_after(view: &View<'_>, token: TokenId, own: Wants) -> Option<Gap> {
    if own.after == Want::Any {
        return None;
    }
    let Beside::Blanks(span, other) = beside(view.file, token, true) else { return None };
    let wanted = wanted(view, own.after, own, span, || beside(view.file, token, false))?;
    let is_others = || view.wants(other).is_some_and(|other| other.before > own.after);
    (!is_others() && !is_meant(view.file, span, wanted)).then_some(Gap { span, wanted })
}

/// How much whitespace a token wants where it has another amount.
fn wanted(view: &View<'_>, want: Want, own: Wants, span: Span, there: impl Fn() -> Beside) -> Option<u32> {
    let wanted = match want {
        Want::Any => return None,
        Want::None => 0,
        Want::One => 1,
        Want::Inside(bracket) => view.inside(bracket)?,
        Want::Before(bracket) => view.before(bracket)?,
        Want::After(mark) => view.after(mark)?,
        Want::Even => match there() {
            Beside::Blanks(other_side, _) if (own.before, own.after) == (Want::Even, Want::Even) => {
                u32::from(span.len() > 0 || other_side.len() > 0)
            }
            _ => u32::from(span.len() > 0),
        },
    };
    (span.len() != wanted).then_some(wanted)
}

/// A line with more bytes than this holds data that a program put there.
const LONG_LINE: u32 = 1000;

/// Whether whitespace is as it is for a reason: so that something lines up, for which alone tabs are between tokens, or in what no one
/// wrote by hand.
fn is_meant(file: File<'_>, span: Span, wanted: u32) -> bool {
    let lines = file.text.lines();
    if lines.full_line(lines.line_of(span.start)).len() > LONG_LINE {
        return true;
    }
    if span.is_empty() {
        return false;
    }
    match wanted {
        0 => in_column(file, span),
        _ => file.text.slice(span).contains('\t') || is_aligned(file, span),
    }
}

fn beside(file: File<'_>, token: TokenId, behind: bool) -> Beside {
    let tree = file.tree;
    let step = |from: TokenId| if behind { Some(from + 1) } else { from.checked_sub(1) };
    let Some(mut other) = step(token) else { return Beside::Edge };
    let mut span = Span::at(if behind { tree.token_span(token).end } else { tree.token_start(token) });
    if tree.token_kind(other) == TokenKind::Blank {
        span = tree.token_span(other);
        let Some(next) = step(other) else { return Beside::Edge };
        other = next;
    }
    let kind = tree.token_kind(other);
    // Where a carriage return is a character like any other, people take it for the end of the line all the same.
    let is_return = file.text.source().as_bytes().get(tree.token_start(other) as usize) == Some(&b'\r');
    if kind.is_trivia() || kind.is_layout() || is_return { Beside::Edge } else { Beside::Blanks(span, other) }
}

/// Whether whitespace is before a colon, a comma or a closing bracket so that it is below others: below one of them at least two whitespace do.
fn in_column(file: File<'_>, gap: Span) -> bool {
    let source = file.text.source().as_bytes();
    let Some(sign) =
        source.get(gap.end as usize).copied().filter(|sign| matches!(sign, b':' | b',' | b')' | b']' | b'}'))
    else {
        return false;
    };
    let lines = file.text.lines();
    let number = lines.line_of(gap.start);
    let width = gap.end - lines.line(file.text.source(), number).start;
    let blanks_above = |number: u32| {
        let text = file.text.slice(lines.line(file.text.source(), number)).as_bytes();
        let before = text.get(..width as usize).filter(|_| text.get(width as usize) == Some(&sign))?;
        Some(before.iter().rev().take_while(|byte| **byte == b' ').count())
    };
    let neighbours =
        [number.checked_sub(1).filter(|above| *above > 0), Some(number + 1).filter(|below| *below <= lines.count())];
    let mut in_line = neighbours.into_iter().flatten().filter_map(blanks_above).peekable();
    in_line.peek().is_some() && (gap.len() > 1 || in_line.any(|blanks| blanks > 1))
}

/// How many lines away code may be that something lines up with: comments and empty lines may be between.
const FAR: u32 = 20;

/// Whether a line holds more than a comment.
fn is_code(file: File<'_>, line: u32) -> bool {
    let line = file.text.lines().line(file.text.source(), line);
    let text = file.text.slice(line);
    let first = line.start + (text.len() - text.trim_start().len()) as u32;
    first < line.end && file.tree.token_kind(file.tree.token_at(first)) != TokenKind::Comment
}

/// Whether whitespace is there so that something lines up with the line of code above or below.
fn is_aligned(file: File<'_>, gap: Span) -> bool {
    let lines = file.text.lines();
    let source = file.text.source();
    let number = lines.line_of(gap.start);
    let line = lines.line(source, number);
    let column = |offset: u32| file.text.slice(Span::new(line.start, offset)).chars().count();
    let mut token = file.tree.token_at(gap.end);
    if file.tree.token_kind(token) == TokenKind::Minus {
        token += 1;
    }
    let (start, end) = (column(gap.end), column(file.tree.token_span(token).end));
    let looks = |other: u32| {
        let text = file.text.slice(lines.line(source, other));
        let at = |column: usize| text.chars().nth(column);
        // What begins a line is below a gap by its indentation, not to line up with what comes after the gap.
        let is_first = || text.chars().take(start).all(char::is_whitespace);
        let begins = start > 0
            && at(start - 1).is_some_and(char::is_whitespace)
            && at(start).is_some_and(|c| c != ' ')
            && !is_first();
        let ends = end > 0
            && at(end - 1).is_some_and(|last| last != ' ')
            && at(end).is_none_or(|next| !next.is_alphanumeric());
        begins || ends && file.tree.token_kind(token) == TokenKind::Number
    };
    let is_code = |other: &u32| is_code(file, *other);
    let above = (number.saturating_sub(FAR).max(1)..number).rev().find(is_code);
    let below = (number + 1..=lines.count().min(number + FAR)).find(is_code);
    above.into_iter().chain(below).any(looks)
}
