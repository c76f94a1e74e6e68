//! What an hour of a row is worth: multipliers from the linear relaxation.
//!
//! Any multipliers that aren't negative bound every allowed set, so those of an inexact solver prove as much as exact ones: they are
//! rounded to whole numbers here, and what follows from them is added up in whole numbers. Nothing else reckons in floating point.
#![allow(
    clippy::float_arithmetic,
    clippy::as_conversions,
    clippy::cast_precision_loss,
    reason = "what is inexact here only makes a bound weaker"
)]

use clarabel::algebra::CscMatrix;
use clarabel::solver::{DefaultSettings, DefaultSolver, IPSolver, SolverStatus, SupportedConeT};

/// What multipliers are multiplied by to be whole numbers.
pub(super) const SCALE: i128 = 1 << 36;

/// A linear program: of each block options in parts that add up to one, at the least worth.
#[derive(Debug, Default)]
pub(super) struct Program {
    /// What each option costs.
    pub costs: Vec<i64>,
    /// How many options each block has, in their order.
    pub blocks: Vec<usize>,
    /// What is left of each row at most, and what options take of it.
    pub rows: Vec<(i64, Vec<(usize, i64)>)>,
}

/// What the relaxation says.
#[derive(Debug)]
pub(super) struct Relaxed {
    /// By row, times [`SCALE`].
    pub multipliers: Vec<i128>,
    /// The option that is most nearly taken by half.
    pub least_sure: Option<usize>,
    /// Whether the solver says that nothing keeps the rows; the multipliers are to prove it then.
    pub is_impossible: bool,
}

impl Program {
    /// Solves it. `None` if the solver comes to nothing.
    pub fn relax(&self) -> Option<Relaxed> {
        let largest =
            |numbers: &mut dyn Iterator<Item = f64>| numbers.fold(0.0, |most, x| f64::max(most, x.abs())).max(1.0);
        let cost_scale = largest(&mut self.costs.iter().map(|cost| *cost as f64));
        let options = self.costs.len();
        let mut entries = Entries::default();
        let mut limits = Vec::new();
        let mut first = 0;
        for (at, options) in self.blocks.iter().enumerate() {
            (first..first + options).for_each(|option| entries.push(at, option, 1.0));
            limits.push(1.0);
            first += options;
        }
        let mut scales = Vec::with_capacity(self.rows.len());
        for (limit, terms) in &self.rows {
            let scale = largest(&mut terms.iter().map(|term| term.1 as f64));
            terms.iter().for_each(|&(option, takes)| entries.push(limits.len(), option, takes as f64 / scale));
            limits.push(*limit as f64 / scale);
            scales.push(scale);
        }
        for option in 0..options {
            entries.push(limits.len(), option, -1.0);
            limits.push(0.0);
        }
        let matrix = CscMatrix::new_from_triplets(limits.len(), options, entries.rows, entries.columns, entries.values);
        let costs: Vec<f64> = self.costs.iter().map(|cost| *cost as f64 / cost_scale).collect();
        let cones = [
            SupportedConeT::ZeroConeT(self.blocks.len()),
            SupportedConeT::NonnegativeConeT(limits.len() - self.blocks.len()),
        ];
        // It takes about a dozen; what it has by then is as good as multipliers can be.
        let settings = DefaultSettings { verbose: false, max_iter: 50, ..DefaultSettings::default() };
        let nothing = CscMatrix::zeros((options, options));
        let mut solver = DefaultSolver::new(&nothing, &costs, &matrix, &limits, &cones, settings).ok()?;
        solver.solve();
        let is_impossible =
            matches!(solver.solution.status, SolverStatus::PrimalInfeasible | SolverStatus::AlmostPrimalInfeasible);
        let of_rows = solver.solution.z.iter().skip(self.blocks.len());
        let multipliers: Vec<i128> = of_rows.zip(&scales).map(|(z, scale)| whole(z * cost_scale / scale)).collect();
        let unsure = |&option: &usize| (0.5 - solver.solution.x[option]).abs();
        let least_sure = (0..options).min_by(|a, b| unsure(a).total_cmp(&unsure(b)));
        (multipliers.len() == self.rows.len()).then_some(Relaxed { multipliers, least_sure, is_impossible })
    }
}

#[derive(Default)]
struct Entries {
    rows: Vec<usize>,
    columns: Vec<usize>,
    values: Vec<f64>,
}

impl Entries {
    fn push(&mut self, row: usize, column: usize, value: f64) {
        self.rows.push(row);
        self.columns.push(column);
        self.values.push(value);
    }
}

/// A multiplier as a whole number; what is not one, or would be too large to reckon with, counts for nothing.
fn whole(multiplier: f64) -> i128 {
    const MOST: f64 = 1e9;
    if (0.0..MOST).contains(&multiplier) { (multiplier * SCALE as f64).round() as i128 } else { 0 }
}
