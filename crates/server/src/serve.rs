//! Serving: where, to whom, with TLS or without, until somebody asks it to end.

use std::net::{IpAddr, Ipv4Addr, SocketAddr, TcpListener};
use std::path::{Path, PathBuf};
use std::time::Duration;

use actix_web::dev::{Server, ServerHandle};
use actix_web::web::Data;
use actix_web::{App as HttpApp, HttpServer, middleware};
use anyhow::{Context, Result, bail};
use clap::Args;
use rustls::pki_types::pem::PemObject;
use rustls::pki_types::{CertificateDer, PrivateKeyDer};

use crate::app::{App, Instruments, off_thread};
use crate::door::{Door, password_file};
use crate::format::{nmea, rangefinder};
use crate::listen::Listener;
use crate::routes;
use crate::store::Store;

/// Where and to whom the application is served.
#[derive(Args)]
pub struct At {
    /// Port; 0 takes a free one.
    #[arg(long, default_value_t = 4817)]
    port: u16,
    /// Address of this machine to serve at: 0.0.0.0 for every network it is in. Beyond this machine a password is asked for.
    #[arg(long, default_value_t = IpAddr::V4(Ipv4Addr::LOCALHOST))]
    host: IpAddr,
    /// Name by which browsers reach it, besides its addresses; once for each. Asks for the password.
    #[arg(long)]
    name: Vec<String>,
    /// Certificate chain for TLS, PEM.
    #[arg(long, requires = "tls_key")]
    tls_cert: Option<PathBuf>,
    /// Private key for TLS, PEM.
    #[arg(long, requires = "tls_cert")]
    tls_key: Option<PathBuf>,
    /// Write a log into this folder, a file a day, the last fourteen kept; without it warnings go to standard error.
    #[arg(long)]
    pub log: Option<PathBuf>,
    /// Address of a weather program to pull forecasts from, such as `zinc-kite instrument weather`.
    #[arg(long)]
    weather: Option<String>,
    /// Address and port of a rangefinder that says a JSON line a reading, such as `zinc-kite instrument rangefinder`.
    #[arg(long)]
    rangefinder: Option<String>,
    /// Address and port of a wind meter that says NMEA 0183 sentences, such as `zinc-kite instrument wind-meter`.
    #[arg(long)]
    wind_meter: Option<String>,
    /// A proxy in front of it speaks TLS with the browsers and adds whom it serves to X-Forwarded-For. Asks for the password.
    #[arg(long, conflicts_with = "tls_cert")]
    behind_tls: bool,
}

impl At {
    /// For this machine alone.
    pub fn this_machine(port: u16) -> At {
        At {
            port,
            host: Ipv4Addr::LOCALHOST.into(),
            name: vec![],
            tls_cert: None,
            tls_key: None,
            behind_tls: false,
            log: None,
            weather: None,
            rangefinder: None,
            wind_meter: None,
        }
    }

    /// The same, with a weather program to pull forecasts from.
    #[must_use]
    pub fn with_weather(self, address: String) -> At {
        At { weather: Some(address), ..self }
    }

    /// The same, with a rangefinder and a wind meter to listen to.
    #[must_use]
    pub fn with_instruments(self, rangefinder: String, wind_meter: String) -> At {
        At { rangefinder: Some(rangefinder), wind_meter: Some(wind_meter), ..self }
    }

    /// Begins to listen to what it names.
    fn instruments(&self) -> Instruments {
        Instruments {
            rangefinder: self.rangefinder.clone().map(|at| Listener::at(at, rangefinder::read)),
            wind_meter: self.wind_meter.clone().map(|at| Listener::at(at, nmea::read)),
        }
    }

    fn door(&self, database: Option<&Path>) -> Result<Door> {
        if self.host.is_loopback() && self.name.is_empty() && !self.behind_tls {
            let mut door = Door::of_this_machine();
            door.https = self.tls_cert.is_some();
            return Ok(door);
        }
        let file = password_file(database.context("only a database of your own is served to others")?);
        if !file.exists() {
            bail!(
                "others than this machine are served only with a password; set one with `zinc-kite password`, for the same --db"
            )
        }
        let mut door = Door::locked(&file, self.name.clone(), self.tls_cert.is_some() || self.behind_tls)?;
        door.behind_proxy = self.behind_tls;
        Ok(door)
    }

    fn tls(&self) -> Result<Option<rustls::ServerConfig>> {
        let (Some(cert), Some(key)) = (&self.tls_cert, &self.tls_key) else { return Ok(None) };
        let chain = CertificateDer::pem_file_iter(cert)
            .and_then(Iterator::collect::<Result<Vec<_>, _>>)
            .with_context(|| format!("{} is not a certificate in PEM", cert.display()))?;
        let private = PrivateKeyDer::from_pem_file(key)
            .with_context(|| format!("{} is not a private key in PEM", key.display()))?;
        let config =
            rustls::ServerConfig::builder_with_provider(rustls::crypto::ring::default_provider().into())
                .with_safe_default_protocol_versions()?
                .with_no_client_auth()
                .with_single_cert(chain, private)
                .with_context(|| {
                    format!("{} and {} do not belong together", cert.display(), key.display())
                })?;
        Ok(Some(config))
    }
}

/// Where browsers reach the program; a proxy's address first, which alone is the one to use.
fn addresses(at: &At, port: u16) -> Vec<String> {
    if at.behind_tls && !at.name.is_empty() {
        return at.name.iter().map(|name| format!("https://{name}/")).collect();
    }
    let scheme = if at.tls_cert.is_some() { "https" } else { "http" };
    let own = |host: IpAddr| format!("{scheme}://{}/", SocketAddr::new(host, port));
    let mut found: Vec<String> = match at.host {
        host if host.is_unspecified() => {
            let all = if_addrs::get_if_addrs().unwrap_or_default();
            all.iter().filter(|i| !i.is_loopback() && i.ip().is_ipv4()).map(|i| own(i.ip())).collect()
        }
        host => vec![own(host)],
    };
    found.extend(at.name.iter().map(|name| format!("{scheme}://{name}:{port}/")));
    if found.is_empty() { vec![own(Ipv4Addr::LOCALHOST.into())] } else { found }
}

/// Connections at once: a browser has six.
const CONNECTIONS: usize = 256;
/// How long a client may take to send what it asks, before its body.
const HEAD_TIME: Duration = Duration::from_secs(5);

/// Begins to serve an application on a running system: where browsers reach it, and the server to wait for.
///
/// # Errors
/// A message that says what went wrong and what to do.
pub fn begin(app: App, at: &At) -> Result<(Vec<String>, Data<App>, Server)> {
    let (door, tls) = (at.door(app.store().file())?, at.tls()?);
    let port = at.port;
    let listener = TcpListener::bind((at.host, port)).with_context(|| {
        format!("port {port} at {} cannot be used; is another Zinc Kite running? Name another with --port, or --port 0 for a free one", at.host)
    })?;
    let found = addresses(at, listener.local_addr()?.port());
    if door.is_locked() && !door.https {
        tracing::warn!("without TLS others in the network can read the password and all that is sent");
    }
    let app = Data::new(app.at(found.clone()).with_weather(at.weather.clone()).listening(at.instruments()));
    let (door, served) = (Data::new(door), app.clone());
    let server = HttpServer::new(move || {
        HttpApp::new()
            .wrap(tracing_actix_web::TracingLogger::default())
            .wrap(middleware::Compress::default())
            .configure(routes::configure(served.clone(), door.clone()))
    })
    .workers(2)
    .max_connections(CONNECTIONS)
    .client_request_timeout(HEAD_TIME)
    // A client that hangs up is not waited for.
    .h1_allow_half_closed(false)
    .disable_signals()
    .shutdown_timeout(GRACE_S);
    let server = match tls {
        Some(tls) => server.listen_rustls_0_23(listener, tls)?,
        None => server.listen(listener)?,
    };
    Ok((found, app, server.run()))
}

/// Serves a database until it is asked to end; `tell` is told where, once browsers are answered.
///
/// # Errors
/// As of [`begin`].
pub fn serve(store: Store, at: &At, tell: impl FnOnce(&str) -> Result<()>) -> Result<()> {
    let app = App::new(store)?;
    actix_web::rt::System::new().block_on(async move {
        let (found, app, server) = begin(app, at)?;
        end_on_signals(&app, &server.handle())?;
        actix_web::rt::spawn(keep_daily_copies(app));
        tell(&format!("Zinc Kite is at {} (Ctrl-C ends it)", found.join(" and ")))?;
        server.await.map_err(anyhow::Error::from)
    })
}

/// How often the program looks whether today's copy has been made.
const COPY_CHECK: Duration = Duration::from_secs(600);

async fn keep_daily_copies(app: Data<App>) {
    loop {
        let made = off_thread(&app, |app| Ok(app.store().keep_daily_copy()?)).await;
        if let Err(cause) = made {
            tracing::warn!(%cause, "no copy was made today");
        }
        actix_web::rt::time::sleep(COPY_CHECK).await;
    }
}

/// How long answers under way may still take once the program is to end, s.
const GRACE_S: u64 = 1;

/// Ends the server when the system or the player asks, a closed terminal too: at first with its answers, then at once.
#[cfg(unix)]
fn end_on_signals(app: &Data<App>, server: &ServerHandle) -> std::io::Result<()> {
    use actix_web::rt::signal::unix::{SignalKind, signal};
    for kind in [SignalKind::interrupt(), SignalKind::terminate(), SignalKind::hangup()] {
        let (mut asked, app, server) = (signal(kind)?, app.clone(), server.clone());
        actix_web::rt::spawn(async move {
            let mut gently = true;
            while asked.recv().await.is_some() {
                app.stop();
                actix_web::rt::spawn(server.stop(gently));
                gently = false;
            }
        });
    }
    Ok(())
}

/// Ends the server when the player asks.
#[cfg(not(unix))]
fn end_on_signals(app: &Data<App>, server: &ServerHandle) -> std::io::Result<()> {
    let (app, server) = (app.clone(), server.clone());
    actix_web::rt::spawn(async move {
        if actix_web::rt::signal::ctrl_c().await.is_ok() {
            app.stop();
            server.stop(true).await;
        }
    });
    Ok(())
}
