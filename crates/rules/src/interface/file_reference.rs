//! Files of the code base that others refer to.

use percent_encoding::percent_decode_str;

/// A file of the code base that another one refers to, or a value in it.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub struct FileReference {
    /// The file, from the root of the code base, with `/`.
    pub path: String,
    /// The JSON Pointer to the value, if one is referred to.
    pub pointer: Option<String>,
}

/// What a reference names that leads from a file to another one of the code base (RFC 3986, 4.2: a relative path); nothing for
/// addresses, and for what leads out of the code base. Paths start from its root.
pub fn file_beside(from: &str, reference: &str) -> Option<FileReference> {
    let (file, fragment) = reference.split_once('#').unwrap_or((reference, ""));
    let leads_away = file.starts_with('/') || file.contains(['?', '\\']) || file.split('/').next()?.contains(':');
    if file.is_empty() || leads_away {
        return None;
    }
    let decoded = |part: &str| Some(percent_decode_str(part).decode_utf8().ok()?.into_owned());
    let pointer = if fragment.starts_with('/') { Some(decoded(fragment)?) } else { None };
    Some(FileReference { path: path_beside(from, &decoded(file)?)?, pointer })
}

/// A path that starts from the folder of a file; nothing for one that leads out of the code base.
pub fn path_beside(from: &str, path: &str) -> Option<String> {
    let folder = from.rsplit_once('/').map_or("", |(folder, _)| folder);
    let mut parts: Vec<&str> = Vec::new();
    for part in folder.split('/').chain(path.split('/')) {
        match part {
            "" | "." => {}
            ".." => drop(parts.pop()?),
            part if part.contains('\0') => return None,
            part => parts.push(part),
        }
    }
    Some(parts.join("/"))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn references_lead_to_files_of_the_code_base_alone() {
        let file = |reference: &str| {
            let found = file_beside("api/tides/all.yaml", reference)?;
            Some(format!("{} {}", found.path, found.pointer.unwrap_or_default()).trim_end().to_string())
        };
        assert_eq!(file("quay.yaml").as_deref(), Some("api/tides/quay.yaml"));
        assert_eq!(file("../quay%20two.yaml#/a~1b").as_deref(), Some("api/quay two.yaml /a~1b"));
        assert_eq!(file("./quay.yaml#Quay").as_deref(), Some("api/tides/quay.yaml"));
        for elsewhere in
            ["https://saltmarsh.example/a", "//saltmarsh.example/a", "/a", "../../../a", "C:\\a", "#a", "a?b", "%00"]
        {
            assert_eq!(file(elsewhere), None, "{elsewhere}");
        }
    }
}
