//! Lines on which some disc would do clearly better than all that are carried.

use crate::disc::spec::DiscId;
use crate::verdict::finding::{Action, Finding, FindingKind, LEAST_STROKES, Scene};
use crate::verdict::season::SeasonLine;
use crate::verdict::standing::Standing;
use crate::words::{capital, percent, strokes};

/// A shelf disc must raise the season's chance on a line by this much to be named for it.
const WORTHWHILE: f64 = 0.05;

/// Gaps: mended from the shelf, or told as what to look for. Lines helped by the same disc are one finding.
pub(super) fn gaps(scene: &Scene, taken: &[DiscId]) -> Vec<Finding> {
    // Each with the sentence that closes its reason.
    let mut found: Vec<(Finding, String)> = Vec::new();
    for line in scene.lines.iter().filter(|l| l.standing == Standing::Gap) {
        let name = &line.name;
        let helper = scene
            .bench()
            .filter(|d| !taken.contains(&d.id))
            .map(|d| (d, would(scene, line, d.id)))
            .filter(|(_, c)| *c >= line.chance + WORTHWHILE)
            .max_by(|a, b| a.1.total_cmp(&b.1));
        let change = helper.and_then(|(d, would)| Some((d, would, scene.carrying(d.id, taken)?)));
        let Some((disc, would, change)) = change.filter(|(.., change)| change.saves >= LEAST_STROKES) else {
            found.extend(to_look_for(line).map(|f| (f, String::new())));
            continue;
        };
        let sentence = format!(
            "{name}: the bag makes it {} over the season; {} would make it {}.",
            percent(line.chance),
            disc.spec.name,
            percent(would)
        );
        if let Some((same, _)) = found.iter_mut().find(|(f, _)| f.action == change.action) {
            same.title = format!("{}, {name}", same.title);
            same.reason.push_str(&format!(" {sentence}"));
            same.line_keys.push(line.key.clone());
            continue;
        }
        let on_all = format!(" On all lines together {} {}.", change.doing(), change.told());
        let finding = Finding {
            key: format!("gap-{}", line.key),
            kind: FindingKind::Gap,
            title: format!("No good answer: {name}"),
            reason: sentence,
            action_label: change.label(),
            action: change.action,
            other: None,
            disc_ids: vec![disc.id],
            line_keys: vec![line.key.clone()],
            saves_strokes: change.saves,
        };
        found.push((finding, on_all));
    }
    found.into_iter().map(|(f, on_all)| Finding { reason: f.reason + &on_all, ..f }).collect()
}

/// The season's chance on a line with one more disc.
fn would(scene: &Scene, line: &SeasonLine, id: DiscId) -> f64 {
    let mut columns = scene.ledger.columns(scene.counted);
    columns.extend(scene.ledger.column(id));
    let rows = scene.ledger.rows.iter().filter(|row| scene.q.lines[row.line].key == line.key);
    let share = |kind| scene.ledger.weathers.iter().find(|w| w.kind == kind).map_or(0.0, |w| w.share);
    rows.map(|row| share(row.weather) * row.best(&columns)).sum()
}

fn to_look_for(line: &SeasonLine) -> Option<Finding> {
    let ideal = line.ideal_numbers?;
    Some(Finding {
        key: format!("look-for-{}", line.key),
        kind: FindingKind::Gap,
        title: format!("{} has no good answer", line.name),
        reason: format!(
            "{}. Nothing on the shelf does clearly better; such a disc would save {} a round on this line.",
            capital(&line.reason),
            strokes(line.ideal_saves_strokes)
        ),
        action_label: format!("Look for {ideal}"),
        action: Action::LookFor { numbers: ideal },
        other: None,
        disc_ids: vec![],
        line_keys: vec![line.key.clone()],
        saves_strokes: line.ideal_saves_strokes,
    })
}
