//! A rule: its facts and its function.

use sieve_meaning::flow::Flow;
use sieve_meaning::names::{Binding, Reference};
use sieve_meaning::project::Callee;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Fault, Kind, NodeRef, TokenId, TokenKind};

use crate::copies::Window;

use super::{Certainty, Concern, Context, FixKind, Level, Mesh, OptionFacts, SpacingKind};

/// A rule's place in the catalogue.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct RuleId(pub u16);

/// A named check.
#[derive(Debug)]
pub struct Rule {
    /// Lower-case words joined by hyphens that say what is wrong.
    pub name: &'static str,
    /// The group it belongs to.
    pub concern: Concern,
    /// The coarsest mesh that catches it.
    pub mesh: Mesh,
    /// The level of its findings unless settings say otherwise.
    pub level: Level,
    /// How sure it is.
    pub certainty: Certainty,
    /// The languages it holds for.
    pub languages: &'static [Language],
    /// The kind of fix it offers, if any.
    pub fix: Option<FixKind>,
    /// What it reports, in one line.
    pub what: &'static str,
    /// Why that matters.
    pub why: &'static str,
    /// Where it stays silent because it cannot tell.
    pub silent: &'static str,
    /// Published standards that it serves.
    pub standards: &'static [&'static str],
    /// Values that users may set.
    pub options: &'static [OptionFacts],
    /// What it reports and what not, in one language after the other.
    pub examples: &'static [Examples],
    /// Whether it asks what names represent.
    pub needs_names: bool,
    /// What it checks, and the function that looks.
    pub check: Check,
}

/// What a rule reports in a language and what not.
#[derive(Debug)]
pub struct Examples {
    /// The language.
    pub language: Language,
    /// Code in which it reports exactly the places given.
    pub wrong: &'static [Wrong],
    /// Code in which it reports nothing.
    pub right: &'static [&'static str],
}

/// An example of what a rule reports.
#[derive(Debug)]
pub struct Wrong {
    /// The code.
    pub code: &'static str,
    /// The places it reports, as `line:column`.
    pub at: &'static [&'static str],
    /// The code after its fix.
    pub fixed: Option<&'static str>,
}

/// What a rule checks. No rule walks over the whole tree by itself: it is handed the parts it asks for.
#[derive(Debug, Clone, Copy)]
pub enum Check {
    /// Nodes of these kinds.
    Nodes(&'static [Kind], fn(&mut Context, NodeRef)),
    /// The same, but of calls and commands only those whose name is the last part of one of these: `mktemp` of `tempfile.mktemp`. A name
    /// that an import may have given is asked about whatever it is.
    Named(&'static [Kind], &'static [&'static str], fn(&mut Context, NodeRef)),
    /// All nodes of these kinds at once, in the order of the text: for rules that check what a file mostly does.
    All(&'static [Kind], fn(&mut Context, &[NodeRef])),
    /// Tokens of these kinds.
    Tokens(&'static [TokenKind], fn(&mut Context, TokenId)),
    /// Tokens whose whitespace on either side is not as the language's description of spacing wants them.
    Spacing(SpacingKind),
    /// Lines.
    Lines(fn(&mut Context, Line)),
    /// Names that the file binds.
    Bindings(fn(&mut Context, &Binding)),
    /// Uses of names.
    References(fn(&mut Context, &Reference)),
    /// Functions, and the code outside of them, by what can run in them.
    Flows(fn(&mut Context, &Flow)),
    /// Calls of which it is known what they run.
    Calls(fn(&mut Context, NodeRef, &Callee)),
    /// Nodes of these kinds, on which other files decide. Its examples are code bases: files, each below a line that names it.
    Joined(&'static [Kind], fn(&mut Context, NodeRef)),
    /// Syntax faults.
    Faults(fn(&mut Context, &Fault)),
    /// The file as a whole, once.
    File(fn(&mut Context)),
    /// The same; what it hands back is compared with what other files of a run hand back, by the engine.
    Copies(fn(&mut Context) -> Vec<Window>),
    /// The findings of other rules and the waivers; done by the engine.
    Upkeep,
    /// Settings files, which its examples are; done by the engine, beside a file `booking/fares.py`.
    Settings,
    /// Values of data, held against the schemas that settings name; done by the engine.
    Schemas,
    /// The paths of the files, which its examples list; done by the engine.
    Paths,
}

/// One line of a file.
#[derive(Debug, Clone, Copy)]
pub struct Line {
    /// Its number, from 1.
    pub number: u32,
    /// Its stretch without the line end.
    pub span: Span,
}

impl Rule {
    /// Whether what it finds in a file may depend on the other files of a run.
    pub fn goes_over_files(&self) -> bool {
        matches!(self.check, Check::Copies(_) | Check::Paths)
    }

    /// Whether code elsewhere in the file decides over a place: a change in one line can make a finding in another.
    pub fn looks_around(&self) -> bool {
        self.needs_names
            || matches!(
                self.check,
                Check::Bindings(_)
                    | Check::References(_)
                    | Check::Flows(_)
                    | Check::File(_)
                    | Check::All(..)
                    | Check::Upkeep
            )
    }
}
