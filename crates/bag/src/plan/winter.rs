//! A lean bag for the cold part of the year, as wishes to the builder: discs one can afford to lose, that show on the ground, and
//! that do not crack. All of it is common practice, no source.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::disc::colour::Lab;
use crate::disc::keeping::Tie;
use crate::disc::mould::{Mould, Supply};
use crate::disc::spec::{Disc, DiscId, Use};
use crate::plan::build::{LEAN_STROKES, Wishes};
use crate::thrower::player::School;

/// What a disc has to be seen on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Cover {
    /// Grass.
    Grass,
    /// Fallen leaves.
    Leaves,
    /// Snow.
    Snow,
}

impl Cover {
    /// Its colours. Own judgement.
    fn colours(self) -> &'static [&'static str] {
        match self {
            Cover::Grass => &["#4f7a34", "#7d9a4a"],
            Cover::Leaves => &["#b5652a", "#d08a35", "#7a4a26"],
            Cover::Snow => &["#f4f7fa", "#dfe6ee"],
        }
    }

    fn label(self) -> &'static str {
        match self {
            Cover::Grass => "grass",
            Cover::Leaves => "fallen leaves",
            Cover::Snow => "snow",
        }
    }
}

/// A colour nearer to the ground than this is hard to find on it, CIE 1976 units. Own judgement: white on snow is within 10, orange
/// on leaves within 30, pink and blue on either beyond 45.
const SHOWS_FROM: f64 = 33.0;
/// A disc that cost more than this many times the middle price is dear. Own judgement.
const DEAR: f64 = 1.5;
/// Discs of a lean bag. Own judgement.
const LEAN_SIZE: u32 = 12;

/// A disc that better stays at home.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StaysHome {
    /// The disc.
    pub disc_id: DiscId,
    /// Why, in words.
    pub words: String,
}

/// Wishes for a lean bag, and the discs they leave at home.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LeanWishes {
    /// The wishes.
    pub wishes: Wishes,
    /// Discs left at home, each with why.
    pub stays_home: Vec<StaysHome>,
    /// How many at hand could come.
    pub could_come: usize,
}

/// Wishes for a lean bag out of a shelf, for a bag that holds `capacity` under the event's cap.
pub fn lean_wishes(
    shelf: &[Disc],
    moulds: &[Mould],
    (capacity, event_cap_g): (u32, Option<f64>),
    cover: Cover,
    frost: bool,
) -> LeanWishes {
    let mut prices: Vec<f64> = shelf.iter().filter_map(|d| d.spec.keeping.price).collect();
    prices.sort_by(f64::total_cmp);
    let middle = prices.get(prices.len() / 2).copied();
    let at_hand = || shelf.iter().filter(|d| d.spec.keeping.status.is_at_hand());
    let why_not = |disc: &Disc| {
        let spec = &disc.spec;
        let is_tied = |tie| spec.keeping.ties.contains(&tie);
        let supply = moulds.iter().find(|m| m.spec.is_of(spec)).map_or(Supply::Ready, |m| m.spec.supply);
        let why = [
            is_tied(Tie::Sentimental).then(|| "you would not like to lose it".to_owned()),
            (is_tied(Tie::HardToReplace) || supply != Supply::Ready)
                .then(|| "it is hard to replace".to_owned()),
            spec.keeping
                .price
                .zip(middle)
                .filter(|(price, middle)| *price > DEAR * middle)
                .map(|_| "it is dear".to_owned()),
            (frost && spec.plastic.facts().cold == "cracks")
                .then(|| format!("{} plastic can crack in frost", spec.plastic.facts().label)),
            (spec.used_for != Use::Putting && !shows(&spec.colour, cover))
                .then(|| format!("its colour is lost on {}", cover.label())),
        ];
        // One that may be lost, may be: whether it shows does not matter.
        let may_be_lost = is_tied(Tie::WaterDisc);
        let words: Vec<String> = why.into_iter().flatten().collect();
        (!words.is_empty() && !may_be_lost).then(|| StaysHome { disc_id: disc.id, words: words.join("; ") })
    };
    let mut stays_home: Vec<StaysHome> = at_hand().filter_map(why_not).collect();
    // What is putted with is seen where it lies, and somebody has to putt.
    let putts = |d: &&Disc| d.spec.used_for == Use::Putting;
    let stays = |d: &Disc, home: &[StaysHome]| home.iter().any(|s| s.disc_id == d.id);
    if at_hand().filter(putts).all(|d| stays(d, &stays_home)) {
        stays_home.retain(|s| !at_hand().filter(putts).any(|d| d.id == s.disc_id));
    }
    let could_come = at_hand().count() - stays_home.len();
    let wishes = Wishes {
        event_cap_g,
        school: Some(School::Lean),
        pegs: true,
        disc_strokes: LEAN_STROKES,
        mould_strokes: Some(0.0),
        without: stays_home.iter().map(|s| s.disc_id).collect(),
        ..Wishes::of_size(capacity.min(LEAN_SIZE))
    };
    LeanWishes { wishes, stays_home, could_come }
}

/// Whether a colour is found again on a cover.
fn shows(colour: &str, cover: Cover) -> bool {
    let Some(of_disc) = Lab::of_hex(colour) else { return true };
    cover.colours().iter().filter_map(|ground| Lab::of_hex(ground)).all(|g| of_disc.apart(g) >= SHOWS_FROM)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    /// Common practice, no source: orange is lost in autumn leaves and white in snow; blue and pink show.
    #[rstest]
    #[case("#ff7f2a", Cover::Leaves, false)]
    #[case("#ffffff", Cover::Snow, false)]
    #[case("#e8e4d8", Cover::Snow, false)]
    #[case("#ffffff", Cover::Leaves, true)]
    #[case("#ff7f2a", Cover::Snow, true)]
    #[case("#1976d2", Cover::Snow, true)]
    #[case("#1976d2", Cover::Leaves, true)]
    #[case("#ff4fa3", Cover::Snow, true)]
    #[case("#ff4fa3", Cover::Leaves, true)]
    #[case("#4a8f3b", Cover::Grass, false)]
    #[case("#ff4fa3", Cover::Grass, true)]
    fn trade_what_shows_on_what(#[case] colour: &str, #[case] cover: Cover, #[case] seen: bool) {
        assert_eq!(shows(colour, cover), seen);
    }
}
