//! Work that is counted. A loop that can grow faster than its input does its work through [`Steps`], so that it ends at the same point on
//! every machine, and says so; a deadline is the caller's `should_stop`. `docs/limits.md` names every such loop with its bound.

/// Steps between two questions whether to stop: some milliseconds of work.
const BETWEEN: u64 = 1_000_000;

/// What is left of a limit on work.
pub struct Steps<'s> {
    left: u64,
    done: u64,
    asked_at: u64,
    should_stop: &'s dyn Fn() -> bool,
}

/// The limit was reached, or the caller said stop.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("the limit on work was reached")]
pub struct OutOfSteps;

impl Steps<'static> {
    /// At most so many steps.
    pub fn up_to(limit: u64) -> Steps<'static> {
        Steps::new(limit, &|| false)
    }
}

impl<'s> Steps<'s> {
    /// At most so many steps, and none after `should_stop` said yes; it is asked now and then.
    pub fn new(limit: u64, should_stop: &'s dyn Fn() -> bool) -> Steps<'s> {
        Steps { left: limit, done: 0, asked_at: 0, should_stop }
    }

    /// Takes steps before they are done.
    ///
    /// # Errors
    /// [`OutOfSteps`] if that is more than are left, from then on always.
    pub fn take(&mut self, steps: usize) -> Result<(), OutOfSteps> {
        let steps = u64::try_from(steps).unwrap_or(u64::MAX);
        if steps > self.left {
            self.left = 0;
            return Err(OutOfSteps);
        }
        self.left -= steps;
        self.done += steps;
        if self.done - self.asked_at >= BETWEEN {
            self.asked_at = self.done;
            if (self.should_stop)() {
                self.left = 0;
                return Err(OutOfSteps);
            }
        }
        Ok(())
    }

    /// How many were done.
    pub fn done(&self) -> u64 {
        self.done
    }
}
