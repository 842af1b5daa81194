//! Two sessions of the demo's player in the field, thrown by the simulator with her own scatter, so that they are of one piece with the
//! discs of her shelf.

use jiff::ToSpan;
use jiff::civil::Date;
use zinc_kite_bag::disc::spec::Disc;
use zinc_kite_bag::disc::thrown::thrown;
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::field::meant::{ends, meant};
use zinc_kite_bag::field::session::{FieldSession, Purpose};
use zinc_kite_bag::field::throw::{FieldThrow, Meant, WindThen};
use zinc_kite_bag::field::trial::{Candidate, Target, Trial, TrialSet, TrialWind};
use zinc_kite_bag::need::line::Ground;
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_flight::scatter::deviates;

use super::DemoError;
use crate::store::Store;
use crate::store::field::{KeptSession, KeptThrow};
use crate::store::given_key::GivenKey;

/// Throws of one disc, meant alike: disc, style, how, share of power in percent, how many.
type Set = (&'static str, Style, Meant, Option<f64>, usize);

/// Her drivers and a mid-range side by side, flat, and one of them on hyzer.
const LADDER: [Set; 5] = [
    ("Lintel", Style::Backhand, Meant::Flat, None, 5),
    ("Purlin", Style::Backhand, Meant::Flat, None, 6),
    ("Purlin", Style::Backhand, Meant::Hyzer, None, 5),
    ("Vernier", Style::Backhand, Meant::Flat, None, 6),
    ("Plinth", Style::Backhand, Meant::Flat, None, 6),
];

/// Approach discs at about 45 m in two styles.
const APPROACH: [Set; 6] = [
    ("Newel", Style::Backhand, Meant::Flat, Some(83.0), 6),
    ("Plumb", Style::Backhand, Meant::Flat, Some(95.0), 6),
    ("New Corbel", Style::Backhand, Meant::Flat, Some(86.0), 6),
    ("Newel", Style::Forehand, Meant::Flat, Some(94.0), 6),
    ("Plumb", Style::Forehand, Meant::Flat, Some(110.0), 6),
    ("New Corbel", Style::Forehand, Meant::Flat, Some(96.0), 6),
];

/// Her sessions: which, how many days ago, and what in it.
fn sessions(today: Date) -> [(KeptSession, Vec<Set>, WindThen); 2] {
    let session = |key: &str, place: &str, ago: i64, purpose, note: &str| KeptSession {
        key: GivenKey(key.to_owned()),
        spec: FieldSession {
            place: place.to_owned(),
            date: today.saturating_sub(ago.days()),
            purpose,
            temperature_c: Some(11.0),
            altitude_m: None,
            tee: None,
            aim_deg: Some(215.0),
            ground: Ground::Turf,
            wet: false,
            trial: None,
            note: note.to_owned(),
        },
    };
    [
        (
            session("demo-ladder", "Vell school field", 16, Purpose::Measuring, "all along the fence"),
            LADDER.to_vec(),
            WindThen { wind_m_s: 2.0, from_deg: 20.0 },
        ),
        (
            session("demo-approach", "Reservoir meadow", 5, Purpose::Trial, "which one for 45 m?"),
            APPROACH.to_vec(),
            WindThen { wind_m_s: 3.0, from_deg: 340.0 },
        ),
    ]
}

/// Throws of a session, set after set, each with the next of a fixed row of deviates.
fn throws(
    player: &Player,
    shelf: &[Disc],
    session: &KeptSession,
    sets: &[Set],
    wind: WindThen,
) -> Result<Vec<KeptThrow>, BagError> {
    let mut logged: Vec<KeptThrow> = Vec::new();
    for (name, style, how, power_pct, n) in sets {
        let Some(disc) = shelf.iter().find(|d| d.spec.name == *name) else { continue };
        let plain = FieldThrow { wind, power_pct: *power_pct, ..FieldThrow::of(disc, *style, *how) };
        let thrown = thrown(disc)?;
        let meant = meant(player, &session.spec, &plain, &thrown)?;
        let row = deviates((*style).into());
        // For a target she aims off by as much as the disc bends.
        let aimed_off = match &session.spec.trial {
            Some(_) => {
                let all = ends(player, &session.spec, &meant, &thrown, &row[..128])?;
                all.iter().map(|o| o.y_m.atan2(o.x_m)).sum::<f64>() / 128.0
            }
            None => 0.0,
        };
        let points: Vec<_> = (0..*n).map(|k| row[(23 * (logged.len() + k) + 5) % row.len()]).collect();
        for outcome in ends(player, &session.spec, &meant, &thrown, &points)? {
            let tenth = |x: f64| (10.0 * x).round() / 10.0;
            let mut spec = plain.clone();
            spec.distance_m = Some(tenth(outcome.distance_m()));
            spec.off_deg = Some(tenth((outcome.y_m.atan2(outcome.x_m) - aimed_off).to_degrees()));
            spec.seen.time_s = Some(tenth(outcome.time_s));
            logged.push(KeptThrow { key: GivenKey(format!("{}-{:02}", session.key.0, logged.len())), spec });
        }
    }
    Ok(logged)
}

/// Her trial: which approach disc for 45 m, in two styles.
fn trial(shelf: &[Disc]) -> Trial {
    let candidate = |name: &str, feel: u8, note: &str| Candidate {
        disc_id: shelf.iter().find(|d| d.spec.name == name).map(|d| d.id),
        disc_name: name.to_owned(),
        feel: Some(feel),
        note: note.to_owned(),
    };
    let flat = |style| TrialSet { style, meant: Meant::Flat, wind: TrialWind::Any };
    Trial {
        candidates: vec![
            candidate("Newel", 4, ""),
            candidate("Plumb", 3, "deep in the hand"),
            candidate("New Corbel", 5, "bead sits well"),
        ],
        sets: vec![flat(Style::Backhand), flat(Style::Forehand)],
        each: 8,
        line: None,
        target: Some(Target { distance_m: 45.0, within_m: 5.0 }),
        order: 45,
    }
}

/// Logs her sessions; what their throws wore is part of how her discs are.
pub(super) fn fill(store: &mut Store, player: &Player, today: Date) -> Result<(), DemoError> {
    let shelf = store.discs()?;
    for (mut session, sets, wind) in sessions(today) {
        session.spec.trial = (session.spec.purpose == Purpose::Trial).then(|| trial(&shelf));
        let throws = throws(player, &shelf, &session, &sets, wind).map_err(DemoError::Throws)?;
        store.add_session(&session, &throws)?;
    }
    Ok(())
}
