//! Packs from addresses: fetched within limits, known by their SHA-256, and kept for when there is no network.

use std::fmt;
use std::path::PathBuf;
use std::time::Duration;

use sha2::{Digest, Sha256};
use ureq::Agent;

use crate::files::{self, places};

/// A larger pack is refused, in bytes.
pub(crate) const LARGEST_PACK: u64 = 1 << 20;

/// How long a server may take for all of its answer.
pub const LONGEST: Duration = Duration::from_secs(20);

/// Answers that lead elsewhere, no more than this one after the other.
const MOST_REDIRECTS: u32 = 5;

/// Why there is no pack.
#[derive(Debug)]
pub enum FetchError {
    /// The address is none that packs can be at.
    Address(String),
    /// The server could not be asked, or did not answer as it should.
    Failed {
        /// The address.
        address: String,
        /// Why.
        cause: String,
    },
    /// What is there is something else than what was pinned.
    Different {
        /// The address.
        address: String,
        /// The digest that is wanted.
        wanted: String,
        /// The digest of what is there.
        found: String,
    },
}

impl fmt::Display for FetchError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            FetchError::Address(why) => out.write_str(why),
            FetchError::Failed { address, cause } => write!(out, "{address} cannot be fetched: {cause}"),
            FetchError::Different { address, wanted, found } => write!(
                out,
                "what is at {address} is not what was pinned: its sha-256 is {found}, and {wanted} is wanted; if the change is right, pin it with `hsieve pack add {address}`"
            ),
        }
    }
}

impl std::error::Error for FetchError {}

/// The text of a pack at an address. With a digest, a copy that is kept is taken, or else what is there if it has the digest, which
/// is then kept. Without one, what is there.
///
/// # Errors
/// When the server does not answer in time, or with something else than wanted.
pub fn pack(address: &str, sha256: Option<&str>) -> Result<String, FetchError> {
    pack_within(LONGEST, address, sha256)
}

/// The same where the server may take so long.
///
/// # Errors
/// As above.
pub fn pack_within(longest: Duration, address: &str, sha256: Option<&str>) -> Result<String, FetchError> {
    let failed = |cause: String| FetchError::Failed { address: address.to_string(), cause };
    check_address(address)?;
    if let Some(kept) = sha256.and_then(kept) {
        return Ok(kept);
    }
    let bytes = fetch(address, longest).map_err(failed)?;
    let found = self::sha256(&bytes);
    match sha256 {
        Some(wanted) if !wanted.eq_ignore_ascii_case(&found) => {
            let (address, wanted) = (address.to_string(), wanted.to_string());
            return Err(FetchError::Different { address, wanted, found });
        }
        _ => keep(&found, &bytes),
    }
    String::from_utf8(bytes).map_err(|_| failed("it is not UTF-8".to_string()))
}

/// The SHA-256 of some bytes, in hexadecimal (FIPS 180-4).
pub fn sha256(bytes: &[u8]) -> String {
    Sha256::digest(bytes).iter().map(|byte| format!("{byte:02x}")).collect()
}

/// Whether a string is a SHA-256 in hexadecimal.
pub(super) fn is_sha256(text: &str) -> bool {
    text.len() == 64 && text.bytes().all(|byte| byte.is_ascii_hexdigit())
}

fn check_address(address: &str) -> Result<(), FetchError> {
    if address.starts_with("https://") || address.starts_with("http://") {
        return Ok(());
    }
    Err(FetchError::Address("this is no address of a pack: it begins with https:// or http://".to_string()))
}

/// What is at an address, or where it leads on to. No more than a pack may have is read, and nothing but over http and https.
fn fetch(address: &str, longest: Duration) -> Result<Vec<u8>, String> {
    let agent: Agent = Agent::config_builder()
        .timeout_global(Some(longest))
        .max_redirects(0)
        .max_redirects_will_error(false)
        .build()
        .into();
    let mut address = address.to_string();
    for _ in 0..=MOST_REDIRECTS {
        let mut answer = agent.get(&address).call().map_err(|error| words(&error, longest))?;
        if !answer.status().is_redirection() {
            let body = answer.body_mut().with_config().limit(LARGEST_PACK).read_to_vec();
            return body.map_err(|error| words(&error, longest));
        }
        let location = answer.headers().get("location").and_then(|location| location.to_str().ok());
        address = led_on(&address, location.unwrap_or_default())?;
    }
    Err(format!("the server leads on more than {MOST_REDIRECTS} times"))
}

/// The address that another one leads on to: on the same server, or a whole one, with no less encryption.
fn led_on(from: &str, location: &str) -> Result<String, String> {
    let (scheme, rest) = from.split_once("://").unwrap_or_default();
    let host = rest.split('/').next().unwrap_or_default();
    if location.starts_with('/') && !location.starts_with("//") {
        return Ok(format!("{scheme}://{host}{location}"));
    }
    match location.split_once("://") {
        Some(("https", _)) => Ok(location.to_string()),
        Some(("http", _)) if scheme == "http" => Ok(location.to_string()),
        Some(("http", _)) => Err("the server leads to an address without encryption".to_string()),
        _ => Err(format!("the server leads to {location:?}, which is no address of a pack")),
    }
}

fn words(error: &ureq::Error, longest: Duration) -> String {
    match error {
        ureq::Error::StatusCode(status) => format!("the server answers with status {status}"),
        ureq::Error::Timeout(_) => format!("the server takes longer than {} s", longest.as_secs_f32()),
        ureq::Error::BodyExceedsLimit(_) => format!("it is larger than {} KB", LARGEST_PACK >> 10),
        ureq::Error::HostNotFound => "there is no such host".to_string(),
        other => other.to_string(),
    }
}

/// Where the copy of a pack with a digest is.
fn place_of(digest: &str) -> Option<PathBuf> {
    Some(places::cache_folder()?.join("packs").join(format!("{digest}.toml")))
}

/// The copy that is kept of a pack with a digest. One that was tampered with is left aside.
fn kept(digest: &str) -> Option<String> {
    let digest = digest.to_ascii_lowercase();
    let bytes = files::read_bounded(&place_of(&digest)?, LARGEST_PACK).ok()?;
    (sha256(&bytes) == digest).then(|| String::from_utf8(bytes).ok()).flatten()
}

/// Keeps a copy. That it cannot be written is no failure: it is fetched again.
fn keep(digest: &str, bytes: &[u8]) {
    let Some(path) = place_of(digest) else { return };
    if path.parent().is_some_and(|folder| std::fs::create_dir_all(folder).is_ok()) {
        let _ = files::write(&path, bytes);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn servers_lead_on_to_no_less_encryption() {
        let secure = "https://saltmarsh.example/packs/ferry.toml";
        assert_eq!(led_on(secure, "/new.toml").as_deref(), Ok("https://saltmarsh.example/new.toml"));
        assert_eq!(led_on(secure, "https://quay.example/a").as_deref(), Ok("https://quay.example/a"));
        assert_eq!(led_on("http://a.example/b", "http://c.example/d").as_deref(), Ok("http://c.example/d"));
        for wrong in ["http://saltmarsh.example/ferry.toml", "file:///etc/passwd", "//quay.example/a", ""] {
            assert!(led_on(secure, wrong).is_err(), "{wrong}");
        }
    }
}
