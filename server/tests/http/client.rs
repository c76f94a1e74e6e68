//! A client with a cookie jar, and answers fit for snapshots.

use crate::contract;
use kevyt_testbed::Stage;
use reqwest::cookie::{CookieStore, Jar};
use reqwest::multipart::{Form, Part};
use reqwest::{Method, Response};
use serde_json::{Value, json};
use std::collections::HashMap;
use std::sync::Arc;

pub struct Client {
    http: reqwest::Client,
    jar: Arc<Jar>,
    url: String,
}

/// What came back.
pub struct Answer {
    pub status: u16,
    pub body: Value,
    pub headers: HashMap<String, String>,
}

impl Client {
    pub fn new(stage: &Stage) -> Client {
        Client::at(&stage.url)
    }

    /// The same session, on another server.
    pub fn elsewhere(&self, url: &str) -> Client {
        Client { http: self.http.clone(), jar: Arc::clone(&self.jar), url: url.to_owned() }
    }

    /// A client of the server at an address.
    pub fn at(url: &str) -> Client {
        let jar = Arc::new(Jar::default());
        let http = reqwest::Client::builder().cookie_provider(Arc::clone(&jar)).build().unwrap();
        Client { http, jar, url: url.to_owned() }
    }

    /// The token in a cookie.
    pub fn token(&self, cookie: &str) -> String {
        let cookies = self.jar.cookies(&self.url.parse().unwrap()).unwrap();
        let cookies = cookies.to_str().unwrap().to_owned();
        cookies.split("; ").find_map(|pair| pair.strip_prefix(&format!("{cookie}="))).unwrap().to_owned()
    }

    /// A client that is signed in to an account of its own.
    pub async fn signed_up(stage: &Stage, name: &str) -> Client {
        Client::new(stage).sign_up(name).await
    }

    /// Makes an account and signs in to it.
    pub async fn sign_up(self, name: &str) -> Client {
        let client = self;
        let account = json!({ "name": name, "password": "correct horse", "mass": "metric", "currency": "EUR" });
        assert_eq!(client.post("/api/account", account).await.status, 201);
        client
    }

    pub async fn get(&self, path: &str) -> Answer {
        self.ask(Method::GET, path, None).await
    }

    /// An answer that says of a fault what no document promises.
    pub async fn get_a_fault(&self, path: &str) -> Answer {
        Answer::read(self.raw(Method::GET, path).send().await.unwrap()).await
    }

    pub async fn post(&self, path: &str, body: Value) -> Answer {
        self.ask(Method::POST, path, Some(body)).await
    }

    pub async fn put(&self, path: &str, body: Value) -> Answer {
        self.ask(Method::PUT, path, Some(body)).await
    }

    pub async fn patch(&self, path: &str, body: Value) -> Answer {
        self.ask(Method::PATCH, path, Some(body)).await
    }

    pub async fn delete(&self, path: &str) -> Answer {
        self.ask(Method::DELETE, path, None).await
    }

    pub async fn ask(&self, method: Method, path: &str, body: Option<Value>) -> Answer {
        let request = self.raw(method.clone(), path);
        let request = if let Some(body) = body { request.json(&body) } else { request };
        Answer::to(&method, path, request).await
    }

    /// For requests that the methods above can't make.
    pub fn raw(&self, method: Method, path: &str) -> reqwest::RequestBuilder {
        self.http.request(method, format!("{}{path}", self.url))
    }

    /// Sends a gear file and how it is to be read.
    pub async fn upload(&self, path: &str, file: impl AsRef<[u8]>, how: Value) -> Answer {
        let how = Part::text(how.to_string()).mime_str("application/json").unwrap();
        let form = Form::new().part("file", Part::bytes(file.as_ref().to_vec()).file_name("gear.csv")).part("how", how);
        Answer::to(&Method::POST, path, self.raw(Method::POST, path).multipart(form)).await
    }

    /// Puts what an account's file holds in the place of everything.
    pub async fn restore(&self, file: &str) -> Answer {
        let path = "/api/files/account";
        let request = self.raw(Method::POST, path).header("content-type", "application/json");
        Answer::to(&Method::POST, path, request.body(file.to_owned())).await
    }

    /// Takes a change back.
    pub async fn undo(&self, change: &str) -> Answer {
        self.post(&format!("/api/changes/{change}/undo"), json!({})).await
    }

    /// Adds gear that was weighed by a quick line and puts it on a list.
    pub async fn line(&self, line: &str, list: Option<&str>) -> Value {
        let answer = self.post("/api/gear/line", json!({ "line": line, "list": list, "source": "weighed" })).await;
        assert_eq!(answer.status, 201, "{}", answer.body);
        answer.body
    }

    /// Makes a list with a target and a budget; its id.
    /// Makes a link to a list; what opens it.
    pub async fn linked(&self, list: &str, link: Value) -> String {
        let made = self.post(&format!("/api/lists/{list}/links"), link).await;
        assert_eq!(made.status, 201, "{}", made.body);
        made.body["secret"].as_str().unwrap().to_owned()
    }

    /// Joins a list of another's by a link; the seat there.
    pub async fn joins(&self, owner: &Client, list: &str, name: &str) -> String {
        let seat = owner.post(&format!("/api/lists/{list}/walkers"), json!({ "name": name })).await.id().to_owned();
        let secret = owner.linked(list, json!({ "walker": seat, "days": 14 })).await;
        assert_eq!(self.post("/api/joined", json!({ "secret": secret })).await.status, 200);
        seat
    }

    pub async fn list(&self, target: &str, budget: &str) -> String {
        let list = self.post("/api/lists", json!({ "name": "Week", "target": target, "budget": budget })).await;
        list.body["id"].as_str().unwrap().to_owned()
    }
}

impl Answer {
    /// Sends a request. The answer is as docs/openapi.json says, or the test ends.
    async fn to(method: &Method, path: &str, request: reqwest::RequestBuilder) -> Answer {
        let answer = Answer::read(request.send().await.unwrap()).await;
        contract::check(method, path, answer.status, &answer.body);
        answer
    }

    pub async fn read(response: Response) -> Answer {
        let status = response.status().as_u16();
        let headers = response.headers().iter();
        let headers = headers.map(|(name, value)| (name.to_string(), value.to_str().unwrap().to_owned())).collect();
        let text = response.text().await.unwrap();
        let body =
            if text.is_empty() { Value::Null } else { serde_json::from_str(&text).unwrap_or(Value::String(text)) };
        Answer { status, body, headers }
    }

    /// The id of what was made.
    pub fn id(&self) -> &str {
        self.body["id"].as_str().unwrap_or_else(|| panic!("no id in {}", self.body))
    }

    /// The change that the request made, to undo it by.
    pub fn change(&self) -> String {
        self.headers.get("kevyt-change").unwrap_or_else(|| panic!("nothing was changed: {}", self.body)).clone()
    }

    /// Status and body, with ids numbered as they come.
    pub fn shown(&self) -> Value {
        let mut seen = Vec::new();
        json!({ "status": self.status, "body": numbered(&self.body, &mut seen) })
    }
}

fn numbered(value: &Value, seen: &mut Vec<String>) -> Value {
    match value {
        Value::String(text) if uuid::Uuid::parse_str(text).is_ok() => {
            let at = seen.iter().position(|id| id == text).unwrap_or_else(|| {
                seen.push(text.clone());
                seen.len() - 1
            });
            json!(format!("id {}", at + 1))
        }
        Value::Array(items) => items.iter().map(|item| numbered(item, seen)).collect(),
        Value::Object(fields) => fields.iter().map(|(name, field)| (name.clone(), numbered(field, seen))).collect(),
        other => other.clone(),
    }
}
