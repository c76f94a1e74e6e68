//! A forecast from elsewhere.

use crate::client::Client;
use insta::assert_json_snapshot;
use kevyt_testbed::Stage;

use std::io::{Read, Write};
use std::time::{Duration, Instant};

/// A service that answers every request with the same text, or keeps silent.
pub fn outside(answer: Option<&'static str>) -> String {
    let listener = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let address = listener.local_addr().unwrap();
    std::thread::spawn(move || {
        for stream in listener.incoming() {
            let mut stream = stream.unwrap();
            std::thread::spawn(move || {
                let _ = stream.read(&mut [0; 2_048]);
                match answer {
                    None => std::thread::sleep(Duration::from_secs(20)),
                    Some(body) => {
                        let length = body.len();
                        let _ = write!(
                            stream,
                            "HTTP/1.1 200 OK\r\nContent-Length: {length}\r\nConnection: close\r\n\r\n{body}"
                        );
                    }
                }
            });
        }
    });
    format!("http://{address}")
}

#[tokio::test(flavor = "multi_thread")]
async fn a_forecast_that_is_slow_away_or_nonsense_is_said_within_two_seconds() {
    let good = r#"{"low_tenth_c":10,"low_from_tenth_c":-20,"low_to_tenth_c":30,"high_tenth_c":120,"high_from_tenth_c":90,"high_to_tenth_c":150,"rain_days":2,"wind_km_per_hour":20,"light_tenth_hours":130,"based_on":"made up"}"#;
    let mut stage = Stage::start(false);
    let path = "/api/forecast?place=north%20fells&from=2026-09-04&days=7";
    let anna = Client::signed_up(&stage, "anna").await;
    assert_eq!(anna.get(path).await.body["code"], "no_forecast");
    let mut told = Vec::new();
    for (answer, expected) in [(Some(good), 200), (None, 502), (Some("fair"), 502), (Some(r#"{"low_tenth_c":1}"#), 502)]
    {
        stage.with_forecast(&outside(answer));
        let begun = Instant::now();
        let found = anna.elsewhere(&stage.url).get(path).await;
        assert_eq!(found.status, expected, "{}", found.body);
        assert!(begun.elapsed() < Duration::from_secs(5), "{:?}", begun.elapsed());
        told.push(found.body["detail"].as_str().unwrap_or("answered").to_owned());
    }
    stage.with_forecast("http://127.0.0.1:9");
    let client = anna.elsewhere(&stage.url);
    told.push(client.get(path).await.body["detail"].as_str().unwrap().to_owned());
    assert_json_snapshot!("forecast", told);
    assert_eq!(client.get("/api/forecast?place=x&from=soon&days=7").await.status, 422);
    assert_eq!(Client::new(&stage).get(path).await.status, 401);
}
