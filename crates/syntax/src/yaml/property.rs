//! Tags and anchors before a node ("Node Properties", YAML 1.2.2, 6.9), and aliases.

use super::reader::{Reader, is_flow_indicator, is_space_or_end};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// What was found before a node.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(super) struct Properties {
    has_anchor: bool,
    has_tag: bool,
}

impl Properties {
    /// Those of two lines together; nothing where there are two of a kind.
    pub(super) fn and(self, other: Properties) -> Option<Properties> {
        let is_twice = self.has_anchor && other.has_anchor || self.has_tag && other.has_tag;
        let both =
            Properties { has_anchor: self.has_anchor || other.has_anchor, has_tag: self.has_tag || other.has_tag };
        (!is_twice).then_some(both)
    }

    /// Whether there are any.
    pub(super) fn any(self) -> bool {
        self.has_anchor || self.has_tag
    }
}

/// `c-ns-properties` on one line, whitespace behind them included.
pub(super) fn properties(reader: &mut Reader) -> Result<Properties, crate::parse::Stop> {
    let mut found = Properties::default();
    loop {
        let start = reader.at;
        match reader.byte() {
            Some(b'&') if found.has_anchor => return reader.stop("a node has one anchor").map(|()| found),
            Some(b'!') if found.has_tag => return reader.stop("a node has one tag").map(|()| found),
            Some(b'&') => {
                anchor(reader)?;
                found.has_anchor = true;
            }
            Some(b'!') => {
                tag(reader)?;
                found.has_tag = true;
            }
            _ => return Ok(found),
        }
        let ends = reader.byte().is_none_or(|byte| is_space_or_end(byte) || is_flow_indicator(byte));
        if !ends {
            reader.fault(start, reader.at, "whitespace is between a tag or an anchor and the value");
            return Err(crate::parse::Stop);
        }
        reader.skip_blanks();
    }
}

/// `c-ns-anchor-property`
fn anchor(reader: &mut Reader) -> Parsed {
    let length = name_length(reader);
    if length == 0 {
        return reader.stop("an anchor has a name");
    }
    reader.leaf(TokenKind::Anchor, 1 + length, Kind::Anchor, Role::Part);
    Ok(())
}

/// `c-ns-alias-node`
pub(super) fn alias(reader: &mut Reader, role: Role) -> Parsed {
    let length = name_length(reader);
    if length == 0 {
        return reader.stop("an alias has a name");
    }
    reader.leaf(TokenKind::Alias, 1 + length, Kind::Alias, role);
    Ok(())
}

/// How long the name behind `&` or `*` is.
fn name_length(reader: &Reader) -> usize {
    let rest = &reader.bytes[reader.at + 1..];
    rest.iter().position(|byte| is_space_or_end(*byte) || is_flow_indicator(*byte)).unwrap_or(rest.len())
}

/// `c-ns-tag-property`
fn tag(reader: &mut Reader) -> Parsed {
    let rest = &reader.bytes[reader.at..];
    let length = if rest.get(1) == Some(&b'<') {
        let end = rest.iter().position(|byte| is_space_or_end(*byte) || *byte == b'>');
        match end.filter(|end| rest[*end] == b'>') {
            Some(end) => end + 1,
            None => return reader.stop("'!<' is closed by '>'"),
        }
    } else {
        rest.iter().position(|byte| is_space_or_end(*byte) || is_flow_indicator(*byte)).unwrap_or(rest.len())
    };
    let word = &reader.source[reader.at..reader.at + length];
    if let Some(rule) = is_wrong(reader, word) {
        reader.fault(reader.at, reader.at + length, rule);
        return Err(crate::parse::Stop);
    }
    reader.leaf(TokenKind::Tag, length, Kind::Tag, Role::Part);
    Ok(())
}

/// What is wrong with a tag: its handle must be declared, and its characters be those of a URI.
fn is_wrong(reader: &Reader, word: &str) -> Option<&'static str> {
    let verbatim = word.strip_prefix("!<").and_then(|inner| inner.strip_suffix('>'));
    let is_uri = |byte: u8| byte.is_ascii_alphanumeric() || b"%-#;/?:@&=+$,_.!~*'()[]".contains(&byte);
    let suffix = match verbatim {
        Some(uri) if uri.len() < 2 => return Some("a tag has a name"),
        Some(uri) => uri,
        None => {
            let handle = word[1..].find('!').map(|end| &word[..end + 2]);
            if handle.is_some_and(|handle| handle != "!!" && !reader.handles.contains(&handle)) {
                return Some("the handle of this tag is declared nowhere in the document");
            }
            if handle.is_some_and(|handle| handle.len() == word.len()) {
                return Some("a tag has a name");
            }
            handle.map_or(&word[1..], |handle| &word[handle.len()..])
        }
    };
    (!suffix.bytes().all(is_uri)).then_some("a tag holds only characters of a URI")
}
