//! Errors of a release: what can go wrong when a disc leaves the hand, and what to think of on the next throw.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::release::Release;
use zinc_kite_flight::scatter::Spread;

use crate::thrower::style::Style;

/// What went wrong with a release.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Fault {
    /// Nothing: it left the hand as meant.
    None,
    /// Its nose was up.
    NoseUp,
    /// Its nose was down.
    NoseDown,
    /// It was on more hyzer than meant.
    Hyzer,
    /// It was on more anhyzer than meant.
    Anhyzer,
    /// It was slow.
    Slow,
    /// It was fast.
    Fast,
    /// It was launched high.
    High,
    /// It was launched low.
    Low,
    /// It left the hand early, to the side to which it fades.
    Early,
    /// It left the hand late, to the side to which it turns.
    Late,
    /// None of these alone does what was seen.
    Another,
}

/// How many there are.
pub(crate) const FAULTS: usize = 12;

/// Sizes from so many of the player's own deviations on are an error, to so many. Own judgement.
const SIZES: (f64, f64) = (0.8, 3.0);
/// However sure the player is, errors so large are thought of: speed as a share, hyzer, launch, nose, aim in degrees. Own judgement.
const AT_LEAST_TO: Spread =
    Spread { speed: 0.12, hyzer_deg: 12.0, launch_deg: 7.0, nose_deg: 6.5, aim_deg: 9.0 };

impl Fault {
    /// All of them.
    pub const ALL: [Fault; FAULTS] = [
        Fault::None,
        Fault::NoseUp,
        Fault::NoseDown,
        Fault::Hyzer,
        Fault::Anhyzer,
        Fault::Slow,
        Fault::Fast,
        Fault::High,
        Fault::Low,
        Fault::Early,
        Fault::Late,
        Fault::Another,
    ];

    /// How likely it is behind a throw before anything is seen of it; all of them together 1. Own judgement: what players get wrong most
    /// is the nose, up (common practice, no source); of the rest nothing is known, and each side is as likely as the other.
    pub fn before(self) -> f64 {
        match self {
            Fault::None => 0.09,
            Fault::NoseUp => 0.25,
            Fault::NoseDown => 0.04,
            Fault::Hyzer | Fault::Anhyzer => 0.10,
            Fault::Slow => 0.10,
            Fault::Fast => 0.04,
            Fault::High | Fault::Low => 0.06,
            Fault::Early | Fault::Late => 0.07,
            Fault::Another => 0.02,
        }
    }

    /// Whether it is an error of the release that has a size.
    pub fn has_size(self) -> bool {
        !matches!(self, Fault::None | Fault::Another)
    }

    /// The deviation that is its own of a player's scatter, degrees or percent.
    pub(crate) fn own(self, spread: &Spread) -> f64 {
        match self {
            Fault::None | Fault::Another => 0.0,
            Fault::NoseUp | Fault::NoseDown => spread.nose_deg,
            Fault::Hyzer | Fault::Anhyzer => spread.hyzer_deg,
            Fault::Slow | Fault::Fast => 100.0 * spread.speed,
            Fault::High | Fault::Low => spread.launch_deg,
            Fault::Early | Fault::Late => spread.aim_deg,
        }
    }

    /// Least and greatest size that is thought of with a player's scatter: degrees, or percent of the speed.
    pub fn sizes(self, spread: &Spread) -> (f64, f64) {
        let own = self.own(spread);
        (SIZES.0 * own, (SIZES.1 * own).max(self.own(&AT_LEAST_TO)))
    }

    /// A release with it, of a size in degrees or percent of the speed; `fade_side` is 1 where the disc fades to the left, −1 to the right.
    pub fn on(self, release: Release, size: f64, fade_side: f64) -> Release {
        let turned = |sign: f64| Release { aim_deg: release.aim_deg + sign * fade_side * size, ..release };
        match self {
            Fault::None | Fault::Another => release,
            Fault::NoseUp => Release { nose_deg: release.nose_deg + size, ..release },
            Fault::NoseDown => Release { nose_deg: release.nose_deg - size, ..release },
            Fault::Hyzer => Release { hyzer_deg: release.hyzer_deg + size, ..release },
            Fault::Anhyzer => Release { hyzer_deg: release.hyzer_deg - size, ..release },
            Fault::Slow => release.at_speed(release.speed_m_s * (1.0 - 0.01 * size)),
            Fault::Fast => release.at_speed(release.speed_m_s * (1.0 + 0.01 * size)),
            Fault::High => Release { launch_deg: release.launch_deg + size, ..release },
            Fault::Low => Release { launch_deg: release.launch_deg - size, ..release },
            Fault::Early => turned(1.0),
            Fault::Late => turned(-1.0),
        }
    }

    /// Of which of the release's errors it is one, in the order of the deviates, and its sign in the thrower's own sense.
    pub(crate) fn error(self) -> Option<(usize, f64)> {
        Some(match self {
            Fault::None | Fault::Another => return None,
            Fault::Slow => (0, -1.0),
            Fault::Fast => (0, 1.0),
            Fault::Hyzer => (1, 1.0),
            Fault::Anhyzer => (1, -1.0),
            Fault::High => (2, 1.0),
            Fault::Low => (2, -1.0),
            Fault::NoseUp => (3, 1.0),
            Fault::NoseDown => (3, -1.0),
            Fault::Early => (4, 1.0),
            Fault::Late => (4, -1.0),
        })
    }

    /// In words, with a size.
    pub(crate) fn words(self, size: f64) -> String {
        match self {
            Fault::None => "as meant".into(),
            Fault::NoseUp => format!("nose {size:.0}° up"),
            Fault::NoseDown => format!("nose {size:.0}° down"),
            Fault::Hyzer => format!("{size:.0}° too much hyzer"),
            Fault::Anhyzer => format!("{size:.0}° too much anhyzer"),
            Fault::Slow => format!("{size:.0} % slow"),
            Fault::Fast => format!("{size:.0} % fast"),
            Fault::High => format!("launched {size:.0}° high"),
            Fault::Low => format!("launched {size:.0}° low"),
            Fault::Early => format!("released early, {size:.0}° off the aim"),
            Fault::Late => format!("released late, {size:.0}° off the aim"),
            Fault::Another => "something else".into(),
        }
    }

    /// In a word or two, beside another.
    pub(crate) fn beside(self) -> &'static str {
        match self {
            Fault::None => "as meant",
            Fault::NoseUp => "the nose a little up",
            Fault::NoseDown => "the nose a little down",
            Fault::Hyzer => "a little on hyzer",
            Fault::Anhyzer => "a little on anhyzer",
            Fault::Slow => "a little slow",
            Fault::Fast => "a little fast",
            Fault::High => "a little high",
            Fault::Low => "a little low",
            Fault::Early => "a little early",
            Fault::Late => "a little late",
            Fault::Another => "something else",
        }
    }

    /// What to think of on the next throw in a style. Common practice, no source.
    pub fn cue(self, style: Style) -> &'static str {
        match (self, style) {
            (Fault::None, _) => "Throw it again just so.",
            (Fault::Another, _) => "Did it slip, or touch something? Watch the next one from the hand on.",
            (Fault::NoseUp, Style::Backhand) => {
                "Tip the wrist down as if pouring, and keep the hand on the outside of the disc."
            }
            (Fault::NoseUp, Style::Forehand) => {
                "Palm up, elbow ahead of the hand; do not let the wrist roll back."
            }
            (Fault::NoseUp, Style::Putt) => "Finish with the hand at the height of the chains, not above.",
            (Fault::NoseUp, Style::Thumber | Style::Tomahawk) => "Turn the disc’s edge more into the throw.",
            (Fault::NoseDown, Style::Putt) => {
                "Let the front edge float: reach up to the basket, not down at it."
            }
            (Fault::NoseDown, Style::Thumber | Style::Tomahawk) => {
                "Turn the disc’s top a little less into the throw."
            }
            (Fault::NoseDown, _) => "Let the wrist lie level; do not press the front edge down.",
            (Fault::Hyzer, Style::Backhand) => "Stand taller and pull through level with the chest.",
            (Fault::Hyzer, Style::Forehand) => {
                "Bring the elbow in to the ribs and the palm level to the sky."
            }
            (Fault::Hyzer, Style::Putt) => "Square the wrist: both edges level as it leaves.",
            (Fault::Hyzer, Style::Thumber | Style::Tomahawk) => {
                "Keep the arm more upright and the head out of its way."
            }
            (Fault::Anhyzer, Style::Backhand) => {
                "Bend a little over the front foot and keep the outer edge down."
            }
            (Fault::Anhyzer, Style::Forehand) => "Do not roll the wrist over: finish with the palm still up.",
            (Fault::Anhyzer, Style::Putt) => "Do not turn the wrist under: finish with the thumb on top.",
            (Fault::Anhyzer, Style::Thumber | Style::Tomahawk) => {
                "Lean a little away, so that the disc stands less on edge."
            }
            (Fault::Slow, Style::Putt) => "Push from the legs and let the arm follow.",
            (Fault::Slow, _) => "Begin slowly and be fastest at the end: hips first, then the arm.",
            (Fault::Fast, Style::Putt) => "Same motion, softer legs.",
            (Fault::Fast, _) => "Take a tenth off and hold the balance to the end.",
            (Fault::High, Style::Putt) => "Pick one link of chain and drive at it.",
            (Fault::High, Style::Thumber | Style::Tomahawk) => {
                "Let go a moment later, with the hand farther in front."
            }
            (Fault::High, _) => "Keep the weight forward and the shoulders level; do not lean back.",
            (Fault::Low, Style::Putt) => "Aim a hand higher: at the top of the chains.",
            (Fault::Low, Style::Thumber | Style::Tomahawk) => {
                "Let go a moment sooner, with the hand still high."
            }
            (Fault::Low, _) => "Choose a window above the line and throw through it.",
            (Fault::Early, Style::Putt) => "Follow the disc with the fingers, pointing at the basket.",
            (Fault::Early, Style::Thumber | Style::Tomahawk) => {
                "Step at the aim, and finish with the arm across the body."
            }
            (Fault::Early, _) => "Grip a little firmer and pull through to the aim.",
            (Fault::Late, Style::Putt) => "Loosen the grip, and open the hand at the basket.",
            (Fault::Late, Style::Thumber | Style::Tomahawk) => {
                "Step at the aim, and do not pull the arm across too soon."
            }
            (Fault::Late, _) => "Loosen the last fingers and turn the hips sooner.",
        }
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use rstest::rstest;
    use zinc_kite_flight::release::{Hand, Style as Kind};

    #[test]
    fn prop_shares_before_a_throw_make_one() {
        assert_relative_eq!(Fault::ALL.iter().map(|f| f.before()).sum::<f64>(), 1.0, epsilon = 1e-12);
    }

    /// An error and its opposite cancel, and each moves just the part of the release that the scatter's own error of that place moves.
    #[rstest]
    #[case(Fault::NoseUp, Fault::NoseDown)]
    #[case(Fault::Hyzer, Fault::Anhyzer)]
    #[case(Fault::High, Fault::Low)]
    #[case(Fault::Early, Fault::Late)]
    fn prop_opposite_errors_cancel(#[case] one: Fault, #[case] other: Fault) {
        let release = Release::rated(25.0, Hand::Right, Kind::Backhand);
        let back = other.on(one.on(release, 4.0, 1.0), 4.0, 1.0);
        assert_eq!(back, release);
        let ((at, sign), (there, opposite)) = (one.error().unwrap(), other.error().unwrap());
        assert_eq!((at, sign), (there, -opposite));
    }
}
