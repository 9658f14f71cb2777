//! Joins tags to elements ("Tree construction", HTML, 13.2.6), without moving anything.

use std::borrow::Cow;

use memchr::{memchr, memchr2, memmem};

use super::cutter::Cutter;
use super::elements::{
    Content, bounds_scope, bounds_table_scope, content_of, ends_paragraph, is_heading, is_integration_point,
    is_of_head, is_of_table, is_preformatted, keeps_items,
};
use super::raw::end_of_content;
use super::tag::{TagEnd, end_of_name, end_tag, start_tag};
use crate::parse::DEPTH_LIMIT;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind, Tree};

/// Parses a page.
pub(super) fn page(source: &str) -> Tree {
    let mut parser = Parser {
        cutter: Cutter::new(source),
        open: Vec::new(),
        told_too_deep: false,
        preformatted: 0,
        written: source.trim_ascii_end().len(),
    };
    parser.content();
    parser.end_down_to(0);
    parser.cutter.finish()
}

struct Parser<'s> {
    cutter: Cutter<'s>,
    /// The elements that are open, the outermost first.
    open: Vec<Open<'s>>,
    told_too_deep: bool,
    /// How many elements are open in which whitespace is text.
    preformatted: usize,
    /// Where the whitespace at the end of the file begins, which is no text of anything.
    written: usize,
}

/// An element that is open.
struct Open<'s> {
    mark: Mark,
    /// Its name in small letters.
    name: Cow<'s, str>,
    /// It belongs to SVG or MathML.
    is_foreign: bool,
}

impl<'s> Parser<'s> {
    fn content(&mut self) {
        loop {
            if self.preformatted == 0 || self.cutter.at >= self.written {
                self.cutter.whitespace();
            }
            let at = self.cutter.at;
            match self.cutter.peek(0) {
                None => return,
                Some(b'<') => self.on_less(at),
                Some(_) => self.text(at),
            }
        }
    }

    fn on_less(&mut self, at: usize) {
        match self.cutter.peek(1) {
            Some(letter) if letter.is_ascii_alphabetic() => self.on_start_tag(at),
            Some(b'/') if self.cutter.peek(2).is_some_and(|letter| letter.is_ascii_alphabetic()) => self.on_end_tag(at),
            Some(b'!') => self.declaration(at),
            Some(b'%' | b'?') => self.text(at),
            Some(b'/') => self.ignored(at),
            _ => self.text(at),
        }
    }

    /// Text up to the next tag, or a part of a template.
    fn text(&mut self, start: usize) {
        let bytes = self.cutter.bytes;
        if let Some(end) = self.cutter.templates.end_at(bytes, start) {
            return self.cutter.leaf(TokenKind::TemplatePart, end, Kind::TemplatePart, Role::Child);
        }
        if self.cutter.peek(0) == Some(b'<') && self.cutter.peek(1) == Some(b'?') {
            return self.ignored(start);
        }
        let mut at = start + 1;
        loop {
            let rest = &bytes[at..];
            at += memchr2(b'<', b'{', rest).unwrap_or(rest.len());
            let ends = match bytes.get(at) {
                None => true,
                Some(b'<') => {
                    bytes.get(at + 1).is_some_and(|next| next.is_ascii_alphabetic() || b"!/?%".contains(next))
                }
                Some(_) => self.cutter.templates.end_at(bytes, at).is_some(),
            };
            if ends {
                break;
            }
            at += 1;
        }
        // Text is never in the head of a page.
        self.end_last("head");
        let is_whole = self.preformatted > 0 && at < bytes.len();
        let written = if is_whole { at - start } else { bytes[start..at].trim_ascii_end().len() };
        self.cutter.leaf(TokenKind::MarkupText, start + written, Kind::MarkupText, Role::Child);
    }

    /// `<!-- -->`, `<!doctype>`, `<![CDATA[ ]]>`.
    fn declaration(&mut self, at: usize) {
        let rest = &self.cutter.bytes[at..];
        if rest.starts_with(b"<!--") {
            return self.comment(at);
        }
        if rest.get(..9).is_some_and(|start| start.eq_ignore_ascii_case(b"<!doctype")) {
            let end = memchr(b'>', rest).map(|found| found + 1);
            if end.is_none() {
                self.cutter.fault(at, at + 9, Problem::Rule("the doctype is never closed"));
            }
            return self.cutter.leaf(TokenKind::Doctype, at + end.unwrap_or(rest.len()), Kind::Doctype, Role::Child);
        }
        if rest.starts_with(b"<![CDATA[") && self.is_in_foreign() {
            let end = memmem::find(rest, b"]]>").map_or(rest.len(), |found| found + 3);
            if !rest[..end].ends_with(b"]]>") {
                self.cutter.fault(at, at + 9, Problem::Rule("the text is never closed"));
            }
            return self.cutter.leaf(TokenKind::MarkupText, at + end, Kind::MarkupText, Role::Child);
        }
        self.ignored(at);
    }

    /// "Comment start state": up to `-->` or `--!>`; `<!-->` and `<!--->` are comments too.
    fn comment(&mut self, at: usize) {
        let rest = &self.cutter.bytes[at..];
        let short = [&b"<!-->"[..], b"<!--->"].into_iter().find(|short| rest.starts_with(short));
        let end = short.map(<[u8]>::len).or_else(|| {
            let ends = |close: &[u8]| memmem::find(&rest[4..], close).map(|found| 4 + found + close.len());
            // What comes first; the second form is looked for only before the first.
            let usual = ends(b"-->");
            let before = &rest[..usual.unwrap_or(rest.len())];
            memmem::find(&before[4..], b"--!>").map(|found| 4 + found + 4).or(usual)
        });
        if end.is_none() {
            self.cutter.fault(at, at + 4, Problem::Rule("the comment is never closed"));
        }
        self.cutter.comment(at + end.unwrap_or(rest.len()));
    }

    /// "Bogus comment state": what browsers leave out, up to the next `>`.
    fn ignored(&mut self, at: usize) {
        let rest = &self.cutter.bytes[at..];
        self.cutter.comment(at + memchr(b'>', rest).map_or(rest.len(), |found| found + 1));
    }

    fn is_in_foreign(&self) -> bool {
        self.open.last().is_some_and(|open| open.is_foreign && !is_integration_point(&open.name))
    }

    fn on_start_tag(&mut self, at: usize) {
        let name = self.name_at(at + 1);
        let is_foreign = self.is_in_foreign() || matches!(&*name, "svg" | "math");
        if !is_foreign {
            self.end_what_it_ends(&name);
        }
        let mark = self.cutter.open();
        let end = start_tag(&mut self.cutter);
        let content = if is_foreign { Content::Normal } else { content_of(&name) };
        let is_over = end == TagEnd::Nowhere || content == Content::Void || is_foreign && end == TagEnd::Closed;
        if is_over || self.is_too_deep(at) {
            return self.cutter.close(mark, Kind::Element, Role::Child);
        }
        self.preformatted += usize::from(is_preformatted(&name));
        self.open.push(Open { mark, name, is_foreign });
        match content {
            Content::Raw => self.raw_content(),
            Content::Plain => self.text_up_to(self.cutter.bytes.len(), TokenKind::MarkupText, Kind::MarkupText),
            Content::Normal | Content::Void => {}
        }
    }

    /// Elements within too many others are taken for empty.
    fn is_too_deep(&mut self, at: usize) -> bool {
        let is_too_deep = self.open.len() >= DEPTH_LIMIT as usize;
        if is_too_deep && !self.told_too_deep {
            self.told_too_deep = true;
            self.cutter.fault(at, at + 1, Problem::TooDeep(DEPTH_LIMIT));
        }
        is_too_deep
    }

    /// The name of the tag whose name begins at a place, in small letters.
    fn name_at(&self, start: usize) -> Cow<'s, str> {
        let name = &self.cutter.source[start..end_of_name(self.cutter.bytes, start)];
        if name.bytes().any(|byte| byte.is_ascii_uppercase()) {
            Cow::Owned(name.to_ascii_lowercase())
        } else {
            Cow::Borrowed(name)
        }
    }

    /// The content of an element that holds text alone.
    fn raw_content(&mut self) {
        let Some(open) = self.open.last() else { return };
        let is_text = matches!(&*open.name, "title" | "textarea");
        let end = end_of_content(self.cutter.bytes, self.cutter.at, &open.name);
        if end.is_none() {
            let at = self.cutter.at;
            let problem = Problem::Rule("nothing closes this element: all that follows is its text");
            self.cutter.fault(at - 1, at, problem);
        }
        let (token, kind) = match is_text {
            true => (TokenKind::MarkupText, Kind::MarkupText),
            false => (TokenKind::RawText, Kind::RawText),
        };
        self.text_up_to(end.unwrap_or(self.cutter.bytes.len()), token, kind);
    }

    /// Text up to a place, whitespace around it apart where it means nothing.
    fn text_up_to(&mut self, end: usize, token: TokenKind, kind: Kind) {
        let is_whole = self.preformatted > 0;
        if !is_whole {
            self.cutter.whitespace();
        }
        let rest = &self.cutter.bytes[self.cutter.at.min(end)..end];
        let written = if is_whole { rest.len() } else { rest.trim_ascii_end().len() };
        if written > 0 {
            self.cutter.leaf(token, self.cutter.at + written, kind, Role::Child);
        }
        if !is_whole {
            self.cutter.whitespace();
        }
    }

    fn on_end_tag(&mut self, at: usize) {
        let name = self.name_at(at + 2);
        match self.ended_by(&name) {
            Some(index) => {
                self.end_down_to(index + 1);
                end_tag(&mut self.cutter, Role::End);
                self.end_down_to(index);
            }
            None => end_tag(&mut self.cutter, Role::Child),
        }
    }

    /// The element that an end tag ends: the innermost of its name that is in scope.
    fn ended_by(&self, name: &str) -> Option<usize> {
        let bounds = if is_of_table(name) { bounds_table_scope } else { bounds_scope };
        for (index, open) in self.open.iter().enumerate().rev() {
            // The end tag of any heading ends the one that is open.
            if open.name == name || is_heading(&open.name) && is_heading(name) {
                return Some(index);
            }
            if !open.is_foreign && bounds(&open.name) {
                // The page itself is over where its end tag is.
                return None;
            }
        }
        None
    }

    /// Ends the elements from an index on.
    fn end_down_to(&mut self, index: usize) {
        while self.open.len() > index {
            if let Some(open) = self.open.pop() {
                self.preformatted -= usize::from(is_preformatted(&open.name));
                self.cutter.close(open.mark, Kind::Element, Role::Child);
            }
        }
    }

    /// Ends the elements that a start tag ends, since their own end tags may be left out.
    fn end_what_it_ends(&mut self, name: &str) {
        if !is_of_head(name) {
            self.end_last("head");
        }
        if ends_paragraph(name) {
            match name {
                "li" => self.end_nearest(&["li"], keeps_items),
                "dd" | "dt" => self.end_nearest(&["dd", "dt"], keeps_items),
                _ => {}
            }
            // The standard keeps a table in a paragraph where a page has no doctype; authors hardly mean that.
            self.end_nearest(&["p"], |name| bounds_scope(name) || name == "button");
            return;
        }
        match name {
            "option" => self.end_last("option"),
            "optgroup" => {
                self.end_last("option");
                self.end_last("optgroup");
            }
            "rb" | "rtc" => self.end_nearest(&["rb", "rt", "rtc", "rp"], |name| name == "ruby"),
            "rt" | "rp" => self.end_nearest(&["rb", "rt", "rp"], |name| matches!(name, "ruby" | "rtc")),
            "td" | "th" => self.end_nearest(&["td", "th", "caption"], |name| {
                bounds_table_scope(name) || matches!(name, "tr" | "thead" | "tbody" | "tfoot")
            }),
            "tr" => self.end_nearest(&["tr", "caption", "colgroup"], |name| {
                bounds_table_scope(name) || matches!(name, "thead" | "tbody" | "tfoot")
            }),
            "thead" | "tbody" | "tfoot" | "caption" | "colgroup" => {
                self.end_nearest(&["thead", "tbody", "tfoot", "caption", "colgroup"], bounds_table_scope);
            }
            "col" => self.end_last("caption"),
            _ => {}
        }
    }

    /// Ends the innermost open element if it has a name.
    fn end_last(&mut self, name: &str) {
        if self.open.last().is_some_and(|open| open.name == name) {
            self.end_down_to(self.open.len() - 1);
        }
    }

    /// Ends the nearest element with one of some names, unless something is in between that keeps it open.
    fn end_nearest(&mut self, names: &[&str], keeps: impl Fn(&str) -> bool) {
        for (index, open) in self.open.iter().enumerate().rev() {
            if open.is_foreign {
                return;
            }
            if names.contains(&&*open.name) {
                return self.end_down_to(index);
            }
            if keeps(&open.name) {
                return;
            }
        }
    }
}
