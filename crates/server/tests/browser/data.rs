//! Records: undone after a reload, kept apart between two windows, copied and brought back, locked.

use std::io::Write;
use std::process::{Command, Stdio};

use crate::harness::Browser;

/// Another window changes a thing: what is to be different, in JSON.
async fn elsewhere(b: &Browser, path: &str, part: &str) {
    let script = format!(
        "const now = await (await fetch('{path}')).json(); \
         return (await fetch('{path}', {{ method: 'PUT', body: JSON.stringify({{ ...now, ...{part} }}), \
            headers: {{ 'content-type': 'application/json', 'if-match': now.etag, 'zinc-window': 'another' }} }})).status"
    );
    assert_eq!(b.eval(&script).await, 200);
}

async fn bag_is(b: &Browser, what: &str, script: &str) {
    let now = format!("const bag = await (await fetch('/api/bags/1')).json(); return {script}");
    assert_eq!(b.eval(&now).await, true, "{what}");
}

#[tokio::test]
async fn changes_are_listed_and_undone_after_a_reload() {
    let b = Browser::demo().await;
    b.open("/shelf").await;
    b.click("[data-row='4'] [data-test='row-more']").await;
    b.click("[data-test='row-delete']").await;
    b.until("gone", "!document.querySelector(\"[data-row='4']\")").await;
    b.open("/data").await;
    let listed = b.text("[data-change]").await;
    assert!(listed.contains("is deleted") && listed.contains(": removed"), "{listed}");
    b.eval("location.reload()").await;
    b.wait("[data-change]").await;
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.until("undone", "document.querySelector('[data-change].undone')").await;
    b.key("Z").await;
    b.until("done again", "document.querySelector('[data-change].done')").await;
    b.click("[data-change] [data-test='turn']").await;
    b.until("undone by its button", "document.querySelector('[data-change].undone')").await;
    b.open("/shelf").await;
    b.wait("[data-row='4']").await;
    b.close().await;
}

#[tokio::test]
async fn two_windows_merge_what_does_not_touch_and_ask_about_what_does() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.click("[data-test='bag-edit']").await;
    b.fill("[data-test='capacity'] input", "21").await;
    elsewhere(&b, "/api/bags/1", "{ event_cap_g: 178 }").await;
    b.click("[data-test='bag-save']").await;
    b.until("merged", "document.querySelector('.notice')?.innerText.includes('kept: event cap')").await;
    bag_is(&b, "both are there", "bag.capacity === 21 && bag.event_cap_g === 178").await;
    // A season that was being judged meanwhile is judged anew.
    b.until("of the new cap", "document.body.innerText.includes('the cap is 178 g')").await;

    b.click("[data-test='bag-edit']").await;
    b.fill("[data-test='capacity'] input", "20").await;
    elsewhere(&b, "/api/bags/1", "{ capacity: 18 }").await;
    b.click("[data-test='bag-save']").await;
    let asked = b.text("[data-test='clash']").await;
    assert!(asked.contains("capacity\t18\t20") || asked.contains("capacity 18 20"), "{asked}");
    bag_is(&b, "nothing is saved yet", "bag.capacity === 18").await;
    if let Some(folder) = std::env::var_os("ZINC_KITE_SHOTS") {
        let shot = |name: &str| std::path::Path::new(&folder).join(name);
        b.picture(&shot("clash.png")).await;
        b.eval("document.documentElement.classList.add('dark')").await;
        b.picture(&shot("clash-dark.png")).await;
        b.eval("document.documentElement.classList.remove('dark')").await;
        b.size(390, 844).await;
        b.picture(&shot("clash-phone.png")).await;
        b.size(1280, 800).await;
    }
    b.click("[data-test='keep-mine']").await;
    b.until("saved", "!document.querySelector(\"[data-test='clash']\")").await;
    bag_is(&b, "mine counts", "bag.capacity === 20").await;

    // Looked at again, this window tells what the other did.
    elsewhere(&b, "/api/bags/1", "{ name: 'Winter' }").await;
    b.eval("window.dispatchEvent(new Event('focus'))").await;
    b.until(
        "told",
        "document.querySelector('.notice')?.innerText.includes('In another window: Winter is saved')",
    )
    .await;
    b.close().await;
}

#[tokio::test]
async fn what_is_typed_stays_when_another_window_saves() {
    let b = Browser::demo().await;
    b.open("/player").await;
    b.settled().await;
    b.fill("[data-test='player-backhand_m'] input", "99").await;
    elsewhere(&b, "/api/player", "{ forehand_m: 70 }").await;
    b.eval("window.dispatchEvent(new Event('focus'))").await;
    b.until("told", "document.querySelector('.notice')?.innerText.includes('In another window')").await;
    let typed = "document.querySelector(\"[data-test='player-backhand_m'] input\").value";
    assert_eq!(b.eval(&format!("return {typed}")).await, "99");
    b.click("[data-test='player-save']").await;
    // That the other window saved it is told in the same words, after its own.
    b.until("saved", "document.querySelector('.notice')?.innerText.trim().startsWith('The player is saved')")
        .await;
    let player = "const p = await (await fetch('/api/player')).json(); return [p.backhand_m, p.forehand_m]";
    assert_eq!(b.eval(player).await, serde_json::json!([99, 70]));
    b.close().await;
}

#[tokio::test]
async fn a_backup_is_taken_looked_at_and_brought_back() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    let b = Browser::on(&["serve", "--db", db.to_str().unwrap(), "--new"]).await;
    b.open("/data").await;
    assert!(b.text("[data-test='path']").await.ends_with("mine.db"));
    let copy = folder.path().join("copy.db");
    let program = env!("CARGO_BIN_EXE_zinc-kite");
    let done =
        Command::new(program).args(["backup", copy.to_str().unwrap(), "--db", db.to_str().unwrap()]).status();
    assert!(done.unwrap().success());
    let add = "const r = await fetch('/api/bags', { method: 'POST', headers: { 'content-type': 'application/json' }, \
        body: JSON.stringify({ name: 'Second', capacity: 9 }) }); return r.status";
    assert_eq!(b.eval(add).await, 201);
    b.open("/data").await;
    b.wait("[data-test='restore-file']").await.send_keys(copy.to_str().unwrap()).await.unwrap();
    let preview = b.text("[data-test='preview']").await;
    assert!(
        preview.contains("holds 0 discs, 1 bag") && preview.contains("Now there is 0 discs, 2 bags"),
        "{preview}"
    );
    b.click("[data-test='restore']").await;
    let told = b.text("[data-test='restored']").await;
    assert!(told.contains("is brought back") && told.contains(".before-"), "{told}");
    assert_eq!(b.eval("return (await (await fetch('/api/bags')).json()).length").await, 1);

    let text = folder.path().join("notes.db");
    std::fs::write(&text, "no database at all").unwrap();
    b.wait("[data-test='restore-file']").await.send_keys(text.to_str().unwrap()).await.unwrap();
    b.until(
        "refused",
        "document.querySelector('.notice.error')?.innerText.includes('no backup of Zinc Kite')",
    )
    .await;
    b.close().await;
}

#[tokio::test]
async fn a_locked_program_asks_for_its_password() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    let mut set = Command::new(env!("CARGO_BIN_EXE_zinc-kite"))
        .args(["password", "--db", db.to_str().unwrap()])
        .stdin(Stdio::piped())
        .stdout(Stdio::null())
        .spawn()
        .unwrap();
    set.stdin.take().unwrap().write_all(b"a long walk home\n").unwrap();
    assert!(set.wait().unwrap().success());
    let b = Browser::on(&[
        "serve",
        "--db",
        db.to_str().unwrap(),
        "--new",
        "--name",
        "bag.example",
        "--host",
        "127.0.0.1",
    ])
    .await;
    b.open("/").await;
    if let Some(folder) = std::env::var_os("ZINC_KITE_SHOTS") {
        b.wait("[data-test='password']").await;
        b.picture(&std::path::Path::new(&folder).join("log-in.png")).await;
    }
    b.fill("[data-test='password']", "a short walk").await;
    b.click("[data-test='log-in']").await;
    b.until("refused", "document.querySelector('.problem')?.innerText.includes('not the password')").await;
    b.fill("[data-test='password']", "a long walk home").await;
    b.click("[data-test='log-in']").await;
    b.wait("[data-test='walk-next']").await;
    b.eval("location.reload()").await;
    b.wait("[data-test='walk-next']").await;
    // The way in for a phone stands on the Data page.
    b.open("/data").await;
    let addresses = b.text("[data-test='addresses']").await;
    assert!(addresses.contains("http://bag.example:"), "{addresses}");
    b.until("the code is drawn", "document.querySelector('.phone img')?.naturalWidth > 0").await;
    if let Some(folder) = std::env::var_os("ZINC_KITE_SHOTS") {
        b.picture(&std::path::Path::new(&folder).join("data-locked.png")).await;
    }
    b.close().await;
}
