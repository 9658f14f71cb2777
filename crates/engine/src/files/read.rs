//! Reading: regular files only, and never without a bound where the content is not source code to be sifted.

use std::fs::File;
use std::io::{self, Read};
use std::path::Path;

use super::{FileError, failed};

/// The bytes of a regular file.
///
/// # Errors
/// When it cannot be read, or is a folder, a device, a FIFO or a socket: reading one of those could last for ever.
pub fn read(path: &Path) -> Result<Vec<u8>, FileError> {
    read_bounded(path, u64::MAX)
}

/// The bytes of a regular file of at most `limit` bytes.
///
/// # Errors
/// When it cannot be read, is no regular file, or is larger.
pub fn read_bounded(path: &Path, limit: u64) -> Result<Vec<u8>, FileError> {
    content(path, limit).map_err(failed(path, "read"))
}

/// The first bytes of a regular file, at most `limit`.
///
/// # Errors
/// When it cannot be read, or is no regular file.
pub(super) fn read_start(path: &Path, limit: usize) -> Result<Vec<u8>, FileError> {
    let mut start = Vec::with_capacity(limit);
    let file = open(path).map_err(failed(path, "read"))?;
    file.take(limit as u64).read_to_end(&mut start).map_err(failed(path, "read"))?;
    Ok(start)
}

fn content(path: &Path, limit: u64) -> io::Result<Vec<u8>> {
    let file = open(path)?;
    let size = file.metadata()?.len();
    if size > limit {
        return Err(io::Error::other(format!("it is larger than {limit} bytes")));
    }
    // A file may grow while it is read.
    let mut bytes = Vec::with_capacity(usize::try_from(size).unwrap_or(0).saturating_add(1));
    file.take(limit.saturating_add(1)).read_to_end(&mut bytes)?;
    if bytes.len() as u64 > limit {
        return Err(io::Error::other(format!("it is larger than {limit} bytes")));
    }
    Ok(bytes)
}

/// Opens a regular file, without waiting for the other end of a FIFO.
fn open(path: &Path) -> io::Result<File> {
    let mut options = File::options();
    options.read(true);
    #[cfg(unix)]
    {
        use std::os::unix::fs::OpenOptionsExt;
        options.custom_flags(rustix::fs::OFlags::NONBLOCK.bits() as i32);
    }
    let file = options.open(path)?;
    let kind = file.metadata()?.file_type();
    if kind.is_dir() {
        return Err(io::ErrorKind::IsADirectory.into());
    }
    if kind.is_file() { Ok(file) } else { Err(io::Error::other("it is no regular file")) }
}

#[cfg(all(test, unix))]
mod tests {
    use std::fs;

    use super::super::{Disk, Files};
    use super::*;

    #[test]
    fn only_regular_files_below_the_root_are_read() {
        let folder = tempfile::tempdir().unwrap();
        let (root, outside) = (folder.path().join("ferry"), folder.path().join("secret"));
        fs::create_dir(&root).unwrap();
        fs::write(&outside, "tide").unwrap();
        fs::write(root.join("a"), "quay").unwrap();
        let link = |to: &Path, name: &str| std::os::unix::fs::symlink(to, root.join(name)).unwrap();
        link(&root.join("a"), "inside");
        link(&outside, "outside");
        link(Path::new("/dev/zero"), "endless");
        link(&root.join("loop"), "loop");
        let words = |name: &str| match Disk.read_within(&root, &root.join(name), 100) {
            Ok(bytes) => String::from_utf8(bytes).unwrap(),
            Err(error) => error.cause.to_string(),
        };
        assert_eq!(words("inside"), "quay");
        assert_eq!(words("outside"), "it is a link to a place outside of the code base");
        assert_eq!(words("endless"), "it is a link to a place outside of the code base");
        assert!(words("loop").starts_with("Too many levels"), "{}", words("loop"));
        assert_eq!(read(Path::new("/dev/zero")).unwrap_err().cause.to_string(), "it is no regular file");
        assert_eq!(read(&root).unwrap_err().cause.kind(), io::ErrorKind::IsADirectory);
    }

    #[test]
    fn a_file_above_the_bound_is_refused() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("a");
        fs::write(&path, [b'x'; 101]).unwrap();
        assert!(read_bounded(&path, 100).is_err());
        assert_eq!(read_bounded(&path, 101).unwrap().len(), 101);
    }
}
