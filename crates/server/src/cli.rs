//! The command line.

use std::io::{IsTerminal, Read};
use std::path::{Path, PathBuf};
use std::sync::Arc;

use anyhow::{Context, Result, bail};
use clap::{CommandFactory, Parser, Subcommand};
use clap_complete::Shell;
use directories::ProjectDirs;
use tracing_appender::non_blocking::WorkerGuard;
use tracing_appender::rolling::{RollingFileAppender, Rotation};
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::verdict::analysis::Analysis;
use zinc_kite_bag::verdict::season::SeasonVerdict;
use zinc_kite_bag::verdict::work::Work;

use crate::app::App;
use crate::door::{keep_password, password_file};
use crate::format::records::verified_copy;
use crate::instrument::lines::Said;
use crate::instrument::rangefinder::{self, RangefinderStandIn};
use crate::instrument::weather::{self, WeatherStandIn};
use crate::instrument::wind_meter::{self, WindMeterStandIn};
use crate::serve::{At, serve};
use crate::store::copies::restore;
use crate::store::{BagId, Store, counted, is_left};
use crate::{demo, fly, routes};

/// Assemble a full disc golf bag, judged by flying it.
#[derive(Parser)]
#[command(name = "zinc-kite", version)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve the application from a database file: to this machine, or with --host to others who know the password.
    #[command(after_help = SERVE_HELP)]
    Serve {
        /// Database file, which must exist unless --new is given. Without it, `zinc-kite.db` in the data folder of this user,
        /// made if there is none.
        #[arg(long)]
        db: Option<PathBuf>,
        /// Make the database file named with --db if there is none.
        #[arg(long, requires = "db")]
        new: bool,
        #[command(flatten)]
        at: At,
    },
    /// Set the password that is asked for when others than this machine are served.
    #[command(
        after_help = "Examples:\n  zinc-kite password\n  zinc-kite password --db ~/discs.db < password.txt"
    )]
    Password {
        /// Database file; without it the one in the data folder of this user.
        #[arg(long)]
        db: Option<PathBuf>,
    },
    /// Serve the demo scenario from a throw-away database.
    #[command(after_help = "Example:\n  zinc-kite demo --port 0")]
    Demo {
        /// Port on this machine; 0 takes a free one.
        #[arg(long, default_value_t = 4817)]
        port: u16,
    },
    /// Stand in for an instrument or a service, on this machine alone.
    Instrument {
        #[command(subcommand)]
        which: Instrument,
    },
    /// Write a copy of everything to a new file, also while the application is in use.
    #[command(after_help = "Example:\n  zinc-kite backup ~/discs-before-the-season.db")]
    Backup {
        /// File to make.
        file: PathBuf,
        /// Database file; without it the one in the data folder of this user.
        #[arg(long)]
        db: Option<PathBuf>,
    },
    /// Put what a copy holds in the place of the database, which is kept beside it. End the application first.
    #[command(after_help = "Example:\n  zinc-kite restore ~/discs-before-the-season.db")]
    Restore {
        /// The copy.
        file: PathBuf,
        /// Database file; without it the one in the data folder of this user.
        #[arg(long)]
        db: Option<PathBuf>,
    },
    /// Fly one throw: JSON on standard input, JSON on standard output.
    #[command(after_help = FLY_HELP)]
    Fly,
    /// Judge a bag and print pegs, chances, gaps, twins, worths and findings.
    #[command(
        after_help = "Examples:\n  zinc-kite analyse --demo\n  zinc-kite analyse --db ~/discs.db --wind-m-s 6 --json"
    )]
    Analyse {
        /// Database file, which must exist.
        #[arg(long, required_unless_present = "demo", conflicts_with = "demo")]
        db: Option<PathBuf>,
        /// Judge the demo scenario.
        #[arg(long)]
        demo: bool,
        /// Which bag.
        #[arg(long, default_value_t = 1)]
        bag: i64,
        /// Mean wind at 10 m, m/s.
        #[arg(long, default_value_t = 0.0)]
        wind_m_s: f64,
        /// Where it blows from, degrees clockwise from straight ahead: 0 a headwind, 90 from the right.
        #[arg(long, default_value_t = 0.0, allow_hyphen_values = true)]
        wind_from_deg: f64,
        /// Gusts: standard deviation of the wind, m/s.
        #[arg(long, default_value_t = 0.0)]
        gust_m_s: f64,
        /// Print JSON instead of text.
        #[arg(long)]
        json: bool,
    },
    /// Print the OpenAPI document.
    #[command(after_help = "Example:\n  zinc-kite openapi > openapi.json")]
    Openapi,
    /// Print the JSON Schema of the records, as they are exported and imported
    #[command(after_help = "Example:\n  zinc-kite schema > records.schema.json")]
    Schema,
    /// Print what makes a shell complete the commands of this program.
    #[command(after_help = COMPLETIONS_HELP)]
    Completions {
        /// Which shell.
        shell: Shell,
    },
}

/// What there are stand-ins for.
#[derive(Subcommand)]
enum Instrument {
    /// A weather service: hourly wind, gusts, temperature and rain as JSON over HTTP.
    #[command(
        after_help = "Example:\n  zinc-kite instrument weather --wind-m-s 9 &\n  zinc-kite serve --weather http://127.0.0.1:4818"
    )]
    Weather(WeatherStandIn),
    /// A rangefinder with a compass: a JSON line a reading over TCP.
    #[command(
        after_help = "Example:\n  zinc-kite instrument rangefinder --port 4819 &\n  zinc-kite serve --rangefinder 127.0.0.1:4819"
    )]
    Rangefinder(RangefinderStandIn),
    /// A wind meter: NMEA 0183 sentences over TCP.
    #[command(
        after_help = "Example:\n  zinc-kite instrument wind-meter --port 4820 &\n  zinc-kite serve --wind-meter 127.0.0.1:4820"
    )]
    WindMeter(WindMeterStandIn),
}

const COMPLETIONS_HELP: &str = "Examples:
  zinc-kite completions bash > ~/.local/share/bash-completion/completions/zinc-kite
  zinc-kite completions zsh > ~/.zfunc/_zinc-kite
  zinc-kite completions fish > ~/.config/fish/completions/zinc-kite.fish";

const SERVE_HELP: &str = "Examples:
  zinc-kite serve
  zinc-kite serve --db ~/discs.db --new
  zinc-kite password && zinc-kite serve --host 0.0.0.0
  zinc-kite serve --host 0.0.0.0 --tls-cert cert.pem --tls-key key.pem
  zinc-kite serve --behind-tls --name bag.example";

const FLY_HELP: &str = r#"Example:
  echo '{"numbers":{"speed":9,"glide":5,"turn":-1,"fade":2},"mass_g":175,
         "release":{"speed_m_s":27,"launch_deg":11,"nose_deg":-3,"hyzer_deg":0,"aim_deg":0,
                    "hand":"right","style":"backhand"},
         "air":{"density_kg_m3":1.225},"wind":{"along_m_s":-4,"left_m_s":0,"profile_exponent":0.14},
         "path":false}' | zinc-kite fly"#;

/// Runs the command line.
///
/// # Errors
/// A message that says what went wrong and what to do.
pub fn run() -> Result<()> {
    let command = Cli::parse().command;
    let _log = match &command {
        Command::Serve { at, .. } => log(at.log.as_deref())?,
        _ => log(None)?,
    };
    match command {
        Command::Serve { db, new, at } => {
            let path = database(db, new)?;
            let store = Store::open(&path)?;
            print_line(&format!("Your discs are in {}", path.display()))?;
            serve(store, &at, print_line)
        }
        Command::Password { db } => {
            let file = password_file(&database(db, true)?);
            keep_password(&file, &asked_password()?)?;
            print_line(&format!(
                "The password is set; only its hash is kept, in {}. Start Zinc Kite anew for it to count.",
                file.display()
            ))
        }
        Command::Demo { port } => serve_demo(port),
        Command::Instrument { which } => {
            let at = |what: &str| {
                let what = what.to_owned();
                move |address: &str| print_line(&format!("The {what} is at {address} (Ctrl-C ends it)"))
            };
            match which {
                Instrument::Weather(of) => weather::run(of, at("weather")),
                Instrument::Rangefinder(of) => rangefinder::run(of, at("rangefinder")),
                Instrument::WindMeter(of) => wind_meter::run(of, at("wind meter")),
            }
        }
        Command::Backup { file, db } => {
            // Whether it is there is asked here: the advice to make one would be no help.
            let path = database(db, true)?;
            if !path.exists() {
                bail!("there is no database {}, so nothing to copy; check the name", path.display())
            }
            let store = Store::copy_of(&path)?;
            store.back_up(&file)?;
            print_line(&format!("{} is a copy of {}: {}", file.display(), path.display(), holds(&store)?))
        }
        Command::Restore { file, db } => {
            let path = database(db, true)?;
            if !file.exists() {
                bail!("there is no file {}; check the name", file.display())
            }
            let (copy, _in_its_file) = verified_copy(&file, Some(&path))?;
            let held = holds(&copy)?;
            let kept = restore(&path, &copy)?;
            let kept =
                kept.map_or(String::new(), |kept| format!("; what was there is kept in {}", kept.display()));
            print_line(&format!("{} now holds {held}{kept}", path.display()))
        }
        Command::Fly => {
            let mut text = String::new();
            std::io::stdin().read_to_string(&mut text).context("standard input is not text")?;
            print_line(&serde_json::to_string(&fly::fly(&text)?)?)
        }
        Command::Analyse { db, bag, wind_m_s, wind_from_deg, gust_m_s, json, .. } => {
            let conditions = Conditions { wind_m_s, wind_from_deg, gust_m_s, ..Conditions::default() };
            analyse(db.as_deref(), BagId(bag), conditions, json)
        }
        Command::Completions { shell } => {
            let mut script = Vec::new();
            clap_complete::generate(shell, &mut Cli::command(), "zinc-kite", &mut script);
            print_line(String::from_utf8_lossy(&script).trim_end())
        }
        Command::Openapi => print_line(&routes::document().to_pretty_json()?),
        Command::Schema => print_line(&serde_json::to_string_pretty(&routes::records_schema())?),
    }
}

/// Log files kept, one a day.
const LOGS_KEPT: usize = 14;

/// Begins the log: on standard error, or in a folder, a file a day. What comes back is held until the program ends.
fn log(folder: Option<&Path>) -> Result<Option<WorkerGuard>> {
    let level = || tracing_subscriber::EnvFilter::try_from_default_env();
    let Some(folder) = folder else {
        tracing_subscriber::fmt()
            .with_env_filter(level().unwrap_or_else(|_| "warn".into()))
            .with_ansi(std::io::stderr().is_terminal())
            .with_writer(std::io::stderr)
            .init();
        return Ok(None);
    };
    let files = RollingFileAppender::builder()
        .rotation(Rotation::DAILY)
        .filename_prefix("zinc-kite")
        .filename_suffix("log")
        .max_log_files(LOGS_KEPT)
        .build(folder)
        .with_context(|| {
            format!("no log can be written in {}; name a folder in which you may write", folder.display())
        })?;
    let (writer, guard) = tracing_appender::non_blocking(files);
    tracing_subscriber::fmt()
        .with_env_filter(level().unwrap_or_else(|_| "info".into()))
        .with_ansi(false)
        .with_writer(writer)
        .init();
    Ok(Some(guard))
}

/// Prints to standard output; a reader that has closed its end is no failure.
fn print_line(text: &str) -> Result<()> {
    use std::io::Write;
    // What came from a file of somebody else's does not steer the terminal.
    let shown: String = text
        .chars()
        .map(|c| if c.is_control() && !matches!(c, '\n' | '\t') { '\u{fffd}' } else { c })
        .collect();
    match writeln!(std::io::stdout(), "{shown}") {
        Err(e) if e.kind() != std::io::ErrorKind::BrokenPipe => Err(e.into()),
        _ => Ok(()),
    }
}

/// What is in a database, in words.
fn holds(store: &Store) -> Result<String> {
    Ok(format!("{} and {}", counted(store.discs()?.len(), "disc"), counted(store.bags()?.len(), "bag")))
}

/// The database to work on.
fn database(named: Option<PathBuf>, new: bool) -> Result<PathBuf> {
    if let Some(path) = named {
        if !new && !path.exists() {
            bail!("there is no database {}; check the name, or add --new to make it", path.display())
        }
        return Ok(path);
    }
    let folders = ProjectDirs::from("", "", "zinc-kite")
        .context("this user has no folder for the data of programs; name a database with --db FILE --new")?;
    let folder = folders.data_dir();
    std::fs::create_dir_all(folder).with_context(|| {
        format!(
            "the folder {} cannot be made; name a database elsewhere with --db FILE --new",
            folder.display()
        )
    })?;
    Ok(folder.join("zinc-kite.db"))
}

fn demo_store(path: Option<&Path>) -> Result<Store> {
    let mut store = path.map_or_else(Store::in_memory, Store::open)?;
    demo::fill(&mut store)?;
    Ok(store)
}

fn serve_demo(port: u16) -> Result<()> {
    clear_up_after_the_killed(&std::env::temp_dir());
    let folder = tempfile::Builder::new().prefix(DEMO_FOLDER).tempdir().context(
        "no throw-away folder could be made for the demo; check that the system's temporary folder is writable",
    )?;
    let said = Said::on(0, DEMO_LINE_MS);
    let weather = beside("weather", |tell| weather::run(WeatherStandIn::on(0), tell))?;
    let beam = beside("rangefinder", move |tell| rangefinder::run(RangefinderStandIn::saying(said), tell))?;
    let wind = beside("wind meter", move |tell| wind_meter::run(WindMeterStandIn::saying(said), tell))?;
    let at = At::this_machine(port).with_weather(weather).with_instruments(beam, wind);
    serve(demo_store(Some(&folder.path().join("demo.db")))?, &at, print_line)
}

/// How often the demo's instruments say a line, ms.
const DEMO_LINE_MS: u64 = 1000;

/// A stand-in, run beside what follows as long as that runs; its address.
fn beside(
    what: &'static str,
    run: impl FnOnce(Box<dyn FnOnce(&str) -> Result<()>>) -> Result<()> + Send + 'static,
) -> Result<String> {
    let (tell, told) = std::sync::mpsc::channel();
    std::thread::spawn(move || {
        let ran = run(Box::new(move |address: &str| Ok(tell.send(address.to_owned())?)));
        if let Err(cause) = ran {
            tracing::warn!(%cause, "the demo has no {what}");
        }
    });
    told.recv().with_context(|| format!("the stand-in for a {what} could not be begun"))
}

/// How the throw-away folder of a demo is called.
const DEMO_FOLDER: &str = "zinc-kite-demo-";

/// Removes folders of demos that were killed: nobody holds their databases any more.
fn clear_up_after_the_killed(among: &Path) {
    let Ok(entries) = std::fs::read_dir(among) else { return };
    let demos = entries.flatten().filter(|e| e.file_name().to_string_lossy().starts_with(DEMO_FOLDER));
    for folder in demos.map(|e| e.path()) {
        // One that cannot be removed is in nobody's way.
        if is_left(&folder.join("demo.db")) && std::fs::remove_dir_all(&folder).is_err() {
            tracing::debug!(folder = %folder.display(), "is left from a demo");
        }
    }
}

/// Asks for a new password: twice at a terminal, where it is not shown; once from a pipe.
fn asked_password() -> Result<String> {
    if !std::io::stdin().is_terminal() {
        let mut line = String::new();
        std::io::stdin().read_line(&mut line).context("standard input is not text")?;
        return Ok(line.trim_end_matches(['\r', '\n']).to_owned());
    }
    let first = rpassword::prompt_password("New password: ")?;
    if rpassword::prompt_password("The same again: ")? != first {
        bail!("the two differ; nothing was set, try again")
    }
    Ok(first)
}

fn analyse(db: Option<&Path>, bag: BagId, conditions: Conditions, json: bool) -> Result<()> {
    let store = match db {
        Some(path) if !path.exists() => {
            bail!("there is no database {}; `zinc-kite serve --db {0} --new` makes one", path.display())
        }
        Some(path) => Store::copy_of(path)?,
        None => demo_store(None)?,
    };
    let app = App::new(store)?;
    let work = Arc::new(Work::default());
    let (today, season) = (app.analyse(bag, conditions, &work)?, app.judge_season(bag, &work)?);
    if json {
        let both = serde_json::json!({ "today": today, "season": season });
        return print_line(&serde_json::to_string_pretty(&both)?);
    }
    let mut text = String::new();
    report(&mut text, &today, &season)?;
    print_line(text.trim_end())
}

fn report(text: &mut String, today: &Analysis, season: &SeasonVerdict) -> std::fmt::Result {
    use std::fmt::Write;
    for lane in &today.board.lanes {
        writeln!(text, "{}", lane.label.to_uppercase())?;
        for p in &lane.pucks {
            // One that the event's rules keep out of the hand is told as those beside the bag are.
            let worth = season.worths.iter().chain(&season.beside).find(|w| w.disc_id == p.disc_id);
            writeln!(
                text,
                "  {:22} {:6} finish {:+5.1}° swing {:4.1}° {:5.1} m  {}",
                p.name,
                p.peg.map_or("", zinc_kite_bag::need::peg::Peg::label),
                p.bend.finish_deg,
                p.bend.swing_deg,
                p.distance_m,
                worth.map_or("", |w| w.words.as_str())
            )?;
        }
        for s in lane.sockets.iter().filter(|s| s.wanted && s.disc_ids.is_empty()) {
            writeln!(text, "  (no disc on {})", s.label)?;
        }
        for s in &lane.sockets {
            if let Some(why_not) = &s.why_not {
                writeln!(text, "  (no use for {}: {why_not})", s.label)?;
            }
        }
        for t in &lane.twins {
            let name = |id| today.board.puck(id).map_or("", |p| p.name.as_str());
            writeln!(text, "  twins {:.0} %: {} and {}", 100.0 * t.overlap, name(t.a), name(t.b))?;
        }
    }
    writeln!(
        text,
        "\nSTROKES A ROUND left on the lines: today {:.2}; over the season {:.2}, all of the shelf {:.2}, ideal discs {:.2}",
        today.leaves_strokes, season.leaves_strokes, season.shelf_leaves_strokes, season.ideal_leaves_strokes
    )?;
    writeln!(text, "\nLINES (today; season)")?;
    for v in today.lines.iter().filter(|v| v.line.enabled) {
        let line = season.lines.iter().find(|l| l.key == v.line.key);
        writeln!(
            text,
            "  {:22} {:3.0} %  {:9} {}",
            v.line.spec.name,
            100.0 * v.best.map_or(0.0, |b| b.chance),
            line.map_or(String::new(), |l| format!("{:?}", l.standing)),
            line.map_or("", |l| l.reason.as_str())
        )?;
    }
    writeln!(text, "\nFIX FIRST")?;
    for (k, f) in season.findings.iter().enumerate() {
        writeln!(
            text,
            "  {}. {} [{:.2} strokes a round]\n     {}\n     -> {}",
            k + 1,
            f.title,
            f.saves_strokes,
            f.reason,
            f.action_label
        )?;
    }
    Ok(())
}
