//! Prints how long judgements take with shelves of hundreds and thousands of discs, and the memory they need. `cargo xtask bench`
//! runs it.

use std::sync::Arc;
use std::time::Instant;

use zinc_kite::app::App;
use zinc_kite::demo;
use zinc_kite::store::{BagId, Store};
use zinc_kite_bag::disc::spec::DiscSpec;
use zinc_kite_bag::thrower::day::Conditions;

fn main() -> anyhow::Result<()> {
    for discs in [500, 2000] {
        let mut store = Store::in_memory()?;
        demo::fill(&mut store)?;
        let demo = store.discs()?;
        let more: Vec<DiscSpec> = (demo.len()..discs)
            .map(|k| {
                let like = &demo[k % demo.len()].spec;
                let mut spec = DiscSpec { name: format!("{} {k}", like.name), ..like.clone() };
                // No two alike: weight and wear tell them apart.
                spec.mass_g = (spec.mass_g - 0.01 * k as f64).max(140.0);
                spec.wear.throws = Some((37 * k as u32) % 900);
                spec
            })
            .collect();
        store.add_discs(&more, None, "added")?;
        let app = App::new(store)?;
        let timed = |what: &str, work: &dyn Fn() -> anyhow::Result<()>| -> anyhow::Result<()> {
            let start = Instant::now();
            work()?;
            println!("{discs} discs, {what}: {:.0} ms", start.elapsed().as_secs_f64() * 1e3);
            Ok(())
        };
        timed("lines made", &|| Ok(app.snapshot().map(drop)?))?;
        let wind = |w| Conditions { wind_m_s: w, ..Conditions::default() };
        timed("today, cold", &|| Ok(app.analyse(BagId(1), wind(0.0), &Arc::default()).map(drop)?))?;
        timed("season, cold", &|| Ok(app.judge_season(BagId(1), &Arc::default()).map(drop)?))?;
        timed("today after the wind changed", &|| {
            Ok(app.analyse(BagId(1), wind(3.0), &Arc::default()).map(drop)?)
        })?;
        timed("season again", &|| Ok(app.judge_season(BagId(1), &Arc::default()).map(drop)?))?;
        if let Ok(status) = std::fs::read_to_string("/proc/self/status") {
            let peak = status.lines().find_map(|l| l.strip_prefix("VmHWM:"));
            println!("{discs} discs, most memory held: {}", peak.unwrap_or("unknown").trim());
        }
    }
    Ok(())
}
