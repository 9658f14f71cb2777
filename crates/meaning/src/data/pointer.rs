//! JSON Pointer (RFC 6901).

use super::{Shape, Value};

/// The value that a pointer leads to.
pub(super) fn follow<'d, 't>(root: Value<'d, 't>, pointer: &str) -> Option<Value<'d, 't>> {
    if pointer.is_empty() {
        return Some(root);
    }
    let mut value = root;
    for token in pointer.strip_prefix('/')?.split('/') {
        let name = unescaped(token)?;
        value = match value.shape() {
            Shape::Object => value.get(&name)?,
            Shape::List => value.index(index(&name)?)?,
            Shape::Scalar | Shape::Unknown => return None,
        };
    }
    Some(value)
}

/// `array-index = %x30 / ( %x31-39 *(%x30-39) )`
fn index(token: &str) -> Option<usize> {
    let is_index = token == "0" || !token.starts_with('0') && token.bytes().all(|byte| byte.is_ascii_digit());
    is_index.then(|| token.parse().ok())?
}

/// `~0` is `~`, `~1` is `/`; no other character follows a tilde.
fn unescaped(token: &str) -> Option<String> {
    let mut parts = token.split('~');
    let mut name = parts.next()?.to_string();
    for part in parts {
        let character = match part.as_bytes().first()? {
            b'0' => '~',
            b'1' => '/',
            _ => return None,
        };
        name.push(character);
        name.push_str(&part[1..]);
    }
    Some(name)
}

/// The pointer that leads to a value.
pub(super) fn pointer_to(value: Value<'_, '_>) -> String {
    let mut tokens = Vec::new();
    let mut inner = value;
    while let Some(parent) = inner.parent() {
        tokens.push(match inner.key() {
            Some(name) => name.replace('~', "~0").replace('/', "~1"),
            None => parent.children().position(|child| child == inner).unwrap_or_default().to_string(),
        });
        inner = parent;
    }
    tokens.iter().rev().fold(String::new(), |pointer, token| pointer + "/" + token)
}
