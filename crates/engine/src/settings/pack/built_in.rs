//! The packs that this program provides. They are packs like any other.

/// Names and texts, sorted by name.
pub const BUILT_IN: &[(&str, &str)] = &[("team-basics", include_str!("../../../packs/team-basics.toml"))];

/// The text of a pack that this program provides.
pub(super) fn text(name: &str) -> Option<&'static str> {
    BUILT_IN.iter().find(|(known, _)| *known == name).map(|(_, text)| *text)
}
