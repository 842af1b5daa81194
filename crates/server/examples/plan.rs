//! Prints how long the builder takes on the demo shelf, and on one of twice its size, and how long a look at the year ahead takes. `cargo xtask bench` runs it.

use std::sync::Arc;
use std::thread::{sleep, spawn};
use std::time::{Duration, Instant};

use zinc_kite::app::App;
use zinc_kite::demo;
use zinc_kite::store::{BagId, Store};
use zinc_kite_bag::plan::build::{Desk, Stock, Wishes, curve, prices, propose, schools, shopping, ties};
use zinc_kite_bag::plan::choice::{Problem, solve};
use zinc_kite_bag::plan::suppose::{Suppose, year_ahead};
use zinc_kite_bag::verdict::work::Work;

/// As long as the program itself searches.
const PATIENCE: Duration = Duration::from_secs(20);

fn timed<T>(what: &str, work: impl FnOnce() -> T) -> T {
    let start = Instant::now();
    let done = work();
    println!("{what}: {:.0} ms", start.elapsed().as_secs_f64() * 1e3);
    done
}

/// The demo's rows many times over, each time for discs a little worse and other lines: 90 discs or more on 60 lines or more in
/// five weathers.
fn twice(problem: &Problem) -> Problem {
    let n = problem.things;
    let mut rows = Vec::new();
    for (r, row) in problem.rows.iter().enumerate() {
        let worse = |j: usize| 0.9 + 0.1 * (((r * 31 + j * 17) % 97) as f64 / 97.0);
        rows.push(row.iter().flat_map(|&(j, w)| [(j, w), (j + n, w * worse(j))]).collect::<Vec<_>>());
        if r % 5 < 3 {
            rows.push(row.iter().flat_map(|&(j, w)| [(j, w * worse(j + r)), (j + n, w)]).collect());
        }
    }
    let kinds = (0..2 * n).map(|j| problem.kinds[j % n]).collect();
    Problem { kinds, kind_price: problem.kind_price, ..Problem::free(2 * n, rows, problem.capacity) }
}

fn main() -> anyhow::Result<()> {
    let app = demo_app()?;
    let now = app.snapshot()?;
    let bag = app.bag(BagId(1))?;
    let moulds = app.store().moulds()?;
    let stock = Stock { player: &now.player, shelf: &now.shelf, moulds: &moulds, lines: &now.lines };
    let work = Work::default();
    let laid = || Desk::of(&stock, false, &app.memo, &work);
    let desk = timed("chances of the demo shelf for the builder, cold", laid)?;
    timed("the same again", laid)?;
    for (capacity, mould_strokes) in [(22, 0.0), (22, 0.01), (10, 0.02), (4, 0.05)] {
        let wishes = Wishes { mould_strokes: Some(mould_strokes), ..Wishes::of_size(capacity) };
        let what = format!("best {capacity} of {} discs, {mould_strokes} strokes a mould", now.shelf.len());
        let found = timed(&what, || propose(&desk, &wishes, &bag.carried, &work))?;
        println!("  proven {}, {} parts", found.is_proven, found.parts);
    }
    let wishes = Wishes { mould_strokes: Some(0.01), ..Wishes::of_size(22) };
    let large = twice(&desk.problem(&wishes)?.0);
    for kind_price in [0.0, 0.01, 0.1] {
        let problem = Problem { kind_price, ..large.clone() };
        let what =
            format!("best 22 of {} on {} rows, {kind_price} a mould", problem.things, problem.rows.len());
        // The program is content after a while; so is this.
        let start = Instant::now();
        let found = timed(&what, || solve(&problem, 0.0005, None, &|| start.elapsed() > PATIENCE));
        println!(
            "  proven {}, {} parts, at most {:.4} better",
            found.is_proven,
            found.parts,
            found.most - found.saves
        );
    }
    let pegs = Wishes { putting_pair: true, pegs: true, ..Wishes::of_size(19) };
    timed("best 19 with a pair and every peg", || propose(&desk, &pegs, &bag.carried, &work))?;
    timed("best bag of every size to 22, with and without a price of moulds", || {
        curve(&desk, &wishes, &work)
    })?;
    timed("what wishes cost", || prices(&desk, &wishes, &work))?;
    timed("near bags", || ties(&desk, &wishes, &work))?;
    timed("schools", || schools(&desk, &wishes, &work))?;
    let best = propose(&desk, &wishes, &bag.carried, &work)?;
    timed("three discs to look for, cold", || shopping(&stock, &best.discs, 3, &app.memo, &work))?;
    ends_after("a search for near bags", |work| ties(&desk, &pegs, work).is_err())?;
    year()
}

/// How soon something ends that is stopped a twentieth of a second after it began.
fn ends_after(what: &str, run: impl FnOnce(&Work) -> bool) -> anyhow::Result<()> {
    let stopped = Arc::new(Work::default());
    let stopper = stopped.clone();
    let stop = spawn(move || {
        sleep(Duration::from_millis(50));
        stopper.stop();
        Instant::now()
    });
    let was_stopped = run(&stopped);
    let ended = Instant::now();
    let told = stop.join().map_err(|_| anyhow::anyhow!("the stopper failed"))?;
    let late = ended.saturating_duration_since(told).as_secs_f64() * 1e3;
    println!("{what}, stopped ({was_stopped}), ends after {late:.1} ms");
    Ok(())
}

/// The year ahead, from nothing known.
fn year() -> anyhow::Result<()> {
    let app = demo_app()?;
    let now = app.snapshot()?;
    let bag = app.bag(BagId(1))?;
    let moulds = app.store().moulds()?;
    let stock = Stock { player: &now.player, shelf: &now.shelf, moulds: &moulds, lines: &now.lines };
    let look = |suppose: &Suppose, work: &Work| {
        year_ahead(&stock, (&bag.spec, &bag.carried), now.today, suppose, &app.memo, work)
    };
    ends_after("a look ahead", |work| look(&Suppose::default(), work).is_err())?;
    let app = demo_app()?;
    let look = |suppose: &Suppose| {
        year_ahead(&stock, (&bag.spec, &bag.carried), now.today, suppose, &app.memo, &Work::default())
    };
    timed("year ahead of the demo bag, cold", || look(&Suppose::default()))?;
    timed("the same again", || look(&Suppose::default()))?;
    timed("with three times the play", || look(&Suppose { play: 3.0, ..Suppose::default() }))?;
    let lost = bag.carried.iter().take(1).map(|c| c.disc_id).collect();
    timed("with a disc lost", || look(&Suppose { lost, ..Suppose::default() }))?;
    Ok(())
}

fn demo_app() -> anyhow::Result<App> {
    let mut store = Store::in_memory()?;
    demo::fill(&mut store)?;
    Ok(App::new(store)?)
}
