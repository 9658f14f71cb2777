//! `hsieve --version`

use sieve_engine::build;
use sieve_rules::catalogue;

/// The version, and what tells this program from others of the same version.
pub fn text() -> String {
    let build = build().unwrap_or_else(|| "unknown".into());
    let rows = [
        ("revision", env!("HSIEVE_REVISION").to_string()),
        ("build", build),
        ("target", env!("HSIEVE_TARGET").to_string()),
        ("rules", catalogue::rules().count().to_string()),
    ];
    let rows: String = rows.iter().map(|(label, words)| format!("  {label:<10}{words}\n")).collect();
    format!("hsieve {}\n{rows}", env!("CARGO_PKG_VERSION"))
}
