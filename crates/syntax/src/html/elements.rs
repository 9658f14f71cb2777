//! What the standard says of elements by their names: which have no content or no markup in it, and which end without an end tag.

/// How the content of an element is read ("Elements", HTML, 13.1.2).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Content {
    /// Text and elements.
    Normal,
    /// None: there is no end tag.
    Void,
    /// Text alone, up to the end tag; `script` and `style` are in other languages.
    Raw,
    /// Everything up to the end of the file.
    Plain,
}

/// Whether an element has no content and no end tag, by its name in small letters.
pub fn is_void(name: &str) -> bool {
    content_of(name) == Content::Void
}

/// How the content of an element is read, by its name in small letters.
pub(crate) fn content_of(name: &str) -> Content {
    match name {
        "area" | "base" | "basefont" | "bgsound" | "br" | "col" | "embed" | "frame" | "hr" | "image" | "img"
        | "input" | "keygen" | "link" | "meta" | "param" | "source" | "track" | "wbr" => Content::Void,
        "script" | "style" | "textarea" | "title" | "xmp" | "iframe" | "noembed" | "noframes" => Content::Raw,
        "plaintext" => Content::Plain,
        _ => Content::Normal,
    }
}

/// Whether the end tag of an element may be left out ("Optional tags", HTML, 13.1.2.4), by its name in small letters.
pub fn may_stay_open(name: &str) -> bool {
    matches!(
        name,
        "html"
            | "head"
            | "body"
            | "p"
            | "li"
            | "dt"
            | "dd"
            | "option"
            | "optgroup"
            | "rb"
            | "rt"
            | "rtc"
            | "rp"
            | "thead"
            | "tbody"
            | "tfoot"
            | "tr"
            | "td"
            | "th"
            | "colgroup"
            | "caption"
    )
}

/// Whether a start tag ends a paragraph that is open ("The rules for parsing tokens in HTML content", HTML, 13.2.6.4.7).
pub(super) fn ends_paragraph(name: &str) -> bool {
    matches!(
        name,
        "address"
            | "article"
            | "aside"
            | "blockquote"
            | "center"
            | "details"
            | "dialog"
            | "dir"
            | "div"
            | "dl"
            | "dd"
            | "dt"
            | "fieldset"
            | "figcaption"
            | "figure"
            | "footer"
            | "form"
            | "h1"
            | "h2"
            | "h3"
            | "h4"
            | "h5"
            | "h6"
            | "header"
            | "hgroup"
            | "hr"
            | "li"
            | "listing"
            | "main"
            | "menu"
            | "nav"
            | "ol"
            | "p"
            | "plaintext"
            | "pre"
            | "search"
            | "section"
            | "summary"
            | "table"
            | "ul"
            | "xmp"
    )
}

/// Whether an element is one at which the search for what an end tag ends stops ("has an element in scope", HTML, 13.2.4.2).
pub(super) fn bounds_scope(name: &str) -> bool {
    matches!(name, "applet" | "caption" | "html" | "table" | "td" | "th" | "marquee" | "object" | "template" | "select")
}

/// Whether an element bounds the scope of tables.
pub(super) fn bounds_table_scope(name: &str) -> bool {
    matches!(name, "html" | "table" | "template")
}

/// Whether an end tag looks for its element in the scope of tables.
pub(super) fn is_of_table(name: &str) -> bool {
    matches!(name, "table" | "caption" | "thead" | "tbody" | "tfoot" | "tr" | "td" | "th")
}

/// Whether an item of a list is not ended through an element ("special", HTML, 13.2.4.2), by its name in small letters.
pub(super) fn keeps_items(name: &str) -> bool {
    let is_part = matches!(
        name,
        "applet"
            | "body"
            | "button"
            | "caption"
            | "col"
            | "colgroup"
            | "frameset"
            | "head"
            | "html"
            | "iframe"
            | "marquee"
            | "object"
            | "script"
            | "select"
            | "style"
            | "tbody"
            | "td"
            | "template"
            | "textarea"
            | "tfoot"
            | "th"
            | "thead"
            | "title"
            | "tr"
            | "noscript"
            | "noembed"
            | "noframes"
    );
    is_part || ends_paragraph(name) && !matches!(name, "address" | "div" | "p")
}

/// Whether an element may be in the head of a page.
pub(super) fn is_of_head(name: &str) -> bool {
    matches!(
        name,
        "base"
            | "basefont"
            | "bgsound"
            | "link"
            | "meta"
            | "title"
            | "noscript"
            | "noframes"
            | "style"
            | "script"
            | "template"
            | "head"
    )
}

/// Whether the content of an element of SVG or MathML is HTML again ("Tree construction", HTML, 13.2.6).
pub(super) fn is_integration_point(name: &str) -> bool {
    matches!(name, "foreignobject" | "desc" | "title" | "mi" | "mo" | "mn" | "ms" | "mtext" | "annotation-xml")
}

/// Whether an element is a heading.
pub(super) fn is_heading(name: &str) -> bool {
    matches!(name, "h1" | "h2" | "h3" | "h4" | "h5" | "h6")
}

/// Whether whitespace in an element is text ("The pre element", HTML, 4.4.3, "The textarea element", 4.10.11).
pub(super) fn is_preformatted(name: &str) -> bool {
    matches!(name, "pre" | "listing" | "xmp" | "plaintext" | "textarea")
}
