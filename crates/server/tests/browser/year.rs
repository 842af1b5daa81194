//! The year ahead on its screen.

use crate::harness::Browser;

const VERDICT: &str = "[data-test='year-verdict']";

async fn looked_ahead(b: &Browser) {
    b.wait(VERDICT).await;
    b.until("answered", "document.querySelectorAll('main [aria-busy=true]').length === 0").await;
}

#[tokio::test]
async fn the_year_is_seen_by_month_and_what_if() {
    let b = Browser::demo().await;
    b.open("/season").await;
    looked_ahead(&b).await;
    // A band for a mould, with its copies and pegs; what there is to do, in order.
    b.wait("[data-family='Lintel'] .course").await;
    let tasks = "document.querySelectorAll('[data-task]').length";
    let now = b.eval(&format!("return {tasks}")).await.as_u64().unwrap();
    assert!(now >= 1, "the demo's year asks for something");
    // The day goes by key on the slider, and by pointer across a band.
    let first = b.text("[data-test='year-on']").await;
    b.eval("document.querySelector(\"[data-test='year-step']\").focus()").await;
    b.key("\u{e010}").await;
    b.until(
        "a year on",
        &format!("document.querySelector(\"[data-test='year-on']\").innerText !== '{first}'"),
    )
    .await;
    let last = b.text("[data-test='year-on']").await;
    assert_eq!(
        last[last.len() - 4..].parse::<i32>().unwrap(),
        first[first.len() - 4..].parse::<i32>().unwrap() + 1
    );
    let point = "const box = document.querySelector(\"[data-family='Lintel'] .plot\").getBoundingClientRect(); \
        document.querySelector(\"[data-family='Lintel'] .plot\").dispatchEvent(new PointerEvent('pointerdown', \
        { clientX: box.left + 8, clientY: box.top + 40, buttons: 1, bubbles: true }))";
    b.eval(point).await;
    b.until(
        "today again",
        &format!("document.querySelector(\"[data-test='year-on']\").innerText === '{first}'"),
    )
    .await;
    // The board of that day.
    b.click("[data-test='year-view'] label:nth-child(2)").await;
    b.eval("document.querySelector(\"[data-test='year-step']\").focus()").await;
    b.key("\u{e010}").await;
    let moved = b.text("[data-test='year-moved']").await;
    assert!(moved.contains("Lintel from Rail to Drift"), "{moved}");
    // More play: what there is to do comes sooner, and is told as supposed; then as it is again.
    b.click("[data-test='year-view'] label:first-child").await;
    let first = b.text("[data-task] .title").await;
    let title = "document.querySelector('[data-task] .title')?.innerText";
    b.click("[data-test='suppose'] summary").await;
    b.slide("[data-test=\"suppose-play\"]", 3.0).await;
    b.until("supposed", &format!("document.querySelector(\"{VERDICT}\").innerText.includes('supposed')"))
        .await;
    b.until("sooner", &format!("{title} && {title} !== `{first}`")).await;
    b.click("[data-test='suppose-nothing']").await;
    b.until("as it is", &format!("{title} === `{first}`")).await;
    // What is lost is told with what is ready.
    b.open("/season?view=lost").await;
    let lost = b.text("[data-test='lost']").await;
    assert!(lost.contains("Soffit glow is ready; with it"), "{lost}");
    let link = "return document.querySelector(\"[data-test='year-ics']\").getAttribute('href')";
    assert_eq!(b.eval(link).await, "/api/bags/1/year.ics");
    b.close().await;
}

#[tokio::test]
async fn how_much_is_played_is_said_and_a_lean_bag_proposed() {
    let b = Browser::demo().await;
    b.open("/season?view=play").await;
    b.fill("[data-test='play-rounds_a_week-1'] input", "14").await;
    b.fill("[data-test='play-practice_throws_a_week-1'] input", "1500").await;
    b.click("[data-test='play-down-1']").await;
    b.click("[data-test='calendar-save']").await;
    b.until("saved", "document.querySelector('.notice')?.innerText.includes('The player is saved')").await;
    // The year follows: what lasted a year is worn out in a month.
    b.open("/season").await;
    looked_ahead(&b).await;
    b.until("Lintel leaves", "document.querySelector(\"[data-family='Lintel'] summary\").innerText.includes('Lintel comes to Drift')").await;
    // Of a mould without a copy at home a fresh one is asked for, and its form is filled in.
    b.click("[data-task='buy'] [data-test='task-act']").await;
    b.wait("[data-test='disc-name']").await;
    let maker =
        "document.querySelector(\"[data-test='disc-maker'] input, input[data-test='disc-maker']\").value";
    b.until("filled in", &format!("{maker} === 'Hobb & Tiller'")).await;
    b.open("/season?view=lean").await;
    b.click("[data-test='cover'] label:last-child").await;
    b.click("[data-test='frost']").await;
    b.until(
        "left at home",
        "document.querySelector(\"[data-test='lean']\").innerText.includes('can crack in frost')",
    )
    .await;
    b.click("[data-test='lean-build']").await;
    b.until("at the builder", "location.pathname === '/build'").await;
    b.wait("[data-test='build-verdict']").await;
    b.until("wished", "document.querySelector(\"[data-test='forget']\")").await;
    assert!(b.text("[data-test='build-verdict']").await.contains("discs"));
    b.close().await;
}
