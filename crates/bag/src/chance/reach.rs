//! Where a disc lands over power, hyzer and launch: the table that a search starts from.

/// Powers of the table.
pub(crate) const POWERS: usize = 4;

/// How far apart the shapes of a table are. The coarse one has every second hyzer and launch of the fine: it ranks discs as well,
/// and takes a quarter of the flights; what it tells the fine one has not to find again.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Grain {
    Coarse,
    Fine,
}

impl Grain {
    /// Steps between the hyzers and between the launches, degrees.
    pub(crate) fn steps_deg(self) -> (f64, f64) {
        let times = if self == Grain::Coarse { 2.0 } else { 1.0 };
        (times * HYZER_STEP_DEG, times * LAUNCH_STEP_DEG)
    }
}

/// Steps of the fine table, degrees.
pub(crate) const HYZER_STEP_DEG: f64 = 6.0;
pub(crate) const LAUNCH_STEP_DEG: f64 = 4.0;

/// Where a disc lands over power, hyzer and launch.
pub struct Reach {
    pub(crate) shapes: Vec<Shape>,
}

impl Reach {
    /// How far each throw of the table comes to rest, m.
    pub(crate) fn distances(&self) -> impl Iterator<Item = f64> + '_ {
        self.shapes.iter().flat_map(|shape| shape.landings.iter().map(|landing| landing.0))
    }

    /// The landings of a shape (hyzer and launch, degrees), if it is one of the table.
    pub(crate) fn landings(&self, (hyzer_deg, launch_deg): (f64, f64)) -> Option<[(f64, f64); POWERS]> {
        let same = |s: &&Shape| s.hyzer_deg == hyzer_deg && s.launch_deg == launch_deg;
        self.shapes.iter().find(same).map(|s| s.landings)
    }
}

/// One shape of throw.
pub(crate) struct Shape {
    pub hyzer_deg: f64,
    pub launch_deg: f64,
    /// Per power node: distance (m) and direction (degrees, left positive) of the landing.
    pub landings: [(f64, f64); POWERS],
}
