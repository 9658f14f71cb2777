//! Files of our own outside the code base: a head, a body, and a hash of the body, so that damage never passes for content.

use std::fs;
use std::io::{self, BufWriter, IntoInnerError, Write};
use std::path::Path;

use xxhash_rust::xxh3::{Xxh3Default, xxh3_128};

/// The length of the hash at the end, in bytes.
pub(crate) const HASH: usize = 16;

/// Writes a file whole beside the old one, for the user alone, and puts it in its place.
pub(crate) fn write(path: &Path, head: &[u8], body: &[u8]) -> io::Result<()> {
    write_parts(path, head, [body])
}

/// The same; the body comes in parts.
pub(crate) fn write_parts<'p>(path: &Path, head: &[u8], parts: impl IntoIterator<Item = &'p [u8]>) -> io::Result<()> {
    let folder = path.parent().unwrap_or(Path::new("."));
    fs::create_dir_all(folder)?;
    let file = tempfile::Builder::new().prefix("new-").tempfile_in(folder)?;
    let mut out = BufWriter::new(file);
    let mut hasher = Xxh3Default::new();
    out.write_all(head)?;
    for part in parts {
        hasher.update(part);
        out.write_all(part)?;
    }
    out.write_all(&hasher.digest128().to_le_bytes())?;
    out.into_inner().map_err(IntoInnerError::into_error)?.persist(path)?;
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
