//! Take-away weighing: everything on the scale, then one piece off at a time. Each steady drop is the piece just taken;
//! what the scale shows at the end, against the container, is the closing error, shown and spread over nothing.

use crate::quantity::Mass;

/// A take-away weighing as far as it has come.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TakeAway {
    container: Mass,
    readings: Vec<Mass>,
}

/// A piece that was taken off.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Piece {
    /// What it weighs.
    pub mass: Mass,
    /// What is left on the scale.
    pub left: Mass,
}

/// Why a steady reading can't be the next of a take-away weighing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum TakeAwayError {
    /// The reading did not fall.
    #[error("The reading did not fall: nothing was taken off, or something was put back. Take one piece off.")]
    NotLess {
        /// How far it rose; zero if it stayed.
        by: Mass,
    },
    /// The reading fell below the empty container.
    #[error("The reading is below the empty container: the container was taken off too, or the scale has moved.")]
    BelowContainer {
        /// How far.
        by: Mass,
    },
    /// All is lighter than its container.
    #[error("Everything together weighs no more than the container. Put everything on, then start.")]
    NothingIn,
}

impl TakeAway {
    /// Starts with everything on the scale, in a container of known mass (zero where there is none or it was tared).
    ///
    /// # Errors
    /// [`TakeAwayError::NothingIn`].
    pub fn start(everything: Mass, container: Mass) -> Result<TakeAway, TakeAwayError> {
        if everything <= container {
            return Err(TakeAwayError::NothingIn);
        }
        Ok(TakeAway { container, readings: vec![everything] })
    }

    /// The steady reading after a piece was taken off. Below the container by up to `step` still counts: the closing
    /// error shows it.
    ///
    /// # Errors
    /// [`TakeAwayError`]; the weighing stands as it did.
    pub fn take(&mut self, reading: Mass, step: Mass) -> Result<Piece, TakeAwayError> {
        let before = self.last();
        if reading >= before {
            return Err(TakeAwayError::NotLess { by: reading - before });
        }
        // A drift of the scale is a closing error; the container's own weight gone is another thing.
        if self.container > Mass::ZERO && reading + step + step < self.container {
            return Err(TakeAwayError::BelowContainer { by: self.container - reading });
        }
        self.readings.push(reading);
        Ok(Piece { mass: before - reading, left: reading })
    }

    /// Takes the last piece back: it goes on the scale again. Nothing happens where none was taken.
    pub fn put_back(&mut self) {
        if self.readings.len() > 1 {
            self.readings.pop();
        }
    }

    /// The pieces in the order in which they were taken.
    pub fn pieces(&self) -> Vec<Piece> {
        let drops = self.readings.windows(2);
        drops
            .filter_map(|pair| Some((*pair.first()?, *pair.last()?)))
            .map(|(before, left)| Piece { mass: before - left, left })
            .collect()
    }

    /// Everything that was in the container at the start.
    pub fn everything(&self) -> Mass {
        self.readings.first().copied().unwrap_or_default() - self.container
    }

    /// The last reading less the container: what is still on the scale, and once everything is off, the closing error.
    pub fn left_over(&self) -> Mass {
        self.last() - self.container
    }

    fn last(&self) -> Mass {
        self.readings.last().copied().unwrap_or_default()
    }
}
