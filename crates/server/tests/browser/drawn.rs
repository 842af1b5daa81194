//! A line drawn by hand: by keys and by mouse, from a shape, mirrored, taken back, kept.

use crate::harness::Browser;

const UP: &str = "\u{e013}";
const DOWN: &str = "\u{e015}";
const LEFT: &str = "\u{e012}";
const SHIFT: &str = "\u{e008}";

/// Where a mark says it is.
async fn place(b: &Browser, handle: &str) -> String {
    let script =
        format!("return document.querySelector('[data-handle=\"{handle}\"]').getAttribute('aria-valuetext')");
    b.eval(&script).await.as_str().unwrap().to_owned()
}

async fn focus(b: &Browser, handle: &str) {
    b.eval(&format!("document.querySelector('[data-handle=\"{handle}\"]').focus()")).await;
}

#[tokio::test]
async fn a_line_is_drawn_by_keys_and_mouse_and_kept_as_drawn() {
    let b = Browser::demo().await;
    b.open("/lines").await;
    b.wait("[data-line] .marks").await;
    b.click("[data-test='add-line']").await;
    b.fill("input[data-test='line-name']", "Round the pines").await;
    // The best discs of the bag are flown on it at once.
    b.until("flown", "document.querySelectorAll(\"[data-test='line-best'] li b\").length === 3").await;
    assert_eq!(place(&b, "target").await, "70.0 m");
    focus(&b, "target").await;
    b.key(&format!("{SHIFT}{UP}{UP}{UP}{SHIFT}")).await;
    assert_eq!(place(&b, "target").await, "73.0 m");
    b.key(UP).await;
    assert_eq!(place(&b, "target").await, "73.1 m");
    b.click("[data-test='line-undo']").await;
    b.until(
        "taken back",
        "document.querySelector('[data-handle=target]').getAttribute('aria-valuetext') === '73.0 m'",
    )
    .await;
    // Taken back to where it began, and no farther; what is typed beside it stays.
    b.fill("input[data-test='line-meaning']", "Left of the old pine").await;
    for _ in 0..3 {
        b.click("[data-test='line-undo']").await;
    }
    let begun = "document.querySelector('[data-handle=target]').getAttribute('aria-valuetext') === '70.0 m'";
    b.until(
        "as it began",
        &format!("{begun} && document.querySelector(\"[data-test='line-undo']\").disabled"),
    )
    .await;
    let typed =
        "return ['name', 'meaning'].map(f => document.querySelector(`input[data-test=line-${f}]`).value)";
    assert_eq!(b.eval(typed).await, serde_json::json!(["Round the pines", "Left of the old pine"]));
    // A corner to begin from, and its gate pulled farther by mouse.
    b.click("[data-test='line-shape']").await;
    b.until("shapes", "[...document.querySelectorAll('.el-select-dropdown__item')].some(e => e.innerText.includes('to the left'))").await;
    b.eval("[...document.querySelectorAll('.el-select-dropdown__item')].find(e => e.innerText.includes('to the left')).click()").await;
    b.wait("[data-handle='gate-0']").await;
    let before = place(&b, "left-0").await;
    let from = b.middle("[data-handle='gate-0'] .knob").await;
    b.drag(from, (from.0 + 12.0, from.1 + 20.0), true).await;
    let after = place(&b, "left-0").await;
    assert_ne!(before, after);
    // Mirrored, its right edge is where its left was.
    b.click("[data-test='line-mirror']").await;
    let mirrored = after.replace("left", "*").replace("right", "left").replace('*', "right");
    b.until("mirrored", &format!("document.querySelector('[data-handle=\"right-0\"]').getAttribute('aria-valuetext') === '{mirrored}'")).await;
    // A roof on the profile, lowered by keys.
    b.click("[data-test='line-roof']").await;
    focus(&b, "roof").await;
    b.key(&format!("{SHIFT}{UP}{SHIFT}")).await;
    assert_eq!(place(&b, "roof").await, "9.0 m");
    focus(&b, "width").await;
    b.key(LEFT).await;
    let drawn = (
        place(&b, "target").await,
        place(&b, "gate-0").await,
        place(&b, "left-0").await,
        place(&b, "width").await,
    );
    b.click("[data-test='line-save']").await;
    b.until(
        "listed",
        "[...document.querySelectorAll('[data-line]')].some(e => e.innerText.includes('Round the pines'))",
    )
    .await;
    // Opened again it is as it was drawn.
    b.eval("[...document.querySelectorAll('[data-line]')].find(e => e.innerText.includes('Round the pines')).querySelector(\"[data-test='edit-line']\").click()").await;
    b.wait("[data-handle='gate-0']").await;
    let again = (
        place(&b, "target").await,
        place(&b, "gate-0").await,
        place(&b, "left-0").await,
        place(&b, "width").await,
    );
    assert_eq!(again, drawn);
    b.close().await;
}

async fn pick(b: &Browser, select: &str, option: &str) {
    b.click(&format!("[data-test='{select}']")).await;
    let items = "[...document.querySelectorAll('.el-select-dropdown__item')]";
    let shown = format!("e.innerText === '{option}' && e.getClientRects().length > 0");
    b.until(option, &format!("{items}.some(e => {shown})")).await;
    b.eval(&format!("{items}.find(e => {shown}).click()")).await;
}

/// Water and a slope are drawn onto a line: what they do is told at once, in the chance, in strokes and in words, and they are
/// kept as drawn.
#[tokio::test]
async fn water_and_a_slope_are_drawn_and_what_they_cost_is_told() {
    let b = Browser::demo().await;
    b.open("/lines?edit=new").await;
    b.fill("input[data-test='line-name']", "Along the reservoir").await;
    b.until("flown", "document.querySelectorAll(\"[data-test='line-best'] li b\").length === 3").await;
    pick(&b, "line-add", "Water").await;
    b.wait("[data-handle='thing-0-corner-3']").await;
    // Its near edge pulled to the zone: the corners toward the line, two metres each.
    for corner in ["thing-0-corner-2", "thing-0-corner-3"] {
        focus(&b, corner).await;
        b.key(&format!("{SHIFT}{LEFT}{LEFT}{LEFT}{LEFT}{SHIFT}")).await;
    }
    let near = place(&b, "thing-0-corner-3").await;
    b.until("its price", "document.querySelector(\"[data-test='line-best']\").innerText.includes('worth')")
        .await;
    // In figures beside: dearer, and never got back.
    b.fill("[data-test='thing-strokes'] input", "2").await;
    b.fill("[data-test='thing-lost'] input", "100").await;
    b.until("told", "document.querySelector(\"[data-test='line-risk']\")?.innerText.includes('lose it')")
        .await;
    // The target five metres below the tee, by keys on the profile.
    pick(&b, "line-add", "Slope").await;
    b.wait("[data-handle='rise-0']").await;
    focus(&b, "rise-0").await;
    b.key(&format!("{SHIFT}{DOWN}{DOWN}{DOWN}{DOWN}{DOWN}{SHIFT}")).await;
    assert_eq!(place(&b, "rise-0").await, "\u{2212}5.0 m");
    b.click("[data-test='line-mirror']").await;
    b.click("[data-test='line-undo']").await;
    b.until("its edge again", &format!("document.querySelector('[data-handle=\"thing-0-corner-3\"]').getAttribute('aria-valuetext') === '{near}'")).await;
    b.click("[data-test='line-save']").await;
    b.until("listed", "[...document.querySelectorAll('[data-line]')].some(e => e.innerText.includes('Along the reservoir'))").await;
    b.eval("[...document.querySelectorAll('[data-line]')].find(e => e.innerText.includes('Along the reservoir')).querySelector(\"[data-test='edit-line']\").click()").await;
    b.wait("[data-thing='0'] .name").await;
    b.click("[data-thing='0'] .name").await;
    b.wait("[data-handle='thing-0-corner-3']").await;
    assert_eq!(place(&b, "thing-0-corner-3").await, near);
    assert_eq!(place(&b, "rise-0").await, "\u{2212}5.0 m");
    let kept =
        "return ['strokes', 'lost'].map(f => document.querySelector(`[data-test=thing-${f}] input`).value)";
    assert_eq!(b.eval(kept).await, serde_json::json!(["2", "100"]));
    // A copy stands beside it.
    b.click("[data-test='line-copy']").await;
    b.until("copied", "[...document.querySelectorAll('[data-line]')].some(e => e.innerText.includes('Along the reservoir, copy'))").await;
    b.eval("[...document.querySelectorAll('[data-line]')].find(e => e.innerText.includes('Along the reservoir, copy')).querySelector(\"[data-test='open-line']\").click()").await;
    // Opened, its water lies where it was drawn, and the throws are flown on it.
    b.wait("[data-test='chance'] .land polygon").await;
    b.wait("[data-test='chance'] [data-disc]").await;
    b.close().await;
}
