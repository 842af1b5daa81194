//! The season's weather, from the player's dials to the findings.

use crate::harness::Browser;

async fn left(b: &Browser) -> f64 {
    b.settled().await;
    let text = b.text("[data-test='summary']").await;
    let told = "strokes a round over the season";
    let at = text.find(told).unwrap_or_else(|| panic!("{text}"));
    let number = text[..at].split_whitespace().last().unwrap();
    number.parse().unwrap_or_else(|_| panic!("{text}"))
}

/// A windy home leaves more strokes than a sheltered one, and other discs to throw; the choice is kept.
#[tokio::test]
async fn a_windier_home_leaves_more() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.wait("[data-finding]").await;
    let usual = left(&b).await;
    let set = |windiness: &str| {
        format!(
            "const p = await (await fetch('/api/player')).json(); p.season.windiness = '{windiness}'; \
             return (await fetch('/api/player', {{ method: 'PUT', headers: {{ 'content-type': 'application/json', 'if-match': p.etag }}, \
             body: JSON.stringify(p) }})).status"
        )
    };
    assert_eq!(b.eval(&set("coast")).await, 200);
    b.open("/").await;
    b.wait("[data-finding]").await;
    let coast = left(&b).await;
    assert_eq!(b.eval(&set("sheltered")).await, 200);
    b.open("/").await;
    b.wait("[data-finding]").await;
    let sheltered = left(&b).await;
    assert!(sheltered < usual && usual < coast, "{sheltered} {usual} {coast}");
    b.close().await;
}

/// Filtered by a weather, every card is about that weather.
#[tokio::test]
async fn lines_are_looked_at_weather_by_weather() {
    let b = Browser::demo().await;
    b.open("/lines").await;
    b.wait("[data-line='tunnel']").await;
    b.settled().await;
    let marks = "document.querySelectorAll(\"[data-line='tunnel'] .marks li\").length === 5";
    b.until("the season is judged", marks).await;
    let standings =
        "return [...document.querySelectorAll('[data-line] .standing')].map(e => e.innerText).join()";
    let season = b.eval(standings).await;
    b.click("[data-test='by-weather']").await;
    let headwind = "[...document.querySelectorAll('.el-select-dropdown__item')] \
        .find(e => e.offsetParent !== null && e.innerText === 'headwind')";
    b.until("the weathers are listed", headwind).await;
    b.eval(&format!("{headwind}.click()")).await;
    b.until(
        "the best by that weather",
        "document.querySelector(\"[data-line='tunnel'] .best\").innerText.includes('headwind')",
    )
    .await;
    let ahead = b.eval(standings).await;
    assert_ne!(ahead, season, "into the wind the lines stand otherwise");
    b.click("[data-test='not-made']").await;
    b.until("some are left", "document.querySelectorAll('[data-line]').length > 0").await;
    let made = "return [...document.querySelectorAll('[data-line] .standing')].filter(e => e.innerText === 'Made').length";
    assert_eq!(b.eval(made).await, 0, "only what is not made");
    b.close().await;
}

/// The season's judgement is stopped, and judged after all when it is asked for.
#[tokio::test]
async fn the_judgement_is_stopped_and_asked_for_again() {
    let b = Browser::demo().await;
    // Slow enough to be met under way: every bag judged from the start.
    b.open("/").await;
    b.wait("[data-finding]").await;
    b.eval("const p = await (await fetch('/api/player')).json(); p.backhand_m = 97; \
        await fetch('/api/player', { method: 'PUT', headers: { 'content-type': 'application/json', 'if-match': p.etag }, \
        body: JSON.stringify(p) })").await;
    b.open("/").await;
    b.click("[data-test='stop']").await;
    b.wait("[data-test='stopped']").await;
    if let Some(folder) = std::env::var_os("ZINC_KITE_SHOTS") {
        b.picture(&std::path::Path::new(&folder).join("stopped.png")).await;
    }
    b.click("[data-test='judge']").await;
    b.wait("[data-finding]").await;
    b.close().await;
}
