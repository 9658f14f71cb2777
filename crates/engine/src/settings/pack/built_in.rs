//! The packs that this program provides. They are packs like any other.

/// A pack, with the files beside it.
#[derive(Debug)]
pub struct BuiltIn {
    /// Its name.
    pub name: &'static str,
    text: &'static str,
    beside: &'static [(&'static str, &'static str)],
}

/// The schemas of descriptions of services.
const API: &[(&str, &str)] = &[
    ("asyncapi-2.yaml", include_str!("../../../packs/api/asyncapi-2.yaml")),
    ("asyncapi-3.yaml", include_str!("../../../packs/api/asyncapi-3.yaml")),
    ("openapi-2.0.yaml", include_str!("../../../packs/api/openapi-2.0.yaml")),
    ("openapi-3.0.yaml", include_str!("../../../packs/api/openapi-3.0.yaml")),
    ("openapi-3.1.yaml", include_str!("../../../packs/api/openapi-3.1.yaml")),
];

/// All of them, sorted by name.
pub const BUILT_IN: &[BuiltIn] = &[
    BuiltIn { name: "api-secure", text: include_str!("../../../packs/api/secure.toml"), beside: API },
    BuiltIn { name: "api-useful", text: include_str!("../../../packs/api/useful.toml"), beside: API },
    BuiltIn { name: "api-valid", text: include_str!("../../../packs/api/valid.toml"), beside: API },
    BuiltIn { name: "team-basics", text: include_str!("../../../packs/team-basics.toml"), beside: &[] },
];

/// A pack that this program provides.
pub(super) fn named(name: &str) -> Option<&'static BuiltIn> {
    BUILT_IN.iter().find(|pack| pack.name == name)
}

impl BuiltIn {
    /// What it says.
    pub(super) fn text(&self) -> &'static str {
        self.text
    }

    /// A file beside it.
    pub(super) fn file(&self, name: &str) -> Option<&'static str> {
        self.beside.iter().find(|(known, _)| *known == name).map(|(_, text)| *text)
    }
}
