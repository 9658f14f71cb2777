//! Packs in words.

use sieve_engine::settings::{Pack, PackSource, Packs};

use crate::screen::{counted, safe};

/// Version, number of rules, and what a pack is for.
pub(super) fn described(pack: &Pack, packs: &Packs) -> String {
    let rules = packs.rules().iter().filter(|(_, rule)| rule.pack() == Some(&pack.name)).count();
    let version = pack.version.as_deref().map_or(String::new(), |version| format!("{version}, "));
    let settings = if pack.has_settings { " and settings" } else { "" };
    let about = if pack.about.is_empty() { String::new() } else { format!(": {}", safe(&pack.about)) };
    format!("{version}{}{settings}{about}", counted(rules, "rule", "rules"))
}

/// Where a pack comes from.
pub(in crate::commands) fn origin(pack: &Pack, path: &str) -> String {
    match &pack.source {
        PackSource::BuiltIn(_) => "built in".to_string(),
        PackSource::Path(_) => safe(path),
        PackSource::Address { address, .. } => format!("{}, sha-256 {}", safe(address), pack.sha256),
    }
}
