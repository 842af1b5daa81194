//! One disc on one line at one arm: its throws about a centre, flown to where they come to rest and judged.

use std::sync::LazyLock;

use statrs::distribution::{ContinuousCDF, Normal};
use zinc_kite_flight::air::{Air, Wind};
use zinc_kite_flight::batch::{fly_all, fly_roughly};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::ground::Contact;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::{self, Release};
use zinc_kite_flight::scatter::{AIM, DIMENSIONS, FARTHEST_ERROR, Spread, aim_given_others, deviates};
use zinc_kite_flight::settle::{settle_all, settle_with_path};

use crate::chance::answer::{Chance, Chosen, JUDGED_ON, MissShare, NoRelease, PerilShare};
use crate::chance::memo::Fingerprint;
use crate::chance::points::{Points, SHAPING, Shift};
use crate::chance::reach::{Grain, POWERS, Reach, Shape};
use crate::disc::thrown::Thrown;
use crate::need::limits::{Danger, Judged, Limits, Turn};
use crate::need::line::{Landing, LineSpec};
use crate::thrower::arm::Arm;

/// A throw that comes down this share of the way short or long at the table's nearest shape may reach the target all the
/// same, by angles between those of the table; one by the second share only where no other comes nearer.
const SLACKS: [f64; 2] = [0.2, 0.5];

/// In wind a turn of aim is more than a turn, and is believed only this share as far as a move of what shapes a flight, both in
/// standard deviations. Own: 0.3 and 1 lost more.
const TURNED: f64 = 0.5;

/// Both ends of a range and the multiples of `step` between them: a wider range has all that a narrower one has but its ends.
fn stops(low: f64, high: f64, step: f64) -> Vec<f64> {
    let inner = ((low / step).floor() as i64 + 1)..=((high / step).ceil() as i64 - 1);
    let mut stops = vec![low];
    stops.extend(inner.map(|k| step * k as f64));
    if high > low {
        stops.push(high);
    }
    stops
}

fn spaced(low: f64, high: f64, n: usize, k: usize) -> f64 {
    low + (high - low) * k as f64 / (n - 1) as f64
}

/// Aims that each throw is judged with: equally likely ones, its other errors given. What aim does need not be flown.
pub(crate) const LIKELY: usize = 8;

/// By how much the likely aims of each throw that is judged differ from the one it was flown with, in standard deviations of aim
/// toward the side to which its errors are counted.
fn likely_aims(style: release::Style) -> &'static [[f64; LIKELY]] {
    static AIMS: LazyLock<[Vec<[f64; LIKELY]>; release::Style::ALL.len()]> = LazyLock::new(|| {
        let normal = Normal::standard();
        let middles: [f64; LIKELY] =
            std::array::from_fn(|k| normal.inverse_cdf((k as f64 + 0.5) / LIKELY as f64));
        // The middles of equal shares lie nearer together than what they stand for.
        let wider = (LIKELY as f64 / middles.iter().map(|z| z * z).sum::<f64>()).sqrt();
        release::Style::ALL.map(|style| {
            let of = |z: &[f64; DIMENSIONS]| {
                let (mean, deviation) = aim_given_others(style, z);
                middles.map(|middle| {
                    mean + deviation * wider * middle - z[AIM].clamp(-FARTHEST_ERROR, FARTHEST_ERROR)
                })
            };
            deviates(style)[JUDGED_ON].iter().map(of).collect()
        })
    });
    &AIMS[style as usize]
}

/// Throws of several discs on one line at one arm, tried side by side: by themselves the few of each would leave many lanes of a
/// vector register empty. A flight comes out the same whatever flies beside it.
pub(crate) fn tried_together(throws: Vec<(&Shot, Vec<Throw>)>) -> Vec<Vec<Outcome>> {
    let Some((first, _)) = throws.first() else { return vec![] };
    let all: Vec<Throw> = throws.iter().flat_map(|(_, own)| own).copied().collect();
    let mut flights = fly_roughly(&all, &first.air, &first.gates).into_iter();
    let own = |(shot, own): &(&Shot, Vec<Throw>)| shot.at_rest(flights.by_ref().take(own.len()).collect());
    throws.iter().map(own).collect()
}

/// Where throws over power land: distance (m) and direction (degrees, left positive), shape by shape.
fn landings(flights: &[Outcome]) -> impl Iterator<Item = [(f64, f64); POWERS]> {
    let landing = |o: &Outcome| (o.distance_m(), o.y_m.atan2(o.x_m).to_degrees());
    flights.chunks_exact(POWERS).map(move |row| std::array::from_fn(|p| landing(&row[p])))
}

/// One disc, one line, one arm.
pub(crate) struct Shot<'a> {
    pub arm: &'a Arm,
    pub thrown: Thrown,
    pub line: &'a LineSpec,
    pub wind: Wind,
    pub gust_m_s: f64,
    pub air: Air,
    pub gates: Vec<f64>,
    pub limits: Limits,
}

/// A centre of throws under test.
#[derive(Clone, Copy)]
pub(crate) struct Centre {
    pub power: f64,
    pub hyzer_deg: f64,
    pub launch_deg: f64,
    pub nose_deg: f64,
    pub aim_deg: f64,
    /// Growth of distance with power, m per unit.
    pub slope: f64,
    pub score: f64,
}

impl Centre {
    /// Whether two are one throw but for their aim.
    pub(crate) fn is_thrown_as(&self, other: &Centre) -> bool {
        let thrown = |c: &Centre| [c.power, c.hyzer_deg, c.launch_deg, c.nose_deg];
        thrown(self) == thrown(other)
    }

    pub(crate) fn of(chosen: &Chosen) -> Centre {
        let Chosen { power, hyzer_deg, launch_deg, nose_deg, aim_deg, .. } = *chosen;
        Centre { power, hyzer_deg, launch_deg, nose_deg, aim_deg, slope: 0.0, score: 0.0 }
    }
}

impl Shot<'_> {
    pub(crate) fn release(&self, c: &Centre) -> Release {
        let flat = self.arm.release(self.line.style, self.thrown.speed, c.power);
        let height_m = flat.height_m - self.line.floor_m();
        Release {
            hyzer_deg: c.hyzer_deg,
            launch_deg: c.launch_deg,
            nose_deg: c.nose_deg,
            aim_deg: c.aim_deg,
            height_m,
            ..flat
        }
    }

    /// The nose angle of the style, as near as the line allows.
    fn usual_nose_deg(&self) -> f64 {
        let (least, greatest) = self.line.noses_deg();
        self.style().usual_nose_deg().clamp(least, greatest)
    }

    pub(crate) fn style(&self) -> release::Style {
        self.line.style.into()
    }

    /// +1 where this throw fades to the left: all that is tried is tried in the thrower's own sense.
    pub(crate) fn side(&self) -> f64 {
        self.arm.natural_side(self.line.style)
    }

    pub(crate) fn spread(&self, c: &Centre) -> Spread {
        let wet = if self.arm.wet { self.thrown.wet_spread } else { 1.0 };
        self.arm
            .spread(self.line.style, self.thrown.speed, c.power)
            .scaled(self.line.footing_spread(self.arm.wet) * wet)
    }

    /// Throws flown to where they come to rest.
    pub(crate) fn flown(&self, throws: &[Throw]) -> Vec<Outcome> {
        self.at_rest(fly_all(throws, &self.air, &self.gates))
    }

    /// The same for throws that are tried: what is found by them is flown again.
    pub(crate) fn tried(&self, throws: &[Throw]) -> Vec<Outcome> {
        self.at_rest(fly_roughly(throws, &self.air, &self.gates))
    }

    fn at_rest(&self, mut flights: Vec<Outcome>) -> Vec<Outcome> {
        if self.line.landing != Landing::Basket {
            let touches = if self.limits.has_water() { flights.clone() } else { vec![] };
            let contact = self.thrown.contact(self.line.ground, &self.air);
            settle_all(&mut flights, &contact, &self.gates);
            for (flight, touch) in flights.iter_mut().zip(touches) {
                self.stop_in_water(flight, touch, &contact);
            }
        }
        flights
    }

    /// What falls into water stays where it fell, and what rolls into it where it came to it.
    fn stop_in_water(&self, flight: &mut Outcome, mut touch: Outcome, contact: &Contact) {
        let wet = |x_m: f64, y_m: f64| self.limits.is_water(x_m, y_m);
        if wet(touch.x_m, touch.y_m) {
            (flight.x_m, flight.y_m, flight.run_m) = (touch.x_m, touch.y_m, 0.0);
        } else if flight.rolled {
            let flown = touch.crossings;
            let (_, way) = settle_with_path(&mut touch, contact);
            let (mut run_m, mut far_m) = (0.0, way[0].x_m);
            for step in way.windows(2) {
                run_m += (step[1].x_m - step[0].x_m).hypot(step[1].y_m - step[0].y_m);
                far_m = far_m.max(step[1].x_m);
                if wet(step[1].x_m, step[1].y_m) {
                    (flight.x_m, flight.y_m, flight.run_m) = (step[1].x_m, step[1].y_m, run_m);
                    // It never came to the gates behind.
                    for (k, _) in self.gates.iter().enumerate().filter(|(_, at_m)| **at_m > far_m) {
                        flight.crossings.set(k, flown.get(k));
                    }
                    break;
                }
            }
        }
    }

    pub(crate) fn throw(&self, release: Release) -> Throw {
        Throw { disc: self.thrown.body, release, wind: self.wind }
    }

    /// All that a table depends on but its grain.
    pub(crate) fn table_key(&self) -> Fingerprint {
        let line = self.line;
        let (low, high) = line.powers();
        let noses = line.noses_deg();
        let full = self.arm.release(line.style, self.thrown.speed, 1.0);
        Fingerprint::default()
            .numbers(&self.thrown.body.coefficients.to_array())
            .numbers(&[self.thrown.body.mass_kg, self.thrown.body.inertia_kg_m2, self.thrown.body.radius_m])
            .numbers(&[self.thrown.rim.softness, self.thrown.rim.wear, self.thrown.rim.width_m])
            .numbers(&[line.ground as u8 as f64, line.landing as u8 as f64, line.style as u8 as f64])
            .numbers(&[full.speed_m_s, full.spin_rad_s, self.arm.natural_side(line.style)])
            .numbers(&[self.air.density_kg_m3, f64::from(u8::from(self.air.shears()))])
            .numbers(&[self.wind.along_m_s, self.wind.left_m_s])
            .numbers(&[low, high, line.hyzer_min_deg, line.hyzer_max_deg])
            .numbers(&[line.launch_min_deg, line.launch_max_deg, noses.0, noses.1])
            .numbers(&line.lie_of_the_land())
    }

    /// The key of a chance, from that of its table and all that it depends on beside.
    pub(crate) fn line_key(&self, table: Fingerprint) -> u64 {
        let l = self.line;
        let s = self.arm.spread(l.style, self.thrown.speed, 1.0);
        let wet = if self.arm.wet { self.thrown.wet_spread } else { 0.0 };
        let mut key = table
            .numbers(&[l.distance_m, l.zone_length_m, l.zone_width_m, self.thrown.speed])
            .numbers(&[s.speed, s.hyzer_deg, s.launch_deg, s.nose_deg, s.aim_deg])
            .numbers(&[l.footing as u8 as f64, self.gust_m_s, wet])
            .number(f64::from(u8::from(l.open_ended)))
            .number(if l.things.is_empty() { 0.0 } else { l.strokes_of_a_miss() })
            .option(l.ceiling_m)
            .option(l.fastest_speed);
        for g in &l.gates {
            key = key.numbers(&[g.at_m, g.right_edge_m, g.left_edge_m]).option(g.ceiling_m).option(g.floor_m);
        }
        key.key()
    }

    /// The shapes of throw of the table of a grain: hyzer and launch, degrees.
    fn shapes(&self, grain: Grain) -> Vec<(f64, f64)> {
        let line = self.line;
        let (hyzer_step_deg, launch_step_deg) = grain.steps_deg();
        let launches = stops(line.launch_min_deg, line.launch_max_deg, launch_step_deg);
        stops(line.hyzer_min_deg, line.hyzer_max_deg, hyzer_step_deg)
            .into_iter()
            .flat_map(|hyzer| launches.iter().map(move |launch| (hyzer, *launch)))
            .collect()
    }

    /// The table of a grain; what a coarser one `known` tells is not flown again.
    pub(crate) fn reach(&self, grain: Grain, known: Option<&Reach>) -> Reach {
        let shapes = self.shapes(grain);
        let known = |shape| known.and_then(|table| table.landings(shape));
        let new: Vec<(f64, f64)> = shapes.iter().copied().filter(|shape| known(*shape).is_none()).collect();
        let flights = self.tried(&self.thrown_over_power(&new));
        let mut flown = landings(&flights);
        let shape = |(hyzer_deg, launch_deg)| {
            let landings = known((hyzer_deg, launch_deg)).or_else(|| flown.next())?;
            Some(Shape { hyzer_deg, launch_deg, landings })
        };
        Reach { shapes: shapes.into_iter().filter_map(shape).collect() }
    }

    /// The coarse tables of several discs, see [`tried_together`].
    pub(crate) fn coarse_reaches(shots: &[&Shot]) -> Vec<Reach> {
        let shapes: Vec<Vec<(f64, f64)>> = shots.iter().map(|shot| shot.shapes(Grain::Coarse)).collect();
        let throws = shots.iter().zip(&shapes).map(|(shot, shapes)| (*shot, shot.thrown_over_power(shapes)));
        let flights = tried_together(throws.collect());
        let table = |(shapes, flights): (Vec<(f64, f64)>, Vec<Outcome>)| {
            let shape = |((hyzer_deg, launch_deg), landings)| Shape { hyzer_deg, launch_deg, landings };
            Reach { shapes: shapes.into_iter().zip(landings(&flights)).map(shape).collect() }
        };
        shapes.into_iter().zip(flights).map(table).collect()
    }

    /// Throws of some shapes (hyzer and launch, degrees), each over power.
    fn thrown_over_power(&self, shapes: &[(f64, f64)]) -> Vec<Throw> {
        let (low, high) = self.line.powers();
        let nose_deg = self.usual_nose_deg();
        let throw = |(power, hyzer_deg, launch_deg)| {
            let centre =
                Centre { power, hyzer_deg, launch_deg, nose_deg, aim_deg: 0.0, slope: 0.0, score: 0.0 };
            self.throw(self.release(&centre))
        };
        let over_power = |&(hyzer, launch): &(f64, f64)| {
            (0..POWERS).map(move |p| (spaced(low, high, POWERS, p), hyzer, launch))
        };
        let mut throws = Vec::with_capacity(shapes.len() * POWERS);
        throws.extend(shapes.iter().flat_map(over_power).map(throw));
        throws
    }

    /// The power at which each shape lands at the target, with the aim for it.
    pub(crate) fn centres(&self, reach: &Reach) -> Result<Vec<Centre>, NoRelease> {
        let within = SLACKS.iter().map(|slack| self.centres_within(reach, *slack));
        if let Some(centres) = within.into_iter().find(|c| !c.is_empty()) {
            return Ok(centres);
        }
        let nearest_m = reach.distances().fold(f64::INFINITY, f64::min);
        Err(self.out_of_reach(reach).unwrap_or(NoRelease::TooNear { nearest_m }))
    }

    fn centres_within(&self, reach: &Reach, slack: f64) -> Vec<Centre> {
        let d = self.line.rest_at_m();
        let open = self.line.open_ended;
        let near = self.line.reach_m() + slack * d;
        let (low, high) = self.line.powers();
        let step = (high - low) / (POWERS - 1) as f64;
        let mut centres = Vec::new();
        for shape in &reach.shapes {
            let r = &shape.landings;
            let centre = |power: f64, aim_deg: f64, slope: f64| Centre {
                power,
                hyzer_deg: shape.hyzer_deg,
                launch_deg: shape.launch_deg,
                nose_deg: self.usual_nose_deg(),
                aim_deg,
                slope: slope.max(20.0),
                score: 0.0,
            };
            // Into a strong wind a harder throw can come down sooner.
            let between = |k: &usize| (r[*k].0 <= d) == (d < r[*k + 1].0);
            if let Some(k) = (0..POWERS - 1).find(between) {
                let share = (d - r[k].0) / (r[k + 1].0 - r[k].0);
                let aim = r[k].1 + share * (r[k + 1].1 - r[k].1);
                centres.push(centre(low + step * (k as f64 + share), -aim, (r[k + 1].0 - r[k].0) / step));
                if open {
                    // Past the target is no worse: the whole arm is another way.
                    centres.push(centre(high, -r[POWERS - 1].1, (r[POWERS - 1].0 - r[POWERS - 2].0) / step));
                }
            } else if r[POWERS - 1].0 <= d && d - r[POWERS - 1].0 < near {
                let slope = (r[POWERS - 1].0 - r[POWERS - 2].0) / step;
                centres.push(centre(high, -r[POWERS - 1].1, slope));
            } else if r[0].0 >= d && r[0].0 - d < near {
                centres.push(centre(low, -r[0].1, (r[1].0 - r[0].0) / step));
            }
        }
        centres
    }

    /// Why no throw of the table comes down in the zone, if none does.
    pub(crate) fn out_of_reach(&self, reach: &Reach) -> Option<NoRelease> {
        let (d, half) = (self.line.rest_at_m(), self.line.reach_m());
        let farthest_m = reach.distances().fold(0.0, f64::max);
        let nearest_m = reach.distances().fold(f64::INFINITY, f64::min);
        if farthest_m < d - half {
            Some(NoRelease::TooFar { farthest_m })
        } else if nearest_m > d + half && !self.line.open_ended {
            Some(NoRelease::TooNear { nearest_m })
        } else {
            None
        }
    }

    /// The throws about centres that points tell of, those about the first of them first.
    pub(crate) fn scattered<const N: usize>(&self, centres: &[Centre], points: &Points<N>) -> Vec<Throw> {
        let mut throws = Vec::with_capacity(N * centres.len());
        for c in centres {
            let (throw, spread) = (self.throw(self.release(c)), self.spread(c));
            throws.extend(points.drawn_in.iter().map(|z| spread.displace(&throw, self.gust_m_s, z)));
        }
        throws
    }

    /// The centre after a move, kept within what the line allows.
    pub(crate) fn moved(&self, c: &Centre, shift: &Shift) -> Centre {
        let (line, spread) = (self.line, self.spread(c));
        let (low, high) = line.powers();
        let (least, greatest) = line.noses_deg();
        let [speed, hyzer, launch, nose] = shift.shape;
        Centre {
            power: (c.power * (1.0 + spread.speed * speed)).clamp(low, high),
            hyzer_deg: (c.hyzer_deg + spread.hyzer_deg * hyzer).clamp(line.hyzer_min_deg, line.hyzer_max_deg),
            launch_deg: (c.launch_deg + spread.launch_deg * launch)
                .clamp(line.launch_min_deg, line.launch_max_deg),
            nose_deg: (c.nose_deg + spread.nose_deg * nose).clamp(least, greatest),
            aim_deg: c.aim_deg + shift.aim_deg,
            ..*c
        }
    }

    /// How far a centre may be moved within what the line allows, and no more than `farthest` standard deviations.
    pub(crate) fn room_to_move(&self, c: &Centre, farthest: f64) -> RoomToMove {
        let (line, spread) = (self.line, self.spread(c));
        let (low, high) = line.powers();
        let (least, greatest) = line.noses_deg();
        let within = |low: f64, at: f64, high: f64, deviation: f64| {
            [((low - at) / deviation).clamp(-farthest, 0.0), ((high - at) / deviation).clamp(0.0, farthest)]
        };
        RoomToMove {
            shape: [
                within(low, c.power, high, spread.speed * c.power),
                within(line.hyzer_min_deg, c.hyzer_deg, line.hyzer_max_deg, spread.hyzer_deg),
                within(line.launch_min_deg, c.launch_deg, line.launch_max_deg, spread.launch_deg),
                within(least, c.nose_deg, greatest, spread.nose_deg),
            ],
            aim_deg: if self.wind == Wind::CALM { f64::INFINITY } else { TURNED * farthest * spread.aim_deg },
        }
    }

    /// The move that leads from one centre to another.
    pub(crate) fn shift_between(&self, from: &Centre, to: &Centre) -> Shift {
        let spread = self.spread(from);
        Shift {
            shape: [
                (to.power / from.power - 1.0) / spread.speed,
                (to.hyzer_deg - from.hyzer_deg) / spread.hyzer_deg,
                (to.launch_deg - from.launch_deg) / spread.launch_deg,
                (to.nose_deg - from.nose_deg) / spread.nose_deg,
            ],
            aim_deg: to.aim_deg - from.aim_deg,
        }
    }

    /// A centre flown with the scatter that it is judged on.
    pub(crate) fn cloud(&self, c: &Centre) -> Vec<Outcome> {
        let throw = self.throw(self.release(c));
        self.flown(&self.spread(c).scattered(&throw, self.gust_m_s, JUDGED_ON))
    }

    /// Every throw of a cloud flown at the points it is judged on (with the share `left` of its errors of aim) as it does under each
    /// of its [`LIKELY`] aims. What water has stopped is judged as it was flown: turned, it would have stopped elsewhere.
    pub(crate) fn judged(
        &self,
        cloud: &[Outcome],
        spread: &Spread,
        left: f64,
    ) -> impl Iterator<Item = [Judged; LIKELY]> {
        let deg = if self.limits.has_water() { 0.0 } else { left * self.side() * spread.aim_deg };
        let aims = &likely_aims(self.style())[..cloud.len()];
        cloud
            .iter()
            .zip(aims)
            .map(move |(o, aims)| aims.map(|a| self.limits.judge_turned(o, &Turn::by(deg * a))))
    }

    /// The chance of a centre whose cloud makes the line as often, and ends on each ground that costs more as often, as is `worked_out`;
    /// if nothing was, both are counted. What goes wrong is counted, and scaled to what is not made.
    pub(crate) fn verdict(
        &self,
        centre: &Centre,
        cloud: &[Outcome],
        worked_out: Option<(f64, Vec<f64>)>,
    ) -> Chance {
        let judged = || cloud.iter().map(|o| self.limits.judge(o));
        let mut misses: Vec<MissShare> = Vec::new();
        for miss in judged().filter_map(|j| j.miss) {
            match misses.iter_mut().find(|m| m.miss == miss) {
                Some(m) => m.share += 1.0,
                None => misses.push(MissShare { miss, share: 1.0 }),
            }
        }
        let missed: f64 = misses.iter().map(|m| m.share).sum();
        let throws = cloud.len() as f64;
        let counted = || {
            let lies_in = |thing: usize| judged().filter(|j| j.danger.is_some_and(|d| d.0 == thing)).count();
            let shares = self.limits.dangers.iter().map(|d| lies_in(d.thing) as f64 / throws);
            (1.0 - missed / throws, shares.collect())
        };
        let (chance, ends_in) = worked_out.unwrap_or_else(counted);
        if misses.is_empty() && chance < 1.0 {
            // So few miss that none of these did: the likeliest are those that have least room.
            let closest = judged().min_by(|a, b| a.margin_m.total_cmp(&b.margin_m));
            misses.extend(closest.and_then(|j| j.tightest).map(|miss| MissShare { miss, share: 1.0 }));
        }
        let each = (1.0 - chance) / missed.max(1.0);
        misses.iter_mut().for_each(|m| m.share *= each);
        let peril = |(d, share): (&Danger, f64)| PerilShare { thing: d.thing, peril: d.peril, share };
        let mut perils: Vec<PerilShare> =
            self.limits.dangers.iter().zip(ends_in).map(peril).filter(|p| p.share > 0.0).collect();
        misses.sort_by(|a, b| b.share.total_cmp(&a.share));
        perils.sort_by(|a, b| b.share.total_cmp(&a.share));
        let miss_strokes = self.line.strokes_of_a_miss();
        let price = |p: &PerilShare| self.line.things[p.thing].price();
        let dearer: f64 = perils.iter().map(|p| p.share * price(p).0).sum();
        let costs_strokes = miss_strokes * (1.0 - chance) + dearer;
        Chance {
            chance,
            lost: perils.iter().map(|p| p.share * price(p).1).sum(),
            costs_strokes,
            worth: if perils.is_empty() { chance } else { (1.0 - costs_strokes / miss_strokes).max(0.0) },
            perils,
            chosen: Some(Chosen {
                power: centre.power,
                speed_m_s: self.release(centre).speed_m_s,
                hyzer_deg: centre.hyzer_deg,
                launch_deg: centre.launch_deg,
                nose_deg: centre.nose_deg,
                aim_deg: centre.aim_deg,
            }),
            no_release: None,
            misses,
        }
    }
}

/// How far a centre may be moved: least and greatest in each of what shapes a flight, standard deviations, and in aim, degrees to
/// either side.
pub(crate) struct RoomToMove {
    shape: [[f64; 2]; SHAPING],
    aim_deg: f64,
}

impl RoomToMove {
    /// A move, cut to what is allowed.
    pub(crate) fn kept(&self, mut shift: Shift) -> Shift {
        shift.shape.iter_mut().zip(&self.shape).for_each(|(s, [low, high])| *s = s.clamp(*low, *high));
        shift.aim_deg = shift.aim_deg.clamp(-self.aim_deg, self.aim_deg);
        shift
    }
}

pub(crate) fn best_first(a: &Centre, b: &Centre) -> std::cmp::Ordering {
    b.score.total_cmp(&a.score)
}

pub(crate) fn shot<'a>(arm: &'a Arm, thrown: Thrown, line: &'a LineSpec) -> Shot<'a> {
    let (wind, gust_m_s) = (line.wind(arm.wind), arm.gust_m_s * (1.0 - line.lee));
    let limits = Limits::of(line);
    let air = arm.air.above(line.floor_m()).over(line.terrain());
    Shot {
        arm,
        thrown,
        line,
        wind,
        gust_m_s,
        air: if wind == Wind::CALM && gust_m_s == 0.0 { air.still() } else { air },
        gates: limits.gate_distances(),
        limits,
    }
}
