//! The computer puts a bag together.

use crate::harness::Browser;

const VERDICT: &str = "[data-test='build-verdict']";
const SETTLED: &str = "document.querySelector(\"[data-test='build-verdict']\") && \
    !document.querySelector('.answer[aria-busy=true]')";

async fn built(b: &Browser) {
    b.until("built", SETTLED).await;
}

#[tokio::test]
async fn the_best_bag_is_proven_made_and_undone() {
    let b = Browser::demo().await;
    b.open("/build").await;
    b.wait(VERDICT).await;
    built(&b).await;
    assert!(b.text("[data-test='build-proof']").await.starts_with("Proven"));
    assert!(b.text(VERDICT).await.contains("fewer than"), "the demo's bag has faults");
    assert!(!b.text("[data-test='comes']").await.contains("nothing"));
    // Every peg that is wanted has a disc once that is wished.
    let empty = "document.querySelectorAll(\"[data-test='proposed-board'] .socket.empty\").length";
    b.until("some peg is empty", &format!("{empty} > 0")).await;
    b.click("[data-test='wish-pegs']").await;
    b.until("every peg is filled", &format!("{empty} === 0")).await;
    built(&b).await;
    // The wish is kept over a reload, priced, and can be taken back.
    b.open("/build?view=prices").await;
    b.wait("[data-wish='every wanted peg filled']").await;
    b.click("[data-test='forget']").await;
    b.until("taken back", "!document.querySelector(\"[data-wish='every wanted peg filled']\")").await;
    built(&b).await;
    b.click("[data-test='make-bag']").await;
    b.until("the new bag is shown", "location.pathname === '/'").await;
    b.wait("[data-test='bag-choice']").await;
    b.until("named", "document.querySelector('h1').innerText.endsWith(', built')").await;
    b.key("z").await;
    b.until("undone", "!document.querySelector('h1').innerText.endsWith(', built')").await;
    b.close().await;
}

#[tokio::test]
async fn wishes_that_cannot_be_kept_are_named() {
    let b = Browser::demo().await;
    b.open("/build").await;
    built(&b).await;
    b.fill("[data-test='wish-capacity'] input", "3").await;
    b.click(".wishes details summary").await;
    b.fill("[data-test='wish-putter-least'] input", "4").await;
    b.until(
        "refused",
        "document.querySelector(\"[data-test='build-verdict']\").innerText.startsWith('No bag')",
    )
    .await;
    b.click("[data-test='build-view'] label:nth-child(3)").await;
    b.until(
        "named",
        "document.querySelector(\"[data-wish='at least 4 putter']\")?.innerText.includes('only without it')",
    )
    .await;
    b.close().await;
}

#[tokio::test]
async fn what_there_is_to_know_about_the_best_bag_is_shown() {
    let b = Browser::demo().await;
    for (view, shows) in [
        ("sizes", "[data-size='22']"),
        ("near", "[data-test='always']"),
        ("shopping", "[data-test='to-buy'] article"),
        ("schools", "[data-school='Beginner'] .discs"),
    ] {
        b.open(&format!("/build?view={view}")).await;
        b.wait(shows).await;
    }
    b.close().await;
}
