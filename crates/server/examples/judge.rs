//! Prints how long the judgement of the demo bag takes, and the memory it needs. `cargo xtask bench` runs it.

use std::sync::Arc;
use std::time::Instant;

use zinc_kite::app::{App, Snapshot};
use zinc_kite::demo;
use zinc_kite::store::{BagId, Store};
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::disc::spec::Disc;
use zinc_kite_bag::need::line::Line;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::verdict::analysis::analyse;
use zinc_kite_bag::verdict::board::board;
use zinc_kite_bag::verdict::standing::Question;
use zinc_kite_bag::verdict::work::Work;

fn main() -> anyhow::Result<()> {
    let fresh = || -> anyhow::Result<App> {
        let mut store = Store::in_memory()?;
        demo::fill(&mut store)?;
        Ok(App::new(store)?)
    };
    let best = |rounds: usize, work: &mut dyn FnMut(usize) -> anyhow::Result<()>| -> anyhow::Result<f64> {
        let mut least = f64::INFINITY;
        for round in 0..rounds {
            let start = Instant::now();
            work(round)?;
            least = least.min(start.elapsed().as_secs_f64() * 1e3);
        }
        Ok(least)
    };
    let going = Work::default();
    let wind = |k: usize| Conditions { wind_m_s: 0.1 * k as f64, ..Conditions::default() };

    // Other guests of the machine take their share of a run: of what is cold, the least of three, each from a fresh start.
    let (mut lines, mut season, mut cold) = (f64::INFINITY, f64::INFINITY, f64::INFINITY);
    for _ in 0..3 {
        let app = fresh()?;
        lines = lines.min(best(1, &mut |_| Ok(app.snapshot().map(drop)?))?);
        season = season.min(best(1, &mut |_| Ok(app.judge_season(BagId(1), &Arc::default()).map(drop)?))?);
    }
    let today = |app: &App| app.analyse(BagId(1), Conditions::default(), &going).map(drop);
    for _ in 0..2 {
        let app = fresh()?;
        cold = cold.min(best(1, &mut |_| Ok(today(&app)?))?);
    }
    let app = fresh()?;
    cold = cold.min(best(1, &mut |_| Ok(today(&app)?))?);
    println!("lines made for the demo player: {lines:.0} ms");
    println!("demo bag judged for today, cold, lines included: {cold:.0} ms");
    println!("demo bag judged for the season, cold: {season:.0} ms");
    let after = best(1, &mut |_| Ok(app.judge_season(BagId(1), &Arc::default()).map(drop)?))?;
    println!("the same after today: {after:.0} ms");
    let again = best(5, &mut |_| Ok(app.judge_season(BagId(1), &Arc::default()).map(drop)?))?;
    println!("season judged again, nothing changed: {again:.1} ms");
    let again = best(5, &mut |_| Ok(today(&app)?))?;
    println!("today judged again, nothing changed: {again:.1} ms");
    let moved = best(3, &mut |k| Ok(app.analyse(BagId(1), wind(k + 1), &going).map(drop)?))?;
    println!("today judged after the wind changed: {moved:.0} ms");
    let now = app.snapshot()?;
    let bag = app.bag(BagId(1))?;
    let set = best(10, &mut |k| Ok(board(&now.player, &wind(k), None, &now.shelf, &bag.carried).map(drop)?))?;
    println!("board set after the wind changed: {set:.1} ms");
    let (shelf, lines) = goal(&now);
    let carried: Vec<_> =
        bag.carried.iter().filter(|c| shelf.iter().any(|d| d.id == c.disc_id)).cloned().collect();
    let question = Question {
        player: &now.player,
        conditions: Conditions::default(),
        shelf: &shelf,
        bag: &bag.spec,
        carried: &carried,
        lines: &lines,
        today: None,
    };
    let (discs, count) = (shelf.len(), lines.len());
    let pairs = best(5, &mut |_| Ok(analyse(&question, &Memo::default(), &going).map(drop)?))?;
    println!("{discs} discs on {count} lines judged cold for today: {pairs:.0} ms");
    if let Some(peak) = peak_memory() {
        println!("most memory held: {peak}");
    }
    Ok(())
}

/// Every other disc of the shelf, and the player's lines again a little shorter until there are forty.
fn goal(now: &Snapshot) -> (Vec<Disc>, Vec<Line>) {
    let shelf =
        now.shelf.iter().step_by(2).chain(now.shelf.iter().skip(1).step_by(2)).take(25).cloned().collect();
    let shorter = now.lines.iter().map(|line| {
        let mut line = line.clone();
        line.key.push_str("-shorter");
        line.spec.distance_m = (0.93 * line.spec.distance_m).max(10.0);
        line.spec.gates.iter_mut().for_each(|g| g.at_m *= 0.93);
        line
    });
    (shelf, now.lines.iter().cloned().chain(shorter).take(40).collect())
}

/// The greatest resident size of this process so far, as Linux tells it.
fn peak_memory() -> Option<String> {
    let status = std::fs::read_to_string("/proc/self/status").ok()?;
    Some(status.lines().find_map(|l| l.strip_prefix("VmHWM:"))?.trim().to_owned())
}
