//! New files in a code base, with the folders that they need.

use std::fs;
use std::io;
use std::path::{Component, Path};

use super::{FileError, failed, write};

/// Writes a file that is not there yet, below a root. Missing folders are made; a link on the way is not followed, as it could lead
/// out of the code base.
///
/// # Errors
/// When something is there already, when a link is on the way, or when it cannot be written.
pub fn create_below(root: &Path, place: &Path, bytes: &[u8]) -> Result<(), FileError> {
    let path = root.join(place);
    let mut folder = root.to_path_buf();
    for component in place.parent().unwrap_or(Path::new("")).components() {
        let Component::Normal(name) = component else {
            return Err(failed(&path, "write")(io::Error::other("it is not below the root of the code base")));
        };
        folder.push(name);
        match fs::symlink_metadata(&folder) {
            Ok(data) if data.is_dir() => {}
            Ok(_) => return Err(failed(&folder, "write")(io::Error::other("it is a link or a file, not a folder"))),
            Err(_) => fs::create_dir(&folder).map_err(failed(&folder, "write"))?,
        }
    }
    if path.symlink_metadata().is_ok() {
        return Err(failed(&path, "write")(io::Error::other("it is there already")));
    }
    write(&path, bytes)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn folders_are_made_and_nothing_is_lost_or_left() {
        let root = tempfile::tempdir().unwrap();
        create_below(root.path(), Path::new("ci/jobs/sieve.sh"), b"one").unwrap();
        let again = create_below(root.path(), Path::new("ci/jobs/sieve.sh"), b"two").unwrap_err();
        assert!(again.to_string().ends_with("it is there already"), "{again}");
        assert_eq!(fs::read(root.path().join("ci/jobs/sieve.sh")).unwrap(), b"one");
        assert!(create_below(root.path(), Path::new("../quay.sh"), b"").is_err());
        assert!(create_below(root.path(), Path::new("ci/jobs/sieve.sh/more.sh"), b"").is_err());
    }

    #[test]
    #[cfg(unix)]
    fn links_are_not_followed() {
        let (root, outside) = (tempfile::tempdir().unwrap(), tempfile::tempdir().unwrap());
        std::os::unix::fs::symlink(outside.path(), root.path().join("ci")).unwrap();
        let error = create_below(root.path(), Path::new("ci/sieve.sh"), b"one").unwrap_err();
        assert!(error.to_string().contains("it is a link or a file"), "{error}");
        assert_eq!(fs::read_dir(outside.path()).unwrap().count(), 0);
    }
}
