//! What the interfaces of the library require of a type: one that has those methods implements them, without a declaration of that.

use std::sync::LazyLock;

/// A method that an interface requires.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct RequiredMethod {
    /// Its name.
    pub name: &'static str,
    /// How many parameters it has.
    pub parameters: usize,
    /// How many results it has.
    pub results: usize,
}

/// The interfaces of the library, exported or not, whose methods other packages can have (Go 1.22, "Standard library").
pub fn library_interfaces() -> &'static [Vec<RequiredMethod>] {
    static INTERFACES: LazyLock<Vec<Vec<RequiredMethod>>> = LazyLock::new(|| {
        let lines = include_str!("interfaces.txt").lines().filter(|line| !line.starts_with('#'));
        lines.map(|line| line.split(' ').filter_map(required_method).collect()).collect()
    });
    &INTERFACES
}

/// `Read:1:2`
fn required_method(word: &'static str) -> Option<RequiredMethod> {
    let mut parts = word.split(':');
    let (name, parameters, results) = (parts.next()?, parts.next()?, parts.next()?);
    Some(RequiredMethod { name, parameters: parameters.parse().ok()?, results: results.parse().ok()? })
}

/// Packages of the library that read members of any type by their names: fields when something is written or read, and in templates
/// methods too.
pub fn reads_members_by_name(path: &str) -> bool {
    matches!(
        path,
        "encoding/asn1"
            | "encoding/gob"
            | "encoding/json"
            | "encoding/xml"
            | "html/template"
            | "net/rpc"
            | "net/rpc/jsonrpc"
            | "text/template"
    )
}

/// Packages of the library whose functions give back types that they are given: any other one knows its own types alone.
pub fn has_type_parameters(path: &str) -> bool {
    matches!(path, "cmp" | "errors" | "iter" | "maps" | "slices" | "sync" | "sync/atomic" | "unique" | "weak")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_line_is_an_interface_with_all_its_methods() {
        let interfaces = library_interfaces();
        let reader = [RequiredMethod { name: "Read", parameters: 1, results: 2 }];
        assert!(interfaces.iter().any(|methods| methods == &reader));
        assert!(interfaces.iter().all(|methods| !methods.is_empty()));
        let lines = include_str!("interfaces.txt").lines().count();
        assert_eq!(interfaces.len() + 1, lines, "each line is read");
    }
}
