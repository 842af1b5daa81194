//! Places on the earth, and how they lie to one another: on the WGS 84 ellipsoid, by C. F. F. Karney's geodesics.

use geographiclib_rs::{DirectGeodesic, Geodesic, InverseGeodesic};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::error::{BagError, within};
use crate::need::area::Spot;

/// A place by its coordinates (WGS 84).
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[schema(as = Location)]
pub struct Place {
    /// Degrees, north positive.
    #[schema(minimum = -90.0, maximum = 90.0)]
    pub latitude_deg: f64,
    /// Degrees, east positive.
    #[schema(minimum = -180.0, maximum = 180.0)]
    pub longitude_deg: f64,
    /// Height above the sea, m, if it is known.
    #[serde(default)]
    #[schema(minimum = -500.0, maximum = 9000.0)]
    pub height_m: Option<f64>,
}

impl Place {
    /// # Errors
    /// [`BagError`] for a value that is none on earth.
    pub fn validate(&self) -> Result<(), BagError> {
        within("latitude_deg", self.latitude_deg, -90.0, 90.0)?;
        within("longitude_deg", self.longitude_deg, -180.0, 180.0)?;
        within("height_m", self.height_m.unwrap_or(0.0), -500.0, 9000.0)
    }

    /// How far another place is over the ground, m, and in which direction, degrees clockwise from north, 0 to 360.
    pub fn to(&self, other: &Place) -> (f64, f64) {
        let (distance_m, bearing_deg, _, _): (f64, f64, f64, f64) = Geodesic::wgs84().inverse(
            self.latitude_deg,
            self.longitude_deg,
            other.latitude_deg,
            other.longitude_deg,
        );
        (distance_m, bearing_deg.rem_euclid(360.0))
    }

    /// The place so far away in a direction, degrees clockwise from north. Its height is not known.
    pub fn beyond(&self, distance_m: f64, bearing_deg: f64) -> Place {
        let (latitude_deg, longitude_deg): (f64, f64) =
            Geodesic::wgs84().direct(self.latitude_deg, self.longitude_deg, bearing_deg, distance_m);
        Place { latitude_deg, longitude_deg, height_m: None }
    }

    /// Where another place lies seen from here along a line in a direction.
    pub fn spot(&self, other: &Place, along_deg: f64) -> Spot {
        let (distance_m, bearing_deg) = self.to(other);
        let (sin, cos) = (along_deg - bearing_deg).to_radians().sin_cos();
        Spot { at_m: distance_m * cos, left_m: distance_m * sin }
    }

    /// The place of a spot seen from here along a line in a direction.
    pub fn of_spot(&self, spot: &Spot, along_deg: f64) -> Place {
        let off_deg = spot.left_m.atan2(spot.at_m).to_degrees();
        self.beyond(spot.at_m.hypot(spot.left_m), along_deg - off_deg)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;
    use proptest::prelude::*;
    use rstest::rstest;

    fn at(latitude_deg: f64, longitude_deg: f64) -> Place {
        Place { latitude_deg, longitude_deg, height_m: None }
    }

    /// Between Wellington (41.32° S 174.81° E) and Salamanca (40.96° N 5.50° W) it is 19 959 679.267 m, setting out at
    /// 161.067 669 986 16°: C. F. F. Karney, documentation of GeographicLib, *Geodesics on an ellipsoid*, example (from memory). And
    /// a quarter of the meridian is 10 001 965.729 m (the same, from memory).
    #[rstest]
    #[case(at(-41.32, 174.81), at(40.96, -5.50), 19_959_679.267, Some(161.067_669_986_16))]
    #[case(at(0.0, 0.0), at(90.0, 0.0), 10_001_965.729, Some(0.0))]
    fn val_geodesics(#[case] from: Place, #[case] to: Place, #[case] m: f64, #[case] bearing: Option<f64>) {
        let (distance_m, bearing_deg) = from.to(&to);
        assert_abs_diff_eq!(distance_m, m, epsilon = 1e-3);
        if let Some(bearing) = bearing {
            assert_abs_diff_eq!(bearing_deg, bearing, epsilon = 1e-8);
        }
    }

    proptest! {
        /// A spot is the same place and back, to the millimetre, wherever on earth and whichever way the line runs.
        #[test]
        fn prop_spots_are_places_and_back(
            latitude in -80.0..80.0f64, longitude in -180.0..180.0f64, along in 0.0..360.0f64,
            at_m in -50.0..300.0f64, left_m in -150.0..150.0f64,
        ) {
            let tee = at(latitude, longitude);
            let spot = Spot { at_m, left_m };
            let back = tee.spot(&tee.of_spot(&spot, along), along);
            prop_assert!((back.at_m - at_m).hypot(back.left_m - left_m) < 1e-3, "{back:?}");
        }
    }
}
