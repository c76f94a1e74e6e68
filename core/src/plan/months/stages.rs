//! The soonest month by whose end all can be bought, exactly.
//!
//! Resale that comes `after` months later makes stages of the months: to have all by month m, nothing need be bought but in m,
//! m − after, m − 2 · after, … Put off to the next of these, a purchase is paid later, its resale has come by all the same stages, more of
//! what shares a parcel is sent together, and nothing comes before what it requires. So a month is tried by its few stages: which sets
//! can have been bought by each, and of the ways to one set those that have paid least for it.

use super::{EXACT, LAST_MONTH, OutOfSteps, Purchase, Purse, Sent, Steps, income, last, places};

/// Steps that stand for a way that is kept: it takes memory too.
const KEPT: usize = 32;

/// A way to have bought a set by a stage.
#[derive(Clone)]
struct Path {
    /// All that was paid for it.
    spent: i64,
    /// The set of the stage before, whose resale has come.
    from: usize,
    /// What was paid in this stage to have things sent, by place.
    sent: Sent,
}

/// Sets of purchases are numbers of which a purchase is a bit.
struct Sets<'p> {
    purchases: Vec<&'p Purchase>,
    /// What each set brings.
    brings: Vec<i64>,
    /// The set before which each purchase can't be.
    after: Vec<usize>,
}

/// The months in which all are bought by the soonest month, if that is before `known`, where a way is known; else `None`.
pub(super) fn soonest(
    purchases: &[Purchase],
    purse: Purse,
    known: Option<u32>,
    steps: &mut Steps<'_>,
) -> Result<Option<Vec<u32>>, OutOfSteps> {
    // What brings nothing, is sent by itself and goes before nothing is bought at the very end.
    let waits = |at: usize| {
        let one = &purchases[at];
        one.brings == 0 && one.parcels.is_empty() && !purchases.iter().any(|other| other.after.contains(&at))
    };
    let (waiting, weighed): (Vec<usize>, Vec<usize>) = (0..purchases.len()).partition(|at| waits(*at));
    let at_the_end: i64 = waiting.iter().map(|at| purchases[*at].cost).sum();
    // No sooner than the money would be there if everything else had brought its resale, as soon as that can be.
    let cost: i64 = purchases.iter().map(|purchase| purchase.cost).sum();
    let brings: i64 = purchases.iter().map(|purchase| purchase.brings).sum();
    let may_do = |month: u32| {
        let come = if month >= purse.resale_after { brings } else { 0 };
        income(purse, month).saturating_add(come) >= cost
    };
    let before = known.unwrap_or(LAST_MONTH + 1);
    let Some(mut low) = (0..before).find(|month| may_do(*month)) else { return Ok(None) };
    if weighed.len() > EXACT {
        return Err(OutOfSteps);
    }
    steps.take(weighed.len() << weighed.len())?;
    let sets = Sets::new(purchases, &weighed);
    let mut high = before;
    let mut best = None;
    // What can be done by one month can be done by a later one.
    while low < high {
        let month = low + (high - low) / 2;
        match sets.by(month, purse, at_the_end, steps)? {
            Some(months) => {
                let mut all = vec![month; purchases.len()];
                weighed.iter().zip(&months).for_each(|(at, month)| all[*at] = *month);
                // It may have come out sooner still: all that is bought last is bought where the stages say.
                high = last(&all).min(month);
                best = Some(all);
            }
            None => low = month + 1,
        }
    }
    Ok(best)
}

impl<'p> Sets<'p> {
    fn new(all: &'p [Purchase], weighed: &[usize]) -> Sets<'p> {
        let bit = |at: &usize| weighed.iter().position(|other| other == at).map_or(0, |bit| 1_usize << bit);
        let purchases: Vec<&Purchase> = weighed.iter().map(|at| &all[*at]).collect();
        let after = purchases.iter().map(|purchase| purchase.after.iter().map(bit).sum()).collect();
        let mut brings = vec![0; 1 << purchases.len()];
        for set in 1..brings.len() {
            let first: usize = set.trailing_zeros().try_into().unwrap_or(0);
            brings[set] = brings[set & (set - 1)] + purchases[first].brings;
        }
        Sets { purchases, brings, after }
    }

    fn all(&self) -> usize {
        self.brings.len() - 1
    }

    /// The month of each purchase if all can be bought by the end of a month, with so much more paid at its end.
    fn by(
        &self,
        month: u32,
        purse: Purse,
        at_the_end: i64,
        steps: &mut Steps<'_>,
    ) -> Result<Option<Vec<u32>>, OutOfSteps> {
        let stages: Vec<u32> =
            (0..=month / purse.resale_after).rev().map(|back| month - back * purse.resale_after).collect();
        let nothing: Sent = vec![0; places(self.purchases.iter().copied())];
        // What was paid for each set by the stage before, if it can be had.
        let mut had: Vec<Option<i64>> = vec![None; self.brings.len()];
        had[0] = Some(0);
        let mut came_from: Vec<Vec<usize>> = Vec::with_capacity(stages.len());
        for (at, &stage) in stages.iter().enumerate() {
            let is_last = at + 1 == stages.len();
            let money = income(purse, stage) - if is_last { at_the_end } else { 0 };
            // Nothing that is bought in the first stage was paid by resale; what stands idle is there too.
            let start =
                |set: usize, spent: Option<i64>| spent.map(|spent| Path { spent, from: set, sent: nothing.clone() });
            steps.take(self.brings.len())?;
            let mut ways: Vec<Vec<Path>> =
                had.iter().enumerate().map(|(set, spent)| start(set, *spent).into_iter().collect()).collect();
            for (bit, purchase) in self.purchases.iter().enumerate() {
                for set in 0..ways.len() {
                    if set >> bit & 1 == 1 || ways[set].is_empty() {
                        continue;
                    }
                    steps.take(ways[set].len())?;
                    let from = std::mem::take(&mut ways[set]);
                    for way in &from {
                        let spent = way.spent + purchase.takes(&way.sent);
                        if spent <= money + self.brings[way.from] {
                            let mut next = Path { spent, from: way.from, sent: way.sent.clone() };
                            purchase.send(&mut next.sent);
                            self.keep(&mut ways[set | 1 << bit], next, steps)?;
                        }
                    }
                    ways[set] = from;
                }
            }
            let least = |(set, ways): (usize, &Vec<Path>)| {
                let is_closed = (0..self.after.len()).all(|bit| set >> bit & 1 == 0 || self.after[bit] & !set == 0);
                let affordable = ways.iter().filter(|way| way.spent <= money + self.brings[way.from]);
                affordable.min_by_key(|way| way.spent).filter(|_| is_closed).cloned()
            };
            let bests: Vec<Option<Path>> = ways.iter().enumerate().map(least).collect();
            had = bests.iter().map(|way| way.as_ref().map(|way| way.spent)).collect();
            came_from.push(bests.iter().map(|way| way.as_ref().map_or(0, |way| way.from)).collect());
        }
        if had[self.all()].is_none() {
            return Ok(None);
        }
        let mut months = vec![month; self.purchases.len()];
        let mut set = self.all();
        for (stage, from) in stages.iter().zip(&came_from).rev() {
            let bought = set & !from[set];
            (0..months.len()).filter(|bit| bought >> bit & 1 == 1).for_each(|bit| months[bit] = *stage);
            set = from[set];
        }
        Ok(Some(months))
    }

    /// Keeps a way unless one is no worse; of two ways to the same set, one that could pay for all that the other has had sent and is still no
    /// worse off, now and later.
    fn keep(&self, ways: &mut Vec<Path>, way: Path, steps: &mut Steps<'_>) -> Result<(), OutOfSteps> {
        steps.take(ways.len() + KEPT)?;
        let is_no_worse = |one: &Path, than: &Path| {
            let more: i64 = one.sent.iter().zip(&than.sent).map(|(one, than)| (than - one).max(0)).sum();
            let spent = one.spent + more;
            spent <= than.spent && self.brings[one.from] - spent >= self.brings[than.from] - than.spent
        };
        if !ways.iter().any(|other| is_no_worse(other, &way)) {
            ways.retain(|other| !is_no_worse(&way, other));
            ways.push(way);
        }
        Ok(())
    }
}
