//! What rules say about a file.

use std::borrow::Cow;

use sieve_syntax::text::Span;

use super::RuleId;
use super::file_reference::FileReference;
use super::name_style::NameStyle;
use crate::copies::Window;

/// One violation of one rule at one place.
#[derive(Debug, Clone, PartialEq)]
pub struct Finding {
    /// The rule.
    pub rule: RuleId,
    /// The place, in bytes of the decoded text.
    pub span: Span,
    /// What is wrong, in one line.
    pub message: String,
    /// What to do.
    pub advice: Option<Cow<'static, str>>,
    /// Other places that explain it, such as where something is defined.
    pub related: Vec<Related>,
    /// An edit that removes the finding.
    pub fix: Option<Fix>,
    /// The stretch whose tokens make this the same finding in another version of the file, where that is not its place.
    pub anchor: Option<Span>,
    /// Other files decide whether the finding holds.
    pub unless: Option<Unless>,
}

/// Another place that explains a finding.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Related {
    /// In the same file.
    Here {
        /// The place, in bytes of the decoded text.
        span: Span,
        /// What is there.
        label: String,
    },
    /// In another file of the project.
    Elsewhere {
        /// The file, from the root of the code base, with `/`.
        path: String,
        /// The line, from 1.
        line: u32,
        /// What is there.
        label: String,
    },
}

/// What other files may say against a finding.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Unless {
    /// That they use a name through the file it is in.
    Used(ReexportedName),
    /// That something provides a name to all of them: they use it too, and none binds it.
    Provided(String),
    /// That nearly all names of a sort have this style in them.
    Usual(UsualStyle),
    /// That what is referred to is there.
    Leads(FileReference),
}

/// A style that names of a sort have where another one is wanted.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct UsualStyle {
    /// The sort of names, as settings call it.
    pub kind: &'static str,
    /// The style.
    pub style: NameStyle,
}

impl Unless {
    /// The name that others may use, if that is the question.
    pub fn used(&self) -> Option<&ReexportedName> {
        match self {
            Unless::Used(name) => Some(name),
            Unless::Provided(_) | Unless::Usual(_) | Unless::Leads(_) => None,
        }
    }

    /// The name that may be provided, if that is the question.
    pub fn provided(&self) -> Option<&str> {
        match self {
            Unless::Provided(name) => Some(name),
            Unless::Used(_) | Unless::Usual(_) | Unless::Leads(_) => None,
        }
    }

    /// The style that may be the usual one, if that is the question.
    pub fn usual(&self) -> Option<&UsualStyle> {
        match self {
            Unless::Usual(usual) => Some(usual),
            Unless::Used(_) | Unless::Provided(_) | Unless::Leads(_) => None,
        }
    }

    /// What may be there, if that is the question.
    pub fn leads(&self) -> Option<&FileReference> {
        match self {
            Unless::Leads(reference) => Some(reference),
            Unless::Used(_) | Unless::Provided(_) | Unless::Usual(_) => None,
        }
    }
}

/// A name that other files may use through this one.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ReexportedName {
    /// The file's name as a module.
    pub module: String,
    /// The name in it.
    pub name: String,
    /// Names of one group are re-exported together: if one is used elsewhere, so may the others be.
    pub group: u32,
    /// Whether code outside of the project could want it: then a fix that takes it away is to be reviewed.
    pub is_public: bool,
}

/// An edit, or several that belong together, that removes a finding.
#[derive(Debug, Clone, PartialEq)]
pub struct Fix {
    /// How safe it is.
    pub kind: FixKind,
    /// The edits, which do not overlap.
    pub edits: Vec<Edit>,
}

/// How safe a fix is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FixKind {
    /// Proved to keep the meaning, or to be what the mistake was meant to say.
    Exact,
    /// To be checked first.
    Review,
}

impl FixKind {
    /// The word for it.
    pub fn word(self) -> &'static str {
        match self {
            FixKind::Exact => "exact",
            FixKind::Review => "review",
        }
    }
}

/// A stretch of text and what takes its place.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Edit {
    /// What is replaced; empty for an insertion.
    pub span: Span,
    /// What takes its place; empty for a removal.
    pub text: String,
}

impl Edit {
    /// Puts `text` in the place of a stretch.
    pub fn replace(span: Span, text: impl Into<String>) -> Edit {
        Edit { span, text: text.into() }
    }

    /// Removes a stretch.
    pub fn remove(span: Span) -> Edit {
        Edit { span, text: String::new() }
    }

    /// Inserts text.
    pub fn insert(offset: u32, text: impl Into<String>) -> Edit {
        Edit { span: Span::at(offset), text: text.into() }
    }

    /// Changes nothing, but keeps fixes that claim the same place from being applied in one round.
    pub fn claim(offset: u32) -> Edit {
        Edit { span: Span::at(offset), text: String::new() }
    }
}

/// A place where a rule could not decide.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Unsure {
    /// The rule.
    pub rule: RuleId,
    /// The place.
    pub span: Span,
    /// Why it cannot be known.
    pub reason: &'static str,
}

/// What the rules say about one file.
#[derive(Debug, Default, Clone, PartialEq)]
pub struct Report {
    /// Violations, in the order of rule and place in which they were found.
    pub findings: Vec<Finding>,
    /// Places that could not be decided.
    pub unsure: Vec<Unsure>,
    /// Code that may be in other files too.
    pub windows: Vec<Window>,
}

impl Report {
    /// Adds what another share of the rules found in the same file.
    pub fn add(&mut self, other: Report) {
        self.findings.extend(other.findings);
        self.unsure.extend(other.unsure);
        self.windows.extend(other.windows);
    }
}
