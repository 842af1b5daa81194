//! What the stand-ins have in common that say a line now and then over TCP, on this machine alone.

use std::io::Write;
use std::net::{Ipv4Addr, TcpListener, TcpStream};
use std::sync::Arc;
use std::thread::{sleep, spawn};
use std::time::Duration;

use anyhow::{Context, Result};
use clap::{Args, ValueEnum};
use rand::SeedableRng;
use rand::rngs::StdRng;

/// How it misbehaves, for trying what a reader makes of that.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum LineFault {
    /// Says nothing for a while, now and then.
    DropOuts,
    /// Says what is no reading, now and then.
    Garbage,
    /// Hangs up in the middle of a line, now and then.
    HalfLines,
    /// Says every second line with a checksum that is wrong, where lines have one.
    WrongChecksums,
    /// Says readings that cannot be.
    Absurd,
    /// Says nothing at all.
    Silence,
    /// Goes on and on without the end of a line.
    Flood,
}

/// Where a stand-in says its lines, and how.
#[derive(Debug, Clone, Copy, Args)]
pub struct Said {
    /// Port on this machine; 0 takes a free one.
    #[arg(long, default_value_t = 0)]
    port: u16,
    /// Time from line to line, ms.
    #[arg(long, default_value_t = 500)]
    every_ms: u64,
    /// Misbehave.
    #[arg(long)]
    fault: Option<LineFault>,
}

impl Said {
    /// On a port, a line so often.
    pub fn on(port: u16, every_ms: u64) -> Said {
        Said { port, every_ms, fault: None }
    }

    /// The same, misbehaving.
    #[must_use]
    pub fn failing(self, fault: LineFault) -> Said {
        Said { fault: Some(fault), ..self }
    }
}

/// Makes the lines of an instrument: of the reading of a number, and of one that cannot be.
pub trait Instrument: Send + Sync + 'static {
    /// The line of a reading, its end with it.
    fn line(&self, reading: u64, random: &mut StdRng) -> String;
    /// The line of a reading that cannot be.
    fn absurd(&self) -> String;
}

/// How much it floods with at a time, bytes.
const FLOOD: usize = 1 << 20;

/// Says the lines of an instrument to whoever connects, as long as the program runs; `tell` is told where.
///
/// # Errors
/// If the port cannot be used.
pub fn run(said: Said, instrument: impl Instrument, tell: impl FnOnce(&str) -> Result<()>) -> Result<()> {
    let listener = TcpListener::bind((Ipv4Addr::LOCALHOST, said.port)).with_context(|| {
        format!("port {} cannot be used; name another with --port, or --port 0 for a free one", said.port)
    })?;
    tell(&listener.local_addr()?.to_string())?;
    let instrument = Arc::new(instrument);
    for client in listener.incoming() {
        let (client, instrument) = (client?, instrument.clone());
        spawn(move || say(client, said, instrument.as_ref()));
    }
    Ok(())
}

fn say(mut to: TcpStream, said: Said, instrument: &impl Instrument) {
    let mut random = StdRng::seed_from_u64(u64::from(said.port));
    for k in 0_u64.. {
        let right = instrument.line(k, &mut random);
        let hangs_up = said.fault == Some(LineFault::HalfLines) && k % 4 == 3;
        let line = match said.fault {
            Some(LineFault::Silence) => String::new(),
            Some(LineFault::DropOuts) if k % 12 > 3 => String::new(),
            Some(LineFault::Garbage) if k % 3 == 1 => "{\"distance_m\": nearly\u{0}\u{1b}$*\r\n".into(),
            Some(LineFault::WrongChecksums) if k % 2 == 1 => right.replace('*', "*F"),
            Some(LineFault::Absurd) => instrument.absurd(),
            Some(LineFault::Flood) => "9".repeat(FLOOD),
            _ if hangs_up => right.chars().take(right.len() / 2).collect(),
            _ => right,
        };
        if to.write_all(line.as_bytes()).is_err() || hangs_up {
            return;
        }
        sleep(Duration::from_millis(said.every_ms));
    }
}
