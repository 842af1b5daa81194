//! Rollers in the browser.

use crate::harness::Browser;

/// At the range a throw becomes a roller with one click, and is drawn along the ground to where it lies.
#[tokio::test]
async fn a_throw_becomes_a_roller_with_one_click() {
    let b = Browser::demo().await;
    b.open("/range").await;
    b.wait("[data-test='range-table'] tbody tr").await;
    b.click("[data-test='range-roller']").await;
    b.says("rolls").await;
    b.says("hops over the ground").await;
    let longest = "Math.max(...[...document.querySelectorAll('[data-picture=plan] .run')].map(p => p.getTotalLength()))";
    b.until("its way over the ground is drawn", &format!("{longest} > 60")).await;
    b.until("from the side as well", "document.querySelectorAll('[data-picture=side] .run').length === 3")
        .await;
    b.close().await;
}

/// A line for a roller opens with the way over the ground; a line of one's own asks for one with a release for it; who does not throw
/// rollers is not asked for them.
#[tokio::test]
async fn rollers_are_asked_of_those_who_throw_them() {
    let b = Browser::demo().await;
    b.open("/lines?line=roller").await;
    b.wait("[data-picture='plan'] .run").await;
    b.says("Down on its edge").await;
    b.open("/lines").await;
    b.click("[data-test='add-line']").await;
    b.click("[data-test='line-figures'] summary").await;
    b.click("[data-test='line-landing']").await;
    let option = "[...document.querySelectorAll('.el-select-dropdown__item')] \
        .find(o => o.offsetParent && o.innerText.trim() === 'rolls on its edge')";
    b.until("rollers can be asked for", option).await;
    b.eval(&format!("({option}).click()")).await;
    let least = "[...document.querySelectorAll('[data-test=line-figures] label')] \
        .find(l => l.innerText.includes('Least hyzer')).querySelector('input').value";
    let way = "Math.max(...[...document.querySelectorAll('[data-test=line-plan] .run')].map(p => p.getTotalLength()))";
    b.until("its way over the ground is drawn while it is told", &format!("{way} > 100")).await;
    b.until("its release comes along", &format!("Number({least}.replace('−', '-')) < -60")).await;
    b.open("/player").await;
    b.click("[data-test='throw-rollers']").await;
    b.click("[data-test='player-save']").await;
    b.until("saved", "document.querySelector('.notice')?.innerText.includes('is saved')").await;
    b.open("/lines").await;
    b.wait("[data-line='reach']").await;
    assert_eq!(b.eval("return document.querySelectorAll('[data-line$=roller]').length").await, 0);
    b.close().await;
}
