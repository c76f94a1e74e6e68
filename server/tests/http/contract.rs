//! What docs/openapi.json says of an answer, held against every answer that a test gets.

use jsonschema::Validator;
use reqwest::Method;
use serde_json::{Value, json};
use std::collections::HashMap;
use std::sync::{Arc, LazyLock, Mutex};

static DOCUMENT: LazyLock<Value> =
    LazyLock::new(|| serde_json::from_str(include_str!("../../../docs/openapi.json")).unwrap());

/// Its schemas, in which an object has no other fields than those that are described.
static SCHEMAS: LazyLock<Value> = LazyLock::new(|| {
    let mut schemas = DOCUMENT["components"]["schemas"].clone();
    let text = schemas.to_string();
    for (name, schema) in schemas.as_object_mut().unwrap() {
        // What is part of a larger object is closed with that.
        let is_part = text.contains(&format!("\"allOf\":[{{\"$ref\":\"#/components/schemas/{name}\"}}"));
        if !is_part && (schema.get("properties").is_some() || schema.get("allOf").is_some()) {
            schema["unevaluatedProperties"] = json!(false);
        }
    }
    schemas
});

static VALIDATORS: LazyLock<Mutex<HashMap<String, Arc<Validator>>>> = LazyLock::new(Mutex::default);

/// What an account's file is.
static ACCOUNT: LazyLock<Value> =
    LazyLock::new(|| serde_json::from_str(include_str!("../../../docs/account.schema.json")).unwrap());

/// What any path may answer, whatever it is: the document says so once.
const ANYWHERE: [u16; 7] = [400, 401, 403, 413, 429, 503, 507];

fn validator(schema: &Value) -> Arc<Validator> {
    let mut validators = VALIDATORS.lock().unwrap();
    let validator = validators.entry(schema.to_string()).or_insert_with(|| {
        let mut whole = schema.clone();
        whole["components"] = json!({ "schemas": *SCHEMAS });
        Arc::new(jsonschema::options().with_draft(jsonschema::Draft::Draft202012).build(&whole).unwrap())
    });
    Arc::clone(validator)
}

/// What the document says of a path, whose ids stand in braces there. Of two that fit, one without braces goes before.
fn operation(method: &Method, path: &str) -> Option<&'static Value> {
    let path: Vec<&str> = path.split('?').next()?.split('/').collect();
    let fits = |pattern: &str| {
        let parts: Vec<&str> = pattern.split('/').collect();
        parts.len() == path.len() && parts.iter().zip(&path).all(|(part, asked)| part.starts_with('{') || part == asked)
    };
    let paths = DOCUMENT["paths"].as_object()?.iter().filter(|(pattern, _)| fits(pattern));
    let found = paths.min_by_key(|(pattern, _)| pattern.matches('{').count())?;
    found.1.get(method.as_str().to_lowercase())
}

/// Panics where an answer is not as the document says.
pub fn check(method: &Method, path: &str, status: u16, body: &Value) {
    let Some(operation) = operation(method, path) else {
        assert!(!(200..300).contains(&status) || !path.starts_with("/api/"), "{method} {path} is in no document");
        return;
    };
    let said = &operation["responses"][status.to_string()];
    assert!(!said.is_null() || ANYWHERE.contains(&status), "{method} {path}: nothing is said of {status} {body}");
    let problem = json!({ "$ref": "#/components/schemas/Problem" });
    let schema = match said["content"].as_object() {
        Some(_) if path == "/api/files/account.json" => Some(&*ACCOUNT),
        Some(kinds) => kinds.get("application/json").map(|kind| &kind["schema"]),
        None if status >= 400 => Some(&problem),
        None => {
            assert!(body.is_null(), "{method} {path}: nothing is said of what comes with {status}");
            None
        }
    };
    if let Some(schema) = schema {
        let wrong: Vec<String> = validator(schema)
            .iter_errors(body)
            .map(|error| format!("{} at {}", error.masked(), error.instance_path()))
            .collect();
        assert!(wrong.is_empty(), "{method} {path} {status}: {}", wrong.join("; "));
    }
}
