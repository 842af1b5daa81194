//! Courses and their holes: begun, traced, drawn, changed, taken away and brought in from a file.

use crate::harness::Browser;

/// A course of one's own: a hole traced by rangefinder round a corner, with a way more, kept and changed; undone as anything is.
#[tokio::test]
async fn a_hole_is_traced_drawn_kept_and_taken_away() {
    let b = Browser::demo().await;
    b.open("/round?view=holes").await;
    b.wait("[data-hole='9']").await;
    b.says("9 holes, par 30").await;
    b.says("Leaves 69 m").await;
    b.click("[data-test='add-course']").await;
    b.fill(".el-message-box__input input", "Vell Links").await;
    b.click(".el-message-box__btns .el-button--primary").await;
    b.says("No holes yet").await;
    b.click("[data-test='add-hole']").await;
    b.until("begun", "document.querySelector(\"[data-test='hole-name'] input, input[data-test='hole-name']\")?.value === '1'").await;
    // Sixty metres north, then a hundred west and four degrees up.
    b.click("[data-test='trace'] summary").await;
    b.fill("[data-test='read-distance-0'] input", "60").await;
    b.eval("[...document.querySelectorAll('.el-button')].find(e => e.innerText.includes('One more reading')).click()").await;
    b.fill("[data-test='read-distance-1'] input", "100.2").await;
    b.fill("[data-test='read-bearing-1'] input", "270").await;
    b.fill("[data-test='read-slope-1'] input", "4").await;
    b.click("[data-test='trace-take']").await;
    let figures = "return ['length', 'bearing', 'height'].map(f => document.querySelector(`[data-test=hole-${f}] input`).value)";
    b.until("traced", "document.querySelector('[data-test=hole-length] input').value !== '80'").await;
    assert_eq!(b.eval(figures).await, serde_json::json!(["116.6", "301", "7"]));
    // One more way, by forehand, with a name of its own.
    b.click("[data-test='hole-add-way']").await;
    let items = "[...document.querySelectorAll('.el-select-dropdown__item')]";
    b.until(
        "styles",
        &format!("{items}.some(e => e.innerText === 'forehand' && e.getClientRects().length > 0)"),
    )
    .await;
    b.eval(&format!(
        "{items}.find(e => e.innerText === 'forehand' && e.getClientRects().length > 0).click()"
    ))
    .await;
    b.until("two ways", "document.querySelectorAll(\"[data-test='hole-ways'] label\").length === 2").await;
    b.fill("input[data-test='way-name']", "Forehand round it").await;
    // Her forehand goes 82 m: nothing she carries gets there.
    b.says("No carried disc makes it").await;
    b.fill("input[data-test='hole-note']", "Mind the path").await;
    b.click("[data-test='hole-save']").await;
    b.wait("[data-hole='1']").await;
    for words in ["1 hole, par 3, 117 m", "NW (301°), 7 m up", "Forehand round it", "Mind the path"] {
        b.says(words).await;
    }
    // What cannot be is told where it is typed, and nothing typed is lost.
    b.click("[data-test='edit-hole']").await;
    b.wait("[data-test='hole-length'] input").await;
    b.fill("[data-test='hole-length'] input", "900").await;
    b.click("[data-test='hole-save']").await;
    b.says("length_m").await;
    b.fill("[data-test='hole-length'] input", "98").await;
    b.click("[data-test='hole-save']").await;
    b.says("1 hole, par 3, 98 m").await;
    b.click("[data-test='edit-hole']").await;
    b.wait("[data-test='hole-delete']").await;
    b.click("[data-test='hole-delete']").await;
    b.says("No holes yet").await;
    let closed =
        "[...document.querySelectorAll('[role=\"dialog\"]')].every(d => d.getClientRects().length === 0)";
    b.until("closed", closed).await;
    b.key("z").await;
    b.wait("[data-hole='1']").await;
    b.click("[data-test='delete-course']").await;
    b.says("9 holes, par 30").await;
    b.close().await;
}

/// What was exported comes in again from its file, looked at before it is kept.
#[tokio::test]
async fn a_course_comes_in_from_a_file() {
    let b = Browser::demo().await;
    b.open("/round?view=holes").await;
    b.wait("[data-test='course-geojson']").await;
    let text = b
        .client
        .execute_async(
            "const done = arguments[arguments.length - 1]; \
             fetch(document.querySelector(\"[data-test='course-geojson']\").href).then(r => r.text()).then(done)",
            vec![],
        )
        .await
        .unwrap();
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("moor.geojson");
    std::fs::write(&file, text.as_str().unwrap()).unwrap();
    b.click("[data-test='import-course']").await;
    b.wait("[data-test='course-file']").await.send_keys(file.to_str().unwrap()).await.unwrap();
    b.says("makes 9 holes").await;
    // Its name is taken; another is given.
    b.click("[data-test='course-take']").await;
    b.says("already a course called").await;
    b.fill("input[data-test='course-file-name']", "Moor again").await;
    b.click("[data-test='course-take']").await;
    b.until("chosen", "document.querySelector(\"[data-test='course']\").innerText.includes('Moor again')")
        .await;
    b.wait("[data-hole='9'] .land").await;
    b.close().await;
}

/// The card of the demo's windy day, opened to its reasons; another day's forecast is pulled, a time that is none is told, and a calm
/// day takes fewer strokes.
#[tokio::test]
async fn the_card_follows_the_day() {
    let b = Browser::demo().await;
    b.open("/round").await;
    b.wait("[data-card-hole='9']").await;
    let strokes = "return Number(document.querySelector(\"[data-test='card-strokes']\").innerText)";
    let windy = b.eval(strokes).await.as_f64().unwrap();
    assert!((25.0..36.0).contains(&windy), "{windy}");
    b.says("rounds played with your scatter").await;
    b.says("against calm").await;
    b.click("[data-card-hole='4'] [data-test='card-more']").await;
    assert!(b.text("[data-card-hole='4'] [data-test='card-reasons']").await.contains("Of 100 throws"));
    assert!(b.text("[data-card-hole='4']").await.contains("If that is lost"));
    b.click("[data-test='left'] summary").await;
    b.says("down in two more often than not").await;
    // The forecast of another day.
    b.click("[data-test='edit-day']").await;
    b.click("[data-test='day-pull']").await;
    assert!(b.text("[data-test='day-source']").await.contains("Weather of Vell"));
    b.fill("input[data-test='day-start']", "25:00").await;
    b.says("A time was expected").await;
    b.fill("input[data-test='day-start']", "9:40").await;
    b.fill("[data-test='wind_m_s-3'] input", "4.5").await;
    b.until("no longer what was pulled", "!document.querySelector(\"[data-test='day-source']\")").await;
    b.click("[data-test='day-save']").await;
    b.until("begins at", "document.querySelector(\"[data-card-hole='1']\")?.innerText.includes('09:40')")
        .await;
    // Nothing blows.
    let closed =
        "[...document.querySelectorAll('[role=\"dialog\"]')].every(d => d.getClientRects().length === 0)";
    b.until("closed", closed).await;
    b.click("[data-test='edit-day']").await;
    b.click("[data-test='day-clear']").await;
    b.until("calm", "document.querySelector('.day').innerText.includes('a calm day') && document.querySelector(\"[data-card-hole='1']\").innerText.includes('calm')").await;
    assert!(b.eval(strokes).await.as_f64().unwrap() < windy - 1.0);
    b.until("closed", closed).await;
    b.key("z").await;
    b.until("undone", "document.querySelector(\"[data-card-hole='1']\").innerText.includes('09:40')").await;
    b.close().await;
}

/// What to take: ticked off, by another ground, and the bag packed like it, which is undone as anything is.
#[tokio::test]
async fn the_bag_is_packed_for_the_day() {
    let b = Browser::demo().await;
    b.open("/round?view=pack").await;
    // Everything at hand is thrown on every hole.
    b.wait("[data-test='pack-verdict']").await;
    b.says("Too heavy for the event: Lintel fresh").await;
    b.says("Stay at home:").await;
    b.click("[data-test='tick-marker']").await;
    b.click("[data-test='tick-water']").await;
    let ticked = "document.querySelector(\"[data-test='pack-ticked']\").innerText";
    b.until("two ticks", &format!("{ticked}.startsWith('2 of')")).await;
    b.open("/round?view=pack").await;
    b.wait("[data-test='pack-ticked']").await;
    b.until("kept", &format!("{ticked}.startsWith('2 of')")).await;
    b.click("[data-test='pack-clear']").await;
    b.until("anew", &format!("{ticked}.startsWith('0 of')")).await;
    b.click("[data-test='pack-bag']").await;
    b.until("packed", "!document.querySelector(\"[data-test='pack-bag']\")").await;
    b.says("The bag is packed for this day").await;
    b.key("z").await;
    b.wait("[data-test='pack-bag']").await;
    b.close().await;
}

/// What instruments say is taken with one tap: a hole's reading, the wind of the hour, what is left to the basket.
#[tokio::test]
async fn readings_are_taken_with_one_tap() {
    let b = Browser::demo().await;
    let number = async |css: &str| {
        let value = b.eval(&format!("return Number(document.querySelector(\"{css}\").value)")).await;
        value.as_f64().unwrap()
    };
    b.open("/round?view=holes").await;
    b.click("[data-test='edit-hole']").await;
    b.click("[data-test='trace'] summary").await;
    b.click("[data-test='take-rangefinder']:not([disabled])").await;
    b.until("taken", "document.querySelector(\"[data-test='read-distance-0'] input\").value > 80").await;
    assert!((number("[data-test='read-bearing-0'] input").await - 230.0).abs() < 3.0);
    // The wind of this hour, told at ten metres, though the meter is held in the hand.
    b.open("/round?view=card").await;
    b.click("[data-test='edit-day']").await;
    b.wait("[data-test='take-wind_meter']:not([disabled])").await;
    let said = b.text("[data-test='take-wind_meter']").await;
    b.click("[data-test='take-wind_meter']").await;
    b.until("one hour is the meter's", "[...document.querySelectorAll(\"[data-test^='from_deg-'] input, input[data-test^='from_deg-']\")].some(e => Math.abs(e.value - 65) < 12)").await;
    assert!(said.contains("in the hand"), "{said}");
    // What is left, on the level.
    b.open("/round?view=play").await;
    b.wait("[data-test='begin-round']:not([disabled])").await;
    b.click("[data-test='begin-round']").await;
    b.click("[data-test='take-rangefinder']:not([disabled])").await;
    b.until("measured", "document.querySelector(\"[data-test='left-measured']\")?.ariaPressed === 'true'")
        .await;
    assert!(b.text("[data-test='left-measured']").await.starts_with("8"));
}

/// Three taps a hole, told back as strokes and what cost them; a tap again takes it back; a lost disc is lost with the place and found
/// as it was; the round of the demo is opened; a round is deleted and comes back by undo.
#[tokio::test]
async fn a_round_is_told_in_three_taps() {
    let b = Browser::demo().await;
    b.open("/round?view=play").await;
    b.wait("[data-test='begin-round']:not([disabled])").await;
    assert!(b.text("[data-test='rounds']").await.contains("+2.2 against the card"));
    b.click("[data-test='begin-round']").await;
    let pressed = |what: &str| format!("document.querySelector(\"[{what}]\")?.ariaPressed === 'true'");
    b.click("[data-came='out']").await;
    b.click("[data-left='40']").await;
    b.click("[data-strokes='5']").await;
    b.until("told", &pressed("data-strokes='5'")).await;
    let disc =
        b.eval("return document.querySelector(\"[data-threw][aria-pressed='true']\").dataset.threw").await;
    let disc = disc.as_str().expect("the card's disc is taken to be thrown").to_owned();
    b.says("5 on 1 of 9 holes, par 3 (+2.0)").await;
    b.wait("[data-test='account']").await;
    b.says("mostly how first throws ended").await;
    // A tap again takes it back.
    b.click("[data-came='out']").await;
    b.until("taken back", &format!("!({})", pressed("data-came='out'"))).await;
    b.click("[data-test='lose']").await;
    b.click(&format!("[data-lose='{disc}']")).await;
    b.wait("[data-test='lost-here']").await;
    let status = format!(
        "const done = arguments[arguments.length - 1]; fetch('/api/discs').then(r => r.json())\
         .then(all => done(all.find(d => d.name === '{disc}').keeping))"
    );
    let keeping = async || b.client.execute_async(&status, vec![]).await.unwrap();
    let mut now = keeping().await;
    while now["status"] != "lost" {
        tokio::time::sleep(std::time::Duration::from_millis(60)).await;
        now = keeping().await;
    }
    assert_eq!(now["place"], "Harrier Moor, hole 1");
    b.click(&format!("[data-found='{disc}']")).await;
    b.until("found", "!document.querySelector(\"[data-test='lost-here']\")").await;
    // The next hole, with a disc of which the card says nothing near.
    b.click("[data-test='hole-next']").await;
    b.says("Hole 2").await;
    b.click("[data-test='play-all']").await;
    b.click("[data-round='demo-first-round'] .as-link").await;
    b.says("31, par 30 (+1.0)").await;
    let words = b.text("[data-test='account']").await;
    assert!(words.contains("first throws ended in the zone") && words.contains("Hole 8"), "{words}");
    b.click("[data-test='play-all']").await;
    b.eval("document.querySelector(\"[data-round='demo-first-round'] .as-link:last-child\").click()").await;
    b.until("deleted", "!document.querySelector(\"[data-round='demo-first-round']\")").await;
    b.key("z").await;
    b.wait("[data-round='demo-first-round']").await;
    b.close().await;
}
