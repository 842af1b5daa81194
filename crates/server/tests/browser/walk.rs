//! The walk, from an empty database to a judged bag, and on the demo's.

use std::time::Instant;

use crate::harness::Browser;

/// Types into what has the focus and counts the keys: a letter each, Enter too.
struct Typist<'a> {
    browser: &'a Browser,
    keys: usize,
}

impl Typist<'_> {
    async fn types(&mut self, text: &str) {
        self.keys += text.chars().count();
        self.browser.key(text).await;
    }

    /// A line of discs, and waits until they lie in the lane.
    async fn adds(&mut self, line: &str, carried: usize) {
        self.types(line).await;
        self.types("\u{e007}").await;
        let there =
            format!("document.querySelector(\"[data-test='walk-sum'] b\")?.innerText === '{carried}'");
        self.browser.until(line, &there).await;
    }
}

async fn step_is(b: &Browser, name: &str) {
    b.until(name, &format!("document.querySelector('h1')?.innerText === '{name}'")).await;
}

async fn next(b: &Browser, name: &str) {
    b.click("[data-test='walk-next']").await;
    step_is(b, name).await;
    b.until(
        "the line has the focus",
        "document.activeElement?.matches('[data-test=add-line], [data-test=add-line] *')",
    )
    .await;
}

/// Nothing there: the walk comes first, and ten discs are judged after fewer than 120 keys and three minutes.
#[tokio::test]
async fn trade_from_nothing_to_a_judged_bag_of_ten_in_under_120_keys() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("new.db");
    let b = Browser::on(&["serve", "--db", db.to_str().unwrap(), "--new"]).await;
    let began = Instant::now();
    b.open("/").await;
    step_is(&b, "Thrower").await;
    let mut t = Typist { browser: &b, keys: 0 };
    next(&b, "Putting set").await;
    t.adds("2 dado 2 3 0 1", 2).await;
    b.until("a pair", "document.querySelector(\"[data-check='pair'][data-ok='true']\")").await;
    next(&b, "Throwing putters").await;
    t.adds("plumb 3 3 0 3", 3).await;
    next(&b, "Mid-ranges").await;
    t.adds("lintel 5 4 0 2", 4).await;
    t.adds("li beat", 5).await;
    next(&b, "Fairway drivers").await;
    t.adds("purlin 7 5 0 2", 6).await;
    t.adds("pu flip", 7).await;
    next(&b, "Control drivers").await;
    t.adds("sorrel 10 5 -1 2", 8).await;
    next(&b, "Distance drivers").await;
    t.adds("gable 12 5 -1 3", 9).await;
    next(&b, "Utility discs").await;
    t.adds("da beat", 10).await;
    b.click("[data-test='walk-done']").await;
    b.until("judged", "document.querySelector(\"[data-test='summary'] b\")").await;
    b.wait("[data-finding]").await;
    let took = began.elapsed();
    println!("{} keys, {:.0} s", t.keys, took.as_secs_f64());
    assert!(t.keys < 120, "{} keys", t.keys);
    assert!(took.as_secs() < 180, "{took:?}");
    let summary = b.text("[data-test='summary']").await;
    assert!(summary.starts_with("Leaves"), "{summary}");
    // It was walked to its end: the bag does not ask to go on.
    b.until("done", "!document.querySelector(\"[data-test='walk-resume']\")").await;
    // One step of the record each.
    b.eval("document.activeElement.blur()").await;
    b.key("z").await;
    b.until("the last is undone", "document.querySelector('.notice')?.innerText.startsWith('Undone')").await;
    b.close().await;
}

#[tokio::test]
async fn the_walk_is_left_gone_on_with_and_read_back() {
    let b = Browser::demo().await;
    b.open("/walk/mids").await;
    step_is(&b, "Mid-ranges").await;
    b.until("pegs", "document.querySelectorAll('[data-peg]').length === 5").await;
    b.until("ranked by strokes", "document.querySelector('[data-shelf]')?.innerText.includes('would save')")
        .await;
    // The one that would save most stands first, and carrying it takes it off the list.
    let first = b.eval("return document.querySelector('[data-shelf]').dataset.shelf").await;
    b.click("[data-shelf] [data-test='walk-carry']").await;
    b.until("carried", &format!("!document.querySelector(\"[data-shelf='{}']\")", first.as_str().unwrap()))
        .await;
    b.click("[data-test='walk-next']").await;
    step_is(&b, "Fairway drivers").await;
    b.click("[data-test='walk-leave']").await;
    b.click("[data-test='walk-resume'] a").await;
    step_is(&b, "Fairway drivers").await;
    b.client.back().await.unwrap();
    b.client.back().await.unwrap();
    step_is(&b, "Fairway drivers").await;
    b.client.back().await.unwrap();
    step_is(&b, "Mid-ranges").await;

    // A disc of another lane is added all the same, and said where.
    b.fill("[data-test='add-line']", "2 dado base 174 putting").await;
    b.click("[data-test='add-line-go']").await;
    b.until("said", "document.querySelector(\"[data-test='elsewhere']\")?.innerText.includes('putting set')")
        .await;
    b.close().await;
}

#[tokio::test]
async fn a_line_says_what_it_is_read_as_and_keeps_what_is_wrong() {
    let b = Browser::demo().await;
    b.open("/shelf").await;
    b.fill("[data-test='add-line']", "2 purlin premium 173 seasoned orange").await;
    b.until("read", "document.querySelectorAll('[data-part]').length === 6").await;
    let read = b.text("[data-test='add-line-read']").await;
    assert!(read.contains("Purlin, Hobb & Tiller") && read.contains("173 g"), "{read}");
    b.fill("[data-test='add-line']", "purlin premum").await;
    let wrong = b.text("[data-test='add-line-problem']").await;
    assert!(wrong.contains("Did you mean premium?"), "{wrong}");
    b.click("[data-test='add-line-go']").await;
    b.until("kept", "document.querySelector('[data-test=add-line]').value === 'purlin premum'").await;
    assert_eq!(b.eval("return (await (await fetch('/api/discs')).json()).length").await, 46);
    b.close().await;
}
