//! How high the water is.

/// A height of the water over the chart, in centimetres.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Height(pub i32);

/// What the water allows.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Stage {
    /// No boat can leave.
    Low,
    /// Only the flat one can.
    Shallow,
    /// Both can.
    High,
}

impl Height {
    /// What the water allows for a boat that draws so much.
    pub fn stage(self, draught: Height) -> Stage {
        let margin = 30;
        if self.0 < draught.0 {
            Stage::Low
        } else if self.0 < draught.0 + margin {
            Stage::Shallow
        } else if self.0 < draught.0 {
            Stage::Low
        } else {
            Stage::High
        }
    }

    /// The height in metres, for the board.
    pub fn metres(self) -> f64 {
        if self.0 < 0 { f64::from(self.0) / 100.0 } else { f64::from(self.0) / 100.0 }
    }
}
