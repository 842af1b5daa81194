//! Draws lift, drag and moment over the whole circle into `docs/aerodynamics.svg`.
//!
//! `cargo run --release -p zinc-kite-flight --example aerodynamics`

use std::error::Error;

use plotters::prelude::*;
use zinc_kite_flight::aero::coefficients_at;
use zinc_kite_flight::numbers::FlightNumbers;

const PICTURE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/aerodynamics.svg");
const SPEED_M_S: f64 = 25.0;
/// A line style each, since colour alone tells nothing to some.
const DISCS: [(FlightNumbers, RGBColor, u32); 4] = [
    (FlightNumbers::new(3.0, 3.0, 0.0, 1.0), RGBColor(18, 24, 29), 1),
    (FlightNumbers::new(5.0, 5.0, -3.0, 0.0), RGBColor(168, 50, 0), 2),
    (FlightNumbers::new(9.0, 4.0, 0.0, 4.0), RGBColor(15, 92, 58), 3),
    (FlightNumbers::new(12.0, 5.0, -1.0, 3.0), RGBColor(70, 90, 160), 2),
];
const PANELS: [(&str, f64, f64); 3] =
    [("lift C_L", -1.4, 1.4), ("drag C_D", 0.0, 1.3), ("pitching moment C_M, nose up", -0.12, 0.16)];

fn main() -> Result<(), Box<dyn Error>> {
    let root = SVGBackend::new(PICTURE, (900, 1080)).into_drawing_area();
    root.fill(&WHITE)?;
    for (k, area) in root.split_evenly((3, 1)).iter().enumerate() {
        let (title, low, high) = PANELS[k];
        let mut chart = ChartBuilder::on(area)
            .caption(format!("{title} at {SPEED_M_S} m/s"), ("sans-serif", 18))
            .margin(12)
            .x_label_area_size(34)
            .y_label_area_size(52)
            .build_cartesian_2d(-90.0..90.0, low..high)?;
        chart
            .configure_mesh()
            .x_desc("angle of attack, degrees")
            .x_labels(13)
            .light_line_style(WHITE)
            .draw()?;
        for (numbers, colour, width) in &DISCS {
            let disc = numbers.coefficients();
            let value = |deg: f64| {
                let (cl, cd, cm) = coefficients_at(&disc, deg.to_radians(), SPEED_M_S);
                [cl, cd, cm][k]
            };
            let points = (-180..=180).map(|n| (0.5 * f64::from(n), value(0.5 * f64::from(n))));
            let style = colour.stroke_width(*width);
            chart
                .draw_series(LineSeries::new(points, style))?
                .label(format!("{}/{}/{}/{}", numbers.speed, numbers.glide, numbers.turn, numbers.fade))
                .legend(move |(x, y)| PathElement::new([(x, y), (x + 24, y)], style));
        }
        chart.configure_series_labels().background_style(WHITE).border_style(BLACK).draw()?;
    }
    root.present()?;
    Ok(())
}
