//! Constraints of the search: what may not fall below zero.

/// One condition over variables, by their positions: slack + Σ coefficient × variable ≥ 0.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Constraint {
    /// What is left where no variable is chosen.
    pub slack: i64,
    /// By variable, ascending, no zeros.
    pub terms: Vec<(usize, i64)>,
}

impl Constraint {
    /// Of terms in any order, zeros left out.
    pub fn new(slack: i64, terms: impl IntoIterator<Item = (usize, i64)>) -> Constraint {
        let mut terms: Vec<_> = terms.into_iter().filter(|&(_, coefficient)| coefficient != 0).collect();
        terms.sort_unstable();
        Constraint { slack, terms }
    }
}
