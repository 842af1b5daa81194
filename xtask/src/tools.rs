//! The programs that chores call, and how to get those that are missing.

use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::SystemTime;

use anyhow::{Context, Result, bail};

/// The top of the checkout.
pub fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("..")
}

/// Runs a program from the top of the checkout.
pub fn run(program: &str, arguments: &[&str]) -> Result<()> {
    let status = Command::new(program)
        .args(arguments)
        .current_dir(root())
        .status()
        .with_context(|| format!("{program} could not be started; is it installed?"))?;
    if status.success() { Ok(()) } else { bail!("{program} {} ended with {status}", arguments.join(" ")) }
}

pub fn cargo(arguments: &[&str]) -> Result<()> {
    run(option_env!("CARGO").unwrap_or("cargo"), arguments)
}

/// Cargo with clippy in the place of the compiler for what is our own: one build is checked and can be run, where `cargo clippy`
/// looks at everything once and the compiler once more. What it warns of is an error.
pub fn linting_cargo(arguments: &[&str]) -> Result<()> {
    let sysroot = Command::new("rustc").args(["--print", "sysroot"]).output()?;
    let clippy = Path::new(String::from_utf8(sysroot.stdout)?.trim()).join("bin/clippy-driver");
    if !clippy.exists() {
        bail!("clippy is missing: `rustup component add clippy`");
    }
    // Arguments as `cargo clippy` hands them on.
    let strict = "-D__CLIPPY_HACKERY__warnings__CLIPPY_HACKERY__";
    let status = Command::new(option_env!("CARGO").unwrap_or("cargo"))
        .args(arguments)
        .envs([("RUSTC_WORKSPACE_WRAPPER", clippy.as_os_str()), ("CLIPPY_ARGS", strict.as_ref())])
        .current_dir(root())
        .status()?;
    if status.success() { Ok(()) } else { bail!("cargo {} ended with {status}", arguments.join(" ")) }
}

fn npm(arguments: &[&str]) -> Result<()> {
    let mut all = vec!["--prefix", "web"];
    all.extend(arguments);
    run("npm", &all)
}

fn is_on_path(program: &str) -> bool {
    std::env::var_os("PATH")
        .is_some_and(|path| std::env::split_paths(&path).any(|folder| folder.join(program).exists()))
}

/// Debian's Chromium and ChromeDriver, for the browser tests.
pub fn install_browser() -> Result<()> {
    if is_on_path("chromium") && is_on_path("chromedriver") && is_on_path("curl") {
        return Ok(());
    }
    println!("Installing Chromium, ChromeDriver and curl…");
    run("apt-get", &["update", "-qq"])?;
    run(
        "apt-get",
        &["install", "-y", "-qq", "--no-install-recommends", "chromium", "chromium-driver", "curl"],
    )
    .context("the browser tests need Debian's packages chromium, chromium-driver and curl; install them and try again")
}

fn modified(path: &Path) -> Option<SystemTime> {
    path.metadata().and_then(|m| m.modified()).ok()
}

/// Newest change below a folder.
fn newest(folder: &Path) -> Option<SystemTime> {
    let entries = std::fs::read_dir(folder).ok()?;
    entries
        .filter_map(|entry| {
            let path = entry.ok()?.path();
            if path.is_dir() { newest(&path) } else { modified(&path) }
        })
        .max()
}

/// The front end's packages, as the lock file has them.
pub fn install_front_end() -> Result<()> {
    let web = root().join("web");
    let installed = modified(&web.join("node_modules/.package-lock.json"));
    if installed.is_some() && installed >= modified(&web.join("package-lock.json")) {
        return Ok(());
    }
    println!("Installing the front end's packages…");
    npm(&["ci", "--no-audit", "--no-fund"])
}

/// The built front end, which the binary embeds; built again only if something in it changed.
pub fn front_end() -> Result<()> {
    install_front_end()?;
    let web = root().join("web");
    let built = modified(&web.join("dist/index.html"));
    let parts = ["src", "public"].map(|folder| newest(&web.join(folder)));
    let files = ["index.html", "vite.config.ts", "package.json"].map(|file| modified(&web.join(file)));
    if built.is_some() && parts.iter().chain(&files).all(|changed| *changed <= built) {
        return Ok(());
    }
    println!("Building the front end…");
    npm(&["run", "build"])
}

pub fn lint_front_end() -> Result<()> {
    npm(&["run", "format"])?;
    npm(&["run", "lint"])?;
    npm(&["run", "typecheck"])
}

/// Path of the client's types below the top of the checkout.
const CLIENT: &str = "web/src/api/schema.d.ts";

/// Makes the client's types from the OpenAPI document of the program as it was last built, into `target`; gives their
/// text.
fn make_client() -> Result<String> {
    install_front_end()?;
    let output = Command::new(root().join("target/debug/zinc-kite")).arg("openapi").output()?;
    if !output.status.success() {
        bail!("zinc-kite openapi failed: {}", String::from_utf8_lossy(&output.stderr));
    }
    std::fs::write(root().join("target/openapi.json"), output.stdout)?;
    npm(&["run", "api"])?;
    Ok(std::fs::read_to_string(root().join("target/schema.d.ts"))?)
}

/// Path of the published schema of the records.
const SCHEMA: &str = "docs/records.schema.json";

/// Builds the program and writes the client's types and the schema of the records anew.
pub fn regenerate_client() -> Result<()> {
    cargo(&["build", "--package", "zinc-kite"])?;
    let made = make_client()?;
    std::fs::write(root().join(CLIENT), made)?;
    let schema = Command::new(root().join("target/debug/zinc-kite")).arg("schema").output()?;
    Ok(std::fs::write(root().join(SCHEMA), schema.stdout)?)
}

/// Fails if the client's types are not those of the program, which the tests have just built.
pub fn check_client() -> Result<()> {
    if make_client()? != std::fs::read_to_string(root().join(CLIENT))? {
        bail!(
            "{CLIENT} is not what the program's OpenAPI document gives: run `cargo xtask client` and commit it"
        );
    }
    Ok(())
}
