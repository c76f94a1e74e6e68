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

use crate::work::{Stopped, Work};
use clarabel::algebra::CscMatrix;
use clarabel::qdldl::{QDLDLFactorisation, QDLDLSettings};
use clarabel::solver::{DefaultSettings, DefaultSolver, IPSolver, SolverStatus, SupportedConeT};

/// The most multiplications of one factorization, some hundredths of a second, of which a relaxation takes about fifteen: what takes more
/// than that is relaxed by subgradients.
const FACTORIZATION: f64 = 20e6;
/// Multiplications of one factorization that count as a step of a relaxation.
const A_STEP: f64 = 7.0;
/// Rounds of subgradients.
const ROUNDS: u32 = 400;
/// Rounds without a better bound after which steps are halved.
const WITHOUT_PROGRESS: u32 = 10;

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
    /// Relaxes it. `None` if the solver comes to nothing.
    pub fn relax(&self, work: &mut Work<'_>) -> Result<Option<Relaxed>, Stopped> {
        let multiplications = self.factorization();
        if multiplications > FACTORIZATION {
            return self.by_subgradients(work).map(Some);
        }
        // Nothing stops the solver on its way: what it takes is counted before.
        work.step((multiplications / A_STEP) as usize)?;
        Ok(self.by_interior_points())
    }

    /// Multiplications that one factorization takes, at most: a column with n entries below it couples as many, so that none has more than
    /// the root of twice all entries.
    fn factorization(&self) -> f64 {
        let multiplications = |entries: f64| entries * (2.0 * entries).sqrt();
        // What is factorized has no fewer entries than are given: where these are too many already, nobody need order them.
        let given: usize = self.rows.iter().map(|(_, terms)| terms.len()).sum();
        if multiplications(given as f64) > FACTORIZATION {
            return f64::MAX;
        }
        let options = self.costs.len();
        let mut entries = Entries::default();
        let mut first = 0;
        for (at, many) in self.blocks.iter().enumerate() {
            (first..first + many).for_each(|option| entries.push(option, options + at, 1.0));
            first += many;
        }
        let rows = options + self.blocks.len();
        for (at, (_, terms)) in self.rows.iter().enumerate() {
            terms.iter().for_each(|&(option, _)| entries.push(option, rows + at, 1.0));
        }
        let size = rows + self.rows.len();
        (0..size).for_each(|at| entries.push(at, at, 1.0));
        let matrix = CscMatrix::new_from_triplets(size, size, entries.rows, entries.columns, entries.values);
        let settings = QDLDLSettings { logical: true, ..QDLDLSettings::default() };
        let entries = QDLDLFactorisation::<f64>::new(&matrix, Some(settings)).map_or(f64::MAX, |all| all.nnzL() as f64);
        multiplications(entries)
    }

    /// Multipliers that get better by steps along what the rows lack with the choices that they make best.
    fn by_subgradients(&self, work: &mut Work<'_>) -> Result<Relaxed, Stopped> {
        let scale = |of: &mut dyn Iterator<Item = i64>| of.fold(1, |most, x| most.max(x.abs())) as f64;
        let cost_scale = scale(&mut self.costs.iter().copied());
        let costs: Vec<f64> = self.costs.iter().map(|cost| *cost as f64 / cost_scale).collect();
        let scales: Vec<f64> = self.rows.iter().map(|(_, terms)| scale(&mut terms.iter().map(|term| term.1))).collect();
        let entries: usize = self.rows.iter().map(|(_, terms)| terms.len()).sum();
        let (mut multipliers, mut best) = (vec![0.0; self.rows.len()], (f64::NEG_INFINITY, Vec::new()));
        let (mut length, mut without_progress) = (1.0, 0);
        let mut made = vec![0_u32; costs.len()];
        for _ in 0..ROUNDS {
            work.step(2 * entries + costs.len())?;
            let mut prices = costs.clone();
            for ((_, terms), (multiplier, scale)) in self.rows.iter().zip(multipliers.iter().zip(&scales)) {
                if *multiplier > 0.0 {
                    terms.iter().for_each(|&(option, takes)| prices[option] += multiplier * takes as f64 / scale);
                }
            }
            let mut is_chosen = vec![false; costs.len()];
            let (mut bound, mut first) = (0.0, 0);
            for many in &self.blocks {
                let cheapest = (first..first + many).min_by(|a, b| prices[*a].total_cmp(&prices[*b]));
                if let Some(option) = cheapest {
                    (is_chosen[option], bound) = (true, bound + prices[option]);
                    made[option] += 1;
                }
                first += many;
            }
            let over: Vec<f64> = self
                .rows
                .iter()
                .zip(&scales)
                .map(|((limit, terms), scale)| {
                    let takes = terms.iter().filter(|(option, _)| is_chosen[*option]).map(|(_, takes)| *takes as f64);
                    (takes.sum::<f64>() - *limit as f64) / scale
                })
                .collect();
            bound += multipliers
                .iter()
                .zip(&self.rows)
                .zip(&scales)
                .map(|((m, (limit, _)), s)| -m * *limit as f64 / s)
                .sum::<f64>();
            if bound > best.0 {
                (best, without_progress) = ((bound, multipliers.clone()), 0);
            } else {
                without_progress += 1;
                if without_progress == WITHOUT_PROGRESS {
                    (length, without_progress) = (length / 2.0, 0);
                    multipliers.clone_from(&best.1);
                }
            }
            let norm = over.iter().map(|x| x * x).sum::<f64>().sqrt().max(1e-9);
            multipliers.iter_mut().zip(&over).for_each(|(m, x)| *m = f64::max(*m + length * x / norm, 0.0));
        }
        let halfway = |option: &usize| made[*option].abs_diff(ROUNDS / 2);
        Ok(Relaxed {
            multipliers: best.1.iter().zip(&scales).map(|(m, scale)| whole(m * cost_scale / scale)).collect(),
            least_sure: (0..costs.len()).min_by_key(halfway),
            is_impossible: false,
        })
    }

    fn by_interior_points(&self) -> Option<Relaxed> {
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

#[cfg(test)]
mod tests {
    #![allow(clippy::unwrap_used)]
    use super::*;

    /// Blocks of one that is taken or not, and rows that each allow about half of what stands in them.
    fn program(blocks: usize, rows: usize, entries: usize) -> Program {
        let row = |row: usize| {
            let terms: Vec<(usize, i64)> =
                (0..entries).map(|at| (2 * ((row * 31 + at * at * 17) % blocks), 7)).collect();
            (3 * i64::try_from(entries).unwrap(), terms)
        };
        let cost = |at: usize| if at.is_multiple_of(2) { -i64::try_from(at * 7_919 % 997).unwrap() } else { 0 };
        Program {
            costs: (0..2 * blocks).map(cost).collect(),
            blocks: vec![2; blocks],
            rows: (0..rows).map(row).collect(),
        }
    }

    /// The bound that multipliers give, as it is defined.
    fn bound(program: &Program, multipliers: &[i128]) -> i128 {
        let price = |option: usize| {
            let of_rows = program.rows.iter().zip(multipliers).flat_map(|((_, terms), multiplier)| {
                terms.iter().filter(move |term| term.0 == option).map(move |term| i128::from(term.1) * multiplier)
            });
            i128::from(program.costs[option]) * SCALE + of_rows.sum::<i128>()
        };
        let best: i128 = (0..program.blocks.len()).map(|at| price(2 * at).min(price(2 * at + 1))).sum();
        best - program.rows.iter().zip(multipliers).map(|((limit, _), m)| i128::from(*limit) * m).sum::<i128>()
    }

    #[test]
    fn what_takes_too_long_to_factorize_is_known_before_and_relaxed_in_counted_steps() {
        let large = program(2_000, 2_000, 200);
        assert!(large.factorization() > FACTORIZATION);
        let each = 2 * 2_000 * 200 + large.costs.len();
        let whole = usize::try_from(ROUNDS).unwrap() * each;
        assert_eq!(large.relax(&mut Work::short(whole - 1)).err(), Some(Stopped));
        let mut work = Work::short(whole);
        assert!(large.relax(&mut work).unwrap().is_some());
        assert_eq!(work.steps_left(), 0);
        assert!(program(50, 20, 10).factorization() < FACTORIZATION);
    }

    #[test]
    fn subgradients_bound_nearly_as_well_as_interior_points() {
        let small = program(60, 30, 12);
        let nothing = bound(&small, &vec![0; 30]);
        let exact = bound(&small, &small.by_interior_points().unwrap().multipliers);
        let near = bound(&small, &small.by_subgradients(&mut Work::short(usize::MAX)).unwrap().multipliers);
        assert!(nothing < near && near <= exact + SCALE, "{nothing} {near} {exact}");
        assert!(20 * (exact - near) < exact - nothing, "{nothing} {near} {exact}");
    }
}
