//! Reading what only a problem of several lists has.

use super::file::{ProblemFile, SwapFile};
use super::{read_night, wrong};
use crate::list::Counts;
use crate::plan::ProblemError;
use crate::plan::lists::{Acting, OneList};
use crate::quantity::Mass;

/// What a file of one list must say, and one of several can't.
pub(super) fn check_lists(file: &ProblemFile) -> Result<(), ProblemError> {
    if file.lists.is_none() {
        let named = file.swaps.iter().position(|swap| swap.lists.is_some());
        return match (file.target_mg, named) {
            (None, _) => Err(wrong("target_mg", "a mass in milligrams", "nothing")),
            (_, Some(at)) => Err(wrong(&format!("swaps[{at}].lists"), "nothing, where there are no lists", "ids")),
            _ => Ok(()),
        };
    }
    let of_one = [
        ("target_mg", file.target_mg.is_some()),
        ("require", !file.require.is_empty()),
        ("sleep", file.sleep.is_some()),
        ("heaviest_start_mg", file.heaviest_start_mg.is_some()),
    ];
    if let Some((field, _)) = of_one.into_iter().find(|(_, is_there)| *is_there) {
        return Err(wrong(field, "nothing: each of the lists has its own", field));
    }
    let counted = file.lines.iter().position(|line| [line.carried, line.worn, line.used_up] != [0; 3]);
    match counted {
        Some(at) => Err(wrong(&format!("lines[{at}]"), "no counts: each of the lists has its own", "counts")),
        None => Ok(()),
    }
}

/// The lists of a file, if it has any.
pub(super) fn read_lists(file: &ProblemFile) -> Option<Vec<OneList>> {
    let lists = file.lists.as_ref()?.iter().map(|list| OneList {
        id: list.id.clone(),
        nights: list.nights,
        target: list.target_mg.map(Mass::from_mg),
        counts: list.counts.iter().map(|(line, counts)| (line.clone(), Counts::from(counts))).collect(),
        require: list.require.clone(),
        night: list.sleep.as_ref().map(|sleep| read_night(file, sleep)),
        heaviest_start: None,
    });
    Some(lists.collect())
}

pub(super) fn read_acting(at: usize, swap: &SwapFile, lists: &Option<Vec<OneList>>) -> Result<Acting, ProblemError> {
    let place = |(named, id): (usize, &String)| {
        let known = lists.iter().flatten().position(|list| list.id == *id);
        known.ok_or_else(|| wrong(&format!("swaps[{at}].lists[{named}]"), "the id of one of the lists", id))
    };
    let named = swap.lists.as_ref().map(|ids| ids.iter().enumerate().map(place).collect::<Result<_, _>>());
    Ok(Acting {
        lists: named.transpose()?,
        from: swap.remove.iter().map(|removal| removal.from).collect(),
        to: swap.add.iter().map(|addition| addition.place).collect(),
    })
}
