//! Reading a throw: which error of the release made it do what it did? Thousands of flights about what was meant are weighed by how well
//! they go with what was seen: each has one error of some size on top of a release that is steadier than the player's usual one.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::batch::fly_with_paths;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::scatter::{DIMENSIONS, RELEASE_ERRORS, Spread, deviates};
use zinc_kite_flight::settle::settle_with_path;

use crate::disc::spec::Disc;
use crate::disc::thrown::{Thrown, thrown};
use crate::error::BagError;
use crate::field::emulator::turn_side;
use crate::field::fault::{FAULTS, Fault};
use crate::field::meant::{MeantThrow, day_of, ends, ends_past, meant};
use crate::field::sight::{APEX, BY_EYE, SWING, TIME};
use crate::field::throw::{CameDown, FieldThrow, FirstWent, HowHigh, Measured, SeenFlight, ThrowTag};
use crate::range::throws::{Moment, Place};
use crate::thrower::arm::Arm;
use crate::thrower::player::Player;
use crate::thrower::style::Style;

/// How steady a release is beside its one error, as a share of the player's scatter. Own judgement: what is left over is the rest of it.
pub const STEADY: f64 = 0.4;
/// Sizes of each error that are flown, and throws of each size.
const SIZES: usize = 6;
pub(crate) const FLOWN: usize = 256;

/// How far off a measured rest may lie from a flight that explains it, m, and a guessed one: at the least and as a share of how far it
/// went. Own judgement: what the flights between the flown ones leave open, and how well people guess distances.
const MEASURED_M: f64 = 1.0;
const GUESSED: (f64, f64) = (3.0, 0.06);
/// How far off a skip by eye is: at the least, m, and as a share of it. Own judgement: most of all no two tufts are alike.
const SKIP: (f64, f64) = (3.0, 0.5);
/// Where it is looked which way a disc went first, as a share of the way it was meant to go; how far from the aim, as a share of that
/// way, it is to the left or right of it; and how blurred that is. Own judgement.
const LOOKED_AT: f64 = 0.4;
const ASIDE: (f64, f64) = (0.025, 0.0125);
/// From what height against the one that was meant on a throw is higher, as a logarithm, and how blurred that is. Own judgement.
const HIGHER: (f64, f64) = (0.22, 0.12);
/// From what lean on a disc comes down on an edge, degrees, and how blurred that is. Own judgement.
const EDGE_DEG: (f64, f64) = (15.0, 7.0);
/// What is told by a word is now and then the wrong word. Own judgement.
const WRONG_WORD: f64 = 0.03;
/// How much wider everything lies about a throw that none of the errors explains. Own judgement.
const WIDER: f64 = 4.0;
/// From how many of the steadier release's deviations on another error is told beside the first. Own judgement.
const TOLD_BESIDE: f64 = 0.9;

/// A reading of a throw.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FaultRead {
    /// What went wrong.
    pub fault: Fault,
    /// How likely, 0 to 1; all readings of a throw together 1.
    pub share: f64,
    /// How much of it: degrees, or percent of the speed.
    pub size: f64,
    /// In words.
    pub words: String,
    /// What to think of on the next throw.
    pub cue: &'static str,
}

/// A flight as it is drawn.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct DrawnFlight {
    /// Its path in the air.
    pub path: Vec<Moment>,
    /// Its way over the ground, from the first touch to where it came to rest; heights above the ground beneath.
    pub run: Vec<Moment>,
    /// Where it came to rest.
    pub rest: Place,
}

/// What a throw says of its release.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ThrowReading {
    /// Which side the disc turns to before it fades, the left if true.
    pub turns_left: bool,
    /// The throw as it was meant.
    pub meant: DrawnFlight,
    /// Its readings, the likeliest first; none as long as it is not told how far it went.
    pub readings: Vec<FaultRead>,
    /// The flight with the first reading's error that comes nearest to what was seen.
    pub flown: Option<DrawnFlight>,
}

/// What one flight shows.
#[derive(Clone, Copy)]
struct Look {
    at_m: f64,
    left_m: f64,
    /// Swing, apex, time in the air, run on the ground.
    figures: [f64; 4],
    /// How likely each word is for where it went first (right, straight, left), its height (lower, as meant, higher) and its landing (right
    /// edge, flat, left edge), as logarithms.
    words: [[f64; 3]; 3],
}

/// A throw as it was told, ready to be held against flights.
struct Told {
    rest: Option<(f64, f64)>,
    far_m: f64,
    /// One over how far off the rest may be, m.
    per_rest: f64,
    /// Those figures that were told, each with one over how far off it may be.
    figures: [Option<(f64, f64)>; 4],
    /// Which word was told of each.
    words: [Option<usize>; 3],
}

impl Told {
    fn of(throw: &FieldThrow, turn_side: f64) -> Told {
        let far_m = throw.distance_m.unwrap_or_default();
        let guessed = throw.has(ThrowTag::ByEye);
        let rest_sd = if guessed { GUESSED.0.hypot(GUESSED.1 * far_m) } else { MEASURED_M };
        let SeenFlight { swing_m, apex_m, time_s, skip_m, first, height, landed } = throw.seen;
        let by_eye =
            |figure: usize| BY_EYE.iter().find(|(k, ..)| *k == figure).map_or(SKIP, |(_, l, s)| (*l, *s));
        let told = |figure: Option<f64>, (least, share): (f64, f64)| {
            figure.map(|x| (x, 1.0 / least.hypot(share * x)))
        };
        Told {
            rest: throw.told_rest().map(|rest| (rest.at_m, rest.left_m)),
            far_m,
            per_rest: 1.0 / rest_sd,
            figures: [
                told(swing_m.map(|m| turn_side * (turn_side * m).max(0.0)), by_eye(SWING)),
                told(apex_m, by_eye(APEX)),
                told(time_s, by_eye(TIME)),
                told(skip_m, SKIP),
            ],
            words: [
                first.map(|it| match it {
                    FirstWent::Right => 0,
                    FirstWent::Straight => 1,
                    FirstWent::Left => 2,
                }),
                height.map(|it| match it {
                    HowHigh::Lower => 0,
                    HowHigh::AsMeant => 1,
                    HowHigh::Higher => 2,
                }),
                landed.map(|it| match it {
                    CameDown::RightEdge => 0,
                    CameDown::Flat => 1,
                    CameDown::LeftEdge => 2,
                }),
            ],
        }
    }

    /// How likely a flight that shows `look` is told so, everything `wider` times as blurred; up to a factor.
    fn likely(&self, look: &Look, wider: f64) -> f64 {
        let (mut square, mut log) = (0.0, 0.0);
        let mut off = |told: f64, flown: f64, per: f64| {
            square += ((told - flown) * per / wider).powi(2);
            log -= wider.ln();
        };
        match self.rest {
            Some((at_m, left_m)) => {
                off(at_m, look.at_m, self.per_rest);
                off(left_m, look.left_m, self.per_rest);
            }
            None => off(self.far_m, look.at_m.hypot(look.left_m), self.per_rest),
        }
        for (told, flown) in self.figures.iter().zip(look.figures) {
            told.iter().for_each(|(told, per)| off(*told, flown, *per));
        }
        for (told, words) in self.words.iter().zip(&look.words) {
            log += told.map_or(0.0, |k| words[k] / wider);
        }
        (log - 0.5 * square).exp()
    }
}

/// A curve from 0 to 1 about 0, much like the share of a normal deviate that lies below.
fn below(z: f64) -> f64 {
    1.0 / (1.0 + (-1.702 * z).exp())
}

/// How likely it is, as logarithms, that somebody says "less", "neither" or "more" of a figure, where more than `edge` is more.
fn said(figure: f64, (edge, blur): (f64, f64)) -> [f64; 3] {
    let (less, more) = (below((-edge - figure) / blur), below((figure - edge) / blur));
    [less, 1.0 - less - more, more].map(|p| (WRONG_WORD / 3.0 + (1.0 - WRONG_WORD) * p.max(0.0)).ln())
}

/// Flights of throws that are meant alike, by their error.
pub(crate) struct Flown {
    style: Style,
    turn_side: f64,
    meant: MeantThrow,
    /// Throws of each size.
    each: usize,
    /// Those of no error but with all the player's scatter.
    wide: Vec<Look>,
    /// Of each error those of its first size, then those of the next.
    by_fault: [Vec<Look>; FAULTS],
}

/// What an error is worth as a reading.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct Weighed {
    /// How likely what was told is with it, up to a factor.
    pub weight: f64,
    /// Its size in the mean.
    pub size: f64,
    /// The release's other errors in the mean, in deviations of the steadier release.
    others: [f64; RELEASE_ERRORS],
    /// The flight that comes nearest.
    best: usize,
}

/// The size of that number of an error.
fn size_of(fault: Fault, spread: &Spread, k: usize) -> f64 {
    let (least, most) = fault.sizes(spread);
    least + (most - least) * (k as f64 + 0.5) / SIZES as f64
}

/// The deviates of the flight of that number.
fn deviate_of(style: Style, flight: usize) -> &'static [f64; DIMENSIONS] {
    let all = deviates(style.into());
    &all[flight % all.len()]
}

impl Flown {
    /// Of throws that are meant as `throw` is, with a disc as it is held, `each` of each size of an error; aimed off by as much as the disc
    /// is thought to bend, or straight along the aim.
    pub fn of(
        player: &Player,
        Measured { session, throw }: Measured<'_>,
        aimed_off: bool,
        held: &Thrown,
        each: usize,
    ) -> Result<Flown, BagError> {
        let style = throw.style;
        let side = turn_side(player, style);
        let mut meant = meant(player, session, throw, held)?;
        let aim = ends(player, session, &meant, held, &[[0.0; DIMENSIONS]])?[0];
        if aimed_off {
            meant.throw.release.aim_deg -= aim.y_m.atan2(aim.x_m).to_degrees();
        }
        let gates = [LOOKED_AT * aim.distance_m()];
        let look = |flight: &Outcome| Look::of(flight, side, &aim);
        let fly = |meant: &MeantThrow, flights: std::ops::Range<usize>| -> Result<Vec<Look>, BagError> {
            let row: Vec<_> = flights.map(|k| *deviate_of(style, k)).collect();
            Ok(ends_past(player, session, meant, held, &row, &gates)?.iter().map(look).collect())
        };
        let wide = fly(&meant, 0..each)?;
        let mut by_fault: [Vec<Look>; FAULTS] = Default::default();
        for (fault, flown) in Fault::ALL.into_iter().zip(&mut by_fault) {
            let sizes = if fault.has_size() { SIZES } else { 1 };
            for k in 0..sizes {
                let with = with(&meant, fault, size_of(fault, &meant.spread, k), side);
                flown.extend(fly(&with, each * k..each * (k + 1))?);
            }
        }
        Ok(Flown { style, turn_side: side, meant, each, wide, by_fault })
    }

    /// How well each error goes with what was told of a throw.
    pub fn weigh(&self, throw: &FieldThrow) -> [Weighed; FAULTS] {
        let told = Told::of(throw, self.turn_side);
        std::array::from_fn(|k| match Fault::ALL[k] {
            Fault::Another => {
                let sum: f64 = self.wide.iter().map(|look| told.likely(look, WIDER)).sum();
                Weighed { weight: sum / self.wide.len() as f64, ..Weighed::default() }
            }
            fault => self.weigh_one(fault, &told, &self.by_fault[k]),
        })
    }

    fn weigh_one(&self, fault: Fault, told: &Told, looks: &[Look]) -> Weighed {
        let mut weighed = Weighed::default();
        let mut best = 0.0;
        for (k, look) in looks.iter().enumerate() {
            let likely = told.likely(look, 1.0);
            if likely > best {
                (best, weighed.best) = (likely, k);
            }
            weighed.weight += likely;
            weighed.size += likely * size_of(fault, &self.meant.spread, k / self.each);
            let others = weighed.others.iter_mut().zip(deviate_of(self.style, k));
            others.for_each(|(sum, z)| *sum += likely * z);
        }
        if weighed.weight > 0.0 {
            weighed.size /= weighed.weight;
            weighed.others.iter_mut().for_each(|z| *z /= weighed.weight);
        }
        weighed.weight /= looks.len() as f64;
        weighed
    }

    /// The throw with an error that comes nearest to what was told.
    fn nearest(&self, fault: Fault, weighed: &Weighed) -> Throw {
        let size = size_of(fault, &self.meant.spread, weighed.best / self.each);
        let with = with(&self.meant, fault, size, self.turn_side);
        with.spread.displace(&with.throw, with.gust_m_s, deviate_of(self.style, weighed.best))
    }
}

/// Throws with an error of a size on top of a steadier release.
fn with(meant: &MeantThrow, fault: Fault, size: f64, turn_side: f64) -> MeantThrow {
    let mut with = *meant;
    with.throw.release = fault.on(meant.throw.release, size, -turn_side);
    with.spread = meant.spread.scaled(STEADY);
    with
}

impl FaultRead {
    /// The readings of a throw in a style, the likeliest first, with how likely each error was before.
    pub(crate) fn all(style: Style, weighed: &[Weighed; FAULTS], before: &[f64; FAULTS]) -> Vec<FaultRead> {
        let shares = shares(weighed, before);
        let one = |k: usize| {
            let (fault, w) = (Fault::ALL[k], &weighed[k]);
            let words = format!("{}{}", fault.words(w.size), w.beside(fault));
            FaultRead { fault, share: shares[k], size: w.size, words, cue: fault.cue(style) }
        };
        let mut readings: Vec<FaultRead> = (0..FAULTS).map(one).collect();
        readings.sort_by(|a, b| b.share.total_cmp(&a.share));
        readings
    }
}

/// How likely each error is, all together 1.
pub(crate) fn shares(weighed: &[Weighed; FAULTS], before: &[f64; FAULTS]) -> [f64; FAULTS] {
    let all: [f64; FAULTS] = std::array::from_fn(|k| weighed[k].weight * before[k]);
    let total: f64 = all.iter().sum();
    // What nothing goes with is none of these.
    let nothing = || Fault::ALL.map(|fault| f64::from(u8::from(fault == Fault::Another)));
    if total > 0.0 { all.map(|x| x / total) } else { nothing() }
}

impl Weighed {
    /// The other error that goes with it, in words, if one stands out.
    fn beside(&self, fault: Fault) -> String {
        let Some((own, _)) = fault.error() else { return String::new() };
        let others = (0..RELEASE_ERRORS).filter(|at| *at != own);
        let most = others.max_by(|a, b| self.others[*a].abs().total_cmp(&self.others[*b].abs()));
        let told = most.filter(|at| self.others[*at].abs() >= TOLD_BESIDE);
        let other = told.and_then(|at| {
            Fault::ALL.into_iter().find(|f| f.error() == Some((at, self.others[at].signum())))
        });
        other.map_or_else(String::new, |other| format!(", {}", other.beside()))
    }
}

impl Look {
    fn of(flight: &Outcome, turn_side: f64, aim: &Outcome) -> Look {
        let swing_m = if turn_side < 0.0 { -flight.farthest_right_m } else { flight.farthest_left_m };
        let first_left_m = flight.crossings.get(0).map_or(flight.y_m, |c| f64::from(c.y_m));
        Look {
            at_m: flight.x_m,
            left_m: flight.y_m,
            figures: [swing_m, flight.apex_m, flight.time_s, flight.run_m],
            words: [
                said(first_left_m / aim.distance_m().max(1.0), ASIDE),
                said((flight.apex_m.max(0.1) / aim.apex_m.max(0.1)).ln(), HIGHER),
                said(flight.bank_deg(), EDGE_DEG),
            ],
        }
    }
}

/// What a throw of `disc` says of its release.
///
/// # Errors
/// [`BagError`] for a player, a disc or a throw outside its ranges.
pub fn read_throw(player: &Player, disc: &Disc, measured: Measured<'_>) -> Result<ThrowReading, BagError> {
    measured.throw.validate()?;
    let held = thrown(disc)?;
    let flown = Flown::of(player, measured, !measured.is_straight(), &held, FLOWN)?;
    let arm = Arm::of(player, &day_of(measured.session, &measured.throw.wind))?;
    let drawn = |throw: Throw| {
        let (mut flight, path) = fly_with_paths(&[throw], &arm.air).remove(0);
        let (_, run) = settle_with_path(&mut flight, &held.contact(measured.session.ground, &arm.air));
        DrawnFlight {
            path: path.iter().map(Moment::from).collect(),
            run: run.iter().map(Moment::from).collect(),
            rest: Place::from(&flight),
        }
    };
    let (mut readings, mut nearest) = (vec![], None);
    if measured.throw.distance_m.is_some() {
        let weighed = flown.weigh(measured.throw);
        readings = FaultRead::all(flown.style, &weighed, &Fault::ALL.map(Fault::before));
        let first = readings.first().filter(|first| first.fault != Fault::Another);
        nearest = first.map(|first| drawn(flown.nearest(first.fault, &weighed[first.fault as usize])));
    }
    Ok(ThrowReading {
        turns_left: flown.turn_side > 0.0,
        meant: drawn(flown.meant.throw),
        readings,
        flown: nearest,
    })
}
