//! What the documents of a run are recognised by when they are read again.

/// The version of the shape of JSON.
pub const FORM: u32 = 2;

/// The name of the tool in a log of SARIF.
pub const TOOL: &str = "Honest Sieve";

/// The name under which a log of SARIF has the fingerprints of findings.
pub const FINGERPRINT: &str = "sieveFinding/v1";
