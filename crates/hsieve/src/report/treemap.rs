//! Areas in a rectangle, in proportion to weights, each as square as can be.
//!
//! After M. Bruls, K. Huizing, J. J. van Wijk, Squarified Treemaps (2000).

/// A rectangle.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Area {
    /// Its left side.
    pub x: f64,
    /// Its upper side.
    pub y: f64,
    /// Its width.
    pub width: f64,
    /// Its height.
    pub height: f64,
}

/// The areas of weights, which are sorted, the largest first, and greater than zero.
pub fn areas(weights: &[f64], whole: Area) -> Vec<Area> {
    let total: f64 = weights.iter().sum();
    let scale = whole.width * whole.height / total.max(f64::MIN_POSITIVE);
    let sizes: Vec<f64> = weights.iter().map(|weight| weight * scale).collect();
    let mut areas = Vec::with_capacity(sizes.len());
    let (mut left, mut rest) = (whole, &sizes[..]);
    while !rest.is_empty() {
        let side = left.width.min(left.height);
        let mut count = 1;
        // A row grows as long as its worst shape gets better.
        while count < rest.len() && worst(&rest[..=count], side) <= worst(&rest[..count], side) {
            count += 1;
        }
        let (row, others) = rest.split_at(count);
        left = lay(row, left, &mut areas);
        rest = others;
    }
    areas
}

/// The longest of the shapes that a row along a side would have: its longer side by its shorter one.
fn worst(row: &[f64], side: f64) -> f64 {
    let sum: f64 = row.iter().sum();
    let thick = sum / side.max(f64::MIN_POSITIVE);
    row.iter().map(|size| size / thick).map(|long| (long / thick).max(thick / long)).fold(0.0, f64::max)
}

/// Puts a row along the shorter side; gives what is left.
fn lay(row: &[f64], left: Area, areas: &mut Vec<Area>) -> Area {
    let sum: f64 = row.iter().sum();
    let is_wide = left.width >= left.height;
    let side = if is_wide { left.height } else { left.width };
    let thick = sum / side.max(f64::MIN_POSITIVE);
    let mut at = 0.0;
    for size in row {
        let long = size / thick.max(f64::MIN_POSITIVE);
        areas.push(match is_wide {
            true => Area { x: left.x, y: left.y + at, width: thick, height: long },
            false => Area { x: left.x + at, y: left.y, width: long, height: thick },
        });
        at += long;
    }
    match is_wide {
        true => Area { x: left.x + thick, width: left.width - thick, ..left },
        false => Area { y: left.y + thick, height: left.height - thick, ..left },
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    proptest! {
        /// Areas have the sizes of their weights, lie in the whole, and do not overlap.
        #[test]
        fn areas_fill_the_whole(weights in proptest::collection::vec(1.0..1000.0_f64, 1..60)) {
            let mut weights = weights;
            weights.sort_by(|one, other| other.total_cmp(one));
            let whole = Area { x: 0.0, y: 0.0, width: 600.0, height: 300.0 };
            let areas = areas(&weights, whole);
            let total: f64 = weights.iter().sum();
            prop_assert_eq!(areas.len(), weights.len());
            for (area, weight) in areas.iter().zip(&weights) {
                let share = weight / total * 180_000.0;
                prop_assert!((area.width * area.height - share).abs() < share * 1e-6 + 1e-6);
                prop_assert!(area.x > -1e-6 && area.y > -1e-6);
                prop_assert!(area.x + area.width < 600.0 + 1e-6 && area.y + area.height < 300.0 + 1e-6);
            }
            for (index, one) in areas.iter().enumerate() {
                for other in &areas[index + 1..] {
                    let wide = (one.x + one.width).min(other.x + other.width) - one.x.max(other.x);
                    let high = (one.y + one.height).min(other.y + other.height) - one.y.max(other.y);
                    prop_assert!(wide < 1e-6 || high < 1e-6);
                }
            }
        }
    }
}
