//! What values of style sheets are made of: units, colours.

use sieve_syntax::css::dimension;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::File;
use crate::markup::in_small_letters;

/// The units there are ("CSS Values and Units 4", 6 and 7; "CSS Grid", 7.2; "CSS Images 4", `resolution`; "CSS Speech" and "CSS Containment 3").
const UNITS: &[&str] = &[
    "cap", "ch", "cm", "cqb", "cqh", "cqi", "cqmax", "cqmin", "cqw", "db", "deg", "dpcm", "dpi", "dppx", "dvb", "dvh",
    "dvi", "dvmax", "dvmin", "dvw", "em", "ex", "fr", "grad", "hz", "ic", "in", "khz", "lh", "lvb", "lvh", "lvi",
    "lvmax", "lvmin", "lvw", "mm", "ms", "pc", "pt", "px", "q", "rad", "rcap", "rch", "rem", "rex", "ric", "rlh", "s",
    "st", "svb", "svh", "svi", "svmax", "svmin", "svw", "turn", "vb", "vh", "vi", "vmax", "vmin", "vw", "x",
];

/// Units of lengths, whose zero needs none.
const LENGTHS: &[&str] = &[
    "cap", "ch", "cm", "cqb", "cqh", "cqi", "cqmax", "cqmin", "cqw", "dvb", "dvh", "dvi", "dvmax", "dvmin", "dvw",
    "em", "ex", "ic", "in", "lh", "lvb", "lvh", "lvi", "lvmax", "lvmin", "lvw", "mm", "pc", "pt", "px", "q", "rcap",
    "rch", "rem", "rex", "ric", "rlh", "svb", "svh", "svi", "svmax", "svmin", "svw", "vb", "vh", "vi", "vmax", "vmin",
    "vw",
];

/// Whether there is a unit, whatever its letters' case.
pub(crate) fn is_unit(unit: &str) -> bool {
    UNITS.binary_search(&unit.to_ascii_lowercase().as_str()).is_ok()
}

/// Whether a unit is one of lengths.
pub(crate) fn is_length(unit: &str) -> bool {
    LENGTHS.binary_search(&unit.to_ascii_lowercase().as_str()).is_ok()
}

/// The units there are.
pub(crate) fn units() -> impl Iterator<Item = &'static str> {
    UNITS.iter().copied()
}

/// Whether what is behind `#` is a colour ("CSS Color 4", 5.2).
pub(crate) fn is_hex_colour(digits: &str) -> bool {
    matches!(digits.len(), 3 | 4 | 6 | 8) && digits.bytes().all(|byte| byte.is_ascii_hexdigit())
}

/// A length in pixels, where it is written so that it does not depend on what is around.
pub(crate) fn pixels(file: File<'_>, component: NodeRef<'_>) -> Option<f64> {
    let text = file.node_text(component);
    if component.kind() == Kind::Number {
        return text.parse().ok().filter(|value: &f64| *value == 0.0);
    }
    let (number, unit) = dimension(text).filter(|_| component.kind() == Kind::Dimension)?;
    let number: f64 = number.parse().ok()?;
    match &*in_small_letters(unit) {
        "px" => Some(number),
        "pt" => Some(number * 4.0 / 3.0),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tables_are_sorted() {
        assert!(UNITS.is_sorted() && LENGTHS.is_sorted());
        assert!(LENGTHS.iter().all(|unit| is_unit(unit)));
        assert!(is_unit("PX") && !is_unit("xp") && !is_length("s"));
        assert!(is_hex_colour("fff") && is_hex_colour("00ff0080") && !is_hex_colour("ff") && !is_hex_colour("ggg"));
    }
}
