//! Reading a throw: what it did is said or drawn, and the likeliest errors of its release are told.

use crate::harness::Browser;

/// Each throw of a session is read; what else was seen of one makes it surer; the habit and the disc for a form check are told.
#[tokio::test]
async fn a_measured_throw_is_read() {
    let b = Browser::demo().await;
    b.open("/field?session=demo-ladder").await;
    b.says("No habit shows in 28 throws").await;
    b.says("What they may share").await;
    let all =
        "[...document.querySelectorAll('[data-test=throws] button')].find(e => e.innerText === 'All 28')";
    b.until("all throws can be shown", all).await;
    b.eval(&format!("{all}.click()")).await;
    b.click("[data-read='18']").await;
    b.wait("[data-test='readings'] [data-fault]").await;
    b.says("Where it ended was measured").await;
    let share = "parseInt(document.querySelector('[data-fault=early] .share')?.textContent ?? '0')";
    let before = b.eval(&format!("return {share}")).await.as_f64().unwrap();
    b.click("[data-said='first left']").await;
    b.click("[data-said='landed left_edge']").await;
    b.until("it left to the left, so rather early", &format!("{share} > {before}")).await;
    b.click("[data-test='keep-reading']").await;
    b.until("the form is gone", "!document.querySelector('[data-test=read-throw]')").await;
    b.open("/field?session=demo-ladder&read=demo-ladder-17").await;
    let pressed = "document.querySelector(`[data-said='landed left_edge']`)?.ariaPressed === 'true'";
    b.until("it is kept", pressed).await;
    b.click("[data-test='cancel-reading']").await;
    b.until("the form is gone", "!document.querySelector('[data-test=read-throw]')").await;
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
    b.says("Throw 1").await;
    b.click("[data-disc='Lintel']").await;
    b.click("[data-test='keep-throw']").await;
    b.says("not measured").await;
    b.click("[data-read='1']").await;
    b.says("Say how far it went first").await;
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
    b.says("guessed by eye").await;
    b.until("it is drawn as one that does not count", "!!document.querySelector('.throw[fill=none]')").await;
    b.says("0 measured: too few to tell a habit").await;
    b.close().await;
}

/// What errors cost is told in order, each opens to its lines and its drill, and a drill is begun as a session with one click.
#[tokio::test]
async fn a_drill_is_begun_with_one_click() {
    let b = Browser::demo().await;
    b.open("/field?view=practise").await;
    b.wait("[data-error='putt aim']").await;
    assert!(b.text("[data-test='practice-words']").await.starts_with("Practise "));
    b.click("[data-error='putt aim'] summary").await;
    b.says("Round the basket, 20 throws.").await;
    b.says("Not yet, by the usual rule").await;
    b.click("[data-test='practice-style'] label:nth-child(2)").await;
    b.says("The log does not say yet").await;
    b.click("[data-test='drill-putt-aim']").await;
    b.says("Throw 1").await;
    b.says("Five putts from each of four sides").await;
    b.close().await;
}
