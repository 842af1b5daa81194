//! Forms that lose nothing, the player's own policy, everything as a file.

use crate::harness::Browser;

const ESCAPE: &str = "\u{e00c}";

const ASKS: &str = "document.querySelector('.el-message-box')?.getClientRects().length > 0";

#[tokio::test]
async fn what_is_typed_is_not_lost_unasked_and_is_sent_once() {
    let b = Browser::demo().await;
    b.open("/shelf").await;
    b.wait("[data-row]").await;
    b.click("[data-test='add-disc']").await;
    b.until("its address", "location.search === '?edit=new'").await;
    b.fill("input[data-test='disc-name']", "Half typed").await;
    // Escape asks, and so does Back; going on keeps what was typed.
    b.eval("document.querySelector(\"input[data-test='disc-name']\").focus()").await;
    b.key(ESCAPE).await;
    b.until("asked", ASKS).await;
    b.click(".el-message-box .el-button:not(.el-button--primary)").await;
    b.until("no longer asked", &format!("!({ASKS})")).await;
    b.eval("history.back()").await;
    b.until("asked again", ASKS).await;
    b.click(".el-message-box .el-button:not(.el-button--primary)").await;
    b.until("no longer asked", &format!("!({ASKS})")).await;
    let kept = b.eval("return document.querySelector(\"input[data-test='disc-name']\").value").await;
    assert_eq!(kept, "Half typed");
    // Pressed twice, it is sent once: the second would be refused, its name being taken.
    b.fill("input[data-test='disc-maker']", "Saltmarsh").await;
    b.fill("input[data-test='disc-mould']", "Campion").await;
    b.eval("const s = document.querySelector(\"[data-test='disc-save']\"); s.click(); s.click()").await;
    b.until(
        "closed",
        "location.search === '' && !document.querySelector('.el-overlay-dialog')?.getClientRects().length",
    )
    .await;
    b.until("it is there", "document.body.innerText.includes('Half typed')").await;
    assert!(b.eval("return document.querySelector('.notice.error')").await.is_null());
    // An address opens what it names.
    b.open("/shelf?edit=new").await;
    b.wait("input[data-test='disc-name']").await;
    b.open("/lines?line=tunnel").await;
    b.wait("[data-test='chance']").await;
    b.open("/lines?edit=tunnel").await;
    b.until("filled", "document.querySelector(\"[data-test='line-name'] input, input[data-test='line-name']\")?.value === 'Tunnel'").await;
    b.close().await;
}

#[tokio::test]
async fn single_keys_are_switched_off() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.wait(".puck").await;
    b.eval("document.activeElement.blur()").await;
    b.key("?").await;
    b.click("[data-test='letter-keys']").await;
    b.key(ESCAPE).await;
    b.until("closed", "!document.querySelector('.el-overlay-dialog')?.getClientRects().length").await;
    b.eval("document.activeElement.blur()").await;
    for key in ["g", "l", "?", "/"] {
        b.key(key).await;
    }
    tokio::time::sleep(std::time::Duration::from_millis(300)).await;
    assert_eq!(b.eval("return location.pathname + location.search").await, "/");
    b.close().await;
}

#[tokio::test]
async fn a_player_says_what_is_thrown_what_feels_right_and_what_a_mould_costs() {
    let b = Browser::demo().await;
    b.open("/lines").await;
    b.until("forehands are asked", "document.querySelector('[data-line=\"forehand-drive\"]')").await;
    b.open("/player").await;
    b.click("[data-test='avoid-forehand']").await;
    b.fill("[data-test='feel-fairways-rim_cm'] input", "1.4").await;
    b.fill("[data-test='mould-strokes'] input", "0.05").await;
    b.eval("document.querySelector('nav a[href=\"/lines\"]').click()").await;
    b.until("asked before it is left", ASKS).await;
    b.click(".el-message-box .el-button:not(.el-button--primary)").await;
    b.click("[data-test='player-save']").await;
    b.until("saved", "document.querySelector('.notice')?.innerText.includes('is saved')").await;
    b.open("/lines").await;
    b.wait("[data-line='tunnel']").await;
    assert!(b.eval("return document.querySelector('[data-line=\"forehand-drive\"]')").await.is_null());
    b.open("/shelf").await;
    b.until(
        "rims that are off are flagged",
        "document.querySelector(\"[data-test='feels-off']\")?.innerText.includes('rim 1')",
    )
    .await;

    // Shares that do not add up are told; a school shows what it has against a disc.
    b.open("/player").await;
    b.click("[data-test='tell-shares']").await;
    b.fill("[data-test='share-backhand'] input", "60").await;
    b.until("told", "document.querySelector('.sum').innerText.includes('make it 100 %')").await;
    b.click("[data-test='player-save']").await;
    b.until(
        "refused",
        "document.querySelector(\"form [role='alert']\")?.innerText.includes('100 % together')",
    )
    .await;
    b.fill("[data-test='share-backhand'] input", "100").await;
    b.click("[data-test='school']").await;
    let lean = "[...document.querySelectorAll('.el-select-dropdown__item')].find(e => e.innerText.startsWith('Lean: '))";
    b.until("the schools", lean).await;
    b.eval(&format!("{lean}.click()")).await;
    b.click("[data-test='player-save']").await;
    b.until("saved", "document.querySelector('.notice')?.innerText.includes('is saved')").await;
    b.open("/walk/distance").await;
    b.until(
        "a lean bag has no fast drivers",
        "document.querySelector(\"[data-test='against']\")?.innerText.includes('no fast drivers')",
    )
    .await;
    b.close().await;
}

#[tokio::test]
async fn everything_goes_out_as_json_comes_in_after_a_look_and_is_undone() {
    let folder = tempfile::tempdir().unwrap();
    let b = Browser::demo().await;
    b.open("/data").await;
    b.wait("[data-test='records']").await;
    let text = b
        .eval("return fetch(document.querySelector(\"[data-test='records']\").href).then(r => r.text())")
        .await;
    let mut document: serde_json::Value = serde_json::from_str(text.as_str().unwrap()).unwrap();
    let spoilt = folder.path().join("spoilt.json");
    document["discs"][0]["mass_g"] = serde_json::json!(9);
    std::fs::write(&spoilt, document.to_string()).unwrap();
    let file = || b.wait("[data-test='restore-file']");
    file().await.send_keys(spoilt.to_str().unwrap()).await.unwrap();
    let told = b.text("[data-test='records-wrong']").await;
    assert!(told.contains("Nothing is imported") && told.contains("discs[0].mass_g"), "{told}");

    let names: Vec<serde_json::Value> =
        document["discs"].as_array().unwrap().iter().take(3).map(|d| d["name"].clone()).collect();
    document["discs"][0]["mass_g"] = serde_json::json!(170);
    document["discs"].as_array_mut().unwrap().truncate(3);
    document["bags"][0]["carried"] = serde_json::json!([{ "disc": names[1], "spare": false }]);
    let small = folder.path().join("small.json");
    std::fs::write(&small, document.to_string()).unwrap();
    file().await.send_keys(small.to_str().unwrap()).await.unwrap();
    let told = b.text("[data-test='preview']").await;
    assert!(
        told.contains("3 discs") && told.contains("46 discs") && told.contains("can be undone"),
        "{told}"
    );
    b.click("[data-test='restore']").await;
    b.until("replaced", "document.querySelector(\"[data-test='restored']\")?.innerText.includes('3 discs')")
        .await;
    let count = "return fetch('/api/discs').then(r => r.json()).then(d => d.length)";
    assert_eq!(b.eval(count).await, 3);
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.until("undone", "document.querySelector('.notice')?.innerText.includes('Undone')").await;
    assert_eq!(b.eval(count).await, 46);
    b.close().await;
}

#[tokio::test]
async fn moulds_come_in_as_a_table_after_a_look() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("moulds.csv");
    // As a spreadsheet of Windows writes it: Latin-1, with semicolons and decimal commas.
    let text = b"name;maker;speed;glide;turn;fade;rim_cm;largest_mass_g\nK\xf6nigskerze;Saltmarsh;8;5;-1;2;1,9;6.2 oz\nTeasel;Saltmarsh;fast;5;-1;2;;\n";
    std::fs::write(&file, text).unwrap();
    let b = Browser::demo().await;
    b.open("/shelf/moulds?import=1").await;
    b.wait("[data-test='import-file']").await.send_keys(file.to_str().unwrap()).await.unwrap();
    let told = b.text("[data-test='import-told']").await;
    assert!(told.contains("read as Latin-1") && told.contains("1 row is good, 1 thing is wrong"), "{told}");
    let rows = b.text(".el-dialog tbody").await;
    assert!(
        rows.contains("Königskerze good: Saltmarsh, 8 / 5 / −1 / 2: new")
            && rows.contains("Teasel wrong: speed"),
        "{rows}"
    );
    b.click("[data-test='import-good']").await;
    b.until("it is in the library", "document.querySelector('main').innerText.includes('Königskerze')").await;
    b.close().await;
}

#[tokio::test]
async fn what_is_missing_is_named_at_once_and_a_figure_set_back_is_told() {
    let b = Browser::demo().await;
    b.open("/shelf?edit=new").await;
    b.wait("input[data-test='disc-name']").await;
    let wrong = "document.querySelectorAll('.el-dialog [aria-invalid=true]').length";
    b.click("[data-test='disc-save']").await;
    let told = b.text(".el-dialog [role='alert']").await;
    assert_eq!(told, "Name, maker and mould are still empty: fill them in and save again.");
    b.until("all three are marked", &format!("{wrong} === 3")).await;
    b.until("the first has the focus", "document.activeElement.dataset.test === 'disc-name'").await;
    b.fill("input[data-test='disc-name']", "Dado 9").await;
    b.until("one less", &format!("{wrong} === 2")).await;
    b.fill("[data-test='disc-speed'] input", "20").await;
    let told = b.text("[data-test='set-back']").await;
    assert_eq!(told, "Speed: 20 is more than 15, the most it takes; it is set to 15.");
    b.fill("input[data-test='disc-maker']", "Hobb & Tiller").await;
    b.fill("input[data-test='disc-mould']", "Dado").await;
    // What only the server knows is marked too.
    b.fill("input[data-test='disc-name']", "Dado one").await;
    b.click("[data-test='disc-save']").await;
    b.until("the name is taken", "document.activeElement.dataset.test === 'disc-name'").await;
    b.until("marked", &format!("{wrong} === 1")).await;
    b.close().await;
}

#[tokio::test]
async fn the_day_and_a_search_are_part_of_the_address() {
    let b = Browser::demo().await;
    b.open("/?wind=6&from=90&gusts=2&arm=95").await;
    b.wait("[data-test='board'] .puck").await;
    let wind = "Number(document.querySelector(\"[data-test='dial-wind']\").value)";
    assert_eq!(b.eval(&format!("return {wind}")).await, 6);
    b.slide("[data-test=dial-wind]", 8.0).await;
    b.until("written down", "new URLSearchParams(location.search).get('wind') === '8'").await;
    // It goes along to other screens, and lasts over a reload.
    b.click("nav a[href^='/lines']").await;
    b.until("on the way", "location.pathname === '/lines' && location.search.includes('wind=8')").await;
    b.eval("location.reload()").await;
    b.wait("[data-test='dial-wind']").await;
    assert_eq!(b.eval(&format!("return {wind}")).await, 8);
    b.eval("document.querySelector(\"[data-test='dial-from']\").focus()").await;
    b.key("\u{e011}").await;
    b.until("Home turns it ahead", "!new URLSearchParams(location.search).has('from')").await;
    // Without a search nothing is said of one; an order is part of the address too.
    b.open("/shelf?by=maker&order=down&as=table").await;
    b.wait("[data-row]").await;
    b.until("the last maker first", "document.querySelector('[data-row]').innerText.includes('Saltmarsh')")
        .await;
    assert!(!b.text(".page-head p").await.contains("shown"));
    b.open("/shelf?words=dado&status=home").await;
    b.wait("[data-row]").await;
    let rows = "[...document.querySelectorAll('[data-row]')]";
    b.until("filtered", &format!("{rows}.length > 0 && {rows}.every(r => /dado/i.test(r.innerText))")).await;
    b.fill("[data-test='find'] input, input[data-test='find']", "corbel").await;
    b.until("searched", "new URLSearchParams(location.search).get('words') === 'corbel'").await;
    b.close().await;
}

#[tokio::test]
async fn the_weather_has_the_focus_and_gives_it_back() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.wait("[data-test='board'] .puck").await;
    b.click("[data-test='weather']").await;
    b.until("its first field", "document.activeElement.closest(\"[data-test='weather-temperature']\")").await;
    b.key(ESCAPE).await;
    b.until("the button", "document.activeElement.dataset.test === 'weather'").await;
    // What the pegs are can be read without a mouse.
    b.click("[data-test='pegs'] summary").await;
    b.until(
        "told",
        "document.querySelector(\"[data-test='pegs'] dl\").innerText.includes('turns and keeps going')",
    )
    .await;
    b.close().await;
}
