//! Places in texts as the protocol counts them: lines and units of an encoding, both from 0.

use lsp_types::{Position, PositionEncodingKind, Range};
use sieve_syntax::text::{Place, Span, Text};

/// In which units columns are counted.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Units {
    /// Bytes.
    Utf8,
    /// Code units of UTF-16.
    Utf16,
    /// Characters.
    Utf32,
}

impl Units {
    /// The best of those that a client understands; where it says nothing, UTF-16.
    pub fn of(understood: Option<&[PositionEncodingKind]>) -> Units {
        let offered = [
            (PositionEncodingKind::UTF8, Units::Utf8),
            (PositionEncodingKind::UTF32, Units::Utf32),
            (PositionEncodingKind::UTF16, Units::Utf16),
        ];
        let understands = |kind: &PositionEncodingKind| understood.unwrap_or_default().contains(kind);
        offered.into_iter().find(|(kind, _)| understands(kind)).map_or(Units::Utf16, |(_, units)| units)
    }

    /// As the protocol names them.
    pub fn kind(self) -> PositionEncodingKind {
        match self {
            Units::Utf8 => PositionEncodingKind::UTF8,
            Units::Utf16 => PositionEncodingKind::UTF16,
            Units::Utf32 => PositionEncodingKind::UTF32,
        }
    }

    fn of_char(self, one: char) -> usize {
        match self {
            Units::Utf8 => one.len_utf8(),
            Units::Utf16 => one.len_utf16(),
            Units::Utf32 => 1,
        }
    }

    /// How long a stretch of a line is.
    fn count(self, text: &str) -> u32 {
        let all = if self == Units::Utf8 || text.is_ascii() {
            text.len()
        } else {
            text.chars().map(|one| self.of_char(one)).sum()
        };
        all as u32
    }

    /// The position of an offset in a text.
    pub fn position(self, text: &Text, offset: u32) -> Position {
        let offset = offset.min(text.source().len() as u32);
        let line = text.lines().line_of(offset);
        let start = text.lines().full_line(line).start.min(offset);
        Position::new(line - 1, self.count(text.slice(Span::new(start, offset))))
    }

    /// The range of a stretch of a text.
    pub fn range(self, text: &Text, span: Span) -> Range {
        Range::new(self.position(text, span.start), self.position(text, span.end))
    }

    /// The offset of a position: the end of the line, or of the text, where that is shorter.
    pub fn offset(self, text: &Text, position: Position) -> u32 {
        let lines = text.lines();
        // A text that ends with a line end has an empty line after it.
        if position.line > lines.line_of(text.source().len() as u32) - 1 {
            return text.source().len() as u32;
        }
        let full = lines.full_line(position.line + 1);
        let line = text.slice(full).trim_end_matches(['\n', '\r']);
        let wanted = position.character as usize;
        if self == Units::Utf8 || line.is_ascii() {
            let at = line.floor_char_boundary(wanted.min(line.len()));
            return full.start + at as u32;
        }
        let mut units = 0;
        let mut characters = line.char_indices();
        let at = characters.find(|(_, one)| {
            let is_there = units + self.of_char(*one) > wanted;
            units += self.of_char(*one);
            is_there
        });
        full.start + at.map_or(line.len(), |(at, _)| at) as u32
    }

    /// The stretch of a range.
    pub fn span(self, text: &Text, range: Range) -> Span {
        let (start, end) = (self.offset(text, range.start), self.offset(text, range.end));
        Span::new(start.min(end), end.max(start))
    }

    /// The position of a place, whose columns are characters, in the line that it is in, if that is at hand.
    pub fn of_place(self, place: Place, line: Option<&str>) -> Position {
        let before = place.column.saturating_sub(1);
        let line = line.filter(|line| self != Units::Utf32 && !line.is_ascii());
        let character = line.map_or(before, |line| {
            let end = line.char_indices().nth(before as usize).map_or(line.len(), |(at, _)| at);
            self.count(&line[..end])
        });
        Position::new(place.line.saturating_sub(1), character)
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    const ALL: [Units; 3] = [Units::Utf8, Units::Utf16, Units::Utf32];

    #[test]
    fn the_best_units_are_chosen() {
        let of = |names: &[&'static str]| {
            Units::of(Some(&names.iter().map(|name| PositionEncodingKind::new(*name)).collect::<Vec<_>>()))
        };
        assert_eq!(Units::of(None), Units::Utf16);
        assert_eq!((of(&["utf-16", "utf-8"]), of(&["utf-32", "utf-16"]), of(&["x"])), (ALL[0], ALL[2], ALL[1]));
    }

    #[test]
    fn columns_are_counted_in_units() {
        let text = Text::new("a = '⛴🚢é'\r\nb\n".to_string());
        let end = text.source().find('\r').expect("a line end") as u32;
        let columns = ALL.map(|units| units.position(&text, end).character);
        assert_eq!(columns, [15, 10, 9]);
        for units in ALL {
            assert_eq!(units.position(&text, text.source().len() as u32), Position::new(2, 0));
            assert_eq!(units.offset(&text, Position::new(0, 99)), end, "past the end of a line");
            assert_eq!(units.offset(&text, Position::new(9, 9)), text.source().len() as u32);
        }
        let place = text.place(end);
        assert_eq!(ALL.map(|units| units.of_place(place, Some("a = '⛴🚢é'")).character), columns);
    }

    proptest! {
        #[test]
        fn positions_lead_back_to_their_offsets(source in "([a-zé🚢\u{feff}]|\r\n|\n|\r){0,30}") {
            let text = Text::new(source.clone());
            for (offset, _) in source.char_indices() {
                // Between the two characters of a line end nothing begins.
                let is_within = source[..offset].ends_with('\r') && source[offset..].starts_with('\n');
                for units in ALL.into_iter().filter(|_| !is_within) {
                    let position = units.position(&text, offset as u32);
                    prop_assert_eq!(units.offset(&text, position), offset as u32, "{:?} {:?}", units, position);
                }
            }
        }
    }
}
