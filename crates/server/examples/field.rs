//! Prints how long the field log takes with a hundred thousand throws in it. `cargo xtask bench` runs it.

use std::time::Instant;

use jiff::ToSpan;
use zinc_kite::demo;
use zinc_kite::store::Store;
use zinc_kite::store::field::{KeptSession, KeptThrow};
use zinc_kite::store::given_key::GivenKey;
use zinc_kite_bag::catalogue::lines::lines_for;
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::field::arm::{MOST_THROWS, found_arm};
use zinc_kite_bag::field::habit::read_session;
use zinc_kite_bag::field::numbers::found_numbers;
use zinc_kite_bag::field::reading::read_throw;
use zinc_kite_bag::field::spread::{by_disc, over_season};
use zinc_kite_bag::field::throw::{FieldThrow, Meant, Measured, WindThen};
use zinc_kite_bag::plan::practise::price::practice;
use zinc_kite_bag::plan::practise::progress::progress;
use zinc_kite_bag::plan::practise::ready::ready;
use zinc_kite_bag::thrower::arm::Arm;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_bag::verdict::standing::Question;
use zinc_kite_bag::verdict::work::Work;

const SESSIONS: usize = 500;
const IN_SESSION: usize = 200;

fn timed<T>(what: &str, work: impl FnOnce() -> T) -> T {
    let start = Instant::now();
    let done = work();
    println!("{what}: {:.1} ms", start.elapsed().as_secs_f64() * 1e3);
    done
}

fn main() -> anyhow::Result<()> {
    let folder = tempfile::tempdir()?;
    let mut store = Store::open(&folder.path().join("field.db"))?;
    demo::fill(&mut store)?;
    let shelf = store.discs()?;
    let plain = store.session(&GivenKey("demo-ladder".into()))?.spec;
    for s in 0..SESSIONS {
        let throw = |k: usize| {
            let disc = &shelf[(7 * k + s) % shelf.len()];
            let mut spec = FieldThrow::of(disc, Style::Backhand, Meant::Flat);
            spec.distance_m = Some(60.0 + (k % 40) as f64);
            spec.off_deg = Some((k % 11) as f64 - 5.0);
            spec.wind = WindThen { wind_m_s: (s % 7) as f64, from_deg: 45.0 * (s % 8) as f64 };
            KeptThrow { key: GivenKey::new(), spec }
        };
        let date = plain.date.saturating_sub(i64::try_from(s)?.days());
        let mut spec = plain.clone();
        spec.date = date;
        let session = KeptSession { key: GivenKey(format!("session-{s:04}")), spec };
        store.add_session(&session, &(0..IN_SESSION).map(throw).collect::<Vec<_>>())?;
    }
    println!("{} throws in {SESSIONS} sessions", SESSIONS * IN_SESSION);
    let key = GivenKey("session-0003".into());
    timed("sessions listed", || store.sessions())?;
    timed("discs that were thrown", || store.thrown_discs())?;
    timed("a session with its throws and how they spread", || {
        let throws: Vec<FieldThrow> = store.throws(&key)?.into_iter().map(|t| t.spec).collect();
        anyhow::Ok(by_disc(&throws))
    })?;
    let disc = shelf[0].id;
    timed("a disc over the season", || {
        let throws = store.throws_of(disc)?;
        let days = over_season(throws.iter().map(|(session, throw)| Measured { session, throw }));
        println!("  {} throws on {} days", throws.len(), days.len());
        anyhow::Ok(())
    })?;
    let player = store.player()?.unwrap_or_default();
    let memo = Memo::default();
    for n in [50, 500] {
        let throws = store.throws_of(disc)?;
        let measured: Vec<Measured> =
            throws.iter().take(n).map(|(session, throw)| Measured { session, throw }).collect();
        let what = format!("what a disc really does, of {n} throws");
        timed(&what, || found_numbers(&player, &shelf[0], &shelf, &measured))?;
    }
    let throws = timed("the latest throws in a style", || store.latest_throws(Style::Backhand, MOST_THROWS))?;
    let measured: Vec<Measured> = throws.iter().map(|(session, throw)| Measured { session, throw }).collect();
    let what = format!("what an arm really does, of {} throws", measured.len());
    let arm = timed(&what, || found_arm(&player, Style::Backhand, &shelf, &measured))?;
    println!("  {} of them said something, {} discs", arm.used, arm.discs);
    let what = format!("which errors are behind {} throws, and their habit", measured.len());
    let read = timed(&what, || read_session(&player, &shelf, &measured))?;
    println!("  {} of them were read", read.throws.iter().flatten().count());
    timed("what one throw says of its release", || read_throw(&player, &shelf[0], measured[0]))?;
    timed("ready for faster discs", || ready(&player, &arm, &shelf, &measured))?;
    timed("the scatter month by month", || progress(Style::Backhand, &measured));
    let bag = store.bags()?.remove(0);
    let generated = lines_for(&player, &Arm::of(&player, &Conditions::default())?, &memo);
    let question = Question {
        player: &player,
        conditions: Conditions::default(),
        shelf: &shelf,
        bag: &bag.spec,
        carried: &bag.carried,
        lines: &store.lines(generated)?,
        today: None,
    };
    for how in ["cold", "warm"] {
        let what = format!("what each error costs over the season, {how}");
        timed(&what, || practice(&question, &memo, &Work::default()))?;
    }
    let spec =
        FieldThrow { distance_m: Some(80.0), ..FieldThrow::of(&shelf[0], Style::Backhand, Meant::Flat) };
    let throw = KeptThrow { key: GivenKey::new(), spec };
    timed("a throw logged", || store.log_throw(&key, &throw))?;
    Ok(())
}
