//! The scales by which rules are sorted: concern, level, certainty, mesh.

use std::fmt;

macro_rules! words {
    ($(#[$about:meta])* $name:ident { $($(#[$variant_about:meta])* $variant:ident $word:literal,)* }) => {
        $(#[$about])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub enum $name { $($(#[$variant_about])* $variant,)* }

        impl $name {
            /// Every value, in order.
            pub const ALL: &'static [$name] = &[$($name::$variant,)*];

            /// The word for it in settings and output.
            pub fn word(self) -> &'static str {
                match self { $($name::$variant => $word,)* }
            }

            /// The value that a word represents.
            pub fn named(word: &str) -> Option<$name> {
                $name::ALL.iter().copied().find(|value| value.word() == word)
            }
        }

        impl fmt::Display for $name {
            fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
                out.pad(self.word())
            }
        }
    };
}

words! {
    /// The group that a rule belongs to.
    Concern {
        /// Text that the language does not allow.
        Syntax "syntax",
        /// Code that does not do what it seems to.
        Mistake "mistake",
        /// Code that does nothing.
        Leftover "leftover",
        /// Names that do not keep to the code base's styles.
        Naming "naming",
        /// Code that is hard to follow.
        Clarity "clarity",
        /// Whitespace, line ends and the like.
        Layout "layout",
        /// Descriptions that lack or mislead.
        Docs "docs",
        /// Things used where the team does not want them.
        Boundary "boundary",
        /// Code that opens a door to harm.
        Hazard "hazard",
        /// Code that some of its platforms do not understand.
        Portable "portable",
        /// Pages that shut people out.
        Access "access",
        /// Descriptions of interfaces that break their promises.
        Contract "contract",
        /// What a team or an organisation decided, in packs of its own.
        House "house",
        /// Waivers and settings that need care.
        Upkeep "upkeep",
    }
}

words! {
    /// How much a finding weighs: the result levels of SARIF 2.1.0. Later ones weigh more.
    Level {
        /// Not reported.
        Off "off",
        /// Told, never fails a run by default.
        Note "note",
        /// Fails a run by default.
        Warning "warning",
        /// Breaks the program.
        Error "error",
    }
}

words! {
    /// How sure a rule is of what it reports.
    Certainty {
        /// Right more often than not; off unless asked for by name.
        Guess "guess",
        /// Right in nearly every case.
        Probable "probable",
        /// Follows from the language's own rules.
        Proven "proven",
    }
}

words! {
    /// How fine to sift; a finer mesh catches all that a coarser one does.
    Mesh {
        /// Broken code and proven mistakes.
        Coarse "coarse",
        /// Also probable mistakes, leftovers and hazards.
        Medium "medium",
        /// Everything, style too.
        Fine "fine",
    }
}

impl Concern {
    /// What the rules of this group look for, in one line.
    pub fn about(self) -> &'static str {
        match self {
            Concern::Syntax => "code that the language does not allow",
            Concern::Mistake => "code that does not do what it seems to",
            Concern::Leftover => "code that does nothing",
            Concern::Naming => "names that do not keep to the code base's styles",
            Concern::Clarity => "code that is hard to follow",
            Concern::Layout => "whitespace, line ends and the like",
            Concern::Docs => "descriptions that lack or mislead",
            Concern::Boundary => "things used where the team does not want them",
            Concern::Hazard => "code that opens a door to harm",
            Concern::Portable => "code that some of its platforms do not understand",
            Concern::Access => "pages that shut people out",
            Concern::Contract => "descriptions of interfaces that break their promises",
            Concern::House => "what a team or an organisation decided, in packs of its own",
            Concern::Upkeep => "waivers and settings that need care",
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn scales_are_ordered_from_less_to_more() {
        assert!(Level::Off < Level::Note && Level::Warning < Level::Error);
        assert!(Mesh::Coarse < Mesh::Fine);
        assert!(Certainty::Guess < Certainty::Proven);
    }

    #[test]
    fn words_are_found_again() {
        for concern in Concern::ALL {
            assert_eq!(Concern::named(concern.word()), Some(*concern));
        }
    }
}
