//! Propagation: choices that no allowed set of a node has are removed from the domains before the node is bounded.

use super::{Choice, Domains, NO_LIMIT, Search};
use crate::work::{Stopped, Work};

impl Search<'_, '_> {
    /// Removes what no allowed set has, until nothing changes. Whether anything is left.
    pub(super) fn propagate(&self, domains: &mut Domains, limit: i64, work: &mut Work<'_>) -> Result<bool, Stopped> {
        let of_figures =
            [(limit, false), (self.best.as_ref().map_or(NO_LIMIT, |best| self.figures(best.cost, best.mass).0), true)];
        loop {
            let mut changed = false;
            for condition in &self.solver.conditions {
                work.step(condition.blocks.len() * 4)?;
                let most = |block: usize, does: &[i64], domains: &Domains| {
                    does.iter()
                        .zip(&domains[block])
                        .filter(|(_, is_possible)| **is_possible)
                        .map(|(does, _)| *does)
                        .max()
                };
                let mut left = condition.slack;
                for (block, does) in &condition.blocks {
                    let Some(most) = most(*block, does, domains) else { return Ok(false) };
                    left += most;
                }
                if left < 0 {
                    return Ok(false);
                }
                for (block, does) in &condition.blocks {
                    let Some(most) = most(*block, does, domains) else { return Ok(false) };
                    for (does, is_possible) in does.iter().zip(&mut domains[*block]) {
                        if *is_possible && left - most + does < 0 {
                            *is_possible = false;
                            changed = true;
                        }
                    }
                }
            }
            for (limit, is_least) in of_figures {
                let figure = |choice: &Choice| {
                    let (least, limited) = self.figures(choice.cost, choice.mass);
                    if is_least { least } else { limited }
                };
                let least = |block: usize, domains: &Domains| {
                    let choices = self.solver.blocks[block].iter().zip(&domains[block]);
                    choices.filter(|(_, is_possible)| **is_possible).map(|(choice, _)| figure(choice)).min()
                };
                let mut sum = 0;
                for block in 0..domains.len() {
                    let Some(least) = least(block, domains) else { return Ok(false) };
                    sum += least;
                }
                if sum > limit {
                    return Ok(false);
                }
                for block in 0..domains.len() {
                    let Some(least) = least(block, domains) else { return Ok(false) };
                    for (choice, is_possible) in self.solver.blocks[block].iter().zip(&mut domains[block]) {
                        if *is_possible && sum - least + figure(choice) > limit {
                            *is_possible = false;
                            changed = true;
                        }
                    }
                }
                work.step(domains.len() * 8)?;
            }
            if !changed {
                return Ok(true);
            }
        }
    }
}
