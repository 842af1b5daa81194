//! Where a disc lands over power, hyzer and launch: the table that a search starts from.

/// Powers of the table.
pub(crate) const POWERS: usize = 5;

/// Where a disc lands over power, hyzer and launch.
pub struct Reach {
    pub(crate) shapes: Vec<Shape>,
}

impl Reach {
    /// How far each throw of the table comes to rest, m.
    pub(crate) fn distances(&self) -> impl Iterator<Item = f64> + '_ {
        self.shapes.iter().flat_map(|shape| shape.landings.iter().map(|landing| landing.0))
    }
}

/// One shape of throw.
pub(crate) struct Shape {
    pub hyzer_deg: f64,
    pub launch_deg: f64,
    /// Per power node: distance (m) and direction (degrees, left positive) of the landing.
    pub landings: [(f64, f64); POWERS],
}
