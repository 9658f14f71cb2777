//! The form in which a bundle lies on a server: a head, a checksum that needs the key of the team, and the results.

use hmac::{Hmac, Mac};
use sha2::Sha256;

/// The first bytes, the form included.
const HEAD: &[u8] = b"sieve-shared 1\n";

/// The length of the checksum in bytes.
const CHECKSUM: usize = 32;

/// The bytes of an entry. The checksum is an HMAC (FIPS 198-1) with SHA-256 over its name and its results, so that nobody without the
/// key can make one, nor put one in the place of another.
pub(super) fn seal(key: &[u8], name: &str, body: &[u8]) -> Vec<u8> {
    let checksum = mac(key, name, body).finalize().into_bytes();
    [HEAD, &checksum, body].concat()
}

/// The results in an entry; nothing where it is cut, changed, another one, or made with another key.
pub(super) fn open<'b>(key: &[u8], name: &str, bytes: &'b [u8]) -> Option<&'b [u8]> {
    let (checksum, body) = bytes.strip_prefix(HEAD)?.split_at_checked(CHECKSUM)?;
    mac(key, name, body).verify_slice(checksum).is_ok().then_some(body)
}

fn mac(key: &[u8], name: &str, body: &[u8]) -> Hmac<Sha256> {
    let mut mac = <Hmac<Sha256> as Mac>::new_from_slice(key).expect("a key of any length will do");
    mac.update(HEAD);
    mac.update(name.as_bytes());
    mac.update(&[0]);
    mac.update(body);
    mac
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_the_whole_entry_of_that_name_and_key_is_opened() {
        let sealed = seal(b"tide", "name", b"results");
        assert_eq!(open(b"tide", "name", &sealed), Some(&b"results"[..]));
        assert_eq!(open(b"ebb", "name", &sealed), None);
        assert_eq!(open(b"tide", "other", &sealed), None);
        for at in 0..sealed.len() {
            let mut changed = sealed.clone();
            changed[at] ^= 0x10;
            assert_eq!(open(b"tide", "name", &changed), None, "byte {at}");
            assert_eq!(open(b"tide", "name", &sealed[..at]), None, "cut at {at}");
        }
    }
}
