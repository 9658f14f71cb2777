//! Files of our own outside the code base: a head, a body, and a hash of the body, so that damage never passes for content.

use std::fs;
use std::io::{self, Write};
use std::path::Path;

use xxhash_rust::xxh3::xxh3_128;

/// The length of the hash at the end, in bytes.
pub(crate) const HASH: usize = 16;

/// Writes a file whole beside the old one, for the user alone, and puts it in its place.
pub(crate) fn write(path: &Path, head: &[u8], body: &[u8]) -> io::Result<()> {
    let folder = path.parent().unwrap_or(Path::new("."));
    fs::create_dir_all(folder)?;
    let mut file = tempfile::Builder::new().prefix("new-").tempfile_in(folder)?;
    file.write_all(head)?;
    file.write_all(body)?;
    file.write_all(&hash(body))?;
    file.persist(path)?;
    Ok(())
}

/// The body of a file; nothing where it is another's, or damaged.
pub(crate) fn open<'b>(bytes: &'b [u8], head: &[u8]) -> Option<&'b [u8]> {
    let rest = bytes.strip_prefix(head)?;
    let (body, hash) = rest.split_at_checked(rest.len().checked_sub(HASH)?)?;
    (self::hash(body) == hash).then_some(body)
}

/// The bytes of such a file.
pub(crate) fn sealed(head: &[u8], body: &[u8]) -> Vec<u8> {
    [head, body, &hash(body)].concat()
}

fn hash(body: &[u8]) -> [u8; HASH] {
    xxh3_128(body).to_le_bytes()
}
