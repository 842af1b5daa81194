//! The copies of a mould from fresh to beat: who moves down when, what is to be kept in reserve, which goes over water.

use jiff::civil::Date;
use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::keeping::{Status, Tie};
use crate::disc::mould::{Mould, Supply};
use crate::disc::spec::{DiscId, Use};
use crate::disc::wear::throws_to;
use crate::need::peg::Peg;
use crate::thrower::calendar::days;
use crate::thrower::slot::Slot;
use crate::verdict::aging::bends::WORN_OUT;
use crate::verdict::aging::forecast::{Forecast, Wearing};
use crate::verdict::aging::life::grade_label;
use crate::verdict::aging::loss::IfLost;
use crate::verdict::aging::outlook::Year;
use crate::verdict::school::mould_of;
use crate::words::percent;

/// A peg as a stretch of finish angles.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct PegZone {
    /// The peg.
    pub peg: Peg,
    /// Name for people.
    pub label: &'static str,
    /// Least finish, degrees toward the natural fade side.
    pub least_deg: f64,
    /// Greatest.
    pub most_deg: f64,
}

/// One of several discs of a mould.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CopyAhead {
    /// The disc.
    pub disc_id: DiscId,
    /// Its name.
    pub name: String,
    /// Colour as #rrggbb.
    pub colour: String,
    /// Whether it is in the bag.
    pub is_carried: bool,
    /// Where it is in its life.
    pub status: Status,
    /// What it is carried for.
    pub used_for: Use,
    /// Share of all possible wear today, 0 to 1.
    pub wear_share: f64,
    /// The condition that comes nearest to that.
    pub condition: &'static str,
    /// Its peg today.
    pub peg: Option<Peg>,
    /// Its year ahead.
    pub forecast: Forecast,
}

/// A copy that comes to another peg within the year.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Move {
    /// The day, as likely earlier as later.
    #[schema(value_type = String, format = Date)]
    pub on: Date,
    /// The copy.
    pub disc_id: DiscId,
    /// From which peg.
    pub from: Peg,
    /// To which.
    pub to: Peg,
}

/// How long the copies of a mould last that cannot be had again easily.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Reserve {
    /// For how many years of play the copies that are owned are good.
    pub years: f64,
    /// How many more are needed for five years.
    pub more_copies: u32,
    /// The same in words.
    pub words: String,
}

/// The copy that may be lost.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WaterCopy {
    /// Which; none if none may.
    pub disc_id: Option<DiscId>,
    /// Why, in words.
    pub words: String,
}

/// The copies of a mould.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Family {
    /// Maker.
    pub maker: String,
    /// Mould.
    pub mould: String,
    /// The lane it is in.
    pub slot: Slot,
    /// Name of the lane.
    pub label: &'static str,
    /// How easily one can be had.
    pub supply: Supply,
    /// The pegs of its lane, the most stable first.
    pub zones: Vec<PegZone>,
    /// Its copies, the freshest first: all that are carried, and of those at home the freshest.
    pub copies: Vec<CopyAhead>,
    /// How many more there are at home.
    pub further: usize,
    /// Which of them come to another peg within the year, in order.
    pub moves: Vec<Move>,
    /// How long they last, for a mould that is hard to have again.
    pub reserve: Option<Reserve>,
    /// Which goes over water.
    pub water: WaterCopy,
}

/// More copies of a mould are not told of one by one.
const MOST_COPIES: usize = 12;
/// Years for which a mould that is hard to have again should be owned. Own judgement.
const RESERVE_YEARS: f64 = 5.0;
/// What a degree of finish further from the usual copy counts for against strokes, when one is taken over water. Own judgement.
const STROKES_A_DEGREE: f64 = 0.005;

/// The families of a year, in the order of their lanes, those with carried discs first.
pub(super) fn families(year: &Year, moulds: &[Mould], days: &[Date], lost: &[IfLost]) -> Vec<Family> {
    let mut order: Vec<&Wearing> = year.all().iter().collect();
    order.sort_by(|a, b| a.share.total_cmp(&b.share).then(a.disc.id.cmp(&b.disc.id)));
    let mut groups: Vec<Vec<&Wearing>> = Vec::new();
    for disc in order {
        match groups.iter_mut().find(|g| mould_of(g[0].disc) == mould_of(disc.disc)) {
            Some(group) => group.push(disc),
            None => groups.push(vec![disc]),
        }
    }
    groups.retain(|g| g.len() > 1 || g[0].is_carried);
    let speed = |g: &[&Wearing]| g[0].disc.spec.printed.speed;
    let carried = |g: &[&Wearing]| g.iter().any(|w| w.is_carried);
    groups.sort_by(|a, b| {
        carried(b)
            .cmp(&carried(a))
            .then(speed(a).total_cmp(&speed(b)))
            .then_with(|| mould_of(a[0].disc).cmp(&mould_of(b[0].disc)))
    });
    groups.iter().map(|group| family(year, moulds, days, lost, group)).collect()
}

fn family(year: &Year, moulds: &[Mould], days: &[Date], lost: &[IfLost], copies: &[&Wearing]) -> Family {
    let player = year.q.player;
    let spec = &copies[0].disc.spec;
    let slot = player.lane(spec.class.unwrap_or(Slot::of_speed(spec.printed.speed)));
    let school = player.school_of(slot);
    let zone = |peg: &Peg| {
        let (least_deg, most_deg) = peg.window_deg(school);
        PegZone { peg: *peg, label: peg.label(), least_deg, most_deg }
    };
    let supply = moulds.iter().find(|m| m.spec.is_of(spec)).map_or(Supply::Ready, |m| m.spec.supply);
    // The freshest at home, as far as the carried ones leave room.
    let mut room = MOST_COPIES.saturating_sub(copies.iter().filter(|w| w.is_carried).count());
    let mut has_room = || {
        let had = room > 0;
        room = room.saturating_sub(1);
        had
    };
    let told: Vec<&&Wearing> = copies.iter().filter(|w| w.is_carried || has_room()).collect();
    let mut moves: Vec<Move> = told.iter().flat_map(|w| moves(year, w)).collect();
    moves.sort_by_key(|m| m.on);
    let copy = |w: &&&Wearing| CopyAhead {
        disc_id: w.disc.id,
        name: w.disc.spec.name.clone(),
        colour: w.disc.spec.colour.clone(),
        is_carried: w.is_carried,
        status: w.disc.spec.keeping.status,
        used_for: w.disc.spec.used_for,
        wear_share: w.share,
        condition: grade_label(w.share),
        peg: w.bends.peg(w.share),
        forecast: w.forecast(year.today, days, year.times_a_week(w)),
    };
    Family {
        maker: spec.maker.clone(),
        mould: spec.mould.clone(),
        slot,
        label: slot.label(),
        supply,
        zones: Peg::of_school(school).iter().map(zone).collect(),
        copies: told.iter().map(copy).collect(),
        further: copies.len() - told.len(),
        moves,
        reserve: (supply != Supply::Ready).then(|| reserve(year, supply, copies)).flatten(),
        water: water(copies, supply, lost),
    }
}

/// Every peg that a copy comes to within the year.
fn moves(year: &Year, copy: &Wearing) -> Vec<Move> {
    let mut moves = Vec::new();
    let mut at = copy.share;
    while let (Some(from), Some((share, to))) = (copy.bends.peg(at), copy.bends.leaves(at)) {
        let thrown = throws_to(share, copy.life.throws) - throws_to(copy.share, copy.life.throws);
        let Some(on) = copy.pace.reached(year.today, thrown).filter(|on| *on <= year.until) else { break };
        moves.push(Move { on, disc_id: copy.disc.id, from, to });
        at = share;
    }
    moves
}

/// How long copies last one after another on the peg of the one that is thrown most.
fn reserve(year: &Year, supply: Supply, copies: &[&Wearing]) -> Option<Reserve> {
    let a_year = |w: &Wearing| w.pace.between(year.today, year.until) * 365.25 / days(year.today, year.until);
    let most = copies.iter().filter(|w| w.is_carried).max_by(|a, b| a_year(a).total_cmp(&a_year(b)))?;
    let peg = most.bends.peg(most.share)?;
    // Throws until a copy has come to the peg and left it again.
    let good_for = |w: &Wearing, share: f64| {
        let Some(comes) = w.bends.comes_to(share, peg) else { return 0.0 };
        let leaves = w.bends.leaves(comes).map_or(WORN_OUT, |(leaves, _)| leaves);
        throws_to(leaves, w.life.throws) - throws_to(share, w.life.throws)
    };
    let thrown = a_year(most);
    if thrown <= 0.0 {
        return None;
    }
    let years = copies.iter().map(|w| good_for(w, w.share)).sum::<f64>() / thrown;
    let of_a_fresh_one = good_for(most, 0.0) / thrown;
    let more_copies = match of_a_fresh_one > 0.0 {
        true => ((RESERVE_YEARS - years) / of_a_fresh_one).ceil().clamp(0.0, 20.0) as u32,
        false => 0,
    };
    let rare = match supply {
        Supply::OutOfProduction => "No longer made",
        Supply::HardToFind | Supply::Ready => "Hard to find",
    };
    let owned = copies.len();
    let good = match years {
        y if y > 10.0 => "more than ten years".to_owned(),
        y if y < 1.0 => format!("{:.0} months", 12.0 * y),
        y => format!("{y:.1} years"),
    };
    let more = match more_copies {
        0 => "Enough for five years.".to_owned(),
        1 => "One more is needed for five years.".to_owned(),
        n => format!("{n} more are needed for five years."),
    };
    let copies = if owned == 1 { "your one copy is".to_owned() } else { format!("your {owned} copies are") };
    let words = format!("{rare}: {copies} good for {good} as a {} at this use. {more}", peg.label());
    Some(Reserve { years, more_copies, words })
}

/// The copy that is missed least over water: one meant for it, else one without ties that flies most like the usual one.
fn water(copies: &[&Wearing], supply: Supply, lost: &[IfLost]) -> WaterCopy {
    let tied = |w: &&&Wearing, tie: Tie| w.disc.spec.keeping.ties.contains(&tie);
    let at_hand = || copies.iter();
    if let Some(copy) = at_hand().find(|w| tied(w, Tie::WaterDisc)) {
        let words = format!("{} is your water disc: take it over water.", copy.disc.spec.name);
        return WaterCopy { disc_id: Some(copy.disc.id), words };
    }
    let usual = at_hand()
        .filter(|w| w.is_carried)
        .max_by(|a, b| a.usage.throws_a_round.total_cmp(&b.usage.throws_a_round));
    let finish = |w: &Wearing| w.bends.at(w.share).finish_deg;
    let like = usual.map_or(0.0, |w| finish(w));
    let missed = |w: &Wearing| lost.iter().find(|l| l.disc_id == w.disc.id).map_or(0.0, |l| l.strokes);
    let costs = |w: &&&Wearing| missed(w) + STROKES_A_DEGREE * (finish(w) - like).abs();
    let does_the_same = |w: &&&Wearing| usual.is_none_or(|u| u.disc.spec.used_for == w.disc.spec.used_for);
    let free = at_hand().filter(does_the_same).filter(|w| !w.disc.spec.keeping.is_dear());
    let free = free.filter(|_| supply == Supply::Ready);
    match free.min_by(|a, b| costs(a).total_cmp(&costs(b))) {
        None => WaterCopy { disc_id: None, words: "None may be lost: take another mould over water.".into() },
        Some(copy) => {
            let name = &copy.disc.spec.name;
            let words = match usual {
                Some(usual) if usual.disc.id == copy.disc.id && copies.len() == 1 => {
                    format!("{name} is the only copy: over water you risk what it does.")
                }
                Some(usual) if usual.disc.id == copy.disc.id => {
                    format!("{name} is missed least: take it over water.")
                }
                _ => format!("{name}, {} worn, is missed least: take it over water.", percent(copy.share)),
            };
            WaterCopy { disc_id: Some(copy.disc.id), words }
        }
    }
}
