//! Colours that are written out, and how much two of them differ.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::markup::in_small_letters;

/// A colour that lets nothing through: red, green, blue.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Colour([u8; 3]);

/// The names of colours that style sheets have had from the first ("CSS Color 4", 6.1).
const NAMED: [(&str, u32); 17] = [
    ("aqua", 0x00_ff_ff),
    ("black", 0x00_00_00),
    ("blue", 0x00_00_ff),
    ("fuchsia", 0xff_00_ff),
    ("gray", 0x80_80_80),
    ("green", 0x00_80_00),
    ("lime", 0x00_ff_00),
    ("maroon", 0x80_00_00),
    ("navy", 0x00_00_80),
    ("olive", 0x80_80_00),
    ("orange", 0xff_a5_00),
    ("purple", 0x80_00_80),
    ("red", 0xff_00_00),
    ("silver", 0xc0_c0_c0),
    ("teal", 0x00_80_80),
    ("white", 0xff_ff_ff),
    ("yellow", 0xff_ff_00),
];

impl Colour {
    /// The colour that a component of a value is; nothing where that is not known, or it lets something through.
    pub(crate) fn of(file: File<'_>, component: NodeRef<'_>) -> Option<Colour> {
        let text = file.node_text(component);
        match component.kind() {
            Kind::HashValue => Colour::of_digits(text.strip_prefix('#')?),
            Kind::Name => {
                let name = in_small_letters(text);
                let index = NAMED.binary_search_by_key(&&*name, |(own, _)| own).ok()?;
                let [_, red, green, blue] = NAMED[index].1.to_be_bytes();
                Some(Colour([red, green, blue]))
            }
            Kind::Call => Colour::of_call(file, component),
            _ => None,
        }
    }

    /// `#rgb`, `#rrggbb`, and the same with a last part that says that nothing shines through.
    fn of_digits(digits: &str) -> Option<Colour> {
        let values: Vec<u8> =
            digits.chars().map(|digit| digit.to_digit(16).map(|value| value as u8)).collect::<Option<_>>()?;
        let pairs: Vec<u8> = match values.len() {
            3 | 4 => values.iter().map(|value| value * 17).collect(),
            6 | 8 => values.chunks(2).map(|pair| pair[0] * 16 + pair[1]).collect(),
            _ => return None,
        };
        let is_opaque = pairs.get(3).is_none_or(|alpha| *alpha == 255);
        is_opaque.then_some(Colour([pairs[0], pairs[1], pairs[2]]))
    }

    /// `rgb(1, 2, 3)` and `rgba(1, 2, 3, 1)`.
    fn of_call(file: File<'_>, call: NodeRef<'_>) -> Option<Colour> {
        let name = in_small_letters(file.node_text(call.child(Role::Callee)?));
        if !matches!(&*name, "rgb" | "rgba") {
            return None;
        }
        let arguments = call.child(Role::Arguments)?.children();
        let numbers = arguments.map(|part| {
            let is_number = part.kind() == Kind::Number;
            file.node_text(part).parse::<f64>().ok().filter(|_| is_number)
        });
        let part = |value: f64| (value.fract() == 0.0 && (0.0..=255.0).contains(&value)).then_some(value as u8);
        match numbers.collect::<Option<Vec<f64>>>()?[..] {
            [red, green, blue] => Some(Colour([part(red)?, part(green)?, part(blue)?])),
            [red, green, blue, 1.0] => Some(Colour([part(red)?, part(green)?, part(blue)?])),
            _ => None,
        }
    }

    /// Its relative luminance, from 0 to 1 (WCAG 2.2, "relative luminance").
    fn luminance(self) -> f64 {
        let linear = |value: u8| {
            let share = f64::from(value) / 255.0;
            if share <= 0.040_45 { share / 12.92 } else { ((share + 0.055) / 1.055).powf(2.4) }
        };
        let [red, green, blue] = self.0.map(linear);
        0.2126 * red + 0.7152 * green + 0.0722 * blue
    }

    /// The ratio of contrast to another colour, from 1 to 21 (WCAG 2.2, "contrast ratio").
    pub(crate) fn contrast(self, other: Colour) -> f64 {
        let (one, other) = (self.luminance(), other.luminance());
        (one.max(other) + 0.05) / (one.min(other) + 0.05)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn contrasts_are_those_of_the_definition() {
        let colour = |digits: &str| Colour::of_digits(digits).expect("a colour");
        assert!(NAMED.is_sorted());
        assert_eq!(colour("fff").contrast(colour("000000ff")), 21.0);
        assert_eq!(colour("123456").contrast(colour("123456")), 1.0);
        // The grey that just suffices for text on white, and the next lighter one.
        assert!(colour("767676").contrast(colour("fff")) >= 4.5 && colour("777777").contrast(colour("ffffff")) < 4.5);
        assert_eq!((Colour::of_digits("fff0"), Colour::of_digits("ff"), Colour::of_digits("ggg")), (None, None, None));
    }
}
