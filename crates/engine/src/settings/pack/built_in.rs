//! The packs that this program provides, and schemas that any pack may use. They are packs like any other.

/// The packs, by their names, sorted.
pub const BUILT_IN: &[(&str, &str)] = &[
    ("api-secure", include_str!("../../../packs/api/secure.toml")),
    ("api-useful", include_str!("../../../packs/api/useful.toml")),
    ("api-valid", include_str!("../../../packs/api/valid.toml")),
    ("team-basics", include_str!("../../../packs/team-basics.toml")),
];

/// What the names of schemas begin with that come along with the program.
const FOLDER: &str = "built-in/";

/// Schemas of descriptions of services.
const SCHEMAS: &[(&str, &str)] = &[
    ("asyncapi-2.yaml", include_str!("../../../packs/api/asyncapi-2.yaml")),
    ("asyncapi-3.yaml", include_str!("../../../packs/api/asyncapi-3.yaml")),
    ("openapi-2.0.yaml", include_str!("../../../packs/api/openapi-2.0.yaml")),
    ("openapi-3.0.yaml", include_str!("../../../packs/api/openapi-3.0.yaml")),
    ("openapi-3.1.yaml", include_str!("../../../packs/api/openapi-3.1.yaml")),
];

/// The text of a pack.
pub(super) fn text(name: &str) -> Option<&'static str> {
    BUILT_IN.iter().find(|(known, _)| *known == name).map(|(_, text)| *text)
}

/// The text of a schema, if a name is that of one of them.
///
/// # Errors
/// When there is none of that name, in words.
pub(super) fn schema(named: &str) -> Option<Result<&'static str, String>> {
    let name = named.strip_prefix(FOLDER)?;
    let found = SCHEMAS.iter().find(|(known, _)| *known == name).map(|(_, text)| *text);
    Some(found.ok_or_else(|| {
        let all: Vec<String> = SCHEMAS.iter().map(|(known, _)| format!("{FOLDER}{known}")).collect();
        format!("there is no {named}; there are {}", all.join(", "))
    }))
}
