//! A stand-in for a weather service: hourly wind, gusts, temperature and rain of a day as JSON over HTTP, made up from the date.

use std::net::{Ipv4Addr, TcpListener};

use actix_web::dev::Server;
use actix_web::web::{Data, Query, get};
use actix_web::{App, HttpResponse, HttpServer};
use anyhow::{Context, Result};
use clap::{Args, ValueEnum};
use jiff::civil::Date;
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use serde::{Deserialize, Serialize};
use zinc_kite_bag::course::weather::Hour;

/// How it misbehaves, for trying what a reader makes of that.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Fault {
    /// Answers with what is no forecast.
    Garbage,
    /// Leaves hours out.
    Gaps,
    /// Tells winds that there are none of.
    Absurd,
    /// Says that it cannot.
    Error,
    /// Takes longer than anybody waits.
    Silence,
    /// Goes on and on.
    Flood,
}

/// What the stand-in tells, and where.
#[derive(Debug, Clone, Copy, Args)]
pub struct WeatherStandIn {
    /// Port on this machine; 0 takes a free one.
    #[arg(long, default_value_t = 4818)]
    port: u16,
    /// Mean wind at noon, m/s.
    #[arg(long, default_value_t = 8.0)]
    wind_m_s: f64,
    /// Where it mostly blows from, degrees clockwise from north.
    #[arg(long, default_value_t = 65.0)]
    from_deg: f64,
    /// Misbehave.
    #[arg(long)]
    fault: Option<Fault>,
}

impl WeatherStandIn {
    /// As it is by itself, on a port.
    pub fn on(port: u16) -> WeatherStandIn {
        WeatherStandIn { port, wind_m_s: 8.0, from_deg: 65.0, fault: None }
    }

    /// The same, misbehaving.
    #[must_use]
    pub fn failing(self, fault: Fault) -> WeatherStandIn {
        WeatherStandIn { fault: Some(fault), ..self }
    }
}

/// What it tells of a day.
#[derive(Debug, Serialize, Deserialize)]
pub struct Forecast {
    /// What it is a forecast of.
    pub place: String,
    /// The day.
    pub date: Date,
    /// Hour by hour.
    pub hours: Vec<Hour>,
}

/// Hours it tells: from early to late light.
const FIRST_HOUR: u32 = 6;
const LAST_HOUR: u32 = 20;

/// A day's weather: a wind that rises to the afternoon and veers, gusts, a mild noon, and rain on some days.
fn forecast(of: &WeatherStandIn, date: Date) -> Forecast {
    let mut random = StdRng::seed_from_u64(
        u64::try_from(date.day_of_year()).unwrap_or(0) + 1000 * u64::from(date.year().unsigned_abs()),
    );
    let tenth = |x: f64| (10.0 * x).round() / 10.0;
    let rains_from = if random.random_bool(0.4) { random.random_range(10..18) } else { 99 };
    let hours = (FIRST_HOUR..=LAST_HOUR).map(|hour| {
        let noon = 1.0 - (f64::from(hour) - 13.0).abs() / 10.0;
        let wind_m_s = of.wind_m_s * (0.4 + 0.6 * noon) * random.random_range(0.9..1.1);
        Hour {
            hour,
            wind_m_s: tenth(wind_m_s),
            gust_m_s: Some(tenth(wind_m_s * random.random_range(1.4..1.6) + 0.1)),
            from_deg: (of.from_deg + 3.0 * (f64::from(hour) - 13.0) + random.random_range(-8.0..8.0))
                .rem_euclid(360.0)
                .round(),
            temperature_c: tenth(6.0 + 7.0 * noon),
            rain_mm: if (rains_from..rains_from + 3).contains(&hour) {
                tenth(random.random_range(0.2..1.5))
            } else {
                0.0
            },
        }
    });
    Forecast { place: "Vell".into(), date, hours: hours.collect() }
}

#[derive(Deserialize)]
struct Asked {
    date: Date,
}

/// How long it is silent, s.
const SILENCE_S: u64 = 60;
/// How much it floods with, bytes.
const FLOOD: usize = 8 << 20;

async fn answer(of: Data<WeatherStandIn>, asked: Query<Asked>) -> HttpResponse {
    let mut told = forecast(&of, asked.date);
    match of.fault {
        None => {}
        Some(Fault::Gaps) => told.hours.retain(|h| h.hour % 5 == 0),
        Some(Fault::Absurd) => told.hours.iter_mut().for_each(|h| h.wind_m_s = -7.0),
        Some(Fault::Garbage) => {
            return HttpResponse::Ok().content_type("application/json").body("{\"hours\": \"soon");
        }
        Some(Fault::Error) => return HttpResponse::ServiceUnavailable().body("later"),
        Some(Fault::Flood) => return HttpResponse::Ok().body(vec![b' '; FLOOD]),
        Some(Fault::Silence) => actix_web::rt::time::sleep(std::time::Duration::from_secs(SILENCE_S)).await,
    }
    HttpResponse::Ok().json(told)
}

/// Begins it on a running system; its address, and the server to wait for.
///
/// # Errors
/// If the port cannot be used.
pub fn begin(of: WeatherStandIn) -> Result<(String, Server)> {
    let listener = TcpListener::bind((Ipv4Addr::LOCALHOST, of.port)).with_context(|| {
        format!("port {} cannot be used; name another with --port, or --port 0 for a free one", of.port)
    })?;
    let address = format!("http://{}", listener.local_addr()?);
    let server =
        HttpServer::new(move || App::new().app_data(Data::new(of)).route("/hourly", get().to(answer)))
            .workers(1)
            .disable_signals()
            .shutdown_timeout(0)
            .listen(listener)?
            .run();
    Ok((address, server))
}

/// Runs it as long as the program runs; `tell` is told its address.
///
/// # Errors
/// If the port cannot be used or the server fails.
pub fn run(of: WeatherStandIn, tell: impl FnOnce(&str) -> Result<()>) -> Result<()> {
    actix_web::rt::System::new().block_on(async move {
        let (address, server) = begin(of)?;
        tell(&address)?;
        server.await.map_err(anyhow::Error::from)
    })
}
