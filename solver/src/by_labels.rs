//! The whole frontier by labels: that of each component, block by block, and the sum of the components.

use crate::blocks::{Component, components};
use crate::labels::{Labels, bits};
use crate::model::Model;
use crate::stages::Stages;
use crate::work::{Stopped, Work};

/// Steps that labels with conditions open may take: about a fifth of a second. Where they don't do, branch and bound is quicker.
const COUPLED: usize = 40_000_000;

/// All of it by labels, and which variable each bit of their sets stands for.
///
/// # Errors
/// [`Stopped`] where variables are coupled too much for that, or a limit of the work is reached.
pub fn by_labels(model: &Model, words: usize, work: &mut Work<'_>) -> Result<(Vec<usize>, Labels), Stopped> {
    let components = components(model, work);
    let mut coupled = work.part(COUPLED, usize::MAX);
    let of_components = components.iter().map(|component| {
        let work = if component.rows.is_empty() { &mut *work } else { &mut coupled };
        of_component(model, component, words, work)
    });
    let mut parts = of_components.collect::<Result<Vec<Labels>, Stopped>>()?;
    parts.sort_by_key(Labels::len);
    let used = compact(&mut parts, words);
    let mut sets = Labels::nothing(used.len().div_ceil(64));
    for part in &parts {
        let moves = part.moves();
        work.fold(sets.len(), false, moves.len())?;
        sets = sets.fold(&moves, &[], work)?;
    }
    Ok((used, sets))
}

fn of_component(model: &Model, component: &Component, words: usize, work: &mut Work<'_>) -> Result<Labels, Stopped> {
    let mut stages = Stages::new(model, component, words);
    let mut sets = Labels::nothing(words);
    for block in 0..component.blocks.len() {
        let (moves, rows) = stages.take(block);
        work.step(rows.len() * moves.len())?;
        work.fold(sets.len(), sets.width > 0, moves.len())?;
        sets = sets.fold(&moves, &rows, work)?;
    }
    Ok(sets)
}

/// Renumbers the bits of all sets so that only variables that some set uses have one. Returns those variables, ascending.
fn compact(parts: &mut [Labels], words: usize) -> Vec<usize> {
    let mut any = vec![0_u64; words];
    for part in parts.iter() {
        for set in (0..part.len()).map(|at| part.set(at)) {
            any.iter_mut().zip(set).for_each(|(any, word)| *any |= word);
        }
    }
    let used: Vec<usize> = bits(&any).collect();
    let fewer = used.len().div_ceil(64);
    for part in parts {
        let mut sets = vec![0_u64; part.len() * fewer];
        for at in 0..part.len() {
            for bit in bits(part.set(at)) {
                let bit = used.partition_point(|&variable| variable < bit);
                sets[at * fewer + bit / 64] |= 1_u64 << (63 - bit % 64);
            }
        }
        (part.sets, part.words) = (sets, fewer);
    }
    used
}
