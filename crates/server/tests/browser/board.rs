//! The board in the hand: discs dragged in and out by mouse, finger and keys; forehands, ghosts, paper.

use serde_json::{Value, json};

use crate::harness::Browser;

const TAB: &str = "\u{e004}";
const ENTER: &str = "\u{e007}";
const ESCAPE: &str = "\u{e00c}";

/// The first disc of the shelf strip: its number and its name.
async fn first_chip(b: &Browser) -> (i64, String) {
    b.until("strokes are known", "document.querySelector('.chip b')").await;
    let chip = b.eval("const c = document.querySelector('[data-chip]'); return [Number(c.dataset.chip), c.querySelector('span').innerText]").await;
    (chip[0].as_i64().unwrap(), chip[1].as_str().unwrap().to_owned())
}

fn is_on_board(id: i64) -> String {
    format!("document.querySelector('[data-disc=\"{id}\"]')")
}

#[tokio::test]
async fn a_disc_is_dragged_in_and_out_by_mouse() {
    let b = Browser::demo().await;
    b.open("/").await;
    let (id, name) = first_chip(&b).await;
    let chip = b.middle("[data-chip]").await;
    let board = b.middle("[data-slot='putter'] .track").await;
    b.drag(chip, board, false).await;
    b.until(
        "told before it is dropped",
        "document.querySelector(\"[data-test='held']\")?.innerText.includes('Let go to carry it.')",
    )
    .await;
    b.until("its place is shown", "document.querySelector(\"[data-test='coming']\")").await;
    let told = b.text("[data-test='held']").await;
    assert!(told.contains(&name) && told.contains("Saves 0."), "{told}");
    assert!(
        b.eval(&format!("return {}", is_on_board(id))).await.is_null(),
        "nothing moves before it is dropped"
    );
    b.mouse("mouseReleased", board).await;
    b.until("it is on the board", &is_on_board(id)).await;
    let shown = b.eval("return location.search").await;
    assert_eq!(shown, "", "a drag is no click: nothing is opened");

    // Off the board again, to the top of the page.
    let puck = b.middle(&format!("[data-disc='{id}'] svg")).await;
    b.drag(puck, (600.0, 120.0), true).await;
    b.until("it is benched", &format!("!{}", is_on_board(id))).await;

    // Dropped beside the board it stays where it is.
    b.until("it is back on the strip", &format!("document.querySelector('[data-chip=\"{id}\"]')")).await;
    let chip = b.middle(&format!("[data-chip='{id}']")).await;
    b.drag(chip, (600.0, 120.0), true).await;
    assert!(b.eval(&format!("return {}", is_on_board(id))).await.is_null());
    b.close().await;
}

#[tokio::test]
async fn a_disc_is_carried_and_benched_by_keys_and_keeps_the_focus() {
    let b = Browser::demo().await;
    b.open("/").await;
    let (id, name) = first_chip(&b).await;
    b.eval(&format!("document.querySelector('[data-chip=\"{id}\"]').focus()")).await;
    b.key(" ").await;
    b.until(
        "said aloud",
        &format!("document.querySelector(\"[data-test='held-words']\").innerText.includes('{name}. ') && document.querySelector(\"[data-test='held-words']\").innerText.includes('Enter carries it')"),
    )
    .await;
    b.key(ESCAPE).await;
    b.until("put back", "!document.querySelector(\"[data-test='held']\")").await;
    b.key(" ").await;
    b.key(ENTER).await;
    b.until("carried, with the focus", &format!("document.activeElement?.dataset.disc === '{id}'")).await;
    b.key(" ").await;
    b.until(
        "held on the board",
        "document.querySelector(\"[data-test='held']\")?.innerText.includes('Enter benches it')",
    )
    .await;
    b.key(ENTER).await;
    b.until("benched, with the focus", &format!("document.activeElement?.dataset.chip === '{id}'")).await;
    // What is held is let go by going on.
    b.key(" ").await;
    b.key(TAB).await;
    b.until("let go", "!document.querySelector(\"[data-test='held']\")").await;
    b.close().await;
}

#[tokio::test]
async fn a_finger_that_rests_picks_a_disc_up() {
    let b = Browser::demo().await;
    b.size(390, 844).await;
    b.open("/").await;
    b.wait("[data-test='strip-fold']").await;
    b.eval("localStorage.setItem('zinc-kite-strip', 'true')").await;
    b.open("/").await;
    let (id, _) = first_chip(&b).await;
    b.eval("document.querySelector('[data-slot=\"fairway\"]').scrollIntoView({ block: 'center' })").await;
    assert_eq!(
        b.eval("return document.documentElement.scrollWidth").await,
        390,
        "nothing sticks out at the side"
    );
    let (x, y) = b.middle("[data-chip]").await;
    b.devtools("Emulation.setTouchEmulationEnabled", json!({ "enabled": true })).await;
    let touch = |kind: &str, points: Value| json!({ "type": kind, "touchPoints": points });
    b.devtools("Input.dispatchTouchEvent", touch("touchStart", json!([{ "x": x, "y": y }]))).await;
    b.until("picked up", "document.querySelector(\"[data-test='held']\")").await;
    let (to_x, to_y) = b.middle("[data-slot='fairway'] .track").await;
    for k in 1..=6 {
        let part = f64::from(k) / 6.0;
        let point = json!([{ "x": x + part * (to_x - x), "y": y + part * (to_y - y) }]);
        b.devtools("Input.dispatchTouchEvent", touch("touchMove", point)).await;
    }
    b.until(
        "over the board",
        "document.querySelector(\"[data-test='held']\")?.innerText.includes('Let go to carry it.')",
    )
    .await;
    b.devtools("Input.dispatchTouchEvent", touch("touchEnd", json!([]))).await;
    b.until("carried", &is_on_board(id)).await;
    b.close().await;
}

#[tokio::test]
async fn the_board_turns_to_forehands_and_shows_where_discs_would_be() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.wait(".puck").await;
    let finish =
        |name: &str| format!("Number(document.querySelector(\".puck[data-name='{name}']\").dataset.finish)");
    let backhand = b.eval(&format!("return {}", finish("Transom"))).await.as_f64().unwrap();
    assert!(backhand > 5.0, "a right-hander's backhand fades left");
    b.click("[data-test='board-style'] label:last-child").await;
    b.until("a forehand fades right", &format!("{} < -5", finish("Transom"))).await;
    assert_eq!(b.eval("return location.search").await, "?style=forehand", "it can be shared");
    b.open("/?also=worn").await;
    b.until("ghosts", "document.querySelectorAll('[data-ghost]').length > 5").await;
    b.open("/?also=ahead").await;
    b.until("ghosts of wind", "document.querySelectorAll('[data-ghost]').length > 5").await;
    assert!(b.text(".legend").await.contains("where the disc finishes then"));
    for file in ["png", "svg"] {
        b.click("[data-test='board-export']").await;
        b.click(&format!("[data-test='board-{file}']")).await;
        let said =
            format!("document.querySelector('.notice')?.innerText.includes('as {}')", file.to_uppercase());
        b.until("written", &said).await;
    }
    b.close().await;
}

/// A full bag of 25 discs on a desk: every disc and every name stands free, and all of it prints on one page.
#[tokio::test]
async fn twenty_five_discs_stand_free_and_print_on_one_page() {
    let b = Browser::demo().await;
    b.open("/").await;
    let fill = "const [bag, discs] = await Promise.all(['/api/bags/1', '/api/discs'].map(a => fetch(a).then(r => r.json()))); \
        const free = discs.filter(d => !bag.carried.some(c => c.disc_id === d.id)).slice(0, 25 - bag.carried.length); \
        await fetch('/api/bags/1', { method: 'PUT', headers: { 'content-type': 'application/json', 'if-match': bag.etag }, body: JSON.stringify({ capacity: 25 }) }); \
        const now = await fetch('/api/bags/1').then(r => r.json()); \
        await fetch('/api/bags/1/moves', { method: 'POST', headers: { 'content-type': 'application/json', 'if-match': now.etag }, \
            body: JSON.stringify({ carry: free.map(d => ({ disc_id: d.id, spare: false })), bench: [] }) })";
    b.eval(fill).await;
    b.open("/").await;
    b.until("all on the board", "document.querySelectorAll('.puck').length === 25").await;
    b.settled().await;
    let overlapping = "const boxes = [...document.querySelectorAll('.puck')].map(p => ({ name: p.innerText, \
            parts: [...p.children].map(c => c.getBoundingClientRect()) })); \
        const meet = (a, b) => a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1; \
        return boxes.flatMap((p, k) => boxes.slice(k + 1).filter(q => p.parts.some(a => q.parts.some(b => meet(a, b)))).map(q => `${p.name} / ${q.name}`))";
    assert_eq!(b.eval(overlapping).await, json!([]));
    let wide = b.eval("return document.documentElement.scrollWidth <= innerWidth").await;
    assert_eq!(wide, true, "nothing sticks out at the side");
    assert_eq!(pages(&b).await, 1);
    let text =
        b.eval("return document.querySelectorAll(\"[data-test='print-sheet'] tbody tr\").length").await;
    assert_eq!(text, 25);
    b.close().await;
}

async fn pages(b: &Browser) -> usize {
    use base64::Engine;
    let printed = b.devtools("Page.printToPDF", json!({ "preferCSSPageSize": true })).await;
    let bytes = base64::engine::general_purpose::STANDARD.decode(printed["data"].as_str().unwrap()).unwrap();
    String::from_utf8_lossy(&bytes).matches("/Type /Page\n").count()
}
