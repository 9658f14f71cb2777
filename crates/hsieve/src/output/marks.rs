//! What documents have in common: what they are recognised by when they are read again, and how they name files.

use percent_encoding::{AsciiSet, NON_ALPHANUMERIC};

/// The version of the shape of JSON.
pub const FORM: u32 = 2;

/// The name of the tool in a log of SARIF.
pub const TOOL: &str = "Honest Sieve";

/// The name under which a log of SARIF has the fingerprints of findings.
pub const FINGERPRINT: &str = "sieveFinding/v1";

/// What a URI has of a path as it is (RFC 3986, "unreserved", and the slash).
pub const ENCODED: &AsciiSet = &NON_ALPHANUMERIC.remove(b'/').remove(b'-').remove(b'.').remove(b'_').remove(b'~');
