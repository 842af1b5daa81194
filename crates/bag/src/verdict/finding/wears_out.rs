//! Discs that leave their peg within the year: a copy has to be begun now to take over in time.

use crate::verdict::aging::{PegHole, Takes};
use crate::verdict::finding::{Action, Finding, FindingKind, Scene};
use crate::words::{month, strokes};

/// What to begin for each of them.
pub(super) fn wears_out(scene: &Scene) -> Vec<Finding> {
    scene.leaving.iter().filter_map(|hole| finding(scene, hole)).collect()
}

fn finding(scene: &Scene, hole: &PegHole) -> Option<Finding> {
    let disc = scene.disc(hole.disc_id)?;
    let mould = &disc.spec.mould;
    let (action, action_label) = match (hole.successor.takes, hole.successor.disc_id) {
        (Takes::Start, Some(disc_id)) => {
            (Action::Season { disc_id }, format!("Start {}", scene.name(disc_id)))
        }
        (Takes::Buy, _) => (Action::Renew { disc_id: hole.disc_id }, format!("Get a fresh {mould}")),
        _ => return None,
    };
    let when = hole.leaving.on.map_or_else(String::new, |on| format!(" about {}", month(on)));
    Some(Finding {
        key: format!("wears-out-{}", hole.disc_id.0),
        kind: FindingKind::WearsOut,
        title: format!("{} leaves {}{when}", disc.spec.name, hole.leaving.from.label()),
        reason: format!(
            "{} A copy that stands ready saves {} a round then.",
            hole.words,
            strokes(hole.strokes)
        ),
        action_label,
        action,
        other: None,
        disc_ids: vec![hole.disc_id].into_iter().chain(hole.successor.disc_id).collect(),
        line_keys: vec![],
        saves_strokes: hole.strokes,
    })
}
