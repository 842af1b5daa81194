//! What a machine lacks for the demo, the tests and the pictures.

use std::net::TcpListener;
use std::process::Command;

use anyhow::{Result, bail};

use crate::tools::root;

/// What a thing is needed for.
#[derive(Clone, Copy, PartialEq, Eq)]
enum For {
    Everything,
    Tests,
    Nothing,
}

impl For {
    fn words(self) -> &'static str {
        match self {
            For::Everything => "demo, test, screenshots",
            For::Tests => "test, screenshots",
            For::Nothing => "speed",
        }
    }
}

struct Finding {
    what: String,
    good: bool,
    needed_for: For,
    way_out: &'static str,
}

/// First line that a program prints, if it is there.
fn says(program: &str, argument: &str) -> Option<String> {
    let output = Command::new(program).arg(argument).output().ok().filter(|o| o.status.success())?;
    let text = String::from_utf8_lossy(&output.stdout).into_owned();
    Some(text.lines().next().unwrap_or_default().to_owned())
}

/// The first two numbers of a version.
fn version(text: &str) -> Option<(u32, u32)> {
    let figures = text.split(|c: char| !(c.is_ascii_digit() || c == '.')).find(|part| part.contains('.'))?;
    let mut parts = figures.split('.').map(|p| p.parse().ok());
    Some((parts.next()??, parts.next()??))
}

/// A program that has to be there, of at least a version.
fn program(name: &str, least: (u32, u32), needed_for: For, way_out: &'static str) -> Finding {
    let said = says(name, "--version");
    let good = said.as_ref().is_some_and(|text| least == (0, 0) || version(text).is_some_and(|v| v >= least));
    let wanted = if least == (0, 0) { String::new() } else { format!(", {}.{} or newer", least.0, least.1) };
    let what = match said {
        Some(text) => format!("{name}: {text}{}", if good { String::new() } else { wanted }),
        None => format!("{name}{wanted}"),
    };
    Finding { what, good, needed_for, way_out }
}

fn findings() -> Vec<Finding> {
    let browser = "`cargo xtask test` installs it on Debian as root; elsewhere install it by hand";
    let mut found = vec![
        program("rustc", (1, 95), For::Everything, "rustup update stable"),
        program("cc", (0, 0), For::Everything, "install a C compiler: apt-get install gcc"),
        program("node", (20, 0), For::Everything, "install Node 20 or newer"),
        program("npm", (9, 0), For::Everything, "it comes with Node"),
        program("chromium", (0, 0), For::Tests, browser),
        program("chromedriver", (0, 0), For::Tests, browser),
        program("curl", (0, 0), For::Tests, browser),
        program("bash", (0, 0), For::Tests, "install bash"),
    ];
    let target = root().join("target");
    let writes = std::fs::create_dir_all(&target).is_ok() && tempfile_in(&target);
    found.push(Finding {
        what: format!("a folder to build in: {}", target.display()),
        good: writes,
        needed_for: For::Everything,
        way_out: "see that you may write there and that the disk is not full",
    });
    found.push(Finding {
        what: "port 4817 of this machine".into(),
        good: TcpListener::bind(("127.0.0.1", 4817)).is_ok(),
        needed_for: For::Nothing,
        way_out: "another program has it: end that, or use `cargo xtask demo --port 0`",
    });
    let flags = std::fs::read_to_string("/proc/cpuinfo").unwrap_or_default();
    found.push(Finding {
        what: "a processor with AVX-512".into(),
        good: flags.contains("avx512f"),
        needed_for: For::Nothing,
        way_out: "everything works without, at about half the speed",
    });
    found
}

fn tempfile_in(folder: &std::path::Path) -> bool {
    let probe = folder.join(".doctor");
    std::fs::write(&probe, "x").is_ok() && std::fs::remove_file(&probe).is_ok()
}

/// Prints what is there and what is missing. Fails if the demo or the tests would.
pub fn doctor() -> Result<()> {
    let found = findings();
    for f in &found {
        let mark = if f.good { "good   " } else { "missing" };
        println!("{mark}  {}", f.what);
        if !f.good {
            println!("         needed for {}; {}", f.needed_for.words(), f.way_out);
        }
    }
    let missing = |needed: For| found.iter().any(|f| !f.good && f.needed_for == needed);
    match (missing(For::Everything), missing(For::Tests)) {
        (true, _) => bail!("the demo cannot be built here yet"),
        (false, true) => bail!("the demo can be built; the tests cannot run yet"),
        (false, false) => {
            println!("Everything for demo, test and screenshots is here.");
            Ok(())
        }
    }
}

#[cfg(test)]
mod tests {
    use super::version;

    #[test]
    fn versions_are_found_in_what_programs_say() {
        assert_eq!(version("rustc 1.95.0 (abc 2026-04-14)"), Some((1, 95)));
        assert_eq!(version("v20.20.2"), Some((20, 20)));
        assert_eq!(version("11.3.1"), Some((11, 3)));
        assert_eq!(version("nothing here"), None);
    }
}
