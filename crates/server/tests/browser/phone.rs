//! The application on a phone: nothing lies beyond the edge, nothing that is needed is missing.

use crate::harness::Browser;

pub const WIDTH: u32 = 390;

/// Nothing lies beyond the edge.
pub async fn fits(b: &Browser, what: &str) {
    let wide = "return document.documentElement.scrollWidth";
    assert!(b.eval(wide).await.as_f64().unwrap() <= f64::from(WIDTH) + 0.5, "{what} is wider than the phone");
    // What sticks out of the page without widening it is cut off.
    let out = "return [...document.querySelectorAll('main button, main h1, main h2, main h3, main p, main label')] \
        .filter(e => { const r = e.getBoundingClientRect(); \
            let box = e.parentElement; \
            while (box && getComputedStyle(box).overflowX !== 'auto' && getComputedStyle(box).overflowX !== 'scroll') box = box.parentElement; \
            return !box && r.width > 0 && r.height > 0 && (r.right > window.innerWidth + 1 || r.left < -1) }) \
        .map(e => e.innerText.slice(0, 40))";
    assert_eq!(b.eval(out).await, serde_json::json!([]), "{what}");
}

#[tokio::test]
async fn a_line_is_opened_looked_at_in_another_weather_and_closed() {
    let b = Browser::demo().await;
    b.size(WIDTH, 844).await;
    b.open("/lines").await;
    b.click("[data-line='headwind-mid'] [data-test='open-line']").await;
    b.wait("[data-test='chance'] .discs button").await;
    b.settled().await;
    fits(&b, "a line opened").await;
    let dialog = "document.querySelector('.el-dialog').getBoundingClientRect()";
    let (left, right) = (format!("return {dialog}.left"), format!("return {dialog}.right"));
    assert!(b.eval(&left).await.as_f64().unwrap() >= 0.0);
    assert!(b.eval(&right).await.as_f64().unwrap() <= f64::from(WIDTH));
    let told = "document.querySelector(\"[data-test='chance']\").innerText";
    let today = b.eval(&format!("return {told}")).await;
    b.click("[data-test='line-weather'] label:nth-child(4)").await;
    let other = format!("{told} !== {today}");
    b.until("another weather's", &other).await;
    b.key("\u{e00c}").await; // escape
    b.until("closed", "!document.querySelector('.el-overlay:not([style*=none])')").await;
    b.close().await;
}

#[tokio::test]
async fn the_days_dials_fold_away_and_still_turn() {
    let b = Browser::demo().await;
    b.size(WIDTH, 844).await;
    b.open("/").await;
    b.wait(".puck").await;
    b.settled().await;
    let folded = "return document.querySelector('.dials').getBoundingClientRect().height";
    assert!(b.eval(folded).await.as_f64().unwrap() < 120.0, "one row");
    b.click(".dials summary, .dials [aria-expanded=false]").await;
    b.slide("[data-test=\"dial-wind\"]", 5.0).await;
    b.until("the wind is said", "document.querySelector('.dials').innerText.includes('5.0 m/s')").await;
    fits(&b, "the bag with its dials open").await;
    b.close().await;
}

#[tokio::test]
async fn a_disc_opens_as_a_sheet_over_the_page_and_back_closes_it() {
    let b = Browser::demo().await;
    b.size(390, 844).await;
    b.open("/").await;
    b.wait(".puck").await;
    b.click(".puck[data-name='Vernier']").await;
    b.wait(".sheet").await;
    b.settled().await;
    let covers = "const r = document.querySelector('.disc-sheet').getBoundingClientRect(); return r.width > 300 && r.top < 200 && r.top >= 0";
    assert_eq!(b.eval(covers).await, true, "{}", b.eval("return location.search + ' ' + JSON.stringify(document.querySelector('.disc-sheet')?.getBoundingClientRect())").await);
    b.eval("history.back()").await;
    b.until("closed", "![...document.querySelectorAll('.disc-sheet')].some(d => d.getClientRects().length)")
        .await;
    b.close().await;
}
