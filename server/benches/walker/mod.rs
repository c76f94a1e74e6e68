//! Somebody who uses the application over HTTP, for benchmarks.
#![allow(dead_code, reason = "each benchmark asks for what it needs")]

use kevyt_testbed::Stage;
use reqwest::{Client, Method};
use serde_json::{Value, json};
use std::time::Duration;

pub struct Walker {
    pub http: Client,
    url: String,
}

impl Walker {
    /// With an account of their own.
    pub async fn signed_up(stage: &Stage, name: &str) -> Walker {
        let walker = Walker::at(stage);
        let account = json!({ "name": name, "password": "correct horse", "mass": "metric", "currency": "EUR" });
        walker.post("/api/account", &account).await;
        walker
    }

    /// In the demo.
    pub async fn in_demo(stage: &Stage) -> Walker {
        let walker = Walker::at(stage);
        walker.post("/api/session/demo", &json!({ "demo": "fell" })).await;
        walker
    }

    fn at(stage: &Stage) -> Walker {
        Walker { http: Client::builder().cookie_store(true).build().unwrap(), url: stage.url.clone() }
    }

    pub fn at_path(&self, path: &str) -> String {
        format!("{}{path}", self.url)
    }

    /// The answer, and the change that it made.
    pub async fn changing(&self, method: Method, path: &str, body: &Value) -> (Value, String) {
        let request = self.http.request(method, self.at_path(path));
        let request = if body.is_null() { request } else { request.json(body) };
        let answer = request.send().await.unwrap();
        assert!(answer.status().is_success(), "{path}: {}", answer.text().await.unwrap());
        let change = answer.headers().get("kevyt-change").map(|change| change.to_str().unwrap().to_owned());
        (serde_json::from_str(&answer.text().await.unwrap()).unwrap_or_default(), change.unwrap_or_default())
    }

    pub async fn ask(&self, method: Method, path: &str, body: &Value) -> Value {
        self.changing(method, path, body).await.0
    }

    pub async fn post(&self, path: &str, body: &Value) -> Value {
        self.ask(Method::POST, path, body).await
    }

    pub async fn get(&self, path: &str) -> Value {
        self.ask(Method::GET, path, &Value::Null).await
    }

    /// A page as it comes, in bytes: what a client makes of it is no part of the time.
    pub async fn bytes(&self, path: &str) -> usize {
        self.http.get(self.at_path(path)).send().await.unwrap().bytes().await.unwrap().len()
    }

    /// A list with swaps that exclude one another every which way; no search ends on 150 that exclude 12 others each.
    pub async fn entangled(&self, swaps: usize, excludes: usize) -> String {
        let list = self.post("/api/lists", &json!({ "name": "hard" })).await["id"].as_str().unwrap().to_owned();
        let mut made: Vec<Value> = Vec::new();
        for at in 0..swaps {
            let line = format!("thing number-{at} {}g", 20 + at * 104_729 % 1_201);
            self.post("/api/gear/line", &json!({ "line": line, "list": list })).await;
        }
        let lines = self.get(&format!("/api/lists/{list}")).await["lines"].clone();
        for (at, line) in lines.as_array().unwrap().iter().enumerate() {
            let others = (1..=excludes).map(|step| (at * 31 + step * step * 17) % swaps).filter(|other| *other < at);
            let excludes: Vec<Value> = others.map(|other| made[other].clone()).collect();
            let price = format!("{}", 1 + at * 7_919 % 401);
            let add = json!([{ "name": "lighter", "weight": "5 g", "price": price, "qty": 1 }]);
            let remove = json!([{ "line": line["id"], "qty": 1 }]);
            let swap = json!({ "kind": "replace", "remove": remove, "add": add, "excludes": excludes });
            made.push(self.post(&format!("/api/lists/{list}/swaps"), &swap).await["id"].clone());
        }
        list
    }
}

/// The time that 95 of 100 stay under.
pub fn p95(mut times: Vec<Duration>) -> Duration {
    times.sort_unstable();
    times[times.len() * 95 / 100]
}
