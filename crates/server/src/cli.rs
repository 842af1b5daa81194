//! The command line.

use std::io::Read;
use std::net::TcpListener;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use actix_web::{App as HttpApp, HttpServer, middleware, web};
use anyhow::{Context, Result, bail};
use clap::{Parser, Subcommand};
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::verdict::analysis::Analysis;
use zinc_kite_bag::verdict::season::SeasonVerdict;
use zinc_kite_bag::verdict::work::Work;

use crate::app::App;
use crate::store::{BagId, Store};
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
    /// Serve the application on this machine, from a database file.
    Serve {
        /// Database file; made if there is none.
        #[arg(long, default_value = "zinc-kite.db")]
        db: PathBuf,
        /// Port on this machine; 0 takes a free one.
        #[arg(long, default_value_t = 4817)]
        port: u16,
    },
    /// Serve the demo scenario from a throw-away database.
    Demo {
        /// Port on this machine; 0 takes a free one.
        #[arg(long, default_value_t = 4817)]
        port: u16,
    },
    /// Fly one throw: JSON on standard input, JSON on standard output.
    #[command(after_help = FLY_HELP)]
    Fly,
    /// Judge a bag and print pegs, chances, gaps, twins, worths and findings.
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
    Openapi,
}

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
    tracing_subscriber::fmt()
        .with_env_filter(
            tracing_subscriber::EnvFilter::try_from_default_env().unwrap_or_else(|_| "warn".into()),
        )
        .with_writer(std::io::stderr)
        .init();
    match Cli::parse().command {
        Command::Serve { db, port } => serve(Store::open(&db)?, port),
        Command::Demo { port } => serve_demo(port),
        Command::Fly => {
            let mut text = String::new();
            std::io::stdin().read_to_string(&mut text).context("standard input is not text")?;
            print_line(&serde_json::to_string(&fly::fly(&text)?)?)
        }
        Command::Analyse { db, bag, wind_m_s, wind_from_deg, gust_m_s, json, .. } => {
            let conditions = Conditions { wind_m_s, wind_from_deg, gust_m_s, ..Conditions::default() };
            analyse(db.as_deref(), BagId(bag), conditions, json)
        }
        Command::Openapi => print_line(&routes::document().to_pretty_json()?),
    }
}

/// Prints to standard output; a reader that has closed its end is no failure.
fn print_line(text: &str) -> Result<()> {
    use std::io::Write;
    match writeln!(std::io::stdout(), "{text}") {
        Err(e) if e.kind() != std::io::ErrorKind::BrokenPipe => Err(e.into()),
        _ => Ok(()),
    }
}

fn demo_store(path: Option<&Path>) -> Result<Store> {
    let mut store = path.map_or_else(Store::in_memory, Store::open)?;
    demo::fill(&mut store)?;
    Ok(store)
}

fn serve_demo(port: u16) -> Result<()> {
    let folder = tempfile::tempdir().context(
        "no throw-away folder could be made for the demo; check that the system's temporary folder is writable",
    )?;
    serve(demo_store(Some(&folder.path().join("demo.db")))?, port)
}

fn serve(store: Store, port: u16) -> Result<()> {
    let listener = TcpListener::bind(("127.0.0.1", port)).with_context(|| {
        format!("port {port} cannot be used; is another Zinc Kite running? Name another with --port, or --port 0 for a free one")
    })?;
    let address = listener.local_addr()?;
    let app = web::Data::new(App::new(store)?);
    actix_web::rt::System::new().block_on(async move {
        let server = HttpServer::new(move || {
            HttpApp::new()
                .wrap(tracing_actix_web::TracingLogger::default())
                .wrap(middleware::Compress::default())
                .configure(routes::configure(app.clone()))
        })
        .workers(2)
        // A client that hangs up is not waited for.
        .h1_allow_half_closed(false)
        .listen(listener)?
        .run();
        print_line(&format!("Zinc Kite is at http://{address}/ (Ctrl-C ends it)"))?;
        server.await.map_err(anyhow::Error::from)
    })
}

fn analyse(db: Option<&Path>, bag: BagId, conditions: Conditions, json: bool) -> Result<()> {
    let store = match db {
        Some(path) if !path.exists() => {
            bail!("there is no database {}; `zinc-kite serve --db {0}` makes one", path.display())
        }
        Some(path) => Store::open(path)?,
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
            let worth = season.worths.iter().find(|w| w.disc_id == p.disc_id);
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
