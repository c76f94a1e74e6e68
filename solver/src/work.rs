//! What is left of the limits of one search.

use crate::limits::Limits;

/// Steps between two questions whether to stop: some milliseconds of work.
const STEPS: usize = 1_000_000;

/// The limits of a search, and how much of them is left. Whether to stop is asked before anything is done.
pub struct Work<'s> {
    labels_left: u64,
    steps_left: usize,
    limits: Limits,
    should_stop: &'s dyn Fn() -> bool,
    stopped: bool,
    steps: usize,
}

/// A limit was reached, or the caller said stop.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Stopped;

impl<'s> Work<'s> {
    /// All that the limits allow; whether to stop is asked of the caller.
    pub fn new(limits: &Limits, should_stop: &'s dyn Fn() -> bool) -> Work<'s> {
        let (labels_left, steps_left) = (limits.most_work, usize::MAX);
        Work { labels_left, steps_left, limits: *limits, should_stop, stopped: false, steps: STEPS }
    }

    /// At most so many steps, and no other limit.
    pub fn short(steps_left: usize) -> Work<'static> {
        let limits =
            Limits { most_work: u64::MAX, most_open: usize::MAX, most_steps: usize::MAX, most_cells: usize::MAX };
        Work { steps_left, ..Work::new(&limits, &|| false) }
    }

    /// The limits of branch and bound; what labels were made counts no longer.
    pub fn again(&self) -> Work<'s> {
        let steps_left = self.limits.most_steps;
        Work { labels_left: u64::MAX, steps_left, ..Work::new(&self.limits, self.should_stop) }
    }

    /// Work of a part, with a limit of its own on steps and on what is held. Whoever asked for it does its steps too.
    pub fn part(&self, steps_left: usize, most_cells: usize) -> Work<'s> {
        let limits = Limits { most_cells: most_cells.min(self.limits.most_cells), ..self.limits };
        Work { steps_left, ..Work::new(&limits, self.should_stop) }
    }

    /// How many steps may still be done.
    pub fn steps_left(&self) -> usize {
        self.steps_left
    }

    /// Whether a limit was reached, or the caller said stop.
    pub fn is_stopped(&self) -> bool {
        self.stopped
    }

    /// Does `steps` of work, unless it is to stop. Every loop whose length hangs on the input does its work through this.
    pub fn step(&mut self, steps: usize) -> Result<(), Stopped> {
        self.stopped |= steps > self.steps_left;
        self.steps_left = self.steps_left.saturating_sub(steps);
        self.steps += steps;
        if self.steps >= STEPS {
            self.steps = 0;
            self.stopped |= (self.should_stop)();
        }
        if self.stopped { Err(Stopped) } else { Ok(()) }
    }

    /// Whether this many labels, of which `open` have conditions open, may be folded with this many moves.
    pub fn fold(&mut self, labels: usize, open: bool, moves: usize) -> Result<(), Stopped> {
        let asked = labels.saturating_mul(moves);
        let asked_labels = u64::try_from(asked).unwrap_or(u64::MAX);
        self.stopped |= (open && labels > self.limits.most_open) || asked_labels > self.labels_left;
        self.labels_left = self.labels_left.saturating_sub(asked_labels);
        // A fold is work of its own, however short: the question is asked before each that is not trivial.
        self.step(asked.min(STEPS))
    }

    /// Whether this many numbers may be held at a time.
    pub fn hold(&mut self, cells: usize) -> Result<(), Stopped> {
        self.stopped |= cells > self.limits.most_cells;
        if self.stopped { Err(Stopped) } else { Ok(()) }
    }
}
