//! The field log: a session begun, throws logged in three taps, told anew, taken back, put together.

use crate::harness::Browser;

/// A throw by typing, one by the rangefinder, one that hit something; told anew and taken back; the plan and the table follow.
#[tokio::test]
async fn throws_are_logged_in_three_taps() {
    let b = Browser::demo().await;
    b.open("/field").await;
    b.wait("[data-session='demo-ladder']").await;
    assert!(b.text("[data-session='demo-approach']").await.contains("trial; 36 throws, 3 discs"));
    b.says("New Corbel, 12").await;
    b.says("Reservoir meadow, forehand: ").await;
    // What its throws say is taken over with one click, and back by undo.
    b.wait("[data-found='fade']").await;
    b.click("[data-test='take-over']").await;
    b.until("taken over", "document.body.innerText.includes('flies as its throws say from now on')").await;
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.click("[data-test='begin-session']").await;
    b.fill("input[data-test='session-place']", " ").await;
    b.click("[data-test='save-session']").await;
    // A session has a place: the form stays until it is given.
    b.wait("input[data-test='session-place'][aria-invalid='true']").await;
    b.fill("input[data-test='session-place']", "Vell sands").await;
    b.click("[data-test='save-session']").await;
    b.says("Throw 1").await;
    b.click("[data-disc]").await;
    b.click("[data-meant='hyzer']").await;
    b.fill("[data-test='throw-distance'] input", "60").await;
    b.fill("[data-test='throw-left'] input", "90").await;
    b.says("cannot lie farther to the side than it is away").await;
    b.fill("[data-test='throw-left'] input", "-6").await;
    b.click("[data-test='keep-throw']").await;
    b.says("60.0 m, 6 m right").await;
    // How it was meant stays; where it ended is asked anew. The aim is taken from the rangefinder, then the throw's end.
    b.click("[data-test='throw-details']").await;
    b.click("[data-test='log-throw'] details [data-test='take-rangefinder']:not([disabled])").await;
    b.until("the aim", "/aim 2[23]\\d°/.test(document.querySelector(\"[data-test='session']\").innerText)")
        .await;
    b.click("[data-test='throw-details']").await;
    b.click("[data-test='take-rangefinder']:not([disabled])").await;
    b.says("Throw 3").await;
    b.until(
        "measured",
        "/on hyzer\\s+8\\d\\.\\d m, (\\d m (left|right)|on the line)/.test(document.querySelector(\"[data-test='throws']\").innerText)",
    )
    .await;
    b.click("[data-tag='hit']").await;
    b.fill("[data-test='throw-distance'] input", "30").await;
    b.click("[data-test='keep-throw']").await;
    b.says("hit something").await;
    let spread = "document.querySelector(\"[data-test='spreads'] tbody tr\")?.innerText ?? ''";
    b.until("a hit does not count", &format!("/\\t3\\t7\\d\\.\\d ± /.test({spread})")).await;
    // Told anew, and taken back.
    b.click("[data-throw='1']").await;
    b.fill("[data-test='edit-distance'] input", "64.3").await;
    b.fill("input[data-test='edit-note']", "late").await;
    b.click("[data-test='save-throw']").await;
    b.says("64.3 m, 6 m right").await;
    b.click("[data-test='take-back']").await;
    b.says("Throw 3").await;
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.says("Throw 4").await;
    // Put into another session, and back by undo.
    b.click("[data-test='edit-session']").await;
    b.click("[data-test='merge-session']").await;
    let items = "[...document.querySelectorAll('.el-select-dropdown__item')].filter(e => e.getClientRects().length > 0)";
    let school = format!("{items}.find(e => e.innerText.includes('Vell school field'))");
    b.until("others", &school).await;
    b.eval(&format!("{school}.click()")).await;
    b.says("Throw 32").await;
    b.click("[data-test='all-sessions']").await;
    b.until("one less", "document.querySelectorAll('[data-session]').length === 2").await;
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.until("two again", "document.querySelectorAll('[data-session]').length === 3").await;
    b.close().await;
}
