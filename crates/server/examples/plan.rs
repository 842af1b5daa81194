//! Prints how long the builder takes on the demo shelf. `cargo xtask bench` runs it.

use std::time::Instant;

use zinc_kite::app::App;
use zinc_kite::demo;
use zinc_kite::store::{BagId, Store};
use zinc_kite_bag::plan::build::{Desk, Stock, Wishes, curve, prices, propose, schools, shopping, ties};
use zinc_kite_bag::verdict::work::Work;

fn main() -> anyhow::Result<()> {
    let mut store = Store::in_memory()?;
    demo::fill(&mut store)?;
    let app = App::new(store)?;
    let now = app.snapshot()?;
    let bag = app.bag(BagId(1))?;
    let moulds = app.store().moulds()?;
    let stock = Stock { player: &now.player, shelf: &now.shelf, moulds: &moulds, lines: &now.lines };
    let work = Work::default();
    let timed =
        |what: &str, start: Instant| println!("{what}: {:.0} ms", start.elapsed().as_secs_f64() * 1e3);
    let start = Instant::now();
    let desk = Desk::of(&stock, false, &app.memo, &work)?;
    timed("desk, cold", start);
    let start = Instant::now();
    let desk2 = Desk::of(&stock, false, &app.memo, &work)?;
    timed("desk, again", start);
    drop(desk2);
    for (capacity, mould_strokes) in [(22, 0.0), (22, 0.01), (12, 0.01), (8, 0.05), (4, 0.05), (22, 0.2)] {
        let wishes = Wishes { mould_strokes: Some(mould_strokes), ..Wishes::of_size(capacity) };
        let start = Instant::now();
        let p = propose(&desk, &wishes, &bag.carried, &work)?;
        timed(&format!("best {capacity} discs, {mould_strokes} a mould"), start);
        println!(
            "   leaves {:.4}, today's bag {:.4}; proven {}, doubt {:.5}, parts {}, discs {}, moulds {}, taste {:.3}",
            p.leaves_strokes,
            p.against.leaves_strokes,
            p.is_proven,
            p.doubt_strokes,
            p.parts,
            p.discs.len(),
            p.moulds,
            p.taste_strokes
        );
    }
    for (pegs, putting_pair, capacity) in
        [(true, false, 22), (true, false, 19), (false, true, 19), (true, true, 22)]
    {
        let wishes = Wishes { putting_pair, pegs, ..Wishes::of_size(capacity) };
        let start = Instant::now();
        let p = propose(&desk, &wishes, &bag.carried, &work)?;
        timed(&format!("best {capacity} pegs {pegs} pair {putting_pair}"), start);
        println!("   {:.4} {} {:?} {}", p.leaves_strokes, p.is_proven, p.unmet, p.parts);
    }
    let wishes = Wishes { putting_pair: true, pegs: true, ..Wishes::of_size(19) };
    let start = Instant::now();
    let p = propose(&desk, &wishes, &bag.carried, &work)?;
    timed("best 19 with a pair and pegs", start);
    println!("   {:.4} {} {:?} {}", p.leaves_strokes, p.is_proven, p.unmet, p.parts);
    let start = Instant::now();
    let points = curve(&desk, &wishes, &work)?;
    timed("curve to 19", start);
    for p in &points {
        println!(
            "   {} {:.3} {} {:.3} {} {}",
            p.discs, p.leaves_strokes, p.moulds, p.free_leaves_strokes, p.free_moulds, p.is_proven
        );
    }
    let start = Instant::now();
    let all = prices(&desk, &wishes, &work)?;
    timed("prices", start);
    println!("   {all:?}");
    let start = Instant::now();
    let all = ties(&desk, &wishes, &work)?;
    timed("ties", start);
    for b in &all.bags {
        println!("   {b:?}");
    }
    let start = Instant::now();
    let all = schools(&desk, &wishes, &work)?;
    timed("schools", start);
    for b in &all {
        println!("   {b:?}");
    }
    let start = Instant::now();
    let all = shopping(&stock, &p.discs, 3, &app.memo, &work)?;
    timed("shopping", start);
    for b in &all {
        println!("   {b:?}");
    }
    Ok(())
}
