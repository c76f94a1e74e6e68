//! A problem made ready: checked, indexed, with the worth of every swap.

use super::Meet;
use super::problem::{Problem, ProblemError};
use super::problem_check::{check_kits, check_night, check_swap, index_lines, index_swaps, within};
use crate::gear::Job;
use crate::limits;
use crate::list::{Line, LineId, LinkedKits, Totals, WholeKit, totals, whole_kits};
use crate::quantity::Mass;
use crate::swap::{Ranked, SwapId, Worth, plain_saving, rank, worth};
use std::collections::HashMap;

/// A checked problem with its indexes.
#[derive(Debug)]
pub struct Ready<'a> {
    problem: &'a Problem,
    lines: HashMap<&'a LineId, &'a Line>,
    swaps: HashMap<&'a SwapId, usize>,
    kits: Vec<WholeKit<'a>>,
    worths: Vec<Worth>,
    plain_savings: Vec<Mass>,
    totals: Totals,
}

impl<'a> Ready<'a> {
    /// Checks a problem and computes the worth of every swap.
    ///
    /// # Errors
    /// [`ProblemError`] names the first value that can't be used: repeated or unknown ids, counts of zero, figures
    /// outside [`limits`].
    pub fn new(problem: &'a Problem) -> Result<Ready<'a>, ProblemError> {
        let lines = index_lines(problem)?;
        let swaps = index_swaps(problem)?;
        for (at, swap) in problem.swaps.iter().enumerate() {
            check_swap(at, swap, &lines, &swaps)?;
        }
        within("require", problem.require.values().copied(), limits::JOB_AMOUNT)?;
        within("heaviest_start_mg", problem.heaviest_start.map(Mass::mg), limits::PACK_MG)?;
        within("target_mg", [problem.target.mg()], i64::MAX)?;
        within("budget_minor", [problem.budget.minor()], limits::MONEY_MINOR)?;
        within("hour_minor", [problem.hour_rate.minor()], limits::MONEY_MINOR)?;
        if let Some(purse) = problem.terms.purse {
            within("money.now_minor", [purse.now.minor()], limits::MONEY_MINOR)?;
            within("money.month_minor", [purse.month.minor()], limits::MONEY_MINOR)?;
            within("money.resale_after_months", [purse.resale_after.into()], limits::MONTHS.into())?;
        }
        check_night(problem)?;
        check_kits(problem, &lines)?;
        let kits = whole_kits(&lines, &problem.kits);
        let linked = LinkedKits::new(&problem.kits);
        let worths = problem
            .swaps
            .iter()
            .map(|swap| worth(swap, &lines, &linked, problem.hour_rate, problem.terms.rank_by))
            .collect();
        let plain_savings = problem.swaps.iter().map(|swap| plain_saving(swap, &lines)).collect();
        let totals = totals(&problem.lines, &kits);
        Ok(Ready { problem, lines, swaps, kits, worths, plain_savings, totals })
    }

    /// The problem as it was given.
    pub fn problem(&self) -> &'a Problem {
        self.problem
    }

    /// Base weight of the list as it stands, unknown weights as nothing.
    pub fn base(&self) -> Mass {
        self.totals.base
    }

    /// The sums of the list as it stands.
    pub fn totals(&self) -> Totals {
        self.totals
    }

    /// The kits that are whole on the list as it stands, and so count as they were weighed.
    pub fn whole_kits(&self) -> &[WholeKit<'a>] {
        &self.kits
    }

    /// The worth of each swap, in the problem's order.
    pub fn worths(&self) -> &[Worth] {
        &self.worths
    }

    /// What each swap takes off the base weight by its pieces alone, kits aside, in the problem's order.
    pub(super) fn plain_savings(&self) -> &[Mass] {
        &self.plain_savings
    }

    /// The lines by id.
    pub fn lines(&self) -> &HashMap<&'a LineId, &'a Line> {
        &self.lines
    }

    /// The jobs of which a plan must leave nothing short.
    pub(super) fn jobs_to_meet(&self) -> impl Iterator<Item = &'a Job> {
        self.problem.terms.meet.iter().filter_map(|meet| match meet {
            Meet::Job(job) => Some(job),
            Meet::Warmth | Meet::Ground => None,
        })
    }

    /// The index of a swap.
    pub fn swap_index(&self, id: &SwapId) -> Option<usize> {
        self.swaps.get(id).copied()
    }

    /// The ranking.
    pub fn ranking(&self) -> Vec<Ranked> {
        rank(&self.problem.swaps, &self.worths)
    }
}
