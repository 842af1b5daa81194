//! One tour per thing a player does.

use crate::harness::{Browser, program};

fn finish_of(disc: &str) -> String {
    format!("return Number(document.querySelector(\".puck[data-name='{disc}']\").dataset.finish)")
}

#[tokio::test]
async fn the_demo_shows_its_faults_and_one_click_mends_one() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.wait("[data-finding]").await;
    let kinds = b.eval("return [...document.querySelectorAll('[data-kind]')].map(e => e.dataset.kind)").await;
    let kinds: Vec<&str> = kinds.as_array().unwrap().iter().map(|k| k.as_str().unwrap()).collect();
    for kind in ["over_cap", "gap", "worn_out", "twins"] {
        assert!(kinds.contains(&kind), "{kind} is planted, shown: {kinds:?}");
    }
    assert!(b.text("[data-test='summary']").await.contains("strokes a round over the season"));
    b.click("[data-test='scope'] label:last-child").await;
    b.until(
        "today",
        "document.querySelector(\"[data-test='summary']\").innerText.includes('a day like today')",
    )
    .await;
    let finding = "[data-lines~='headwind-mid']";
    assert!(b.text(&format!("{finding} .saves")).await.starts_with("saves 0."));
    let label = b.text(&format!("{finding} [data-test='act']")).await;
    let disc = label.strip_prefix("Carry ").unwrap().to_owned();
    let puck = format!("document.querySelector(\".puck[data-name='{disc}']\")");
    assert!(b.eval(&format!("return {puck}")).await.is_null(), "{disc} is not carried yet");
    b.click(&format!("{finding} [data-test='act']")).await;
    b.until("the disc is on the board", &puck).await;
    b.until("the finding goes", &format!("!document.querySelector(\"{finding}\")")).await;

    // Undone by the key, and back again.
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.until("undone", &format!("document.querySelector(\"{finding}\")")).await;
    b.close().await;
}

#[tokio::test]
async fn the_wind_dial_moves_the_board() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.wait(".puck").await;
    let calm = b.eval(&finish_of("Teasel")).await.as_f64().unwrap();
    b.slide("[data-test=\"dial-wind\"]", 6.0).await;
    let moved = format!("({}) < {calm} - 1", finish_of("Teasel").trim_start_matches("return "));
    b.until("into the wind it turns more", &moved).await;
    assert!(b.text(".dials").await.contains("6.0 m/s from straight ahead"));
    b.close().await;
}

#[tokio::test]
async fn a_disc_is_added_refused_when_its_name_is_taken_and_kept_over_a_reload() {
    let b = Browser::demo().await;
    b.open("/shelf").await;
    b.wait("[data-row]").await;
    b.click("[data-test='add-disc']").await;
    b.fill("input[data-test='disc-name']", "Vernier").await;
    b.fill("input[data-test='disc-maker']", "Orrery Works").await;
    b.fill("input[data-test='disc-mould']", "Vernier").await;
    b.click("[data-test='disc-save']").await;
    assert!(b.text(".el-dialog [role='alert']").await.contains("already a disc called \"Vernier\""));
    b.fill("input[data-test='disc-name']", "Vernier of the test").await;
    b.click("[data-test='disc-save']").await;
    b.until("it is listed", "document.body.innerText.includes('Vernier of the test')").await;
    b.open("/shelf").await;
    b.until("it is kept", "document.body.innerText.includes('Vernier of the test')").await;
    b.close().await;
}

#[tokio::test]
async fn units_change_on_every_screen_and_are_kept() {
    let b = Browser::demo().await;
    b.open("/player").await;
    assert!(b.text("[data-test='arm-backhand']").await.contains("m/s"));
    b.click("[data-test='player-units'] label:last-child").await;
    b.click("[data-test='player-save']").await;
    b.until("saved", "document.querySelector(\"[data-test='arm-backhand']\").innerText.includes('mph')")
        .await;
    b.open("/").await;
    b.wait(".puck").await;
    b.until("feet on the board", "document.querySelector('.puck').title.includes(' ft')").await;
    b.until("speed in mph", "document.querySelector('.how').innerText.includes('mph')").await;
    b.open("/lines").await;
    b.wait("[data-line]").await;
    assert!(b.text("[data-line='putter-rail']").await.contains(" ft"));
    b.close().await;
}

#[tokio::test]
async fn the_keyboard_alone_opens_benches_and_goes() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.wait("[data-finding]").await;
    b.eval("document.querySelector(\".puck[data-name='Newel']\").focus()").await;
    b.key("\u{e014}").await; // arrow right
    let focused = b.eval("return document.activeElement.dataset.name").await;
    let name = focused.as_str().unwrap().to_owned();
    assert_ne!(name, "Newel");
    b.key("b").await;
    b.until("benched", &format!("!document.querySelector(\".puck[data-name='{name}']\")")).await;
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.until("back", &format!("document.querySelector(\".puck[data-name='{name}']\")")).await;
    b.key("g").await;
    b.key("l").await;
    b.until("on the lines", "location.pathname === '/lines'").await;
    b.close().await;
}

#[tokio::test]
async fn a_chance_opens_to_its_reasons_and_a_line_can_be_switched_off_and_added() {
    let b = Browser::demo().await;
    b.open("/lines").await;
    b.wait("[data-line='tunnel']").await;
    b.click("[data-line='tunnel'] [data-test='open-line']").await;
    let words = b.text("[data-test='chance']").await;
    assert!(words.contains("Of 100 throws with your scatter"), "{words}");
    assert!(words.contains("launch") && words.contains("nose"), "{words}");
    assert!(words.contains("Straight between trees and under branches."), "{words}");
    assert_eq!(b.eval("return document.querySelectorAll('.discs button').length").await, 3, "the best three");
    assert_eq!(
        b.eval("return document.querySelectorAll('.opened [data-picture=plan] .flight').length").await,
        3
    );
    assert_eq!(
        b.eval("return document.querySelectorAll('.opened [data-picture=side] .flight').length").await,
        3
    );
    b.click(".discs li:nth-child(2) button").await;
    let picked = b.text(".discs button.on b").await;
    b.until("its costs", &format!("document.querySelector('.costs h3').innerText.endsWith('{picked}')"))
        .await;
    b.eval("window.calm = document.querySelector('.opened').innerText").await;
    b.click("[data-test='line-weather'] label:nth-child(3)").await;
    b.until("the wind changes what is flown", "document.querySelector('.opened').innerText !== window.calm")
        .await;
    b.key("\u{e00c}").await; // escape
    b.click("[data-line='tunnel'] .switch").await;
    b.until("off", "document.querySelector(\"[data-line='tunnel'] .standing\").innerText === 'Off'").await;
    b.until("marks by weather", "document.querySelectorAll(\"[data-line='flex'] .marks li\").length === 5")
        .await;
    b.click("[data-test='not-made']").await;
    b.until("only what is not made", "!document.querySelector(\"[data-line='flex'].made\") && document.querySelector(\"[data-line='headwind-mid']\")").await;
    b.click("[data-test='not-made']").await;
    b.click("[data-test='view'] label:last-child").await;
    b.click("[data-line='flex'] .cell .best").await;
    assert!(b.text("[data-test='chance']").await.contains("Of 100 throws with your scatter"));
    b.key("\u{e00c}").await; // escape
    b.click("[data-test='view'] label:first-child").await;
    b.click("[data-test='add-line']").await;
    b.fill("input[data-test='line-name']", "Over the gorse").await;
    b.fill("[data-test='line-distance_m'] input", "500").await;
    b.click("[data-test='line-save']").await;
    assert!(
        b.text(".el-dialog [role='alert']").await.contains("distance must be from 10 m to 200 m; you gave")
    );
    b.fill("[data-test='line-distance_m'] input", "65").await;
    b.click("[data-test='line-save']").await;
    b.until("listed", "document.body.innerText.includes('Over the gorse')").await;
    b.close().await;
}

#[tokio::test]
async fn a_broken_csv_is_told_row_by_row_and_the_good_rows_come_and_go() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("mine.csv");
    std::fs::write(
        &file,
        "name,maker,mould,plastic,mass_g,speed,glide,turn,fade\n\
         Far Bracken,Saltmarsh,Bracken,premium,171,9,5,-2,1\n\
         Lead Bracken,Saltmarsh,Bracken,premium,1710,9,5,-2,1\n",
    )
    .unwrap();
    let b = Browser::demo().await;
    b.open("/shelf").await;
    b.wait("[data-row]").await;
    b.click("[data-test='import']").await;
    b.wait("[data-test='import-file']").await.send_keys(file.to_str().unwrap()).await.unwrap();
    let told = b.text(".el-dialog [role='alert']").await;
    assert!(
        told.contains("Nothing is imported yet") && told.contains("mine.csv is read as UTF-8: 1 row is good"),
        "{told}"
    );
    let rows = b.text(".el-dialog tbody").await;
    assert!(rows.contains("2 Far Bracken good: Saltmarsh Bracken, premium, 171 g, 9 / 5 / −2 / 1"), "{rows}");
    assert!(rows.contains("3 Lead Bracken wrong: mass_g") && rows.contains("from 60 to 220"), "{rows}");
    b.click("[data-test='import-good']").await;
    b.until("it is listed", "document.body.innerText.includes('Far Bracken')").await;
    let closed =
        "[...document.querySelectorAll('.el-overlay-dialog')].every(d => d.getClientRects().length === 0)";
    b.until("the dialog is closed", closed).await;
    b.until("the good row alone", "document.querySelector('[data-row]') && !document.querySelector('main').innerText.includes('Lead Bracken')").await;
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.until("undone", "!document.querySelector('main').innerText.includes('Far Bracken')").await;
    b.close().await;
}

#[tokio::test]
async fn the_shelf_is_found_and_sorted() {
    let b = Browser::demo().await;
    b.open("/shelf").await;
    b.wait("[data-row]").await;
    let weights = "[...document.querySelectorAll('td.number')].map(e => parseFloat(e.innerText))";
    b.click("[data-test='sort-mass']").await;
    b.until("light first", &format!("{weights}.every((w, k, all) => k === 0 || all[k - 1] <= w)")).await;
    b.click("[data-test='sort-mass']").await;
    b.until("heavy first", &format!("{weights}.every((w, k, all) => k === 0 || all[k - 1] >= w)")).await;
    b.key("/").await;
    b.until("the search has the focus", "document.activeElement.tagName === 'INPUT'").await;
    b.key("orrery transom").await;
    b.until("nothing fits", "document.body.innerText.includes('No disc fits this search')").await;
    b.close().await;
}

/// Every disc with all that is said beside it: the peg it counts on, its twin.
const MARKS: &str = "return [...document.querySelectorAll('.puck')]
    .map(p => [p.querySelector('.name'), ...p.querySelectorAll('.mark')].map(e => e.innerText).join(' ')).sort()";

/// Left is left: a left-hander's discs finish on the other side, and count as they did.
#[tokio::test]
async fn a_left_hander_sees_a_mirrored_board() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.wait(".puck").await;
    let right = b.eval(&finish_of("Soffit")).await.as_f64().unwrap();
    let marks = b.eval(MARKS).await;
    assert!(marks.to_string().contains("twins"), "{marks}");
    b.open("/player").await;
    b.click("input[value='left'] + span").await;
    b.click("[data-test='player-save']").await;
    b.until("saved", "document.body.innerText.includes('The player is saved')").await;
    b.open("/").await;
    b.wait(".puck").await;
    let left = b.eval(&finish_of("Soffit")).await.as_f64().unwrap();
    assert!(right > 5.0 && (left + right).abs() < 0.02, "{right} {left}");
    assert_eq!(b.eval(MARKS).await, marks);
    b.close().await;
}

#[tokio::test]
async fn a_twin_is_kept_as_a_spare() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.wait("[data-kind='twins'] [data-test='act-other']").await;
    let key = b.eval("return document.querySelector(\"[data-kind='twins']\").dataset.finding").await;
    let key = key.as_str().unwrap().to_owned();
    b.click(&format!("[data-finding='{key}'] [data-test='act-other']")).await;
    b.until("no fault any more", &format!("!document.querySelector(\"[data-finding='{key}']\")")).await;
    b.until("tagged", "[...document.querySelectorAll('.puck .mark')].some(e => e.innerText === 'spare')")
        .await;
    b.close().await;
}

#[tokio::test]
async fn the_seasons_weather_is_said_and_a_disc_tells_what_it_is_for() {
    let b = Browser::demo().await;
    b.open("/player").await;
    b.fill("[data-test='player-wet'] input", "30").await;
    b.click("[data-test='player-save']").await;
    b.until("saved", "document.body.innerText.includes('The player is saved')").await;
    b.open("/lines").await;
    b.until("rain is a weather", "document.querySelectorAll(\"[data-line='flex'] .marks li\").length === 6")
        .await;
    b.open("/").await;
    b.wait("[data-finding]").await;
    b.click(".puck[data-name='Armilla']").await;
    let jobs = b.text("[data-test='jobs']").await;
    assert!(jobs.contains("What it is for") && jobs.contains("strokes"), "{jobs}");
    b.close().await;
}

#[tokio::test]
async fn a_second_bag_is_made_changed_and_deleted() {
    let b = Browser::demo().await;
    b.open("/").await;
    b.click("[data-test='bag-new']").await;
    b.fill("input[data-test='bag-name']", "harrier moor").await;
    b.click("[data-test='bag-save']").await;
    assert!(b.text(".el-dialog [role='alert']").await.contains("already a bag called"));
    b.fill("input[data-test='bag-name']", "Winter").await;
    b.fill("[data-test='capacity'] input", "12").await;
    b.click("[data-test='bag-save']").await;
    b.until("its name heads the page", "document.querySelector('h1').innerText === 'Winter'").await;
    assert!(b.text("[data-test='bag-limits']").await.starts_with("19 of 12 discs"));
    b.until("over-full", "document.querySelector(\"[data-kind='over_full']\")").await;
    b.open("/").await;
    b.until("kept", "document.querySelector('h1').innerText === 'Winter'").await;
    b.click("[data-test='bag-edit']").await;
    b.click("[data-test='bag-delete']").await;
    b.until("the other is back", "document.querySelector('h1').innerText === 'Harrier Moor'").await;
    b.click("[data-test='bag-edit']").await;
    b.click("[data-test='bag-delete']").await;
    assert!(b.text(".el-dialog [role='alert']").await.contains("is the only bag"));
    b.close().await;
}

#[tokio::test]
async fn an_empty_database_says_where_to_start() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("new.db");
    let b = Browser::on(&["serve", "--new", "--db", db.to_str().unwrap()]).await;
    b.open("/").await;
    b.until("the walk comes first", "location.pathname.startsWith('/walk')").await;
    // Left, it is offered and no longer pushed.
    b.click("[data-test='walk-leave']").await;
    assert!(b.text(".start").await.contains("Nothing is carried yet"));
    b.click("[data-test='walk-start']").await;
    b.wait("[data-test='walk-next']").await;
    b.close().await;
    let (_again, address) = program(&["serve", "--db", db.to_str().unwrap()]);
    assert!(address.starts_with("http://127.0.0.1:"));
}
