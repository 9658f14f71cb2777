//! Files by their URIs (RFC 8089), as clients name them.

use std::path::{Path, PathBuf};

use lsp_types::Uri;
use percent_encoding::{percent_decode_str, percent_encode};

use crate::output::ENCODED;

/// The file that a URI names; nothing for what is no file here.
pub fn path_of(uri: &Uri) -> Option<PathBuf> {
    let rest = uri.as_str().strip_prefix("file://")?;
    let path = rest.strip_prefix("localhost").unwrap_or(rest);
    let path = path.split(['?', '#']).next().filter(|path| path.starts_with('/'))?;
    let bytes: Vec<u8> = percent_decode_str(path).collect();
    #[cfg(unix)]
    {
        use std::os::unix::ffi::OsStringExt;
        Some(clean(&PathBuf::from(std::ffi::OsString::from_vec(bytes))))
    }
    #[cfg(not(unix))]
    {
        let path = String::from_utf8(bytes).ok()?;
        // A drive comes after the slash.
        Some(clean(Path::new(path.strip_prefix('/').unwrap_or(&path))))
    }
}

/// Free of `.` and `..`.
fn clean(path: &Path) -> PathBuf {
    sieve_engine::project::absolute(Path::new("/"), path)
}

/// The URI of a file, by its absolute path.
pub fn uri_of(path: &Path) -> Uri {
    let encoded = percent_encode(path.as_os_str().as_encoded_bytes(), ENCODED).to_string();
    let slash = if encoded.starts_with('/') { "" } else { "/" };
    format!("file://{slash}{encoded}").parse().unwrap_or_else(|_| "file:///".parse().expect("a URI"))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_path_and_its_uri_lead_to_each_other() {
        for path in ["/ferry/board.py", "/ferry/späte boote/a%20b#1?.ts", "/"] {
            assert_eq!(path_of(&uri_of(Path::new(path))), Some(PathBuf::from(path)), "{path}");
        }
        let of = |uri: &str| path_of(&uri.parse().expect("a URI"));
        assert_eq!(of("file://localhost/a/./b/../c.py"), Some("/a/c.py".into()));
        assert_eq!(of("file:///c%3A/a.py"), Some("/c:/a.py".into()));
        assert_eq!(of("untitled:Untitled-1"), None);
        assert_eq!(of("file://quay/a.py"), None);
    }
}
