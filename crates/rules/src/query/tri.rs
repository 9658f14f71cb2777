//! Answers with three values: what cannot be known is neither yes nor no (Kleene's strong logic).

/// An answer.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(super) enum Tri {
    No,
    Unknown,
    Yes,
}

impl From<bool> for Tri {
    fn from(holds: bool) -> Tri {
        if holds { Tri::Yes } else { Tri::No }
    }
}

impl Tri {
    /// The answer where something is known to hold, or else may.
    pub(super) fn of(holds: bool, may_hold: impl FnOnce() -> bool) -> Tri {
        match holds {
            true => Tri::Yes,
            false if may_hold() => Tri::Unknown,
            false => Tri::No,
        }
    }

    pub(super) fn negated_if(self, negated: bool) -> Tri {
        match self {
            Tri::Yes if negated => Tri::No,
            Tri::No if negated => Tri::Yes,
            other => other,
        }
    }

    /// Whether any of some answers is yes: asked until one is.
    pub(super) fn any(answers: impl Iterator<Item = Tri>) -> Tri {
        let mut best = Tri::No;
        for answer in answers {
            best = best.max(answer);
            if best == Tri::Yes {
                break;
            }
        }
        best
    }

    /// Whether all of some answers are yes: asked until one is no.
    pub(super) fn all(answers: impl Iterator<Item = Tri>) -> Tri {
        let mut worst = Tri::Yes;
        for answer in answers {
            worst = worst.min(answer);
            if worst == Tri::No {
                break;
            }
        }
        worst
    }
}
