//! What can't be, struck out before a node is priced.

use super::super::work::{Stopped, Work};
use super::{Alive, Choice, NO_LIMIT, Search};

impl Search<'_, '_> {
    /// Strikes out what can't be, until nothing changes. Whether anything is left.
    pub(super) fn strike_out(&self, alive: &mut Alive, limit: i64, work: &mut Work<'_>) -> Result<bool, Stopped> {
        let of_figures =
            [(limit, false), (self.best.as_ref().map_or(NO_LIMIT, |best| self.figures(best.cost, best.mass).0), true)];
        loop {
            let mut changed = false;
            for condition in &self.questions.conditions {
                work.step(condition.blocks.len() * 4)?;
                let most = |block: usize, does: &[i64], alive: &Alive| {
                    does.iter().zip(&alive[block]).filter(|(_, is_alive)| **is_alive).map(|(does, _)| *does).max()
                };
                let mut left = condition.slack;
                for (block, does) in &condition.blocks {
                    let Some(most) = most(*block, does, alive) else { return Ok(false) };
                    left += most;
                }
                if left < 0 {
                    return Ok(false);
                }
                for (block, does) in &condition.blocks {
                    let Some(most) = most(*block, does, alive) else { return Ok(false) };
                    for (does, is_alive) in does.iter().zip(&mut alive[*block]) {
                        if *is_alive && left - most + does < 0 {
                            *is_alive = false;
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
                let least = |block: usize, alive: &Alive| {
                    let choices = self.questions.blocks[block].iter().zip(&alive[block]);
                    choices.filter(|(_, is_alive)| **is_alive).map(|(choice, _)| figure(choice)).min()
                };
                let mut sum = 0;
                for block in 0..alive.len() {
                    let Some(least) = least(block, alive) else { return Ok(false) };
                    sum += least;
                }
                if sum > limit {
                    return Ok(false);
                }
                for block in 0..alive.len() {
                    let Some(least) = least(block, alive) else { return Ok(false) };
                    for (choice, is_alive) in self.questions.blocks[block].iter().zip(&mut alive[block]) {
                        if *is_alive && sum - least + figure(choice) > limit {
                            *is_alive = false;
                            changed = true;
                        }
                    }
                }
                work.step(alive.len() * 8)?;
            }
            if !changed {
                return Ok(true);
            }
        }
    }
}
