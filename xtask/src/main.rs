//! Chores of the project: `cargo xtask demo | test | lint | client | screenshots | bench | faults | doctor`.

mod doctor;
mod tools;

use std::thread::sleep;
use std::time::Duration;

use anyhow::{Result, bail};

use crate::tools::{
    cargo, check_client, front_end, install_browser, install_front_end, lint_front_end, linting_cargo,
    regenerate_client, run,
};

const USAGE: &str = "usage: cargo xtask <chore>
  demo         build what is needed and serve the demo scenario on a loopback port
  test         install what is missing, then lint, build and test everything
  lint         formatting, clippy, eslint, types
  client       write the front end's client and the schema of the records anew from the OpenAPI document
  screenshots  take the pictures in docs/screenshots anew
  bench        print the figures of speed, memory and load
  faults       kill the program two hundred times while it is written to
  doctor       say what is missing on this machine";

fn main() -> Result<()> {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    let rest: Vec<&str> = arguments.iter().skip(1).map(String::as_str).collect();
    match arguments.first().map(String::as_str) {
        Some("demo") => demo(&rest),
        Some("test") => test(),
        Some("lint") => lint(),
        Some("client") => regenerate_client(),
        Some("screenshots") => screenshots(),
        Some("bench") => bench(),
        Some("faults") => faults(),
        Some("doctor") => doctor::doctor(),
        _ => bail!("{USAGE}"),
    }
}

/// The debug build, which is made sooner: the simulator and the judgement are optimised in it too (see the workspace's
/// Cargo.toml).
fn demo(arguments: &[&str]) -> Result<()> {
    front_end()?;
    println!("Building Zinc Kite…");
    cargo(&["build", "--package", "zinc-kite"])?;
    let mut command = vec!["demo"];
    command.extend(arguments);
    run("target/debug/zinc-kite", &command)
}

fn test() -> Result<()> {
    install_browser()?;
    front_end()?;
    cargo(&["fmt", "--all", "--check"])?;
    // What looks at the front end keeps one processor busy; the compiler has the others meanwhile.
    std::thread::scope(|scope| {
        let built = scope.spawn(|| linting_cargo(&["test", "--workspace", "--no-run"]));
        let front = lint_front_end().and_then(|()| run("npm", &["--prefix", "web", "test"]));
        front.and(built.join().unwrap_or_else(|_| bail!("cargo could not be run")))
    })?;
    check_client()?;
    linting_cargo(&["test", "--workspace"])
}

fn lint() -> Result<()> {
    install_front_end()?;
    cargo(&["fmt", "--all", "--check"])?;
    lint_front_end()?;
    cargo(&["clippy", "--workspace", "--all-targets", "--", "-D", "warnings"])
}

fn screenshots() -> Result<()> {
    install_browser()?;
    front_end()?;
    cargo(&["test", "--package", "zinc-kite", "--test", "browser", "--", "--ignored", "pictures"])
}

fn faults() -> Result<()> {
    front_end()?;
    let kills = "file::prop_no_disc_that_was_answered_is_lost_to_two_hundred_kills";
    cargo(&["test", "--package", "zinc-kite", "--test", "program", "--", "--ignored", "--exact", kills])
}

/// How long the machine rests between compiling and measuring: one whose processor is shared lends it for bursts, and after
/// minutes of compiling it was seen to be half as slow again.
const REST: Duration = Duration::from_secs(45);

fn bench() -> Result<()> {
    install_browser()?;
    front_end()?;
    let flights = ["--release", "--package", "zinc-kite-flight", "--example", "speed"];
    let judgement = ["--release", "--package", "zinc-kite", "--example", "judge"];
    let plan = ["--release", "--package", "zinc-kite", "--example", "plan"];
    let round = ["--release", "--package", "zinc-kite", "--example", "round"];
    let field = ["--release", "--package", "zinc-kite", "--example", "field"];
    let crowd = ["--release", "--package", "zinc-kite", "--example", "crowd"];
    let load = ["--release", "--package", "zinc-kite", "--test", "program"];
    let dial = ["--release", "--package", "zinc-kite", "--test", "browser"];
    cargo(&[&["build"], &flights[..]].concat())?;
    cargo(&[&["build"], &judgement[..]].concat())?;
    cargo(&[&["build"], &plan[..]].concat())?;
    cargo(&[&["build"], &round[..]].concat())?;
    cargo(&[&["build"], &field[..]].concat())?;
    cargo(&[&["build"], &crowd[..]].concat())?;
    cargo(&[&["test", "--no-run"], &load[..]].concat())?;
    cargo(&[&["test", "--no-run"], &dial[..]].concat())?;
    println!("resting for {} s after compiling", REST.as_secs());
    sleep(REST);
    cargo(&[&["run"], &flights[..]].concat())?;
    cargo(&[&["run"], &judgement[..]].concat())?;
    cargo(&[&["run"], &plan[..]].concat())?;
    cargo(&[&["run"], &round[..]].concat())?;
    cargo(&[&["run"], &field[..]].concat())?;
    cargo(&[&["run"], &crowd[..]].concat())?;
    cargo(&[&["test"], &load[..], &["--", "--ignored", "--nocapture", "--exact", "file::load"]].concat())?;
    cargo(&[&["test"], &dial[..], &["--", "--ignored", "--nocapture", "dial_to_pixels"]].concat())
}
