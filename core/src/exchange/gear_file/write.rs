//! Gear written as CSV, and the Data Package that describes it.

use super::Column;
use super::sheet::guarded;
use crate::gear::{Gear, Jobs, WeightSource};
use crate::quantity::{Currency, Mass, Money};
use serde::Serialize;
use serde_json::{Value, json};

/// Gear as CSV: RFC 4180, UTF-8, comma, CRLF. Masses in grams with a decimal point, exact to the milligram; money in the
/// account's currency. Read again it gives the same things.
pub fn write_csv<'a>(things: impl IntoIterator<Item = &'a Gear>, currency: Currency) -> Vec<u8> {
    let columns = Column::ours;
    let mut writer = csv::WriterBuilder::new()
        .terminator(csv::Terminator::CRLF)
        .quote_style(csv::QuoteStyle::Always)
        .from_writer(Vec::new());
    let header: Vec<&str> = columns().map(|column| column.key()).collect();
    let mut written = writer.write_record(header);
    for thing in things {
        let cells = columns().map(|column| guarded(&cell(thing, column, currency)));
        written = written.and_then(|()| writer.write_record(cells));
    }
    match written
        .map_err(|error| error.to_string())
        .and_then(|()| writer.into_inner().map_err(|error| error.to_string()))
    {
        Ok(bytes) => bytes,
        Err(error) => unreachable!("memory takes what is written to it: {error}"),
    }
}

fn cell(thing: &Gear, column: Column, currency: Currency) -> String {
    let weight = thing.weight.as_ref();
    match column {
        Column::Name => thing.name.as_str().to_owned(),
        Column::System => thing.system.key().to_owned(),
        Column::Count => thing.count.to_string(),
        Column::Weight => weight.map(|weight| grams(weight.unit)).unwrap_or_default(),
        Column::Unit | Column::Minor | Column::PriceHigh | Column::Worn | Column::UsedUp => String::new(),
        Column::Typed => weight.map(|weight| weight.typed.clone()).unwrap_or_default(),
        Column::Source => weight.map(|weight| word(weight.source)).unwrap_or_default(),
        Column::HalfWidth => weight.and_then(|weight| weight.band).map(|band| grams(band.high)).unwrap_or_default(),
        Column::Claimed => thing.claimed.as_ref().map(|claim| grams(claim.unit)).unwrap_or_default(),
        Column::ClaimedTyped => thing.claimed.as_ref().map(|claim| claim.typed.clone()).unwrap_or_default(),
        Column::Price => match thing.paid {
            None => String::new(),
            Some(paid) if paid.low() == paid.high() => amount(paid.low(), currency),
            Some(paid) => format!("{}-{}", amount(paid.low(), currency), amount(paid.high(), currency)),
        },
        Column::Acquired => word(thing.acquired),
        Column::Resale => thing.resale.map(|resale| amount(resale, currency)).unwrap_or_default(),
        Column::Status => word(thing.status),
        Column::KeptAt => thing.kept_at.clone(),
        Column::Note => thing.note.clone(),
        Column::Tags => thing.tags.to_string(),
        Column::Nights => thing.nights.to_string(),
        Column::Lasts => thing.identity.lasts_nights.map(|nights| nights.to_string()).unwrap_or_default(),
        Column::Provides => jobs(&thing.provides),
        Column::Needs => jobs(&thing.needs),
    }
}

/// Grams with up to three decimals and a point.
fn grams(mass: Mass) -> String {
    let (whole, rest) = (mass.mg() / 1_000, mass.mg() % 1_000);
    if rest == 0 { whole.to_string() } else { format!("{whole}.{rest:03}").trim_end_matches('0').to_owned() }
}

/// An amount with the currency's decimals and a point; a fourth zero where three could be thousands.
fn amount(money: Money, currency: Currency) -> String {
    let (scale, decimals) = (i64::from(currency.minor_per_major()), currency.decimals());
    let (whole, rest) = (money.minor() / scale, money.minor() % scale);
    match decimals {
        0 => whole.to_string(),
        3 => format!("{whole}.{rest:03}0"),
        _ => format!("{whole}.{rest:0decimals$}"),
    }
}

fn jobs(jobs: &Jobs) -> String {
    jobs.iter().map(|(job, amount)| format!("{}={amount}", job.as_str())).collect::<Vec<_>>().join(" ")
}

fn word(value: impl Serialize) -> String {
    match serde_json::to_value(value) {
        Ok(Value::String(word)) => word,
        other => unreachable!("only enums of words are written this way, not {other:?}"),
    }
}

/// The `datapackage.json` that goes beside `gear.csv`: a Frictionless Data Package with the file's Table Schema.
pub fn data_package(currency: Currency) -> Value {
    let sources = [WeightSource::Weighed, WeightSource::Maker, WeightSource::Estimate, WeightSource::Derived].map(word);
    let fields: Vec<Value> = Column::ours()
        .map(|column| {
            let kind = match column {
                Column::Count | Column::Nights => "integer",
                column if column.is_mass() => "number",
                Column::Resale => "number",
                _ => "string",
            };
            let mut field = json!({ "name": column.key(), "type": kind, "description": column.holds() });
            match column {
                Column::Name => field["constraints"] = json!({ "required": true, "maxLength": crate::limits::NAME }),
                Column::Count => field["constraints"] = json!({ "minimum": 1, "maximum": crate::limits::COUNT }),
                Column::Source => field["constraints"] = json!({ "enum": sources }),
                Column::Resale | Column::Price => field["unit"] = json!(currency.code()),
                _ => {}
            }
            field
        })
        .collect();
    json!({
        "$schema": "https://datapackage.org/profiles/2.0/datapackage.json",
        "name": "kevyt-gear",
        "title": "Gear",
        "resources": [{
            "name": "gear",
            "path": "gear.csv",
            "type": "table",
            "format": "csv",
            "mediatype": "text/csv",
            "encoding": "utf-8",
            "dialect": { "delimiter": ",", "lineTerminator": "\r\n", "header": true },
            "schema": { "fields": fields, "missingValues": [""] },
        }],
    })
}
