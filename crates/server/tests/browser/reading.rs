//! Reading a throw: what it did is said or drawn, and the likeliest errors of its release are told.

use crate::harness::Browser;

async fn says(b: &Browser, what: &str) {
    b.until(what, &format!("document.body.innerText.includes('{what}')")).await;
}

/// Each throw of a session is read; what else was seen of one makes it surer; the habit and the disc for a form check are told.
#[tokio::test]
async fn a_measured_throw_is_read() {
    let b = Browser::demo().await;
    b.open("/field?session=demo-ladder").await;
    says(&b, "No habit shows in 28 throws").await;
    says(&b, "What they may share").await;
    b.click("[data-read='28']").await;
    b.wait("[data-test='readings'] [data-fault]").await;
    says(&b, "Where it ended was measured").await;
    let share = "parseInt(document.querySelector('[data-fault=hyzer] .share')?.textContent ?? '0')";
    let before = b.eval(&format!("return {share}")).await.as_f64().unwrap();
    b.click("[data-said='first left']").await;
    b.click("[data-said='landed left_edge']").await;
    b.until("it faded at once, so rather hyzer", &format!("{share} > {before}")).await;
    b.click("[data-test='keep-reading']").await;
    b.until("the form is gone", "!document.querySelector('[data-test=read-throw]')").await;
    b.open("/field?session=demo-ladder").await;
    b.click("[data-read='28']").await;
    let pressed = "document.querySelector(`[data-said='landed left_edge']`)?.ariaPressed === 'true'";
    b.until("it is kept", pressed).await;
    b.key("Escape").await;
    b.click("[data-test='form-check']").await;
    b.until(
        "the disc is laid ready",
        "document.querySelector(`[data-disc='Bracken']`)?.ariaPressed === 'true'",
    )
    .await;
    b.close().await;
}

/// A throw that nobody measured is drawn from the tee to where it ended: it is read, kept as a guess, and measures nothing.
#[tokio::test]
async fn a_throw_that_was_not_measured_is_drawn() {
    let b = Browser::demo().await;
    b.open("/field").await;
    b.click("[data-test='begin-session']").await;
    b.fill("input[data-test='session-place']", "Vell sands").await;
    b.click("[data-test='save-session']").await;
    says(&b, "Throw 1").await;
    b.click("[data-disc='Lintel']").await;
    b.click("[data-test='keep-throw']").await;
    says(&b, "not measured").await;
    b.click("[data-read='1']").await;
    says(&b, "Say how far it went first").await;
    let plan = "[data-test='read-throw'] [data-picture='plan']";
    let (x, y) = b.middle(plan).await;
    b.drag((x, y + 110.0), (x - 40.0, y - 60.0), true).await;
    b.wait("[data-test='readings'] [data-fault]").await;
    let far = "Number(document.querySelector(`[data-test='read-far'] input`).value)";
    b.until("how far it went", &format!("{far} > 30 && {far} < 120")).await;
    b.click("[data-said='height higher']").await;
    // A way that is not what was seen can be typed over.
    b.fill("[data-test='read-far'] input", "61").await;
    b.until("it is taken", &format!("{far} === 61")).await;
    b.wait("[data-test='readings'] [data-fault]").await;
    b.click("[data-test='keep-reading']").await;
    says(&b, "guessed by eye").await;
    b.until("it is drawn as one that does not count", "!!document.querySelector('.throw[fill=none]')").await;
    says(&b, "0 measured: too few to tell a habit").await;
    b.close().await;
}
