//! The ranking and the plan as text for a person at a terminal.

use super::answer::missing_words;
use crate::plan::lists::{ListsAnswer, ReadyLists};
use crate::plan::{Answer, Meet, Outcome, Ready};
use crate::quantity::{Mass, MassStyle, Money};
use std::fmt::Write;

/// The ranking, the plan and what the ranking alone would buy.
pub fn table(ready: &Ready<'_>, answer: &Answer) -> String {
    let mut out = String::new();
    // Writing to a String can't fail.
    let _ = ranking(&mut out, ready).and_then(|()| plan(&mut out, ready, answer));
    out
}

/// What each swap saves over the nights of all lists, and the plan.
pub fn lists_table(ready: &ReadyLists<'_>, answer: &ListsAnswer) -> String {
    let mut out = String::new();
    // Writing to a String can't fail.
    let _ = lists(&mut out, ready, answer);
    out
}

fn lists(out: &mut String, ready: &ReadyLists<'_>, answer: &ListsAnswer) -> std::fmt::Result {
    let (swaps, plan) = (ready.swaps(), &answer.plan);
    let money = |amount: Money| amount.format(ready.currency());
    let kg = |mass: Mass| mass.format(MassStyle::TotalKg);
    writeln!(out, "{:<44} {:>16} {:>16}  lists", "swap", "saves × nights", "costs")?;
    let mut by_id: Vec<usize> = (0..swaps.len()).collect();
    by_id.sort_by(|&a, &b| swaps[a].id.cmp(&swaps[b].id));
    for swap in by_id {
        let name: String = swaps[swap].name.chars().take(44).collect();
        let Some((saves, net)) = ready.worth(swap) else {
            writeln!(out, "{name:<44} a weight or a price is missing")?;
            continue;
        };
        let on = ready.lists().iter().enumerate().filter(|(at, _)| ready.acts(swap, *at)).map(|(_, list)| list.id);
        let on: Vec<&str> = on.collect();
        writeln!(out, "{name:<44} {:>16} {:>16}  {}", kg(saves), money(net), on.join(", "))?;
    }
    let sentence = match &plan.outcome {
        Outcome::AlreadyMet => "every list is at its target as it is".to_owned(),
        Outcome::TargetMet => "every target met".to_owned(),
        Outcome::OverBudget { more } => format!("over budget: the targets take {} more", money(*more)),
        Outcome::OutOfReach { .. } => "out of reach: no set of these swaps reaches every target".to_owned(),
        Outcome::PinsClash { .. } => "no allowed set has all pinned swaps within the budget".to_owned(),
        Outcome::Unmet { unmet } => {
            let keys: Vec<&str> = unmet.iter().map(Meet::key).collect();
            format!("no set meets: {}", keys.join(", "))
        }
        Outcome::TooDear { more } => format!("too dear: what is to be met takes {} more", money(*more)),
        Outcome::Unresolved => "not known within the time".to_owned(),
    };
    writeln!(out, "\n{sentence}{}", if plan.is_proved { "" } else { " (not proved)" })?;
    let Some(set) = &plan.swaps else { return Ok(()) };
    for &swap in set {
        writeln!(out, "  {}", swaps[swap].name)?;
    }
    writeln!(out, "costs {}; base weight times nights: {}", money(plan.net), kg(plan.gram_nights))?;
    for (list, base) in ready.lists().iter().zip(&plan.bases) {
        let target = list.target.map_or_else(String::new, |target| format!(", target {}", kg(target)));
        writeln!(out, "  {:<20} {} nights, base {}{target}", list.id, list.nights, kg(*base))?;
    }
    Ok(())
}

fn ranking(out: &mut String, ready: &Ready<'_>) -> std::fmt::Result {
    let problem = ready.problem();
    writeln!(out, "{:>5}  {:<44} {:>10} {:>16} {:>12}", "place", "swap", "saves", "costs", "for 1")?;
    for row in ready.ranking() {
        let (swap, worth) = (&problem.swaps[row.swap], &ready.worths()[row.swap]);
        let place = row.place.map_or_else(|| "–".to_owned(), |places| places.place.to_string());
        let name: String = swap.name.chars().take(44).collect();
        let Some((saving, net)) = worth.complete() else {
            let missing: Vec<String> = worth.missing.iter().map(missing_words).collect();
            writeln!(out, "{place:>5}  {name:<44} missing: {}", missing.join(", "))?;
            continue;
        };
        let major = Money::from_minor(1).times(problem.currency.minor_per_major());
        let ratio = if saving.mg() > 0 && net.minor() > 0 {
            // Tenths of a gram for one unit of money, cut off: a figure to read, not one to rank by.
            let tenths = i128::from(saving.mg()) * i128::from(major.minor()) / 100 / i128::from(net.minor());
            format!("{}.{} g", tenths / 10, tenths % 10)
        } else {
            String::new()
        };
        let (saving, net) = (saving.format(MassStyle::TableG), net.format(problem.currency));
        writeln!(out, "{place:>5}  {name:<44} {saving:>10} {net:>16} {ratio:>12}")?;
    }
    Ok(())
}

fn plan(out: &mut String, ready: &Ready<'_>, answer: &Answer) -> std::fmt::Result {
    let (problem, plan) = (ready.problem(), &answer.plan);
    let money = |amount: Money| amount.format(problem.currency);
    let names =
        |swaps: &[usize]| swaps.iter().map(|&at| problem.swaps[at].name.as_str()).collect::<Vec<_>>().join("; ");
    let kg = |mass: crate::quantity::Mass| mass.format(MassStyle::TotalKg);
    writeln!(out, "\nbase now {}, target {}, budget {}", kg(ready.base()), kg(problem.target), money(problem.budget))?;
    let sentence = match &plan.outcome {
        Outcome::AlreadyMet => "the list is at the target as it is".to_owned(),
        Outcome::TargetMet => "target met".to_owned(),
        Outcome::OverBudget { more } => {
            format!("over budget: the target takes {} more", money(*more))
        }
        Outcome::OutOfReach { lightest } => {
            format!("out of reach: these swaps go down to {} at any price", kg(*lightest))
        }
        Outcome::PinsClash { pins, least: None, .. } => format!("pinned swaps clash: {}", names(pins)),
        Outcome::PinsClash { pins, least: Some(least), .. } => {
            format!("pinned swaps cost at least {}: {}", money(*least), names(pins))
        }
        Outcome::Unmet { unmet } => {
            let names: Vec<&str> = unmet.iter().map(|meet| meet.key()).collect();
            format!("can't be met with these swaps: {}", names.join(", "))
        }
        Outcome::TooDear { more } => format!("what is to be met takes {} more than the budget", money(*more)),
        Outcome::Unresolved if plan.swaps.is_some() => "stopped before it was known what can be reached".to_owned(),
        Outcome::Unresolved => "stopped before any allowed set was found".to_owned(),
    };
    writeln!(out, "plan: {sentence}")?;
    if let Some(swaps) = &plan.swaps {
        writeln!(out, "  {} for {}: {}", kg(plan.base), money(plan.net), names(swaps))?;
        if plan.short_by.mg() > 0 {
            writeln!(out, "  {} above the target", plan.short_by.format(MassStyle::TableG))?;
        }
    }
    match plan.gap {
        Some(gap) => writeln!(
            out,
            "  not proved: at most {} lighter or {} cheaper",
            gap.mass.format(MassStyle::TableG),
            money(gap.money)
        )?,
        None if plan.swaps.is_some() => writeln!(out, "  proved: no allowed set is better")?,
        None => {}
    }
    if let Some(swaps) = &answer.ranking_alone.swaps {
        writeln!(
            out,
            "ranking alone: {} for {}: {}",
            kg(answer.ranking_alone.base),
            money(answer.ranking_alone.net),
            names(swaps)
        )?;
    }
    Ok(())
}
