//! The range and the day in the browser.

use crate::harness::Browser;

async fn rows(b: &Browser) -> u64 {
    let count = b.eval("return document.querySelectorAll('[data-test=range-table] tbody tr').length").await;
    count.as_u64().unwrap()
}

async fn until_rows(b: &Browser, n: usize) {
    let script = format!(
        "document.querySelectorAll('[data-test=range-table] tbody tr').length === {n} \
         && document.querySelectorAll('[data-picture=plan] .flight').length === {n}"
    );
    b.until(&format!("{n} throws are flown"), &script).await;
}

/// Picks an entry of an open list by its words.
async fn pick(b: &Browser, words: &str) {
    let option = format!(
        "[...document.querySelectorAll('.el-select-dropdown__item, .el-dropdown-menu__item')]
            .find(o => o.offsetParent && o.innerText.trim() === '{words}')"
    );
    b.until(&format!("\"{words}\" can be picked"), &option).await;
    b.eval(&format!("({option}).click()")).await;
}

#[tokio::test]
async fn throws_are_added_changed_one_thing_at_a_time_and_taken_away_by_key() {
    let b = Browser::demo().await;
    b.open("/range").await;
    until_rows(&b, 3).await;
    let before = b.text("[data-test='range-table'] tbody tr").await;
    b.slide("[data-test=range-hyzer_deg]", 20.0).await;
    b.until(
        "the chosen throw follows its dial",
        &format!("document.querySelector('[data-test=range-table] tbody tr').innerText !== {before:?}"),
    )
    .await;
    assert!(b.text("[data-test='range-row-A']").await.contains("hyzer 20°"), "what differs is named");
    b.eval("document.activeElement.blur()").await;
    b.key("n").await;
    until_rows(&b, 4).await;
    b.key("2").await;
    b.until("B is chosen", "document.querySelector('[data-test=range-row-B]').ariaPressed === 'true'").await;
    b.key("x").await;
    until_rows(&b, 3).await;
    b.click("[data-test='range-vary']").await;
    pick(&b, "change head and tail wind").await;
    until_rows(&b, 6).await;
    assert!(b.text("[data-test='range-row-A']").await.contains("from straight ahead"));
    assert!(b.text("[data-test='range-row-F']").await.contains("from behind"));
    // Back on the range, it stands as it was left.
    b.open("/range").await;
    until_rows(&b, 6).await;
    b.close().await;
}

#[tokio::test]
async fn a_release_is_copied_from_a_line_and_the_range_exported() {
    let b = Browser::demo().await;
    b.open("/range").await;
    until_rows(&b, 3).await;
    b.click("[data-test='range-copy']").await;
    b.click("[data-test='copy-go']").await;
    b.until("it says what is missing", "document.body.innerText.includes('Choose a line and a disc first') || document.querySelectorAll('[data-test=range-table] tbody tr').length === 4").await;
    b.click("[data-test='copy-line']").await;
    pick(&b, "Mid-range Rail").await;
    b.click("[data-test='copy-go']").await;
    until_rows(&b, 4).await;
    assert!(b.text("[data-test='range-row-D']").await.contains("Mid-range Rail"));
    b.eval(
        "window.made = []; const make = URL.createObjectURL;
         URL.createObjectURL = blob => { window.made.push(blob); return make.call(URL, blob) }",
    )
    .await;
    for (words, kind) in [
        ("Drawing, SVG", "image/svg+xml"),
        ("Figures, CSV", "text/csv"),
        ("Paths, CSV", "text/csv"),
        ("Picture, PNG", "image/png"),
    ] {
        b.eval("window.made.length = 0").await;
        b.click("[data-test='range-export']").await;
        pick(&b, words).await;
        b.until(words, &format!("window.made.some(m => m.type === '{kind}' && m.size > 500)")).await;
    }
    assert!(rows(&b).await == 4);
    b.close().await;
}

#[tokio::test]
async fn any_style_and_any_numbers_can_be_thrown() {
    let b = Browser::demo().await;
    b.open("/range").await;
    until_rows(&b, 3).await;
    b.click("[data-test='range-style']").await;
    pick(&b, "thumber").await;
    b.until(
        "an overhand stands on edge",
        "document.querySelector('[data-test=throw-dials]').innerText.includes('anhyzer')",
    )
    .await;
    b.click("[data-test='range-disc']").await;
    pick(&b, "any disc, by its numbers").await;
    b.until(
        "it is named by its numbers",
        "/\\d \\/ \\d/.test(document.querySelector('[data-test=range-row-A]').innerText)",
    )
    .await;
    b.click("[data-test='range-ground']").await;
    pick(&b, "hard ground").await;
    b.until("it runs on", "document.querySelector('[data-test=range-table]').innerText.includes('skips')")
        .await;
    b.close().await;
}

#[tokio::test]
async fn the_wind_turns_by_key_and_the_weather_is_set() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.wait(".puck").await;
    b.slide("[data-test=dial-wind]", 5.0).await;
    b.eval("document.querySelector('[data-test=dial-from]').focus()").await;
    for _ in 0..6 {
        b.key("\u{e014}").await; // arrow right
    }
    b.until("from the right", "document.querySelector('.dials').innerText.includes('from the right')").await;
    b.click("[data-test='weather']").await;
    b.click("[data-test='weather-wet']").await;
    b.until("wet", "document.querySelector('[data-test=weather]').innerText.includes('wet')").await;
    b.until("judged for this day", "document.querySelector('[data-finding]')").await;
    b.close().await;
}

#[tokio::test]
async fn evidence_that_does_not_fit_is_told() {
    let b = Browser::demo().await;
    b.open("/player").await;
    b.wait("[data-test='player-save']").await;
    b.click("[data-test='add-speed']").await;
    b.fill("[data-test='evidence-speed'] input", "38").await;
    b.click("[data-test='player-save']").await;
    b.until(
        "the contradiction is told",
        "document.querySelector('[data-test=arm-backhand]').innerText.includes('does not fit together')",
    )
    .await;
    assert!(b.text("[data-test='arm-backhand']").await.contains("faster than the rest says"));
    b.close().await;
}
