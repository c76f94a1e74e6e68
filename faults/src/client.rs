//! A client that tries again, as the browser application does.

use reqwest::Method;
use reqwest::cookie::Jar;
use serde_json::{Value, json};
use std::sync::Arc;
use std::time::{Duration, Instant};

/// Somebody's browser: signed in wherever it asks.
#[derive(Debug, Clone)]
pub struct Client {
    http: reqwest::Client,
}

/// What came back, how long it took, and how many tries.
#[derive(Debug, Clone)]
pub struct Answer {
    /// The status; 0 if nothing came.
    pub status: u16,
    /// The body, if it is JSON.
    pub body: Value,
    /// From the first try to the answer.
    pub took: Duration,
    /// How often it was asked.
    pub tries: u32,
}

impl Client {
    /// Somebody new.
    pub fn new() -> Client {
        let http =
            reqwest::Client::builder().cookie_provider(Arc::new(Jar::default())).timeout(Duration::from_secs(60));
        Client { http: http.build().expect("a client") }
    }

    /// Makes an account at a server, and signs in to it.
    pub async fn sign_up(url: &str, name: &str) -> Client {
        let client = Client::new();
        let account = json!({ "name": name, "password": "correct horse", "mass": "metric", "currency": "EUR" });
        let answer = client.once(Method::POST, url, "/api/account", Some(account)).await;
        assert_eq!(answer.status, 201, "{}", answer.body);
        client
    }

    /// Asks once.
    pub async fn once(&self, method: Method, url: &str, path: &str, body: Option<Value>) -> Answer {
        self.named(method, &format!("{url}{path}"), body, &key()).await
    }

    /// Reads a gear file in.
    pub async fn upload(&self, url: &str, file: &str) -> Answer {
        let begun = Instant::now();
        let how = reqwest::multipart::Part::text("{}").mime_str("application/json").expect("a kind of file");
        let file = reqwest::multipart::Part::text(file.to_owned()).file_name("gear.csv");
        let form = reqwest::multipart::Form::new().part("file", file).part("how", how);
        let sent = self.http.post(format!("{url}/api/files/gear")).multipart(form).send().await.expect("an answer");
        let status = sent.status().as_u16();
        Answer { status, body: sent.json().await.unwrap_or_default(), took: begun.elapsed(), tries: 1 }
    }

    /// Reads.
    pub async fn get(&self, url: &str, path: &str) -> Answer {
        self.once(Method::GET, url, path, None).await
    }

    async fn named(&self, method: Method, to: &str, body: Option<Value>, key: &str) -> Answer {
        let begun = Instant::now();
        let mut request = self.http.request(method, to).header("Idempotency-Key", key);
        if let Some(body) = body {
            request = request.json(&body);
        }
        let (status, body) = match request.send().await {
            Ok(response) => (response.status().as_u16(), response.json().await.unwrap_or_default()),
            Err(_) => (0, Value::Null),
        };
        Answer { status, body, took: begun.elapsed(), tries: 1 }
    }

    /// Asks under one name until it is answered with anything but a failure of the server, for ten seconds at most.
    pub async fn until_answered(&self, method: Method, url: &str, path: &str, body: Value) -> Answer {
        let (begun, key, to) = (Instant::now(), key(), format!("{url}{path}"));
        for tries in 1.. {
            let answer = self.named(method.clone(), &to, Some(body.clone()), &key).await;
            let is_answered = (1..500).contains(&answer.status);
            if is_answered || begun.elapsed() > Duration::from_secs(10) {
                return Answer { took: begun.elapsed(), tries, ..answer };
            }
            tokio::time::sleep(Duration::from_millis(100)).await;
        }
        unreachable!("it is asked for ten seconds at most")
    }
}

impl Default for Client {
    fn default() -> Client {
        Client::new()
    }
}

fn key() -> String {
    uuid::Uuid::new_v4().simple().to_string()
}
