//! What a team does not want used, reported in settings, each with its reason.

/// Something that is not to be used.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Ban {
    /// How it would be used.
    pub kind: BanKind,
    /// Its full name, with dots between its parts.
    pub name: String,
    /// Why it is not to be used.
    pub because: String,
}

/// How something banned would be used.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BanKind {
    /// By importing it.
    Import,
    /// By calling it.
    Call,
    /// By reaching it as a member.
    Member,
}

impl BanKind {
    /// Every sort, in the order of the alphabet.
    pub const ALL: &'static [BanKind] = &[BanKind::Call, BanKind::Import, BanKind::Member];

    /// The key for it in settings.
    pub fn word(self) -> &'static str {
        match self {
            BanKind::Call => "call",
            BanKind::Import => "import",
            BanKind::Member => "member",
        }
    }
}
