//! Your arm as its throws say, and a trial of discs side by side.

use crate::harness::Browser;

/// What an arm was found to do is told to the player with one click, and back by undo; the disc’s drawer leads to its throws.
#[tokio::test]
async fn an_arm_is_told_as_its_throws_say() {
    let b = Browser::demo().await;
    b.open("/field?view=arm").await;
    b.wait("[data-test='arm-words']").await;
    assert!(b.text("[data-test='arm-words']").await.contains("as fast as you told"));
    assert!(b.text("[data-test='honest-words']").await.contains("Of 9 throws"));
    assert!(b.text("[data-distance='Purlin']").await.contains("83"));
    b.click("[data-test='take-over-arm']").await;
    b.says("Your backhand is told as its throws say from now on").await;
    b.open("/player").await;
    b.until("the speed that was found", "document.querySelector('main').innerText.includes('measured')")
        .await;
    b.open("/field?view=arm&style=forehand").await;
    b.says("No full forehand was measured yet with its side").await;
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.says("Undone").await;
    b.open("/?disc=7").await;
    b.click("[data-test='drawer-measured'] a").await;
    b.wait("[data-test='found-numbers']").await;
    b.close().await;
}

/// Two discs are chosen, the next throw is ready to be logged, and what is said of the demo’s trial is acted on with one click.
#[tokio::test]
async fn discs_are_tried_side_by_side() {
    let b = Browser::demo().await;
    b.open("/field").await;
    b.click("[data-test='begin-session']").await;
    b.fill("input[data-test='session-place']", "Vell sands").await;
    b.click("[data-test='save-session']").await;
    b.says("Throw 1").await;
    b.click("[data-test='edit-trial']").await;
    b.says("Choose two discs at least.").await;
    b.click("[data-test='trial-discs']").await;
    let items = "[...document.querySelectorAll('.el-select-dropdown__item')].filter(e => e.getClientRects().length > 0)";
    for name in ["Newel", "Plumb"] {
        let item = format!("{items}.find(e => e.innerText.trim() === '{name}')");
        b.until(name, &item).await;
        b.eval(&format!("{item}.click()")).await;
    }
    b.says("10 throws in all.").await;
    b.click(".el-dialog__title").await;
    b.until("the list is shut", &format!("{items}.length === 0")).await;
    b.click("[data-test='trial-hyzer']").await;
    b.says("20 throws in all.").await;
    b.click("[data-test='save-trial']").await;
    b.wait("[data-test='trial-next']").await;
    b.says("20 throws left").await;
    let first = b.text("[data-test='trial-next']").await;
    for left in ["19 throws left", "18 throws left"] {
        b.fill("[data-test='throw-distance'] input", "44").await;
        b.fill("[data-test='throw-left'] input", "1").await;
        b.click("[data-test='keep-throw']").await;
        b.says(left).await;
    }
    assert_ne!(b.text("[data-test='trial-next']").await, first);
    b.open("/field?session=demo-approach").await;
    b.wait("[data-test='trial-words']").await;
    assert!(b.text("[data-test='trial-words']").await.contains("For 45 m, within 5 m"));
    b.click("[data-test='keep-2']").await;
    b.says("New Corbel is carried").await;
    b.wait("[data-test='bench-2']").await;
    b.click("[data-test='month-0']").await;
    b.says("Newel is on trial for a month").await;
    b.says("on trial until 20").await;
    b.click("[data-test='keep-0']").await;
    b.says("Newel is kept").await;
    b.close().await;
}
