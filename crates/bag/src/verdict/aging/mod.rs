//! The year ahead: how often each disc is thrown, how it wears, when it leaves its peg, what stands ready then, and what the bag
//! loses where nothing does. Time comes in as dates; there is no clock here.

mod bends;
mod family;
mod forecast;
mod life;
mod loss;
mod outlook;
mod ready;
mod usage;

pub use family::{CopyAhead, Family, Move, PegZone, Reserve, WaterCopy};
pub use forecast::{Forecast, ForecastPoint, Leaving};
pub use life::WearLife;
pub use loss::{IfLost, PegHole};
pub use outlook::{Outlook, Task, TaskKind, outlook};
pub use ready::{Successor, Takes};
pub use usage::Usage;

pub(crate) use loss::holes;
pub(crate) use outlook::Year;
