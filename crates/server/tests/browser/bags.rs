//! Bags side by side, their backups, the distance ladder, the technical standards.

use crate::harness::Browser;

#[tokio::test]
async fn a_copy_is_changed_compared_and_packed_with_backups() {
    let b = Browser::demo().await;
    b.open("/bags").await;
    b.until("one bag", "document.body.innerText.includes('There is one bag')").await;
    let made = "const bag = await (await fetch('/api/bags/1')).json(); \
        return (await (await fetch('/api/bags', { method: 'POST', headers: { 'content-type': 'application/json' }, \
            body: JSON.stringify({ name: 'Winter', capacity: 9, event_cap_g: bag.event_cap_g, carried: bag.carried.slice(0, 9) }) })).json()).id";
    assert_eq!(b.eval(made).await, 2);
    b.open("/bags?a=1&b=2").await;
    let verdict = b.text("[data-test='compare-verdict']").await;
    assert!(verdict.starts_with("Winter costs") && verdict.contains("against Harrier Moor"), "{verdict}");
    // Ten discs fewer do better nowhere.
    assert!(b.text("[data-test='gained']").await.contains("On no line"), "fewer discs gain");
    let lost = b.text("[data-test='lost'] tbody tr").await;
    assert!(lost.contains('%') && lost.ends_with(|c: char| c.is_ascii_digit()), "{lost}");
    // The other way about it is the other way about.
    let cost = |text: &str| {
        text.split("strokes").next().unwrap().chars().filter(|c| c.is_ascii_digit()).collect::<String>()
    };
    b.open("/bags?a=2&b=1").await;
    let back = b.text("[data-test='compare-verdict']").await;
    assert!(back.starts_with("Harrier Moor saves"), "{back}");
    assert_eq!(cost(&back), cost(&verdict));

    b.click("[data-test='pack-backups']").await;
    b.until("packed", "document.querySelector('.notice')?.innerText.includes('Backups is made')").await;
    let kept = "const [bag, packed] = await Promise.all([2, 3].map(async id => (await (await fetch(`/api/bags/${id}`)).json()).carried)); \
        return packed.length > 0 && packed.every(p => !bag.some(c => c.disc_id === p.disc_id))";
    assert_eq!(b.eval(kept).await, true, "a backup is never the disc itself");
    b.close().await;
}

#[tokio::test]
async fn the_ladder_shows_every_disc_of_a_style() {
    let b = Browser::demo().await;
    b.open("/ladder").await;
    b.until("drawn", "document.querySelectorAll('.plot svg path').length > 20 && document.querySelector('.plot svg').clientWidth > 900")
        .await;
    let rungs = b.eval("return document.querySelectorAll('[data-rung]').length").await.as_u64().unwrap();
    assert_eq!(rungs, 17, "19 carried discs, two of which only putt");
    let far = "[...document.querySelectorAll('[data-rung]')].at(-1).children[3].innerText";
    let back = b.eval(&format!("return {far}")).await;
    b.click("[data-test='ladder-style'] label:nth-child(2)").await;
    b.until("shorter", &format!("parseFloat({far}) < parseFloat('{}')", back.as_str().unwrap())).await;
    b.close().await;
}

#[tokio::test]
async fn a_disc_against_the_standards_is_told() {
    let b = Browser::demo().await;
    b.open("/shelf/moulds").await;
    b.click("[data-mould='Newel'] [data-test='edit-mould']").await;
    b.fill("[data-test='mould-diameter_cm'] input", "20.9").await;
    b.click("[data-test='mould-save']").await;
    b.until("saved", "document.querySelector(\"[data-mould='Newel']\").innerText.includes('20.9 cm')").await;
    b.open("/shelf").await;
    b.until(
        "told",
        "document.querySelector(\"[data-row='7'] .where\")?.innerText.includes('not allowed: diameter')",
    )
    .await;
    b.click("[data-row='7'] .name").await;
    let told = b.text("[data-test='standard']").await;
    assert!(told.contains("Not allowed, diameter: 20.9 cm; at least 21 cm"), "{told}");
    b.close().await;
}
