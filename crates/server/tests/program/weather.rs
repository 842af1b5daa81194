//! The forecast of a weather program, pulled from the stand-in that ships, and what is made of one that misbehaves.

use std::sync::mpsc::channel;

use crate::http::ask;
use actix_web::http::StatusCode;
use actix_web::{App as HttpApp, test, web};
use rstest::rstest;
use serde_json::json;
use zinc_kite::app::App;
use zinc_kite::demo;
use zinc_kite::door::Door;
use zinc_kite::instrument::weather::{Fault, WeatherStandIn, run};
use zinc_kite::routes::configure;
use zinc_kite::store::Store;

/// Runs the stand-in as long as the tests run; its address.
fn standing_in(of: WeatherStandIn) -> String {
    let (tell, told) = channel();
    std::thread::spawn(move || run(of, |address| Ok(tell.send(address.to_owned())?)).unwrap());
    told.recv().unwrap()
}

/// The application with a weather program at an address.
async fn served(address: Option<String>) -> impl crate::http::Served {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    let app = web::Data::new(App::new(store).unwrap().with_weather(address));
    test::init_service(HttpApp::new().configure(configure(app, web::Data::new(Door::of_this_machine()))))
        .await
}

const ASKED: &str = "/api/weather?date=2027-05-03";

/// What is pulled is a day that a course takes as it is, the same every time it is asked for.
#[actix_web::test]
async fn a_forecast_is_pulled_and_kept_as_the_day() {
    let app = served(Some(standing_in(WeatherStandIn::on(0)))).await;
    let pulled = ask(&app, "GET", ASKED, "").await;
    assert_eq!(pulled.status, StatusCode::OK, "{}", pulled.text);
    assert_eq!(pulled.json()["hours"].as_array().unwrap().len(), 15);
    assert_eq!(ask(&app, "GET", ASKED, "").await.json(), pulled.json());
    let told = pulled.json();
    assert!(told["source"].as_str().unwrap().contains("Vell"), "{told}");
    let day = json!({ "date": told["date"], "start_min": 570, "hole_min": 15, "hours": told["hours"], "cover": "sand", "packed": ["marker"], "source": told["source"] });
    let mut course = ask(&app, "GET", "/api/courses/1", "").await.json();
    course["day"] = day.clone();
    let saved = ask(&app, "PUT", "/api/courses/1", &course.to_string()).await;
    assert_eq!(saved.status, StatusCode::OK, "{}", saved.text);
    assert_eq!(saved.json()["day"], day);
    // Another day has other weather.
    let other = ask(&app, "GET", "/api/weather?date=2027-05-04", "").await.json();
    assert_ne!(other["hours"], told["hours"]);
}

#[rstest]
#[case(Fault::Garbage, "no forecast")]
#[case(Fault::Absurd, "wind_m_s")]
#[case(Fault::Error, "503")]
#[case(Fault::Silence, "timeout")]
#[case(Fault::Flood, "to the end")]
#[actix_web::test]
async fn a_weather_program_that_misbehaves_is_told_of(#[case] fault: Fault, #[case] word: &str) {
    let app = served(Some(standing_in(WeatherStandIn::on(0).failing(fault)))).await;
    let answer = ask(&app, "GET", ASKED, "").await;
    assert_eq!(answer.status, StatusCode::BAD_GATEWAY, "{}", answer.text);
    let detail = answer.json()["detail"].as_str().unwrap().to_owned();
    assert!(detail.contains(word) && detail.contains("type the forecast"), "{detail}");
}

/// Hours that are left out are no fault: the last one told holds.
#[actix_web::test]
async fn gaps_are_bridged() {
    let app = served(Some(standing_in(WeatherStandIn::on(0).failing(Fault::Gaps)))).await;
    let hours = ask(&app, "GET", ASKED, "").await.json()["hours"].as_array().unwrap().len();
    assert_eq!(hours, 3);
}

#[rstest]
#[case(None, StatusCode::NOT_FOUND)]
#[case(Some("http://127.0.0.1:1"), StatusCode::BAD_GATEWAY)]
#[case(Some("nowhere"), StatusCode::BAD_GATEWAY)]
#[actix_web::test]
async fn without_a_weather_program_it_is_said_what_to_do(
    #[case] address: Option<&str>,
    #[case] expected: StatusCode,
) {
    let app = served(address.map(str::to_owned)).await;
    let answer = ask(&app, "GET", ASKED, "").await;
    assert_eq!(answer.status, expected, "{}", answer.text);
    assert!(answer.text.contains("type the forecast"), "{}", answer.text);
}

/// Days that are none are refused by field, and nothing is changed.
#[rstest]
#[case(json!({ "start_min": 1440, "hole_min": 12 }), "start_min")]
#[case(json!({ "start_min": 600, "hole_min": 2 }), "hole_min")]
#[case(json!({ "start_min": 600, "hole_min": 12, "hours": [{ "hour": 24, "wind_m_s": 3, "from_deg": 0, "temperature_c": 9 }] }), "hour")]
#[case(json!({ "start_min": 600, "hole_min": 12, "hours": [{ "hour": 9, "wind_m_s": 3, "gust_m_s": 2, "from_deg": 0, "temperature_c": 9 }] }), "gust_m_s")]
#[case(json!({ "start_min": 600, "hole_min": 12, "hours": [{ "hour": 9, "wind_m_s": 3, "from_deg": 361, "temperature_c": 9 }] }), "from_deg")]
#[actix_web::test]
async fn a_day_that_is_none_is_refused(#[case] day: serde_json::Value, #[case] field: &str) {
    let app = served(None).await;
    let before = ask(&app, "GET", "/api/courses/1", "").await.json();
    let mut course = before.clone();
    course["day"] = day;
    let answer = ask(&app, "PUT", "/api/courses/1", &course.to_string()).await;
    assert_eq!(answer.status, StatusCode::UNPROCESSABLE_ENTITY, "{}", answer.text);
    assert_eq!(answer.json()["field"], field, "{}", answer.text);
    assert_eq!(ask(&app, "GET", "/api/courses/1", "").await.json(), before);
}
