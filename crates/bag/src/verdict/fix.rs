//! Fix first: what is wrong with the bag, in order of worth.

use crate::disc::spec::{Disc, DiscId, Use};
use crate::disc::wear::Wear;
use crate::error::BagError;
use crate::need::peg::Peg;
use crate::need::template::peg_line_key;
use crate::thrower::arm::Arm;
use crate::verdict::board::{Board, TwinPair, pucks};
use crate::verdict::finding::{Action, Finding, FindingKind, MOST, OtherWay};
use crate::verdict::scene::Scene;
use crate::verdict::standing::{LineVerdict, Question, Standing, Table, Worth, makes, numbers_in_words};
use crate::words::{capital, degrees, percent, points};

/// A shelf disc must raise a chance by this much to be worth carrying for it.
const WORTHWHILE: f64 = 0.08;
/// Wear from which a disc can be said to have worn out of its peg.
const WORN: f64 = 0.25;

fn over_cap(scene: &Scene) -> Vec<Finding> {
    let Some(cap) = scene.q.bag.event_cap_g else { return vec![] };
    let heavy = scene.q.shelf.iter().filter(|d| scene.carried(d.id) && d.spec.mass_g > cap);
    heavy
        .map(|disc| {
            let substitute = scene
                .bench()
                .filter(|d| d.spec.slot() == disc.spec.slot())
                .map(|d| (d, scene.likeness(d, disc), scene.gain(Some(d.id), Some(disc.id))))
                .max_by(|a, b| a.1.cmp(&b.1).then(a.2.total_cmp(&b.2)));
            let name = &disc.spec.name;
            let (action, action_label, instead) = match substitute {
                Some((d, ..)) => (
                    Action::Swap { carry: d.id, bench: disc.id },
                    format!("Carry {} instead", d.spec.name),
                    format!(" {} ({:.0} g) comes nearest to its job.", d.spec.name, d.spec.mass_g),
                ),
                None => (
                    Action::Bench { disc_id: disc.id },
                    format!("Bench {name}"),
                    " Nothing on the shelf under the cap does its job.".into(),
                ),
            };
            Finding {
                key: format!("over-cap-{}", disc.id.0),
                kind: FindingKind::OverCap,
                title: format!("{name} is over the event's weight cap"),
                reason: format!(
                    "It weighs {:.0} g and the cap is {cap:.0} g; the event's own rules decide.{instead}",
                    disc.spec.mass_g
                ),
                action_label,
                action,
                other: None,
                disc_ids: vec![disc.id],
                line_keys: vec![],
                worth: 1.0,
            }
        })
        .collect()
}

fn over_full(scene: &Scene) -> Vec<Finding> {
    let (n, capacity) = (scene.q.carried.len(), scene.q.bag.capacity);
    let least = scene.worths.iter().min_by(|a, b| a.worth.total_cmp(&b.worth));
    match least {
        Some(w) if n as u32 > capacity => vec![Finding {
            key: "over-full".into(),
            kind: FindingKind::OverFull,
            title: format!("{n} discs in a bag for {capacity}"),
            reason: format!(
                "{} is missed least: without it the bag's best chances fall by {} points on average.",
                scene.name(w.disc_id),
                points(w.worth)
            ),
            action_label: format!("Bench {}", scene.name(w.disc_id)),
            action: Action::Bench { disc_id: w.disc_id },
            other: None,
            disc_ids: vec![w.disc_id],
            line_keys: vec![],
            worth: 0.9,
        }],
        _ => vec![],
    }
}

/// Lines nobody makes. Lines helped by the same shelf disc are one finding.
fn gaps(scene: &Scene) -> Vec<Finding> {
    let mut found: Vec<Finding> = Vec::new();
    for v in scene.verdicts.iter().filter(|v| v.standing == Standing::Gap) {
        let now = v.best.as_ref().map_or(0.0, |b| b.chance);
        let helper = scene
            .bench()
            .map(|d| (d, scene.chance(v, d.id)))
            .filter(|(_, c)| *c >= now + WORTHWHILE)
            .max_by(|a, b| a.1.total_cmp(&b.1));
        let line = &v.line.spec.name;
        let key = v.line.key.clone();
        let title = format!("{line} has no answer");
        let Some((disc, would)) = helper else {
            let Some(ideal) = &v.ideal else { continue };
            let gain =
                v.line.spec.weight * (ideal.chance - now) / scene.table.weights.iter().sum::<f64>().max(1e-9);
            found.push(Finding {
                key: format!("gap-{key}"),
                kind: FindingKind::Gap,
                title,
                reason: format!("{}. Nothing on the shelf does clearly better.", capital(&v.reason)),
                action_label: format!("Look for {}", numbers_in_words(ideal)),
                action: Action::LookFor { numbers: ideal.numbers },
                other: None,
                disc_ids: vec![],
                line_keys: vec![key],
                worth: gain,
            });
            continue;
        };
        let sentence = format!(
            "{line}: {}; {} from the shelf makes it {}.",
            match &v.best {
                Some(b) => format!("best carried is {} at {}", scene.name(b.disc_id), percent(now)),
                None => "no carried disc reaches it".into(),
            },
            disc.spec.name,
            percent(would)
        );
        if let Some(same) = found.iter_mut().find(|f| f.disc_ids == [disc.id]) {
            same.title = format!(
                "{}, {line} have no answer",
                same.title.trim_end_matches(" has no answer").trim_end_matches(" have no answer")
            );
            same.reason.push_str(&format!(" {sentence}"));
            same.line_keys.push(key);
            continue;
        }
        let (action, action_label) = scene.carry(disc.id);
        found.push(Finding {
            key: format!("gap-{key}"),
            kind: FindingKind::Gap,
            title,
            reason: sentence,
            action_label,
            action,
            other: None,
            disc_ids: vec![disc.id],
            line_keys: vec![key],
            worth: scene.gain(Some(disc.id), None) + scene.place(0.15),
        });
    }
    found
}

/// Discs that wear has moved off the peg they filled when fresh, leaving it empty.
fn worn_out(scene: &Scene) -> Vec<Finding> {
    let mut found = Vec::new();
    for puck in scene.board.pucks().filter(|p| p.wear_share >= WORN && p.peg.is_some()) {
        let fresh = scene.fresh_pucks.iter().find(|p| p.disc_id == puck.disc_id);
        let (Some(disc), Some(was), Some(now)) =
            (scene.disc(puck.disc_id), fresh.and_then(|f| f.peg), puck.peg)
        else {
            continue;
        };
        let slot = disc.spec.slot();
        let wanted = Peg::wanted(slot, scene.q.player.school).contains(&was);
        if was >= now || !wanted || !scene.peg_is_empty(slot, was) {
            continue;
        }
        let replacement = scene
            .bench()
            .filter(|d| d.spec.slot() == slot)
            .filter(|d| scene.shelf_pucks.iter().any(|p| p.disc_id == d.id && p.peg == Some(was)))
            .max_by_key(|d| {
                (d.spec.mould == disc.spec.mould, (1e6 * scene.gain(Some(d.id), Some(disc.id))) as i64)
            });
        let Some(replacement) = replacement else { continue };
        let name = &disc.spec.name;
        found.push(Finding {
            key: format!("worn-{}", disc.id.0),
            kind: FindingKind::WornOut,
            title: format!("{name} has worn out of its peg"),
            reason: format!(
                "Fresh it was a {} at {} of finish; {} worn it is a {} at {} and the {} {} stands empty. {} sits there.",
                was.label(),
                degrees(fresh.map_or(0.0, |f| f.bend.finish_deg)),
                percent(puck.wear_share),
                now.label(),
                degrees(puck.bend.finish_deg),
                slot.label(),
                was.label(),
                replacement.spec.name
            ),
            action_label: format!("Swap in {}", replacement.spec.name),
            action: Action::Swap { carry: replacement.id, bench: disc.id },
            other: None,
            disc_ids: vec![disc.id, replacement.id],
            line_keys: vec![],
            worth: scene.gain(Some(replacement.id), Some(disc.id)).max(0.0)
                + scene.place(0.3),
        });
    }
    found
}

/// Wanted pegs without a disc, but for those that a finding already made fills.
fn empty_pegs(scene: &Scene, mended: &[Finding]) -> Vec<Finding> {
    let mut found = Vec::new();
    for lane in &scene.board.lanes {
        for socket in lane.sockets.iter().filter(|s| s.wanted && s.disc_ids.is_empty()) {
            let sits = |d: &Disc| {
                d.spec.slot() == lane.slot
                    && scene.shelf_pucks.iter().any(|p| p.disc_id == d.id && p.peg == Some(socket.peg))
            };
            let filled = mended
                .iter()
                .any(|f| matches!(f.action, Action::Carry { disc_id } | Action::Swap { carry: disc_id, .. } if scene.disc(disc_id).is_some_and(sits)));
            // The gap in the peg's own line says the same with more reason.
            let told = mended.iter().any(|f| f.line_keys.contains(&peg_line_key(lane.slot, socket.peg)));
            if filled || told {
                continue;
            }
            let candidate = scene
                .bench()
                .filter(|d| sits(d))
                .map(|d| (d, scene.gain(Some(d.id), None)))
                .max_by(|a, b| a.1.total_cmp(&b.1));
            let Some((disc, gain)) = candidate else { continue };
            let (action, action_label) = scene.carry(disc.id);
            let finish = scene.shelf_pucks.iter().find(|p| p.disc_id == disc.id);
            found.push(Finding {
                key: format!("empty-{}-{}", lane.label, socket.label),
                kind: FindingKind::EmptyPeg,
                title: format!("No {} in the {} slot", socket.label, lane.label),
                reason: format!(
                    "No carried {} disc {} at your arm. {} finishes at {} and would lift the bag's best chances by {} points on average.",
                    lane.label,
                    socket.meaning,
                    disc.spec.name,
                    degrees(finish.map_or(0.0, |p| p.bend.finish_deg)),
                    points(gain)
                ),
                action_label,
                action,
                other: None,
                disc_ids: vec![disc.id],
                line_keys: vec![],
                worth: gain + scene.place(0.1),
            });
        }
    }
    found
}

fn twins(scene: &Scene) -> Vec<Finding> {
    let pairs = scene.board.lanes.iter().flat_map(|l| &l.twins).filter(|t| !t.on_purpose);
    let mut used: Vec<DiscId> = Vec::new();
    let mut found = Vec::new();
    for TwinPair { a, b, overlap, .. } in pairs {
        if used.contains(a) || used.contains(b) {
            continue;
        }
        used.extend([*a, *b]);
        let (less, more) = if scene.worth(*a) <= scene.worth(*b) { (*a, *b) } else { (*b, *a) };
        found.push(Finding {
            key: format!("twins-{}-{}", a.0.min(b.0), a.0.max(b.0)),
            kind: FindingKind::Twins,
            title: format!("{} and {} are twins", scene.name(more), scene.name(less)),
            reason: format!(
                "Flat, on hyzer and on anhyzer their landings overlap at least {}: your own scatter hides the difference. Without {} your best chances fall by {} points on average.",
                percent(*overlap),
                scene.name(less),
                points(scene.worth(less))
            ),
            action_label: format!("Bench {}", scene.name(less)),
            action: Action::Bench { disc_id: less },
            other: Some(OtherWay {
                label: "Keep it as a spare".into(),
                action: Action::MarkSpare { disc_id: less },
            }),
            disc_ids: vec![less, more],
            line_keys: vec![],
            worth: (scene.place(0.25) * overlap - scene.worth(less)).max(0.0),
        });
    }
    found
}

fn no_line(scene: &Scene) -> Vec<Finding> {
    let idle = scene.worths.iter().filter(|w| !w.answers);
    idle.filter(|w| {
        !scene.q.carried.iter().any(|c| c.disc_id == w.disc_id && c.spare)
            && scene.disc(w.disc_id).is_some_and(|d| d.spec.used_for == Use::Throwing)
    })
    .map(|w| {
        let column = scene.table.column(w.disc_id);
        let best = scene
            .verdicts
            .iter()
            .zip(&scene.table.rows)
            .filter_map(|(v, row)| Some((v, row[column?])))
            .max_by(|a, b| a.1.total_cmp(&b.1));
        let name = scene.name(w.disc_id);
        Finding {
            key: format!("no-line-{}", w.disc_id.0),
            kind: FindingKind::NoLine,
            title: format!("{name} answers no line"),
            reason: match best {
                Some((v, c)) if c > 0.0 => format!(
                    "Its best is {} at {}, under the {} that counts as making it.",
                    v.line.spec.name,
                    percent(c),
                    percent(makes(&v.line.spec))
                ),
                _ => "It reaches none of your lines.".into(),
            },
            action_label: format!("Bench {name}"),
            action: Action::Bench { disc_id: w.disc_id },
            other: None,
            disc_ids: vec![w.disc_id],
            line_keys: vec![],
            worth: scene.place(0.2),
        }
    })
    .collect()
}

/// Finds what to fix, in order of worth, at most [`MOST`]; a later finding whose action moves a disc that an earlier
/// one already moves is left out.
///
/// # Errors
/// [`BagError`] for a disc outside its ranges.
pub fn findings(
    q: &Question,
    arm: &Arm,
    board: &Board,
    table: &Table,
    verdicts: &[LineVerdict],
    worths: &[Worth],
) -> Result<Vec<Finding>, BagError> {
    let style = board.style;
    let all: Vec<(&Disc, bool)> = q.shelf.iter().map(|d| (d, false)).collect();
    let unworn: Vec<Disc> = q
        .shelf
        .iter()
        .map(|d| {
            let mut d = d.clone();
            d.spec.wear = Wear::FRESH;
            d
        })
        .collect();
    let unworn: Vec<(&Disc, bool)> = unworn.iter().map(|d| (d, false)).collect();
    let fly = |discs: &[(&Disc, bool)]| pucks(arm, q.player.school, style, arm.wind, discs);
    let scene =
        Scene { q, board, table, verdicts, worths, shelf_pucks: fly(&all)?, fresh_pucks: fly(&unworn)? };
    let mut found = over_cap(&scene);
    found.extend(over_full(&scene));
    found.extend(gaps(&scene));
    found.extend(worn_out(&scene));
    let empty = empty_pegs(&scene, &found);
    found.extend(empty);
    found.extend(twins(&scene));
    found.extend(no_line(&scene));
    found.sort_by(|a, b| b.worth.total_cmp(&a.worth));
    let mut moved: Vec<DiscId> = Vec::new();
    found.retain(|f| {
        let touched = match &f.action {
            Action::Carry { disc_id } | Action::Bench { disc_id } | Action::MarkSpare { disc_id } => {
                vec![*disc_id]
            }
            Action::Swap { carry, bench } => vec![*carry, *bench],
            Action::LookFor { .. } => vec![],
        };
        let about = if f.kind == FindingKind::Twins { &f.disc_ids } else { &touched };
        let repeated = about.iter().any(|id| moved.contains(id));
        moved.extend(about);
        !repeated
    });
    found.truncate(MOST);
    Ok(found)
}
