//! A real browser on the program: the demo, ChromeDriver, one Chromium session.
#![allow(clippy::unwrap_used, missing_docs)]

use std::io::{BufRead, BufReader};
use std::os::unix::process::CommandExt;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::sync::mpsc::channel;
use std::sync::{Arc, LazyLock};
use std::time::{Duration, Instant};

use actix_web::dev::ServerHandle;
use base64::Engine;
use fantoccini::elements::Element;
use fantoccini::{Client, ClientBuilder, Locator};
use hyper_util::client::legacy::connect::HttpConnector;
use serde_json::{Value, json};
use zinc_kite::app::App;
use zinc_kite::instrument::lines::Said;
use zinc_kite::instrument::rangefinder::{self, RangefinderStandIn};
use zinc_kite::instrument::weather::{self, WeatherStandIn};
use zinc_kite::instrument::wind_meter::{self, WindMeterStandIn};
use zinc_kite::serve::{At, begin};
use zinc_kite::store::Store;
use zinc_kite_bag::chance::memo::Memo;

/// A child process that ends with the test, and with it all that it started: ChromeDriver, killed, leaves its browser running.
pub struct Running(Child);

impl Drop for Running {
    fn drop(&mut self) {
        let group = format!("-{}", self.0.id());
        let _ = Command::new("kill").args(["-KILL", "--", &group]).stderr(Stdio::null()).status();
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// Starts `command` and returns what follows `marker` in its first line that has it. Once more if it ends before: a driver that
/// takes a free port may lose it to another.
fn start(command: &mut Command, marker: &str) -> (Running, String) {
    let started = (0..3).find_map(|_| started(command, marker));
    started.unwrap_or_else(|| panic!("{command:?} ended before it said {marker}"))
}

fn started(command: &mut Command, marker: &str) -> Option<(Running, String)> {
    let mut child = command.stdout(Stdio::piped()).stderr(Stdio::null()).process_group(0).spawn().unwrap();
    let mut lines = BufReader::new(child.stdout.take().unwrap());
    let running = Running(child);
    loop {
        let mut line = String::new();
        if lines.read_line(&mut line).unwrap() == 0 {
            return None;
        }
        if let Some((_, rest)) = line.split_once(marker) {
            // Keep reading so that the child never waits for its output to be taken.
            std::thread::spawn(move || lines.lines().for_each(drop));
            return Some((running, rest.trim().to_owned()));
        }
    }
}

/// Starts the program with `arguments` on a free port; its address comes back without the final slash.
pub fn program(arguments: &[&str]) -> (Running, String) {
    program_at(arguments, "0")
}

/// The same on a port.
pub fn program_at(arguments: &[&str], port: &str) -> (Running, String) {
    let mut command = Command::new(env!("CARGO_BIN_EXE_zinc-kite"));
    let (running, rest) = start(command.args(arguments).args(["--port", port]), "Zinc Kite is at ");
    let address = rest.split('/').take(3).collect::<Vec<_>>().join("/");
    (running, address)
}

fn chromium() -> &'static str {
    ["/usr/bin/chromium", "/usr/bin/chromium-browser", "/usr/bin/google-chrome"]
        .into_iter()
        .find(|p| Path::new(p).exists())
        .expect("Chromium is not installed: `cargo xtask test` installs it")
}

/// The program as it serves the demo, on threads of this one, so that what one test works out the next need not; it stops when the
/// test ends.
struct Served {
    stop: ServerHandle,
    _folder: tempfile::TempDir,
}

impl Drop for Served {
    fn drop(&mut self) {
        // The order is given when this is called, not when it is awaited.
        drop(self.stop.stop(false));
    }
}

/// How long something is waited for before it is said never to come: nothing is measured by it, and beside two other tests on a
/// slow machine a card of a windy day was seen to take more than a minute.
const PATIENCE: Duration = Duration::from_secs(180);

static WORKED_OUT: LazyLock<Arc<Memo>> = LazyLock::new(Arc::default);
type Tell = Box<dyn FnOnce(&str) -> anyhow::Result<()>>;

/// Begins a stand-in; its address.
fn stand_in(run: impl FnOnce(Tell) -> anyhow::Result<()> + Send + 'static) -> String {
    let (tell, told) = channel();
    std::thread::spawn(move || run(Box::new(move |at: &str| Ok(tell.send(at.to_owned())?))).unwrap());
    told.recv().unwrap()
}

static WEATHER: LazyLock<String> =
    LazyLock::new(|| stand_in(|tell| weather::run(WeatherStandIn::on(0), tell)));
static RANGEFINDER: LazyLock<String> =
    LazyLock::new(|| stand_in(|tell| rangefinder::run(RangefinderStandIn::saying(Said::on(0, 200)), tell)));
static WIND_METER: LazyLock<String> =
    LazyLock::new(|| stand_in(|tell| wind_meter::run(WindMeterStandIn::saying(Said::on(0, 200)), tell)));

/// Serves the demo; its address comes back without the final slash.
fn demo() -> (Served, String) {
    let folder = tempfile::tempdir().unwrap();
    let mut store = Store::open(&folder.path().join("demo.db")).unwrap();
    zinc_kite::demo::fill(&mut store).unwrap();
    let app = App::new(store).unwrap().remembering(WORKED_OUT.clone());
    let at = At::this_machine(0)
        .with_weather(WEATHER.clone())
        .with_instruments(RANGEFINDER.clone(), WIND_METER.clone());
    let (tell, told) = channel();
    std::thread::spawn(move || {
        actix_web::rt::System::new().block_on(async move {
            let (found, _, server) = begin(app, &at).unwrap();
            tell.send((found[0].trim_end_matches('/').to_owned(), server.handle())).unwrap();
            server.await.unwrap();
        });
    });
    let (address, stop) = told.recv().unwrap();
    (Served { stop, _folder: folder }, address)
}

/// What serves the browser, for as long as that is open.
enum Serving {
    /// The demo, within this program.
    Here { _served: Served },
    /// The program itself.
    Program { _running: Running },
    /// Whatever the test has at that address, or nothing.
    Elsewhere,
}

/// What a browser leaves behind on its device.
pub type Profile = Arc<tempfile::TempDir>;
/// A browser that was never used.
pub fn new_profile() -> Profile {
    Arc::new(tempfile::tempdir().unwrap())
}

/// No service worker: with a profile for every test all pages would be fetched for each.
const WITHOUT_WORKER: &str =
    "Object.defineProperty(Navigator.prototype, 'serviceWorker', { value: undefined })";

pub struct Browser {
    pub client: Client,
    address: String,
    driver: String,
    session: String,
    // Dropped in this order: the browser writes to its profile as long as it runs.
    _driver: Running,
    _serving: Serving,
    _profile: Profile,
}

impl Browser {
    /// A browser on the demo scenario at 1280×800.
    pub async fn demo() -> Browser {
        let (served, address) = demo();
        let b = Browser::at(Serving::Here { _served: served }, address, new_profile()).await;
        b.without_worker().await
    }

    /// A browser on the program itself, started with these arguments.
    pub async fn on(arguments: &[&str]) -> Browser {
        let (running, address) = program(arguments);
        let b = Browser::at(Serving::Program { _running: running }, address, new_profile()).await;
        b.without_worker().await
    }

    /// A browser that keeps what it can on its device, at an address where something may be.
    pub async fn keeping(profile: &Profile, address: &str) -> Browser {
        Browser::at(Serving::Elsewhere, address.to_owned(), profile.clone()).await
    }

    async fn without_worker(self) -> Browser {
        self.devtools("Page.addScriptToEvaluateOnNewDocument", json!({ "source": WITHOUT_WORKER })).await;
        self
    }

    async fn at(serving: Serving, address: String, profile: Profile) -> Browser {
        let mut command = Command::new("chromedriver");
        let (driver, rest) = start(command.arg("--port=0"), "started successfully on port ");
        let driver_address = format!("http://127.0.0.1:{}", rest.trim_end_matches('.'));
        let data_dir = format!("--user-data-dir={}", profile.path().display());
        let capabilities = json!({
            "browserName": "chrome",
            "goog:chromeOptions": { "binary": chromium(), "args": [
                "--headless=new", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
                "--disable-background-networking", "--disable-component-update", "--disable-sync",
                "--disable-dev-shm-usage", "--force-device-scale-factor=1", "--hide-scrollbars",
                "--lang=en-US", "--window-size=1280,800", data_dir,
            ] },
            "goog:loggingPrefs": { "browser": "ALL" },
        });
        let Value::Object(capabilities) = capabilities else { unreachable!() };
        let client = ClientBuilder::new(HttpConnector::new())
            .capabilities(capabilities)
            .connect(&driver_address)
            .await
            .unwrap();
        let session = client.session_id().await.unwrap().unwrap();
        let browser = Browser {
            client,
            address,
            driver: driver_address,
            session,
            _driver: driver,
            _serving: serving,
            _profile: profile,
        };
        browser.size(1280, 800).await;
        // Beside other browsers a window may lose the focus, and a page without it hears no change when a field is left.
        browser.devtools("Emulation.setFocusEmulationEnabled", json!({ "enabled": true })).await;
        browser
    }

    /// A DevTools command, which WebDriver has no word for.
    pub async fn devtools(&self, command: &str, parameters: Value) -> Value {
        let url = format!("{}/session/{}/goog/cdp/execute", self.driver, self.session);
        let body = json!({ "cmd": command, "params": parameters }).to_string();
        let output = tokio::process::Command::new("curl")
            .args(["-s", "-X", "POST", "-H", "Content-Type: application/json", "-d", &body, &url])
            .output()
            .await
            .unwrap();
        serde_json::from_slice::<Value>(&output.stdout).unwrap()["value"].take()
    }

    pub async fn size(&self, width: u32, height: u32) {
        let metrics =
            json!({ "width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 600 });
        self.devtools("Emulation.setDeviceMetricsOverride", metrics).await;
    }

    pub async fn open(&self, path: &str) {
        self.client.goto(&format!("{}{path}", self.address)).await.unwrap();
        self.wait("main").await;
    }

    pub async fn wait(&self, css: &str) -> Element {
        self.client
            .wait()
            .at_most(PATIENCE)
            .for_element(Locator::Css(css))
            .await
            .unwrap_or_else(|e| panic!("{css} never came: {e}"))
    }

    /// Waits until `script` (an expression) is true in the page.
    pub async fn until(&self, what: &str, script: &str) {
        let start = Instant::now();
        while !self.eval(&format!("return !!({script})")).await.as_bool().unwrap_or(false) {
            assert!(start.elapsed() < PATIENCE, "{what}: never so");
            tokio::time::sleep(Duration::from_millis(60)).await;
        }
    }

    /// Waits until the page says `what`, which has no apostrophe.
    pub async fn says(&self, what: &str) {
        self.until(what, &format!("document.body.innerText.includes('{what}')")).await;
    }

    /// What the program answers the page at `path`.
    pub async fn fetched(&self, path: &str) -> Value {
        let script = format!(
            "const done = arguments[arguments.length - 1]; fetch('{path}').then(r => r.json()).then(done)"
        );
        self.client.execute_async(&script, vec![]).await.unwrap()
    }

    /// What the program answers the page at `path` once it is so: what a page was told is on its way for a while.
    pub async fn fetched_once(&self, path: &str, so: impl Fn(&Value) -> bool) -> Value {
        let start = Instant::now();
        loop {
            let answer = self.fetched(path).await;
            if so(&answer) {
                return answer;
            }
            assert!(start.elapsed() < PATIENCE, "{path} is still: {answer}");
            tokio::time::sleep(Duration::from_millis(100)).await;
        }
    }

    pub async fn eval(&self, script: &str) -> Value {
        self.client.execute(script, vec![]).await.unwrap_or_else(|e| panic!("{script}: {e}"))
    }

    /// The text of an element once it shows any: while a dialog opens, WebDriver sees none.
    pub async fn text(&self, css: &str) -> String {
        let start = Instant::now();
        loop {
            let text = self.wait(css).await.text().await.unwrap_or_default();
            if !text.is_empty() || start.elapsed() > Duration::from_secs(10) {
                return text;
            }
            tokio::time::sleep(Duration::from_millis(60)).await;
        }
    }

    /// Clicks once the element is there and nothing moves over it; what lies under a bar is scrolled out from there first.
    pub async fn click(&self, css: &str) {
        let start = Instant::now();
        loop {
            let element = self.wait(css).await;
            match element.click().await {
                Ok(()) => return,
                Err(e) => assert!(start.elapsed() < Duration::from_secs(10), "{css}: {e}"),
            }
            self.eval(&format!("document.querySelector(`{css}`)?.scrollIntoView({{ block: 'center' }})"))
                .await;
            tokio::time::sleep(Duration::from_millis(100)).await;
        }
    }

    /// Replaces what an input holds, as a person would.
    pub async fn fill(&self, css: &str, value: &str) {
        self.click(css).await;
        let input = self.wait(css).await;
        let held = "const e = document.activeElement; e.select(); window.heard = false; \
            e.addEventListener('change', () => { window.heard = true }, { once: true }); return e.value";
        let before = self.eval(held).await;
        input.send_keys(value).await.unwrap();
        let left = "document.activeElement.blur(); return [window.heard, document.hasFocus()]";
        let left = self.eval(left).await;
        assert!(left[0] == true || before == value, "{css} was left unheard, {before} for {value}: {left}");
    }

    /// Moves a slider, as dragging does.
    pub async fn slide(&self, css: &str, value: f64) {
        self.wait(css).await;
        let script = format!(
            "const e = document.querySelector('{css}'); e.value = {value}; e.dispatchEvent(new Event('input', {{ bubbles: true }}))"
        );
        self.eval(&script).await;
    }

    /// Middle of an element, px from the corner of the window.
    pub async fn middle(&self, css: &str) -> (f64, f64) {
        self.wait(css).await;
        let r = self
            .eval(&format!(
                "const r = document.querySelector(`{css}`).getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2]"
            ))
            .await;
        (r[0].as_f64().unwrap(), r[1].as_f64().unwrap())
    }

    /// One thing that a mouse does. By DevTools, since WebDriver holds a place of the page against the size of the real window.
    pub async fn mouse(&self, kind: &str, (x, y): (f64, f64)) {
        let held = if kind == "mouseMoved" { 1 } else { 0 };
        let event =
            json!({ "type": kind, "x": x, "y": y, "button": "left", "buttons": held, "clickCount": 1 });
        self.devtools("Input.dispatchMouseEvent", event).await;
    }

    /// Drags from one place to another, and lets go only if that is asked.
    pub async fn drag(&self, from: (f64, f64), to: (f64, f64), let_go: bool) {
        self.mouse("mousePressed", from).await;
        for k in 1..=5 {
            let part = f64::from(k) / 5.0;
            self.mouse("mouseMoved", (from.0 + part * (to.0 - from.0), from.1 + part * (to.1 - from.1)))
                .await;
        }
        if let_go {
            self.mouse("mouseReleased", to).await;
        }
    }

    pub async fn key(&self, key: &str) {
        let element = self.client.active_element().await.unwrap();
        element.send_keys(key).await.unwrap();
    }

    /// Everything is loaded and still.
    pub async fn settled(&self) {
        self.until("fonts", "document.fonts.status === 'loaded'").await;
        self.until("analysis", "document.querySelectorAll('[aria-busy=true]').length === 0").await;
        tokio::time::sleep(Duration::from_millis(500)).await;
    }

    pub async fn picture(&self, path: &Path) {
        self.settled().await;
        let shot = self.devtools("Page.captureScreenshot", json!({ "format": "png" })).await;
        let bytes = base64::engine::general_purpose::STANDARD
            .decode(shot["data"].as_str().expect("a picture"))
            .unwrap();
        std::fs::write(path, bytes).unwrap();
    }

    /// Ends the browser as a device that goes off does.
    pub fn kill(self) {
        let Browser { _driver, .. } = self;
        drop(_driver);
    }

    /// Ends the session. Fails the test on anything the page wrote to its console as an error.
    pub async fn close(self) {
        let url = format!("{}/session/{}/se/log", self.driver, self.session);
        let output = tokio::process::Command::new("curl")
            .args([
                "-s",
                "-X",
                "POST",
                "-H",
                "Content-Type: application/json",
                "-d",
                r#"{"type":"browser"}"#,
                &url,
            ])
            .output()
            .await
            .unwrap();
        let log: Value = serde_json::from_slice(&output.stdout).unwrap();
        let errors: Vec<&Value> = log["value"]
            .as_array()
            .map(|entries| {
                entries
                    .iter()
                    .filter(|e| e["level"] == "SEVERE")
                    // A refused form is answered with 4xx, which the browser logs; the page shows it.
                    .filter(|e| !e["message"].as_str().unwrap_or_default().contains("status of 4"))
                    .collect()
            })
            .unwrap_or_default();
        self.client.close().await.unwrap();
        assert!(errors.is_empty(), "the page wrote to its console: {errors:?}");
    }
}
