//! From a move of the wind dial to the pixels that show it: `cargo xtask bench` prints it, nothing is asserted.

use crate::harness::Browser;

/// Moves the dial, waits for the board to follow and for the frame after that to be painted, and gives the milliseconds.
const MOVE: &str = "
    const [value, done] = arguments;
    const board = document.querySelector('.board');
    const dial = document.querySelector('[data-test=\"dial-wind\"]');
    const where = () => [...board.querySelectorAll('.puck')].map(p => p.dataset.finish).join();
    const before = where();
    const start = performance.now();
    const watch = new MutationObserver(() => {
        if (where() === before) return;
        watch.disconnect();
        requestAnimationFrame(() => setTimeout(() => done(performance.now() - start)));
    });
    watch.observe(board, { subtree: true, attributes: true, childList: true });
    dial.value = value;
    dial.dispatchEvent(new Event('input', { bubbles: true }));
";

#[tokio::test]
#[ignore = "a measurement; run by `cargo xtask bench`"]
async fn dial_to_pixels() {
    let browser = Browser::demo().await;
    browser.open("/").await;
    browser.wait("[data-finding]").await;
    let mut times = Vec::new();
    for k in 1..=15 {
        browser.settled().await;
        let value = serde_json::json!(0.5 * f64::from(k));
        let time = browser.client.execute_async(MOVE, vec![value]).await.unwrap().as_f64().unwrap();
        times.push(time);
    }
    times.sort_by(f64::total_cmp);
    println!(
        "dial to pixels over {} moves: median {:.0} ms, slowest {:.0} ms",
        times.len(),
        times[times.len() / 2],
        times[times.len() - 1]
    );
    browser.close().await;
}
