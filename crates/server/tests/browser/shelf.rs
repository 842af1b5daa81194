//! The shelf: several discs at once, moulds, what is kept of a disc, its history.

use crate::harness::Browser;

async fn disc(b: &Browser, id: u32, of: &str) -> serde_json::Value {
    b.eval(&format!("const d = await (await fetch('/api/discs/{id}')).json(); return d.{of}")).await
}

#[tokio::test]
async fn several_discs_are_changed_at_once_and_undone_at_once() {
    let b = Browser::demo().await;
    b.open("/shelf").await;
    for id in [4, 7] {
        b.click(&format!("[data-row='{id}'] [data-test='choose']")).await;
    }
    b.until("two", "document.querySelector(\"[data-test='several']\").innerText.includes('2 chosen')").await;
    b.click("[data-test='several-change']").await;
    b.click("[data-test='several-status']").await;
    b.eval("[...document.querySelectorAll('.el-select-dropdown__item')].filter(e => e.offsetParent).find(e => e.innerText === 'lost').click()").await;
    b.fill("[data-test='several-place']", "the reservoir").await;
    b.click("[data-test='several-apply']").await;
    b.until("lost", "document.querySelector(\"[data-row='4'] .where\").innerText === 'lost'").await;
    assert_eq!(disc(&b, 7, "keeping.place").await, "the reservoir");
    // What is lost is in no bag, and cannot be put into one.
    b.until("out of the bag", "!document.querySelector(\"[data-row='4'] [data-test='row-bench']\")").await;
    assert_eq!(
        b.eval("return document.querySelectorAll(\"[data-row='4'] [data-test='row-carry']\").length").await,
        0
    );
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.until("back", "document.querySelector(\"[data-row='4'] .where\").innerText === 'carried'").await;
    assert_eq!(disc(&b, 7, "keeping.status").await, "ready");

    // All that a search shows, and one like another.
    b.fill("[data-test='find']", "dado").await;
    b.click("[data-test='choose-all']").await;
    b.until("three", "document.querySelector(\"[data-test='several']\").innerText.includes('3 chosen')")
        .await;
    b.click("[data-row='3'] [data-test='row-more']").await;
    b.click("[data-test='row-copy']").await;
    b.until("a copy", "document.querySelectorAll('[data-row]').length === 4").await;
    b.close().await;
}

#[tokio::test]
async fn what_is_kept_of_a_disc_is_told_found_and_undone_from_its_history() {
    let b = Browser::demo().await;
    b.open("/shelf").await;
    b.click("[data-row='9'] .name").await;
    b.click("[data-test='edit']").await;
    b.click(".keeping summary").await;
    b.fill("[data-test='disc-place']", "cellar").await;
    b.click("[data-test='disc-ties']").await;
    b.eval("[...document.querySelectorAll('.el-select-dropdown__item')].filter(e => e.offsetParent).find(e => e.innerText === 'sentimental').click()").await;
    b.click("[data-test='disc-save']").await;
    let kept = b.text("[data-test='keeping']").await;
    assert!(kept.contains("kept in: cellar") && kept.contains("sentimental"), "{kept}");
    let history = "document.querySelector(\"[data-test='history'] [data-change]\")?.innerText";
    b.until("written down", &format!("{history}.includes('place nothing → cellar')")).await;
    b.click("[data-test='history'] [data-test='turn']").await;
    b.until("undone", "!document.querySelector(\"[data-test='keeping']\")").await;
    assert_eq!(disc(&b, 9, "keeping.place").await, "");
    // Another disc's history is its own.
    b.open("/shelf").await;
    b.click("[data-row='7'] .name").await;
    b.until(
        "nothing",
        "document.querySelector(\"[data-test='history']\")?.innerText.includes('Nothing of it')",
    )
    .await;
    b.close().await;
}

#[tokio::test]
async fn a_mould_is_measured_renamed_with_its_discs_and_brings_its_numbers_along() {
    let b = Browser::demo().await;
    b.open("/shelf/moulds").await;
    b.click("[data-mould='Newel'] [data-test='edit-mould']").await;
    b.fill("[data-test='mould-name']", "Baluster").await;
    b.fill("[data-test='mould-rim_depth_cm'] input", "1.4").await;
    b.click("[data-test='mould-save']").await;
    b.until("renamed", "document.querySelector(\"[data-mould='Baluster']\")?.innerText.includes('1.4 cm')")
        .await;
    b.open("/shelf").await;
    b.until(
        "its discs too",
        "document.querySelector(\"[data-row='7']\")?.innerText.includes('Hobb & Tiller Baluster')",
    )
    .await;
    // By the long form: its name is enough.
    b.click("[data-test='add-disc']").await;
    b.fill("[data-test='disc-name']", "A third").await;
    b.fill("[data-test='disc-mould']", "baluster").await;
    b.until("known", "document.querySelector(\"[data-test='disc-maker']\").value === 'Hobb & Tiller'").await;
    b.click("[data-test='disc-save']").await;
    b.until("there", "document.body.innerText.includes('A third is on the shelf')").await;
    b.close().await;
}

/// Two thousand discs are drawn a screen at a time, sorted and found like forty.
#[tokio::test]
async fn two_thousand_discs_scroll() {
    let b = Browser::demo().await;
    b.open("/data").await;
    let many = "const head = 'name,maker,mould,plastic,mass_g,speed,glide,turn,fade\\n'; \
        const rows = Array.from({ length: 1954 }, (_, k) => `Copy ${k},Saltmarsh,Teasel,premium,${150 + k % 30},11,5,-2,2`); \
        return (await (await fetch('/api/shelf/import', { method: 'POST', headers: { 'content-type': 'text/csv' }, \
            body: head + rows.join('\\n') })).json()).imported";
    assert_eq!(b.eval(many).await, 1954);
    b.open("/shelf").await;
    b.wait("[data-row]").await;
    let drawn = b.eval("return document.querySelectorAll('[data-row]').length").await.as_u64().unwrap();
    assert!(drawn < 150, "{drawn} rows are drawn at once");
    b.click("[data-test='sort-name']").await;
    b.click("[data-test='sort-name']").await;
    b.eval("window.scrollTo(0, document.documentElement.scrollHeight)").await;
    b.until(
        "the other end",
        "[...document.querySelectorAll('[data-row] .name')].at(-1)?.innerText.startsWith('Armilla')",
    )
    .await;
    b.eval("window.scrollTo(0, document.documentElement.scrollHeight / 2)").await;
    b.until(
        "the middle is drawn",
        "[...document.querySelectorAll('[data-row]')].some(r => { const y = r.getBoundingClientRect().y; return y > 300 && y < 400 })",
    )
    .await;
    b.fill("[data-test='find']", "copy 1953").await;
    b.until("found", "document.querySelectorAll('[data-row]').length === 1").await;
    b.close().await;
}

/// An open disc has an address: it is kept over a reload, and Back closes it.
#[tokio::test]
async fn an_open_disc_has_an_address_and_back_closes_it() {
    let b = Browser::demo().await;
    b.open("/lines").await;
    b.open("/shelf").await;
    b.click("[data-row='9'] .name").await;
    b.wait(".sheet").await;
    b.until("in the address", "location.search === '?disc=9'").await;
    b.eval("location.reload()").await;
    b.until(
        "kept",
        "document.querySelector('.sheet') && document.querySelector('.head h2')?.innerText === 'Tansy'",
    )
    .await;
    b.client.back().await.unwrap();
    b.until("closed", "location.pathname === '/shelf' && location.search === ''").await;
    b.until(
        "out of sight",
        "![...document.querySelectorAll('.disc-drawer')].some(d => d.getClientRects().length > 0)",
    )
    .await;
    b.client.back().await.unwrap();
    b.until("the page before", "location.pathname === '/lines'").await;
    // One that is not there says so.
    b.open("/?disc=12345").await;
    b.until("told", "document.querySelector('.disc-drawer')?.innerText.includes('no disc 12345')").await;
    b.close().await;
}
