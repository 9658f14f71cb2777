//! Writing: at any moment a file holds either its old or its new content, and it stays the file that it was.

use std::fmt;
use std::fs::{self, File, Metadata};
use std::io::{self, Write};
use std::path::{Path, PathBuf};

use super::temporary::Temporary;
use super::{FileError, failed};

/// Writes a file whole. Keeps mode, owner and extended attributes of a file that is there, and writes through a link to the file
/// it leads to.
///
/// # Errors
/// When the folder or the file cannot be written, or the file has several names or an owner that it would lose; it is then as it
/// was.
pub fn write(path: &Path, bytes: &[u8]) -> Result<(), FileError> {
    let target = fs::canonicalize(path).unwrap_or_else(|_| path.to_path_buf());
    let temporary = prepared(&target, bytes).map_err(failed(path, "write"))?;
    temporary.take_place_of(&target).map_err(failed(path, "write"))
}

/// Writes a file whole, if it still holds what it held when it was read. What somebody saved meanwhile is kept.
///
/// # Errors
/// As for [`write()`], and when the content is not the expected one.
pub fn replace(path: &Path, expected: &[u8], bytes: &[u8]) -> Result<(), FileError> {
    let target = fs::canonicalize(path).unwrap_or_else(|_| path.to_path_buf());
    let temporary = prepared(&target, bytes).map_err(failed(path, "write"))?;
    if super::read(&target)? != expected {
        return Err(changed(path)(None));
    }
    match exchange(&temporary.path, &target) {
        // The old file has the temporary name now, with what was saved until this moment.
        Ok(()) if holds(&temporary.path, expected) => Ok(()),
        Ok(()) => Err(put_back(temporary, &target, bytes, exchange).map_or_else(failed(path, "write"), changed(path))),
        // Not every file system can exchange two names.
        Err(_) => temporary.take_place_of(&target).map_err(failed(path, "write")),
    }
}

fn holds(path: &Path, bytes: &[u8]) -> bool {
    fs::read(path).is_ok_and(|content| content == bytes)
}

/// Gives the target back the content that somebody saved, which has the temporary name. The path of a second version, if one was
/// saved in this moment or the names cannot be exchanged: nothing that is not ours is removed.
fn put_back(
    temporary: Temporary,
    target: &Path,
    ours: &[u8],
    exchange: impl Fn(&Path, &Path) -> io::Result<()>,
) -> io::Result<Option<PathBuf>> {
    if exchange(&temporary.path, target).is_ok() && holds(&temporary.path, ours) {
        return Ok(None);
    }
    temporary.keep_beside(target).map(Some)
}

fn changed(path: &Path) -> impl Fn(Option<PathBuf>) -> FileError {
    move |kept| {
        let kept = kept.map(|kept| format!(", and another version of it is in {}", kept.display()));
        let kept = kept.unwrap_or_default();
        let message = format!("it changed while it was being fixed{kept}; run the command again");
        failed(path, "write")(io::Error::other(message))
    }
}

#[cfg(target_os = "linux")]
fn exchange(one: &Path, other: &Path) -> io::Result<()> {
    use rustix::fs::{CWD, RenameFlags, renameat_with};
    Ok(renameat_with(CWD, one, CWD, other, RenameFlags::EXCHANGE)?)
}

#[cfg(not(target_os = "linux"))]
fn exchange(_one: &Path, _other: &Path) -> io::Result<()> {
    Err(io::ErrorKind::Unsupported.into())
}

/// The new content in a temporary file beside the target, with all that the target has besides content.
fn prepared(target: &Path, bytes: &[u8]) -> io::Result<Temporary> {
    let folder = target.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    let old = match fs::symlink_metadata(target) {
        Ok(old) => Some(old),
        Err(cause) if cause.kind() == io::ErrorKind::NotFound => None,
        Err(cause) => return Err(cause),
    };
    if let Some(old) = &old {
        ensure_replaceable(old)?;
    }
    let temporary = Temporary::with_content(folder, bytes)?;
    match &old {
        Some(old) => keep_attributes(old, target, &temporary.file)?,
        None => make_readable(&temporary.file)?,
    }
    Ok(temporary)
}

/// Whether a new file can take the place of one without a loss.
fn ensure_replaceable(old: &Metadata) -> io::Result<()> {
    if old.is_dir() {
        return Err(io::ErrorKind::IsADirectory.into());
    }
    if !old.is_file() {
        return Err(io::Error::other("it is no regular file"));
    }
    if old.permissions().readonly() {
        return Err(io::ErrorKind::PermissionDenied.into());
    }
    #[cfg(unix)]
    {
        use std::os::unix::fs::MetadataExt;
        if old.nlink() > 1 {
            return Err(io::Error::other(
                "it has several names (hard links), and the others would keep the old content",
            ));
        }
    }
    Ok(())
}

/// Gives the new file the mode, the owner and the extended attributes of the old one, never a set-user-id bit: writing takes
/// that away anyway.
#[cfg(unix)]
fn keep_attributes(old: &Metadata, target: &Path, new: &File) -> io::Result<()> {
    use std::os::unix::fs::{MetadataExt, PermissionsExt, fchown};
    let now = new.metadata()?;
    if (now.uid(), now.gid()) != (old.uid(), old.gid()) {
        let wanted = |old: u32, now: u32| (old != now).then_some(old);
        fchown(new, wanted(old.uid(), now.uid()), wanted(old.gid(), now.gid()))
            .map_err(|_| io::Error::other("it belongs to somebody else, and would not any more"))?;
    }
    new.set_permissions(fs::Permissions::from_mode(old.mode() & 0o1777))?;
    keep_extended(target, new)
}

#[cfg(not(unix))]
fn keep_attributes(old: &Metadata, _target: &Path, new: &File) -> io::Result<()> {
    new.set_permissions(old.permissions())
}

/// Copies extended attributes, access control lists among them.
#[cfg(target_os = "linux")]
fn keep_extended(target: &Path, new: &File) -> io::Result<()> {
    use rustix::fs::{XattrFlags, fgetxattr, fsetxattr, getxattr, listxattr};
    let mut names = vec![0_u8; 64 << 10];
    // A file system without them has none to keep.
    let Ok(length) = listxattr(target, &mut names[..]) else { return Ok(()) };
    let mut value = vec![0_u8; 64 << 10];
    let mut now = vec![0_u8; 64 << 10];
    for name in names[..length].split(|byte| *byte == 0).filter(|name| !name.is_empty()) {
        let size = getxattr(target, name, &mut value[..])?;
        let same = fgetxattr(new, name, &mut now[..]).is_ok_and(|length| now[..length] == value[..size]);
        if !same && fsetxattr(new, name, &value[..size], XattrFlags::empty()).is_err() {
            let name = String::from_utf8_lossy(name);
            return Err(io::Error::other(format!("it would lose its extended attribute {name}")));
        }
    }
    Ok(())
}

#[cfg(all(unix, not(target_os = "linux")))]
fn keep_extended(_target: &Path, _new: &File) -> io::Result<()> {
    Ok(())
}

/// Temporary files are for their owner alone; a new file is for everybody to read.
fn make_readable(new: &File) -> io::Result<()> {
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        new.set_permissions(fs::Permissions::from_mode(0o644))?;
    }
    #[cfg(not(unix))]
    let _ = new;
    Ok(())
}

/// Adds bytes at the end of a file, which is made if it is not there: in one piece, so that two programs that do so lose nothing.
///
/// # Errors
/// When it cannot be written, or is no regular file.
pub fn append(path: &Path, bytes: &[u8]) -> Result<(), FileError> {
    let added = || {
        if let Ok(there) = fs::metadata(path)
            && !there.is_file()
        {
            return Err(io::Error::other("it is no regular file"));
        }
        File::options().create(true).append(true).open(path)?.write_all(bytes)
    };
    added().map_err(failed(path, "write"))
}

/// Why output was not written to a file.
#[derive(Debug)]
pub enum OverwriteError {
    /// It is one of the files that must stay.
    IsSource(PathBuf),
    /// It cannot be written.
    File(FileError),
}

impl fmt::Display for OverwriteError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            OverwriteError::IsSource(path) => {
                write!(out, "{} is one of the files that were sifted, and is not overwritten", path.display())
            }
            OverwriteError::File(error) => error.fmt(out),
        }
    }
}

impl std::error::Error for OverwriteError {}

/// Writes output where it was asked to go. A regular file is replaced whole; a device, a FIFO or the target of a link is written
/// into.
///
/// # Errors
/// When it is one of the `sources`, or cannot be written.
pub fn overwrite(path: &Path, bytes: &[u8], sources: &[PathBuf]) -> Result<(), OverwriteError> {
    let file_error = |cause| OverwriteError::File(failed(path, "write")(cause));
    if let Ok(target) = fs::canonicalize(path) {
        let mut same_name = sources.iter().filter(|source| source.file_name() == target.file_name());
        if same_name.any(|source| fs::canonicalize(source).is_ok_and(|source| source == target)) {
            return Err(OverwriteError::IsSource(path.to_path_buf()));
        }
    }
    let is_plain = fs::symlink_metadata(path).map_or(true, |data| data.is_file());
    if is_plain {
        return write(path, bytes).map_err(OverwriteError::File);
    }
    let mut file = File::options().write(true).truncate(true).open(path).map_err(file_error)?;
    file.write_all(bytes).map_err(file_error)
}

/// Gives a file another name, where none has that name. Folders that are missing for it are made, and those that it leaves empty removed.
///
/// # Errors
/// When there is such a file already, a folder cannot be made, or the file cannot be renamed.
pub fn rename(from: &Path, to: &Path) -> Result<(), FileError> {
    ensure_free(from, to)?;
    if let Some(folder) = to.parent() {
        fs::create_dir_all(folder).map_err(failed(folder, "make"))?;
    }
    fs::rename(from, to).map_err(failed(from, "rename"))?;
    // Folders are gone with the last of their files, as they are where a version of the code base does not have them.
    let left = from.ancestors().skip(1).take_while(|folder| fs::remove_dir(folder).is_ok());
    left.for_each(drop);
    Ok(())
}

/// Makes sure that a file can get another name.
///
/// # Errors
/// When there is such a file already.
pub fn ensure_free(from: &Path, to: &Path) -> Result<(), FileError> {
    if to.symlink_metadata().is_err() {
        return Ok(());
    }
    Err(failed(from, "rename")(io::Error::other(format!("{} is there already", to.display()))))
}

/// Lets everybody run a script who may read it.
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

#[cfg(all(test, unix))]
mod tests {
    use std::os::unix::fs::{MetadataExt, PermissionsExt, symlink};

    use super::*;

    fn folder_with(name: &str, content: &str) -> (tempfile::TempDir, PathBuf) {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join(name);
        fs::write(&path, content).unwrap();
        (folder, path)
    }

    fn mode(path: &Path) -> u32 {
        fs::metadata(path).unwrap().mode() & 0o7777
    }

    #[test]
    fn writing_keeps_the_mode_and_leaves_nothing_behind() {
        let (folder, path) = folder_with("fares.py", "old");
        fs::set_permissions(&path, fs::Permissions::from_mode(0o750)).unwrap();
        write(&path, b"new").unwrap();
        assert_eq!(mode(&path), 0o750);
        replace(&path, b"new", b"newer").unwrap();
        assert_eq!((mode(&path), fs::read(&path).unwrap().as_slice()), (0o750, &b"newer"[..]));
        assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 1);
    }

    #[test]
    fn set_user_id_is_not_passed_on() {
        let (_folder, path) = folder_with("run.sh", "old");
        fs::set_permissions(&path, fs::Permissions::from_mode(0o4755)).unwrap();
        write(&path, b"new").unwrap();
        assert_eq!(mode(&path), 0o755);
    }

    #[test]
    fn what_was_saved_meanwhile_is_kept() {
        let (folder, path) = folder_with("fares.py", "saved by somebody");
        assert!(replace(&path, b"as it was read", b"fixed").is_err());
        assert_eq!(fs::read(&path).unwrap(), b"saved by somebody");
        assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 1);
    }

    /// What is in a file that was saved again at each of the moments at which that could be overwritten.
    #[test]
    fn no_version_that_somebody_saved_is_removed() {
        let saved_twice = |one: &Path, other: &Path| {
            fs::write(other, "saved again").unwrap();
            exchange(one, other)
        };
        let impossible = |_: &Path, _: &Path| Err(io::ErrorKind::Unsupported.into());
        type Exchange<'e> = &'e dyn Fn(&Path, &Path) -> io::Result<()>;
        let cases: [(Exchange<'_>, &str, &str); 2] =
            [(&saved_twice, "saved", "saved again"), (&impossible, "fixed", "saved")];
        for (exchange, in_place, beside) in cases {
            let (folder, path) = folder_with("fares.py", "fixed");
            fs::write(folder.path().join("fares.py.saved"), "not ours").unwrap();
            let temporary = Temporary::with_content(folder.path(), b"saved").unwrap();
            let kept = put_back(temporary, &path, b"fixed", exchange).unwrap().unwrap();
            assert_eq!(kept, folder.path().join("fares.py.saved-2"));
            assert_eq!(
                (fs::read_to_string(&path).unwrap().as_str(), fs::read_to_string(&kept).unwrap().as_str()),
                (in_place, beside)
            );
            let message = changed(&path)(Some(kept)).to_string();
            assert!(message.contains("fares.py.saved-2"), "{message}");
        }
        let (folder, path) = folder_with("fares.py", "fixed");
        let temporary = Temporary::with_content(folder.path(), b"saved").unwrap();
        assert_eq!(put_back(temporary, &path, b"fixed", exchange).unwrap(), None);
        assert_eq!(fs::read(&path).unwrap(), b"saved");
        assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 1);
    }

    #[test]
    fn a_file_with_several_names_is_refused() {
        let (folder, path) = folder_with("fares.py", "old");
        fs::hard_link(&path, folder.path().join("same.py")).unwrap();
        let error = write(&path, b"new").unwrap_err();
        assert!(error.to_string().contains("hard links"), "{error}");
        assert_eq!(fs::read(&path).unwrap(), b"old");
    }

    #[cfg(target_os = "linux")]
    #[test]
    fn extended_attributes_stay() {
        use rustix::fs::{XattrFlags, getxattr, setxattr};
        let (_folder, path) = folder_with("fares.py", "old");
        // Some file systems have none.
        if setxattr(&path, "user.quay", b"north", XattrFlags::empty()).is_err() {
            return;
        }
        write(&path, b"new").unwrap();
        let mut value = [0_u8; 16];
        let length = getxattr(&path, "user.quay", &mut value[..]).unwrap();
        assert_eq!(&value[..length], b"north");
    }

    #[test]
    fn output_goes_into_what_is_no_regular_file_and_never_over_a_source() {
        let (folder, path) = folder_with("fares.py", "x = 1");
        let link = folder.path().join("link.txt");
        let target = folder.path().join("target.txt");
        fs::write(&target, "old, and longer").unwrap();
        symlink(&target, &link).unwrap();
        let sources = [path.clone()];
        overwrite(&link, b"new", &sources).unwrap();
        assert!(fs::symlink_metadata(&link).unwrap().is_symlink());
        assert_eq!(fs::read(&target).unwrap(), b"new");
        overwrite(Path::new("/dev/null"), b"new", &sources).unwrap();
        assert!(!fs::metadata("/dev/null").unwrap().is_file());
        let again = folder.path().join("fares.py");
        assert!(matches!(overwrite(&again, b"new", &sources), Err(OverwriteError::IsSource(_))));
    }
}
