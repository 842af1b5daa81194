//! Every screen, and what opens over it, by the rules of axe-core: light and dark, on a desk and on a phone, where all of it fits.

use std::time::Duration;

use serde_json::Value;

use crate::harness::Browser;
use crate::phone::{WIDTH, fits};

/// The rules, as the front end's packages bring them.
const AXE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/node_modules/axe-core/axe.min.js");

/// A screen, what shows that it is there, and what is pressed on it before it is looked at.
const SCREENS: [(&str, &str, &[&str]); 41] = [
    ("/", "[data-finding]", &[]),
    ("/?also=worn&style=forehand", ".ghost", &[]),
    ("/?disc=17", ".disc-sheet table", &[]),
    ("/", "[data-finding]", &["[data-test='bag-edit']"]),
    ("/walk", "[data-test='player-backhand_m']", &[]),
    ("/walk/putting", "[data-check]", &[]),
    ("/walk/mids", "[data-shelf]", &[]),
    ("/lines", "[data-line] .marks", &[]),
    ("/lines", "[data-line]", &["[data-test='view'] label:last-child"]),
    ("/lines", "[data-line]", &["[data-test='add-line']"]),
    ("/lines", "[data-line]", &["[data-test='open-line']"]),
    ("/shelf", "[data-row]", &[]),
    ("/shelf", "[data-row]", &["[data-test='add-disc']"]),
    ("/shelf", "[data-row]", &["[data-test='import']"]),
    ("/shelf/moulds", "[data-test='add-mould']", &[]),
    ("/range", "[data-test='range-row-C']", &[]),
    ("/ladder", ".plot svg", &[]),
    ("/bags?a=1&b=2", "[data-test='compare-verdict']", &[]),
    ("/build", "[data-test='build-proof']", &[]),
    ("/build?view=sizes", "[data-size]", &[]),
    ("/season", "[data-family] .course", &[]),
    ("/season?view=board", "[data-test='year-board']", &[]),
    ("/season?view=lost", "[data-lost]", &[]),
    ("/season?view=play", "[data-test='calendar-save']", &[]),
    ("/season?view=lean", "[data-home]", &[]),
    ("/round?view=holes", "[data-hole='9']", &[]),
    (
        "/round",
        "[data-card-hole='9']",
        &["[data-card-hole='1'] [data-test='card-more']", "[data-test='left'] summary"],
    ),
    ("/round?view=play&played=demo-first-round", "[data-test='account']", &["[data-test='lose']"]),
    ("/round?view=pack", "[data-test='pack-verdict']", &[]),
    ("/round?day=1", "[data-test='day-save']", &[]),
    (
        "/round?hole=3",
        "[data-test='line-best'] b",
        &["[data-thing='0'] .name", "[data-test='trace'] summary"],
    ),
    ("/round?view=holes", "[data-hole='9']", &["[data-test='import-course']"]),
    ("/field", "[data-test='disc-season'] .days", &["[data-test='begin-session']"]),
    (
        "/field?session=demo-approach",
        "[data-spread='Plumb']",
        &["[data-test='throw-details']", "[data-spread='Plumb'] button"],
    ),
    ("/field?view=arm", "[data-test='honest-words']", &[]),
    ("/field?view=practise", "[data-error]", &["[data-error] summary"]),
    ("/field?session=demo-approach&trial=1", "[data-test='save-trial']", &[]),
    ("/field?session=demo-ladder&throw=demo-ladder-03", "[data-test='save-throw']", &[]),
    ("/field?session=demo-ladder&read=demo-ladder-03", "[data-test='readings'] [data-fault]", &[]),
    ("/player", "[data-test='player-save']", &[]),
    ("/data", "[data-test='backup']", &[]),
];

async fn violations(b: &Browser, is_narrow: bool) -> Vec<String> {
    if b.eval("return window.axe === undefined").await == true {
        let axe = std::fs::read_to_string(AXE).expect("axe-core is among the front end's packages");
        b.eval(&axe).await;
    }
    // The rules of WCAG 2.2 AA, that of the size of targets too, which is off by itself, and of good practice.
    let rules = if is_narrow {
        "runOnly: ['color-contrast', 'target-size', 'scrollable-region-focusable']"
    } else {
        "rules: { 'target-size': { enabled: true } }"
    };
    let run = format!(
        "const done = arguments[arguments.length - 1]; \
        axe.run(document, {{ resultTypes: ['violations'], {rules} }}).then( \
            r => done(r.violations.flatMap(v => v.nodes.map(n => `${{v.id}}: ${{n.target.join(' ')}} ${{n.failureSummary.replaceAll('\\n', ' ')}}`))), \
            e => done([`axe itself: ${{e}}`]))"
    );
    let found = b.client.execute_async(&run, vec![]).await.unwrap();
    let Value::Array(found) = found else { panic!("{found}") };
    found.iter().map(|v| v.as_str().unwrap_or_default().chars().take(330).collect()).collect()
}

#[tokio::test]
async fn val_no_screen_breaks_a_rule_of_axe_or_sticks_out_on_a_phone() {
    let b = Browser::demo().await;
    b.open("/").await;
    let copy = "const bag = await (await fetch('/api/bags/1')).json(); \
        await fetch('/api/bags', { method: 'POST', headers: { 'content-type': 'application/json' }, \
            body: JSON.stringify({ name: 'Winter', capacity: 12, carried: bag.carried.slice(4) }) })";
    b.eval(copy).await;
    let mut all = Vec::new();
    // Every screen at both widths, now light where the window is wide and dark where it is narrow, now the other way about; at the
    // narrow one only what depends on that is looked for.
    let ways = [[("light", 1280, 800), ("dark", WIDTH, 844)], [("dark", 1280, 800), ("light", WIDTH, 844)]];
    for (k, (path, ready, presses)) in SCREENS.into_iter().enumerate() {
        b.size(1280, 800).await;
        b.open(path).await;
        b.wait(ready).await;
        for css in presses {
            b.click(css).await;
            b.until("open", "document.querySelector('.el-overlay, td.cell, .el-drawer, .reasons')").await;
        }
        // What was pressed far down has left others under the bar at the top.
        b.eval("window.scrollTo(0, 0)").await;
        b.until("judged", "document.querySelectorAll('[aria-busy=true]').length === 0").await;
        for (theme, width, height) in ways[k % ways.len()] {
            b.size(width, height).await;
            b.eval(&format!("document.documentElement.classList.toggle('dark', {})", theme == "dark")).await;
            // What turns dark or opens does so in a moment.
            tokio::time::sleep(Duration::from_millis(350)).await;
            if width == WIDTH {
                fits(&b, &format!("{path} {presses:?}")).await;
            }
            let found = violations(&b, width == WIDTH).await;
            all.extend(found.into_iter().map(|v| format!("{path} {presses:?} {theme} {width}: {v}")));
        }
    }
    assert!(all.is_empty(), "{} violations:\n{}", all.len(), all.join("\n"));
    b.close().await;
}
