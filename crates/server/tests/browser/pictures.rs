//! Pictures of the main views for docs/screenshots: `cargo xtask screenshots`.

use std::path::PathBuf;

use crate::harness::Browser;

/// Takes the committed pictures. With ZINC_KITE_SHOTS set to a folder they go there, with dark and narrow ones too.
#[tokio::test]
#[ignore = "writes files; run by `cargo xtask screenshots`"]
async fn pictures() {
    let asked = std::env::var_os("ZINC_KITE_SHOTS");
    let all = asked.is_some();
    let folder = asked
        .map(PathBuf::from)
        .unwrap_or_else(|| PathBuf::from(concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/screenshots")));
    std::fs::create_dir_all(&folder).unwrap();
    let browser = Browser::demo().await;
    let kinds: &[(&str, bool, u32, u32)] = if all {
        &[("", false, 1280, 800), ("-dark", true, 1280, 800), ("-phone", false, 390, 844)]
    } else {
        &[("", false, 1280, 800)]
    };
    for (suffix, dark, width, height) in kinds {
        let shot = |name: &str| folder.join(format!("{name}{suffix}.png"));
        browser.size(*width, *height).await;
        browser.open("/").await;
        let theme = if *dark { "dark" } else { "light" };
        browser.eval(&format!("localStorage.setItem('zinc-kite-theme', '{theme}')")).await;
        browser.open("/").await;
        browser.wait("[data-finding]").await;
        browser.picture(&shot("bag")).await;
        browser.click("[data-slot='fairway'] .puck[data-name^='Vernier']").await;
        browser.wait(".sheet").await;
        browser.picture(&shot("disc")).await;
        browser.open("/lines").await;
        browser.wait("[data-line] .marks").await;
        browser.picture(&shot("lines")).await;
        browser.click("[data-line='fairway-lean'] [data-test='open-line']").await;
        browser.wait("[data-test='chance']").await;
        browser.picture(&shot("chance")).await;
        browser.open("/round").await;
        browser.wait("[data-card-hole='9']").await;
        browser.picture(&shot("round")).await;
        browser.open("/round?view=play&played=demo-first-round").await;
        browser.wait("[data-test='account']").await;
        browser.wait("[data-test='play-hole'] .say").await;
        browser.picture(&shot("play")).await;
        browser.open("/field?session=demo-approach").await;
        browser.wait("[data-spread='Plumb']").await;
        browser.wait("[data-test='trial-words']").await;
        browser.picture(&shot("field")).await;
        browser.open("/round?view=pack").await;
        browser.wait("[data-test='pack-verdict']").await;
        browser.picture(&shot("pack")).await;
        browser.open("/round?hole=3").await;
        browser.wait("[data-test='line-best'] b").await;
        browser.picture(&shot("draw")).await;
        browser.open("/shelf").await;
        browser.wait("[data-row]").await;
        browser.picture(&shot("shelf")).await;
        browser.open("/walk/mids").await;
        browser
            .until("ranked", "document.querySelector('[data-shelf]')?.innerText.includes('would save')")
            .await;
        browser.picture(&shot("walk")).await;
        browser.open("/shelf").await;
        browser.wait("[data-row]").await;
        if all {
            browser.click("[data-test='add-disc']").await;
            browser.wait("[data-test='disc-name']").await;
            browser.picture(&shot("add-disc")).await;
            browser.open("/lines").await;
            browser.wait("[data-line]").await;
            browser.click("[data-test='view'] label:last-child").await;
            browser.wait("td.cell button.best").await;
            browser.picture(&shot("table")).await;
            browser.click("[data-test='add-line']").await;
            browser.wait("[data-test='line-name']").await;
            browser.picture(&shot("add-line")).await;
        }
        browser.open("/ladder").await;
        browser.until("drawn", "document.querySelector('.plot svg')?.clientWidth > 200").await;
        browser.picture(&shot("ladder")).await;
        let copy = "const bag = await (await fetch('/api/bags/1')).json(); \
            await fetch('/api/bags', { method: 'POST', headers: { 'content-type': 'application/json' }, \
                body: JSON.stringify({ name: 'Winter', capacity: 12, event_cap_g: bag.event_cap_g, \
                    carried: bag.carried.filter(c => c.disc_id % 3 !== 0) }) })";
        browser.eval(copy).await;
        browser.open("/bags?a=1&b=2").await;
        browser.wait("[data-test='compare-verdict']").await;
        browser.picture(&shot("bags")).await;
        browser.open("/build").await;
        browser.wait("[data-test='build-proof']").await;
        browser.settled().await;
        browser.picture(&shot("build")).await;
        browser.open("/build?view=sizes").await;
        browser.wait("[data-size='22']").await;
        browser.picture(&shot("sizes")).await;
        browser.open("/season").await;
        browser.wait("[data-family='Lintel'] .course").await;
        browser.slide("[data-test=\"year-step\"]", 8.0).await;
        browser.picture(&shot("season")).await;
        if all {
            for view in ["board", "lost", "play", "lean"] {
                browser.open(&format!("/season?view={view}")).await;
                browser.settled().await;
                browser.picture(&shot(&format!("season-{view}"))).await;
            }
        }
        browser.open("/range").await;
        browser.wait("[data-test='range-row-C']").await;
        browser.until("flown", "document.querySelectorAll('[data-picture=plan] .flight').length === 3").await;
        browser.picture(&shot("range")).await;
        browser.open("/player").await;
        browser.wait("[data-test='player-save']").await;
        browser.picture(&shot("player")).await;
        if suffix.is_empty() {
            // Something to be listed.
            browser.open("/shelf").await;
            browser.click("[data-row='4'] [data-test='row-more']").await;
            browser.click("[data-test='row-delete']").await;
            browser.until("gone", "!document.querySelector(\"[data-row='4']\")").await;
            browser.open("/").await;
            browser.click("[data-finding] [data-test='act']").await;
            browser.until("done", "document.querySelector('.notice')").await;
            browser.click("[data-slot='fairway'] .puck[data-name^='Vernier']").await;
            browser.click("[data-test='edit']").await;
            browser.fill("[data-test='disc-name']", "Vernier 7").await;
            browser.click("[data-test='disc-save']").await;
            browser.until("saved", "document.querySelector('.notice')?.innerText.includes('saved')").await;
            browser.open("/data").await;
            browser.key("z").await;
        }
        browser.open("/data").await;
        browser.wait("[data-change]").await;
        browser.picture(&shot("data")).await;
    }
    browser.close().await;
}
