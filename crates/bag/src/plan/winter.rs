//! A lean bag for the cold part of the year, as wishes to the builder: discs one can afford to lose, that show on the ground, and
//! that do not crack. All of it is common practice, no source.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::colour::{Cover, shows};
use crate::disc::keeping::Tie;
use crate::disc::mould::{Mould, Supply};
use crate::disc::spec::{Disc, DiscId, Use};
use crate::plan::build::{LEAN_STROKES, Wishes};
use crate::thrower::player::School;

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
