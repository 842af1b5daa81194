//! Prints how long the card of the demo's course takes on its windy day, and what to take to it. `cargo xtask bench` runs it.

use std::time::Instant;

use zinc_kite::app::App;
use zinc_kite::demo;
use zinc_kite::store::{BagId, Store};
use zinc_kite_bag::plan::build::{Desk, Stock, Wishes};
use zinc_kite_bag::plan::round::pack::pack;
use zinc_kite_bag::verdict::work::Work;

fn timed<T>(what: &str, work: impl FnOnce() -> T) -> T {
    let start = Instant::now();
    let done = work();
    println!("{what}: {:.0} ms", start.elapsed().as_secs_f64() * 1e3);
    done
}

fn main() -> anyhow::Result<()> {
    let mut store = Store::in_memory()?;
    demo::fill(&mut store)?;
    let app = App::new(store)?;
    let now = app.snapshot()?;
    let course = demo::course()?;
    let day = course.day.clone().unwrap_or_default();
    let bag = app.bag(BagId(1))?;
    let card =
        timed("card of nine holes on a windy day, cold", || app.card(BagId(1), &course, &Work::default()))?;
    let again = format!("the same again, {} rounds played in it", card.rounds.map_or(0, |r| r.played));
    timed(&again, || app.card(BagId(1), &course, &Work::default()))?;
    let stock = Stock { player: &now.player, shelf: &now.shelf, moulds: &[], lines: &now.lines };
    let work = Work::default();
    let desk =
        timed("chances of the demo shelf for the builder", || Desk::of(&stock, false, &app.memo, &work))?;
    let wishes = Wishes::of_size(bag.spec.capacity);
    let packed = (&bag.spec, &bag.carried[..]);
    let what = format!("what to take of {} discs", now.shelf.len());
    let found = timed(&what, || pack(&desk, &wishes, packed, (&course, &day), &app.memo, &work))?;
    println!("  {} discs, {:.2} strokes, proven {}", found.take.len(), found.strokes, found.is_proven);
    Ok(())
}
