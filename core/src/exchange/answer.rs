//! Writing `kevyt-answer/1`.

use crate::plan::{Answer, Outcome, Ready};
use crate::swap::Missing;
use serde_json::{Value, json};

/// The answer as `kevyt-answer/1`. Beyond the format's own fields it has `plan.gap` and `ranking_alone`.
pub fn answer_json(ready: &Ready<'_>, answer: &Answer) -> Value {
    let ids =
        |swaps: &[usize]| -> Vec<&str> { swaps.iter().map(|&at| ready.problem().swaps[at].id.0.as_str()).collect() };
    let ranking: Vec<Value> = ready
        .ranking()
        .iter()
        .map(|row| {
            let worth = &ready.worths()[row.swap];
            let complete = worth.complete();
            json!({
                "swap": ready.problem().swaps[row.swap].id,
                "class": row.class,
                "place": row.place,
                "saving_mg": complete.map(|(saving, _)| saving),
                "net_minor": complete.map(|(_, net)| net),
                "missing": worth.missing.iter().map(missing_words).collect::<Vec<_>>(),
            })
        })
        .collect();
    let frontier = answer.frontier.points().iter().enumerate().map(|(at, point)| {
        json!({ "net_minor": point.net, "base_mg": point.base, "swaps": ids(&answer.frontier.swaps(at)) })
    });
    let alone = &answer.ranking_alone;
    json!({
        "format": "kevyt-answer/1",
        "base_mg": ready.base(),
        "ranking": ranking,
        "plan": plan_json(answer, ids),
        "ranking_alone": alone.swaps.as_ref().map(|swaps| json!({
            "swaps": ids(swaps), "net_minor": alone.net, "base_mg": alone.base, "met": alone.met,
        })),
        "frontier": frontier.collect::<Vec<_>>(),
    })
}

/// What is missing, in words.
pub(super) fn missing_words(missing: &Missing) -> String {
    match missing {
        Missing::Weight(name) => format!("weight of {name}"),
        Missing::Price(name) => format!("price of {name}"),
    }
}

fn plan_json<'a>(answer: &Answer, ids: impl Fn(&[usize]) -> Vec<&'a str>) -> Value {
    let plan = &answer.plan;
    let mut out = json!({ "outcome": outcome_key(&plan.outcome) });
    if let Some(swaps) = &plan.swaps {
        out["swaps"] = json!(ids(swaps));
        out["net_minor"] = json!(plan.net);
        out["base_mg"] = json!(plan.base);
        out["short_by_mg"] = json!(plan.short_by);
    }
    match &plan.outcome {
        Outcome::OverBudget { more } => out["more_minor"] = json!(more),
        Outcome::OutOfReach { lightest } => out["lightest_mg"] = json!(lightest),
        Outcome::PinsClash { pins, least } => {
            out["pins"] = json!(ids(pins));
            out["least_minor"] = json!(least);
        }
        Outcome::AlreadyMet | Outcome::TargetMet | Outcome::Unresolved => {}
    }
    if let Some(gap) = plan.gap {
        out["gap"] = json!({ "mass_mg": gap.mass, "money_minor": gap.money });
    }
    out
}

fn outcome_key(outcome: &Outcome) -> &'static str {
    match outcome {
        Outcome::AlreadyMet => "already_met",
        Outcome::TargetMet => "target_met",
        Outcome::OverBudget { .. } => "over_budget",
        Outcome::OutOfReach { .. } => "out_of_reach",
        Outcome::PinsClash { .. } => "pins_clash",
        Outcome::Unresolved => "unresolved",
    }
}
