//! Writing `kevyt-answer/1`, `/2` and `/3`.

use super::Version;
use crate::gear::Counting;
use crate::plan::lists::{ListsAnswer, ReadyList, ReadyLists};
use crate::plan::{
    Answer, BreakEven, BuyingOrder, Limits, NearMiss, Outcome, ProblemError, Ready, chance, clears, keeps, months,
    near_misses,
};
use crate::quantity::Mass;
use crate::steps::Steps;
use crate::swap::Missing;
use serde_json::{Value, json};

/// The answer in the format that goes with the problem's. Beyond the format's own fields it has `plan.gap` and `ranking_alone`; where the earliest
/// month is not known within its limit `plan.earliest_month_at_most`. Once `should_stop` says yes, near misses that are not known are left out.
///
/// # Errors
/// [`ProblemError`] if a weight counted otherwise is out of range.
pub fn answer_json(
    ready: &Ready<'_>,
    answer: &Answer,
    version: Version,
    should_stop: &dyn Fn() -> bool,
) -> Result<Value, ProblemError> {
    let mut out = answer_one(ready, answer);
    if version >= Version::Two {
        out["format"] = json!(if version == Version::Two { "kevyt-answer/2" } else { "kevyt-answer/3" });
        for (row, ranked) in out["ranking"].as_array_mut().into_iter().flatten().zip(ready.ranking()) {
            row["best_place"] = json!(ranked.place.map(|places| places.best));
            row["worst_place"] = json!(ranked.place.map(|places| places.worst));
            if let Some(range) = ready.worths()[ranked.swap].range {
                row["saving_low_mg"] = json!(range.saving_low);
                row["saving_high_mg"] = json!(range.saving_high);
                row["net_low_minor"] = json!(range.net_low);
                row["net_high_minor"] = json!(range.net_high);
            }
        }
        if let Some(swaps) = &answer.plan.swaps {
            let figures = clears(ready, swaps)?.map(|(counting, clears)| (counting_key(counting), json!(clears)));
            out["plan"]["clears_mg"] = figures.into_iter().map(|(key, clears)| (key.to_owned(), clears)).collect();
            let soonest = ready.problem().terms.purse.map(|purse| {
                let order = BuyingOrder::new(ready).of(swaps);
                months::soonest(ready, &order, purse, &mut Steps::new(months::MONTHS_STEPS, should_stop))
            });
            let proved = soonest.as_ref().filter(|soonest| soonest.is_proved).and_then(|soonest| soonest.last());
            if version == Version::Two || soonest.is_some() {
                out["plan"]["earliest_month"] = json!(proved);
            }
            if version == Version::Three {
                out["plan"]["chance"] = json!(chance(ready, swaps));
                let keeps = keeps(ready, answer).into_iter();
                out["keeps"] = keeps.map(|(line, costs)| json!({ "line": line, "costs_minor": costs })).collect();
            }
            if let Some(unknown) = soonest.filter(|soonest| !soonest.is_proved) {
                // Null would say that it is never: this is the soonest that is known, and whether it can be sooner is not.
                out["plan"]["earliest_month_at_most"] = json!(unknown.last());
            }
        }
        let near = near_misses(ready, answer, &Limits::default(), should_stop);
        out["near_misses"] = near.iter().map(|near| near_miss_json(ready, near)).collect();
    }
    Ok(out)
}

/// The answer for several lists, in `kevyt-answer/3`. Beyond the format's own fields it has `plan.proved` and `frontier_proved` where a search was ended
/// early.
pub fn lists_json(ready: &ReadyLists<'_>, answer: &ListsAnswer) -> Value {
    let ids = |swaps: &[usize]| -> Vec<&str> { swaps.iter().map(|&at| ready.swaps()[at].id.0.as_str()).collect() };
    let plan = &answer.plan;
    let mut out = json!({ "outcome": outcome_key(&plan.outcome) });
    if let Some(swaps) = &plan.swaps {
        out["swaps"] = json!(ids(swaps));
        out["net_minor"] = json!(plan.net);
        out["gram_nights_mg"] = json!(plan.gram_nights);
        let base = |(list, base): (&ReadyList<'_>, &Mass)| {
            let short = list.target.map_or(Mass::ZERO, |target| (*base - target).max(Mass::ZERO));
            json!({ "list": list.id, "base_mg": base, "short_by_mg": short })
        };
        out["bases"] = ready.lists().iter().zip(&plan.bases).map(base).collect();
    }
    match &plan.outcome {
        Outcome::OverBudget { more } | Outcome::TooDear { more } => out["more_minor"] = json!(more),
        Outcome::Unmet { unmet } => out["unmet"] = unmet.iter().map(|meet| json!(meet.key())).collect(),
        _ => {}
    }
    if !plan.is_proved {
        out["proved"] = json!(false);
    }
    let points = answer.frontier.points().iter().enumerate();
    let frontier = points.map(|(at, point)| {
        json!({ "net_minor": point.net, "gram_nights_mg": point.base, "swaps": ids(&answer.frontier.swaps(at)) })
    });
    let mut by_id: Vec<usize> = (0..ready.swaps().len()).collect();
    by_id.sort_by(|&a, &b| ready.swaps()[a].id.cmp(&ready.swaps()[b].id));
    let ranking = by_id.into_iter().filter_map(|swap| {
        let (saves, net) = ready.worth(swap)?;
        let lists = ready.lists().iter().enumerate().filter(|(at, _)| ready.acts(swap, *at));
        let acts_on: Vec<&str> = lists.map(|(_, list)| list.id).collect();
        Some(json!({ "swap": ready.swaps()[swap].id, "saves_mg_nights": saves, "net_minor": net, "acts_on": acts_on }))
    });
    let mut all = json!({
        "format": "kevyt-answer/3",
        "ranking": ranking.collect::<Vec<_>>(),
        "plan": out,
        "frontier": frontier.collect::<Vec<_>>(),
    });
    if !answer.frontier.is_proved() {
        all["frontier_proved"] = json!(false);
    }
    all
}

fn near_miss_json(ready: &Ready<'_>, near: &NearMiss) -> Value {
    let (at, why) = match near.break_even {
        BreakEven::At(net) => (Some(net), None),
        BreakEven::Needed => (None, Some("needed")),
        BreakEven::Never => (None, Some("never")),
    };
    json!({ "swap": ready.problem().swaps[near.swap].id, "at_minor": at, "why": why })
}

fn counting_key(counting: Counting) -> &'static str {
    match counting {
        Counting::Stated => "stated",
        Counting::Expected => "expected",
        Counting::Worst => "worst",
    }
}

fn answer_one(ready: &Ready<'_>, answer: &Answer) -> Value {
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
                "place": row.place.map(|places| places.place),
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
        Outcome::PinsClash { pins, least, .. } => {
            out["pins"] = json!(ids(pins));
            out["least_minor"] = json!(least);
        }
        Outcome::Unmet { unmet } => out["unmet"] = unmet.iter().map(|meet| json!(meet.key())).collect(),
        Outcome::TooDear { more } => out["more_minor"] = json!(more),
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
        Outcome::Unmet { .. } => "unmet",
        Outcome::TooDear { .. } => "too_dear",
        Outcome::Unresolved => "unresolved",
    }
}
