//! The year ahead as iCalendar events (RFC 5545) and as CSV.

use icalendar::{Calendar, Component, Event};
use jiff::civil::Date;
use zinc_kite_bag::disc::spec::DiscId;
use zinc_kite_bag::verdict::aging::{Outlook, TaskKind};
use zinc_kite_bag::words::strokes;

use super::table::{cell, name_of};

/// What a bag's year asks to be done, each an event of a whole day. A task keeps its identity from one export to the next, so that a
/// calendar that reads it again moves the event instead of adding another.
pub fn calendar(bag: &str, outlook: &Outlook) -> String {
    let mut calendar = Calendar::new();
    calendar.name(&format!("{bag}: discs"));
    for task in &outlook.tasks {
        let words = match task.strokes {
            s if s > 0.0 => format!("{}\nWorth {} a round.", task.words, strokes(s)),
            _ => task.words.clone(),
        };
        let id = |id: Option<DiscId>| id.map_or(0, |id| id.0);
        let kind = name_of(&task.kind);
        let uid = format!("{kind}-{}-{}@zinc-kite", id(task.follows), id(task.disc_id));
        let next = task.on.tomorrow().unwrap_or(task.on);
        let event = Event::new()
            .uid(&uid)
            .summary(&task.title)
            .description(&words)
            .append_multi_property(icalendar::Property::new("CATEGORIES", category(task.kind)))
            .add_property("DTSTAMP", format!("{}T000000Z", basic(outlook.today)))
            .append_property(whole_day("DTSTART", task.on))
            .append_property(whole_day("DTEND", next))
            .add_property("TRANSP", "TRANSPARENT")
            .done();
        calendar.push(event);
    }
    calendar.done().to_string()
}

/// A day in the basic format of RFC 5545, section 3.3.4.
fn basic(day: Date) -> String {
    day.strftime("%Y%m%d").to_string()
}

fn whole_day(name: &str, day: Date) -> icalendar::Property {
    let mut property = icalendar::Property::new(name, basic(day));
    property.add_parameter("VALUE", "DATE");
    property.done()
}

fn category(kind: TaskKind) -> &'static str {
    match kind {
        TaskKind::Start | TaskKind::Buy => "Wear in",
        TaskKind::Exchange | TaskKind::LookAgain => "Exchange",
        TaskKind::Decide => "Trial",
    }
}

/// How every copy stands in every month.
///
/// # Errors
/// Only if memory runs out while writing.
pub fn table(outlook: &Outlook) -> Result<String, csv::Error> {
    let mut writer = csv::Writer::from_writer(Vec::new());
    writer.write_record([
        "maker",
        "mould",
        "disc",
        "carried",
        "on",
        "wear_share",
        "least_wear_share",
        "most_wear_share",
        "finish_deg",
        "peg",
        "times_a_week",
        "wear_life_throws",
    ])?;
    for family in &outlook.families {
        for copy in &family.copies {
            for point in &copy.forecast.points {
                let [share, least, most] = [point.wear_share, point.least_wear_share, point.most_wear_share]
                    .map(|x| format!("{x:.4}"));
                writer.write_record([
                    cell(&family.maker),
                    cell(&family.mould),
                    cell(&copy.name),
                    if copy.is_carried { "yes" } else { "no" }.into(),
                    point.on.to_string(),
                    share,
                    least,
                    most,
                    format!("{:.2}", point.finish_deg),
                    point.peg.as_ref().map_or_else(String::new, name_of),
                    format!("{:.1}", copy.forecast.times_a_week),
                    format!("{:.0}", copy.forecast.life.throws),
                ])?;
            }
        }
    }
    let bytes = writer.into_inner().map_err(|e| e.into_error())?;
    Ok(String::from_utf8_lossy(&bytes).into_owned())
}
