//! The only place that touches files. Errors always carry the path; writes are atomic.

use std::fmt;
use std::fs;
use std::io::{self, Write};
use std::path::{Path, PathBuf};

/// What could not be done with which file.
#[derive(Debug)]
pub struct FileError {
    /// The file or folder.
    pub path: PathBuf,
    /// What was to be done: "read", "write" and so on.
    pub doing: &'static str,
    /// Why it failed.
    pub cause: io::Error,
}

impl fmt::Display for FileError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "{}: cannot {} it: {}", self.path.display(), self.doing, describe(&self.cause))
    }
}

impl FileError {
    /// The error with its path as seen from the working folder, where it lies below that.
    pub fn from_here(&self) -> String {
        let here = std::env::current_dir().ok();
        let inner = here.as_deref().and_then(|here| self.path.strip_prefix(here).ok());
        let path = inner.unwrap_or(&self.path).display();
        format!("{path}: cannot {} it: {}", self.doing, describe(&self.cause))
    }
}

/// The cause is part of the words already.
impl std::error::Error for FileError {}

/// The cause in plain words, without the system's error number.
fn describe(cause: &io::Error) -> String {
    match cause.kind() {
        io::ErrorKind::NotFound => "there is no such file or folder".into(),
        io::ErrorKind::PermissionDenied => "permission denied".into(),
        io::ErrorKind::FileTooLarge => "the file would become larger than is allowed here".into(),
        io::ErrorKind::QuotaExceeded => "no more room is allowed here".into(),
        io::ErrorKind::StorageFull => "the disk is full".into(),
        io::ErrorKind::ReadOnlyFilesystem => "the file system is read-only".into(),
        io::ErrorKind::IsADirectory => "it is a folder".into(),
        _ => {
            let text = cause.to_string();
            text.split(" (os error").next().unwrap_or(&text).to_lowercase()
        }
    }
}

fn failed(path: &Path, doing: &'static str) -> impl FnOnce(io::Error) -> FileError {
    move |cause| FileError { path: path.to_path_buf(), doing, cause }
}

/// The bytes of a file.
///
/// # Errors
/// When it cannot be read.
pub fn read(path: &Path) -> Result<Vec<u8>, FileError> {
    fs::read(path).map_err(failed(path, "read"))
}

/// The first bytes of a file, at most `limit`.
///
/// # Errors
/// When it cannot be read.
pub fn read_start(path: &Path, limit: usize) -> Result<Vec<u8>, FileError> {
    let mut start = vec![0; limit];
    let mut file = fs::File::open(path).map_err(failed(path, "read"))?;
    let length = io::Read::read(&mut file, &mut start).map_err(failed(path, "read"))?;
    start.truncate(length);
    Ok(start)
}

/// Writes a file so that at any moment it holds either its old or its new content. Keeps the mode of a file that is there, and
/// writes through a link to the file it leads to.
///
/// # Errors
/// When the folder or the file cannot be written; the file is then as it was.
pub fn write(path: &Path, bytes: &[u8]) -> Result<(), FileError> {
    let target = fs::canonicalize(path).unwrap_or_else(|_| path.to_path_buf());
    let failed = |cause| FileError { path: path.to_path_buf(), doing: "write", cause };
    let folder = target.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    let metadata = fs::metadata(&target).ok();
    if metadata.as_ref().is_some_and(|metadata| metadata.permissions().readonly()) {
        return Err(failed(io::ErrorKind::PermissionDenied.into()));
    }
    let mut temporary = tempfile::Builder::new().prefix(TEMPORARY).tempfile_in(folder).map_err(failed)?;
    temporary.write_all(bytes).map_err(failed)?;
    temporary.as_file().sync_all().map_err(failed)?;
    let permissions = metadata.map_or_else(new_file_permissions, |metadata| Some(metadata.permissions()));
    if let Some(permissions) = permissions {
        temporary.as_file().set_permissions(permissions).map_err(failed)?;
    }
    temporary.persist(&target).map_err(|error| failed(error.error))?;
    Ok(())
}

/// How old a temporary file must be before it is taken for what a run left that was broken off.
const ABANDONED: std::time::Duration = std::time::Duration::from_secs(600);

/// What our temporary files begin with.
const TEMPORARY: &str = ".hsieve-";

/// Gives a file another name in its folder, where none has that name.
///
/// # Errors
/// When there is such a file already, or it cannot be renamed.
pub fn rename(from: &Path, to: &Path) -> Result<(), FileError> {
    ensure_free(from, to)?;
    std::fs::rename(from, to).map_err(|cause| FileError { path: from.to_path_buf(), doing: "rename", cause })
}

/// Makes sure that a file can get another name.
///
/// # Errors
/// When there is such a file already.
pub fn ensure_free(from: &Path, to: &Path) -> Result<(), FileError> {
    if to.symlink_metadata().is_err() {
        return Ok(());
    }
    let cause = std::io::Error::other(format!("{} is there already", to.display()));
    Err(FileError { path: from.to_path_buf(), doing: "rename", cause })
}

/// Removes from a folder what runs left there that were broken off while they wrote.
pub fn sweep(folder: &Path) {
    for entry in fs::read_dir(folder).into_iter().flatten().flatten() {
        let is_ours = entry.file_name().to_string_lossy().starts_with(TEMPORARY);
        let age = entry.metadata().ok().and_then(|data| data.modified().ok()).and_then(|time| time.elapsed().ok());
        if is_ours && age.is_some_and(|age| age > ABANDONED) {
            // That it cannot be removed harms nobody.
            let _ = fs::remove_file(entry.path());
        }
    }
}

/// Lets a script be run by whoever may read it.
///
/// # Errors
/// When its mode cannot be changed.
pub fn make_executable(path: &Path) -> Result<(), FileError> {
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        let mode = fs::metadata(path).map_err(failed(path, "read"))?.permissions().mode();
        let readers = (mode & 0o444) >> 2;
        fs::set_permissions(path, fs::Permissions::from_mode(mode | readers)).map_err(failed(path, "change"))?;
    }
    #[cfg(not(unix))]
    let _ = path;
    Ok(())
}

/// Temporary files are made for their owner alone; a new file is for everybody to read.
#[cfg(unix)]
fn new_file_permissions() -> Option<fs::Permissions> {
    use std::os::unix::fs::PermissionsExt;
    Some(fs::Permissions::from_mode(0o644))
}

#[cfg(not(unix))]
fn new_file_permissions() -> Option<fs::Permissions> {
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn writing_keeps_the_mode_and_leaves_nothing_behind() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("fares.py");
        fs::write(&path, "old").unwrap();
        #[cfg(unix)]
        {
            use std::os::unix::fs::PermissionsExt;
            fs::set_permissions(&path, fs::Permissions::from_mode(0o750)).unwrap();
            write(&path, b"new").unwrap();
            assert_eq!(fs::metadata(&path).unwrap().permissions().mode() & 0o777, 0o750);
        }
        assert_eq!(fs::read(&path).unwrap(), b"new");
        assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 1);
    }

    #[test]
    fn errors_name_the_path_and_no_number() {
        let error = read(Path::new("no/such/file.py")).unwrap_err();
        assert_eq!(error.to_string(), "no/such/file.py: cannot read it: there is no such file or folder");
    }
}
