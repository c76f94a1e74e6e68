//! What a frontier is of, and the check of a whole frontier.

use super::check::{Broken, Checker, Verified};
use super::{Frontier, Ready};
use crate::quantity::Mass;
use crate::swap::Swap;

/// What a frontier is of: one list, or several.
pub(super) trait Subject {
    /// What could be changed.
    fn swaps(&self) -> &[Swap];

    /// What it weighs as it stands, in the figure that the frontier's points have.
    fn base(&self) -> Mass;

    /// Checks sets of swaps, apart from the search.
    fn checker(&self) -> impl Fn(&[usize]) -> Result<Verified, Broken>;
}

impl Subject for Ready<'_> {
    fn swaps(&self) -> &[Swap] {
        &self.problem().swaps
    }

    fn base(&self) -> Mass {
        Ready::base(self)
    }

    fn checker(&self) -> impl Fn(&[usize]) -> Result<Verified, Broken> {
        let checker = Checker::new(self);
        move |set| checker.allowed(set)
    }
}

/// Checks every point of a frontier: its set is allowed, its figures are the set's, and no point beats another.
pub(super) fn check_frontier(subject: &impl Subject, frontier: &Frontier) -> Result<(), Broken> {
    let allowed = subject.checker();
    let mut before: Option<Verified> = None;
    for (at, point) in frontier.points().iter().enumerate() {
        let found = allowed(&frontier.swaps(at))?;
        if (found.net, found.base) != (point.net, point.base) {
            return Err(Broken::Figures);
        }
        if before.is_some_and(|before| before.net >= found.net || before.base <= found.base) {
            return Err(Broken::NotAFrontier);
        }
        before = Some(found);
    }
    Ok(())
}
