//! The lightest cans, banks or bottles that hold enough.

use crate::quantity::Mass;

/// A piece that holds something.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Piece {
    /// How much it holds.
    pub amount: i64,
    /// What it weighs.
    pub mass: Mass,
}

/// The most pieces that are tried in every combination.
const EVERY: usize = 12;

/// Positions of the lightest pieces that hold `need` together, of equals the fewest, then the first ones; `None` if all don't. Exact for
/// up to 12 pieces; of more, the 12 that hold most for their weight are tried.
pub fn lightest_cover(pieces: &[Piece], need: i64) -> Option<Vec<usize>> {
    let mut tried: Vec<usize> = (0..pieces.len()).filter(|at| pieces[*at].amount > 0).collect();
    if tried.len() > EVERY {
        let per_gram = |at: usize, other: usize| i128::from(pieces[at].amount) * i128::from(pieces[other].mass.mg());
        tried.sort_by(|a, b| per_gram(*b, *a).cmp(&per_gram(*a, *b)));
        tried.truncate(EVERY);
        tried.sort_unstable();
    }
    let chosen = |set: usize| tried.iter().enumerate().filter(move |(bit, _)| set >> bit & 1 == 1).map(|(_, at)| *at);
    let holds = |set: usize| chosen(set).map(|at| pieces[at].amount).fold(0, i64::saturating_add) >= need;
    let weighs = |set: usize| chosen(set).map(|at| pieces[at].mass).sum::<Mass>();
    let best = (0..1usize << tried.len())
        .filter(|set| holds(*set))
        .min_by_key(|set| (weighs(*set), set.count_ones(), set.reverse_bits() ^ usize::MAX))?;
    Some(chosen(best).collect())
}

/// A thing that holds something, in some pieces.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Holder {
    /// How much one piece holds.
    pub amount: i64,
    /// What one piece weighs; one of which nobody knows is not tried.
    pub mass: Option<Mass>,
    /// Pieces there are.
    pub count: u32,
    /// Whether it is owned; it could be got otherwise.
    pub is_owned: bool,
}

/// The lightest ways to hold enough. Each names holders by position, one for each piece, with what they weigh together.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Covers {
    /// Of what is owned; `None` where that is not enough.
    pub owned: Option<(Vec<usize>, Mass)>,
    /// With what could be got, where that is lighter.
    pub with_got: Option<(Vec<usize>, Mass)>,
}

/// The lightest of what is owned that holds `need`, and of that and what could be got. Nothing where nothing is needed.
pub fn covers(holders: &[Holder], need: i64) -> Covers {
    if need <= 0 {
        return Covers::default();
    }
    let cover = |tried: &dyn Fn(&Holder) -> bool| {
        let pieces: Vec<(usize, Piece)> = holders
            .iter()
            .enumerate()
            .filter(|(_, holder)| tried(holder))
            .filter_map(|(at, holder)| Some((at, holder.count, Piece { amount: holder.amount, mass: holder.mass? })))
            // More pieces of one thing than are tried are never the lightest way.
            .flat_map(|(at, count, piece)| (0..count).take(EVERY).map(move |_| (at, piece)))
            .collect();
        let tried: Vec<Piece> = pieces.iter().map(|(_, piece)| *piece).collect();
        let set = lightest_cover(&tried, need)?;
        let mass = set.iter().map(|at| tried[*at].mass).sum();
        Some((set.into_iter().map(|at| pieces[at].0).collect(), mass))
    };
    let owned = cover(&|holder| holder.is_owned);
    let is_lighter = |with: &(_, Mass)| owned.as_ref().is_none_or(|(_, mass)| with.1 < *mass);
    Covers { with_got: cover(&|_| true).filter(is_lighter), owned }
}
