//! How many pieces of a thing count where.

use super::Place;
use crate::gear::Start;
use serde::{Deserialize, Serialize};

/// Pieces of one thing by place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
pub struct Counts {
    /// Carried.
    pub carried: u32,
    /// Worn.
    pub worn: u32,
    /// Used up.
    pub used_up: u32,
    /// In no sum, beside the totals.
    pub apart: u32,
    /// On the list, but staying home.
    pub left: u32,
}

impl Counts {
    /// So many pieces in one place.
    pub fn in_place(place: Place, pieces: u32) -> Counts {
        let mut counts = Counts::default();
        *counts.at_mut(place) = pieces;
        counts
    }

    /// So many pieces as a thing starts on a list.
    pub fn starting(start: Start, pieces: u32) -> Counts {
        match start {
            Start::Carried => Counts::in_place(Place::Carried, pieces),
            Start::Worn => Counts::in_place(Place::Worn, pieces),
            Start::WornOne => {
                let worn = pieces.min(1);
                Counts::in_place(Place::Worn, worn).with(Place::Carried, pieces - worn)
            }
            Start::UsedUp => Counts::in_place(Place::UsedUp, pieces),
            Start::Apart => Counts::in_place(Place::Apart, pieces),
        }
    }

    /// Pieces in one place.
    pub fn at(self, place: Place) -> u32 {
        let mut counts = self;
        *counts.at_mut(place)
    }

    /// The same with so many pieces in a place.
    #[must_use]
    pub fn with(mut self, place: Place, pieces: u32) -> Counts {
        *self.at_mut(place) = pieces;
        self
    }

    fn at_mut(&mut self, place: Place) -> &mut u32 {
        match place {
            Place::Carried => &mut self.carried,
            Place::Worn => &mut self.worn,
            Place::UsedUp => &mut self.used_up,
            Place::Apart => &mut self.apart,
            Place::Left => &mut self.left,
        }
    }

    /// All pieces.
    pub fn pieces(self) -> u32 {
        Place::ALL.into_iter().map(|place| self.at(place)).fold(0, u32::saturating_add)
    }

    /// Pieces in the pack: carried and used up.
    pub fn packed(self) -> u32 {
        self.carried.saturating_add(self.used_up)
    }

    /// Pieces that come along and do their jobs: carried, worn and used up.
    pub fn at_work(self) -> i64 {
        i64::from(self.carried) + i64::from(self.worn) + i64::from(self.used_up)
    }

    /// The same pieces, those that don't stay home all in one place.
    #[must_use]
    pub fn moved_to(self, place: Place) -> Counts {
        let mut moved = Counts { left: self.left, ..Counts::default() };
        *moved.at_mut(place) += self.pieces() - self.left;
        moved
    }
}
