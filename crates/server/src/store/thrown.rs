//! What throws do to discs: they wear, and some are lost.

use jiff::civil::Date;
use rusqlite::Connection;
use zinc_kite_bag::course::played::LostDisc;
use zinc_kite_bag::disc::spec::DiscId;

use super::{StoreError, bags, discs};

/// A disc that a throw wears, and whether it hit something; none of a disc that is not on the shelf.
pub(super) type Wears = Option<(DiscId, bool)>;

/// Has a throw wear its disc as it is told now, and no longer as it was told before.
pub(super) fn wears(
    connection: &Connection,
    today: Date,
    before: Wears,
    now: Wears,
) -> Result<(), StoreError> {
    if before == now {
        return Ok(());
    }
    if let Some((disc, is_hit)) = before {
        discs::alter(connection, disc, |spec| {
            let was = spec.clone();
            spec.wear.less(is_hit);
            *spec = spec.clone().marked(Some(&was), today);
        })?;
    }
    if let Some((disc, is_hit)) = now {
        discs::alter(connection, disc, |spec| {
            let was = spec.clone();
            spec.wear.more(is_hit, spec.wear_life_throws());
            *spec = spec.clone().marked(Some(&was), today);
        })?;
    }
    Ok(())
}

/// Makes a disc a lost one, at a place; one that is not on the shelf is only named.
pub(super) fn lose(connection: &Connection, lost: &mut LostDisc, place: &str) -> Result<(), StoreError> {
    let Some(disc) = lost.disc_id else { return Ok(()) };
    lost.bags = bags::places(connection, disc)?;
    discs::alter(connection, disc, |spec| lost.lose(&mut spec.keeping, place))
}

/// Makes a lost disc what it was, and carries it where it was carried.
pub(super) fn find_again(connection: &Connection, lost: &LostDisc) -> Result<(), StoreError> {
    let Some(disc) = lost.disc_id else { return Ok(()) };
    let mut is_found = false;
    discs::alter(connection, disc, |spec| is_found = lost.find(&mut spec.keeping))?;
    if is_found { bags::carry_again(connection, disc, &lost.bags) } else { Ok(()) }
}
